using System.Globalization;
using System.Net.Http.Headers;
using System.Text;
using BrightTier.Contracts;

namespace BrightTier.Client;

// Documents of every kind: what they say, their files, bundles of them.
public sealed partial class BrightTierClient
{
    public Task<IReadOnlyList<EntitySummary>> Entities(CancellationToken cancel) =>
        Get("api/entities", WireJson.Default.IReadOnlyListEntitySummary, cancel);

    public Task<EntityInfo> Entity(string key, CancellationToken cancel) =>
        Get($"api/entities/{Escape(key)}", WireJson.Default.EntityInfo, cancel);

    /// <summary>Archives an entity with what belongs to it; the drafts to publish then.</summary>
    public Task<IReadOnlyList<DraftReference>> ArchiveEntity(string key, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/entities/{Escape(key)}/archive", null, WireJson.Default.IReadOnlyListDraftReference, null, cancel);

    /// <summary>Brings an archived entity back with the layouts that went with it; the drafts to publish then.</summary>
    public Task<IReadOnlyList<DraftReference>> BringBackEntity(string key, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/entities/{Escape(key)}/bring-back", null, WireJson.Default.IReadOnlyListDraftReference, null, cancel);

    /// <summary>Which entities point at which, as drafts.</summary>
    public Task<IReadOnlyList<EntityRelations>> Relations(CancellationToken cancel) =>
        Get("api/relations", WireJson.Default.IReadOnlyListEntityRelations, cancel);

    /// <summary>What happened to a draft of any kind, its newest changes first.</summary>
    public Task<DocumentHistory> DocumentHistory(string kind, string key, CancellationToken cancel) =>
        Get($"api/documents/{Escape(kind)}/{Escape(key)}/changes", WireJson.Default.DocumentHistory, cancel);

    /// <summary>Makes a draft what it was at a revision, as one more change.</summary>
    public Task<SaveResult> RestoreDocument(string kind, string key, long revision, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/documents/{Escape(kind)}/{Escape(key)}/restore",
            Body(new RevisionRequest(revision), WireJson.Default.RevisionRequest),
            WireJson.Default.SaveResult,
            null,
            cancel
        );

    public Task<PatternTestResult> TestPattern(PatternTest trial, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            "api/patterns/test",
            Body(trial, WireJson.Default.PatternTest),
            WireJson.Default.PatternTestResult,
            null,
            cancel
        );

    public Task<IReadOnlyList<PatternInfo>> Patterns(CancellationToken cancel) =>
        Get("api/patterns", WireJson.Default.IReadOnlyListPatternInfo, cancel);

    public Task<ChoiceListInfo> ChoiceList(string key, CancellationToken cancel) =>
        Get($"api/choice-lists/{Escape(key)}", WireJson.Default.ChoiceListInfo, cancel);

    public Task<ChoiceListInfo> ChangeChoiceList(string key, ChoiceListChange change, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            $"api/choice-lists/{Escape(key)}",
            Body(change, WireJson.Default.ChoiceListChange),
            WireJson.Default.ChoiceListInfo,
            null,
            cancel
        );

    public Task<IReadOnlyList<UseInfo>> Impact(string subject, string name, CancellationToken cancel) =>
        Get($"api/impact?subject={Escape(subject)}&name={Escape(name)}", WireJson.Default.IReadOnlyListUseInfo, cancel);

    public Task<IReadOnlyList<DocumentFindingInfo>> DocumentFindings(CancellationToken cancel) =>
        Get("api/findings", WireJson.Default.IReadOnlyListDocumentFindingInfo, cancel);

    public Task<IReadOnlyList<MenuEntryInfo>> Navigation(CancellationToken cancel) =>
        Get("api/navigation", WireJson.Default.IReadOnlyListMenuEntryInfo, cancel);

    /// <summary>Every draft there is, of whatever kind.</summary>
    public Task<IReadOnlyList<DocumentSummary>> Documents(CancellationToken cancel) =>
        Get("api/documents", WireJson.Default.IReadOnlyListDocumentSummary, cancel);

    /// <summary>A draft as a file, of any kind of document.</summary>
    public async Task<FileText> File(string kind, string key, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Get,
            FileAddress(kind, key),
            null,
            request => request.Headers.Accept.ParseAdd("application/yaml"),
            cancel
        );
        return new FileText(await answer.Content.ReadAsStringAsync(cancel), answer.Headers.ETag?.Tag ?? "");
    }

    /// <summary>Replaces a draft by a file, or makes it when <paramref name="tag"/> is null.</summary>
    public Task<SaveResult> PutFile(string kind, string key, string text, string? tag, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            FileAddress(kind, key),
            new StringContent(text, Encoding.UTF8, "application/yaml"),
            WireJson.Default.SaveResult,
            request => Precondition(request, tag),
            cancel
        );

    /// <summary>Takes documents into the drafts, all or none; or says what would come of it.</summary>
    public Task<ImportReport> ImportDocuments(ImportRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/documents", Body(request, WireJson.Default.ImportRequest), WireJson.Default.ImportReport, null, cancel);

    /// <summary>Documents in one archive: those named kind/key with all they rest on, or every one.</summary>
    /// <param name="release">The release they are of; null for what everyone has, or, with <paramref name="draft"/>, the drafts.</param>
    public async Task<byte[]> ExportBundle(
        IEnumerable<string> documents,
        bool draft,
        bool withoutDependencies,
        CancellationToken cancel,
        long? release = null
    )
    {
        using var answer = await Ask(
            HttpMethod.Get,
            $"api/bundle?draft={(draft ? "true" : "false")}&withoutDependencies={(withoutDependencies ? "true" : "false")}"
                + $"{Part("release", release?.ToString(CultureInfo.InvariantCulture))}"
                + $"{string.Concat(documents.Select(name => Part("document", name)))}",
            null,
            null,
            cancel
        );
        return await answer.Content.ReadAsByteArrayAsync(cancel);
    }

    /// <summary>Takes a bundle into the drafts, all or none; or says what would come of it.</summary>
    public Task<ImportReport> ImportBundle(
        byte[] bundle,
        IEnumerable<string> only,
        IEnumerable<string> rename,
        bool dryRun,
        bool merge,
        string? conflictResolution,
        CancellationToken cancel
    )
    {
        var body = new ByteArrayContent(bundle);
        body.Headers.ContentType = new MediaTypeHeaderValue("application/zip");
        return Send(
            HttpMethod.Post,
            $"api/bundle?dryRun={(dryRun ? "true" : "false")}&merge={(merge ? "true" : "false")}"
                + $"{Part("conflictResolution", conflictResolution)}{string.Concat(only.Select(name => Part("only", name)))}"
                + $"{string.Concat(rename.Select(rule => Part("rename", rule)))}",
            body,
            WireJson.Default.ImportReport,
            null,
            cancel
        );
    }

    private static string FileAddress(string kind, string key) =>
        kind == "layout" ? $"api/layouts/{Escape(key)}" : $"api/documents/{Escape(kind)}/{Escape(key)}";
}
