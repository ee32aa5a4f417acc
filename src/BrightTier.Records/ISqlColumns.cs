using BrightTier.Core.Model;

namespace BrightTier.Records;

/// <summary>Where an entity's values stand, as SQL, and how values are given to be compared with them.</summary>
internal interface ISqlColumns
{
    /// <summary>The column of a field of the record; null where a database cannot compare it.</summary>
    string? Own(Field field);

    /// <summary>A field of the record that a reference leads to; null where that is in another database.</summary>
    string? Step(Field reference, Entity target, Field field);

    object? Value(Field field, object? value);

    /// <summary>Whether there is something in a column.</summary>
    string Filled(Field field, string column) => $"({column} IS NOT NULL)";

    /// <summary>Whether a reference leads to a record, where that is not told by the column alone.</summary>
    /// <param name="parameter">Makes a parameter of a value.</param>
    /// <returns>A condition; null where the reference is compared by its column.</returns>
    string? Refers(Field reference, long id, Func<object?, string> parameter) => null;
}

/// <summary>The columns of tables that are ours.</summary>
internal sealed class OwnColumns(SqlDialect dialect, Entity entity) : ISqlColumns
{
    public string Own(Field field) => $"{Table(entity)}.{Column(field)}";

    public string? Step(Field reference, Entity target, Field field) =>
        target.Attached is null ? $"(SELECT step.{Column(field)} FROM {Table(target)} AS step WHERE step.id = {Own(reference)})" : null;

    public object? Value(Field field, object? value) => dialect.ToDatabase(field, value);

    private string Table(Entity of) => SqlNames.Quote(dialect.Fit(SqlNames.Table(of.Key)));

    private string Column(Field field) => SqlNames.Quote(dialect.Fit(SqlNames.Column(field)));
}
