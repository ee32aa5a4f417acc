using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Icons;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Core.Validation;
using BrightTier.Service.Access;
using BrightTier.Service.Forms;
using BrightTier.Service.Hosting;
using BrightTier.Service.Releases;
using BrightTier.Storage;

namespace BrightTier.Service.Layouts;

/// <summary>Questions about drafts: what changed, why something is there, how long a form is, what would notice a change; and starting from templates.</summary>
public static class QuestionEndpoints
{
    public static void MapQuestions(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/layouts").WithTags("layouts");
        group.MapGet("/{key}/compare", Compare).NeedsReader().Produces<Comparison>().WithSummary("What happened between two states of a layout, as edits and in words. from and to name them: released, generated, revision:N of the draft, release:N, or another layout by its key; to is the draft as it is now where nothing else is said. backwards leads from to to from.");
        group.MapGet("/{key}/explain", Explain).NeedsReader().Produces<ExplanationInfo>().WithSummary("Why a node is, or is not, there for a role, mode, width and record.");
        group.MapGet("/{key}/length", Measure).NeedsReader().Produces<IReadOnlyList<LengthInfo>>().WithSummary("How long the draft is at each width; what is published, with released=true.");
        api.MapGet("/impact", Uses).NeedsReader().WithTags("layouts").Produces<IReadOnlyList<UseInfo>>().WithSummary("Every place that uses a field, choice, choice-list, entity, piece, role, pattern, layout or style.");
        api.MapGet("/findings", Findings).NeedsReader().WithTags("definitions").Produces<IReadOnlyList<DocumentFindingInfo>>().WithSummary("What the checks find in drafts that are no layouts.");
        api.MapPost("/templates/{key}", Make).Needs(Acts.Configure).WithTags("layouts").Produces<IReadOnlyList<TemplateLayoutInfo>>(201).WithSummary("Makes drafts of all layouts of a template for an entity, matched by field.");
        api.MapGet("/icons", (HttpContext http) =>
        {
            return TypedResults.Json<IReadOnlyDictionary<string, string>>(Icon.Names.ToDictionary(name => name, Icon.Path), WireJson.Default.IReadOnlyDictionaryStringString);
        }).NeedsReader().WithTags("definitions").Produces<IReadOnlyDictionary<string, string>>().WithSummary("The pictures there are, each as one SVG path on a raster of 24 by 24, by name.");
        api.MapGet("/navigation", Menu).Needs(Acts.ReadRecords).WithTags("definitions").Produces<IReadOnlyList<MenuEntryInfo>>().WithSummary("The business application's menu as the caller sees it.");
    }

    private static async Task<IResult> Compare(
        HttpContext http, string key, DraftDocuments drafts, CurrentRelease releases, ReleaseStore store, string? from, string? to, bool? backwards, CancellationToken cancel)
    {
        var (old, oldName) = await Named(from ?? "released", "from");
        var (layout, name) = to is null ? await Newest() : await Named(to, "to");
        if (backwards is true)
        {
            (old, layout, oldName, name) = (layout, old, name, oldName);
        }

        var entity = (await drafts.Definitions(cancel)).Entities.GetValueOrDefault(layout.Entity);
        var edits = LayoutDiff.Edits(old, layout);
        return TypedResults.Json(
            new Comparison(oldName, name, DraftDocuments.Element(writer => TreeJson.Write(writer, edits)), [.. EditSummary.Tell(old, edits, field => entity?.Find(field)?.Label.ToString() ?? field)]),
            WireJson.Default.Comparison);

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
                    return (releases.Snapshot.Catalogue.Layouts.GetValueOrDefault(key) ?? throw Problems.NotFound("published layout", key, releases.Snapshot.Catalogue.Layouts.Keys), name);
                case ["generated"]:
                    return (LayoutEndpoints.Generated((await drafts.Layout(key, cancel)).Layout, await drafts.Definitions(cancel)), name);
                case ["revision", var number]:
                    var (row, newest) = await drafts.Layout(key, cancel);
                    return long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var revision) && revision >= 1 && revision <= row.Revision
                        ? (await drafts.At(row, newest, revision, cancel), name)
                        : throw Problems.Invalid($"There is no revision '{number}' of '{key}'; the newest is {row.Revision}.", new ProblemPart(parameter, "names no revision"));
                case ["release", var number]:
                    var texts = long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var release) && release <= releases.Snapshot.Number ? await store.Texts(release, cancel) : [];
                    if (texts.Count == 0)
                    {
                        throw Problems.Invalid($"There is no release '{number}'; the newest is {releases.Snapshot.Number}.", new ProblemPart(parameter, "names no release"));
                    }

                    var text = texts.FirstOrDefault(each => each.Kind == DocumentKind.Layout.Name() && each.Key == key);
                    return text is null ? throw Problems.NotFound($"layout in release {number}", key) : (DocumentFile.Read(text.Text, text.Kind, text.Key).Document is Document.OfLayout { Layout: var released }
                        ? released : throw new RefusedException(409, "document-damaged", $"The layout '{key}' of release {number} cannot be read."), name);
                default:
                    return ((await drafts.Layout(name, cancel)).Layout, name);
            }
        }
    }

    private static async Task<IResult> Explain(
        HttpContext http, string key, DraftDocuments drafts, string? node, string? role, string? mode, string? width, long? record, CancellationToken cancel)
    {
        var caller = http.Caller();
        if (string.IsNullOrEmpty(node))
        {
            throw Problems.Invalid("Say which node: ?node=mastHeight.", new ProblemPart("node", "is missing"));
        }

        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        var entity = EntityOf(layout, catalogue);
        var asked = mode ?? Modes.Edit;
        if (!Modes.All.Contains(asked))
        {
            throw Problems.Invalid($"There is no mode '{asked}'; there are: {string.Join(", ", Modes.All)}.", new ProblemPart("mode", "must be create, edit or view"));
        }

        var roles = catalogue.Definitions.Application.Roles.Select(each => each.Key).ToArray();
        if (role is not null && !roles.Contains(role))
        {
            throw Problems.NotFound("role", role, roles);
        }

        var assembled = LayoutComposer.Assemble(layout, catalogue);
        var at = width is null ? assembled.Base : assembled.At(width, catalogue.Definitions.Application) ?? throw Problems.NotFound("width", width, assembled.WidthNames(catalogue.Definitions.Application));
        var viewer = new Viewer([.. role is null ? roles : [role]], FormEndpoints.LanguageOf(http, caller, catalogue.Definitions.Application));
        Core.Conditions.EvaluationContext? situation = null;
        if (record is { } id)
        {
            var steps = at.Walk().SelectMany(each => each.Word("visible") is { } text ? Condition.Compile(text, entity, catalogue.Definitions).Expression?.Reads() ?? [] : []);
            situation = await RecordInView.Around(http, id, entity, steps, catalogue.Definitions, asked, viewer.Language, cancel);
        }

        var explanation = LayoutExplainer.Explain(at, new NodeId(node), entity, catalogue.Definitions, viewer, asked, situation) ?? throw Problems.NotFound("node", node, at.Walk().Select(each => each.Id.Name));
        return TypedResults.Json(
            new ExplanationInfo(explanation.Node.Name, explanation.Shown, [.. explanation.Reasons.Select(reason => new ReasonInfo(reason.Node.Name, reason.Property, reason.Shows, reason.Message))]),
            WireJson.Default.ExplanationInfo);
    }

    private static async Task<IResult> Measure(HttpContext http, string key, DraftDocuments drafts, CurrentRelease releases, bool? released, CancellationToken cancel)
    {
        var (_, layout) = await drafts.Layout(key, cancel);
        var catalogue = await drafts.Catalogue(cancel);
        if (released is true)
        {
            catalogue = releases.Snapshot.Catalogue;
            layout = catalogue.Layouts.GetValueOrDefault(key) ?? throw Problems.NotFound("published layout", key, catalogue.Layouts.Keys);
        }

        var entity = EntityOf(layout, catalogue);
        return TypedResults.Json<IReadOnlyList<LengthInfo>>(
            [
                .. Length.Widths(LayoutComposer.Assemble(Pieces.AsForm(layout), catalogue), catalogue.Definitions.Application).Select(width =>
                {
                    var length = Length.Measure(width.Layout, entity, catalogue.Definitions, width.Rem);
                    return new LengthInfo(width.Name, width.Rem, length.Rows, Math.Round(length.Screens, 2));
                }),
            ],
            WireJson.Default.IReadOnlyListLengthInfo);
    }

    private static async Task<IResult> Uses(HttpContext http, DraftDocuments drafts, string? what, string? name, CancellationToken cancel)
    {
        if (string.IsNullOrEmpty(what) || string.IsNullOrEmpty(name))
        {
            throw Problems.Invalid("Say what is asked about: ?what=field&name=vessel.length.", new ProblemPart(string.IsNullOrEmpty(what) ? "what" : "name", "is missing"));
        }

        if (!Impact.Subjects.Contains(what))
        {
            throw Problems.Invalid(Suggestion.Sentence($"One cannot ask about '{what}'{Suggestion.For(what, Impact.Subjects)}"), new ProblemPart("what", $"must be one of {string.Join(", ", Impact.Subjects)}"));
        }

        var catalogue = await drafts.Catalogue(cancel);
        var uses = Impact.Of(what, name, catalogue);
        // What is gone may be used still, and is worth asking about; what never was is a mistake in the question.
        if (uses.Count == 0 && Impact.Names(what, catalogue) is var names && !names.Contains(name))
        {
            throw Problems.NotFound(what, name, names);
        }

        return TypedResults.Json<IReadOnlyList<UseInfo>>([.. uses.Select(use => new UseInfo(use.Kind.Name(), use.Key, use.Place, use.As, use.Message))], WireJson.Default.IReadOnlyListUseInfo);
    }

    private static async Task<IResult> Findings(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        return TypedResults.Json<IReadOnlyList<DocumentFindingInfo>>(
            [
                .. Checker.CheckDocuments(await drafts.Catalogue(cancel)).Select(finding =>
                    new DocumentFindingInfo(finding.Code, finding.Severity.ToString().ToLowerInvariant(), finding.Kind.Name(), finding.Key, finding.Pointer, finding.Message, finding.Evidence)),
            ],
            WireJson.Default.IReadOnlyListDocumentFindingInfo);
    }

    private static async Task<IResult> Make(HttpContext http, string key, TemplateRequest body, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        var catalogue = await drafts.Catalogue(cancel);
        var template = catalogue.Templates.GetValueOrDefault(key) ?? throw Problems.NotFound("template", key, catalogue.Templates.Keys);
        var entity = catalogue.Definitions.Entities.GetValueOrDefault(body.Entity) ?? throw Problems.NotFound("entity", body.Entity, catalogue.Definitions.Entities.Keys);
        var first = body.Key ?? entity.Key;
        if (!NodeId.IsWellFormed(first))
        {
            throw Problems.Invalid($"'{first}' is no key: it must begin with a letter and have only letters, digits, '-' and '_'.", new ProblemPart("/key", "is no key"));
        }

        var made = TemplateLayouts.Make(template, catalogue, entity, first);
        if (made.FirstOrDefault(each => catalogue.Layouts.ContainsKey(each.Layout.Key)) is { } taken)
        {
            throw new RefusedException(409, "key-taken", $"There is a layout '{taken.Layout.Key}' already; nothing was made. Give another key.");
        }

        foreach (var each in made)
        {
            await drafts.Put(new Document.OfLayout(each.Layout), 0, caller.Author, cancel);
        }

        return TypedResults.Json<IReadOnlyList<TemplateLayoutInfo>>([.. made.Select(each => new TemplateLayoutInfo(each.Layout.Key, [.. each.Strays]))], WireJson.Default.IReadOnlyListTemplateLayoutInfo, statusCode: 201);
    }

    private static IResult Menu(HttpContext http, CurrentRelease releases)
    {
        var caller = http.Caller();
        var language = FormEndpoints.LanguageOf(http, caller, releases.Snapshot.Definitions.Application);
        return TypedResults.Json<IReadOnlyList<MenuEntryInfo>>([.. releases.Snapshot.Catalogue.Navigation.For(caller.Roles).Entries.Select(entry => Info(entry, language))], WireJson.Default.IReadOnlyListMenuEntryInfo);
    }

    private static MenuEntryInfo Info(MenuEntry entry, string language) =>
        new(entry.Key, entry.Title.In(language), Icon.Path(entry.Icon), entry.Entity, entry.Address, [.. entry.Entries.Select(each => Info(each, language))]);

    /// <summary>What a layout shows: its entity, of a piece its slots.</summary>
    internal static Entity EntityOf(Layout layout, Catalogue catalogue) =>
        catalogue.EntityOf(layout) ?? throw Problems.NotFound("entity", layout.Entity, catalogue.Definitions.Entities.Keys);
}
