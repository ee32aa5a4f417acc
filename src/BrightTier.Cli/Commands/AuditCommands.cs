using System.CommandLine;
using System.Globalization;
using System.Text.Json;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Core.Audit;

namespace BrightTier.Cli.Commands;

/// <summary>What was done, for administrators: to search, to keep the signed head of, and to verify, with or without the service.</summary>
internal static class AuditCommands
{
    public static Command Make(CommandLine line) =>
        new("audit", "The audit log, for administrators.") { List(line), Head(line), Verify(line) };

    private static Command List(CommandLine line)
    {
        var by = new Option<string?>("--by") { Description = "What this person did." };
        var action = new Option<string?>("--action") { Description = "This action, such as release.published." };
        var subject = new Option<string?>("--subject") { Description = "On this, such as layout/vessel, with all below it." };
        var words = new Option<string?>("--search") { Description = "With these words in it." };
        var from = new Option<DateTimeOffset?>("--from") { Description = "From this moment on." };
        var until = new Option<DateTimeOffset?>("--until") { Description = "Before this moment." };
        var limit = new Option<int>("--limit") { Description = "How many, newest first; at most 500.", DefaultValueFactory = _ => 50 };
        var records = new Option<bool>("--records")
        {
            Description =
                "What was done to records instead: --subject is an entity, or one record as vessel/17; --action is create, "
                + "change, delete or restore.",
        };
        var audit = new Command(
            "list",
            "Lists what was done, newest first.\n\nExamples:\n  brighttier audit list --by ada --subject layout/vessel\n  "
                + "brighttier audit list --records --subject vessel/17\n  brighttier audit verify"
        )
        {
            by,
            action,
            subject,
            words,
            from,
            until,
            limit,
            records,
        };
        line.Do(audit, async (result, context, cancel) =>
        {
            var asked = new AuditQuery(
                result.GetValue(by),
                result.GetValue(action),
                result.GetValue(subject),
                result.GetValue(words),
                result.GetValue(from),
                result.GetValue(until),
                result.GetValue(limit)
            );
            using var client = context.Client();
            await (
                result.GetValue(records) ? OfRecords(client, context.Printer, asked, cancel) : OfAll(client, context.Printer, asked, cancel)
            );
            return Exit.Done;
        });
        return audit;
    }

    private sealed record AuditQuery(
        string? By,
        string? Action,
        string? Subject,
        string? Words,
        DateTimeOffset? From,
        DateTimeOffset? Until,
        int Limit
    );

    private static async Task OfRecords(BrightTierClient client, Printer printer, AuditQuery asked, CancellationToken cancel)
    {
        if (asked.Words is not null)
        {
            throw new UsageException(
                "--search looks into what is done to documents, releases and people; of records the history of each "
                    + "tells what it held."
            );
        }

        var (entity, record) = OnRecords(asked.Subject);
        var done = await client.RecordAudit(asked.By, asked.Action, entity, record, asked.From, asked.Until, asked.Limit, null, cancel);
        if (printer.Json)
        {
            printer.Write(done, WireJson.Default.RecordAuditPage);
            return;
        }

        printer.Table(
            ["At", "By", "Action", "On", "Version"],
            done.Entries.Select(entry =>
                new[]
                {
                    $"{entry.At:yyyy-MM-dd HH:mm:ss} UTC",
                    entry.By,
                    entry.Action,
                    $"{entry.Entity}/{entry.Record}",
                    $"{entry.Version}",
                }
            )
        );
    }

    private static async Task OfAll(BrightTierClient client, Printer printer, AuditQuery asked, CancellationToken cancel)
    {
        var page = await client.Audit(
            asked.By,
            asked.Action,
            asked.Subject,
            asked.Words,
            asked.From,
            asked.Until,
            asked.Limit,
            null,
            cancel
        );
        if (printer.Json)
        {
            printer.Write(page, WireJson.Default.AuditPage);
            return;
        }

        printer.Table(
            ["At", "By", "Action", "On", "More"],
            page.Entries.Select(entry =>
                new[]
                {
                    $"{entry.At:yyyy-MM-dd HH:mm:ss} UTC",
                    entry.By,
                    entry.Action,
                    entry.Subject,
                    entry.Detail.GetRawText() is var more && more.Length > 90 ? more[..89] + "…" : more,
                }
            )
        );
    }

    private static Command Head(CommandLine line)
    {
        var head = new Command(
            "head",
            "Writes how long the log is and the hash of its last entry, signed. Keep it where whoever holds the database "
                + "cannot reach it.\n\nExample:\n  brighttier audit head > /mnt/elsewhere/head.json"
        );
        line.Do(head, async (_, context, cancel) =>
        {
            using var client = context.Client();
            context.Printer.Write(await client.AuditHead(cancel), WireJson.Default.AuditHead);
            return Exit.Done;
        });
        return head;
    }

    private static Command Verify(CommandLine line)
    {
        var kept = new Option<string?>("--head")
        {
            Description = "A head that was kept: the log must still begin with all that was in it then.",
        };
        var export = new Option<string?>("--export")
        {
            Description = "Lines of JSON exported earlier (GET /api/audit/entries/export?format=jsonl), instead of the service's log.",
        };
        var verify = new Command(
            "verify",
            "Computes the hash of every entry anew and says whether any was altered, taken out or cut off; exits with 1 if "
                + "so.\n\nExamples:\n  brighttier audit verify\n  brighttier audit verify --head /mnt/elsewhere/head.json\n  "
                + "brighttier audit verify --export audit.jsonl --head head.json"
        )
        {
            kept,
            export,
        };
        line.Do(verify, async (result, context, cancel) =>
        {
            var head = result.GetValue(kept) is { } file ? ReadHead(file) : null;
            Verdict verdict;
            if (result.GetValue(export) is { } taken)
            {
                await using var stream = taken == Streams.Standard ? Console.OpenStandardInput() : File.OpenRead(taken);
                verdict = await Verify(stream, head, cancel);
            }
            else
            {
                using var client = context.Client();
                verdict = new Verdict(0, "", null);
                await client.AuditExport(async stream => verdict = await Verify(stream, head, cancel), cancel);
            }

            if (context.Printer.Json)
            {
                context.Printer.Write(
                    new AuditProof(
                        verdict.Wrong is null,
                        verdict.Entries,
                        verdict.Hash,
                        verdict.Wrong is null ? null : verdict.Entries + 1
                    ),
                    WireJson.Default.AuditProof
                );
            }
            else
            {
                var kept = head is null
                    ? " A head kept elsewhere (--head) would show whether its end was cut off."
                    : $" They begin with the {head.Entries} of the head kept on {head.At:yyyy-MM-dd}.";
                context.Printer.Line(
                    verdict.Wrong ?? $"All {verdict.Entries} entries hold together; the last is " + $"{verdict.Hash}.{kept}"
                );
            }

            return verdict.Wrong is null ? Exit.Done : Exit.Refused;
        });
        return verify;
    }

    private static AuditHead ReadHead(string file)
    {
        AuditHead? head;
        try
        {
            head = JsonSerializer.Deserialize(File.ReadAllText(file), WireJson.Lenient.AuditHead);
        }
        catch (JsonException error)
        {
            throw new UsageException($"{file} is no head of an audit log ({error.Message}); 'brighttier audit head' writes one.");
        }

        return head is not null && AuditChain.IsSigned(head.Entries, head.Hash, head.At, head.Key, head.Signature)
            ? head
            : throw new UsageException(
                $"{file} is no head of an audit log as a service signed it: its signature does not fit what it says."
            );
    }

    /// <summary>How many entries hold together, the hash of the last of them, and what is wrong behind it; null where nothing is.</summary>
    private sealed record Verdict(long Entries, string Hash, string? Wrong);

    /// <summary>Goes through lines of JSON, oldest first, and computes each hash anew.</summary>
    private static async Task<Verdict> Verify(Stream lines, AuditHead? head, CancellationToken cancel)
    {
        var (number, hash) = (0L, "");
        string? atHead = head is { Entries: 0 } ? "" : null;
        using var reader = new StreamReader(lines);
        while (await reader.ReadLineAsync(cancel) is { } text)
        {
            if (text.Length == 0)
            {
                continue;
            }

            AuditEntry? entry;
            try
            {
                entry = JsonSerializer.Deserialize(text, WireJson.Lenient.AuditEntry);
            }
            catch (JsonException)
            {
                entry = null;
            }

            if (entry?.Text is not { } detail)
            {
                throw new UsageException(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"Line {number + 1} is no entry of an export as lines of JSON (format=jsonl)."
                    )
                );
            }

            var next = AuditChain.HashOf(
                hash,
                entry.Number,
                entry.At.ToUnixTimeMilliseconds(),
                entry.By,
                entry.Action,
                entry.Subject,
                detail
            );
            if (entry.Number != number + 1 || entry.Hash != next)
            {
                return new Verdict(number, hash, $"Entry {number + 1} is missing or was altered; the {number} before it are whole.");
            }

            (number, hash) = (entry.Number, next);
            atHead = head?.Entries == number ? hash : atHead;
        }

        return head is null || atHead == head.Hash ? new Verdict(number, hash, null)
            : number < head.Entries
                ? new Verdict(
                    number,
                    hash,
                    $"The log ends with entry {number}; on {head.At:yyyy-MM-dd} it had {head.Entries}. Its end was cut off."
                )
            : new Verdict(
                head.Entries - 1,
                hash,
                $"Entry {head.Entries} is another than on {head.At:yyyy-MM-dd}, when its hash was kept: the log was written anew."
            );
    }

    /// <summary>An entity, or one of its records as entity/number.</summary>
    private static (string? Entity, long? Record) OnRecords(string? subject) =>
        subject?.Split('/') switch
        {
            null => (null, null),
            [var entity] => (entity, null),
            [var entity, var number] when long.TryParse(number, out var id) => (entity, id),
            _ => throw new UsageException($"--subject names an entity, or one record as vessel/17; it is '{subject}'."),
        };
}
