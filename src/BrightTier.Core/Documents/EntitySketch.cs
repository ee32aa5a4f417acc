using System.Text;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>What somebody says of a column; what is null is found out.</summary>
/// <param name="Left">Whether it is left out.</param>
/// <param name="Target">Of a reference, the entity it points at.</param>
/// <param name="Choices">Of a choice, what it offers beside what stands in the column.</param>
public sealed record ColumnWish(
    bool Left,
    string? Label,
    FieldType? Type,
    bool? Required,
    bool? Unique,
    string? Target,
    IReadOnlyList<string> Choices
)
{
    public static ColumnWish None { get; } = new(false, null, null, null, null, null, []);
}

/// <summary>What somebody says of a table; what is null is found out.</summary>
public sealed record TableWish(
    string? Label,
    string? Plural,
    string? Display,
    char? Point,
    DayOrder? Days,
    IReadOnlyList<ColumnWish>? Columns
)
{
    public static TableWish None { get; } = new(null, null, null, null, null, null);
}

/// <summary>An entity as somebody's table suggests it: a field a column, in their order.</summary>
public sealed record EntitySketch(Entity Entity, IReadOnlyList<ColumnSketch> Columns, CsvFormat Format)
{
    /// <param name="name">What the table is called: its file's name, with or without an ending.</param>
    /// <param name="lines">Its lines; the first heads the columns.</param>
    /// <param name="definitions">What is there already: no key of it is given again.</param>
    /// <param name="zone">Where clocks of moments without a zone hang.</param>
    /// <param name="monthFirst">Whether 3/4 is the fourth of March where nothing tells.</param>
    /// <param name="wish">What somebody knows better.</param>
    public static EntitySketch Of(
        string name,
        IReadOnlyList<(int Line, IReadOnlyList<string> Cells)> lines,
        Definitions definitions,
        TimeZoneInfo zone,
        bool monthFirst,
        TableWish wish
    )
    {
        var headings = lines[0].Cells;
        var columns = headings.Select((_, i) => Column(lines, i)).ToArray();
        var (point, days) = CsvFormat.Guess(columns.SelectMany(column => column.Select(each => ((Field?)null, each.Cell))), monthFirst);
        var format = new CsvFormat(wish.Point ?? point, wish.Days ?? days, zone);
        var (keys, labels) = (new List<string>(), new List<string>());
        var sketches = new List<ColumnSketch>();
        for (var i = 0; i < headings.Count; i++)
        {
            var said = wish.Columns?[i] ?? ColumnWish.None;
            var called = said.Label?.Trim() is { Length: > 0 } own ? own : Label(headings[i]);
            var label = Unused(called.Length > 0 ? called : $"Column {i + 1}", labels);
            var key = Keys.Fresh(Keys.Of(label, "field"), each => keys.Contains(each) || ServiceFields.Contains(each));
            keys.Add(key);
            labels.Add(label);
            var sketch = ColumnSketch.Of(headings[i], key, label, columns[i], format, said);
            sketches.Add(sketch.Choices is { } list ? WithList(sketch, list, definitions) : sketch);
        }

        var names = Names(name);
        var one = wish.Label?.Trim() is { Length: > 0 } singular ? singular : names.One;
        var fields = sketches.Where(each => !each.Left).Select(each => each.Field).ToArray();
        return new EntitySketch(
            new Entity
            {
                Key = Keys.Fresh(Keys.Of(one, "entity"), definitions.IsTaken),
                Label = Texts.Of(one),
                Plural = Texts.Of(wish.Plural?.Trim() is { Length: > 0 } plural ? plural : names.Many),
                Display = wish.Display?.Trim() is { Length: > 0 } display ? display : Display(fields),
                Fields = [.. fields],
            },
            sketches,
            format
        );
    }

    /// <summary>The cells of a column, each with its line; a line that ends before it has an empty one.</summary>
    public static IReadOnlyList<(int Line, string Cell)> Column(IReadOnlyList<(int Line, IReadOnlyList<string> Cells)> lines, int column) =>
        [.. lines.Skip(1).Select(line => (line.Line, line.Cells.ElementAtOrDefault(column) ?? ""))];

    /// <summary>What tells its records apart: what is unique, else the first text that every line has, else the first column.</summary>
    public static string Display(IReadOnlyList<Field> fields)
    {
        var texts = fields.Where(field => field.Type.IsShortText()).ToArray();
        var name = texts.FirstOrDefault(field => field.Required && field.Type is FieldType.Text && !field.Unique)
            ?? fields.FirstOrDefault(field => field.Unique)
            ?? texts.FirstOrDefault()
            ?? (fields.Count > 0 ? fields[0] : null);
        return name is null ? ""
            : fields.FirstOrDefault(field => field.Unique && field != name && name.Type is FieldType.Text) is { } code
                ? $"{{{name.Key}}}, {{{code.Key}}}"
            : $"{{{name.Key}}}";
    }

    private static ColumnSketch WithList(ColumnSketch sketch, ChoiceList list, Definitions definitions)
    {
        var key = Keys.Fresh(list.Key, definitions.ChoiceLists.ContainsKey);
        return sketch with { Choices = list with { Key = key }, Field = sketch.Field with { ChoiceList = key } };
    }

    /// <summary>A heading as people write labels: words with spaces between, the first with a capital.</summary>
    public static string Label(string heading)
    {
        var words = new StringBuilder();
        var bare = heading.Trim();
        var shouted = bare.Length > 4 && bare.Any(char.IsLetter) && !bare.Any(char.IsLower);
        for (var i = 0; i < bare.Length; i++)
        {
            var letter = bare[i];
            if (letter is '_' || char.IsControl(letter) || char.IsWhiteSpace(letter))
            {
                words.Append(' ');
            }
            else if (char.IsUpper(letter) && i > 0 && char.IsLower(bare[i - 1]))
            {
                words.Append(' ').Append(i + 1 < bare.Length && char.IsLower(bare[i + 1]) ? char.ToLowerInvariant(letter) : letter);
            }
            else
            {
                words.Append(shouted ? char.ToLowerInvariant(letter) : letter);
            }
        }

        var label = string.Join(' ', words.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries));
        label = label.Length > Limits.LabelLength ? Suggestion.Short(label) : label;
        return label.Length > 0 ? char.ToUpperInvariant(label[0]) + label[1..] : "";
    }

    private static string Unused(string label, List<string> taken)
    {
        var (made, number) = (label, 2);
        while (taken.Contains(made, StringComparer.OrdinalIgnoreCase))
        {
            made = $"{label} {number++}";
        }

        return made;
    }

    /// <summary>One record and many, as far as a file's name tells: companies-2026.csv is of companies, each a company.</summary>
    internal static (string One, string Many) Names(string name)
    {
        var bare = Path.GetFileNameWithoutExtension(name.Replace('\\', '/')).Trim();
        var many = Label(bare.Replace('-', ' ').TrimEnd("0123456789 ".ToCharArray()));
        many = many.Length > 0 ? many : "Records";
        var one = many switch
        {
            [.. var stem, 'i', 'e', 's'] when stem.Length > 1 => stem + "y",
            [.., 's' or 'u' or 'i', 's'] => many,
            [.. var stem, 'x' or 'h' or 's', 'e', 's'] => stem + many[^3],
            [.. var stem, 's'] when stem.Length > 2 => stem,
            _ => many,
        };
        return (one, many);
    }

    /// <summary>Many of what one is called, where the name is of one: a company, companies.</summary>
    internal static string Many(string one, string many) =>
        one != many
            ? many
            : one switch
            {
                [.., 's'] => one,
                [.. var stem, not ('a' or 'e' or 'i' or 'o' or 'u'), 'y'] => $"{stem}{one[^2]}ies",
                [.., 'x' or 'z'] or [.., 's' or 'c', 'h'] => one + "es",
                _ => one + "s",
            };
}
