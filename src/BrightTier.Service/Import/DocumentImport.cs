using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Import;

/// <summary>
/// Takes documents made elsewhere into the drafts, all or none: from a folder that was pulled, or from a bundle. Says first what would come
/// of it.
/// </summary>
public sealed class DocumentImport(DraftDocuments drafts)
{
    private const int Most = 2_000;

    /// <summary>One document on its way into its draft.</summary>
    private sealed record IncomingDocument(Document Document, Document? Now, long Revision, string Change, IReadOnlyList<Message> Conflicts)
    {
        public bool Changes => Change is "made" or "changed" or "merged";
    }

    public async Task<ImportReport> Take(ImportRequest request, string label, Author by, CancellationToken cancel)
    {
        if (request.Documents.Count is 0 or > Most)
        {
            throw Problems.Invalid(
                $"From 1 to {Most} documents are imported at once; these are {request.Documents.Count}.",
                Problems.Part("/documents", request.Documents.Count == 0 ? (Message)$"is empty" : $"are too many")
            );
        }

        var side = request.ConflictResolution switch
        {
            null => (Side?)null,
            "mine" => Side.Mine,
            "theirs" => Side.Theirs,
            var other => throw Problems.Invalid(
                $"'conflictResolution' must be mine or theirs; it is '{other}'.",
                Problems.Part("/conflictResolution", $"must be mine or theirs")
            ),
        };
        var sent = Read(request.Documents);
        var rows = (await drafts.List(cancel)).ToDictionary(row => (row.Kind, row.Key));
        var arriving = new List<IncomingDocument>();
        for (var i = 0; i < sent.Count; i++)
        {
            var row = rows.GetValueOrDefault((sent[i].Document.Kind.Name(), sent[i].Document.Key));
            arriving.Add(
                Reconcile(
                    sent[i].Document,
                    sent[i].Before,
                    row is null ? null : (drafts.ParsedOrNull(row), row.Revision, row.ChangedBy),
                    request.Merge,
                    side
                )
            );
        }

        var before = await drafts.Catalogue(cancel);
        var after = arriving.Where(each => each.Changes).Aggregate(before, (all, each) => all.With(each.Document));
        var findings = New(before, after);
        var stopped = arriving
            .SelectMany(
                (each, i) =>
                    each
                        .Conflicts.Where(_ => each.Change == "conflict")
                        .Select(message => Problems.Part($"/documents/{i}", message, "conflict"))
            )
            .ToArray();
        if (stopped.Length > 0 && !request.DryRun)
        {
            throw new RefusedException(
                409,
                "conflict",
                stopped.Length == 1
                    ? Message.Verbatim(stopped[0].Message)
                    : (Message)$"{stopped.Length} things stand against it; nothing was imported. The first: {stopped[0].Message}",
                stopped
            );
        }

        var changing = arriving.Where(each => each.Changes).ToArray();
        var taken = !request.DryRun && changing.Length > 0;
        if (taken)
        {
            await drafts.SaveAll([.. changing.Select(each => (each.Document, each.Revision))], label, by, cancel);
        }

        return new ImportReport(taken, [.. arriving.Select(each => Info(each, before, taken))], findings);
    }

    private static List<(Document Document, Document? Before)> Read(IReadOnlyList<ImportDocument> documents)
    {
        var parts = new List<ProblemPart>();
        var read = new List<(Document, Document?)>();
        var seen = new HashSet<(DocumentKind, string)>();
        for (var i = 0; i < documents.Count; i++)
        {
            var (document, problems) = DocumentFile.Read(documents[i].Text);
            parts.AddRange(
                problems.Select(problem =>
                    Problems.Part(
                        $"/documents/{i}{problem.At.Pointer}",
                        problem.Message,
                        null,
                        problem.At.Line > 0 ? problem.At.Line : null,
                        problem.At.Column > 0 ? problem.At.Column : null
                    )
                )
            );
            if (document is not null && !seen.Add((document.Kind, document.Key)))
            {
                parts.Add(Problems.Part($"/documents/{i}", $"the {document.Kind.Noun()} '{document.Key}' is there twice"));
            }

            var before = documents[i].Before is { } text ? DocumentFile.Read(text).Document : null;
            if (document is not null)
            {
                read.Add((document, before?.Kind == document.Kind && before.Key == document.Key ? before : null));
            }
        }

        return parts.Count == 0
            ? read
            : throw new RefusedException(
                422,
                "document-invalid",
                parts.Count == 1
                    ? (Message)$"{parts[0].Pointer}: {parts[0].Message}."
                    : $"There are {parts.Count} things wrong with these documents; nothing was imported.",
                parts
            );
    }

    /// <summary>What comes of one document over what its draft holds by now.</summary>
    private static IncomingDocument Reconcile(
        Document sent,
        Document? from,
        (Document? Document, long Revision, string By)? draft,
        bool merge,
        Side? take
    )
    {
        var (now, revision) = (draft?.Document, draft?.Revision ?? 0);
        // What it was made from may itself leave out ids, as a file edited by hand does: it is the draft that knows them.
        from = from?.CarriedFrom(now);
        sent = sent.CarriedFrom(from ?? now);

        if (draft is null)
        {
            return new IncomingDocument(sent, null, 0, "made", []);
        }

        if (now is null)
        {
            return !merge && take is Side.Mine
                ? new IncomingDocument(sent, null, revision, "changed", [])
                : Stopped(
                    $"The draft of the {sent.Kind.Noun()} '{sent.Key}' cannot be read here, so that nothing is merged with "
                        + $"it; recover it first, or put this in its place."
                );
        }

        if (
            now is Document.OfLayout { Layout.Entity: var entity }
            && sent is Document.OfLayout { Layout.Entity: var other }
            && entity != other
        )
        {
            return Stopped($"The layout '{sent.Key}' is for '{entity}' here, not for '{other}'; a layout's entity stays what it is.");
        }

        var (theirs, mine) = (DocumentFile.Write(now), DocumentFile.Write(sent));
        if (theirs == mine)
        {
            return new IncomingDocument(sent, now, revision, "unchanged", []);
        }

        // Without merging one side counts whole, if anybody says which.
        if ((!merge && take is Side.Mine) || (from is not null && DocumentFile.Write(from) == theirs))
        {
            return new IncomingDocument(sent, now, revision, "changed", []);
        }

        if (from is not null && DocumentFile.Write(from) == mine)
        {
            // Only here was it changed since: nothing of it is to be taken back.
            return new IncomingDocument(now, now, revision, "unchanged", []);
        }

        if (!merge)
        {
            return take is Side.Theirs
                ? new IncomingDocument(now, now, revision, "unchanged", [])
                : Stopped(MovedOn(sent, from is null, draft!.Value.By));
        }

        return Merged(sent, from, now, revision, take);

        IncomingDocument Stopped(Message message) => new(sent, now, revision, "conflict", [message]);
    }

    private static Message MovedOn(Document sent, bool isNew, string by)
    {
        var (noun, key) = (sent.Kind.Noun(), sent.Key);
        return isNew
            ? (Message)$"The draft of the {noun} '{key}' is there already, changed by {by}. Pull it again, merge, or say which side counts."
            : $"The draft of the {noun} '{key}' moved on since, changed by {by}. Pull it again, merge, or say which side counts.";
    }

    private static IncomingDocument Merged(Document sent, Document? from, Document now, long revision, Side? take)
    {
        var merged = DocumentMerge.Merge(from, sent, now, take ?? Side.Mine);
        var conflicts = merged.Conflicts.Select(each => each.Message).ToArray();
        return merged.Document is null
                ? Stopped(
                    merged.Problems.Count > 0
                        ? (Message)$"The {sent.Kind.Noun()} '{sent.Key}' cannot be merged: {merged.Problems[0].Message}."
                        : $"The {sent.Kind.Noun()} '{sent.Key}' cannot be merged: one side did away with it."
                )
            : conflicts.Length > 0 && take is null ? new IncomingDocument(merged.Document, now, revision, "conflict", conflicts)
            : new IncomingDocument(
                merged.Document,
                now,
                revision,
                DocumentFile.Write(merged.Document) == DocumentFile.Write(now) ? "unchanged" : "merged",
                conflicts
            );

        IncomingDocument Stopped(Message message) => new(sent, now, revision, "conflict", [message]);
    }

    private static ImportedDocument Info(IncomingDocument each, Catalogue before, bool taken) =>
        new(
            each.Document.Kind.Name(),
            each.Document.Key,
            each.Change,
            each.Changes && each.Now is { } now ? DocumentMerge.Describe(now, each.Document).Texts() : [],
            each.Changes ? Noticed(each, before) : [],
            each.Conflicts.Texts(),
            each.Revision + (taken && each.Changes ? 1 : 0),
            DocumentFile.Write(each.Document)
        );

    /// <summary>Every place that would notice what a document does away with.</summary>
    private static IReadOnlyList<string> Noticed(IncomingDocument each, Catalogue before)
    {
        IEnumerable<(string Subject, string Name)> gone = (each.Now, each.Document) switch
        {
            (Document.OfEntity { Entity: var old }, Document.OfEntity { Entity: var next }) => old
                .Current.Where(field => next.Find(field.Key) is not { Retired: false })
                .Select(field => ("field", $"{old.Key}.{field.Key}")),
            (Document.OfChoiceList { ChoiceList: var old }, Document.OfChoiceList { ChoiceList: var next }) => old
                .Choices.Where(choice => !choice.Retired && next.Find(choice.Key) is not { Retired: false })
                .Select(choice => ("choice", $"{old.Key}.{choice.Key}")),
            (Document.OfApplication { Application: var old }, Document.OfApplication { Application: var next }) => old
                .Roles.Where(role => next.Roles.All(other => other.Key != role.Key))
                .Select(role => ("role", role.Key)),
            (Document.OfLayout { Layout: { Kind: "piece", Key: var piece } }, _) => [("piece", piece)],
            _ => [],
        };
        return
        [
            .. gone.SelectMany(what =>
                Impact.Of(what.Subject, what.Name, before).Select(use => $"{what.Subject} {what.Name}: {use.Message}")
            ),
        ];
    }

    private static IReadOnlyList<NewFinding> New(Catalogue before, Catalogue after) =>
        ReferenceEquals(before, after) ? [] : [.. All(after).Except(All(before))];

    private static IEnumerable<NewFinding> All(Catalogue catalogue) =>
        Checker
            .CheckDocuments(catalogue)
            .Select(finding => new NewFinding(
                finding.Kind.Name(),
                finding.Key,
                finding.Pointer,
                Severity(finding.Severity),
                finding.Code,
                finding.Message.ToString()
            ))
            .Concat(
                catalogue.Layouts.Values.SelectMany(layout =>
                    Checker
                        .Check(layout, catalogue)
                        .Select(finding => new NewFinding(
                            "layout",
                            layout.Key,
                            finding.Node.Name,
                            Severity(finding.Severity),
                            finding.Code,
                            finding.Message.ToString()
                        ))
                )
            );

    private static string Severity(Severity severity) => severity.ToString().ToLowerInvariant();
}
