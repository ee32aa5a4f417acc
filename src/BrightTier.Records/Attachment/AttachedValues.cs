using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

/// <summary>Values of attached columns as fields have them.</summary>
internal static class AttachedValues
{
    /// <summary>The word a choice has in the column.</summary>
    public static string WordOf(Field field, string choice) => field.Attached!.Words.GetValueOrDefault(choice, choice);

    /// <summary>The choice of a word in the column; a word that is no choice stands for itself.</summary>
    public static string ChoiceOf(Field field, string word)
    {
        foreach (var (choice, each) in field.Attached!.Words)
        {
            if (each == word)
            {
                return choice;
            }
        }

        return word;
    }

    /// <summary>What stands in a column as the text the database makes of it; null where it cannot be told as the field has it.</summary>
    public static object? Read(Field field, string text) =>
        field.Type switch
        {
            FieldType.Integer or FieldType.Reference => Number(text) is { } whole
            && Math.Abs(whole) <= long.MaxValue
            && decimal.Truncate(whole) == whole
                ? (long)whole
                : null,
            FieldType.Decimal => Number(text) is { } number ? decimal.Round(number, field.Scale) : null,
            FieldType.Boolean => text is "1" or "t" or "true" or "TRUE" or "True" or "Y" or "y",
            FieldType.Date => DateTime.TryParse(text, CultureInfo.InvariantCulture, out var date) ? DateOnly.FromDateTime(date) : null,
            FieldType.Time => TimeOnly.TryParse(text, CultureInfo.InvariantCulture, out var time) ? time : null,
            FieldType.DateTime => DateTimeOffset.TryParse(
                text,
                CultureInfo.InvariantCulture,
                DateTimeStyles.AssumeUniversal | DateTimeStyles.AdjustToUniversal,
                out var moment
            )
                ? moment
                : null,
            FieldType.Choice => ChoiceOf(field, text),
            _ => text,
        };

    public static decimal? Number(string text) =>
        decimal.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <summary>
    /// Whether a value given is the one that is there, as far as whoever gave it could tell: numbers to what a double holds, moments to the
    /// second. What is as it was is not written, so that nothing is rounded that nobody touched.
    /// </summary>
    public static bool IsAsItWas(Field field, object? given, object? present)
    {
        if (given is null || present is null)
        {
            return given is null && present is null;
        }

        return (given, present) switch
        {
            (long a, long b) => a == b || (Math.Abs(b) > 9_007_199_254_740_991 && (double)a == (double)b),
            (decimal a, decimal b) => a == b || (double)a == (double)b,
            _ => Json(given) == Json(present),
        };
    }

    private static string Json(object value)
    {
        var bytes = new System.Buffers.ArrayBufferWriter<byte>();
        using (var writer = new Utf8JsonWriter(bytes))
        {
            FieldValues.Write(writer, value);
        }

        return Encoding.UTF8.GetString(bytes.WrittenSpan);
    }
}
