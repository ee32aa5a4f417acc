using System.Buffers;
using System.Collections.Concurrent;
using System.Text;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Drafts;

/// <summary>
/// The working copies of documents: reads them, saves them, keeps their history. What edits make of a layout is in DraftDocuments.Edits.cs.
/// </summary>
public sealed partial class DraftDocuments(
    DraftStore store,
    ReleaseStore released,
    CurrentRelease releases,
    KeptLayouts kept,
    Broadcaster broadcaster,
    AuditStore audit,
    TimeProvider time
) : IDisposable
{
    private readonly SemaphoreSlim turn = new(1, 1);
    private readonly ConcurrentDictionary<
        (string Kind, string Key),
        (long Revision, Document? Document, IReadOnlyList<FileProblem> Problems)
    > parsed = new();

    public void Dispose() => turn.Dispose();

    public async Task<DraftRow> Row(DocumentKind kind, string key, CancellationToken cancel) =>
        await store.Find(kind.Name(), key, cancel)
        ?? throw Problems.NotFound(
            kind.Noun(),
            key,
            (await store.List(cancel)).Where(row => row.Kind == kind.Name()).Select(row => row.Key)
        );

    public async Task<(DraftRow Row, Layout Layout)> Layout(string key, CancellationToken cancel)
    {
        var row = await Row(DocumentKind.Layout, key, cancel);
        return (row, ((Document.OfLayout)Parsed(row)).Layout);
    }

    public Task<IReadOnlyList<DraftRow>> List(CancellationToken cancel) => store.List(cancel);

    /// <summary>What a draft holds.</summary>
    /// <exception cref="RefusedException">409: it cannot be read; says where, and how it is set right.</exception>
    public Document Parsed(DraftRow row) =>
        Read(row) switch
        {
            (_, { } document, _) => document,
            var (_, _, problems) => throw new RefusedException(
                409,
                "draft-damaged",
                $"The draft of the {row.Kind} '{row.Key}' cannot be read, {problems[0].At}: {problems[0].Message}. Nothing "
                    + $"else is affected. Correct its text, or recover its last readable version: on the page Layouts, or with "
                    + $"POST {AddressOf(row.Kind, row.Key)}/recover.",
                [
                    .. problems.Select(problem =>
                        Problems.Part(problem.At.Pointer ?? "", problem.Message, null, problem.At.Line, problem.At.Column)
                    ),
                ]
            ),
        };

    /// <summary>What a draft holds; null where it cannot be read.</summary>
    public Document? ParsedOrNull(DraftRow row) => Read(row).Document;

    private (long Revision, Document? Document, IReadOnlyList<FileProblem> Problems) Read(DraftRow row)
    {
        if (parsed.TryGetValue((row.Kind, row.Key), out var known) && known.Revision == row.Revision)
        {
            return known;
        }

        // What is as it was released is the very same, and read there.
        var (document, problems) =
            releases.Default.Hashes.GetValueOrDefault((row.Kind, row.Key)) == ReleaseStore.HashOf(row.Content)
            && !releases.Default.Damaged.Any(damaged => (damaged.Kind, damaged.Key) == (row.Kind, row.Key))
                ? (releases.Default.Catalogue.Find(DocumentFile.KindNamed(row.Kind)!.Value, row.Key), [])
                : kept.Read(row.Content, row.Kind, row.Key);
        return parsed[(row.Kind, row.Key)] = (row.Revision, document, problems);
    }

    private static string AddressOf(string kind, string key) =>
        kind == DocumentKind.Layout.Name() ? $"/api/layouts/{key}" : $"/api/documents/{kind}/{key}";

    public async Task<Definitions> Definitions(CancellationToken cancel) => (await Catalogue(cancel)).Definitions;

    /// <summary>Makes a draft or replaces what it holds, as one change.</summary>
    /// <param name="expected">The revision replaced; 0 for a new draft.</param>
    /// <param name="label">What the change is called in its history.</param>
    public async Task<SaveResult> Save(
        Document document,
        long expected,
        Author by,
        CancellationToken cancel,
        string label = "Replaced from a file"
    )
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
                    ? Problems.NotFound(document.Kind.Noun(), document.Key)
                    : new RefusedException(
                        412,
                        "draft-moved-on",
                        $"The draft '{document.Key}' is at revision {row.Revision}, changed by {row.ChangedBy}; this was made "
                            + $"for revision {expected}. Read it again, or pull it."
                    );
            }

            if (row is null)
            {
                var first = NewRow(document, 1, by);
                await Store([(first, Change(first, "Made", [], []))], cancel);
                return new SaveResult(first.Kind, first.Key, 1, true);
            }

            document = document.CarriedFrom(ParsedOrNull(row));
            var text = DocumentFile.Write(document);
            if (text == row.Content)
            {
                return new SaveResult(row.Kind, row.Key, row.Revision, false);
            }

            if (ParsedOrNull(row) is Document.OfLayout { Layout: var old } && document is Document.OfLayout { Layout: var next })
            {
                var edited = await Apply(row, old, LayoutDiff.Edits(old, next), label, by, cancel);
                return new SaveResult(row.Kind, row.Key, edited.Row.Revision, true);
            }

            var replaced = NewRow(document, row.Revision + 1, by);
            await Store([(replaced, Change(replaced, label, row.Content))], cancel);
            return new SaveResult(row.Kind, row.Key, replaced.Revision, true);
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

    private async Task Store(IReadOnlyList<(DraftRow Row, ChangeRow Change)> all, CancellationToken cancel)
    {
        if (!await store.Save([.. all.Select(each => (each.Row, each.Change, Told(each.Row, each.Change)))], cancel))
        {
            throw new RefusedException(
                409,
                Overtaken,
                $"Somebody changed {string.Join(" or ", all.Select(each => $"'{each.Row.Key}'"))} at the same moment; read it again."
            );
        }

        foreach (var (row, _) in all)
        {
            broadcaster.Publish(
                "draft",
                JsonSerializer.Serialize(new DraftEvent(row.Kind, row.Key, row.Revision, row.ChangedBy), WireJson.Default.DraftEvent),
                forConfigurators: true
            );
        }
    }

    private AuditEntryRow Told(DraftRow row, ChangeRow change) =>
        audit.Entry(
            row.ChangedBy,
            row.Revision == 1 ? "draft.made" : "draft.changed",
            $"{row.Kind}/{row.Key}",
            new { revision = row.Revision, label = change.Label }
        );

    private static ChangeRow Change(DraftRow row, string label, IReadOnlyList<Edit> edits, IReadOnlyList<Edit> inverse) =>
        new()
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

    /// <summary>The change of a document that has no edits: where its text became another one.</summary>
    private static ChangeRow Change(DraftRow row, string label, string before)
    {
        var change = Change(row, label, [], []);
        change.Edits = JsonSerializer.Serialize(TextChange.Between(before, row.Content));
        return change;
    }

    /// <summary>A document as it is held once it is stored.</summary>
    public Document Kept(Document document) => kept.Of(document);

    /// <summary>Makes drafts or replaces what they hold, all or none, each as one change.</summary>
    /// <param name="documents">Each with the revision it replaces; 0 for a new draft.</param>
    public async Task SaveAll(
        IReadOnlyList<(Document Document, long Expected)> documents,
        string label,
        Author by,
        CancellationToken cancel
    )
    {
        await turn.WaitAsync(cancel);
        try
        {
            await RequireRights(documents.Select(each => each.Document), by, cancel);
            foreach (var (document, _) in documents)
            {
                by.Require(Permissions.Configure, releases.Default.Definitions.Application, document);
            }

            var present = await Rows(
                [.. documents.Where(each => each.Expected > 0).Select(each => (each.Document.Kind.Name(), each.Document.Key))],
                cancel
            );
            (DraftRow Row, ChangeRow Change)[] all =
            [
                .. documents
                    .SideBySide()
                    .Select(each => (each.Document, each.Expected, Written: DocumentFile.WriteAndReadBack(each.Document)))
                    .AsSequential()
                    .Select(each =>
                    {
                        var before = present.GetValueOrDefault((each.Document.Kind.Name(), each.Document.Key));
                        var row = NewRow(each.Document, each.Expected + 1, by, each.Written);
                        row.Published = before?.Published;
                        return (row, Change(row, label, each.Document, before));
                    }),
            ];
            await Store(all, cancel);
            foreach (var ((document, _), (row, _)) in documents.Zip(all))
            {
                parsed[(row.Kind, row.Key)] = (row.Revision, kept.Of(row.Content, document), []);
            }

            SpareMemory.After(all.Length);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>What the change of a layout is called that was archived with its entity.</summary>
    public const string WithEntity = "Archived with its entity";

    /// <summary>Whether a layout was archived with its entity, and was not touched since.</summary>
    public async Task<bool> WentWithEntity(string layout, CancellationToken cancel)
    {
        var row = await Row(DocumentKind.Layout, layout, cancel);
        return await store.ChangesAfter(row.Kind, row.Key, row.Revision - 1, cancel) is [{ Label: WithEntity }];
    }

    /// <summary>Replaces drafts that are there, or makes them, all or none.</summary>
    /// <returns>Each at the revision it is at then.</returns>
    public async Task<IReadOnlyList<DraftReference>> Replace(
        IReadOnlyList<Document> documents,
        string label,
        Author by,
        CancellationToken cancel
    )
    {
        var all = new List<(Document Document, long Expected)>();
        foreach (var document in documents)
        {
            all.Add((document, (await store.Find(document.Kind.Name(), document.Key, cancel))?.Revision ?? 0));
        }

        await SaveAll(all, label, by, cancel);
        return [.. all.Select(each => new DraftReference(each.Document.Kind.Name(), each.Document.Key, each.Expected + 1))];
    }

    private ChangeRow Change(DraftRow row, string label, Document document, DraftRow? before)
    {
        if (before is null || document is not Document.OfLayout { Layout: var next })
        {
            return before is null ? Change(row, label, [], []) : Change(row, label, before.Content);
        }

        var applied = ParsedOrNull(before) is Document.OfLayout { Layout: var old } ? old.Apply(LayoutDiff.Edits(old, next)) : null;
        return Change(row, label, applied?.Edits ?? [], applied?.Inverse ?? []);
    }

    /// <summary>A menu as a document, with the revision of the draft it replaces.</summary>
    public async Task<(Document Document, long Expected)> Menu(Navigation menu, CancellationToken cancel)
    {
        var document = new Document.OfNavigation(menu);
        return (document, (await store.Find(document.Kind.Name(), document.Key, cancel))?.Revision ?? 0);
    }

    /// <summary>The next row of a draft. By whatever way a document came, it is read back before it is stored.</summary>
    /// <param name="before">What it was made of, which has been read back.</param>
    /// <exception cref="RefusedException">422: it would not be read back the same, with the place.</exception>
    private DraftRow NewRow(Document document, long revision, Author by, Document? before = null) =>
        NewRow(document, revision, by, DocumentFile.WriteAndReadBack(document, before));

    private DraftRow NewRow(Document document, long revision, Author by, (string Text, IReadOnlyList<FileProblem> Problems) written)
    {
        var (text, problems) = written;
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

    public static string ToJson(IReadOnlyList<Edit> edits) => Encoding.UTF8.GetString(Bytes(writer => TreeJson.Write(writer, edits)).Span);

    private static JsonElement Element(string json) => JsonElement.Parse(json);

    /// <summary>What a layout shows: its entity, of a piece its slots.</summary>
    internal static Entity EntityOf(Layout layout, Catalogue catalogue) =>
        catalogue.EntityOf(layout) ?? throw Problems.NotFound($"entity", layout.Entity, catalogue.Definitions.Entities.Keys);

    /// <summary>What is written, as a JSON element that answers can hold.</summary>
    public static JsonElement Element(Action<Utf8JsonWriter> write) => JsonElement.Parse(Bytes(write).Span);

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
