using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>In what order a table writes the parts of a day.</summary>
public enum DayOrder
{
    /// <summary>2026-05-31, as ISO 8601 has it; always understood.</summary>
    YearMonthDay,

    /// <summary>31-05-2026, 31/5/2026 or 31.05.2026.</summary>
    DayMonthYear,

    /// <summary>05/31/2026.</summary>
    MonthDayYear,
}

/// <summary>
/// How the cells of somebody's table are meant, where that cannot be seen from one cell alone: the sign before a number's fraction and the
/// order
/// of a day's parts. Choices are understood by key or by label in any language, yes and no by word, numbers with their unit behind them.
/// </summary>
/// <param name="Point">'.' or ','; the other of the two then parts thousands.</param>
/// <param name="Zone">Where clocks of moments without a zone hang.</param>
public sealed partial record CsvFormat(char Point, DayOrder Days, TimeZoneInfo Zone)
{
    private static readonly HashSet<string> Yes = new(["true", "yes", "y", "1", "x", "ja", "j", "نعم"], StringComparer.OrdinalIgnoreCase);

    private static readonly HashSet<string> No = new(["false", "no", "n", "0", "nee", "لا"], StringComparer.OrdinalIgnoreCase);

    /// <summary>As <see cref="FieldValues.ToCell"/> writes.</summary>
    public static CsvFormat Own { get; } = new('.', DayOrder.YearMonthDay, TimeZoneInfo.Utc);

    /// <summary>
    /// The value of a cell; says in words what is wrong with it, or null when it is right. References are read by their number.
    /// </summary>
    public Message? Read(Field field, Definitions definitions, string cell, out object? value)
    {
        var text = cell.Trim();
        switch (field.Type)
        {
            case FieldType.Boolean when text.Length > 0:
                value = Yes.Contains(text);
                return value is true || No.Contains(text) ? null : (Message)$"must be yes or no, or true or false";
            case FieldType.Choice:
                return FieldValues.ReadCell(field, Choice(field, definitions, text), out value);
            case FieldType.Choices:
                return FieldValues.ReadCell(
                    field,
                    string.Join('|', text.Split('|').Select(each => Choice(field, definitions, each.Trim()))),
                    out value
                );
            case FieldType.Date or FieldType.DateTime when text.Length > 0:
                return Moment(field, text, out value);
            case var type when type.IsNumber():
                return FieldValues.ReadCell(field, Number(field, text), out value);
            default:
                // Spaces around a text are somebody's; around anything else they mean nothing.
                return FieldValues.ReadCell(field, field.Type is FieldType.Text or FieldType.LongText ? cell : text, out value);
        }
    }

    /// <summary>
    /// How the cells of some columns seem to be meant, those too of which nobody knows yet what field they are. What could be either is
    /// taken for what <see cref="Own"/> says, and shown to whoever asked.
    /// </summary>
    /// <param name="monthFirst">Whether 3/4 is the fourth of March where nothing tells: see <see cref="WritesMonthFirst"/>.</param>
    public static (char Point, DayOrder Days) Guess(IEnumerable<(Field? Field, string Cell)> cells, bool monthFirst)
    {
        var (commas, points, days, months) = (0, 0, 0, 0);
        foreach (var (field, cell) in cells)
        {
            if (field?.Type.IsNumber() != false && Fraction().Match(cell.Trim()) is { Success: true } number)
            {
                (commas, points) = number.Groups[1].Value == "," ? (commas + 1, points) : (commas, points + 1);
            }
            else if (field?.Type is null or FieldType.Date or FieldType.DateTime && Parted().Match(cell.Trim()) is { Success: true } day)
            {
                // Above twelve it is no month. Where neither is, the dash and the point belong to those who write the day first.
                var (one, two) = (
                    int.Parse(day.Groups[1].Value, CultureInfo.InvariantCulture),
                    int.Parse(day.Groups[3].Value, CultureInfo.InvariantCulture)
                );
                days +=
                    one > 12 ? 100
                    : day.Groups[2].Value is "/" && monthFirst ? 0
                    : 1;
                months +=
                    two > 12 ? 100
                    : day.Groups[2].Value is "/" && monthFirst ? 1
                    : 0;
            }
        }

        return (
            commas > points ? ',' : '.',
            days + months == 0 ? DayOrder.YearMonthDay
            : months > days ? DayOrder.MonthDayYear
            : DayOrder.DayMonthYear
        );
    }

    /// <summary>
    /// Whether somebody writes the month before the day with a stroke between: those of the United States and where they did as those do;
    /// of whoever reads English and says no region nothing else is known.
    /// </summary>
    /// <param name="region">ISO 3166-1; null where none is said.</param>
    public static bool WritesMonthFirst(string language, string? region) =>
        region is null
            ? language.Split('-')[0] == "en"
            : region is "US" or "PH" or "PR" or "GU" or "VI" or "AS" or "MP" or "MH" or "FM" or "PW" or "BZ";

    /// <summary>The key of the choice that is meant; what no choice is called stays as it is, to be refused by name.</summary>
    private static string Choice(Field field, Definitions definitions, string text)
    {
        var choices = definitions.ChoiceLists.GetValueOrDefault(field.ChoiceList ?? "");
        return text.Length == 0 || choices is null || choices.Find(text) is not null
            ? text
            : choices.Choices.FirstOrDefault(choice => choice.Label.ByLanguage.Values.Contains(text, StringComparer.OrdinalIgnoreCase))?.Key
                ?? text;
    }

    /// <summary>
    /// The number as ISO 6093 and JSON write it, without its unit, its currency and the signs between thousands; what is no number stays as
    /// it is.
    /// </summary>
    private string Number(Field field, string text)
    {
        var bare = new StringBuilder();
        foreach (
            var each in field.Unit is { Length: > 0 } unit && text.EndsWith(unit, StringComparison.OrdinalIgnoreCase)
                ? text[..^unit.Length]
                : text
        )
        {
            if (!char.IsWhiteSpace(each) && char.GetUnicodeCategory(each) != UnicodeCategory.CurrencySymbol)
            {
                bare.Append(each);
            }
        }

        var number = bare.ToString();
        var thousands = Point == '.' ? ',' : '.';
        var whole = number.Split(Point)[0];
        if (whole.Contains(thousands, StringComparison.Ordinal) && !Thousands().IsMatch(whole.Replace(thousands, ',')))
        {
            return text;
        }

        return number.Replace($"{thousands}", "", StringComparison.Ordinal).Replace(Point, '.');
    }

    private Message? Moment(Field field, string text, out object? value)
    {
        value = null;
        var (day, clock) = text.IndexOfAny([' ', 'T']) is var gap and > 0 ? (text[..gap], text[(gap + 1)..].Trim()) : (text, "");
        if (Parted().Match(day) is { Success: true } parts)
        {
            if (Days is DayOrder.YearMonthDay)
            {
                return $"must be a date such as 2026-05-31; say how days are written to have '{day}' understood";
            }

            var (month, date) =
                Days is DayOrder.DayMonthYear
                    ? (parts.Groups[3].Value, parts.Groups[1].Value)
                    : (parts.Groups[1].Value, parts.Groups[3].Value);
            day = $"{parts.Groups[4].Value}-{month.PadLeft(2, '0')}-{date.PadLeft(2, '0')}";
        }

        if (field.Type is FieldType.Date)
        {
            // A spreadsheet writes midnight behind a day; any other time would be lost.
            return FieldValues.ReadCell(field, clock.Length == 0 || clock.Trim('0', ':', '.', 'Z').Length == 0 ? day : text, out value);
        }

        if (
            TimeOnly.TryParseExact(
                clock,
                ["HH:mm", "H:mm", "HH:mm:ss", "H:mm:ss"],
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var time
            ) && DateOnly.TryParseExact(day, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var on)
        )
        {
            var local = on.ToDateTime(time);
            if (Zone.IsInvalidTime(local))
            {
                return $"is a time that {Zone.Id} skips, because clocks are put forward then";
            }

            value = new DateTimeOffset(local, Zone.GetUtcOffset(local)).ToUniversalTime();
            return null;
        }

        return FieldValues.ReadCell(field, clock.Length == 0 ? day : $"{day}T{clock}", out value);
    }

    [GeneratedRegex(@"^[+-]?(?:[0-9]+|[0-9]{1,3}(?:[.,'][0-9]{3})+)([.,])(?:[0-9]{1,2}|[0-9]{4,})(?:\D.*)?$")]
    private static partial Regex Fraction();

    [GeneratedRegex("^[+-]?[0-9]{1,3}(,[0-9]{3})+$")]
    private static partial Regex Thousands();

    [GeneratedRegex("^([0-9]{1,2})([-/.])([0-9]{1,2})[-/.]([0-9]{4})")]
    private static partial Regex Parted();
}
