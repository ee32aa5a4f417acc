using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

/// <summary>The columns of an attached table in conditions. A step leads to tables of the same database.</summary>
/// <param name="keys">Keys of records that references are compared with, by entity and number; what is not among them is asked for.</param>
internal sealed class AttachedColumnsSql(
    AttachedDatabase database,
    Entity entity,
    IReadOnlyDictionary<(string Entity, long Id), RowKey?> keys
) : ISqlColumns
{
    /// <summary>Records whose keys were not known: with them it is to be written anew.</summary>
    public HashSet<(string Entity, long Id)> Missing { get; } = [];

    public string? Own(Field field) => At(AttachedDatabase.Table(entity.Attached!), field);

    public string? Step(Field reference, Entity target, Field field)
    {
        if (target.Attached is not { } table || table.Database != entity.Attached!.Database || At("step", field) is not { } column)
        {
            return null;
        }

        var own = AttachedDatabase.Table(entity.Attached);
        var same = table.Key.Zip(reference.Attached!.Columns, (to, from) =>
            $"step.{AttachedDatabase.Quote(to.Column)} = {own}.{AttachedDatabase.Quote(from.Column)}"
        );
        return $"(SELECT {column} FROM {AttachedDatabase.Table(table)} AS step WHERE {string.Join(" AND ", same)})";
    }

    public object? Value(Field field, object? value) => database.ToCompare(field, value);

    /// <summary>A text of nothing is nothing, as fields have it.</summary>
    public string Filled(Field field, string column) =>
        field.Type.IsShortText() || field.Type is FieldType.LongText or FieldType.Choice
            ? $"({column} IS NOT NULL AND {column} <> '')"
            : $"({column} IS NOT NULL)";

    public string? Refers(Field reference, long id, Func<object?, string> parameter)
    {
        if (reference.Attached!.Columns is [{ IsWhole: true }])
        {
            return null;
        }

        if (!keys.TryGetValue((reference.Target!, id), out var key))
        {
            Missing.Add((reference.Target!, id));
        }

        var table = AttachedDatabase.Table(entity.Attached!);
        return key is null
            ? database.Words.False
            : $"({string.Join(" AND ", reference.Attached.Columns.Select((column, i) => Is(column, key.Parts[i]!)))})";

        // Never undecided: a reference to nothing is none to this.
        string Is(TypedColumn column, string part) =>
            database.Words.Is(
                $"{table}.{AttachedDatabase.Quote(column.Column)}",
                database.Placed(parameter(database.KeyPart(part, column.Type)), column.Type)
            );
    }

    /// <summary>A reference is compared by its number only where that is what stands in the column.</summary>
    private string? At(string table, Field field) =>
        field.Type is FieldType.Reference && field.Attached!.Columns is not [{ IsWhole: true }]
            ? null
            : database.Compared($"{table}.{AttachedDatabase.Quote(field.Attached!.Name)}", field.Attached.Columns[0]);
}
