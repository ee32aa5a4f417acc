using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

public sealed class FileTests
{
    public static TheoryData<string> DemoFiles => [.. Demo.Files.Select(file => Path.GetRelativePath(Demo.Folder, file))];

    [Theory]
    [MemberData(nameof(DemoFiles))]
    public void What_is_written_reads_back_as_the_same_and_is_written_the_same_again(string file)
    {
        var (document, problems) = DocumentFile.Read(File.ReadAllText(Path.Combine(Demo.Folder, file)));
        problems.ShouldBeEmpty();

        var text = DocumentFile.Write(document!);
        var (again, more) = DocumentFile.Read(text);

        more.ShouldBeEmpty(text);
        DocumentFile.Write(again!).ShouldBe(text);
        if (document is Document.OfLayout layout)
        {
            ((Document.OfLayout)again!).Layout.ShouldBe(layout.Layout);
        }

        // As JSON it is the same document.
        using var stream = new MemoryStream();
        using (var writer = new System.Text.Json.Utf8JsonWriter(stream))
        {
            DocumentFile.Write(writer, document!);
        }

        var (fromJson, none) = DocumentFile.Read(System.Text.Encoding.UTF8.GetString(stream.ToArray()));
        none.ShouldBeEmpty();
        DocumentFile.Write(fromJson!).ShouldBe(text);
    }

    [Fact]
    public void Json_is_read_as_well_and_means_the_same()
    {
        var layout = Demo.VesselForm;
        Demo.ReadLayout(JsonText.Write(LayoutFile.Write(layout))).ShouldBe(layout);
    }

    [Fact]
    public void A_row_can_be_written_short()
    {
        var row = Demo.VesselRows("[name/8, registration/4]").Walk().Single(node => node.Kind is NodeKind.Row);

        row.Children.Select(cell => (cell.Number("span"), cell.Children[0].Word("field"))).ShouldBe([(8, "name"), (4, "registration")]);
        row.Id.Name.ShouldBe("nameRow");
        DocumentFile.Write(new Document.OfLayout(Demo.VesselRows("[name/8, registration/4]"))).ShouldContain("- [name/8, registration/4]");
    }

    [Theory]
    [InlineData("[name/13]", 13, "'span' must be from 1 to 12; it is 13")]
    [InlineData("[{ field: name, labl: x }]", 13, "a field has no 'labl'; did you mean 'label'?")]
    [InlineData("[{ field: name, required: 3 }]", 13, null)]
    [InlineData("[{ heading: Rig, frame: none }]", 13, "a heading has no 'frame'")]
    [InlineData("[{ divider: dotted }]", 13, "'divider' has no value 'dotted'; there are: thin, strong")]
    [InlineData("[{ label: Rig }]", 13, "a cell has no 'label'")]
    [InlineData("- &a name", 13, "anchors and aliases")]
    public void A_wrong_row_is_answered_with_its_line_and_what_would_be_right(string row, int line, string? message)
    {
        var (document, problems) = DocumentFile.Read(
            $"kind: full\nkey: trial\nentity: vessel\nbody:\n  pages:\n    - title: A\n      sections:\n        - title: B\n  "
                + $"        rows:\n\n\n\n            - {row}\n"
        );

        if (message is null)
        {
            document.ShouldNotBeNull();
            return;
        }

        document.ShouldBeNull();
        problems[0].Message.English.ShouldContain(message);
        problems[0].At.Line.ShouldBe(line);
        problems[0].At.Column.ShouldBeGreaterThan(1);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("kind: ful", "did you mean 'full'?")]
    [InlineData("kind: full\nkind: full", "given twice")]
    [InlineData("kind: full\nkey: a b\nentity: vessel\nbody: {}", "must begin with a letter")]
    [InlineData("kind: full\nkey: a\nentity: vessel", "needs 'body'")]
    [InlineData("kind: [", "is not YAML")]
    [InlineData("kind: entity\nkey: tug\nfields: [{ key: a, type: texst }]", "did you mean 'text'?")]
    [InlineData("kind: entity\nkey: tug\nfields: [{ key: createdBy, type: text }]", "filled by the service")]
    [InlineData("kind: entity\nkey: tug\nfields: [{ key: a, type: reference }]", "needs 'target'")]
    [InlineData("kind: entity\nkey: tug\nfields: [{ key: a, type: text, pattern: '(?=a)' }]", "looks around")]
    [InlineData("kind: application\ntimeZone: Mars/Crater", "no time zone")]
    public void A_wrong_document_is_answered_with_what_is_wrong(string text, string message)
    {
        var (document, problems) = DocumentFile.Read(text);

        document.ShouldBeNull();
        problems.ShouldContain(problem => problem.Message.English.Contains(message) && problem.At.Line > 0, string.Join("; ", problems));
    }

    [Fact]
    public void Deep_nesting_and_unfolding_files_are_refused_at_once()
    {
        DocumentFile.Read(new string('[', 5_000)).Problems.ShouldNotBeEmpty();
        DocumentFile.Read("a: !<;> x").Problems.ShouldNotBeEmpty();
        DocumentFile.Read("a: &a [x]\nb: [*a, *a]").Problems[0].Message.English.ShouldContain("anchors");
    }

    /// <summary>
    /// The schema that is shipped and served, and the one made for the demo's folder; web/console/tests/schema.test.ts checks them against
    /// their meta-schema and the demo's files against them. BRIGHTTIER_WRITE_VECTORS=1 writes them.
    /// </summary>
    [Theory]
    [InlineData("docs/schema/document.json", false)]
    [InlineData("tests/vectors/demo-schema.json", true)]
    public void The_schema_that_is_shipped_is_made_from_the_rules_of_today(string path, bool ofDemo)
    {
        var file = Path.Combine(Demo.Folder, "..", path);
        var made = DocumentSchema.Make(ofDemo ? Demo.Catalogue : null).ToJsonString(new() { WriteIndented = true }) + "\n";
        if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
        {
            File.WriteAllText(file, made);
        }

        File.ReadAllText(file).ShouldBe(made);
    }

    /// <summary>What is written of a document is what the rules say it has, in their order: there is no second list.</summary>
    [Fact]
    public void Every_property_that_is_written_has_its_rule()
    {
        var rules = ObjectRules.All.Where(rule => rule.Kind is not null).ToDictionary(rule => rule.Kind!);
        foreach (var document in Demo.Files.Select(file => DocumentFile.Read(File.ReadAllText(file)).Document!))
        {
            if (rules.TryGetValue(document.Kind.Name(), out var rule))
            {
                var written = ((FileNode.Map)DocumentFile.ToNode(document)).Entries.Select(entry => entry.Key).Skip(1).ToArray();
                rule.Keys.Where(written.Contains).ShouldBe(written);
            }
        }
    }

    [Fact]
    public void A_property_means_one_type_of_value_on_whatever_node_it_is()
    {
        var types = Grammar.Rules.Concat(Grammar.Roots).SelectMany(rule => rule.Properties).GroupBy(rule => rule.Name);

        types.ShouldAllBe(group => group.Select(rule => rule.Type).Distinct().Count() == 1 || group.Key == "");
    }

    [Fact]
    public void Mutated_files_give_an_answer_and_never_an_exception()
    {
        var source = File.ReadAllText(Path.Combine(Demo.Folder, "layouts", "vessel.yaml"));
        CsCheck.Check.Sample(
            CsCheck.Gen.Select(
                CsCheck.Gen.Int[0, source.Length - 1],
                CsCheck.Gen.Char["{}[]:-#'\"\n\t &*!|>%@`,/x9"],
                CsCheck.Gen.Int[0, 12]
            ),
            mutation =>
            {
                var (at, character, cut) = mutation;
                var text = source[..at] + character + source[Math.Min(source.Length, at + cut)..];
                var (document, problems) = DocumentFile.Read(text);
                (document is null).ShouldBe(problems.Count > 0);
            },
            iter: 3_000
        );
    }

    [Fact]
    public void What_is_retitled_by_hand_keeps_its_id()
    {
        var text = File.ReadAllText(Path.Combine(Demo.Folder, "layouts", "vessel.yaml"));
        var retitled = text.Replace("            - id: measures\n              title", "            - title")
            .Replace("        - id: measures\n          title: { en: Measures,", "        - title: { en: Dimensions,")
            .Replace("- [length, beam, draught]", "- [beam, length, draught]");
        retitled.ShouldNotContain("id: measures");
        var read = DocumentFile.Read(retitled).Document.ShouldBeOfType<Document.OfLayout>();
        read.Layout.Contains(Demo.Id("measures")).ShouldBeFalse();

        var carried = CarriedIds.Carry(Demo.VesselForm, read.Layout, read.Derived).Layout;

        // The section and its row are still themselves: all that happened is a title and a move.
        LayoutDiff.Edits(Demo.VesselForm, carried).Select(edit => edit.GetType().Name).Order().ShouldBe(["Move", "Set"]);
    }

    [Fact]
    public void An_id_the_text_itself_uses_is_not_taken_away()
    {
        var before = Demo.ReadLayout(Measured("Measures", "measures"));
        var read = DocumentFile.Read(Measured("Size", "size")).Document.ShouldBeOfType<Document.OfLayout>();

        CarriedIds.Carry(before, read.Layout, read.Derived).Layout.Contains(Demo.Id("size")).ShouldBeTrue();
        DocumentFile
            .Read(Measured("Size", "measures"))
            .Document.ShouldBeOfType<Document.OfLayout>()
            .ShouldSatisfyAllConditions(next =>
                CarriedIds.Carry(before, next.Layout, next.Derived).Layout.Contains(Demo.Id("measures")).ShouldBeTrue()
            );

        static string Measured(string title, string target) =>
            $$"""
                kind: full
                key: trial
                entity: vessel
                body:
                  pages:
                    - id: page
                      sections:
                        - title: {{title}}
                          rows:
                            - [length, beam]
                variants:
                  narrow:
                    - set: { {{target}}: { frame: rule } }
                """;
    }

    [Theory]
    [InlineData("ground: heather, primary: \"#1c5f7d\", accent: \"#c97a0a\", typeface: serif", null)]
    [InlineData("primary: \"#ffd400\"", "'primary' must stand out 4.5 to 1 from white; '#ffd400' does 1.4 to 1, a darker one would do")]
    [InlineData("accent: red", "'accent' must be a colour such as \"#5b4a1e\"; it is 'red'")]
    [InlineData("typeface: serifs", "there is no typeface 'serifs'; did you mean 'serif'?")]
    [InlineData("ground: heathers", "there is no ground 'heathers'; did you mean 'heather'?")]
    [InlineData("colour: \"#000000\"", "colour")]
    public void A_theme_is_read_or_told_what_is_wrong_with_it(string theme, string? says)
    {
        var (document, problems) = DocumentFile.Read($"kind: application\ntitle: Quay\ntheme: {{ {theme} }}\n");
        if (says is null)
        {
            problems.ShouldBeEmpty();
            DocumentFile
                .Read(DocumentFile.Write(document!))
                .Document.ShouldBeOfType<Document.OfApplication>()
                .Application.Theme.ShouldBe(new BrightTier.Core.Model.Theme("#1c5f7d", "#c97a0a", "serif", "heather"));
        }
        else
        {
            problems.ShouldHaveSingleItem().Message.English.ShouldContain(says);
        }
    }
}
