using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>The table or view of an existing database that holds an entity's records: read and written, never altered.</summary>
/// <param name="Database">The name of the connection, as the service has it.</param>
/// <param name="Schema">The schema the table is in; null where the database has none.</param>
/// <param name="Key">The columns that tell its rows apart, with the database's types; all columns where there is no key.</param>
/// <param name="ReadOnly">Why no row can be written; null where rows can.</param>
public sealed record AttachedTable(string Database, string? Schema, string Name, ImmutableArray<TypedColumn> Key, WriteBar? ReadOnly = null)
{
    /// <summary>Whether the key is one whole number, which then is the record's number.</summary>
    public bool IsNumbered => Key is [{ IsWhole: true }] && ReadOnly is not WriteBar.NoKey;

    public bool Equals(AttachedTable? other) =>
        other is not null
        && (Database, Schema, Name, ReadOnly) == (other.Database, other.Schema, other.Name, other.ReadOnly)
        && Key.SequenceEqual(other.Key);

    public override int GetHashCode() => HashCode.Combine(Database, Schema, Name, Key.Length);
}

/// <summary>A column, with the type the database has it as.</summary>
public sealed record TypedColumn(string Column, string Type)
{
    /// <summary>Whether it holds whole numbers, by the name of its type in SQL.</summary>
    public bool IsWhole => WholeNumbers.Contains(Type.Split('(', ' ')[0]);

    private static readonly HashSet<string> WholeNumbers = new(StringComparer.OrdinalIgnoreCase)
    {
        "smallint",
        "integer",
        "bigint",
        "int",
        "int2",
        "int4",
        "int8",
        "mediumint",
        "tinyint",
    };
}

/// <summary>Where in an attached table a field's value stands.</summary>
/// <param name="Columns">One column; of a reference as many as its target's key has, in their order.</param>
/// <param name="ReadOnly">Why it cannot be written; null where it can.</param>
/// <param name="Fills">Whether the column must have something but is filled by the database where nothing is given.</param>
/// <param name="Words">Of a choice, what stands in the column for those whose key is another word.</param>
public sealed record AttachedColumn(
    ImmutableArray<TypedColumn> Columns,
    WriteBar? ReadOnly,
    bool Fills,
    ImmutableSortedDictionary<string, string> Words
)
{
    public static ImmutableSortedDictionary<string, string> NoWords { get; } =
        ImmutableSortedDictionary<string, string>.Empty.WithComparers(StringComparer.Ordinal);

    /// <summary>The column of what is no reference over several.</summary>
    public string Name => Columns[0].Column;

    public string Type => Columns[0].Type;

    public bool Equals(AttachedColumn? other) =>
        other is not null
        && (ReadOnly, Fills) == (other.ReadOnly, other.Fills)
        && Columns.SequenceEqual(other.Columns)
        && Words.SequenceEqual(other.Words);

    public override int GetHashCode() => HashCode.Combine(ReadOnly, Fills, Columns.Length, Words.Count);
}

/// <summary>Why something of an attached table is only read.</summary>
public enum WriteBar
{
    /// <summary>It is a view.</summary>
    View,

    /// <summary>No key tells its rows apart.</summary>
    NoKey,

    /// <summary>The connection may not write it.</summary>
    Rights,

    /// <summary>The database works it out, or numbers it.</summary>
    Generated,

    /// <summary>It is part of the key: written when a record is made, never after.</summary>
    Key,

    /// <summary>It is of a type that is shown as text.</summary>
    Type,
}

/// <summary>How reasons are spelt in files, and said.</summary>
public static class WriteBars
{
    private static readonly (WriteBar Bar, string Name)[] Names =
    [
        (WriteBar.View, "view"),
        (WriteBar.NoKey, "no-key"),
        (WriteBar.Rights, "rights"),
        (WriteBar.Generated, "generated"),
        (WriteBar.Key, "key"),
        (WriteBar.Type, "type"),
    ];

    public static IReadOnlyList<string> All { get; } = [.. Names.Select(each => each.Name)];

    public static string Name(this WriteBar bar) => Names.First(each => each.Bar == bar).Name;

    public static bool TryParse(string name, out WriteBar bar)
    {
        var found = Names.FirstOrDefault(each => each.Name == name);
        bar = found.Bar;
        return found.Name is not null;
    }

    /// <summary>The reason as a sentence.</summary>
    public static Message Reason(this WriteBar bar) =>
        bar switch
        {
            WriteBar.View => $"It is a view; views are only read.",
            WriteBar.NoKey => $"It has no key that tells its rows apart; it is only read.",
            WriteBar.Rights => $"The connection may not write it.",
            WriteBar.Generated => $"The database fills it.",
            WriteBar.Key => $"It is part of the key; it is written when a record is made, and never after.",
            WriteBar.Type => $"It is of a type that is shown as text and not written.",
            _ => throw new ArgumentOutOfRangeException(nameof(bar)),
        };
}
