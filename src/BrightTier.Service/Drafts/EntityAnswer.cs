using BrightTier.Contracts;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Places;
using BrightTier.Service.Auth;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Drafts;

/// <summary>What is answered about an entity, as released or as drafts have it.</summary>
internal static class EntityAnswer
{
    /// <summary>As whoever asks may know it.</summary>
    /// <param name="fields">Those of its fields the answer names.</param>
    public static EntityInfo Of(
        HttpContext http,
        Entity entity,
        IReadOnlyList<Field> fields,
        Definitions definitions,
        Caller caller,
        CurrentRelease releases
    )
    {
        var language = http.LanguageOf(caller, definitions.Application);
        return new EntityInfo(
            entity.Key,
            entity.Label.In(language),
            entity.Plural.In(language),
            entity.Display,
            [.. GeneratedLayout.ListColumns(entity).Where(column => fields.Any(field => field.Key == column))],
            [.. fields.Select(field => Info(field, definitions, caller, language))],
            ReleaseTag(releases),
            Related(entity, definitions, language)
        );
    }

    private static RelatedInfo[] Related(Entity entity, Definitions definitions, string language)
    {
        var all = definitions.PointingAt(entity.Key).ToArray();
        return
        [
            .. all.Select(each => new RelatedInfo(
                each.Entity.Key,
                each.Through.Key,
                all.Count(other => other.Entity == each.Entity) == 1
                    ? each.Entity.Plural.In(language)
                    : $"{each.Entity.Plural.In(language)} ({each.Through.Label.In(language)})"
            )),
        ];
    }

    private static string ReleaseTag(CurrentRelease releases) =>
        releases.Snapshot.Number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static FieldInfo Info(Field field, Definitions definitions, Caller caller, string language) =>
        new(
            field.Key,
            field.Label.In(language),
            field.Type.Name(),
            field.Required,
            field.Advised,
            field.Unique,
            field.Added,
            field.Retired,
            field.MayWrite(caller.Roles),
            field.Target,
            field.ChoiceList,
            field.ChoiceList is not null && definitions.ChoiceLists.TryGetValue(field.ChoiceList, out var list)
                ? [.. list.Choices.Select(choice => new ChoiceInfo(choice.Key, choice.Label.In(language), choice.Retired))]
                : null,
            field.MaxLength,
            field.Type is FieldType.Money ? definitions.Application.Currency : field.Unit,
            field.Type is FieldType.Decimal ? field.Scale : null,
            Editors.For(field.Type),
            field.Read,
            field.Write,
            Rooms.LongestWord(field.Label)
        );
}
