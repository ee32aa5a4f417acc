using System.Buffers;
using System.Collections.Concurrent;
using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

/// <summary>What became of edits: the draft then, and as on the wire the edits as they were applied and what would undo them.</summary>
public sealed record DraftEdit(DraftRow Row, Layout Layout, JsonElement Edits, JsonElement Inverse);

/// <summary>The working copies of documents: reads them, applies edits to them, keeps their history.</summary>
public sealed class DraftDocuments(DraftStore store, CurrentRelease releases, Broadcaster broadcaster, AuditStore audit, TimeProvider time) : IDisposable
{
    private readonly SemaphoreSlim turn = new(1, 1);
    private readonly ConcurrentDictionary<(string Kind, string Key), (long Revision, Document? Document, IReadOnlyList<FileProblem> Problems)> parsed = new();

    public void Dispose() => turn.Dispose();

    public async Task<DraftRow> Row(DocumentKind kind, string key, CancellationToken cancel) =>
        await store.Find(kind.Name(), key, cancel)
        ?? throw Problems.NotFound(kind.Name().Replace('-', ' '), key, (await store.List(cancel)).Where(row => row.Kind == kind.Name()).Select(row => row.Key));

    public async Task<(DraftRow Row, Layout Layout)> Layout(string key, CancellationToken cancel)
    {
        var row = await Row(DocumentKind.Layout, key, cancel);
        return (row, ((Document.OfLayout)Parsed(row)).Layout);
    }

    public Task<IReadOnlyList<DraftRow>> List(CancellationToken cancel) => store.List(cancel);

    /// <summary>What a draft holds.</summary>
    /// <exception cref="RefusedException">409: it cannot be read; says where, and how it is set right.</exception>
    public Document Parsed(DraftRow row) => Read(row) switch
    {
        (_, { } document, _) => document,
        var (_, _, problems) => throw new RefusedException(
            409, "draft-damaged",
            $"The draft of the {row.Kind} '{row.Key}' cannot be read, {problems[0].At}: {problems[0].Message}. Nothing else is affected. Correct its text, or recover its last readable version: on the page Layouts, or with POST {AddressOf(row.Kind, row.Key)}/recover.",
            [.. problems.Select(problem => new ProblemPart(problem.At.Pointer ?? "", problem.Message, null, problem.At.Line, problem.At.Column))]),
    };

    /// <summary>What a draft holds; null where it cannot be read.</summary>
    public Document? ParsedOrNull(DraftRow row) => Read(row).Document;

    /// <summary>Why a draft cannot be read, with the place; null where it can.</summary>
    public string? Damage(DraftRow row) => Read(row) is { Document: null, Problems: [var first, ..] } ? $"{first.At}: {first.Message}" : null;

    private (long Revision, Document? Document, IReadOnlyList<FileProblem> Problems) Read(DraftRow row)
    {
        if (parsed.TryGetValue((row.Kind, row.Key), out var known) && known.Revision == row.Revision)
        {
            return known;
        }

        var (document, problems) = DocumentFile.Read(row.Content, row.Kind, row.Key);
        return parsed[(row.Kind, row.Key)] = (row.Revision, document, problems);
    }

    private static string AddressOf(string kind, string key) => kind == DocumentKind.Layout.Name() ? $"/api/layouts/{key}" : $"/api/documents/{kind}/{key}";

    /// <summary>Every document as it is in drafts, over what is released: what drafts are checked against and resolved with.</summary>
    public async Task<Catalogue> Catalogue(CancellationToken cancel)
    {
        var rows = await store.List(cancel);
        var state = (releases.Default.Number, rows.Sum(row => row.Revision), rows.Count);
        if (latest is { } known && known.State == state)
        {
            return known.Catalogue;
        }

        // One catalogue for one state: what is compiled against it is compiled once. A draft that cannot be read counts as it is released.
        var catalogue = rows.Select(ParsedOrNull).OfType<Document>().Aggregate(releases.Default.Catalogue, (all, document) => all.With(document));
        latest = new Latest(state, catalogue);
        return catalogue;
    }

    private sealed record Latest((long Release, long Revisions, int Rows) State, Catalogue Catalogue);

    private volatile Latest? latest;

    public async Task<Definitions> Definitions(CancellationToken cancel) => (await Catalogue(cancel)).Definitions;

    /// <summary>Makes a draft or replaces what it holds, as one change.</summary>
    /// <param name="expected">The revision replaced; 0 for a new draft.</param>
    public async Task<SaveResult> Save(Document document, long expected, Author by, CancellationToken cancel)
    {
        by.Require(Permissions.Configure, releases.Default.Definitions.Application, document);
        await turn.WaitAsync(cancel);
        try
        {
            await RequireRights([document], by, cancel);
            var row = await store.Find(document.Kind.Name(), document.Key, cancel);
            if ((row?.Revision ?? 0) != expected)
            {
                throw row is null
                    ? Problems.NotFound(document.Kind.Name(), document.Key)
                    : new RefusedException(412, "draft-moved-on", $"The draft '{document.Key}' is at revision {row.Revision}, changed by {row.ChangedBy}; this was made for revision {expected}. Read it again, or pull it.");
            }

            if (row is null)
            {
                var first = NewRow(document, 1, by);
                await Store([(first, Change(first, "Made", [], []))], cancel);
                return new SaveResult(first.Kind, first.Key, 1, true);
            }

            if (document is Document.OfLayout { Layout: var read, Derived: var derived } && ParsedOrNull(row) is Document.OfLayout { Layout: var before })
            {
                document = new Document.OfLayout(CarriedIds.Carry(before, read, derived));
            }

            var text = DocumentFile.Write(document);
            if (text == row.Content)
            {
                return new SaveResult(row.Kind, row.Key, row.Revision, false);
            }

            if (ParsedOrNull(row) is Document.OfLayout { Layout: var old } && document is Document.OfLayout { Layout: var next })
            {
                var edited = await Apply(row, old, LayoutDiff.Edits(old, next), "Replaced from a file", by, cancel);
                return new SaveResult(row.Kind, row.Key, edited.Row.Revision, true);
            }

            var replaced = NewRow(document, row.Revision + 1, by);
            await Store([(replaced, Change(replaced, "Replaced from a file", [], []))], cancel);
            return new SaveResult(row.Kind, row.Key, replaced.Revision, true);
        }
        finally
        {
            turn.Release();
        }
    }

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

    /// <summary>What would change who may do what is drafted by an administrator alone, as it is published by one.</summary>
    private async Task RequireRights(IEnumerable<Document> documents, Author by, CancellationToken cancel)
    {
        if (documents.Where(document => document.Kind is DocumentKind.Application or DocumentKind.Entity).ToArray() is { Length: > 0 } some)
        {
            var before = await Catalogue(cancel);
            by.RequireRights(before.Definitions, some.Aggregate(before, (all, document) => all.With(document)).Definitions);
        }
    }

    private const string Overtaken = "conflict-at-once";

    /// <summary>How far back a change is looked for that may have been sent before.</summary>
    private const int Remembered = 1_000;

    private async Task<DraftEdit> EditOnce(string key, EditRequest request, Side? take, Author by, CancellationToken cancel)
    {
        var (row, layout) = await Layout(key, cancel);
        by.Require(Permissions.Configure, releases.Default.Definitions.Application, new Document.OfLayout(layout));
        if (request.Name is { } name && await store.ChangeSent(row.Kind, row.Key, name, row.Revision - Remembered, cancel) is { } before && before.By == by.Id)
        {
            return new DraftEdit(row, layout, Element(before.Edits), Element(before.Inverse));
        }

        var against = request.Base;
        if (against > row.Revision || against < 0)
        {
            throw Problems.Invalid($"There is no revision {against} of '{key}' yet; the newest is {row.Revision}.", new ProblemPart("/base", "names no revision"));
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
                409, "conflict", $"Somebody else changed the same items since revision {against}: {rebased.Conflicts[0].Message}",
                [.. rebased.Conflicts.Select(conflict => new ProblemPart($"/edits/{IndexOf(edits, conflict).ToString(CultureInfo.InvariantCulture)}", conflict.Message, conflict.Code))]);
        }

        return await Apply(row, layout, rebased.Edits, request.Label ?? "Edited", by, cancel, request.Name);
    }

    /// <summary>Edits as edits of the layout itself: those of what is seen at a width, or over what it extends, become its changes.</summary>
    /// <param name="made">The layout as it was when they were made.</param>
    private async Task<IReadOnlyList<Edit>> Read(EditRequest request, Layout layout, Layout made, CancellationToken cancel)
    {
        if (request.Width is null && made.Extends is null)
        {
            return Sound(TreeJson.ReadEdits(request.Edits, layout.Find, "/edits"));
        }

        var catalogue = await Catalogue(cancel);
        var seen = Seen(made, request.Width, catalogue);
        var applied = made.ApplyOver(Sound(TreeJson.ReadEdits(request.Edits, id => seen.Find(id) ?? layout.Find(id), "/edits")), request.Width, LayoutComposer.Under(made, catalogue));
        return applied.Refusal is { } refusal ? throw Problems.Edit(refusal) : applied.Edits;

        static IReadOnlyList<Edit> Sound((IReadOnlyList<Edit> Edits, IReadOnlyList<FileProblem> Problems) read) =>
            read.Problems.Count > 0 ? throw Problems.Document(read.Problems) : read.Edits;
    }

    /// <summary>A layout as it is seen: with what it extends, and where a width is named, as that has it.</summary>
    public static Layout Seen(Layout layout, string? width, Catalogue catalogue)
    {
        if (width is not null && LayoutComposer.Assemble(layout, catalogue).WidthNames(catalogue.Definitions.Application).ToArray() is var names && !names.Contains(width))
        {
            throw Problems.Invalid(Suggestion.Sentence($"There is no width '{width}'{Suggestion.For(width, names)}"), new ProblemPart("/width", "names no width"));
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
                Edit.Move move => move.Node == conflict.Node || conflict.Mine.Any(mine => mine is Edit.Move other && other.Node == move.Node),
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

        RefusedException TooOld() => new(409, "too-old", $"Revision {revision} of '{row.Key}' cannot be made out any more; start from the current state, revision {row.Revision}.");
    }

    public Task<IReadOnlyList<ChangeRow>> Changes(string key, long after, CancellationToken cancel) => store.ChangesAfter(DocumentKind.Layout.Name(), key, after, cancel);

    private async Task<DraftEdit> Apply(DraftRow row, Layout layout, IReadOnlyList<Edit> edits, string label, Author by, CancellationToken cancel, string? sent = null)
    {
        var applied = layout.Apply(edits);
        if (applied.Refusal is { } refusal)
        {
            throw Problems.Edit(refusal);
        }

        if (applied.Layout!.Key != row.Key || applied.Layout.Entity != layout.Entity)
        {
            throw new RefusedException(422, "identity-fixed", "A layout's key and entity cannot change; create another layout instead.");
        }

        if (edits.Count == 0)
        {
            return new DraftEdit(row, layout, Element("[]"), Element("[]"));
        }

        var next = NewRow(new Document.OfLayout(applied.Layout), row.Revision + 1, by);
        next.Published = row.Published;
        var change = Change(next, label, applied.Edits, applied.Inverse);
        change.IdempotencyKey = sent;
        await Store([(next, change)], cancel);
        parsed[(next.Kind, next.Key)] = (next.Revision, new Document.OfLayout(applied.Layout), []);
        return new DraftEdit(next, applied.Layout, Element(change.Edits), Element(change.Inverse));
    }

    private async Task Store(IReadOnlyList<(DraftRow Row, ChangeRow Change)> all, CancellationToken cancel)
    {
        if (!await store.Save([.. all.Select(each => (each.Row, each.Change, Told(each.Row, each.Change)))], cancel))
        {
            throw new RefusedException(409, Overtaken, $"Somebody changed {string.Join(" or ", all.Select(each => $"'{each.Row.Key}'"))} at the same moment; read it again.");
        }

        foreach (var (row, _) in all)
        {
            broadcaster.Publish("draft", JsonSerializer.Serialize(new { kind = row.Kind, key = row.Key, revision = row.Revision, by = row.ChangedBy }), forConfigurators: true);
        }
    }

    private AuditEntryRow Told(DraftRow row, ChangeRow change) => audit.Entry(row.ChangedBy, row.Revision == 1 ? "draft.made" : "draft.changed", $"{row.Kind}/{row.Key}", new { revision = row.Revision, label = change.Label });

    private static ChangeRow Change(DraftRow row, string label, IReadOnlyList<Edit> edits, IReadOnlyList<Edit> inverse) => new()
    {
        Kind = row.Kind,
        Key = row.Key,
        Revision = row.Revision,
        Label = label,
        Edits = ToJson(edits),
        Inverse = ToJson(inverse),
        At = row.ChangedAt,
        By = row.ChangedBy,
    };

    /// <summary>Makes drafts or replaces what they hold, all or none, each as one change.</summary>
    /// <param name="documents">Each with the revision it replaces; 0 for a new draft.</param>
    public async Task SaveAll(IReadOnlyList<(Document Document, long Expected)> documents, string label, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            await RequireRights(documents.Select(each => each.Document), by, cancel);
            var all = new List<(DraftRow, ChangeRow)>();
            foreach (var (document, expected) in documents)
            {
                by.Require(Permissions.Configure, releases.Default.Definitions.Application, document);
                var present = expected == 0 ? null : await store.Find(document.Kind.Name(), document.Key, cancel);
                var row = NewRow(document, expected + 1, by);
                row.Published = present?.Published;
                var applied = present is not null && ParsedOrNull(present) is Document.OfLayout { Layout: var old } && document is Document.OfLayout { Layout: var next } ? old.Apply(LayoutDiff.Edits(old, next)) : null;
                all.Add((row, Change(row, label, applied?.Edits ?? [], applied?.Inverse ?? [])));
            }

            await Store(all, cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>The next row of a draft. By whatever way a document came, it is read back before it is stored.</summary>
    /// <exception cref="RefusedException">422: it would not be read back the same, with the place.</exception>
    private DraftRow NewRow(Document document, long revision, Author by)
    {
        var (text, problems) = DocumentFile.WriteAndReadBack(document);
        return problems.Count > 0
            ? throw Problems.Document(problems)
            : new DraftRow
            {
                Kind = document.Kind.Name(),
                Key = document.Key,
                Revision = revision,
                Content = text,
                ChangedAt = time.GetUtcNow().ToUnixTimeMilliseconds(),
                ChangedBy = by.Id,
            };
    }

    /// <summary>Puts into a draft the last text of it that can be read: as its history leads to from what was published, or as it was published.</summary>
    /// <returns>The draft then, and where its text is from, as a word for people.</returns>
    /// <exception cref="RefusedException">409: it can be read, or there is no other text of it.</exception>
    public async Task<RecoveredDraft> Recover(DocumentKind kind, string key, Author by, CancellationToken cancel)
    {
        var row = await Row(kind, key, cancel);
        if (ParsedOrNull(row) is not null)
        {
            throw new RefusedException(409, "draft-sound", $"The draft of the {row.Kind} '{row.Key}' can be read; there is nothing to recover.");
        }

        var found = await releases.LastReadable(row.Kind, row.Key, long.MaxValue, cancel)
            ?? throw new RefusedException(409, "nothing-to-recover", $"The {row.Kind} '{row.Key}' was never published, so there is no earlier text to recover. Correct its text, or replace it.");
        var (document, revision) = await FollowHistory(found.Document, row, found.Release, cancel);
        var saved = await Save(document, row.Revision, by, cancel);
        return new RecoveredDraft(saved.Kind, saved.Key, saved.Revision, revision is null ? $"release {found.Release}" : $"revision {revision}");
    }

    /// <summary>What a draft's history makes of a published text, as far as it leads; of a layout whose changes are all kept that is the draft as it was meant.</summary>
    private async Task<(Document Document, long? Revision)> FollowHistory(Document from, DraftRow row, long release, CancellationToken cancel)
    {
        if (from is not Document.OfLayout { Layout: var layout } || await store.PublishedRevision(row.Kind, row.Key, release, cancel) is not { } start)
        {
            return (from, null);
        }

        var (document, reached) = (from, (long?)null);
        foreach (var change in await store.ChangesAfter(row.Kind, row.Key, start, cancel))
        {
            using var json = JsonDocument.Parse(change.Edits);
            if (change.Revision != (reached ?? start) + 1 || TreeJson.ReadEdits(json.RootElement, layout.Find) is not { Problems.Count: 0, Edits: var edits } || layout.Apply(edits).Layout is not { } next)
            {
                break;
            }

            layout = next;
            if (DocumentFile.WriteAndReadBack(new Document.OfLayout(layout)).Problems.Count > 0)
            {
                break;
            }

            (document, reached) = (new Document.OfLayout(layout), change.Revision);
        }

        return (document, reached);
    }

    public static string ToJson(IReadOnlyList<Edit> edits) => Encoding.UTF8.GetString(Bytes(writer => TreeJson.Write(writer, edits)).Span);

    private static JsonElement Element(string json)
    {
        using var document = JsonDocument.Parse(json);
        return document.RootElement.Clone();
    }

    /// <summary>What a layout shows: its entity, of a piece its slots.</summary>
    internal static Entity EntityOf(Layout layout, Catalogue catalogue) =>
        catalogue.EntityOf(layout) ?? throw Problems.NotFound("entity", layout.Entity, catalogue.Definitions.Entities.Keys);

    /// <summary>What is written, as a JSON element that answers can hold.</summary>
    public static JsonElement Element(Action<Utf8JsonWriter> write)
    {
        using var document = JsonDocument.Parse(Bytes(write));
        return document.RootElement.Clone();
    }

    private static ReadOnlyMemory<byte> Bytes(Action<Utf8JsonWriter> write)
    {
        var buffer = new ArrayBufferWriter<byte>(4_096);
        using (var writer = new Utf8JsonWriter(buffer, new JsonWriterOptions { Encoder = JsonText.Options.Encoder }))
        {
            write(writer);
        }

        return buffer.WrittenMemory;
    }
}
