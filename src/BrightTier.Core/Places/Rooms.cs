using System.Collections.Frozen;
using BrightTier.Core.Model;

namespace BrightTier.Core.Places;

/// <summary>
/// How much room editors, labels and parts need: the one table that placing, the generated layout, the checks and the designer go by.
/// web/layout has it as data (<c>make vectors</c>) and is held to what comes of it by tests/vectors/rooms.
/// </summary>
public static class Rooms
{
    /// <summary>A text of at most so many characters stands in the least a text needs.</summary>
    public const int FewLetters = 20;

    /// <summary>A text of at most so many takes one unit more where there is room; a longer one half a row.</summary>
    public const int SomeLetters = 40;

    /// <summary>Width of a form, in rem, at which everything should fit: the narrow end of where a full layout is used.</summary>
    public const int Form = 48;

    /// <summary>Width of a letter of a label, in hundredths of a rem.</summary>
    public const int LetterWidth = 52;

    /// <summary>Width of a unit of a form of that width, in hundredths of a rem.</summary>
    public const int UnitWidth = Form * 100 / Limits.Units;

    /// <summary>What of a cell's units is the gap beside it, in hundredths of a rem.</summary>
    public const int Gap = 100;

    /// <summary>By editor. A number of whole units, which is short, is as a rating is.</summary>
    public static IReadOnlyDictionary<string, Room> OfEditors { get; } =
        new Dictionary<string, Room>
        {
            ["check"] = new(2, 3),
            ["switch"] = new(2, 3),
            ["stars"] = new(2, 3),
            ["yes-no"] = new(3, 3),
            ["number"] = new(3, 3),
            ["money"] = new(3, 3),
            ["date"] = new(3, 3),
            ["time"] = new(3, 3),
            ["select"] = new(3, 4),
            ["phone"] = new(3, 4),
            ["date-time"] = new(3, 4),
            ["line"] = new(3, 6),
            ["slider"] = new(3, 6),
            ["radio"] = new(3, 6),
            ["search"] = new(4, 6),
            ["e-mail"] = new(4, 6),
            ["web-address"] = new(4, 6),
            ["look-up"] = new(4, 6),
            ["checks"] = new(4, 6),
            ["image"] = new(4, 6),
            ["file"] = new(4, 6),
            ["lines"] = new(6, 12),
        }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>By kind, of items that show no field.</summary>
    public static IReadOnlyDictionary<NodeKind, Room> OfItems { get; } =
        new Dictionary<NodeKind, Room>
        {
            [NodeKind.Heading] = new(12, 12),
            [NodeKind.Divider] = new(12, 12),
            [NodeKind.Related] = new(12, 12),
            [NodeKind.Panel] = new(12, 12),
            [NodeKind.Piece] = new(6, 12),
            [NodeKind.Text] = new(3, 12),
            [NodeKind.Image] = new(2, 4),
            [NodeKind.Link] = new(2, 3),
            [NodeKind.Action] = new(2, 3),
            [NodeKind.Spacer] = new(1, 12),
        }.ToFrozenDictionary();

    /// <summary>What has no room of its own, such as an empty cell.</summary>
    private static readonly Room Least = new(1, 1);

    /// <summary>The room an editor needs, whatever stands over it.</summary>
    /// <param name="editor">One of <see cref="Editors.All"/>; null for the type's own.</param>
    public static Room OfEditor(string? editor, Field field)
    {
        var name = editor is not null && OfEditors.ContainsKey(editor) ? editor : Editors.Default(field.Type);
        if (name == "number" && field.Type is FieldType.Integer or FieldType.Rating)
        {
            return OfEditors["stars"];
        }

        var room = OfEditors[name];
        return name != "line" || field.MaxLength is not { } letters || letters > SomeLetters
            ? room
            : room with
            {
                Natural = room.Needed + (letters > FewLetters ? 1 : 0),
            };
    }

    /// <summary>The units in which a word of so many letters stands whole over its field; for a long one more than a row has.</summary>
    public static int OfWord(int letters) => ((letters * LetterWidth) + Gap + UnitWidth - 1) / UnitWidth;

    /// <summary>The letters of the longest word of a text, in the language in which that is longest.</summary>
    public static int LongestWord(Texts text) => text.ByLanguage.Values.Select(LongestWord).DefaultIfEmpty().Max();

    /// <summary>The letters of the longest word of a text.</summary>
    public static int LongestWord(string text)
    {
        var (longest, begin) = (0, 0);
        for (var i = 0; i <= text.Length; i++)
        {
            if (i == text.Length || text[i] is ' ' or '-')
            {
                (longest, begin) = (Math.Max(longest, i - begin), i + 1);
            }
        }

        return longest;
    }

    /// <summary>
    /// The room an item needs: a field what its editor and its label need, one that is not known that of a text, the rest by its kind.
    /// </summary>
    public static Room Of(Node item, Func<string, Field?> fields)
    {
        if (item.Kind is not NodeKind.Field)
        {
            return OfItems.GetValueOrDefault(item.Kind, Least);
        }

        if (fields(item.Word("field") ?? "") is not { } field)
        {
            return OfEditors["line"];
        }

        var room = OfEditor(item.Word("editor"), field);
        var word = Math.Min(Limits.Units, OfWord(LongestWord(item.Text("label") ?? field.Label)));
        var needed = Math.Max(room.Needed, word);
        return new Room(needed, Math.Max(needed, room.Natural));
    }

    /// <summary>The room a cell needs: that of the widest of what stands in it.</summary>
    public static Room OfCell(Node cell, Func<string, Field?> fields) =>
        cell
            .Children.Select(item => Of(item, fields))
            .Aggregate(Least, (a, b) => new Room(Math.Max(a.Needed, b.Needed), Math.Max(a.Natural, b.Natural)));
}
