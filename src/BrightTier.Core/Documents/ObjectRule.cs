using System.Collections.Immutable;

namespace BrightTier.Core.Documents;

/// <summary>What a property of a document that is no layout holds.</summary>
public enum EntryType
{
    /// <summary>A text by language, or one for all.</summary>
    Texts,

    /// <summary>A word, perhaps one of some.</summary>
    Word,

    /// <summary>A key: a letter, and letters, digits, '-' and '_' behind it.</summary>
    Key,
    Flag,
    Whole,
    Number,

    /// <summary>Words, perhaps of some.</summary>
    Words,

    /// <summary>A CEL expression of type bool.</summary>
    Condition,

    /// <summary>A map from words to words.</summary>
    Pairs,

    /// <summary>An object of its own.</summary>
    One,

    /// <summary>A list of objects.</summary>
    Many,
}

/// <summary>What in a folder a word names.</summary>
public enum NameSet
{
    None,
    Entity,
    Field,
    Role,
    ChoiceList,
    Pattern,
    Layout,
    Piece,
    Icon,
    Style,
}

/// <summary>One property of an object in a file.</summary>
/// <param name="About">What it is for, in a sentence.</param>
public sealed record EntryRule(string Key, EntryType Type, string About)
{
    public bool Required { get; init; }

    /// <summary>The only words there are; empty where any will do.</summary>
    public ImmutableArray<string> Words { get; init; } = [];

    public NameSet Names { get; init; }

    public decimal? Min { get; init; }

    public decimal? Max { get; init; }

    /// <summary>What it holds, by the rule's name.</summary>
    public string? Of { get; init; }
}

/// <summary>An object in the file of a document that is no layout: its properties in the order they are written.</summary>
/// <param name="Name">What it is called in the schema.</param>
public sealed record ObjectRule(string Name, string About, params ImmutableArray<EntryRule> Entries)
{
    /// <summary>The word its file begins with; null for a part of another.</summary>
    public string? Kind { get; init; }

    /// <summary>What stands in its file, the kind included.</summary>
    public string[] Keys { get; } = [.. Entries.Select(entry => entry.Key)];
}
