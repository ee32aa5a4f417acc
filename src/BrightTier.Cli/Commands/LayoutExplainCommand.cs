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
            if (result.GetRequiredValue(layout).StartsWith("draft:", StringComparison.Ordinal))
            {
                var roles = result.GetValue(role) ?? [];
                if (roles.Length > 1)
                {
                    throw new UsageException("With draft:KEY at most one --role can be given; without one the viewer has all.");
                }

                long? number =
                    result.GetValue(record) is not { } given ? null
                    : long.TryParse(given, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id
                    : throw new UsageException($"With draft:KEY --record is a record's number, such as 12; it is '{given}'.");
                using var client = context.Client();
                var answer = await client.Explain(
                    result.GetRequiredValue(layout)["draft:".Length..],
                    result.GetRequiredValue(node),
                    roles.FirstOrDefault(),
                    result.GetValue(mode)!,
                    result.GetValue(width),
                    number,
                    cancel
                );
                Print(context, answer.Reasons.Select(reason => (reason.Shows, reason.Message)), answer.Shown);
                return Exit.Done;
            }

            var (all, _, source) = Workspace.OneLayout(result.GetRequiredValue(layout), LayoutFiles.Wrong, cancel);
            var entity = all.EntityOf(source);
            var assembled = LayoutComposer.Assemble(source, all.Catalogue);
            var at = result.GetValue(width) is { } name
                ? assembled.At(name, all.Catalogue.Definitions.Application)
                    ?? throw new UsageException(
                        $"There is no width '{name}'{Suggestion.For(name, [.. assembled.WidthNames(all.Catalogue.Definitions.Application)])}"
                    )
                : assembled.Base;
            var viewer = new Viewer([.. result.GetValue(role) ?? []], "en");
            var situation = result.GetValue(record) is { } text ? Situation(text, entity, viewer, result.GetValue(mode)!) : null;
            if (
                LayoutExplainer.Explain(
                    at,
                    new NodeId(result.GetRequiredValue(node)),
                    entity,
                    all.Catalogue.Definitions,
                    viewer,
                    result.GetValue(mode)!,
                    situation
                )
                is not { } explanation
            )
            {
                throw new UsageException(
                    $"There is no node '{result.GetRequiredValue(node)}'{Suggestion.For(result.GetRequiredValue(node), [.. at.Walk().Select(each => each.Id.Name)])}"
                );
            }

            Print(context, explanation.Reasons.Select(reason => (reason.Shows, reason.Message.English)), explanation.Shown);
            return Exit.Done;
        });
        return command;
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
