using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Entities;

/// <summary>The units that numbers are counted in, across all entities: a unit is what its fields say it is.</summary>
public static class UnitEndpoints
{
    public static void MapUnits(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/units").WithTags("definitions");
        group
            .MapGet("", List)
            .WithName("listUnits")
            .NeedsReader()
            .Produces<IReadOnlyList<UnitInfo>>()
            .WithSummary("Every unit that a field of a draft has, with those fields.");
        group
            .MapPost("/rename", Rename)
            .WithName("renameUnit")
            .Needs(Permissions.Configure)
            .Produces<UnitReach>()
            .WithSummary("Writes a unit in another way, in the drafts of all entities or for the fields given: all or none.");
    }

    private static async Task<IResult> List(HttpContext http, DraftDocuments drafts, CancellationToken cancel)
    {
        var definitions = await drafts.Definitions(cancel);
        var language = http.LanguageOf(http.Caller(), definitions.Application);
        return TypedResults.Json<IReadOnlyList<UnitInfo>>(
            [
                .. definitions
                    .Entities.Values.SelectMany(entity => entity.Current.Select(field => (Entity: entity, Field: field)))
                    .Where(each => each.Field.Unit is { Length: > 0 })
                    .GroupBy(each => each.Field.Unit!, StringComparer.Ordinal)
                    .OrderBy(unit => unit.Key, StringComparer.InvariantCultureIgnoreCase)
                    .Select(unit => new UnitInfo(
                        unit.Key,
                        [
                            .. unit.Select(each => new UnitField(
                                each.Entity.Key,
                                each.Field.Key,
                                each.Entity.Label.In(language),
                                each.Field.Label.In(language)
                            )),
                        ]
                    )),
            ],
            WireJson.Default.IReadOnlyListUnitInfo
        );
    }

    private static async Task<IResult> Rename(HttpContext http, UnitRename body, DraftDocuments drafts, CancellationToken cancel)
    {
        var to = body.To.Trim();
        if (to.Length == 0)
        {
            throw Problems.Invalid($"A unit is written with at least one character.", Problems.Part("/to", $"is empty"));
        }

        var definitions = await drafts.Definitions(cancel);
        var having = definitions
            .Entities.Values.SelectMany(entity => entity.Fields.Where(field => field.Unit == body.From).Select(field => (entity, field)))
            .Select(each => $"{each.entity.Key}.{each.field.Key}")
            .ToArray();
        if (having.Length == 0)
        {
            var units = definitions.Entities.Values.SelectMany(entity => entity.Fields).Select(field => field.Unit).OfType<string>();
            throw Problems.NotFound($"unit", body.From, units.Distinct());
        }

        if (body.Fields?.Except(having).FirstOrDefault() is { } stranger)
        {
            throw Problems.Invalid(
                $"'{stranger}' is no field counted in '{body.From}'; those are {string.Join(", ", having)}.",
                Problems.Part("/fields", $"has a field of another unit")
            );
        }

        var meant = (body.Fields ?? having).ToHashSet(StringComparer.Ordinal);
        var changed = new List<(Document, long)>();
        foreach (var key in meant.Select(name => name[..name.IndexOf('.', StringComparison.Ordinal)]).Distinct())
        {
            var row = await drafts.Row(DocumentKind.Entity, key, cancel);
            var entity = ((Document.OfEntity)drafts.Parsed(row)).Entity;
            var fields = entity.Fields.Select(field =>
                field.Unit == body.From && meant.Contains($"{key}.{field.Key}") ? field with { Unit = to } : field
            );
            changed.Add((new Document.OfEntity(entity with { Fields = [.. fields] }), row.Revision));
        }

        await drafts.SaveAll(changed, $"Unit {body.From} is {to}", http.Caller().Author, cancel);
        return TypedResults.Json(new UnitReach([.. changed.Select(each => each.Item1.Key)], meant.Count), WireJson.Default.UnitReach);
    }
}
