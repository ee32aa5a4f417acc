using System.CommandLine;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Who may what, and what they did: for administrators; and one's own tokens.</summary>
internal static class PeopleCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        AddPerson(root, line);
        AddTokens(root, line);
        AddAudit(root, line);
    }

    private static void AddPerson(RootCommand root, CommandLine line)
    {
        var id = new Argument<string>("person") { Description = "What she signs in as." };
        var name = new Option<string>("--name") { Description = "Her name.", Required = true };
        var roles = new Option<string[]>("--role") { Description = "A role; can be given several times." };
        var language = new Option<string>("--language") { Description = "Her language.", DefaultValueFactory = _ => "en" };
        var password = new Option<bool>("--password") { Description = "Sets a password, read from the terminal or one line from a pipe, which she changes when she signs in." };
        var person = new Command("person", "Makes a person, or changes what she is called and may.\n\nExample:\n  brighttier person joris --name \"Joris Tiller\" --role quay-hand --password") { id, name, roles, language, password };
        line.Do(person, async (result, around, cancel) =>
        {
            using var client = around.Client();
            var kept = await client.PutPerson(result.GetRequiredValue(id), new PersonRequest(result.GetRequiredValue(name), result.GetValue(roles)!, result.GetValue(language)!), cancel);
            if (result.GetValue(password))
            {
                await client.SetPassword(kept.Id, Secrets.Read("Password: "), cancel);
            }

            if (around.Printer.Json)
            {
                around.Printer.Write(kept, WireJson.Default.Person);
                return Exit.Done;
            }

            around.Printer.Line($"{kept.Name} signs in as {kept.Id}; her roles: {(kept.Roles.Count == 0 ? "none" : string.Join(", ", kept.Roles))}.");
            return Exit.Done;
        });
        root.Subcommands.Add(person);
    }

    private static void AddTokens(RootCommand root, CommandLine line)
    {
        var make = new Option<string?>("--make") { Description = "Makes one for what is named here; its secret is shown this once." };
        var days = new Option<int>("--days") { Description = "How long it lasts, from 1 to 365.", DefaultValueFactory = _ => 90 };
        var scopes = new Option<string[]>("--for") { Description = "An act it is good for; can be given several times. Without, for all one may do." };
        var end = new Option<string?>("--end") { Description = "Ends the one with this id." };
        var tokens = new Command("tokens", "Lists, makes and ends one's own tokens.\n\nExamples:\n  brighttier tokens\n  brighttier tokens --make pipeline --days 30 --for configure --for publish") { make, days, scopes, end };
        line.Do(tokens, async (result, around, cancel) =>
        {
            using var client = around.Client();
            if (result.GetValue(end) is { } id)
            {
                await client.EndToken(id, cancel);
            }

            if (result.GetValue(make) is { } name)
            {
                var made = await client.MakeToken(new TokenRequest(name, result.GetValue(days), result.GetValue(scopes) is { Length: > 0 } some ? some : null), cancel);
                if (around.Printer.Json)
                {
                    around.Printer.Write(made, WireJson.Default.TokenInfo);
                }
                else
                {
                    around.Printer.Line(made.Secret!);
                }

                return Exit.Done;
            }

            var all = await client.Tokens(cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(all, WireJson.Default.IReadOnlyListTokenInfo);
            }
            else
            {
                around.Printer.Table(["Token", "Name", "Until", "Good for"], all.Select(token => new[] { token.Id, token.Name, $"{token.Expires:yyyy-MM-dd}", token.Scopes is { } only ? string.Join(", ", only) : "all" }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(tokens);
    }

    private static void AddAudit(RootCommand root, CommandLine line)
    {
        var by = new Option<string?>("--by") { Description = "What this person did." };
        var act = new Option<string?>("--act") { Description = "This act, such as release.published." };
        var subject = new Option<string?>("--on") { Description = "On this, such as layout/vessel, with all below it." };
        var words = new Option<string?>("--with") { Description = "With these words in it." };
        var from = new Option<DateTimeOffset?>("--from") { Description = "From this moment on." };
        var until = new Option<DateTimeOffset?>("--until") { Description = "Before this moment." };
        var limit = new Option<int>("--limit") { Description = "How many, newest first; at most 500.", DefaultValueFactory = _ => 50 };
        var records = new Option<bool>("--records") { Description = "What was done to records instead: --on is an entity, or one record as vessel/17; --act is create, change, delete or restore." };
        var prove = new Option<bool>("--prove") { Description = "Reads the whole log and says whether any of it was altered; exits with 1 if so." };
        var audit = new Command("audit", "Lists what was done, newest first; for administrators.\n\nExamples:\n  brighttier audit --by ada --on layout/vessel\n  brighttier audit --records --on vessel/17\n  brighttier audit --prove") { by, act, subject, words, from, until, limit, records, prove };
        line.Do(audit, async (result, around, cancel) =>
        {
            using var client = around.Client();
            if (result.GetValue(prove))
            {
                var proof = await client.AuditProof(cancel);
                if (around.Printer.Json)
                {
                    around.Printer.Write(proof, WireJson.Default.AuditProof);
                }
                else
                {
                    around.Printer.Line(proof.Whole ? $"All {proof.Entries} entries hold together; the last is {proof.Hash}." : $"Entry {proof.Broken} is missing or was altered; the {proof.Entries} before it are whole.");
                }

                return proof.Whole ? Exit.Done : Exit.Refused;
            }

            if (result.GetValue(records))
            {
                if (result.GetValue(words) is not null)
                {
                    throw new UsageException("--with looks into what is done to documents, releases and people; of records the history of each tells what it held.");
                }

                var (entity, record) = OnRecords(result.GetValue(subject));
                var done = await client.RecordAudit(result.GetValue(by), result.GetValue(act), entity, record, result.GetValue(from), result.GetValue(until), result.GetValue(limit), null, cancel);
                if (around.Printer.Json)
                {
                    around.Printer.Write(done, WireJson.Default.RecordAuditPage);
                }
                else
                {
                    around.Printer.Table(["At", "By", "Act", "On", "Version"], done.Entries.Select(entry => new[] { $"{entry.At:yyyy-MM-dd HH:mm:ss} UTC", entry.By, entry.Act, $"{entry.Entity}/{entry.Record}", $"{entry.Version}" }));
                }

                return Exit.Done;
            }

            var page = await client.Audit(result.GetValue(by), result.GetValue(act), result.GetValue(subject), result.GetValue(words), result.GetValue(from), result.GetValue(until), result.GetValue(limit), null, cancel);
            if (around.Printer.Json)
            {
                around.Printer.Write(page, WireJson.Default.AuditPage);
            }
            else
            {
                around.Printer.Table(["At", "By", "Act", "On", "More"], page.Entries.Select(entry => new[] { $"{entry.At:yyyy-MM-dd HH:mm:ss} UTC", entry.By, entry.Act, entry.Subject, entry.Detail.GetRawText() is var more && more.Length > 90 ? more[..89] + "…" : more }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(audit);
    }

    /// <summary>An entity, or one of its records as entity/number.</summary>
    private static (string? Entity, long? Record) OnRecords(string? subject) => subject?.Split('/') switch
    {
        null => (null, null),
        [var entity] => (entity, null),
        [var entity, var number] when long.TryParse(number, out var id) => (entity, id),
        _ => throw new UsageException($"--on names an entity, or one record as vessel/17; it is '{subject}'."),
    };
}
