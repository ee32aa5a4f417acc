using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Tests;

/// <summary>Every character in every text of every kind of document: read back the same, or refused with its place.</summary>
public sealed class TextTests
{
    public static readonly string[] Hostile =
    [
        "", " ", "  leading", "trailing  ", "a: b", "a #b", "- a", "? a", "! a", "& a", "* a", "%a", "@a", "`a`", "'", "\"", "''", "\"\"", "\\", "\\\\", "\\u0041", "\\x",
        "[", "]", "{", "}", "[]", "{}", "{a}", ",", "|", ">", "|-", "---", "...", "--- a", "...\n", "null", "Null", "NULL", "~", "true", "TRUE", "False", "yes", "No", "on", "OFF", "y", "N",
        "1", "1.0", "-1", "0x1f", "0o17", "1e3", ".inf", "-.INF", ".nan", "2026-05-31", "2026-05-31T10:00:00Z", "12:30:45", "<<", "=", "!!str a", "&a b", "*a", "a\tb", "\ta", "a\nb", "\n", "a\n\n b", "a\r\nb", "\r",
        "a\u0085b", "a\u00A0b", "\u00A0", "a\u2028b", "\u2028", "a\u2029b", "a\uFEFFb", "\uFEFF", "a\u200Eb\u202E", "a\u200Db", "\u0301a", "a\u0007b", "\u0000", "a\u0000", "\u001B[31m", "\u007F", "\u009F",
        "\uFFFD", "\uFFFE", "\uFFFF", "\uD800", "a\uDC00b", "\uDC00\uD800", "\U0001F6A4", "\U0001F468\u200D\U0001F469", "\U0010FFFF", "\uE000", "مرسى", "קשר", "係船", "\u3000", "ﷺ",
        "<script>alert(1)</script>", "'; DROP TABLE vessel; --", "${7*7}", "{{7*7}}", "%s%n", "=1+1", "../../etc/passwd", "C:\\x", "a:b", "a:", ":a", "key: [1, 2]", "a, b", "a | b", "# a", "a\u2028# b: c", "!x\u2028y", "\u2028- a", "x\u2028  y: z",
        new string('a', 4_000), string.Concat(Enumerable.Repeat("\U0001F6A4", 2_000)), "a" + new string(' ', 3_000) + "b", new string('\n', 4_000),
    ];

    /// <summary>A document of each kind, with one text as it is given in each of the places that hold texts for people or words that are not keys.</summary>
    private static IEnumerable<(string Place, FileNode Document)> Documents_with(string text)
    {
        foreach (var file in Demo.Files)
        {
            var (node, _) = YamlText.Read(File.ReadAllText(file));
            foreach (var (pointer, put) in Places(node!, ""))
            {
                yield return ($"{Path.GetFileName(file)} {pointer}", put(new FileNode.Scalar(text, true, default)));
            }
        }
    }

    /// <summary>Every place of a tree that holds a scalar which may be any text, with what puts another there; of lists the first three elements.</summary>
    private static IEnumerable<(string Pointer, Func<FileNode, FileNode> Put)> Places(FileNode node, string pointer, string key = "")
    {
        switch (node)
        {
            case FileNode.Scalar when Free.Contains(key):
                yield return (pointer, put => put);
                break;
            case FileNode.Map map:
                foreach (var (i, entry) in map.Entries.Index())
                {
                    var name = entry.Key.Length is 2 or 3 && Free.Contains(key) ? key : entry.Key;
                    foreach (var (at, put) in Places(entry.Value, $"{pointer}/{entry.Key}", name))
                    {
                        yield return (at, with => map with { Entries = map.Entries.SetItem(i, entry with { Value = put(with) }) });
                    }
                }

                break;
            case FileNode.List list:
                foreach (var (i, element) in list.Elements.Take(3).Index())
                {
                    foreach (var (at, put) in Places(element, $"{pointer}/{i}", key))
                    {
                        yield return (at, with => list with { Elements = list.Elements.SetItem(i, put(with)) });
                    }
                }

                break;
        }
    }

    /// <summary>Properties whose value may be any text.</summary>
    private static readonly HashSet<string> Free =
    [
        "label", "title", "help", "hint", "message", "patternMessage", "plural", "description", "heading", "text", "empty", "unit", "note", "about", "pass", "fail", "default", "when", "currency",
    ];

    private static void Holds(string place, FileNode given, string text)
    {
        var (document, problems) = Documents.Read(given);
        if (document is null)
        {
            problems.ShouldAllBe(problem => problem.Message.Length > 0 && problem.Message.Length < 600);
            if (TextCharacters.Problem(text) is null && text.Length <= Limits.TextLength)
            {
                // Refused for what this one place asks, such as a condition that must not be empty; never for its characters.
                problems.ShouldAllBe(problem => !problem.Message.Contains("U+", StringComparison.Ordinal), place);
            }

            return;
        }

        TextCharacters.Problem(text).ShouldBeNull($"{place} took {JsonSerializer.Serialize(text)}");
        var (written, wrong) = Documents.WriteAndReadBack(document);
        wrong.ShouldBeEmpty($"{place} with {JsonSerializer.Serialize(text)}:\n{written[..Math.Min(2_000, written.Length)]}");
        written.Split('\n').ShouldAllBe(line => !line.Contains('\u2028') && !line.Contains('\u0085'));
    }

    [Fact]
    public void Every_hostile_text_in_every_place_of_every_document_reads_back_or_is_refused()
    {
        // Each place with its own part of the list, and each text in every kind of place.
        foreach (var text in Hostile)
        {
            foreach (var (place, document) in Documents_with(text).GroupBy(each => (each.Place.Split(' ')[0], each.Place.Split('/')[^1])).Select(group => group.First()))
            {
                Holds(place, document, text);
            }
        }
    }

    [Fact]
    public void Every_character_there_is_reads_back_from_a_file_or_is_refused_with_its_place()
    {
        var run = new StringBuilder();
        for (var code = 0; code <= 0x10FFFF; code++)
        {
            var character = code is >= 0xD800 and <= 0xDFFF ? ((char)code).ToString() : char.ConvertFromUtf32(code);
            if (TextCharacters.Problem(character) is { } problem)
            {
                problem.ShouldContain($"U+{code:X4}");
                var (_, problems) = Documents.Read(List($"a{character}b"));
                problems.Count.ShouldBe(2);
                problems.ShouldAllBe(each => each.Message.Contains(problem.Replace("place 1", "place 2", StringComparison.Ordinal)));
                continue;
            }

            run.Append('a').Append(character).Append(' ');
            if (run.Length > 3_000)
            {
                // By itself in a text, where it can begin and end it, and among others.
                Reads(run.ToString());
                run.Clear();
            }

            if (code < 0x3100)
            {
                Reads(character);
                Reads("a" + character);
                Reads(character + "a");
                Reads($"a{character}# b: c");
            }
        }

        Reads(run.ToString());

        static FileNode List(string text) => FileNode.Of(
            ("kind", FileNode.Word("choice-list")), ("key", FileNode.Word("zone")), ("label", FileNode.Of(("en", FileNode.Word(text)))),
            ("choices", new FileNode.List([FileNode.Of(("key", FileNode.Word("a")), ("label", FileNode.Word(text)))], default)));

        static void Reads(string text)
        {
            var written = YamlText.Write(List(text));
            var (document, problems) = Documents.Read(written);
            problems.ShouldBeEmpty(written);
            var list = document.ShouldBeOfType<Document.OfChoiceList>().ChoiceList;
            (list.Label.In("en"), list.Choices[0].Label.In("en")).ShouldBe((text, text));
        }
    }

    [Fact]
    public void What_a_body_says_in_escapes_is_refused_where_it_stands()
    {
        using var json = JsonDocument.Parse("""[{"op": "set", "node": "identity", "property": "title", "value": "Ide\u0000ntity"}]""");

        var (_, problems) = TreeJson.ReadEdits(json.RootElement, Demo.VesselForm.Find, "/edits");

        var problem = problems.ShouldHaveSingleItem();
        (problem.At.Pointer, problem.Message).ShouldBe(("/edits/0/value", "'title' has a character that no text can hold (U+0000) at place 4; leave it out"));
    }

    [Fact]
    public void A_number_keeps_every_digit_it_was_given()
    {
        var (document, _) = Documents.Read("kind: entity\nkey: a\nlabel: A\nfields:\n  - { key: x, type: decimal, min: 0.1234567890123456789, max: 79228162514264337593543950335 }\n");

        var (text, problems) = Documents.WriteAndReadBack(document!);

        problems.ShouldBeEmpty();
        text.ShouldContain("0.1234567890123456789");
        decimal.Parse(text.Split("max: ")[1], CultureInfo.InvariantCulture).ShouldBe(decimal.MaxValue);
    }
}
