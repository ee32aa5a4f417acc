using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Layouts;

/// <summary>How two states of a layout differ.</summary>
public static class LayoutDiffEndpoints
{
    public static void MapLayoutDiff(this IEndpointRouteBuilder api) =>
        api.MapGet("/layouts/{key}/diff", Compare)
            .WithName("diffLayout")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<Comparison>()
            .WithSummary("How two states of a layout differ, as edits and in words.")
            .WithDescription(
                "from and to are released, generated, revision:N of the draft, release:N, or another layout by its key. "
                    + "Without them: from released, to the draft as it is now. reverse=true leads from to to from."
            );

    private static async Task<IResult> Compare(
        HttpContext http,
        string key,
        DraftDocuments drafts,
        CurrentRelease releases,
        ReleaseStore store,
        string? from,
        string? to,
        bool? reverse,
        CancellationToken cancel
    )
    {
        var (old, oldName) = await Named(from ?? "released", "from");
        var (layout, name) = to is null ? await Newest() : await Named(to, "to");
        if (reverse is true)
        {
            (old, layout, oldName, name) = (layout, old, name, oldName);
        }

        var entity = (await drafts.Definitions(cancel)).Entities.GetValueOrDefault(layout.Entity);
        var edits = LayoutDiff.Edits(old, layout);
        return TypedResults.Json(
            new Comparison(
                oldName,
                name,
                DraftDocuments.Element(writer => TreeJson.Write(writer, edits)),
                [.. EditSummary.Describe(old, edits, field => entity?.Find(field)?.Label).Texts()]
            ),
            WireJson.Default.Comparison
        );

        async Task<(Layout Layout, string Name)> Newest()
        {
            var (row, newest) = await drafts.Layout(key, cancel);
            return (newest, $"revision:{row.Revision.ToString(CultureInfo.InvariantCulture)}");
        }

        async Task<(Layout Layout, string Name)> Named(string name, string parameter)
        {
            switch (name.Split(':', 2))
            {
                case ["released"]:
                    return (
                        releases.Snapshot.Catalogue.Layouts.GetValueOrDefault(key)
                            ?? throw Problems.NotFound($"published layout", key, releases.Snapshot.Catalogue.Layouts.Keys),
                        name
                    );
                case ["generated"]:
                    return (NewLayouts.Generated((await drafts.Layout(key, cancel)).Layout, await drafts.Definitions(cancel)), name);
                case ["revision", var number]:
                    var (row, newest) = await drafts.Layout(key, cancel);
                    return
                        long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var revision)
                        && revision >= 1
                        && revision <= row.Revision
                        ? (await drafts.At(row, newest, revision, cancel), name)
                        : throw Problems.Invalid(
                            $"There is no revision '{number}' of '{key}'; the newest is {row.Revision}.",
                            Problems.Part(parameter, $"names no revision")
                        );
                case ["release", var number]:
                    return (await Released(key, number, parameter, releases.Snapshot.Number, store, cancel), name);
                default:
                    return ((await drafts.Layout(name, cancel)).Layout, name);
            }
        }
    }

    private static async Task<Layout> Released(
        string key,
        string number,
        string parameter,
        long newest,
        ReleaseStore store,
        CancellationToken cancel
    )
    {
        var texts =
            long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var release) && release <= newest
                ? await store.Texts(release, cancel)
                : [];
        if (texts.Count == 0)
        {
            throw Problems.Invalid(
                $"There is no release '{number}'; the newest is {newest}.",
                Problems.Part(parameter, $"names no release")
            );
        }

        var text = texts.FirstOrDefault(each => each.Kind == DocumentKind.Layout.Name() && each.Key == key);
        if (text is null)
        {
            throw Problems.NotFound($"layout in release {number}", key);
        }

        return DocumentFile.Read(text.Text, text.Kind, text.Key).Document is Document.OfLayout { Layout: var released }
            ? released
            : throw new RefusedException(409, "document-damaged", $"The layout '{key}' of release {number} cannot be read.");
    }
}
