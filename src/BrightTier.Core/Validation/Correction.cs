using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation;

/// <summary>Fixes of names that are misspelt: the nearest there is stands instead.</summary>
internal static class Correction
{
    /// <summary>The fix of one name in a property; null where nothing is near.</summary>
    /// <param name="word">The name as it stands there, without a '-' before it.</param>
    public static Fix? Of(Node node, string property, string word, IEnumerable<string> candidates) =>
        Suggestion.Nearest(word, candidates) is { } near && node[property] is { } value
            ? new Fix($"Write {near}", [new Edit.Set(node.Id, property, With(value, word, near))])
            : null;

    /// <summary>
    /// A property with another name wherever this one stands in it: as a whole, in a list, on either side of a pair, in
    /// braces.
    /// </summary>
    private static Value With(Value value, string word, string near) =>
        value switch
        {
            Value.Word single => new Value.Word(single.Content == word ? near : InBraces(single.Content, word, near)),
            Value.Words several => new Value.Words([.. several.Contents.Select(each => Name(each, word, near))]),
            Value.Pairs pairs => new Value.Pairs(
                pairs.Entries.ToImmutableSortedDictionary(
                    pair => Name(pair.Key, word, near),
                    pair => Name(pair.Value, word, near),
                    pairs.Entries.KeyComparer
                )
            ),
            Value.Text text => new Value.Text(
                Texts.Of(text.Texts.ByLanguage.Select(pair => KeyValuePair.Create(pair.Key, InBraces(pair.Value, word, near))))
            ),
            _ => value,
        };

    private static string Name(string each, string word, string near) =>
        each == word ? near
        : each == "-" + word ? "-" + near
        : each;

    private static string InBraces(string text, string word, string near) =>
        text.Replace($"{{{word}}}", $"{{{near}}}", StringComparison.Ordinal);
}
