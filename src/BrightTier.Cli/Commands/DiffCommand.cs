using System.CommandLine;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Pictures;

namespace BrightTier.Cli.Commands;

/// <summary>
/// How documents differ between a folder, the drafts, a release and other environments: in words, as edits, as a picture.
/// </summary>
internal static class DiffCommand
{
    public static Command Make(CommandLine line)
    {
        var old = new Argument<string>("old")
        {
            DefaultValueFactory = _ => "current",
            Description = $"{ComparedSide.Help} Default: current.",
        };
        var next = new Argument<string>("new")
        {
            DefaultValueFactory = _ => "drafts",
            Description = "What it is compared with, named likewise. Default: drafts.",
        };
        var picture = new Option<string?>("--picture")
        {
            Description =
                "Draws the layouts that differ, before and after, with what came, went, moved and changed marked: into one SVG file, "
                + "or a file each in a folder.",
        };
        var language = new Option<string?>("--language") { Description = "The language of the picture. Default: the application's first." };
        var command = new Command(
            "diff",
            "Shows how documents differ: a folder and the drafts, two releases, two environments, or one document of each. Of two "
                + "layouts with --json as edits, which 'layout edit' takes.\nExits with 1 where they differ.\n\nExamples:\n  "
                + "brighttier diff\n  brighttier diff current quay --picture changes.svg\n  brighttier diff current@production "
                + "drafts@test\n  brighttier diff release:3 release:7\n  brighttier diff old/vessel.yaml "
                + "demo/layouts/vessel.yaml\n  brighttier diff draft:vessel demo/layouts/vessel.yaml --json > edits.json"
        )
        {
            old,
            next,
            picture,
            language,
        };
        line.Do(command, async (result, context, cancel) =>
        {
            var (from, to) = (ComparedSide.Of(result.GetRequiredValue(old)), ComparedSide.Of(result.GetRequiredValue(next)));
            var drawn = result.GetValue(picture);
            if (drawn is null && from.IsWholeState && to.IsWholeState && from.Profile == to.Profile)
            {
                // The service compares what it holds by what it knows of it, without sending it.
                using var client = (from.Profile is { } profile ? context.In(profile) : context).Client();
                return Print(context.Printer, await client.DiffReleases(from.State!, to.State!, cancel));
            }

            var (before, after) = (await from.Read(context, cancel), await to.Read(context, cancel));
            if (drawn is not null)
            {
                await Draw(drawn, result.GetValue(language), before, after, context.Printer, cancel);
            }

            return before.One is { } one && after.One is { } other
                ? Print(context.Printer, before.Of(one)!, after.Of(other)!, after.Catalogue)
                : Print(
                    context.Printer,
                    new ReleaseComparison(
                        before.Name,
                        after.Name,
                        [
                            .. Changes(before, after)
                                .Select(change => new DocumentDifference(
                                    change.Kind.Name(),
                                    change.Key,
                                    change.Change,
                                    [.. change.Summary.Select(said => said.English)],
                                    null
                                )),
                        ]
                    )
                );
        });
        return command;
    }

    /// <summary>What differs of what both sides speak of: of one document named it alone, of a part of a folder what is in it.</summary>
    private static IEnumerable<ComparedChange> Changes(DocumentSet before, DocumentSet after)
    {
        var one = before.One ?? after.One;
        return DocumentComparison.Between(before.Compared(IsMeant), after.Compared(IsMeant));

        bool IsMeant((DocumentKind Kind, string Key) name) =>
            one is { } only ? name == only
            : before.IsPart ? before.Documents.ContainsKey(name)
            : !after.IsPart || after.Documents.ContainsKey(name);
    }

    private static int Print(Printer printer, Document one, Document other, Catalogue catalogue)
    {
        if (one.Kind != other.Kind)
        {
            throw new UsageException($"A {one.Kind.Noun()} cannot be compared with a {other.Kind.Noun()}.");
        }

        if (printer.Json && one is Document.OfLayout { Layout: var from } && other.CarriedFrom(one) is Document.OfLayout { Layout: var to })
        {
            var edits = LayoutDiff.Edits(from, to);
            printer.Line(LayoutFiles.Json(edits));
            return edits.Count == 0 ? Exit.Done : Exit.Refused;
        }

        var sentences = DocumentMerge.Describe(one, other, (entity, field) =>
            catalogue.Definitions.Entities.GetValueOrDefault(entity)?.Find(field)?.Label
        );
        if (printer.Json)
        {
            printer.Write(
                new ReleaseComparison(
                    "",
                    "",
                    sentences.Count == 0
                        ? []
                        : [new DocumentDifference(one.Kind.Name(), one.Key, "changed", [.. sentences.Select(each => each.English)], null)]
                ),
                WireJson.Default.ReleaseComparison
            );
        }
        else
        {
            foreach (var sentence in sentences)
            {
                printer.Line(sentence.English);
            }

            printer.Line(sentences.Count == 0 ? "Nothing differs." : $"{sentences.Count} {(sentences.Count == 1 ? "change" : "changes")}.");
        }

        return sentences.Count == 0 ? Exit.Done : Exit.Refused;
    }

    private static int Print(Printer printer, ReleaseComparison compared)
    {
        var count = compared.Documents.Count;
        if (printer.Json)
        {
            printer.Write(compared, WireJson.Default.ReleaseComparison);
        }
        else
        {
            foreach (var document in compared.Documents)
            {
                var by = document.Draft is { } draft ? $", by {draft.ChangedBy}" : "";
                var end = document.Summary.Count > 0 ? ":" : ".";
                printer.Line($"{document.Kind}/{document.Key} {document.Change}{by}{end}");
                foreach (var sentence in document.Summary)
                {
                    printer.Line($"  {sentence}");
                }
            }

            printer.Line(
                count == 0 ? "Nothing differs."
                : count == 1 ? "1 document differs."
                : $"{count} documents differ."
            );
        }

        return count == 0 ? Exit.Done : Exit.Refused;
    }

    /// <summary>Draws the layouts that differ, each with what it rests on on its own side.</summary>
    private static async Task Draw(
        string path,
        string? language,
        DocumentSet before,
        DocumentSet after,
        Printer printer,
        CancellationToken cancel
    )
    {
        var spoken = language
            ?? new[] { after, before }.SelectMany(side => side.Catalogue.Definitions.Application.Languages).FirstOrDefault()
            ?? "en";
        var pairs =
            before.One is { } one && after.One is { } other
                ? [(one, other)]
                : Changes(before, after)
                    .Where(change => change.Kind is DocumentKind.Layout)
                    .Select(change => ((change.Kind, change.Key), (change.Kind, change.Key)))
                    .ToArray();
        var pictures = pairs.Select(pair => (Old: Side(before, pair.Item1, after), Next: Side(after, pair.Item2, before))).ToArray();
        if (Path.GetExtension(path).Equals(".svg", StringComparison.OrdinalIgnoreCase))
        {
            await File.WriteAllTextAsync(path, ComparisonPicture.Of(pictures, spoken), cancel);
        }
        else
        {
            Directory.CreateDirectory(path);
            foreach (var (was, has) in pictures)
            {
                var file = Path.Combine(path, $"{(has.Layout ?? was.Layout)!.Key}.svg");
                await File.WriteAllTextAsync(file, ComparisonPicture.Of([(was, has)], spoken), cancel);
            }
        }

        printer.Note($"{pictures.Length} {(pictures.Length == 1 ? "layout is" : "layouts are")} drawn in {path}.");
    }

    private static PicturedSide Side(DocumentSet side, (DocumentKind Kind, string Key) name, DocumentSet other)
    {
        if (side.Of(name) is not Document.OfLayout { Layout: var layout } document)
        {
            return new PicturedSide(side.Name, null, null, null);
        }

        // A file alone is drawn with the entities of the other side.
        var catalogue = side.Catalogue.EntityOf(layout) is null ? other.Catalogue.With(document) : side.Catalogue;
        return new PicturedSide(
            side.Name,
            layout,
            LayoutComposer.Assemble(Pieces.AsForm(layout), catalogue).Base,
            catalogue.EntityOf(layout)
        );
    }
}
