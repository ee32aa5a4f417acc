using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Model;

/// <summary>
/// A record's values in memory, by type: text kinds, choice, image and file as <see cref="string"/>; integer, rating and reference as
/// <see cref="long"/>; decimal and money as <see cref="decimal"/>; boolean, <see cref="DateOnly"/>, <see cref="TimeOnly"/>,
/// <see cref="DateTimeOffset"/> in UTC, and several choices as <see cref="ImmutableArray{T}"/> of string. Empty is null, whatever the type.
/// </summary>
public static class FieldValues
{
    /// <summary>Whether two values of a field are the same; several choices are when they are the same ones in the same order.</summary>
    public static bool Same(object? one, object? other) =>
        one is ImmutableArray<string> some && other is ImmutableArray<string> others
            ? some.SequenceEqual(others, StringComparer.Ordinal)
            : Equals(one, other);

    /// <summary>An object of values by field; what is empty is left out.</summary>
    public static void WriteAll(Utf8JsonWriter writer, IEnumerable<KeyValuePair<string, object?>> values)
    {
        writer.WriteStartObject();
        foreach (var (key, value) in values)
        {
            if (value is not null)
            {
                writer.WritePropertyName(key);
                Write(writer, value);
            }
        }

        writer.WriteEndObject();
    }

    /// <summary>
    /// A value as a cell of a table of texts: numbers with a point, days and moments by ISO 8601, several choices with | between. Empty is
    /// the empty text.
    /// </summary>
    public static string ToCell(object? value) =>
        value switch
        {
            null => "",
            bool flag => flag ? "true" : "false",
            DateOnly date => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            TimeOnly time => time.ToString("HH:mm", CultureInfo.InvariantCulture),
            DateTimeOffset moment => moment.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture),
            ImmutableArray<string> chosen => string.Join('|', chosen),
            _ => Convert.ToString(value, CultureInfo.InvariantCulture)!,
        };

    private const StringSplitOptions Words = StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries;

    /// <summary>Reads what <see cref="ToCell"/> writes; says in words what is wrong with it, or null when it is right.</summary>
    public static Message? ReadCell(Field field, string cell, out object? value)
    {
        value = null;
        if (cell.Length == 0)
        {
            return null;
        }

        var text = field.Type switch
        {
            FieldType.Choices => $"[{string.Join(',', cell.Split('|', Words).Select(Quoted))}]",
            FieldType.Boolean when bool.TryParse(cell, out var flag) => flag ? "true" : "false",
            _ when (field.Type.IsNumber() || field.Type is FieldType.Reference)
                    && decimal.TryParse(cell, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) => number.ToString(
                CultureInfo.InvariantCulture
            ),
            _ => Quoted(cell),
        };
        using var json = JsonDocument.Parse(text);
        return Read(field, json.RootElement, out value);

        static string Quoted(string word) => $"\"{JsonEncodedText.Encode(word)}\"";
    }

    /// <summary>Reads a value from JSON; says in words what is wrong with it, or null when it is right.</summary>
    public static Message? Read(Field field, JsonElement json, out object? value)
    {
        value = null;
        if (json.ValueKind is JsonValueKind.Null or JsonValueKind.Undefined)
        {
            return null;
        }

        switch (field.Type)
        {
            case FieldType.Boolean:
                if (json.ValueKind is not (JsonValueKind.True or JsonValueKind.False))
                {
                    return $"must be true, false or null";
                }

                value = json.GetBoolean();
                return null;
            case FieldType.Integer or FieldType.Rating or FieldType.Reference:
                return ReadWhole(field, json, out value);
            case FieldType.Decimal or FieldType.Money:
                if (json.ValueKind is not JsonValueKind.Number || !json.TryGetDecimal(out var number))
                {
                    return $"must be a number";
                }

                var scale = field.Type is FieldType.Money ? 2 : field.Scale;
                var most = Most(field);
                if (Math.Abs(number) > most)
                {
                    return $"must be from -{Number(most)} to {Number(most)}";
                }

                // What is too small for a decimal is read as nothing at all.
                if (decimal.Round(number, scale) != number || (number == 0 && json.TryGetDouble(out var exact) && exact != 0))
                {
                    return scale == 1
                        ? (Message)$"has more than one digit after the point"
                        : $"has more than {scale} digits after the point";
                }

                value = number;
                return null;
            case FieldType.Choices:
                if (
                    json.ValueKind is not JsonValueKind.Array
                    || json.EnumerateArray().Any(element => element.ValueKind is not JsonValueKind.String)
                )
                {
                    return $"must be a list of choices";
                }

                var chosen = json.EnumerateArray().Select(element => element.GetString()!).Distinct().ToImmutableArray();
                value = chosen.IsEmpty ? null : chosen;
                return null;
            default:
                if (json.ValueKind is not JsonValueKind.String)
                {
                    return $"must be a text";
                }

                return ReadText(field, json.GetString()!, out value);
        }
    }

    private static Message? ReadWhole(Field field, JsonElement json, out object? value)
    {
        value = null;
        if (json.ValueKind is not JsonValueKind.Number || !json.TryGetInt64(out var whole))
        {
            return field.Type is FieldType.Reference ? (Message)$"must be the number of a record" : $"must be a whole number";
        }

        if (Math.Abs((decimal)whole) > MostWhole)
        {
            return $"must be from -{Number(MostWhole)} to {Number(MostWhole)}";
        }

        value = whole;
        return null;
    }

    private static Message? ReadText(Field field, string text, out object? value)
    {
        value = null;
        if (text.Length == 0)
        {
            return null;
        }

        switch (field.Type)
        {
            case FieldType.Date:
                if (!DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date))
                {
                    return $"must be a date such as 2026-05-31";
                }

                value = date;
                return null;
            case FieldType.Time:
                if (!TimeOnly.TryParseExact(text, ["HH:mm", "HH:mm:ss"], CultureInfo.InvariantCulture, DateTimeStyles.None, out var time))
                {
                    return $"must be a time such as 14:30";
                }

                value = time;
                return null;
            case FieldType.DateTime:
                if (
                    !DateTimeOffset.TryParse(
                        text,
                        CultureInfo.InvariantCulture,
                        DateTimeStyles.AssumeUniversal | DateTimeStyles.AdjustToUniversal,
                        out var moment
                    )
                )
                {
                    return $"must be a date and time such as 2026-05-31T14:30:00Z";
                }

                value = moment;
                return null;
            case FieldType.File or FieldType.Image when !IsStoredFile(text):
                return $"must be what storing a file answered: its hash, a stroke and its name";
            default:
                value = TextCharacters.Problem(text) is null ? text : null;
                return TextCharacters.Problem(text);
        }
    }

    /// <summary>
    /// The largest whole number that every client can tell from its neighbours (RFC 8259, 6; RFC 7493, 2.2).
    /// </summary>
    private const decimal MostWhole = 9_007_199_254_740_991;

    /// <summary>The largest number that a field can hold, either way.</summary>
    public static decimal Most(Field field) =>
        field.Type switch
        {
            FieldType.Money => MostMoney,
            FieldType.Decimal => MostDecimal(field.Scale),
            _ => MostWhole,
        };

    /// <summary>
    /// The most money there can be, in the major unit: what counts minor units up to 2^53, which every client can tell apart (RFC 8259, 6).
    /// </summary>
    private const decimal MostMoney = 90_071_992_547_409.91m;

    /// <summary>Decimals have 15 digits, those behind the point among them: as many as both databases keep exactly.</summary>
    private static decimal MostDecimal(int scale) =>
        Enumerable.Range(0, 15).Aggregate(1m, (all, _) => all * 10m) / Enumerable.Range(0, scale).Aggregate(1m, (all, _) => all * 10m);

    private static readonly System.Buffers.SearchValues<char> Hexadecimal = System.Buffers.SearchValues.Create("0123456789abcdef");

    /// <summary>
    /// Whether a text names a stored file: a SHA-256 in lower-case hexadecimal, a stroke and a name of at most 120 characters without
    /// strokes.
    /// </summary>
    public static bool IsStoredFile(string text) =>
        text.Length is > 65 and <= 185
        && text[64] == '/'
        && !text.AsSpan(0, 64).ContainsAnyExcept(Hexadecimal)
        && text.AsSpan(65).IndexOfAny('/', '\\') < 0;

    /// <summary>Writes a value as JSON, in the form <see cref="Read"/> takes.</summary>
    public static void Write(Utf8JsonWriter writer, object? value)
    {
        switch (value)
        {
            case null:
                writer.WriteNullValue();
                break;
            case bool flag:
                writer.WriteBooleanValue(flag);
                break;
            case long whole:
                writer.WriteNumberValue(whole);
                break;
            case decimal number:
                writer.WriteNumberValue(number / 1.000000000000000000000000000000m);
                break;
            case DateOnly date:
                writer.WriteStringValue(date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
                break;
            case TimeOnly time:
                writer.WriteStringValue(time.ToString(time.Second == 0 ? "HH:mm" : "HH:mm:ss", CultureInfo.InvariantCulture));
                break;
            case DateTimeOffset moment:
                writer.WriteStringValue(moment.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture));
                break;
            case ImmutableArray<string> chosen:
                writer.WriteStartArray();
                foreach (var key in chosen)
                {
                    writer.WriteStringValue(key);
                }

                writer.WriteEndArray();
                break;
            default:
                writer.WriteStringValue((string)value);
                break;
        }
    }

    /// <summary>What the entity's own rules say against a value: length, range, pattern, choices. Null when nothing does.</summary>
    public static Message? Check(Field field, object? value, Definitions definitions, string language)
    {
        switch (value)
        {
            case null:
                return null;
            case string text:
                return CheckText(field, text, definitions, language);
            case long or decimal when field.Type is not FieldType.Reference:
                var number = Convert.ToDecimal(value, CultureInfo.InvariantCulture);
                var (min, max) = field.Type is FieldType.Rating ? (field.Min ?? 1, field.Max ?? 5) : (field.Min, field.Max);
                var unit = field.Unit is null ? "" : " " + field.Unit;
                return number < min ? (Message)$"must be at least {Number(min)}{unit}"
                    : number > max ? (Message)$"must be at most {Number(max)}{unit}"
                    : null;
            case ImmutableArray<string> chosen:
                return chosen.Select(key => CheckChoice(field, key, definitions)).FirstOrDefault(message => message is not null);
            default:
                return null;
        }
    }

    private static Message? CheckText(Field field, string text, Definitions definitions, string language)
    {
        if (field.Type is FieldType.Choice)
        {
            return CheckChoice(field, text, definitions);
        }

        if (field.MaxLength is { } longest && text.Length > longest)
        {
            return $"must be at most {longest} characters; it has {text.Length}";
        }

        if (field.Type is FieldType.Email && !AddressSyntax.IsEmail(text))
        {
            return $"must be an e-mail address such as a.wader@example.org";
        }

        if (field.Type is FieldType.Url && !AddressSyntax.IsWebAddress(text))
        {
            return $"must be a web address that begins with https:// or http://";
        }

        if (text.Length > Model.Limits.TextLength && definitions.PatternOf(field) is not null)
        {
            return $"must be at most {Model.Limits.TextLength} characters, as every text that must match a pattern; it has {text.Length}";
        }

        if (definitions.PatternOf(field) is { } rule && !WholePattern.Matches(rule.Pattern, text))
        {
            return rule.Message is { } own ? Message.Verbatim(own.In(language)) : (Message)$"must match the pattern {rule.Pattern}";
        }

        return null;
    }

    private static Message? CheckChoice(Field field, string key, Definitions definitions)
    {
        var list = field.ChoiceList is null ? null : definitions.ChoiceLists.GetValueOrDefault(field.ChoiceList);
        return list is null || list.Find(key) is not null
            ? null
            : (Message)$"has no choice '{key}'{Suggestion.For(key, [.. list.Choices.Select(choice => choice.Key)])}";
    }

    private static string Number(decimal? value) => value?.ToString("0.######", CultureInfo.InvariantCulture) ?? "";
}
