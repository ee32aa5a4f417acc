using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Audit;
using BrightTier.Service.Events;
using BrightTier.Service.Hosting;
using BrightTier.Service.Drafts;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Releases;

/// <summary>
/// Makes releases, all or nothing: check everything; give added fields their place in the tables; store the texts; then, in one transaction,
/// write the release and move the pointer; last, tell everyone. A process that dies between any two of these leaves the old release or the new one.
/// </summary>
public sealed class ReleasePublisher(
    DraftDocuments drafts, ReleaseStore store, ScheduledReleaseStore plans, PeopleStore people, CurrentRelease releases, DraftApprovals approving, IRecordStore records, Broadcaster broadcaster, AuditTrail audit, TimeProvider time, IOptions<ServiceOptions> options) : IDisposable
{
    private readonly SemaphoreSlim turn = new(1, 1);
    private readonly Lock gate = new();
    private ActiveReleases? told;

    public void Dispose() => turn.Dispose();

    /// <summary>What a release is to be, beside its documents.</summary>
    /// <param name="Roles">The roles it goes to first; null for everyone.</param>
    /// <param name="EveryoneAt">When those that went to some first go to everyone by themselves, in Unix milliseconds.</param>
    /// <param name="OverrideReason">Why it goes out although checks stand against it; null where none may.</param>
    /// <param name="Restores">The release brought back whole.</param>
    /// <param name="Plan">The plan it carries out.</param>
    private sealed record Terms(string Note, Author Author, IReadOnlyList<string>? Roles = null, long? EveryoneAt = null, string? OverrideReason = null, long? Restores = null, long? Plan = null)
    {
        public string By => Author.Id;
    }

    public async Task<ReleaseRow> Publish(PublishRequest request, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            var rows = await Chosen(request.Documents, by, cancel);
            return await Release(
                Texts(rows), rows.ToDictionary(row => (row.Kind, row.Key), row => row.Revision),
                new Terms(request.Note, by, Roles(request.Roles), Moment(request.EveryoneAt, request.Roles, time.GetUtcNow()), Reason(request.OverrideReason)), cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Sets a release for a time. What it will publish is what the drafts hold now, checked now and once more when its time has come.</summary>
    public async Task<ScheduledReleaseRow> Plan(ScheduleRequest request, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            var now = time.GetUtcNow();
            if (request.At <= now || request.At > now.AddYears(1))
            {
                throw Problems.Invalid("A release is scheduled for a time after now, within a year.", new ProblemPart("/at", "must be after now and within a year"));
            }

            var rows = await Chosen(request.Documents, by, cancel);
            var (roles, everyone, overrideReason) = (Roles(request.Roles), Moment(request.EveryoneAt, request.Roles, request.At), Reason(request.OverrideReason));
            var texts = await Complete(Texts(rows), cancel);
            var planned = await Next(0, texts, cancel);
            by.InsistOnRights(releases.Default.Definitions, planned.Definitions);
            Check(planned, overrideReason is not null);
            var before = (await store.Texts(releases.Default.Number, cancel)).ToDictionary(text => (text.Kind, text.Key), text => text.Hash);
            await store.StoreContents(rows.Select(row => row.Content), cancel);
            var plan = new ScheduledReleaseRow
            {
                By = by.Id,
                Note = request.Note,
                Made = now.ToUnixTimeMilliseconds(),
                Due = request.At.ToUnixTimeMilliseconds(),
                Roles = roles is null ? null : string.Join(' ', roles),
                EveryoneAt = everyone,
                OverrideReason = overrideReason,
                State = ScheduledReleaseRow.Scheduled,
            };
            plan.Documents.AddRange(rows.Select(row => new ScheduledDocumentRow
            {
                Kind = row.Kind,
                Key = row.Key,
                Revision = row.Revision,
                Hash = ReleaseStore.HashOf(row.Content),
                Before = before.GetValueOrDefault((row.Kind, row.Key)),
            }));
            await plans.Add(plan, cancel);
            return plan;
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Sees that somebody may publish all that a plan would.</summary>
    /// <exception cref="RefusedException">403.</exception>
    public async Task InsistOnPlan(ScheduledReleaseRow plan, Author by, CancellationToken cancel)
    {
        var texts = await plans.Texts(plan, cancel);
        Insist(plan.Documents.Select(document => new ReleasedText(document.Kind, document.Key, document.Hash, texts[document.Hash])), by);
    }

    /// <summary>Makes the release that a plan is of. What was published otherwise since it was planned is not undone by it.</summary>
    public async Task<ReleaseRow> Carry(ScheduledReleaseRow plan, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            // What somebody planned is carried out by the rights she has when its time has come.
            var by = await people.Find(plan.By, cancel) is { } planner
                ? new Author(planner.Id, planner.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries))
                : throw new RefusedException(403, "person-gone", $"'{plan.By}', who scheduled this, does not exist any more.");
            var now = (await store.Texts(releases.Default.Number, cancel)).ToDictionary(text => (text.Kind, text.Key), text => text.Hash);
            if (plan.Documents.FirstOrDefault(document => now.GetValueOrDefault((document.Kind, document.Key)) is var published && published != document.Before && published != document.Hash) is { } other)
            {
                throw new RefusedException(409, "published-since", $"The {other.Kind} '{other.Key}' was published differently after this was scheduled; check it and schedule it again.");
            }

            var texts = await plans.Texts(plan, cancel);
            Insist(plan.Documents.Select(document => new ReleasedText(document.Kind, document.Key, document.Hash, texts[document.Hash])), by);
            return await Release(
                plan.Documents.ToDictionary(document => (document.Kind, document.Key), document => new ReleasedText(document.Kind, document.Key, document.Hash, texts[document.Hash])), plan.Documents.ToDictionary(document => (document.Kind, document.Key), document => document.Revision),
                new Terms(plan.Note, by, plan.Roles?.Split(' '), plan.EveryoneAt, plan.OverrideReason, Plan: plan.Id), cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Makes a new release of what an old one held, or of what is current with some documents as the old one had them. Drafts are left alone.</summary>
    public async Task<ReleaseRow> Restore(long number, RestoreRequest request, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            if (await store.Find(number, cancel) is null)
            {
                throw Problems.NotFound("release", number.ToString(CultureInfo.InvariantCulture));
            }

            var texts = (await store.Texts(number, cancel)).ToDictionary(text => (text.Kind, text.Key));
            var none = new Dictionary<(string, string), long>();
            if (request.Documents is null)
            {
                Insist(texts.Values, by);
                return await Release(texts, none, new Terms(request.Note, by, Restores: number), cancel);
            }

            var some = new Dictionary<(string Kind, string Key), ReleasedText>();
            for (var i = 0; i < request.Documents.Count; i++)
            {
                var (kind, key) = request.Documents[i];
                some[(kind, key)] = texts.GetValueOrDefault((kind, key))
                    ?? throw Problems.Invalid($"Release {number} has no {kind} '{key}'.", new ProblemPart($"/documents/{i.ToString(CultureInfo.InvariantCulture)}", "is not in that release"));
            }

            if (some.Count == 0)
            {
                throw Problems.Invalid("Name at least one document, or leave documents out to go back to all of the release.", new ProblemPart("/documents", "is empty"));
            }

            Insist(some.Values, by);
            var said = request.Note.Length > 0 ? request.Note : $"{string.Join(", ", some.Keys.Select(name => $"{name.Kind} {name.Key}"))} as in release {number}";
            return await Release(some, none, new Terms(said, by), cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Gives the release that some have ahead to everyone, or takes it back from them.</summary>
    /// <param name="by">Who asks, who may publish everything the release changes; or the service, when its time has come.</param>
    public async Task End(long number, bool everyone, Author by, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            if (await store.Find(number, cancel) is { } release)
            {
                var before = (await store.Texts(release.Base, cancel)).ToDictionary(text => (text.Kind, text.Key), text => text.Hash);
                var changed = (await store.Texts(number, cancel)).Where(text => before.GetValueOrDefault((text.Kind, text.Key)) != text.Hash);
                Insist(changed, by);
            }

            if (!await store.End(number, everyone, audit.Entry(by.Id, everyone ? "release.promoted" : "release.cancelled", $"release/{number}", null), () => Step("before-end"), cancel))
            {
                throw new RefusedException(409, "not-staged", $"Release {number} is not out to some roles alone (any more).");
            }

            Step("ended");
            Tell(await releases.Load(cancel));
        }
        finally
        {
            turn.Release();
        }
    }

    /// <summary>Tells the clients of this process whom a new release concerns.</summary>
    public void Tell((ActiveReleases Before, ActiveReleases Now) change)
    {
        ActiveReleases before, now;
        lock (gate)
        {
            // Of a release this process made, the loop that listens to the others may hear as well: it is told once.
            (before, now) = (told ?? change.Before, releases.Active);
            told = now;
        }

        if (RightsChange.Between(before.Everyone.Definitions, now.Everyone.Definitions).Count > 0)
        {
            // What a stream is told of depends on what its listener may: it begins anew.
            broadcaster.EndHere(_ => true);
        }

        if (now.Everyone.Number != before.Everyone.Number)
        {
            Say(now.Everyone.Number, null);
        }

        if (now.Ahead?.Snapshot.Number != before.Ahead?.Snapshot.Number)
        {
            if (now.Ahead is { } ahead)
            {
                Say(ahead.Snapshot.Number, ahead.Roles);
            }
            else if (now.Everyone.Number == before.Everyone.Number)
            {
                Say(now.Everyone.Number, before.Ahead!.Roles);
            }
        }

        void Say(long release, IReadOnlyList<string>? roles) => broadcaster.TellHere("release", System.Text.Json.JsonSerializer.Serialize(new { release }), roles: roles);
    }

    /// <summary>The drafts somebody names, each at the revision she saw, hers to publish, and approved where that is asked for.</summary>
    private async Task<List<DraftRow>> Chosen(IReadOnlyList<DraftReference> documents, Author by, CancellationToken cancel)
    {
        if (documents.Count == 0)
        {
            throw Problems.Invalid("Name at least one document to publish.", new ProblemPart("/documents", "is empty"));
        }

        var rows = new List<DraftRow>();
        for (var i = 0; i < documents.Count; i++)
        {
            var reference = documents[i];
            var pointer = $"/documents/{i.ToString(CultureInfo.InvariantCulture)}";
            var kind = DocumentFile.KindNamed(reference.Kind)
                ?? throw Problems.Invalid($"There are no documents of kind '{reference.Kind}'; there are: {string.Join(", ", DocumentFile.KindNames)}.", new ProblemPart(pointer + "/kind", "is no kind"));
            var row = await drafts.Row(kind, reference.Key, cancel);
            if (row.Revision != reference.Revision)
            {
                throw new RefusedException(
                    409, "draft-moved-on", $"The {reference.Kind} '{reference.Key}' is at revision {row.Revision} by now, changed by {row.ChangedBy}; look at it before publishing it.",
                    [new ProblemPart(pointer + "/revision", $"is {reference.Revision}, the draft is at {row.Revision}")]);
            }

            by.InsistOn(Acts.Publish, releases.Default.Definitions.Application, drafts.Parsed(row));
            rows.Add(row);
        }

        // Whether approval is asked for is what everyone has now: no release can exempt itself.
        if (releases.Default.Definitions.Application.Approval)
        {
            await approving.InsistOn(rows, cancel);
        }

        return rows;
    }

    /// <summary>The release that texts would make. One that cannot be read is not among those published, and stays as it is.</summary>
    private Task<Snapshot> Next(long number, Dictionary<(string Kind, string Key), ReleasedText> texts, CancellationToken cancel) =>
        releases.Read(number, texts.Values, cancel);

    /// <summary>Texts of releases or plans, all hers to publish.</summary>
    private void Insist(IEnumerable<ReleasedText> texts, Author by)
    {
        foreach (var text in texts)
        {
            by.InsistOn(Acts.Publish, releases.Default.Definitions.Application, DocumentFile.Read(text.Text, text.Kind, text.Key).Document
                ?? throw new RefusedException(409, "document-damaged", $"The {text.Kind} '{text.Key}' of that release cannot be read, so that it is not brought back. Name the documents to bring back without it.", [new ProblemPart("/documents", $"{text.Kind}/{text.Key} cannot be read")]));
        }
    }

    private IReadOnlyList<string>? Roles(IReadOnlyList<string>? roles)
    {
        if (roles is null)
        {
            return null;
        }

        var known = releases.Default.Definitions.Application.Roles.Select(role => role.Key).ToArray();
        if (roles.Count == 0 || roles.FirstOrDefault(role => !known.Contains(role)) is not null)
        {
            var wrong = roles.FirstOrDefault(role => !known.Contains(role));
            throw Problems.Invalid(
                wrong is null ? "Name the roles it goes to first, or leave 'roles' out for everyone." : Suggestion.Sentence($"There is no role '{wrong}'{Suggestion.For(wrong, known)}"), new ProblemPart("/roles", wrong is null ? "is empty" : $"names '{wrong}'"));
        }

        return [.. roles.Distinct()];
    }

    private static long? Moment(DateTimeOffset? everyoneAt, IReadOnlyList<string>? roles, DateTimeOffset after) =>
        everyoneAt is not { } at ? null
        : roles is null ? throw Problems.Invalid("'everyoneAt' is for a release that goes to some roles first; name them in 'roles'.", new ProblemPart("/everyoneAt", "needs 'roles'"))
        : at <= after ? throw Problems.Invalid("A release goes to everyone after it has gone to some.", new ProblemPart("/everyoneAt", "must be later"))
        : at.ToUnixTimeMilliseconds();

    private static string? Reason(string? overrideReason) =>
        overrideReason is null ? null
        : overrideReason.Trim().Length is < 1 or > 500 ? throw Problems.Invalid("Say in at most 500 characters why it goes out although checks stand against it.", new ProblemPart("/overrideReason", "must have from 1 to 500 characters"))
        : overrideReason.Trim();

    private static Dictionary<(string Kind, string Key), ReleasedText> Texts(IEnumerable<DraftRow> rows) =>
        rows.ToDictionary(row => (row.Kind, row.Key), row => new ReleasedText(row.Kind, row.Key, ReleaseStore.HashOf(row.Content), row.Content));

    /// <summary>Some documents with all others as everyone has them.</summary>
    private async Task<Dictionary<(string Kind, string Key), ReleasedText>> Complete(Dictionary<(string Kind, string Key), ReleasedText> texts, CancellationToken cancel)
    {
        foreach (var text in await store.Texts(releases.Default.Number, cancel))
        {
            texts.TryAdd((text.Kind, text.Key), text);
        }

        return texts;
    }

    private async Task<ReleaseRow> Release(Dictionary<(string Kind, string Key), ReleasedText> texts, Dictionary<(string Kind, string Key), long> revisions, Terms terms, CancellationToken cancel)
    {
        var (previous, ahead) = (releases.Default.Number, releases.Active.Ahead);
        if (ahead is not null)
        {
            throw new RefusedException(409, "release-staged", $"Release {ahead.Snapshot.Number} is staged for {string.Join(", ", ahead.Roles)}; promote or cancel it before the next.");
        }

        if (previous == 0 && terms.Roles is not null)
        {
            throw Problems.Invalid("The first release goes to everyone.", new ProblemPart("/roles", "must be left out"));
        }

        if (terms.Restores is null)
        {
            await Complete(texts, cancel);
        }

        var next = await Next(await store.NextNumber(cancel), texts, cancel);
        InsistOnRights(next, revisions, terms);
        var standing = Check(next, terms.OverrideReason is not null);
        Step("checked");
        await records.Define(next.Definitions, next.Catalogue.SortedFields, cancel);
        Step("tables-defined");
        await store.StoreContents(texts.Values.Where(text => revisions.ContainsKey((text.Kind, text.Key))).Select(text => text.Text), cancel);
        Step("contents-stored");
        var at = time.GetUtcNow().ToUnixTimeMilliseconds();
        var release = new ReleaseRow { Number = next.Number, At = at, By = terms.By, Note = terms.Note, Restores = terms.Restores, Base = previous, OverrideReason = standing.Count > 0 ? terms.OverrideReason : null };
        release.Documents.AddRange(texts.Select(pair => new ReleaseDocumentRow
        {
            Release = next.Number,
            Kind = pair.Key.Kind,
            Key = pair.Key.Key,
            Hash = pair.Value.Hash,
            Revision = revisions.TryGetValue(pair.Key, out var revision) ? revision : null,
        }));
        var rollout = terms.Roles is { } roles
            ? new RolloutRow { Release = next.Number, Roles = string.Join(' ', roles), EveryoneAt = terms.EveryoneAt, State = RolloutRow.Staged, ChangedAt = at, ChangedBy = terms.By }
            : null;
        var entry = audit.Entry(
            terms.By, terms.Restores is null ? "release.published" : "release.restored", $"release/{release.Number}",
            new { note = terms.Note, documents = revisions.Keys.Select(name => $"{name.Kind}/{name.Key}"), roles = terms.Roles, restores = terms.Restores, overrideReason = release.OverrideReason, findings = standing.Count == 0 ? null : standing.Select(part => part.Message) });
        if (!await store.Publish(release, rollout, terms.Plan, entry, () => Step("before-commit"), cancel))
        {
            Tell(await releases.Load(cancel));
            throw new RefusedException(409, "release-between", $"Another release was made at the same moment, {releases.Default.Number} is current; look at it and publish again.");
        }

        Step("committed");
        var before = releases.Active;
        var now = rollout is null ? new ActiveReleases(next, null) : before with { Ahead = new Staged(next, terms.Roles!) };
        releases.Become(now);
        Step("current");
        Tell((before, now));
        return release;
    }

    /// <summary>
    /// What changes who may do what is published by an administrator, and by way of drafts where a second person approves those: going back to an old
    /// release is a change like any other.
    /// </summary>
    private void InsistOnRights(Snapshot next, Dictionary<(string Kind, string Key), long> revisions, Terms terms)
    {
        var now = releases.Default.Definitions;
        terms.Author.InsistOnRights(now, next.Definitions);
        if (now.Application.Approval && revisions.Count == 0 && RightsChange.Between(now, next.Definitions) is { Count: > 0 } changes)
        {
            throw new RefusedException(
                422, "approval-missing", $"Going back would change who may do what, which a second person approves here: {changes[0]} Put it into the draft, have that approved and publish it.",
                [.. changes.Select(change => new ProblemPart("", change, "rights-change"))]);
        }
    }

    /// <summary>No layout with an error is published, nor one that what is published would break; nor does a field go missing.</summary>
    /// <param name="overrideReason">Whether it goes out although layouts have errors. What would lose data never does.</param>
    /// <returns>The errors that stand against it.</returns>
    private List<ProblemPart> Check(Snapshot next, bool overrideReason)
    {
        var parts = new List<ProblemPart>();
        foreach (var entity in next.Definitions.Entities.Values)
        {
            foreach (var field in entity.Fields)
            {
                Missing(entity, field, field.Target, "entity", next.Definitions.Entities.Keys);
                Missing(entity, field, field.ChoiceList, "choice list", next.Definitions.ChoiceLists.Keys);
            }

            foreach (var old in releases.Default.Definitions.Entities.GetValueOrDefault(entity.Key)?.Fields ?? [])
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

        var losing = parts.Count > 0;
        parts.AddRange(Checker.CheckDocuments(next.Catalogue)
            .Where(finding => finding.Severity is Severity.Error && finding.Code != "definition-missing")
            .Select(finding => new ProblemPart($"{finding.Kind.Name()}/{finding.Key}{finding.Pointer}", finding.Message, finding.Code)));
        foreach (var layout in next.Catalogue.Layouts.Values)
        {
            parts.AddRange(Checker.Check(layout, next.Catalogue)
                .Where(finding => finding.Severity is Severity.Error)
                .Select(finding => new ProblemPart($"layout/{layout.Key}/{finding.Node}", finding.Message, finding.Code)));
        }

        if (parts.Count > 0 && (losing || !overrideReason))
        {
            throw new RefusedException(422, "findings", parts.Count == 1 ? parts[0].Message : $"{parts.Count} errors stand against publishing; nothing was published. The first: {parts[0].Message}", parts);
        }

        return parts;

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
