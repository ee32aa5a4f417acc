using System.Collections.Immutable;

namespace BrightTier.Core.Attachment;

/// <summary>A table or view as a database's catalogue has it.</summary>
/// <param name="Schema">Null where the database has no schemas.</param>
/// <param name="Comment">What the catalogue says of it.</param>
/// <param name="Key">The primary key's columns; else those of a unique key without empty values; else none.</param>
/// <param name="Unique">The sets of columns whose values are there once.</param>
/// <param name="Indexed">The columns an index leads to: the first of each.</param>
/// <param name="Rows">About how many rows it has.</param>
/// <param name="MayWrite">Whether the connection may insert, update and delete.</param>
public sealed record DatabaseTable(
    string? Schema,
    string Name,
    bool IsView,
    string? Comment,
    ImmutableArray<DatabaseColumn> Columns,
    ImmutableArray<string> Key,
    ImmutableArray<DatabaseReference> References,
    ImmutableArray<ImmutableArray<string>> Unique,
    ImmutableArray<string> Indexed,
    long Rows,
    bool MayWrite = true
)
{
    /// <summary>What people call it: with its schema, where that is not the one everything is in.</summary>
    public string Path => Schema is null ? Name : $"{Schema}.{Name}";

    public DatabaseColumn? Find(string column) => Columns.FirstOrDefault(each => each.Name == column);
}

/// <summary>What kind of value a column has, as far as fields have one for it.</summary>
public enum ColumnKind
{
    Text,
    LongText,
    Whole,
    Decimal,
    Boolean,
    Date,
    Time,
    DateTime,

    /// <summary>Shown as the text the database makes of it: lists, JSON, addresses, intervals, what is not known.</summary>
    Other,

    /// <summary>Bytes, of which there is nothing to show.</summary>
    Bytes,
}

/// <summary>A column as the catalogue has it.</summary>
/// <param name="Type">The type as the database writes it: numeric(10,2).</param>
public sealed record DatabaseColumn(string Name, string Type, ColumnKind Kind)
{
    public bool NotNull { get; init; }

    /// <summary>What it is filled with, where that is a value and not worked out; as a text.</summary>
    public string? Default { get; init; }

    /// <summary>Whether the database fills it where nothing is given.</summary>
    public bool HasDefault { get; init; }

    /// <summary>Whether it is worked out or numbered, so that nobody gives it.</summary>
    public bool IsFilled { get; init; }

    public int? MaxLength { get; init; }

    public int? Scale { get; init; }

    public decimal? Min { get; init; }

    public decimal? Max { get; init; }

    /// <summary>The values it may have, where they are listed: of an enumeration, a domain or a check.</summary>
    public ImmutableArray<string> Choices { get; init; } = [];

    public string? Comment { get; init; }
}

/// <summary>A foreign key: these columns point at those of another table.</summary>
public sealed record DatabaseReference(ImmutableArray<string> Columns, string? Schema, string Table, ImmutableArray<string> To);
