using System.CommandLine;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;

namespace BrightTier.Cli.Commands;

/// <summary>Why a node is, or is not, shown.</summary>
internal static class LayoutExplainCommand
{
    public static Command Make(CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "A layout file, or draft:KEY for what the service holds." };
        var node = new Argument<string>("node") { Description = "The id of a node; use/node for one inside a piece." };
        var role = new Option<string[]>("--role") { Description = "A role of the viewer; may be given several times." };
        var mode = new Option<string>("--mode") { Description = "create, edit or view.", DefaultValueFactory = _ => Modes.Edit };
        mode.AcceptOnlyFromAmong([.. Modes.All]);
        var record = new Option<string?>("--record")
        {
            Description =
                "Values of a record as JSON, such as '{\"propulsion\": \"sail\"}'; the others are empty. With draft:KEY a record's number.",
        };
        var width = new Option<string?>("--width") { Description = "A width of the application's scale." };
        var command = new Command(
            "explain",
            "Explains why a node is, or is not, shown to a viewer.\n\nExamples:\n  brighttier layout explain "
                + "demo/layouts/vessel.yaml mastHeight --record '{\"propulsion\": \"diesel\"}'\n  brighttier layout explain "
                + "demo/layouts/berth.yaml dayRate --role quay-hand"
        )
        {
            layout,
            node,
            role,
            mode,
            record,
            width,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var asked = new ExplainQuery(
                result.GetRequiredValue(layout),
                result.GetRequiredValue(node),
                result.GetValue(role) ?? [],
                result.GetValue(mode)!,
                result.GetValue(width),
                result.GetValue(record)
            );
            await (
                asked.Layout.StartsWith(Draft, StringComparison.Ordinal) ? OfDraft(asked, context, cancel) : OfFile(asked, context, cancel)
            );
            return Exit.Done;
        });
        return command;
    }

    private const string Draft = "draft:";

    private sealed record ExplainQuery(string Layout, string Node, string[] Roles, string Mode, string? Width, string? Record);

    private static async Task OfDraft(ExplainQuery asked, CommandContext context, CancellationToken cancel)
    {
        if (asked.Roles.Length > 1)
        {
            throw new UsageException("With draft:KEY at most one --role can be given; without one the viewer has all.");
        }

        long? number =
            asked.Record is not { } given ? null
            : long.TryParse(given, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id
            : throw new UsageException($"With draft:KEY --record is a record's number, such as 12; it is '{given}'.");
        using var client = context.Client();
        var answer = await client.Explain(
            asked.Layout[Draft.Length..],
            asked.Node,
            asked.Roles.FirstOrDefault(),
            asked.Mode,
            asked.Width,
            number,
            cancel
        );
        Print(context, answer.Reasons.Select(reason => (reason.Shows, reason.Message)), answer.Shown);
    }

    private static Task OfFile(ExplainQuery asked, CommandContext context, CancellationToken cancel)
    {
        var (all, _, source) = Workspace.OneLayout(asked.Layout, LayoutFiles.Wrong, cancel);
        var definitions = all.Catalogue.Definitions;
        var entity = all.EntityOf(source);
        var assembled = LayoutComposer.Assemble(source, all.Catalogue);
        var at = asked.Width is { } name
            ? assembled.At(name, definitions.Application)
                ?? throw new UsageException(
                    $"There is no width '{name}'{Suggestion.For(name, [.. assembled.WidthNames(definitions.Application)])}"
                )
            : assembled.Base;
        var viewer = new Viewer([.. asked.Roles], "en");
        var situation = asked.Record is { } text ? Situation(text, entity, viewer, asked.Mode) : null;
        var explanation = LayoutExplainer.Explain(at, new NodeId(asked.Node), entity, definitions, viewer, asked.Mode, situation)
            ?? throw new UsageException(
                $"There is no node '{asked.Node}'{Suggestion.For(asked.Node, [.. at.Walk().Select(each => each.Id.Name)])}"
            );
        Print(context, explanation.Reasons.Select(reason => (reason.Shows, reason.Message.English)), explanation.Shown);
        return Task.CompletedTask;
    }

    private static void Print(CommandContext context, IEnumerable<(bool Shows, string Message)> reasons, bool? shown)
    {
        var all = reasons.ToArray();
        if (context.Printer.Json)
        {
            context.Printer.Write(
                new JsonObject
                {
                    ["shown"] = shown,
                    ["reasons"] = new JsonArray([
                        .. all.Select(reason => new JsonObject { ["shows"] = reason.Shows, ["message"] = reason.Message }),
                    ]),
                }
            );
            return;
        }

        foreach (var (shows, message) in all)
        {
            context.Printer.Line($"{(shows ? "+" : "-")} {message}");
        }

        context.Printer.Line(
            shown switch
            {
                true => "Shown.",
                false => "Not shown.",
                null => "Whether it is shown depends on the record; give one with --record.",
            }
        );
    }

    private static Core.Conditions.EvaluationContext Situation(string text, Entity entity, Viewer viewer, string mode)
    {
        try
        {
            using var json = JsonDocument.Parse(text);
            var values = new Dictionary<string, object?>(StringComparer.Ordinal);
            foreach (var property in json.RootElement.EnumerateObject())
            {
                var field = entity.Find(property.Name)
                    ?? throw new UsageException(
                        $"--record: '{entity.Key}' has no field "
                            + $"'{property.Name}'{Suggestion.For(property.Name, [.. entity.Current.Select(each => each.Key)])}"
                    );
                values[field.Key] = FieldValues.Read(field, property.Value, out var value) is { } problem
                    ? throw new UsageException($"--record: '{field.Key}' {problem}.")
                    : value;
            }

            var now = DateTimeOffset.UtcNow;
            return Core.Conditions.EvaluationContext.Of(
                Condition.Values(entity, values),
                "",
                viewer.Roles,
                mode,
                viewer.Language,
                new DateTimeOffset(now.Date, TimeSpan.Zero),
                now
            );
        }
        catch (Exception error) when (error is JsonException or InvalidOperationException)
        {
            throw new UsageException($"--record must be a JSON object: {error.Message}");
        }
    }
}
