using System.Globalization;
using BrightTier.Core.Documents;
using CsCheck;

namespace BrightTier.Core.Tests;

public sealed class FileCommentsTests
{
    /// <summary>All documents of the demo, as they are written.</summary>
    private static readonly (Document Document, string Text)[] Written =
    [
        .. Demo
            .Files.Select(file => DocumentFile.Read(File.ReadAllText(file)).Document!)
            .Select(document => (document, DocumentFile.Write(document))),
    ];

    [Fact]
    public void Wherever_a_comment_stands_it_is_written_there_again()
    {
        var gen = Gen.Select(Gen.Int[0, Written.Length - 1], Gen.Int[0, 3].Array[400]);
        gen.Sample(
            chosen =>
            {
                var (document, text) = Written[chosen.Item1];
                var commented = Commented(text, chosen.Item2);
                var kept = FileComments.Write(document, commented);
                kept.Text.ShouldBe(commented);
                kept.Gone.ShouldBeEmpty();
            },
            iter: 300
        );
    }

    /// <summary>A form with comments.</summary>
    private const string Noted = """
        # Ask the harbour office before changing this.
        kind: full
        key: vessel
        entity: vessel
        body:
          pages:
            - title: All
              sections:
                # Who she is.
                - title: Identity # as on the certificate
                  rows:
                    - [name/8, registration/4] # one line, always
                    # Hull first.
                    - [hullType, propulsion]
                - title: Measures
                  # not on phones
                  visible: record.length > 4.0
                  rows:
                    - [length, beam]
                # the rest is elsewhere
        # the end
        """;

    /// <summary>The same without them, changed by hand: retitled and moved behind, a row wider, a section in front.</summary>
    private const string ByHand = """
        kind: full
        key: vessel
        entity: vessel
        body:
          pages:
            - title: All
              sections:
                - title: Identity
                  rows:
                    - [draught]
                - title: Size
                  visible: record.length > 5.0
                  rows:
                    - [length, beam]
                - title: Who
                  rows:
                    - [hullType, propulsion, homePort]
                    - [name/6, registration/6]
        """;

    /// <summary>What comes of both.</summary>
    private const string Kept = """
        # Ask the harbour office before changing this.
        kind: full
        key: vessel
        entity: vessel
        body:
          pages:
            - title: All
              sections:
                - id: identity2
                  title: Identity
                  rows:
                    - [draught]
                - id: measures
                  title: Size
                  # not on phones
                  visible: record.length > 5.0
                  rows:
                    - [length, beam]
                # the rest is elsewhere
                # Who she is.
                - id: identity  # as on the certificate
                  title: Who
                  rows:
                    # Hull first.
                    - [hullType, propulsion, homePort]
                    - [name/6, registration/6]  # one line, always
        # the end
        """;

    [Fact]
    public void Comments_go_with_what_they_are_about()
    {
        var before = DocumentFile.Read(Noted).Document!;
        var document = DocumentFile.Read(ByHand).Document!.CarriedFrom(before);

        var kept = FileComments.Write(document, Noted);

        kept.Gone.ShouldBeEmpty();
        kept.Text.TrimEnd().Split('\n').ShouldBe(Kept.Split('\n'));
    }

    [Fact]
    public void What_is_said_twice_stays_said_twice()
    {
        const string text = "kind: pattern\nkey: code\nlabel: Code\npattern: \"[A-Z]+\"\nmessage: Letters\n# same\n # same\n";
        var document = DocumentFile.Read(text).Document!;

        var once = FileComments.Write(document, text).Text;

        once.ShouldEndWith("\n# same\n# same\n");
        FileComments.Write(document, once).Text.ShouldBe(once);
    }

    [Fact]
    public void What_goes_takes_its_comments_along_and_they_are_told()
    {
        const string text = """
            kind: choice-list
            key: propulsion
            label: Propulsion
            # the order is that of the paper form
            choices:
              # since 2019
              - key: sail
                label: Sail # and oars
              - key: oars # none left
                label: Oars
                # nobody asks
                note: old
            """;
        var (before, problems) = DocumentFile.Read(text.Replace("    # nobody asks\n    note: old", "", StringComparison.Ordinal));
        problems.ShouldBeEmpty();
        var (next, none) = DocumentFile.Read(
            """
            kind: choice-list
            key: propulsion
            label: Propulsion
            choices:
              - key: electric
                label: Electric
              - key: sail
                label: Sailing
            """
        );
        none.ShouldBeEmpty();
        before.ShouldNotBeNull();

        var kept = FileComments.Write(next!, text);

        kept.Gone.ShouldBe(["# none left", "# nobody asks"]);
        kept.Text.ShouldContain("# the order is that of the paper form\nchoices:\n");
        kept.Text.ShouldContain("  # since 2019\n  - key: sail\n    label: Sailing  # and oars\n");
    }

    [Fact]
    public void Two_sides_keep_the_comments_neither_took_away()
    {
        const string from = "kind: pattern # p\nkey: code\nlabel: Code # old\npattern: \"[A-Z]+\"\nmessage: Letters # x\n";
        var document = DocumentFile.Read(from).Document;
        document.ShouldNotBeNull();

        var merged = FileComments.Write(
            document,
            from,
            from.Replace(" # old", "", StringComparison.Ordinal).Replace("key: code", "# mine\nkey: code", StringComparison.Ordinal),
            from.Replace(" # x", " # y", StringComparison.Ordinal)
        );

        merged.Text.ShouldContain("kind: pattern  # p\n# mine\nkey: code\nlabel: Code\n");
        merged.Text.ShouldContain("  # y\n");
        merged.Text.ShouldNotContain("# x");
    }

    /// <summary>The text with a comment above (1), beside (2) or both (3) at each line, and one at the end.</summary>
    private static string Commented(string text, int[] how)
    {
        var lines = text.TrimEnd('\n').Split('\n');
        var all = lines.Index().SelectMany(line => Around(line.Item, how[line.Index % how.Length], line.Index));
        return string.Join('\n', all) + (how[0] == 1 ? "\n# last\n" : "\n");

        static IEnumerable<string> Around(string line, int how, int number)
        {
            var name = number.ToString(CultureInfo.InvariantCulture);
            if (how is 1 or 3)
            {
                yield return $"{new string(' ', line.Length - line.TrimStart(' ').Length)}# above {name}: \"x\" - [y]";
            }

            yield return how is 2 or 3 ? $"{line}  # beside {name}" : line;
        }
    }
}
