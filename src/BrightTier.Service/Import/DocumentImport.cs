using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Import;

/// <summary>
/// Takes documents made elsewhere into the drafts, all or none: from a folder that was pulled, or from a bundle. Says first what would come
/// of it.
/// </summary>
public sealed class DocumentImport(DraftDocuments drafts)
{
    private const int Most = 2_000;

    /// <param name="bases">Says what a document was made from where the request does not; null where nothing is to be looked for.</param>
    /// <returns>What came of it, and the documents as they were sent, with the ids they have here.</returns>
    public async Task<(ImportReport Report, IReadOnlyList<Document> Sent)> Take(
        ImportRequest request,
        string label,
        Author by,
        CancellationToken cancel,
        FileBases? bases = null
    )
    {
        if (request.Documents.Count > Most || (request.Documents.Count == 0 && request.Folder is null))
        {
            throw Problems.Invalid(
                $"From 1 to {Most} documents are imported at once; these are {request.Documents.Count}.",
                Problems.Part("/documents", request.Documents.Count == 0 ? (Message)$"is empty" : $"are too many")
            );
        }

        var rows = (await drafts.List(cancel)).ToDictionary(row => (row.Kind, row.Key));
        var arriving = await Arriving(request, rows, bases, cancel);
        var before = await drafts.Catalogue(cancel);
        var after = before.With(arriving.Where(each => each.Changes).Select(each => each.Document));
        var gone = Gone(request, bases, rows, arriving, after);
        after = gone.Documents.Aggregate(after, (all, document) => all.With(document));
        var findings = New(before, after);
        if (!request.DryRun)
        {
            RequireNoConflict(arriving);
            gone.RequireUnused();
        }

        // What goes with something archived is the last word on it.
        var changing = arriving
            .Where(each => each.Changes)
            .Select(each => each.Document)
            .Concat(gone.Documents)
            .GroupBy(document => (document.Kind, document.Key))
            .Select(same => same.Last())
            .ToArray();
        var taken = !request.DryRun && changing.Length > 0;
        if (taken)
        {
            await drafts.SaveAll([.. changing.Select(document => (document, Revision(document.Kind, document.Key)))], label, by, cancel);
        }

        var report = new ImportReport(taken, [.. arriving.SideBySide().Select(each => Info(each, before, taken))], findings)
        {
            Missing = gone.Answer(
                (kind, key) => Revision(kind, key) + (taken && gone.Gone.Any(each => (each.Kind, each.Key) == (kind, key)) ? 1 : 0)
            ),
        };
        return (report, [.. arriving.Select(each => each.Sent), .. gone.Gone]);

        long Revision(DocumentKind kind, string key) => rows.GetValueOrDefault((kind.Name(), key))?.Revision ?? 0;
    }

    /// <summary>What comes of each document that was sent, over its draft.</summary>
    private async Task<List<IncomingDocument>> Arriving(
        ImportRequest request,
        Dictionary<(string Kind, string Key), DraftRow> rows,
        FileBases? bases,
        CancellationToken cancel
    )
    {
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
        var based = new List<(Document Sent, Document? From, (Document?, long, string)? Draft, Message? Where)>();
        foreach (var (read, before) in Read(request.Documents))
        {
            var row = rows.GetValueOrDefault((read.Kind.Name(), read.Key));
            var (from, where) =
                before is null && row is not null && bases is not null ? await bases.Of(read, row, cancel) : (before, (Message?)null);
            // What it was made from may itself leave out ids, as a file edited by hand does: it is the draft that knows them.
            var now = row is null ? null : drafts.ParsedOrNull(row);
            from = from?.CarriedFrom(now);
            var sent = read.CarriedFrom(from ?? now);
            based.Add((sent, from, row is null ? null : (now, row.Revision, row.ChangedBy), where));
        }

        return
        [
            .. based
                .SideBySide()
                .Select(each =>
                    IncomingDocument.Reconcile(each.Sent, each.From, each.Draft, request.Merge, side) with
                    {
                        Sent = each.Sent,
                        Where = each.Where,
                    }
                )
                // What is found in them is found in what the drafts will hold.
                .Select(each => each.Changes ? each with { Document = drafts.Kept(each.Document) } : each),
        ];
    }

    private static void RequireNoConflict(IReadOnlyList<IncomingDocument> arriving)
    {
        var stopped = arriving
            .SelectMany(
                (each, i) =>
                    each
                        .Conflicts.Where(_ => each.Change == "conflict")
                        .Select(message => Problems.Part($"/documents/{i}", message, "conflict"))
            )
            .ToArray();
        if (stopped.Length > 0)
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
    }

    /// <summary>What came from files before and is not in the folder these come from.</summary>
    private MissingDocuments Gone(
        ImportRequest request,
        FileBases? bases,
        Dictionary<(string Kind, string Key), DraftRow> rows,
        List<IncomingDocument> arriving,
        Catalogue after
    )
    {
        var there = (request.Folder ?? []).Select(name => (name.Kind, name.Key)).ToHashSet();
        var gone =
            request.Folder is null || bases is null
                ? []
                : bases
                    .Names.Union((request.Pulled ?? []).Select(name => (name.Kind, name.Key)))
                    .Where(name => !there.Contains(name) && arriving.All(each => (each.Document.Kind.Name(), each.Document.Key) != name))
                    .Select(name => rows.GetValueOrDefault(name) is { } row ? drafts.ParsedOrNull(row) : null)
                    .OfType<Document>()
                    .Where(document =>
                        document is not (Document.OfLayout { Layout.IsArchived: true } or Document.OfEntity { Entity.Archived: true })
                    )
                    .OrderBy(document => document.Kind)
                    .ThenBy(document => document.Key, StringComparer.Ordinal)
                    .ToArray();
        var made = arriving.Where(each => each.Change == "made").Select(each => each.Document).ToArray();
        return new MissingDocuments(gone, made, after, request.ArchiveMissing);
    }

    private static List<(Document Document, Document? Before)> Read(IReadOnlyList<ImportDocument> documents)
    {
        var parts = new List<ProblemPart>();
        var read = new List<(Document, Document?)>();
        var seen = new HashSet<(DocumentKind, string)>();
        var texts = documents.SideBySide().Select(each => (Sent: DocumentFile.Read(each.Text), Before: Before(each))).ToArray();
        for (var i = 0; i < documents.Count; i++)
        {
            var ((document, problems), before) = texts[i];
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
                    ? Suggestion.Sentence($"{parts[0].Pointer}: {parts[0].Message}")
                    : $"There are {parts.Count} things wrong with these documents; nothing was imported.",
                parts
            );

        static Document? Before(ImportDocument each) => each.Before is { } text ? DocumentFile.Read(text).Document : null;
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
            DocumentFile.Write(each.Document),
            each.Change is "merged" or "conflict" ? each.Where?.ToString() : null,
            each.IsAhead
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

    private static IReadOnlyList<NewFinding> New(Catalogue before, Catalogue after)
    {
        if (ReferenceEquals(before, after))
        {
            return [];
        }

        var affected = AffectedLayouts.Between(before, after).ToArray();
        return
        [
            .. All(after, affected)
                .Except(All(before, affected.Select(layout => before.Layouts.GetValueOrDefault(layout.Key)).OfType<Layout>())),
        ];
    }

    private static IEnumerable<NewFinding> All(Catalogue catalogue, IEnumerable<Layout> layouts) =>
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
                layouts
                    .SideBySide()
                    .SelectMany(layout =>
                        Checker
                            .Known(layout, catalogue)
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
