using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Testing;

namespace BrightTier.Core.Tests;

/// <summary>Every character in every text of every kind of document: read back the same, or refused with its place.</summary>
public sealed class TextTests
{
    /// <summary>
    /// A document of each kind, with one text as it is given in each of the places that hold texts for people or words that are not keys.
    /// </summary>
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

    /// <summary>
    /// Every place of a tree that holds a scalar which may be any text, with what puts another there; of lists the first three elements.
    /// </summary>
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
        "label",
        "title",
        "help",
        "hint",
        "message",
        "patternMessage",
        "plural",
        "description",
        "heading",
        "text",
        "empty",
        "unit",
        "note",
        "about",
        "pass",
        "fail",
        "default",
        "when",
        "currency",
    ];

    private static bool Endures => Environment.GetEnvironmentVariable("BRIGHTTIER_ENDURE_TEXTS") == "1";

    private static void Holds(string place, FileNode given, string text)
    {
        var (document, problems) = DocumentFile.Read(given);
        if (document is null)
        {
            problems.EachShould(problem => problem.Message.English.Length > 0 && problem.Message.English.Length < 600);
            if (TextCharacters.Problem(text) is null && text.Length <= Limits.TextLength)
            {
                // Refused for what this one place asks, such as a condition that must not be empty; never for its characters.
                problems.EachShould(problem => !problem.Message.English.Contains("U+", StringComparison.Ordinal), place);
            }

            return;
        }

        TextCharacters.Problem(text).ShouldBeNull($"{place} took {JsonSerializer.Serialize(text)}");
        var (written, wrong) = DocumentFile.WriteAndReadBack(document);
        wrong.ShouldBeEmpty($"{place} with {JsonSerializer.Serialize(text)}:\n{written[..Math.Min(2_000, written.Length)]}");
        written.Split('\n').EachShould(line => !line.Contains('\u2028') && !line.Contains('\u0085'));
    }

    [Fact]
    public void Every_hostile_text_in_every_place_of_every_document_reads_back_or_is_refused()
    {
        // Each place with its own part of the list, and each text in every kind of place.
        foreach (var text in HostileTexts.All)
        {
            // In make endure in every place; else in one of each kind in each document.
            var places = Documents_with(text).GroupBy(each => (each.Place.Split(' ')[0], Endures ? each.Place : each.Place.Split('/')[^1]));
            foreach (var (place, document) in places.Select(group => group.First()))
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
                problem.English.ShouldContain($"U+{code:X4}");
                var (_, problems) = DocumentFile.Read(List($"a{character}b"));
                problems.Count.ShouldBe(2);
                problems.EachShould(each =>
                    each.Message.English.Contains(problem.English.Replace("place 1", "place 2", StringComparison.Ordinal))
                );
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

        static FileNode List(string text) =>
            FileNode.Of(
                ("kind", FileNode.Word("choice-list")),
                ("key", FileNode.Word("zone")),
                ("label", FileNode.Of(("en", FileNode.Word(text)))),
                ("choices", new FileNode.List([FileNode.Of(("key", FileNode.Word("a")), ("label", FileNode.Word(text)))], default))
            );

        static void Reads(string text)
        {
            var written = YamlText.Write(List(text));
            var (document, problems) = DocumentFile.Read(written);
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
        (problem.At.Pointer, problem.Message.English).ShouldBe(
            ("/edits/0/value", "'title' has a character that no text can hold (U+0000) at place 4; leave it out")
        );
    }

    [Fact]
    public void A_number_keeps_every_digit_it_was_given()
    {
        var (document, _) = DocumentFile.Read(
            "kind: entity\nkey: a\nlabel: A\nfields:\n  - { key: x, type: decimal, min: 0.1234567890123456789, max: "
                + "79228162514264337593543950335 }\n"
        );

        var (text, problems) = DocumentFile.WriteAndReadBack(document!);

        problems.ShouldBeEmpty();
        text.ShouldContain("0.1234567890123456789");
        decimal.Parse(text.Split("max: ")[1], CultureInfo.InvariantCulture).ShouldBe(decimal.MaxValue);
    }
}
