using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>The value of one property of a node. Which sort a property takes is said by the <see cref="Grammar"/>.</summary>
public abstract record Value
{
    private Value() { }

    /// <summary>A text for people, in any number of languages.</summary>
    public sealed record Text(Texts Texts) : Value;

    /// <summary>A word for the machine: a key, a name from a list, a condition.</summary>
    public sealed record Word(string Content) : Value;

    public sealed record Number(decimal Amount) : Value;

    public sealed record Flag(bool On) : Value;

    /// <summary>Several words in an order that counts.</summary>
    public sealed record Words(ImmutableArray<string> Contents) : Value
    {
        public bool Equals(Words? other) => other is not null && Contents.SequenceEqual(other.Contents);

        public override int GetHashCode() => Contents.Length;
    }

    /// <summary>From word to word: slots to fields, fields to what they become.</summary>
    public sealed record Pairs(ImmutableSortedDictionary<string, string> Entries) : Value
    {
        public static Pairs Of(IEnumerable<KeyValuePair<string, string>> entries) =>
            new(entries.ToImmutableSortedDictionary(StringComparer.Ordinal));

        public bool Equals(Pairs? other) => other is not null && Entries.SequenceEqual(other.Entries);

        public override int GetHashCode() => Entries.Count;
    }
}
