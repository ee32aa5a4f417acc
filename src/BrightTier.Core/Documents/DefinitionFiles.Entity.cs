using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Documents;

// Entities and their fields.
internal static partial class DefinitionFiles
{
    public static Entity ReadEntity(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"an entity", ObjectRules.Entity);
        var key = Key(reading, map, $"an entity");
        var fields = reading
            .List(map["fields"], "'fields'", Limits.Fields)
            .Select(node => reading.Map(node, $"a field"))
            .OfType<FileNode.Map>()
            .Select(field => ReadField(reading, field))
            .ToImmutableArray();
        Twice(reading, map, fields.Select(field => field.Key), $"field");
        var attached = ReadAttached(reading, map["attached"]);
        RequireColumns(reading, map, attached is not null, fields);
        var display = reading.Word(map["display"], "'display'")
            ?? (fields.FirstOrDefault(field => field.Type.IsShortText()) is { } first ? $"{{{first.Key}}}" : "");
        // What is made of a key that is none is told once, at the key.
        foreach (
            var unknown in map["display"] is null ? [] : Placeholders.In(display).Where(name => fields.All(field => field.Key != name))
        )
        {
            reading.Problem(
                map.PlaceOf("display"),
                $"there is no field '{unknown}'{Suggestion.For(unknown, [.. fields.Select(field => field.Key)])}"
            );
        }

        return new Entity
        {
            Key = key,
            Label = reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            Plural = reading.Texts(map["plural"], "'plural'") ?? reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            Display = display,
            Fields = fields,
            Archived = reading.Flag(map["archived"], "'archived'"),
            Attached = attached,
        };
    }

    private static Field ReadField(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a field", ObjectRules.Field);
        var key = Key(reading, map, $"a field");
        if (ServiceFields.Contains(key))
        {
            reading.Problem(map.PlaceOf("key"), $"'{key}' is filled by the service for every record; give the field another key");
        }

        var typeName = reading.Required(map, "type", $"a field");
        if (!FieldTypes.TryParse(typeName, out var type) && typeName.Length > 0)
        {
            reading.Problem(map.PlaceOf("type"), $"there is no type '{typeName}'{Suggestion.For(typeName, [.. FieldTypes.All])}");
        }

        var field = new Field
        {
            Key = key,
            Label = reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            Help = reading.Texts(map["help"], "'help'"),
            Type = type,
            Required = reading.Flag(map["required"], "'required'"),
            Advised = reading.Flag(map["advised"], "'advised'"),
            Unique = reading.Flag(map["unique"], "'unique'"),
            Target = reading.Word(map["target"], "'target'"),
            ChoiceList = reading.Word(map["choices"], "'choices'"),
            MaxLength = reading.Whole(map["maxLength"], "'maxLength'"),
            Min = reading.Number(map["min"], "'min'"),
            Max = reading.Number(map["max"], "'max'"),
            Scale = reading.Whole(map["scale"], "'scale'") ?? 2,
            Unit = reading.Word(map["unit"], "'unit'"),
            Pattern = reading.Word(map["pattern"], "'pattern'"),
            PatternMessage = reading.Texts(map["patternMessage"], "'patternMessage'"),
            Uses = reading.Word(map["uses"], "'uses'"),
            Samples = ReadSamples(reading, map["samples"]),
            Default = reading.Word(map["default"], "'default'"),
            ClearWhenHidden = reading.Word(map["whenHidden"], "'whenHidden'") == "clear",
            Added = reading.Flag(map["added"], "'added'"),
            Retired = reading.Flag(map["retired"], "'retired'"),
            Read = map["read"] is { } read ? reading.Words(read, "'read'") : null,
            Write = map["write"] is { } write ? reading.Words(write, "'write'") : null,
            Attached = ReadColumn(reading, map["attached"]),
        };

        Require(type is not FieldType.Reference || field.Target is not null, $"a reference needs 'target', the entity it points at");
        Require(
            type is not (FieldType.Choice or FieldType.Choices) || field.ChoiceList is not null,
            $"a choice needs 'choices', the key of its choice list"
        );
        Require(field.Scale is >= 0 and <= 6, $"'scale' must be from 0 to 6");
        Require(field.MaxLength is null or > 0 and <= 1_000_000, $"'maxLength' must be from 1 to 1000000");
        Require(field.Min is null || field.Max is null || field.Min <= field.Max, $"'min' is larger than 'max'");
        Require((reading.Word(map["whenHidden"], "'whenHidden'") ?? "keep") is "keep" or "clear", $"'whenHidden' must be keep or clear");
        if (field.Pattern is { } pattern && WholePattern.Problem(pattern) is { } wrong)
        {
            reading.Problem(map.PlaceOf("pattern"), $"'pattern' {wrong}");
        }

        return field;

        void Require(bool holds, Message message)
        {
            if (!holds)
            {
                reading.Problem(map.At, message);
            }
        }
    }

    public static FileNode Write(Entity entity) =>
        FileNode.Of(
            ("kind", FileNode.Word("entity")),
            ("key", FileNode.Word(entity.Key)),
            ("label", DocumentReader.Write(entity.Label)),
            ("plural", DocumentReader.Write(entity.Plural)),
            ("display", FileNode.Word(entity.Display)),
            ("archived", Flag(entity.Archived)),
            ("attached", Write(entity.Attached)),
            ("fields", new FileNode.List([.. entity.Fields.Select(Write)], default))
        );

    private static FileNode Write(Field field) =>
        FileNode.Of(
            ("key", FileNode.Word(field.Key)),
            ("label", DocumentReader.Write(field.Label)),
            ("help", DocumentReader.Write(field.Help)),
            ("type", FileNode.Word(field.Type.Name())),
            ("required", Flag(field.Required)),
            ("advised", Flag(field.Advised)),
            ("unique", Flag(field.Unique)),
            ("target", Word(field.Target)),
            ("choices", Word(field.ChoiceList)),
            ("maxLength", Number(field.MaxLength)),
            ("min", Number(field.Min)),
            ("max", Number(field.Max)),
            ("scale", field.Scale == 2 ? null : Number(field.Scale)),
            ("unit", Word(field.Unit)),
            ("pattern", Word(field.Pattern)),
            ("patternMessage", DocumentReader.Write(field.PatternMessage)),
            ("uses", Word(field.Uses)),
            ("samples", Write(field.Samples)),
            ("default", Word(field.Default)),
            ("whenHidden", field.ClearWhenHidden ? FileNode.Word("clear") : null),
            ("added", Flag(field.Added)),
            ("retired", Flag(field.Retired)),
            ("read", field.Read is { } read ? Words(read) : null),
            ("write", field.Write is { } write ? Words(write) : null),
            ("attached", Write(field.Attached))
        );
}
