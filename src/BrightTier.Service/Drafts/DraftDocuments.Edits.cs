using System.Globalization;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

/// <summary>What became of edits: the draft then, and as on the wire the edits as they were applied and what would undo them.</summary>
public sealed record DraftEdit(DraftRow Row, JsonElement Edits, JsonElement Inverse);

/// <summary>
/// Edits of a layout's draft: rebased over what was changed since, turned into overrides at a width or over a parent, applied all or none.
/// </summary>
public sealed partial class DraftDocuments
{
    /// <summary>Applies edits made against a revision, laid over what was changed since.</summary>
    /// <param name="take">Which side has its way in conflicts; without it they are refused.</param>
    public async Task<DraftEdit> Edit(string key, EditRequest request, Side? take, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            for (var attempt = 1; ; attempt++)
            {
                try
                {
                    return await EditOnce(key, request, take, by, cancel);
                }
                catch (RefusedException overtaken) when (overtaken.Code == Overtaken && attempt < 20)
                {
                    // Another process was faster: laid over what it did.
                }
            }
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Archives a layout or brings it back, as one change; nothing happens to one that is so already.</summary>
    public async Task<SaveResult> SetArchived(string key, bool archived, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            var (row, layout) = await Layout(key, cancel);
            by.Require(Permissions.Configure, releases.Default.Definitions.Application, new Document.OfLayout(layout));
            if (layout.IsArchived == archived)
            {
                return new SaveResult(row.Kind, row.Key, row.Revision, false);
            }

            var edits = new[] { new Edit.Set(layout.Root.Id, "archived", archived ? new Value.Flag(true) : null) };
            var done = await Apply(row, layout, edits, archived ? "Archived" : "Brought back", by, cancel);
            return new SaveResult(row.Kind, row.Key, done.Row.Revision, true);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>How far back a change is looked for that may have been sent before.</summary>
    private const int Remembered = 1_000;

    private async Task<DraftEdit> EditOnce(string key, EditRequest request, Side? take, Author by, CancellationToken cancel)
    {
        var (row, layout) = await Layout(key, cancel);
        by.Require(Permissions.Configure, releases.Default.Definitions.Application, new Document.OfLayout(layout));
        if (
            request.Name is { } name
            && await store.ChangeSent(row.Kind, row.Key, name, row.Revision - Remembered, cancel) is { } before
            && before.By == by.Id
        )
        {
            return new DraftEdit(row, Element(before.Edits), Element(before.Inverse));
        }

        var against = request.Base;
        if (against > row.Revision || against < 0)
        {
            throw Problems.Invalid(
                $"There is no revision {against} of '{key}' yet; the newest is {row.Revision}.",
                Problems.Part("/base", $"names no revision")
            );
        }

        var made = against == row.Revision ? layout : await At(row, layout, against, cancel);
        var edits = await Read(request, layout, made, cancel);
        if (against == row.Revision)
        {
            return await Apply(row, layout, edits, request.Label ?? "Edited", by, cancel, request.Name);
        }

        var rebased = EditRebase.Rebase(made, edits, layout, take is { } side ? _ => side : null);
        if (rebased.Refusal is { } refusal)
        {
            throw Problems.Edit(refusal);
        }

        if (rebased.Conflicts.Count > 0 && take is null)
        {
            throw new RefusedException(
                409,
                "conflict",
                $"Somebody else changed the same items since revision {against}: {rebased.Conflicts[0].Message}",
                [
                    .. rebased.Conflicts.Select(conflict =>
                        Problems.Part(
                            $"/edits/{IndexOf(edits, conflict).ToString(CultureInfo.InvariantCulture)}",
                            conflict.Message,
                            conflict.Code
                        )
                    ),
                ]
            );
        }

        return await Apply(row, layout, rebased.Edits, request.Label ?? "Edited", by, cancel, request.Name);
    }

    /// <summary>
    /// Edits as edits of the layout itself: those of what is seen at a width, or over what it extends, become its changes.
    /// </summary>
    /// <param name="made">The layout as it was when they were made.</param>
    private async Task<IReadOnlyList<Edit>> Read(EditRequest request, Layout layout, Layout made, CancellationToken cancel)
    {
        if (request.Width is null && made.Extends is null)
        {
            return Sound(TreeJson.ReadEdits(request.Edits, layout.Find, "/edits"));
        }

        var catalogue = await Catalogue(cancel);
        var seen = Seen(made, request.Width, catalogue);
        var applied = made.ApplyOver(
            Sound(TreeJson.ReadEdits(request.Edits, id => seen.Find(id) ?? layout.Find(id), "/edits")),
            request.Width,
            LayoutComposer.Under(made, catalogue)
        );
        return applied.Refusal is { } refusal ? throw Problems.Edit(refusal) : applied.Edits;

        static IReadOnlyList<Edit> Sound((IReadOnlyList<Edit> Edits, IReadOnlyList<FileProblem> Problems) read) =>
            read.Problems.Count > 0 ? throw Problems.Document(read.Problems) : read.Edits;
    }

    /// <summary>A layout as it is seen: with what it extends, and where a width is named, as that has it.</summary>
    public static Layout Seen(Layout layout, string? width, Catalogue catalogue)
    {
        if (
            width is not null
            && LayoutComposer.Assemble(layout, catalogue).WidthNames(catalogue.Definitions.Application).ToArray() is var names
            && !names.Contains(width)
        )
        {
            throw Problems.Invalid(
                Suggestion.Sentence($"There is no width '{width}'{Suggestion.For(width, names)}"),
                Problems.Part("/width", $"names no width")
            );
        }

        return layout.At(width, LayoutComposer.Under(layout, catalogue));
    }

    /// <summary>Which of somebody's edits a conflict is about: the first that concerns its node, or the first of all.</summary>
    private static int IndexOf(IReadOnlyList<Edit> edits, Conflict conflict)
    {
        for (var i = 0; i < edits.Count; i++)
        {
            var concerns = edits[i] switch
            {
                Edit.Set set => set.Node == conflict.Node && (conflict.Property is null || conflict.Property == set.Property),
                Edit.Move move => move.Node == conflict.Node
                    || conflict.Mine.Any(mine => mine is Edit.Move other && other.Node == move.Node),
                Edit.Remove remove => remove.Node == conflict.Node,
                Edit.Insert insert => insert.Parent == conflict.Node || insert.Node.Walk().Any(node => node.Id == conflict.Node),
                _ => false,
            };
            if (concerns)
            {
                return i;
            }
        }

        return 0;
    }

    /// <summary>A draft of a layout as it was at a revision: what came since, undone.</summary>
    public async Task<Layout> At(DraftRow row, Layout layout, long revision, CancellationToken cancel)
    {
        var since = await store.ChangesAfter(row.Kind, row.Key, revision, cancel);
        if (since is [var first, ..] && first.Revision != revision + 1)
        {
            throw TooOld();
        }

        foreach (var change in since.Reverse())
        {
            using var inverse = JsonDocument.Parse(change.Inverse);
            var read = TreeJson.ReadEdits(inverse.RootElement, layout.Find);
            layout = layout.Apply(read.Edits).Layout ?? throw TooOld();
        }

        return layout;

        RefusedException TooOld() =>
            new(
                409,
                "too-old",
                $"Revision {revision} of '{row.Key}' cannot be made out any more; start from the current state, revision {row.Revision}."
            );
    }

    public Task<IReadOnlyList<ChangeRow>> Changes(string key, long after, CancellationToken cancel) =>
        store.ChangesAfter(DocumentKind.Layout.Name(), key, after, cancel);

    private async Task<DraftEdit> Apply(
        DraftRow row,
        Layout layout,
        IReadOnlyList<Edit> edits,
        string label,
        Author by,
        CancellationToken cancel,
        string? sent = null
    )
    {
        var applied = layout.Apply(edits);
        if (applied.Refusal is { } refusal)
        {
            throw Problems.Edit(refusal);
        }

        if (applied.Layout!.Key != row.Key || applied.Layout.Entity != layout.Entity)
        {
            throw new RefusedException(422, "identity-fixed", $"A layout's key and entity cannot change; create another layout instead.");
        }

        if (edits.Count == 0)
        {
            return new DraftEdit(row, Element("[]"), Element("[]"));
        }

        var document = new Document.OfLayout(applied.Layout);
        var next = NewRow(document, row.Revision + 1, by, new Document.OfLayout(layout));
        next.Published = row.Published;
        var change = Change(next, label, applied.Edits, applied.Inverse);
        change.IdempotencyKey = sent;
        await Store([(next, change)], cancel);
        var stored = kept.Of(next.Content, document);
        parsed[(next.Kind, next.Key)] = (next.Revision, stored, []);
        Advance(next, stored);
        return new DraftEdit(next, Element(change.Edits), Element(change.Inverse));
    }
}
