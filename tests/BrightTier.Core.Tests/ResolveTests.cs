using System.Collections.Immutable;
using System.Text;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Places;
using BrightTier.Core.Resolution;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

public sealed class ResolveTests
{
    [Fact]
    public void What_a_role_may_not_read_is_nowhere_in_its_form()
    {
        Text(Form(["quay-hand"])).ShouldNotContain("\"coverSum\"");
        Text(Form(["bookkeeper"])).ShouldContain("coverSum");
    }

    [Fact]
    public void A_field_one_may_not_write_can_only_be_read()
    {
        Form(["harbour-master"]).FieldItems.Single(item => item.Field == "coverSum").ReadOnly.ShouldBe(Decision.Always);
        Form(["bookkeeper"]).FieldItems.Single(item => item.Field == "coverSum").ReadOnly.IsNever.ShouldBeTrue();
    }

    [Fact]
    public void A_condition_on_the_role_is_decided_here_and_one_on_the_record_travels()
    {
        var layout = Demo.VesselRows(
            "[{ field: beam, visible: \"'quay-hand' in user.roles && record.propulsion == 'sail'\" }, { field: draught, "
                + "visible: \"'auditor' in user.roles\" }, length]"
        );

        var form = Resolver.Resolve(layout, Demo.Catalogue, new Viewer(["quay-hand"], "en"), Modes.Edit);

        form.FieldItems.Select(item => item.Field).ShouldBe(["beam", "length"]);
        var residue = form.FieldItems.First().Visible.When.ShouldNotBeNull();
        residue.FieldsRead().ShouldBe(["propulsion"]);
        residue.Walk().OfType<Expression.Name>().ShouldNotContain(name => name.Identifier == "user");
    }

    [Fact]
    public void What_empties_takes_its_row_section_and_page_along()
    {
        var hidden = Demo.VesselForm.Apply([new Edit.Set(Demo.Id("engineHours"), "visible", new Value.Word("mode == 'create'"))]).Layout!;

        var form = Resolver.Resolve(hidden, Demo.Catalogue, new Viewer(["quay-hand"], "en"), Modes.Edit);

        form.Content.Body.Pages[0].Sections.Select(section => section.Id).ShouldNotContain("engine");
    }

    [Fact]
    public void A_designer_may_see_what_is_hidden_with_the_reason()
    {
        var hidden = Demo.VesselForm.Apply([new Edit.Set(Demo.Id("rig"), "hidden", new Value.Flag(true))]).Layout!;

        var form = Resolver.Resolve(hidden, Demo.Catalogue, new Viewer(["quay-hand"], "en"), Modes.Edit, showHidden: true);

        form.Content.Body.Pages[0].Sections.Single(section => section.Id == "rig").Ghost.ShouldBe("Never shown");
        Text(form).ShouldNotContain("\"field\":\"coverSum\"");
    }

    [Fact]
    public void Texts_come_in_the_viewers_language()
    {
        var form = Resolver.Resolve(Demo.VesselForm, Demo.Catalogue, new Viewer(["quay-hand"], "nl-BE"), Modes.Edit);

        form.Content.Body.Pages[0].Title.ShouldBe("Overzicht");
        form.FieldItems.First().Label.ShouldBe("Naam");
        Text(form).ShouldContain("Enkele romp");
    }

    [Theory]
    [InlineData(new[] { 0, 0, 0 }, new[] { 4, 4, 4 })]
    [InlineData(new[] { 0, 0, 0, 0, 0 }, new[] { 3, 3, 2, 2, 2 })]
    [InlineData(new[] { 8, 0 }, new[] { 8, 4 })]
    [InlineData(new[] { 12, 0 }, new[] { 12, 1 })]
    public void Cells_without_a_span_share_what_is_left(int[] written, int[] shared) =>
        Spans.Share([.. written.Select(span => span == 0 ? (int?)null : span)]).ShouldBe(shared);

    [Fact]
    public void Viewers_whom_the_layout_does_not_tell_apart_get_the_same_bytes()
    {
        Viewer
            .ClassOf(["quay-hand"], LayoutComposer.Assemble(Demo.VesselForm, Demo.Catalogue), Demo.Definitions)
            .ShouldBe(Viewer.ClassOf(["yard-foreman"], LayoutComposer.Assemble(Demo.VesselForm, Demo.Catalogue), Demo.Definitions));
        Viewer
            .ClassOf(["quay-hand"], LayoutComposer.Assemble(Demo.VesselForm, Demo.Catalogue), Demo.Definitions)
            .ShouldNotBe(Viewer.ClassOf(["bookkeeper"], LayoutComposer.Assemble(Demo.VesselForm, Demo.Catalogue), Demo.Definitions));
        ResolvedFormJson
            .Write(Form(["quay-hand"]), Demo.Definitions)
            .ShouldBe(ResolvedFormJson.Write(Form(["yard-foreman"]), Demo.Definitions));
    }

    [Fact]
    public void Viewers_told_apart_only_by_what_an_action_sets_are_told_apart()
    {
        var layout = LayoutComposer.Assemble(
            Demo.VesselRows(
                """[name, { action: set, id: stamp, label: Stamp, values: { notes: "'quay-hand' in user.roles ? 'quay' : 'office'" } }]"""
            ),
            Demo.Catalogue
        );
        Viewer.ClassOf(["quay-hand"], layout, Demo.Definitions).ShouldNotBe(Viewer.ClassOf(["yard-foreman"], layout, Demo.Definitions));
    }

    [Fact]
    public void Marks_go_to_whichever_are_fewer()
    {
        Form(["harbour-office"]).Marks.ShouldBe("required");
        Resolver
            .Resolve(Demo.VesselRows("[name, registration, length]", "[beam]"), Demo.Catalogue, new Viewer([], "en"), Modes.Edit)
            .Marks.ShouldBe("optional");
        Form(["harbour-office"], Modes.View).Marks.ShouldBe("none");
    }

    [Fact]
    public void Saving_asks_for_what_is_shown_and_required_and_not_for_what_is_hidden()
    {
        var layout = Demo.VesselRows("[name, { field: homePort, required: true, visible: record.length > 10.0 }]");
        var form = Resolver.Resolve(layout, Demo.Catalogue, new Viewer([], "en"), Modes.Edit);

        Problems(12m).Single().Field.ShouldBe("homePort");
        Problems(8m).ShouldBeEmpty();
        // A condition that fails is closed: the field is not shown, so nothing is asked.
        Problems(null).ShouldBeEmpty();

        IEnumerable<SaveProblem> Problems(decimal? length)
        {
            var record = new Dictionary<string, object?> { ["name"] = "Kittiwake", ["length"] = length };
            return SaveRules.Layout(
                form,
                Demo.Vessel,
                record,
                EvaluationContext.Of(Condition.Values(Demo.Vessel, record), "ada", [], Modes.Edit, "en", default, default),
                Demo.Definitions
            );
        }
    }

    [Theory]
    [InlineData("registration", "SQ-12", "two capital letters")]
    [InlineData("length", "0.5", "at least 1.5 m")]
    [InlineData("hullType", "mnoo", "did you mean 'mono'?")]
    public void The_entitys_rules_are_said_in_words(string field, string value, string message)
    {
        var type = Demo.Vessel.Find(field)!;
        object typed = type.Type is FieldType.Decimal ? decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture) : value;

        FieldValues.Check(type, typed, Demo.Definitions, "en").ShouldNotBeNull().English.ShouldContain(message);
    }

    [Fact]
    public void The_generated_layout_holds_every_field_once_finds_no_fault_and_is_always_the_same()
    {
        foreach (var entity in Demo.Definitions.Entities.Values)
        {
            var layout = GeneratedLayout.Full(entity);
            layout
                .Walk()
                .Where(node => node.Kind is NodeKind.Field)
                .Select(node => node.Word("field"))
                .ShouldBe(entity.Current.Select(field => field.Key), ignoreOrder: true);
            Checker.Check(layout, Demo.Catalogue).Where(finding => finding.Severity is not Severity.Advice).ShouldBeEmpty();
            GeneratedLayout.Full(entity).ShouldBe(layout);
            layout
                .Walk()
                .Where(node => node.Kind is NodeKind.Row)
                .ShouldAllBe(row => row.Children.Sum(cell => cell.Number("span") ?? 1) <= Limits.Units);
        }

        GeneratedLayout.ListColumns(Demo.Vessel).Take(2).ShouldBe(["name", "registration"]);
    }

    private static ResolvedForm Form(ImmutableArray<string> roles, string mode = Modes.Edit) =>
        Resolver.Resolve(Demo.VesselForm, Demo.Catalogue, new Viewer(roles, "en"), mode);

    private static string Text(ResolvedForm form) => Encoding.UTF8.GetString(ResolvedFormJson.Write(form, Demo.Definitions));
}
