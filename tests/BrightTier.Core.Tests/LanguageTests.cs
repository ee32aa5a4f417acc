using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;
using BrightTier.Core.Resolution;
using CsCheck;

namespace BrightTier.Core.Tests;

public sealed class LanguageTests
{
    [Fact]
    public void Texts_go_out_as_xliff_and_come_back_translated()
    {
        var document = new Document.OfLayout(Demo.VesselForm);
        var sent = Xliff.Export([document], "en", "fr");
        sent.ShouldContain("<unit id=\"identity.title\">");
        var translated = sent.Replace(
            "<source xml:space=\"preserve\">Identity</source>",
            "<source xml:space=\"preserve\">Identity</source><target xml:space=\"preserve\">Identité</target>"
        );

        var (documents, problem) = Xliff.Import(translated, (_, _) => document);

        problem.ShouldBeNull();
        documents.Single().Taken.ShouldBe(1);
        var layout = ((Document.OfLayout)documents.Single().Document).Layout;
        layout.Find(Demo.Id("identity"))!.Text("title")!.In("fr").ShouldBe("Identité");
        layout.Find(Demo.Id("identity"))!.Text("title")!.In("nl").ShouldBe("Identiteit");
    }

    /// <summary>Somebody renames a section while its texts are with a translator; only the title itself has to be sent again.</summary>
    [Fact]
    public void Translations_find_their_texts_where_a_part_was_retitled_meanwhile()
    {
        Document.OfLayout Form(string title) =>
            new(
                Demo.ReadLayout(
                    $$"""
                    kind: full
                    key: trial
                    entity: vessel
                    body:
                      pages:
                        - title: Overview
                          sections:
                            - { title: {{title}}, description: What it measures, rows: [[{ heading: Afloat }], [beam]] }
                    """
                )
            );
        var sent = Xliff.Export([Form("Measures")], "en", "fr");
        sent.ShouldContain("<unit id=\"measures.description\">");
        var translated = System.Text.RegularExpressions.Regex.Replace(
            sent,
            "(<source[^>]*>)([^<]*)(</source>)",
            "$1$2$3<target>fr: $2</target>"
        );

        var (documents, problem) = Xliff.Import(translated, (_, _) => Form("Dimensions"));

        problem.ShouldBeNull();
        var texts = DocumentTexts.Of(documents.Single().Document).ToDictionary(each => each.Id, each => each.Texts);
        texts["dimensions.description"].In("fr").ShouldBe("fr: What it measures");
        texts["afloat.heading"].In("fr").ShouldBe("fr: Afloat");
        texts["dimensions.title"].ByLanguage.ContainsKey("fr").ShouldBeFalse();
        documents.Single().Problems.ShouldBe(["measures.title: there is no such text any more."]);
    }

    [Fact]
    public void Translators_are_told_where_a_text_stands_and_what_was_noted_there()
    {
        var noted = Demo
            .VesselForm.Apply(new Edit.Set(Demo.Id("measures"), "note", new Value.Text(Texts.Of("As surveyors call them"))))
            .Layout!;
        var sent = Xliff.Export([new Document.OfLayout(noted), new Document.OfEntity(Demo.Vessel)], "en", "fr");
        sent.ShouldContain("<note>title of the section, in 'Overview'</note>");
        sent.ShouldContain("<note>As surveyors call them</note>");
        sent.ShouldContain("<note>label of the field 'beam' (decimal) of Vessel</note>");
        System.Xml.Linq.XDocument.Parse(sent);
    }

    /// <summary>Texts that are rightly the same in two languages.</summary>
    private static readonly Dictionary<string, string[]> Alike = new()
    {
        ["nl"] = ["Saltmarsh Quay", "Status", "Catamaran", "Trimaran", "Diesel", "Zone", "Zones", "Code", "{name}, {length} m"],
        ["ar"] = ["Saltmarsh Quay"],
    };

    /// <summary>
    /// Every text of the demo is there in every language, and translated: one that equals the English is listed as the same.
    /// </summary>
    [Theory]
    [InlineData("nl")]
    [InlineData("ar")]
    public void The_demo_speaks_every_language(string language)
    {
        var missing = new List<string>();
        foreach (var file in Demo.Files)
        {
            foreach (var (id, texts) in DocumentTexts.Of(DocumentFile.Read(File.ReadAllText(file)).Document!))
            {
                // What has no words of its own, only values of the record, needs no translation.
                var english = texts.In("en");
                var words = System.Text.RegularExpressions.Regex.Replace(english, @"\{[^}]*\}", "").Any(char.IsLetter);
                if (words && !Alike[language].Contains(english) && (!texts.ByLanguage.TryGetValue(language, out var own) || own == english))
                {
                    missing.Add($"{Path.GetFileName(file)} {id}: {english}");
                }
            }
        }

        missing.ShouldBeEmpty();
    }

    [Fact]
    public void Every_document_survives_the_way_out_and_back()
    {
        foreach (var file in Demo.Files)
        {
            var document = DocumentFile.Read(File.ReadAllText(file)).Document!;
            var (documents, problem) = Xliff.Import(Xliff.Export([document], "en", "nl"), (_, _) => document);
            problem.ShouldBeNull(file);
            documents.ShouldAllBe(translated => translated.Taken == 0 && translated.Problems.Count == 0);
        }
    }

    [Theory]
    [InlineData("Identity", "Identitat", "the text has changed since")]
    [InlineData("{name}, {registration} of the quay", "{nom}", "other values in braces")]
    public void A_translation_that_no_longer_fits_is_left_out_and_told(string source, string target, string message)
    {
        var document = new Document.OfLayout(
            Demo
                .VesselForm.Apply([new Edit.Set(Demo.Id("top"), "text", new Value.Text(Texts.Of("{name}, {registration} of the quay")))])
                .Layout!
        );
        var (documents, _) = Xliff.Import(
            $"""
            <xliff version="2.1" srcLang="en" trgLang="fr" xmlns="urn:oasis:names:tc:xliff:document:2.0"><file id="layout.vessel">
              <unit id="{(
                source == "Identity" ? "measures.title" : "top.text"
            )}"><segment><source>{source}</source><target>{target}</target></segment></unit>
            </file></xliff>
            """,
            (_, _) => document
        );
        documents.Single().Problems.Single().ShouldContain(message);
        documents.Single().Taken.ShouldBe(0);
    }

    [Theory]
    [InlineData("<a/>", "is not XLIFF")]
    [InlineData("<xliff", "is not XML")]
    [InlineData("<!DOCTYPE x [<!ENTITY a \"b\">]><xliff/>", "is not XML")]
    [InlineData("<xliff version=\"2.1\" xmlns=\"urn:oasis:names:tc:xliff:document:2.0\"/>", "srcLang")]
    [InlineData(
        "<xliff version=\"2.1\" srcLang=\"en\" trgLang=\"xx!\" xmlns=\"urn:oasis:names:tc:xliff:document:2.0\"/>",
        "'xx!', which is no language tag"
    )]
    public void What_is_no_xliff_is_answered_with_what_it_should_be(string text, string message) =>
        Xliff.Import(text, (_, _) => null).Problem!.English.ShouldContain(message);

    [Fact]
    public void The_pseudo_language_makes_every_text_longer_and_keeps_what_is_in_braces()
    {
        Texts.Of("Lies at {berth}").In("en-x-pseudo").ShouldBe("[Lîéš át {berth}~~~~~~]".Replace("î", "í"));
        Gen.String.Where(text => !string.IsNullOrWhiteSpace(text))
            .Sample(text => PseudoLanguage.Of(text).Length.ShouldBeGreaterThan(text.Length));
        var form = Resolver.Resolve(Demo.VesselForm, Demo.Catalogue, new Viewer(["harbour-office"], "nl-x-pseudo"), Modes.Edit);
        form.FieldItems.ShouldAllBe(item => item.Label.StartsWith('['));
    }

    [Theory]
    [InlineData("plain", "paragraph: plain")]
    [InlineData("one\ntwo\n\nthree", "paragraph: one two | paragraph: three")]
    [InlineData("- a\n- b", "list: a / b")]
    [InlineData("1. a\n2. b", "numbered: a / b")]
    [InlineData("a **b** *c* d", "paragraph: a [strong b] [emphasis c] d")]
    [InlineData("see [map](https://quay.example/)", "paragraph: see [link map https://quay.example/]")]
    [InlineData("see [x](javascript:alert(1))", "paragraph: see [x](javascript:alert(1))")]
    [InlineData("<script>*", "paragraph: <script>*")]
    [InlineData("see [map](tel:+31000000 \"call\") <b>&amp;</b>", "paragraph: see [link map tel:+31000000] <b>&amp;</b>")]
    [InlineData("# one\n> two\n```\nthree", "paragraph: # one > two ``` three")]
    [InlineData("one\n===\n\n***\n\n    four", "paragraph: one === | paragraph: *** | paragraph: four")]
    [InlineData("![mark](https://quay.example/m.png) `a*b*`", "paragraph: ![mark](https://quay.example/m.png) `a[emphasis b]`")]
    [InlineData("- a\n\n  b\n  - **c**\n- [d]: https://quay.example", "list: a / b / [strong c] / [d]: https://quay.example")]
    [InlineData("[d]: https://quay.example\n\nsee [d]", "paragraph: [d]: https://quay.example | paragraph: see [d]")]
    [InlineData("**see [map](https://quay.example) there**", "paragraph: [strong see ][link map https://quay.example][strong  there]")]
    [InlineData("**bold with *more* of it**", "paragraph: [strong bold with more of it]")]
    [InlineData("\\*no\\* <https://quay.example>", "paragraph: *no* <https://quay.example>")]
    public void Formatted_text_is_a_safe_subset(string text, string expected) =>
        string.Join(
                " | ",
                Markdown
                    .Parse(text)
                    .Select(block => $"{block.Kind}: {string.Join(" / ", block.Lines.Select(line => string.Concat(line.Select(Shown))))}")
            )
            .ShouldBe(expected);

    private static string Shown(TextRun run) =>
        run.Kind == "plain" ? run.Text : $"[{run.Kind} {run.Text}{(run.To is null ? "" : " " + run.To)}]";

    [Fact]
    public void Formatted_text_loses_no_letter() =>
        Gen.String[Gen.Char["ab *_[]()!#>`\\\n-1.<"], 0, 60]
            .Sample(text =>
            {
                var kept = string.Concat(
                    Markdown.Parse(text).SelectMany(block => block.Lines).SelectMany(line => line).Select(run => run.Text + run.To)
                );
                kept.Count(char.IsLetter).ShouldBe(text.Count(char.IsLetter));
            });

    [Theory]
    [InlineData(@"\00?", "")]
    [InlineData(@"\0", "\0")]
    [InlineData(@"\07", "\a")]
    [InlineData(@"\012", "\n")]
    [InlineData(@"\0411", "!1")]
    [InlineData(@"\08", "\u00008")]
    [InlineData(@"[\011\012]", "\t")]
    public void A_code_of_octal_digits_is_one_character(string pattern, string text) => WholePattern.Matches(pattern, text).ShouldBeTrue();

    /// <summary>The platform's own engine without backtracking, where both know the syntax, is the reference.</summary>
    [Fact]
    public void Patterns_match_as_the_reference_does() =>
        Gen.Select(Gen.String[Gen.Char["ab01.*+?|()[]^$\\dw-"], 0, 8], Gen.String[Gen.Char["ab01 \n-"], 0, 6])
            .Sample(
                (pattern, text) =>
                {
                    System.Text.RegularExpressions.Regex reference;
                    try
                    {
                        reference = new System.Text.RegularExpressions.Regex(
                            pattern.Replace("$", "\\z"),
                            System.Text.RegularExpressions.RegexOptions.NonBacktracking
                        );
                    }
                    catch (Exception error) when (error is ArgumentException or NotSupportedException)
                    {
                        return;
                    }

                    // An escaped '$' is none to replace, and sets with '[' inside are written differently in the two syntaxes.
                    if (
                        PatternParser.Parse(pattern).Program is { } program
                        && !pattern.Contains("\\$", StringComparison.Ordinal)
                        && !pattern.Contains("[[", StringComparison.Ordinal)
                        && !pattern.Contains("-[", StringComparison.Ordinal)
                    )
                    {
                        program.IsMatch(text).ShouldBe(reference.IsMatch(text), $"{pattern} on '{text}'");
                    }
                },
                iter: 20_000
            );

    [Fact]
    public void No_pattern_makes_matching_slow()
    {
        var program = PatternParser.Parse("(a|a)*(a|aa)+(a?){50}b").Program!;
        program.IsMatch(new string('a', 20_000)).ShouldBeFalse();
        PatternParser.Parse("((a{500}){500}){500}").Problem!.English.ShouldBe("is too large");
        PatternParser.Parse(new string('(', 500)).Problem!.English.ShouldContain("nests deeper");
    }

    [Fact]
    public void A_condition_that_would_take_too_long_ends_in_an_error()
    {
        var wide = $"[{string.Join(", ", Enumerable.Range(0, 90))}]";
        var text = $"{wide}.all(a, {wide}.all(b, {wide}.all(c, a + b + c >= 0)))";
        Conditions.Parser.Parse(text).Problem.ShouldBeNull();
        Conditions
            .Evaluator.Evaluate(Conditions.Parser.Parse(text).Expression!, Conditions.Reducer.Nothing)
            .ShouldBeOfType<Conditions.Failure>()
            .Message.English.ShouldBe("too much work");
    }
}
