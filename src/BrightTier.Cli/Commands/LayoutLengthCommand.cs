using System.CommandLine;
using System.Globalization;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Places;
using BrightTier.Core.Resolution;

namespace BrightTier.Cli.Commands;

/// <summary>How long a form is.</summary>
internal static class LayoutLengthCommand
{
    public static Command Make(CommandLine line)
    {
        var layout = new Argument<string>("layout") { Description = "A layout file, or draft:KEY." };
        var command = new Command(
            "length",
            "Measures how long a form is at each width, in rows and in screens of 720 pixels; of tabs and steps the longest "
                + "counts.\n\nExample:\n  brighttier layout length demo/layouts/vessel.yaml"
        )
        {
            layout,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            IReadOnlyList<LengthInfo> lengths;
            if (result.GetRequiredValue(layout).StartsWith("draft:", StringComparison.Ordinal))
            {
                using var client = context.Client();
                lengths = await client.Length(result.GetRequiredValue(layout)["draft:".Length..], cancel);
            }
            else
            {
                var (all, _, source) = Workspace.OneLayout(result.GetRequiredValue(layout), LayoutFiles.Wrong, cancel);
                var entity = all.EntityOf(source);
                lengths =
                [
                    .. LookedAt
                        .Of(LayoutComposer.Assemble(source, all.Catalogue), all.Catalogue.Definitions.Application)
                        .Select(width => (width, measured: Length.Measure(width.Layout, entity, all.Catalogue.Definitions, width.Rem)))
                        .Select(each => new LengthInfo(each.width.Name, each.width.Rem, each.measured.Rows, each.measured.Screens)),
                ];
            }

            if (context.Printer.Json)
            {
                context.Printer.Write(lengths, WireJson.Default.IReadOnlyListLengthInfo);
            }
            else
            {
                context.Printer.Table(
                    ["Width", "From", "Rows", "Screens"],
                    lengths.Select(each =>
                        new[]
                        {
                            each.Width,
                            $"{each.FromRem} rem",
                            each.Rows.ToString(CultureInfo.InvariantCulture),
                            each.Screens.ToString("0.0", CultureInfo.InvariantCulture),
                        }
                    )
                );
            }

            return Exit.Done;
        });
        return command;
    }
}
