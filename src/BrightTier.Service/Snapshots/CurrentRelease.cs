using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Snapshots;

/// <summary>A release that some people get before everyone does.</summary>
public sealed record StagedRelease(Snapshot Snapshot, Audience Audience);

/// <summary>What people get: everyone one release, some perhaps another. Whoever asks gets one of them whole.</summary>
public sealed record ActiveReleases(Snapshot Everyone, StagedRelease? Staged)
{
    public Snapshot For(string person, IReadOnlyList<string> roles) =>
        Staged is { } staged && staged.Audience.Because(person, roles) is not null ? staged.Snapshot : Everyone;
}

/// <summary>Which release whom is served.</summary>
public sealed class CurrentRelease(ReleaseStore store, KeptLayouts kept, ILogger<CurrentRelease> log)
{
    private readonly AsyncLocal<Snapshot?> asked = new();
    private ActiveReleases serving = new(Snapshot.None, null);

    public ActiveReleases Active => Volatile.Read(ref serving);

    /// <summary>The release that whoever asks right now is served; everyone's where nobody asks.</summary>
    public Snapshot Snapshot => asked.Value ?? Default;

    /// <summary>The release of everyone to whom none is staged.</summary>
    public Snapshot Default => Active.Everyone;

    /// <summary>From here on to the end of this request it is served as this person of these roles is.</summary>
    public void Serve(string person, IReadOnlyList<string> roles)
    {
        if (Active is { Staged: not null } now)
        {
            asked.Value = now.For(person, roles);
        }
    }

    public void Become(ActiveReleases next) => Volatile.Write(ref serving, next);

    /// <summary>Takes what the database says is current; what was before and is now.</summary>
    public async Task<(ActiveReleases Before, ActiveReleases Now)> Load(CancellationToken cancel)
    {
        var before = Active;
        var (current, staged) = await store.Active(cancel);
        var everyone = await At(current, before, cancel);
        var now = new ActiveReleases(
            everyone,
            staged is { } some
                ? new StagedRelease(await At(some.Number, before, cancel), new Audience(some.Number, some.Terms, some.Share))
                : null
        );
        if (
            now.Everyone != before.Everyone
            || now.Staged?.Snapshot != before.Staged?.Snapshot
            || (now.Staged is { } next && before.Staged is { } last && !next.Audience.IsAs(last.Audience))
        )
        {
            Become(now);
            return (before, now);
        }

        return (before, before);
    }

    /// <summary>An entity of the release that whoever asks is served.</summary>
    public Entity Entity(string key) =>
        Snapshot.Definitions.Entities.GetValueOrDefault(key) ?? throw Problems.NotFound($"entity", key, Snapshot.Definitions.Entities.Keys);

    private async Task<Snapshot> At(long number, ActiveReleases known, CancellationToken cancel) =>
        number == known.Everyone.Number ? known.Everyone
        : number == known.Staged?.Snapshot.Number ? known.Staged.Snapshot
        : await Read(number, await store.Texts(number, cancel, LayoutHeadJson.Reader), cancel);

    /// <summary>A release of these texts, with what is served in the place of those that cannot be read.</summary>
    public async Task<Snapshot> Read(long number, IEnumerable<ReleasedText> texts, CancellationToken cancel)
    {
        var all = texts.ToArray();
        var snapshot = await Snapshot.Of(number, all, kept, text => Instead(text, number, cancel));
        if (Heads(snapshot, all.Where(text => text.Head is null)) is { Count: > 0 } heads)
        {
            await store.KeepHeads(heads, cancel);
        }

        foreach (var damaged in snapshot.Damaged)
        {
            log.LogError(
                "The {Kind} '{Key}' of release {Release} cannot be read, {Reason}",
                damaged.Kind,
                damaged.Key,
                number,
                damaged.Told
            );
        }

        return snapshot;
    }

    /// <summary>What reading the layouts among some texts of a release came to, to be kept for the next start.</summary>
    public static IReadOnlyList<LayoutHeadRow> Heads(Snapshot snapshot, IEnumerable<ReleasedText> texts)
    {
        var damaged = snapshot.Damaged.Select(each => (each.Kind, each.Key)).ToHashSet();
        return
        [
            .. texts
                .Where(text => text.Kind == DocumentKind.Layout.Name() && !damaged.Contains((text.Kind, text.Key)))
                .Select(text => (text.Hash, Document: snapshot.Catalogue.Find(DocumentKind.Layout, text.Key) as Document.OfLayout))
                .Where(each => each.Document is not null)
                .Select(each => new LayoutHeadRow
                {
                    Hash = each.Hash,
                    Reader = LayoutHeadJson.Reader,
                    Head = LayoutHeadJson.Write(each.Document!.Layout.Head),
                }),
        ];
    }

    /// <summary>
    /// What is served in the place of a released text that cannot be read: the draft where that holds the very text, else the last text
    /// before that can be read.
    /// </summary>
    private async Task<(Document Document, long Release)?> Instead(ReleasedText text, long number, CancellationToken cancel) =>
        await store.SameInDraft(text, cancel) is { } same && DocumentFile.Read(same, text.Kind, text.Key).Document is { } document
            ? (document, number)
            : await LastReadable(text.Kind, text.Key, number, cancel);

    /// <summary>The newest text of a document, in the releases before one, that can be read.</summary>
    public async Task<(Document Document, long Release)?> LastReadable(string kind, string key, long before, CancellationToken cancel)
    {
        foreach (var (release, text) in await store.EarlierTexts(kind, key, before, cancel))
        {
            if (DocumentFile.Read(text, kind, key).Document is { } document)
            {
                return (document, release);
            }
        }

        return null;
    }
}
