using BrightTier.Contracts;
using BrightTier.Core.Checks;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;
using BrightTier.Records;
using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Service.Layouts;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Releases;

/// <summary>
/// Makes releases, all or nothing: check everything; give added fields their place in the tables; store the texts; then, in one transaction,
/// write the release and move the pointer; last, tell everyone. A process that dies between any two of these leaves the old release or the new one.
/// </summary>
public sealed class Publishing(
    DraftDocuments drafts, ReleaseStore store, CurrentRelease releases, IRecordStore records, Broadcaster broadcaster, TimeProvider time, IOptions<ServiceOptions> options) : IDisposable
{
    /// <summary>The steps between which a process may die, in order.</summary>
    public static IReadOnlyList<string> Steps { get; } = ["checked", "tables-defined", "contents-stored", "before-commit", "committed", "current"];

    private readonly SemaphoreSlim turn = new(1, 1);

    public void Dispose() => turn.Dispose();

    public async Task<ReleaseRow> Publish(PublishRequest request, string by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            if (request.Documents.Count == 0)
            {
                throw Problems.Invalid("Name at least one document to publish.", new ProblemPart("/documents", "is empty"));
            }

            var rows = new List<DraftRow>();
            for (var i = 0; i < request.Documents.Count; i++)
            {
                var reference = request.Documents[i];
                var pointer = $"/documents/{i.ToString(System.Globalization.CultureInfo.InvariantCulture)}";
                var kind = Documents.KindNamed(reference.Kind)
                    ?? throw Problems.Invalid($"There are no documents of kind '{reference.Kind}'; there are: {string.Join(", ", Documents.KindNames)}.", new ProblemPart(pointer + "/kind", "is no kind"));
                var row = await drafts.Row(kind, reference.Key, cancel);
                if (row.Revision != reference.Revision)
                {
                    throw new RefusedException(
                        409, "draft-moved-on", $"The {reference.Kind} '{reference.Key}' is at revision {row.Revision} by now, changed by {row.ChangedBy}; look at it before publishing it.",
                        [new ProblemPart(pointer + "/revision", $"is {reference.Revision}, the draft is at {row.Revision}")]);
                }

                rows.Add(row);
            }

            return await Release(rows.ToDictionary(row => (row.Kind, row.Key), row => row.Content), [.. rows.Select(row => (row.Kind, row.Key, row.Revision))], request.Note, null, by, cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Makes a new release of what an old one held, or of what is current with some documents as the old one had them. Drafts are left alone.</summary>
    public async Task<ReleaseRow> Restore(long number, RestoreRequest request, string by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            if (number > releases.Snapshot.Number || await store.Find(number, cancel) is null)
            {
                throw Problems.NotFound("release", number.ToString(System.Globalization.CultureInfo.InvariantCulture));
            }

            var texts = (await store.Texts(number, cancel)).ToDictionary(text => (text.Kind, text.Key), text => text.Text);
            if (request.Documents is null)
            {
                return await Release(texts, [], request.Note, number, by, cancel);
            }

            var some = new Dictionary<(string Kind, string Key), string>();
            for (var i = 0; i < request.Documents.Count; i++)
            {
                var (kind, key) = request.Documents[i];
                some[(kind, key)] = texts.GetValueOrDefault((kind, key))
                    ?? throw Problems.Invalid($"Release {number} has no {kind} '{key}'.", new ProblemPart($"/documents/{i.ToString(System.Globalization.CultureInfo.InvariantCulture)}", "is not in that release"));
            }

            if (some.Count == 0)
            {
                throw Problems.Invalid("Name at least one document, or leave documents out to go back to all of the release.", new ProblemPart("/documents", "is empty"));
            }

            var said = request.Note.Length > 0 ? request.Note : $"{string.Join(", ", some.Keys.Select(name => $"{name.Kind} {name.Key}"))} as in release {number}";
            return await Release(some, [], said, null, by, cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    private async Task<ReleaseRow> Release(
        Dictionary<(string Kind, string Key), string> texts, IReadOnlyList<(string Kind, string Key, long Revision)> published, string note, long? restores, string by, CancellationToken cancel)
    {
        var previous = releases.Snapshot.Number;
        if (restores is null)
        {
            foreach (var text in await store.Texts(previous, cancel))
            {
                texts.TryAdd((text.Kind, text.Key), text.Text);
            }
        }

        var documents = texts.ToDictionary(pair => pair.Key, pair => Snapshot.Parse(pair.Value));
        var next = new Snapshot(previous + 1, documents.Values);
        Check(next);
        Step("checked");
        await records.Define(next.Definitions, next.Catalogue.SortedFields, cancel);
        Step("tables-defined");
        await store.StoreContents(texts.Values, cancel);
        Step("contents-stored");
        var release = new ReleaseRow { Number = next.Number, At = time.GetUtcNow().ToUnixTimeMilliseconds(), By = by, Note = note, Restores = restores };
        release.Documents.AddRange(texts.Select(pair => new ReleaseDocumentRow { Release = next.Number, Kind = pair.Key.Kind, Key = pair.Key.Key, Hash = ReleaseStore.HashOf(pair.Value) }));
        if (!await store.Publish(release, previous, published, () => Step("before-commit"), cancel))
        {
            await releases.Load(cancel);
            throw new RefusedException(409, "release-between", $"Release {releases.Snapshot.Number} was published at the same moment; look at it and publish again.");
        }

        Step("committed");
        releases.Become(next);
        Step("current");
        broadcaster.Tell("release", System.Text.Json.JsonSerializer.Serialize(new { release = next.Number }));
        return release;
    }

    /// <summary>No layout with an error is published, nor one that what is published would break; nor does a field go missing.</summary>
    private void Check(Snapshot next)
    {
        var parts = new List<ProblemPart>();
        foreach (var entity in next.Definitions.Entities.Values)
        {
            foreach (var field in entity.Fields)
            {
                Missing(entity, field, field.Target, "entity", next.Definitions.Entities.Keys);
                Missing(entity, field, field.ChoiceList, "choice list", next.Definitions.ChoiceLists.Keys);
            }

            foreach (var old in releases.Snapshot.Definitions.Entities.GetValueOrDefault(entity.Key)?.Fields ?? [])
            {
                if (entity.Find(old.Key) is not { } now)
                {
                    parts.Add(new ProblemPart($"entity/{entity.Key}", $"the field '{old.Key}' is gone; fields are retired ('retired: true'), not removed, so that nothing is lost", "field-removed"));
                }
                else if (now.Type != old.Type || now.Target != old.Target)
                {
                    parts.Add(new ProblemPart($"entity/{entity.Key}", $"the field '{old.Key}' would change its type; add another field instead", "type-changed"));
                }
            }
        }

        parts.AddRange(Checker.CheckDocuments(next.Catalogue)
            .Where(finding => finding.Severity is Severity.Error && finding.Code != "definition-missing")
            .Select(finding => new ProblemPart($"{finding.Kind.Name()}/{finding.Key}{finding.Pointer}", finding.Message, finding.Code)));
        foreach (var layout in next.Catalogue.Layouts.Values)
        {
            parts.AddRange(Checker.Check(layout, next.Catalogue)
                .Where(finding => finding.Severity is Severity.Error)
                .Select(finding => new ProblemPart($"layout/{layout.Key}/{finding.Node}", finding.Message, finding.Code)));
        }

        if (parts.Count > 0)
        {
            throw new RefusedException(422, "findings", parts.Count == 1 ? parts[0].Message : $"{parts.Count} errors stand against publishing; nothing was published. The first: {parts[0].Message}", parts);
        }

        void Missing(Entity entity, Field field, string? key, string what, IEnumerable<string> there)
        {
            if (key is not null && !there.Contains(key))
            {
                parts.Add(new ProblemPart($"entity/{entity.Key}", $"'{field.Key}' names the {what} '{key}', which is not there{Suggestion.For(key, [.. there])}", "unknown"));
            }
        }
    }

    private void Step(string name)
    {
        if (options.Value.KillAt == name)
        {
            System.Diagnostics.Process.GetCurrentProcess().Kill();
            Thread.Sleep(Timeout.Infinite);
        }
    }
}
