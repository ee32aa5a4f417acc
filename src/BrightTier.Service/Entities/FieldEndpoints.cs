using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Entities;

/// <summary>Fields a configurator adds to an entity: in the draft at once, in the records' table when it is published.</summary>
public static class FieldEndpoints
{
    public static void MapFields(this IEndpointRouteBuilder api) =>
        api.MapPost("/entities/{key}/fields", Add)
            .WithName("createField")
            .Needs(Permissions.Configure)
            .WithTags("entities")
            .Produces<AddedField>(201)
            .WithSummary(
                "Adds a field to the draft of an entity, with a choice list of its own where choices are given; its key comes "
                    + "from its label."
            );

    private static async Task<IResult> Add(HttpContext http, string key, NewField body, DraftDocuments drafts, CancellationToken cancel)
    {
        var caller = http.Caller();
        // Asked for first: what is read after it is as new at least, and what is changed after that is not written over.
        var revision = (await drafts.Row(DocumentKind.Entity, key, cancel)).Revision;
        var definitions = (await drafts.Catalogue(cancel)).Definitions;
        var entity = definitions.Entities.GetValueOrDefault(key) ?? throw Problems.NotFound($"entity", key, definitions.Entities.Keys);
        if (entity.Attached is { } table)
        {
            throw new RefusedException(
                422,
                "entity-attached",
                $"The fields of '{entity.Label}' are the columns of '{table.Name}', which is attached and never altered. Add the column in "
                    + $"the database '{table.Database}', and bring the entity in line with it."
            );
        }

        var type = RequireValid(body, entity, definitions);
        var name = Keys.Fresh(Keys.Of(body.Label, "field"), taken => entity.Fields.Any(field => field.Key == taken));
        var list = body.ChoiceList;
        var made = new List<(Document, long)>();
        if (type is FieldType.Choice or FieldType.Choices && list is null)
        {
            list = Keys.Fresh(name, definitions.ChoiceLists.ContainsKey);
            var choices = body.Choices!.Select(choice => choice.Trim()).Where(choice => choice.Length > 0);
            made.Add((new Document.OfChoiceList(ChoiceList.Of(list, Texts.Of(body.Label.Trim()), choices)), 0));
        }

        var field = new Field
        {
            Key = name,
            Label = Texts.Of(body.Label.Trim()),
            Type = type,
            Required = body.Required,
            Target = body.Target,
            ChoiceList = list,
            Added = true,
        };
        made.Add((new Document.OfEntity(entity with { Fields = entity.Fields.Add(field) }), revision));
        await drafts.SaveAll(made, $"Adds {name}", caller.Author, cancel);
        return CreatedResource.At(http, $"/api/entities/{entity.Key}", new AddedField(name, list), WireJson.Default.AddedField);
    }

    private static FieldType RequireValid(NewField body, Entity entity, Definitions definitions)
    {
        var wrong = new List<ProblemPart>();
        if (body.Label.Trim().Length is 0 or > Limits.LabelLength)
        {
            wrong.Add(Problems.Part("/label", $"must have from 1 to {Limits.LabelLength} characters"));
        }
        else if (
            entity.Current.FirstOrDefault(field =>
                string.Equals(field.Label.ToString(), body.Label.Trim(), StringComparison.OrdinalIgnoreCase)
            ) is
            { } same
        )
        {
            wrong.Add(Problems.Part("/label", $"is the label of '{same.Key}' already; users could not tell them apart"));
        }

        if (!FieldTypes.TryParse(body.Type, out var type))
        {
            wrong.Add(
                Problems.Part("/type", $"must be one of {string.Join(", ", Enum.GetValues<FieldType>().Select(each => each.Name()))}")
            );
        }
        else if (type is FieldType.Reference && !definitions.Entities.ContainsKey(body.Target ?? ""))
        {
            wrong.Add(Problems.Part("/target", $"must be one of {string.Join(", ", definitions.Entities.Keys)}"));
        }
        else if (
            type is FieldType.Choice or FieldType.Choices
            && body.ChoiceList is null
            && body.Choices?.Any(choice => choice.Trim().Length > 0) is not true
        )
        {
            wrong.Add(Problems.Part("/choices", $"must have at least one choice, unless 'choiceList' names a list"));
        }
        else if (body.ChoiceList is { } named && !definitions.ChoiceLists.ContainsKey(named))
        {
            wrong.Add(Problems.Part("/choiceList", $"must be one of {string.Join(", ", definitions.ChoiceLists.Keys)}"));
        }

        return wrong.Count == 0
            ? type
            : throw Problems.Invalid($"The field cannot be added: {wrong[0].Pointer[1..]} {wrong[0].Message}.", [.. wrong]);
    }
}
