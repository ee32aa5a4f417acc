using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>A kind of record: key, labels, fields, and the text by which its records are told apart.</summary>
public sealed record Entity
{
    public required string Key { get; init; }

    public required Texts Label { get; init; }

    public required Texts Plural { get; init; }

    /// <summary>A text with placeholders, <c>{name}, {registration}</c>, that names one record.</summary>
    public required string Display { get; init; }

    public required ImmutableArray<Field> Fields
    {
        get;
        init
        {
            field = value;
            // A copy with other fields must not look them up among the old ones.
            byKey = null;
        }
    }

    /// <summary>The table of an existing database its records are in; null where its table is made and extended here.</summary>
    public AttachedTable? Attached { get; init; }

    /// <summary>Put away: nobody meets it, its records are kept, and it can be brought back.</summary>
    public bool Archived { get; init; }

    private Dictionary<string, Field>? byKey;

    public Field? Find(string key) => (byKey ??= Fields.ToDictionary(each => each.Key, StringComparer.Ordinal)).GetValueOrDefault(key);

    /// <summary>The fields the display text is composed of, in its order; look-ups search these.</summary>
    public IEnumerable<Field> DisplayFields => Placeholders.In(Display).Select(Find).OfType<Field>().Distinct();

    /// <summary>Fields in use, that is, not retired.</summary>
    public IEnumerable<Field> Current => Fields.Where(each => !each.Retired);
}

/// <summary>Placeholders of ICU messages in their simplest form: <c>{field}</c> or <c>{field, format}</c>.</summary>
public static class Placeholders
{
    /// <summary>The field names a text mentions, in order of appearance.</summary>
    public static IEnumerable<string> In(string text) => All(text).Select(each => each.Field);

    /// <summary>The text with each placeholder's field under another name, its format kept.</summary>
    public static string Rename(string text, Func<string, string> name) => With(text, (field, format) => $"{{{name(field)}{format}}}");

    /// <summary>The text with each placeholder replaced; what has no value leaves no stray separator behind.</summary>
    public static string Fill(string text, Func<string, string?> value) =>
        With(text, (field, _) => value(field) ?? "").Trim(' ', ',', '·', '-');

    /// <summary>Where each placeholder stands, its field, and its format with the comma before it.</summary>
    private static IEnumerable<(int Start, int End, string Field, string Format)> All(string text)
    {
        for (var open = text.IndexOf('{', StringComparison.Ordinal); open >= 0; open = text.IndexOf('{', open))
        {
            var close = text.IndexOf('}', open);
            if (close < 0)
            {
                yield break;
            }

            var inside = text[(open + 1)..close];
            var comma = inside.IndexOf(',', StringComparison.Ordinal);
            yield return (open, close + 1, (comma < 0 ? inside : inside[..comma]).Trim(), comma < 0 ? "" : inside[comma..]);
            open = close + 1;
        }
    }

    private static string With(string text, Func<string, string, string> put)
    {
        var made = new System.Text.StringBuilder();
        var at = 0;
        foreach (var (start, end, field, format) in All(text))
        {
            made.Append(text, at, start - at).Append(put(field, format));
            at = end;
        }

        return made.Append(text, at, text.Length - at).ToString();
    }
}
