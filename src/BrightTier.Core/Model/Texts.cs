using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// One text in any number of languages. A text without a language (the empty tag) is what every language falls back to.
/// Language tags are those of RFC 5646.
/// </summary>
public sealed record Texts(ImmutableSortedDictionary<string, string> ByLanguage) : ITranslation
{
    /// <summary>The tag under which a text without a language is kept.</summary>
    public const string AnyLanguage = "";

    public static Texts Of(string text) =>
        new(ImmutableSortedDictionary<string, string>.Empty.WithComparers(StringComparer.Ordinal).Add(AnyLanguage, text));

    public static Texts Of(IEnumerable<KeyValuePair<string, string>> texts) =>
        new(texts.ToImmutableSortedDictionary(StringComparer.Ordinal));

    /// <summary>
    /// The text in a language: the exact tag, then its primary subtag, then the text for any language, then English, then the first there
    /// is.
    /// </summary>
    public string In(string language)
    {
        if (PseudoLanguage.Base(language) is { } real)
        {
            return PseudoLanguage.Of(In(real));
        }

        if (ByLanguage.TryGetValue(language, out var exact))
        {
            return exact;
        }

        var dash = language.IndexOf('-', StringComparison.Ordinal);
        if (dash > 0 && ByLanguage.TryGetValue(language[..dash], out var primary))
        {
            return primary;
        }

        if (ByLanguage.TryGetValue(AnyLanguage, out var any) || ByLanguage.TryGetValue("en", out any))
        {
            return any;
        }

        return ByLanguage.IsEmpty ? "" : ByLanguage.First().Value;
    }

    /// <summary>The same in small letters, as a noun stands within a sentence.</summary>
    public Texts Lower() => Of(ByLanguage.Select(text => KeyValuePair.Create(text.Key, text.Value.ToLowerInvariant())));

    public bool IsEmpty => ByLanguage.IsEmpty || ByLanguage.Values.All(string.IsNullOrWhiteSpace);

    public bool Equals(Texts? other) => other is not null && ByLanguage.SequenceEqual(other.ByLanguage);

    public override int GetHashCode() => ByLanguage.Aggregate(17, (hash, pair) => HashCode.Combine(hash, pair.Key, pair.Value));

    public override string ToString() => In("en");
}
