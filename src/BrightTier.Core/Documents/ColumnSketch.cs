using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>A cell that is not what the rest of its column is.</summary>
public sealed record DoubtfulCell(int Line, string Cell, Message Message);

/// <summary>What one column of somebody's table seems to be, and why.</summary>
/// <param name="Field">The field it would be.</param>
/// <param name="Choices">The choice list it would need; null where it needs none of its own.</param>
/// <param name="Filled">Lines that have something in it.</param>
/// <param name="Distinct">Different things that stand in it.</param>
/// <param name="Reason">What was seen that speaks for the type, as a sentence.</param>
/// <param name="Doubts">Cells that do not fit the type, in the order of the lines.</param>
public sealed partial record ColumnSketch(
    string Heading,
    Field Field,
    ChoiceList? Choices,
    int Filled,
    int Distinct,
    Message Reason,
    IReadOnlyList<DoubtfulCell> Doubts
)
{
    /// <summary>One cell in so many may be a slip that speaks for no other type.</summary>
    private const int Slips = 20;

    /// <summary>A column is one of choices where no more than so many different things stand in it, each of them several times.</summary>
    private const int MostChoices = 12;

    private const int Repeats = 3;
    private const int LongestChoice = 40;

    /// <summary>From here on a text is one of several lines.</summary>
    private const int Long = 120;

    /// <summary>No number with its unit is longer.</summary>
    private const int LongestMeasure = 40;

    /// <summary>Fewer lines than these say nothing about those to come.</summary>
    private const int Telling = 10;

    /// <param name="key">The field's key.</param>
    /// <param name="label">Its label.</param>
    /// <param name="cells">What stands in the column, each with its line; empty cells too.</param>
    /// <param name="format">How days and numbers are written.</param>
    /// <param name="wish">What somebody says it is.</param>
    public static ColumnSketch Of(
        string heading,
        string key,
        string label,
        IReadOnlyList<(int Line, string Cell)> cells,
        CsvFormat format,
        ColumnWish wish
    )
    {
        var column = new Column(
            [.. cells.Where(each => each.Cell.Trim().Length > 0).Select(each => (each.Line, each.Cell.Trim()))],
            [.. cells.Where(each => each.Cell.Trim().Length == 0).Select(each => each.Line)],
            format
        );
        var seen = wish.Type is { } said ? column.As(said) : column.Seen();
        var type = seen.Field.Type;
        var choices = type is FieldType.Choice or FieldType.Choices
            ? seen.Choices.Concat(wish.Choices).Distinct(StringComparer.OrdinalIgnoreCase).ToArray()
            : [];
        var field = seen.Field with
        {
            Key = key,
            Label = Texts.Of(label),
            Required = wish.Required
                ?? (column.IsFull && column.Lines >= Telling && seen.Doubts.Count == 0 && type is not FieldType.Boolean),
            Unique = wish.Unique ?? (type is FieldType.Text or FieldType.Integer && column.IsName(heading)),
            Target = type is FieldType.Reference ? wish.Target : null,
            ChoiceList = choices.Length > 0 ? key : null,
            Added = true,
        };
        return new ColumnSketch(
            heading,
            field,
            choices.Length > 0 ? ChoiceList.Of(key, Texts.Of(label), choices) : null,
            column.Cells.Length,
            column.Distinct.Length,
            Suggestion.Sentence(seen.Reason),
            [.. seen.Doubts.Concat(column.Against(field)).DistinctBy(doubt => doubt.Line).OrderBy(doubt => doubt.Line)]
        )
        {
            Left = wish.Left,
        };
    }

    /// <summary>Whether it is left out.</summary>
    public bool Left { get; init; }

    /// <summary>What was seen in a column: the field so far, its choices, why, and what does not fit.</summary>
    private sealed record Sight(Field Field, Message Reason, IReadOnlyList<DoubtfulCell> Doubts)
    {
        public IReadOnlyList<string> Choices { get; init; } = [];
    }

    /// <summary>The filled cells of a column.</summary>
    /// <param name="empty">The lines that have nothing in it.</param>
    private sealed class Column((int Line, string Cell)[] cells, int[] empty, CsvFormat format)
    {
        public (int Line, string Cell)[] Cells => cells;

        public int Lines => cells.Length + empty.Length;

        public bool IsFull => empty.Length == 0 && cells.Length > 0;

        /// <summary>The different texts, capitals aside, as each is written first.</summary>
        public string[] Distinct { get; } = [.. cells.Select(each => each.Cell).Distinct(StringComparer.OrdinalIgnoreCase)];

        /// <summary>Whether it tells lines apart: every line has one of its own, and it is called or looks like a number.</summary>
        public bool IsName(string heading) =>
            IsFull
            && Lines >= 3
            && Distinct.Length == Lines
            && (
                CodeHeading().IsMatch(heading)
                || Distinct.All(each => each.Length <= 20 && each.Any(char.IsAsciiDigit) && !each.Contains(' '))
            )
            && Distinct.All(each => each.Length <= LongestChoice);

        /// <summary>The cells that cannot stay as they are where the field is required, or each value is to be there once.</summary>
        public IEnumerable<DoubtfulCell> Against(Field field)
        {
            if (field.Required)
            {
                foreach (var line in empty)
                {
                    yield return new DoubtfulCell(line, "", $"must not be empty");
                }
            }

            var first = new Dictionary<string, int>(StringComparer.Ordinal);
            foreach (var (line, cell) in field.Unique ? cells : [])
            {
                if (!first.TryAdd(cell, line))
                {
                    yield return new DoubtfulCell(line, cell, $"stands in line {first[cell]} already");
                }
            }
        }

        public Sight Seen()
        {
            if (cells.Length == 0)
            {
                return new Sight(New(FieldType.Text), $"Nothing stands in it", []);
            }

            return Typed() ?? Chosen() ?? Written();
        }

        /// <summary>The first type that nearly all cells are of.</summary>
        private Sight? Typed()
        {
            foreach (var type in new[] { FieldType.Boolean, FieldType.Date, FieldType.DateTime, FieldType.Time })
            {
                if (Fits(As(type)) is { } sight && (type is not FieldType.Boolean || IsYesOrNo))
                {
                    return sight;
                }
            }

            if (!cells.Any(each => LeadingZero().IsMatch(each.Cell)) && Fits(Numbers()) is { } numbers)
            {
                return numbers;
            }

            return Fits(As(FieldType.Email)) ?? Fits(As(FieldType.Url)) ?? Fits(As(FieldType.Phone));
        }

        private Sight? Fits(Sight sight) => sight.Doubts.Count * Slips <= cells.Length && sight.Doubts.Count < cells.Length ? sight : null;

        /// <summary>Ones and noughts alone may be numbers; both of them together, and any word, say yes and no.</summary>
        private bool IsYesOrNo => Distinct.Length <= 4 && (Distinct.Any(each => !char.IsAsciiDigit(each[0])) || Distinct.Length == 2);

        public Sight As(FieldType type) =>
            type switch
            {
                FieldType.Email => Those(type, AddressSyntax.IsEmail, $"must be an e-mail address"),
                FieldType.Url => Those(type, AddressSyntax.IsWebAddress, $"must be a web address such as https://example.org"),
                FieldType.Phone => Those(type, Phone().IsMatch, $"must be a phone number"),
                FieldType.Integer or FieldType.Decimal or FieldType.Money => Numbers() with
                {
                    Field = New(type) with { Unit = type is FieldType.Money ? null : Unit, Scale = type is FieldType.Decimal ? Scale : 2 },
                    Doubts = Doubts(New(type) with { Unit = Unit, Scale = Scale }),
                },
                FieldType.Choice => Chosen(always: true)!,
                FieldType.Choices => Several(),
                FieldType.Reference => new Sight(New(type), Everything, []),
                _ => new Sight(New(type), Everything, Doubts(New(type))),
            };

        private Message Everything => cells.Length == 1 ? (Message)$"Seen in {cells.Length} line" : $"Seen in {cells.Length} lines";

        private Sight Those(FieldType type, Func<string, bool> fits, Message wrong) =>
            new(
                New(type),
                Everything,
                [.. cells.Where(each => !fits(each.Cell)).Select(each => new DoubtfulCell(each.Line, each.Cell, wrong))]
            );

        private IReadOnlyList<DoubtfulCell> Doubts(Field field) =>
            [
                .. cells
                    .Select(each => (each.Line, each.Cell, Message: format.Read(field, Definitions.Empty, each.Cell, out _)))
                    .Where(each => each.Message is not null)
                    .Select(each => new DoubtfulCell(each.Line, each.Cell, each.Message!)),
            ];

        /// <summary>Money where a sign of currency stands, whole numbers where no fraction does.</summary>
        private Sight Numbers()
        {
            var field = cells.Any(each => each.Cell.Any(sign => char.GetUnicodeCategory(sign) is UnicodeCategory.CurrencySymbol))
                ? New(FieldType.Money)
                : New(Scale == 0 ? FieldType.Integer : FieldType.Decimal) with
                {
                    Unit = Unit,
                    Scale = Scale == 0 ? 2 : Scale,
                };
            return new Sight(field, Everything, Doubts(field));
        }

        /// <summary>What stands behind every number; null where that is nothing, or not always the same.</summary>
        private string? Unit { get; } =
            cells
                .Select(each => each.Cell.Length > LongestMeasure ? "" : Measure().Match(each.Cell).Groups["unit"].Value)
                .Distinct()
                .ToArray()
                is [{ Length: > 0 } one]
                ? one
                : null;

        /// <summary>The most digits behind the point, six at most.</summary>
        private int Scale { get; } =
            Math.Min(
                6,
                cells
                    .Select(each =>
                        each.Cell.LastIndexOf(format.Point) is var at and >= 0
                            ? each.Cell[(at + 1)..].TakeWhile(char.IsAsciiDigit).Count()
                            : 0
                    )
                    .DefaultIfEmpty()
                    .Max()
            );

        /// <summary>Few different things, each several times.</summary>
        private Sight? Chosen(bool always = false)
        {
            if (
                !always
                && cells.Any(each => each.Cell.Contains('|', StringComparison.Ordinal))
                && Several() is { Choices.Count: <= MostChoices } several
            )
            {
                return several;
            }

            return
                always
                || (
                    Distinct.Length is > 1 and <= MostChoices
                    && cells.Length >= Distinct.Length * Repeats
                    && Distinct.All(each => each.Length <= LongestChoice)
                )
                ? new Sight(New(FieldType.Choice), $"{Distinct.Length} different values in {cells.Length} lines", []) { Choices = Distinct }
                : null;
        }

        private Sight Several()
        {
            var parts = cells
                .SelectMany(each => each.Cell.Split('|', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
                .Distinct(StringComparer.OrdinalIgnoreCase)
                .ToArray();
            return new Sight(New(FieldType.Choices), $"{parts.Length} different values with '|' between", []) { Choices = parts };
        }

        private Sight Written()
        {
            var longest = cells.MaxBy(each => each.Cell.Length);
            var lined = cells.FirstOrDefault(each => each.Cell.Contains('\n', StringComparison.Ordinal)).Line;
            Message reason =
                lined > 0 ? $"Line {lined} has a text of several lines"
                : longest.Cell.Length > Long ? (Message)$"Line {longest.Line} has a text of {longest.Cell.Length} characters"
                : Distinct.Length == 1 ? (Message)$"{Distinct.Length} text, always the same"
                : $"{Distinct.Length} different texts";
            var type = lined > 0 || longest.Cell.Length > Long ? FieldType.LongText : FieldType.Text;
            return new Sight(New(type), reason, Doubts(New(type)));
        }

        private static Field New(FieldType type) =>
            new()
            {
                Key = "",
                Label = Texts.Of(""),
                Type = type,
            };
    }

    [GeneratedRegex(
        @"\b(id|no|nr|nummer|number|code|key|ref|reference|registration|sku|ean|isbn|serial)\b",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture
    )]
    private static partial Regex CodeHeading();

    /// <summary>What has noughts before it is no number of anything.</summary>
    [GeneratedRegex("^0[0-9]")]
    private static partial Regex LeadingZero();

    [GeneratedRegex(@"^[+-]?[0-9][0-9.,' ]*[0-9]*\s*(?<unit>\p{L}[\p{L}/²³]{0,7}|%|°[CF]?)$", RegexOptions.ExplicitCapture)]
    private static partial Regex Measure();

    [GeneratedRegex(@"^\+[0-9][0-9 ()./-]{5,}$|^0[0-9]{1,4}[ ()/-][0-9 ()./-]{4,}$")]
    private static partial Regex Phone();
}
