using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

/// <summary>For each rule a layout that breaks it and one that does not.</summary>
public sealed class CheckTests
{
    private const string Required = "[name, registration], [hullType, propulsion, length]";

    /// <summary>A heading dropped into a row whose cells stand under one another at a narrow width.</summary>
    [Theory]
    [InlineData("[2]", false)]
    [InlineData("[1, 1]", false)]
    [InlineData("[2, 11]", true)]
    public void A_cell_beside_those_that_take_the_whole_row_at_a_width_has_a_line_of_its_own(string spans, bool overflows)
    {
        var row = Demo.VesselForm.Walk().First(node => node.Kind is NodeKind.Row && node.Walk().Any(each => each.Word("field") == "name"));
        var edits = new System.Text.Json.Nodes.JsonArray(
            new System.Text.Json.Nodes.JsonObject
            {
                ["op"] = "set",
                ["node"] = row.Children[0].Id.Name,
                ["property"] = "span",
                ["value"] = 6,
            }
        );
        foreach (var span in System.Text.Json.JsonSerializer.Deserialize<int[]>(spans)!)
        {
            var cell = System.Text.Json.Nodes.JsonNode.Parse(
                $$$"""
                {"kind":"cell","properties":{"span":{{{span}}}},"children":[{"kind":"heading","properties":{"heading":"Beside"}}]}
                """
            );
            edits.Add(
                new System.Text.Json.Nodes.JsonObject
                {
                    ["op"] = "insert",
                    ["node"] = cell,
                    ["parent"] = row.Id.Name,
                    ["at"] = "last",
                }
            );
        }

        using var json = System.Text.Json.JsonDocument.Parse(edits.ToJsonString());
        var layout = Demo.VesselForm.Apply(Core.Documents.TreeJson.ReadEdits(json.RootElement, Demo.VesselForm.Find).Edits).Layout!;
        Checker.Check(layout, Demo.Catalogue).Any(finding => finding.Code == "spans-overflow").ShouldBe(overflows);
    }

    [Theory]
    [InlineData("field-unknown", "[beem]", "[beam]", "did you mean 'beam'?")]
    [InlineData("field-twice", "[name, beam], [beam]", "[beam]", "in 2 places")]
    [InlineData(
        "field-unreadable",
        "[{ field: beam, visible: has(record.coverSum) }]",
        "[{ field: beam, visible: has(record.draught) }]",
        "may not read"
    )]
    [InlineData(
        "requirement-loosened",
        "[{ field: name, required: false }]",
        "[{ field: beam, required: false }]",
        "cannot make it optional"
    )]
    [InlineData("read-only-without-value", "[{ field: name, readOnly: true }]", "[{ field: beam, readOnly: true }]", "never be saved")]
    [InlineData(
        "condition-invalid",
        "[{ field: beam, visible: record.lenght > 1 }]",
        "[{ field: beam, visible: record.length > 1 }]",
        "At character 8"
    )]
    [InlineData(
        "condition-constant",
        "[{ field: beam, visible: 1 > 2 }]",
        "[{ field: beam, visible: record.length > 2 }]",
        "can never hold"
    )]
    [InlineData(
        "hiding-cycle",
        "[{ field: beam, visible: has(record.draught) }, { field: draught, visible: has(record.beam) }]",
        "[{ field: beam, visible: has(record.draught) }, draught]",
        "depending on itself"
    )]
    [InlineData("spans-overflow", "[beam/8, draught/8]", "[beam/6, draught/6]", "16 units")]
    [InlineData("row-empty", "[{ items: [] }]", "[beam]", "empty")]
    [InlineData("row-crowded", "[beam, draught, mastHeight, sailArea, engineHours]", "[beam, draught]", "side by side")]
    [InlineData("field-narrow", "[length/10, berth/2]", "[length/8, berth/4]", "needs 4")]
    [InlineData("field-narrow", "[berth/3, keeper/3, hullType/6]", "[berth/4, keeper/4, hullType/4]", "needs 4")]
    [InlineData("label-twice", "[{ field: beam, label: Width }, { field: draught, label: width }]", "[beam, draught]", "easily confused")]
    [InlineData(
        "action-incomplete",
        "[{ action: open, label: Go }]",
        "[{ action: open, label: Go, address: /records/berth }]",
        "opens nothing"
    )]
    [InlineData(
        "action-incomplete",
        "[{ action: set, label: Go }]",
        "[{ action: set, label: Go, values: { beam: '3.0' } }]",
        "sets nothing"
    )]
    [InlineData("action-incomplete", "[{ action: begin, label: Go }]", "[{ action: begin, label: Go, begins: liftOut }]", "begins nothing")]
    [InlineData(
        "action-incomplete",
        "[{ action: begin, label: Go, begins: liftout }]",
        "[{ action: begin, label: Go, begins: liftOut, through: vessel }]",
        "which is no entity"
    )]
    [InlineData(
        "action-incomplete",
        "[{ action: begin, label: Go, begins: liftOut, through: hazards }]",
        "[{ action: begin, label: Go, begins: liftOut }]",
        "which is no reference"
    )]
    [InlineData(
        "action-incomplete",
        "[{ action: set, label: Go, values: { beem: '3.0' } }]",
        "[{ action: set, label: Go, values: { beam: '3.0' } }]",
        "did you mean 'beam'?"
    )]
    [InlineData(
        "action-incomplete",
        "[{ action: set, label: Go, values: { name: Avocet } }]",
        "[{ action: set, label: Go, values: { name: \"'Avocet'\" } }]",
        "quotation marks"
    )]
    [InlineData(
        "related-unknown",
        "[{ related: liftout, through: vessel }]",
        "[{ related: liftOut, through: vessel }]",
        "did you mean 'liftOut'?"
    )]
    [InlineData(
        "related-unknown",
        "[{ related: liftOut, through: vesel }]",
        "[{ related: liftOut, through: vessel }]",
        "did you mean 'vessel'?"
    )]
    [InlineData(
        "related-unknown",
        "[{ related: liftOut, through: vessel, shows: [yardplace] }]",
        "[{ related: liftOut, through: vessel, shows: [yardPlace], sort: ['-releasedAt'] }]",
        "did you mean 'yardPlace'?"
    )]
    [InlineData(
        "related-unknown",
        "[{ related: liftOut, through: vessel, order: hazards }]",
        "[{ related: liftOut, through: vessel }]",
        "a whole number can"
    )]
    [InlineData("editor-unsuited", "[{ field: beam, editor: stars }]", "[{ field: beam, editor: slider }]", "suited: number, slider")]
    [InlineData(
        "action-incomplete",
        "[{ action: set, label: Go, values: { beam: \"'wide'\" } }]",
        "[{ action: set, label: Go, values: { beam: '3' } }]",
        "takes a double, not a string"
    )]
    [InlineData(
        "action-incomplete",
        "[{ action: set, label: Go, values: { propulsion: \"'steam'\" } }]",
        "[{ action: set, label: Go, values: { propulsion: \"'sail'\" } }]",
        "which is no value of it"
    )]
    [InlineData(
        "field-twice",
        "[{ field: beam, visible: 'record.length > 3.0' }], [{ field: beam, visible: 'record.length > 5.0' }]",
        "[{ field: beam, visible: 'record.length > 5.0' }], [{ field: beam, visible: 'record.length <= 5.0' }]",
        "in 2 places"
    )]
    [InlineData(
        "field-twice",
        "[{ field: beam, modes: [create, edit] }], [{ field: beam, modes: [edit, view] }]",
        "[{ field: beam, modes: [create, edit] }], [{ field: beam, modes: [view] }]",
        "in 2 places"
    )]
    [InlineData(
        "field-twice",
        "[beam], [{ panel: stack, pages: [{ id: a, sections: [{ id: b, rows: [[beam]] }] }] }]",
        "[{ panel: tabs, pages: [{ id: a, title: A, sections: [{ id: b, rows: [[beam]] }] }, "
            + "{ id: c, title: C, sections: [{ id: d, rows: [[beam]] }] }] }]",
        "in 2 places"
    )]
    [InlineData("constraint-empty", "[{ field: beam, max: 0.1 }]", "[{ field: beam, max: 0.5 }]", "no value is both")]
    [InlineData(
        "default-invalid",
        "[{ field: propulsion, default: steam }]",
        "[{ field: propulsion, default: sail }]",
        "cannot start with"
    )]
    [InlineData("default-invalid", "[{ field: beam, default: '99' }]", "[{ field: beam, default: '9' }]", "cannot start with")]
    [InlineData(
        "default-invalid",
        "[{ field: surveyDue, default: soon }]",
        "[{ field: surveyDue, default: '2027-01-31' }]",
        "cannot start"
    )]
    [InlineData(
        "reference-unlike",
        "[{ field: berth, copies: { draught: code } }]",
        "[{ field: berth, copies: { draught: maxDraught, homePort: zone } }]",
        "cannot be copied"
    )]
    [InlineData(
        "reference-unlike",
        "[{ field: berth, filterBy: { shorePower: length } }]",
        "[{ field: berth, filterBy: { shorePower: livesAboard } }]",
        "never equals"
    )]
    [InlineData(
        "read-only-without-value",
        "[{ field: beam, required: true, readOnly: true }]",
        "[{ field: beam, readOnly: true }]",
        "could never be saved"
    )]
    [InlineData(
        "read-only-without-value",
        "[{ field: beam, required: 'record.length > 5.0', readOnly: 'record.length > 9.0' }]",
        "[{ field: beam, required: 'record.length > 5.0', readOnly: 'record.length < 3.0' }]",
        "could never be saved"
    )]
    [InlineData(
        "link-vague",
        "[{ text: 'Rules: [here](https://q.example)' }]",
        "[{ text: '[Rules](https://q.example)' }]",
        "where it leads"
    )]
    [InlineData("step-large", "[{ field: beam, step: 15 }]", "[{ field: beam, step: 0.5 }]", "no room for one")]
    public void A_rule_finds_what_breaks_it_and_nothing_else(string code, string breaking, string sound, string message)
    {
        var found = Find(code, breaking);
        found.ShouldNotBeEmpty();
        found[0].Message.English.ShouldContain(message);
        Find(code, sound).ShouldBeEmpty();
    }

    [Fact]
    public void A_required_field_that_is_missing_is_found_and_its_fix_places_it()
    {
        var layout = Demo.VesselRows("[name, hullType, propulsion, length]");

        var finding = Checker.Check(layout, Demo.Catalogue).Single(each => each.Code == "required-field-missing");
        finding.Message.English.ShouldContain("'Registration'");
        var mended = layout.Apply(finding.Fix!.Edits).Layout!;

        Checker.Check(mended, Demo.Catalogue).ShouldNotContain(each => each.Code == "required-field-missing");
    }

    [Fact]
    public void A_tab_without_a_title_and_a_title_that_says_nothing_are_found()
    {
        var layout = Demo.VesselRows("name");
        var tabs = layout
            .Apply([
                new Edit.Set(Demo.Id("body"), "arrangement", new Value.Word("tabs")),
                new Edit.Set(Demo.Id("page"), "title", null),
                new Edit.Set(Demo.Id("section"), "title", new Value.Text(Texts.Of("Section 3"))),
            ])
            .Layout!;

        var found = Checker.Check(tabs, Demo.Catalogue).Where(finding => finding.Code == "title-placeholder").ToArray();

        found.Select(finding => finding.Node.Name).ShouldBe(["page", "section"]);
        Checker.Check(layout, Demo.Catalogue).ShouldNotContain(finding => finding.Code == "title-placeholder");
    }

    [Fact]
    public void A_band_that_names_no_field_and_an_entity_that_is_not_there_are_found()
    {
        var band = Demo.VesselForm.Apply(new Edit.Set(Demo.Id("top"), "text", new Value.Text(Texts.Of("{nam}")))).Layout!;
        Checker
            .Check(band, Demo.Catalogue)
            .ShouldContain(finding => finding.Code == "text-unknown-field" && finding.Message.English.Contains("did you mean 'name'?"));

        var stray = Layout.Of(Demo.VesselForm.Root.With("entity", new Value.Word("vesel")));
        Checker.Check(stray, Demo.Catalogue).Single().Message.English.ShouldContain("did you mean 'vessel'?");
    }

    [Fact]
    public void A_retired_field_is_found()
    {
        var vessel = Demo.Vessel with
        {
            Fields = [.. Demo.Vessel.Fields.Select(field => field.Key == "beam" ? field with { Retired = true } : field)],
        };
        var definitions = Demo.Definitions with { Entities = Demo.Definitions.Entities.SetItem("vessel", vessel) };

        Checker
            .Check(Demo.VesselForm, Demo.Catalogue with { Definitions = definitions })
            .ShouldContain(finding => finding.Code == "field-retired" && finding.Message.English.Contains("'Beam'"));
        Checker.Check(Demo.VesselForm, Demo.Catalogue).ShouldBeEmpty();
    }

    [Fact]
    public void Every_fix_can_be_applied_and_mends_what_it_was_given_for()
    {
        foreach (
            var rows in new[]
            {
                "[mast]",
                "[name, beam], [beam]",
                "[{ field: name, required: false }]",
                "[{ field: name, readOnly: true }]",
                "[beam/8, draught/8]",
                "[{ items: [] }]",
                "[{ field: beam, editor: stars }]",
                "[{ field: beam, visible: 1 < 2 }]",
            }
        )
        {
            var layout = Demo.VesselRows(Split($"{Required}, {rows}"));
            foreach (var finding in Checker.Check(layout, Demo.Catalogue).Where(finding => finding.Fix is not null))
            {
                var mended = layout.Apply(finding.Fix!.Edits);
                mended.Refusal.ShouldBeNull(finding.Message.English);
                Checker
                    .Check(mended.Layout!, Demo.Catalogue)
                    .Count(each => each.Code == finding.Code)
                    .ShouldBeLessThan(Checker.Check(layout, Demo.Catalogue).Count(each => each.Code == finding.Code));
            }
        }
    }

    [Fact]
    public void Each_rule_has_a_code_of_its_own() => Checker.Rules.Select(rule => rule.Code).ShouldBeUnique();

    private static IReadOnlyList<Finding> Find(string code, string rows) =>
        [.. Checker.Check(Demo.VesselRows(Split(rows)), Demo.Catalogue).Where(finding => finding.Code == code)];

    private static string[] Split(string rows) =>
        [.. rows.Split("], [").Select((row, i) => (i > 0 ? "[" : "") + row + (row.EndsWith(']') ? "" : "]"))];
}
