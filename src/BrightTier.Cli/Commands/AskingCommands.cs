using System.CommandLine;
using System.Globalization;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;

namespace BrightTier.Cli.Commands;

/// <summary>Questions about layouts as files: why something is there, what would notice a change, how long a form is, what files may say.</summary>
internal static class AskingCommands
{
    public static void Add(RootCommand root, CommandLine line)
    {
        AddExplain(root, line);
        AddImpact(root, line);
        AddLength(root, line);
        var schema = new Command("schema", "Prints the JSON Schema (2020-12) of layout files, for editors that complete and check them.\n\nExample:\n  brighttier schema > layout.schema.json");
        line.Do(schema, (_, around, _) =>
        {
            around.Printer.Line(LayoutSchema.Make().ToJsonString(new JsonSerializerOptions { WriteIndented = true, TypeInfoResolver = Contracts.WireJson.Default }));
            return Task.FromResult(Exit.Done);
        });
        root.Subcommands.Add(schema);
    }

    private static Exception Wrong(WorkFile file) => new UsageException(file.Problems is [var problem, ..] ? $"{file.Path}: {problem.At}: {problem.Message}." : $"'{file.Path}' holds no layout.");

    private static void AddExplain(RootCommand root, CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "A layout file, or draft:KEY for what the service holds." };
        var node = new Argument<string>("node") { Description = "The id of a node; use/node for one inside a piece." };
        var role = new Option<string[]>("--role") { Description = "A role of the viewer; may be given several times." };
        var mode = new Option<string>("--mode") { Description = "create, edit or view.", DefaultValueFactory = _ => Modes.Edit };
        mode.AcceptOnlyFromAmong([.. Modes.All]);
        var record = new Option<string?>("--record") { Description = "Values of a record as JSON, such as '{\"propulsion\": \"sail\"}'; the others are empty. With draft:KEY a record's number." };
        var width = new Option<string?>("--width") { Description = "A width of the application's scale." };
        var explain = new Command("explain", "Tells for a node and a viewer why it is, or is not, there.\n\nExamples:\n  brighttier explain demo/layouts/vessel.yaml mastHeight --record '{\"propulsion\": \"diesel\"}'\n  brighttier explain demo/layouts/berth.yaml dayRate --role quay-hand") { layout, node, role, mode, record, width };
        line.Do(explain, async (result, around, cancel) =>
        {
            if (result.GetRequiredValue(layout).StartsWith("draft:", StringComparison.Ordinal))
            {
                var roles = result.GetValue(role) ?? [];
                if (roles.Length > 1)
                {
                    throw new UsageException("With draft:KEY at most one --role can be given; without one the viewer has all.");
                }

                long? number = result.GetValue(record) is not { } given ? null
                    : long.TryParse(given, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : throw new UsageException($"With draft:KEY --record is a record's number, such as 12; it is '{given}'.");
                using var client = around.Client();
                var answer = await client.Explain(result.GetRequiredValue(layout)["draft:".Length..], result.GetRequiredValue(node), roles.FirstOrDefault(), result.GetValue(mode)!, result.GetValue(width), number, cancel);
                Tell(around, answer.Reasons.Select(reason => (reason.Shows, reason.Message)), answer.Shown);
                return Exit.Done;
            }

            var (all, _, source) = Workspace.OneLayout(result.GetRequiredValue(layout), Wrong, cancel);
            var entity = all.EntityOf(source);
            var assembled = LayoutComposer.Assemble(source, all.Catalogue);
            var at = result.GetValue(width) is { } name
                ? assembled.At(name, all.Catalogue.Definitions.Application) ?? throw new UsageException($"There is no width '{name}'{Suggestion.For(name, [.. assembled.WidthNames(all.Catalogue.Definitions.Application)])}")
                : assembled.Base;
            var viewer = new Viewer([.. result.GetValue(role) ?? []], "en");
            var situation = result.GetValue(record) is { } text ? Situation(text, entity, viewer, result.GetValue(mode)!) : null;
            if (LayoutExplainer.Explain(at, new NodeId(result.GetRequiredValue(node)), entity, all.Catalogue.Definitions, viewer, result.GetValue(mode)!, situation) is not { } explanation)
            {
                throw new UsageException($"There is no node '{result.GetRequiredValue(node)}'{Suggestion.For(result.GetRequiredValue(node), [.. at.Walk().Select(each => each.Id.Name)])}");
            }

            Tell(around, explanation.Reasons.Select(reason => (reason.Shows, reason.Message)), explanation.Shown);
            return Exit.Done;
        });
        root.Subcommands.Add(explain);
    }

    private static void Tell(CommandContext around, IEnumerable<(bool Shows, string Message)> reasons, bool? shown)
    {
        foreach (var (shows, message) in reasons)
        {
            around.Printer.Line($"{(shows ? "+" : "-")} {message}");
        }

        around.Printer.Line(shown switch { true => "Shown.", false => "Not shown.", null => "Whether it is shown depends on the record; give one with --record." });
    }

    private static Core.Conditions.EvaluationContext Situation(string text, Entity entity, Viewer viewer, string mode)
    {
        try
        {
            using var json = JsonDocument.Parse(text);
            var values = new Dictionary<string, object?>(StringComparer.Ordinal);
            foreach (var property in json.RootElement.EnumerateObject())
            {
                var field = entity.Find(property.Name) ?? throw new UsageException($"--record: '{entity.Key}' has no field '{property.Name}'{Suggestion.For(property.Name, [.. entity.Current.Select(each => each.Key)])}");
                values[field.Key] = FieldValues.Read(field, property.Value, out var value) is { } problem ? throw new UsageException($"--record: '{field.Key}' {problem}.") : value;
            }

            var now = DateTimeOffset.UtcNow;
            return Core.Conditions.EvaluationContext.Of(Condition.Values(entity, values), "", viewer.Roles, mode, viewer.Language, new DateTimeOffset(now.Date, TimeSpan.Zero), now);
        }
        catch (Exception error) when (error is JsonException or InvalidOperationException)
        {
            throw new UsageException($"--record must be a JSON object: {error.Message}");
        }
    }

    private static void AddImpact(RootCommand root, CommandLine line)
    {
        var subject = new Argument<string>("what") { Description = string.Join(", ", Impact.Subjects) };
        subject.AcceptOnlyFromAmong([.. Impact.Subjects]);
        var name = new Argument<string>("name") { Description = "Its key; fields and choices with what they belong to: vessel.length, propulsion.sail." };
        var folder = new Argument<string>("folder") { Description = "A folder of files, or drafts for what the service holds.", DefaultValueFactory = _ => "." };
        var impact = new Command("impact", "Lists every place that uses something, and so would notice if it changed.\n\nExamples:\n  brighttier impact field vessel.propulsion demo\n  brighttier impact choice propulsion.sail demo\n  brighttier impact role quay-hand demo\n  brighttier impact piece cover demo") { subject, name, folder };
        line.Do(impact, async (result, around, cancel) =>
        {
            var (what, named) = (result.GetRequiredValue(subject), result.GetRequiredValue(name));
            IReadOnlyList<UseInfo> uses;
            if (result.GetRequiredValue(folder) == "drafts")
            {
                using var client = around.Client();
                uses = await client.Impact(what, named, cancel);
            }
            else
            {
                var all = Workspace.Read([result.GetRequiredValue(folder)], cancel);
                uses = [.. Impact.Of(what, named, all.Catalogue).Select(use => new UseInfo(use.Kind.Name(), use.Key, use.Place, use.As, use.Message))];
                if (uses.Count == 0 && Impact.Names(what, all.Catalogue) is var names && !names.Contains(named))
                {
                    throw new UsageException(Suggestion.Sentence($"There is no {what} '{named}'{Suggestion.For(named, names)}"));
                }
            }

            if (around.Printer.Json)
            {
                around.Printer.Write(uses, WireJson.Default.IReadOnlyListUseInfo);
                return Exit.Done;
            }

            if (uses.Count == 0)
            {
                around.Printer.Line("Nothing uses it.");
            }
            else
            {
                around.Printer.Table(["document", "place", "as", "what"], uses.Select(use => new[] { DocumentFile.PathOf(DocumentFile.KindNamed(use.Kind)!.Value, use.Key), use.Place, use.As, use.Message }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(impact);
    }

    private static void AddLength(RootCommand root, CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "A layout file, or draft:KEY." };
        var length = new Command("length", "Measures how long a form is at each width, in rows and in screens of 720 pixels; of tabs and steps the longest counts.\n\nExample:\n  brighttier length demo/layouts/vessel.yaml") { layout };
        line.Do(length, async (result, around, cancel) =>
        {
            IReadOnlyList<LengthInfo> lengths;
            if (result.GetRequiredValue(layout).StartsWith("draft:", StringComparison.Ordinal))
            {
                using var client = around.Client();
                lengths = await client.Length(result.GetRequiredValue(layout)["draft:".Length..], cancel);
            }
            else
            {
                var (all, _, source) = Workspace.OneLayout(result.GetRequiredValue(layout), Wrong, cancel);
                var entity = all.EntityOf(source);
                lengths =
                [
                    .. Length.Widths(LayoutComposer.Assemble(source, all.Catalogue), all.Catalogue.Definitions.Application)
                        .Select(width => (width, measured: Length.Measure(width.Layout, entity, all.Catalogue.Definitions, width.Rem)))
                        .Select(each => new LengthInfo(each.width.Name, each.width.Rem, each.measured.Rows, each.measured.Screens)),
                ];
            }

            if (around.Printer.Json)
            {
                around.Printer.Write(lengths, WireJson.Default.IReadOnlyListLengthInfo);
            }
            else
            {
                around.Printer.Table(["width", "from", "rows", "screens"], lengths.Select(each => new[] { each.Width, $"{each.FromRem} rem", each.Rows.ToString(CultureInfo.InvariantCulture), each.Screens.ToString("0.0", CultureInfo.InvariantCulture) }));
            }

            return Exit.Done;
        });
        root.Subcommands.Add(length);
    }
}
