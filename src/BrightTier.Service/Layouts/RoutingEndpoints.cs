using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Resolution;
using BrightTier.Storage;

namespace BrightTier.Service.Layouts;

/// <summary>Who gets which layout, tried out before it is published.</summary>
public static class RoutingEndpoints
{
    public static void MapRouting(this IEndpointRouteBuilder api) =>
        api.MapGet("/routing", Try)
            .WithName("explainRouting")
            .NeedsReader()
            .WithTags("layouts")
            .Produces<RoutedInfo>()
            .WithSummary(
                "Which layout a person, or somebody with these roles (commas between), gets of an entity by the drafts' "
                    + "rules, and what each rule says; for one record where its number is given."
            );

    /// <summary>The person it is tried for, or the caller with these roles.</summary>
    private static async Task<Caller> Acting(
        Caller caller,
        string? person,
        string? roles,
        Application application,
        PeopleStore people,
        CancellationToken cancel
    )
    {
        var (id, held) = (
            caller.Person.Id,
            (roles ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
        );
        if (person is not null)
        {
            var everyone = (await people.List(cancel)).Select(PersonAnswer.Of).ToArray();
            var who = everyone.FirstOrDefault(each => each.Id == person)
                ?? throw Problems.NotFound($"person", person, everyone.Select(each => each.Id));
            (id, held) = (who.Id, [.. who.Roles]);
        }

        var known = application.Roles.Select(role => role.Key).ToArray();
        if (held.FirstOrDefault(role => !known.Contains(role)) is { } stranger)
        {
            throw Problems.NotFound($"role", stranger, known);
        }

        return new Caller(
            new PersonRow
            {
                Id = id,
                Name = "",
                Roles = string.Join(' ', held),
                Language = caller.Person.Language,
            },
            false,
            "",
            0
        );
    }

    private static async Task<IResult> Try(
        HttpContext http,
        DraftDocuments drafts,
        PeopleStore people,
        IRecordStore store,
        RecordContext around,
        string? entity,
        string? kind,
        string? person,
        string? roles,
        string? mode,
        long? record,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var catalogue = await drafts.Catalogue(cancel);
        var definition = catalogue.Definitions.Entities.GetValueOrDefault(entity ?? "")
            ?? throw Problems.NotFound($"entity", entity ?? "", catalogue.Definitions.Entities.Keys);
        var of = kind ?? "full";
        var acting = await Acting(caller, person, roles, catalogue.Definitions.Application, people, cancel);
        IReadOnlyDictionary<string, object?> values = new Dictionary<string, object?>();
        if (record is { } number)
        {
            http.Caller(Permissions.ReadRecords);
            var stored = await store.Find(definition, number, cancel)
                ?? throw Problems.NotFound($"record", number.ToString(System.Globalization.CultureInfo.InvariantCulture));
            values = stored.Values;
        }

        var rules = catalogue
            .Routing.Rules.Select((rule, i) => (rule, i))
            .Where(each => each.rule.Entity == definition.Key && each.rule.Kind == of)
            .ToArray();
        var steps = rules
            .Where(each => each.rule.When is not null)
            .SelectMany(each => Condition.Compile(each.rule.When!, definition, catalogue.Definitions).Expression?.Reads() ?? []);
        var surroundings = await around.Around(
            definition,
            values,
            steps,
            catalogue.Definitions,
            acting,
            mode ?? Modes.Edit,
            caller.Person.Language,
            cancel,
            asker: caller
        );
        var decided = false;
        var tried = new List<RuleVerdictInfo>();
        foreach (var (rule, i) in rules)
        {
            var verdict = LayoutSelector.Verdict(rule, catalogue, definition, acting.Roles, surroundings);
            tried.Add(
                new RuleVerdictInfo(
                    i,
                    verdict switch
                    {
                        RuleVerdict.Fits => decided ? "too-late" : "decides",
                        RuleVerdict.OtherRoles => "other-roles",
                        RuleVerdict.ConditionFails => "condition-fails",
                        _ => "no-layout",
                    }
                )
            );
            decided |= verdict is RuleVerdict.Fits;
        }

        var layout = LayoutSelector.LayoutFor(catalogue, definition, of, acting.Roles, surroundings);
        return TypedResults.Json(
            new RoutedInfo(
                layout.Key,
                layout.Title?.In(caller.Person.Language) ?? layout.Key,
                !catalogue.Layouts.ContainsKey(layout.Key),
                tried
            ),
            WireJson.Default.RoutedInfo
        );
    }
}
