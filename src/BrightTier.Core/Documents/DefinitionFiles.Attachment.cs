using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

// Where the records of an entity stand, if not in a table of ours.
internal static partial class DefinitionFiles
{
    private static AttachedTable? ReadAttached(DocumentReader reading, FileNode? node)
    {
        if (node is null || reading.Map(node, Message.Verbatim("'attached'")) is not { } map)
        {
            return null;
        }

        Message what = $"an attached table";
        reading.Only(map, what, ObjectRules.AttachedTable);
        var key = ReadColumns(reading, map["key"], "'key'");
        if (key.IsEmpty)
        {
            reading.Problem(map.At, $"an attached table needs 'key', a map from its columns to their types");
        }

        return new AttachedTable(
            reading.Required(map, "database", what),
            reading.Word(map["schema"], "'schema'"),
            reading.Required(map, "table", what),
            key,
            ReadBar(reading, map["readOnly"])
        );
    }

    private static AttachedColumn? ReadColumn(DocumentReader reading, FileNode? node)
    {
        if (node is null || reading.Map(node, Message.Verbatim("'attached'")) is not { } map)
        {
            return null;
        }

        reading.Only(map, $"an attached column", ObjectRules.AttachedColumn);
        var columns = ReadColumns(reading, map["columns"], "'columns'");
        if (columns.IsEmpty)
        {
            reading.Problem(map.At, $"an attached field needs 'columns', a map from its columns to their types");
            return null;
        }

        return new AttachedColumn(
            columns,
            ReadBar(reading, map["readOnly"]),
            reading.Flag(map["fills"], "'fills'"),
            Pairs(reading, map["words"], "'words'").ToImmutableSortedDictionary(StringComparer.Ordinal)
        );
    }

    private static ImmutableArray<TypedColumn> ReadColumns(DocumentReader reading, FileNode? node, string what) =>
        [.. Pairs(reading, node, what).Select(pair => new TypedColumn(pair.Key, pair.Value))];

    private static IEnumerable<KeyValuePair<string, string>> Pairs(DocumentReader reading, FileNode? node, string what) =>
        node is null || reading.Map(node, Message.Verbatim(what)) is not { } map
            ? []
            : map.Entries.Select(entry => KeyValuePair.Create(entry.Key, reading.Word(entry.Value, $"'{entry.Key}'") ?? "")).ToArray();

    private static WriteBar? ReadBar(DocumentReader reading, FileNode? node)
    {
        if (reading.Word(node, "'readOnly'") is not { } word)
        {
            return null;
        }

        if (WriteBars.TryParse(word, out var bar))
        {
            return bar;
        }

        reading.Problem(node!.At, $"'readOnly' is one of {string.Join(", ", WriteBars.All)}; it is '{word}'");
        return null;
    }

    /// <summary>Fields of an attached entity say where they stand, and no others.</summary>
    private static void RequireColumns(DocumentReader reading, FileNode.Map map, bool attached, IEnumerable<Field> fields)
    {
        foreach (var field in fields.Where(field => field.Attached is null == attached))
        {
            reading.Problem(
                map.PlaceOf("fields"),
                attached
                    ? (Message)$"the field '{field.Key}' needs 'attached', the columns it stands in: the entity's table is attached"
                    : $"the field '{field.Key}' has 'attached', but the entity's table is not"
            );
        }
    }

    private static FileNode? Write(AttachedTable? table) =>
        table is null
            ? null
            : FileNode.Of(
                ("database", FileNode.Word(table.Database)),
                ("schema", Word(table.Schema)),
                ("table", FileNode.Word(table.Name)),
                ("key", Write(table.Key)),
                ("readOnly", Word(table.ReadOnly?.Name()))
            );

    private static FileNode? Write(AttachedColumn? column) =>
        column is null
            ? null
            : FileNode.Of(
                ("columns", Write(column.Columns)),
                ("readOnly", Word(column.ReadOnly?.Name())),
                ("fills", Flag(column.Fills)),
                (
                    "words",
                    column.Words.IsEmpty ? null : FileNode.Of(column.Words.Select(pair => (pair.Key, (FileNode?)FileNode.Word(pair.Value))))
                )
            );

    private static FileNode Write(ImmutableArray<TypedColumn> columns) =>
        FileNode.Of(columns.Select(each => (each.Column, (FileNode?)FileNode.Word(each.Type))));
}
