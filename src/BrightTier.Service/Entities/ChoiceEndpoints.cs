using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Entities;

/// <summary>Choice lists as people edit them: in order, labelled in each language, retired where records may still hold them.</summary>
public static class ChoiceEndpoints
{
    private const int Most = 1_000;

    public static void MapChoices(this IEndpointRouteBuilder api)
    {
        api.MapGet("/choice-lists", All)
            .WithTags("entities")
            .WithName("listChoiceLists")
            .NeedsReader()
            .Produces<IReadOnlyList<ChoiceListSummary>>()
            .WithSummary("The drafts of all choice lists, with how many fields use each.");
        var group = api.MapGroup("/choice-lists/{key}").WithTags("entities");
        group
            .MapGet("", Get)
            .WithName("getChoiceList")
            .NeedsReader()
            .Produces<ChoiceListInfo>()
            .WithSummary("The draft of a choice list, and the fields that use it.");
        group
            .MapPut("", Put)
            .WithName("putChoiceList")
            .Needs(Permissions.Configure)
            .Produces<ChoiceListInfo>()
            .WithSummary("Changes the draft of a choice list; a choice that was ever published is retired, never removed.");
    }

    private static async Task<IResult> All(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        var catalogue = await drafts.Catalogue(cancel);
        var language = http.LanguageOf(http.Caller(), catalogue.Definitions.Application);
        var uses = catalogue
            .Definitions.Entities.Values.SelectMany(entity => entity.Fields)
            .Where(field => field.ChoiceList is not null)
            .CountBy(field => field.ChoiceList!)
            .ToDictionary(StringComparer.Ordinal);
        return TypedResults.Json<IReadOnlyList<ChoiceListSummary>>(
            [
                .. (await drafts.Known(DocumentKind.ChoiceList, cancel))
                    .Select(draft => (draft.Row, Document: draft.Document as Document.OfChoiceList))
                    .Where(each => each.Document is not null)
                    .Select(each => new ChoiceListSummary(
                        each.Row.Key,
                        each.Document!.ChoiceList.Label.In(language),
                        [.. each.Document.ChoiceList.Choices.Where(choice => !choice.Retired).Select(choice => choice.Label.In(language))],
                        uses.GetValueOrDefault(each.Row.Key),
                        each.Row.Revision,
                        each.Row.Published
                    )),
            ],
            WireJson.Default.IReadOnlyListChoiceListSummary
        );
    }

    private static async Task<IResult> Get(HttpContext http, string key, DraftDocuments drafts, CancellationToken cancel)
    {
        return TypedResults.Json(await Info(key, drafts, cancel), WireJson.Default.ChoiceListInfo);
    }

    private static async Task<ChoiceListInfo> Info(string key, DraftDocuments drafts, CancellationToken cancel)
    {
        var row = await drafts.Row(DocumentKind.ChoiceList, key, cancel);
        var list = ((Document.OfChoiceList)drafts.Parsed(row)).ChoiceList;
        var catalogue = await drafts.Catalogue(cancel);
        return new ChoiceListInfo(
            key,
            list.Label.ToString(),
            row.Revision,
            [.. list.Choices.Select(choice => new EditedChoice(choice.Label.ByLanguage, choice.Key, choice.Retired))],
            [.. Impact.Of("choice-list", key, catalogue).Select(use => use.Message.ToString()).Distinct()]
        );
    }

    private static async Task<IResult> Put(
        HttpContext http,
        string key,
        ChoiceListChange body,
        DraftDocuments drafts,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var row = await drafts.Row(DocumentKind.ChoiceList, key, cancel);
        var list = ((Document.OfChoiceList)drafts.Parsed(row)).ChoiceList;
        var languages = (await drafts.Definitions(cancel)).Application.Languages;
        var published = releases.Snapshot.Definitions.ChoiceLists.GetValueOrDefault(key)?.Choices ?? [];
        var wrong = new List<ProblemPart>();
        var choices = new List<Choice>();
        for (var i = 0; i < Math.Min(body.Choices.Count, Most); i++)
        {
            var choice = body.Choices[i];
            var labels = choice
                .Labels.Where(pair => !string.IsNullOrWhiteSpace(pair.Value))
                .ToDictionary(pair => pair.Key, pair => pair.Value.Trim());
            if (labels.Count == 0)
            {
                wrong.Add(Problems.Part($"/choices/{i}/labels", $"must say what the choice is called"));
                continue;
            }

            if (labels.Keys.FirstOrDefault(tag => tag.Length > 0 && !languages.Contains(tag)) is { } unknown)
            {
                wrong.Add(
                    Problems.Part(
                        $"/choices/{i}/labels/{unknown}",
                        $"is no language of the application; there are: {string.Join(", ", languages)}"
                    )
                );
            }

            var name = choice.Key
                ?? Keys.Fresh(Keys.Of(Texts.Of(labels).ToString(), "choice"), taken =>
                    list.Find(taken) is not null || choices.Any(each => each.Key == taken)
                );
            if (choices.Any(each => each.Key == name) || (choice.Key is not null && list.Find(name) is null))
            {
                wrong.Add(
                    Problems.Part(
                        $"/choices/{i}/key",
                        list.Find(name) is null
                            ? (Message)$"'{name}' is no choice of the list; leave the key out for a new one"
                            : $"'{name}' is there twice"
                    )
                );
            }

            choices.Add(new Choice(name, Texts.Of(labels), choice.Retired));
        }

        wrong.AddRange(
            published
                .Where(choice => choices.All(each => each.Key != choice.Key))
                .Select(choice => Problems.Part("/choices", $"must keep '{choice.Key}', which records may hold; retire it instead"))
        );
        wrong.AddRange(body.Choices.Count is 0 or > Most ? [Problems.Part("/choices", $"must have from 1 to {Most} choices")] : []);
        if (wrong.Count > 0)
        {
            throw Problems.Invalid($"The list cannot be saved: {wrong[0].Pointer[1..]} {wrong[0].Message}.", [.. wrong]);
        }

        await drafts.Save(new Document.OfChoiceList(list with { Choices = [.. choices] }), body.Revision, caller.Author, cancel);
        return TypedResults.Json(await Info(key, drafts, cancel), WireJson.Default.ChoiceListInfo);
    }
}
