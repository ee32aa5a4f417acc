using System.Collections.Immutable;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

/// <summary>
/// The rules for hard cases of docs/model.md, as far as the core decides them; saving, publishing and co-design over HTTP are in the
/// service's tests of the same names.
/// </summary>
public sealed class HardCaseTests
{
    private static ResolvedForm Form(string key, ImmutableArray<string> roles, string mode = Modes.Edit) =>
        Resolver.Resolve(Demo.Catalogue.Layouts[key], Demo.Catalogue, new Viewer(roles, "en"), mode);

    private static EvaluationContext Around(
        Entity entity,
        Dictionary<string, object?> values,
        ResolvedForm form,
        IReadOnlyDictionary<string, IReadOnlyDictionary<string, object?>>? related = null
    ) =>
        EvaluationContext.Of(
            Condition.Values(entity, values, related, form.Steps.Select(each => each.Step)),
            "ada",
            ["harbour-office"],
            Modes.Edit,
            "en",
            default,
            default
        );

    [Fact]
    public void Who_may_see_what_is_decided_by_rights_and_conditions_only_narrow()
    {
        Form("vessel", ["quay-hand"]).FieldItems.Select(item => item.Field).ShouldNotContain("coverSum");
        Form("vessel", ["bookkeeper"]).FieldItems.Select(item => item.Field).ShouldContain("coverSum");
        var peeking = Demo.VesselForm.Apply(new Edit.Set(Demo.Id("notes"), "visible", new Value.Word("record.coverSum != null"))).Layout!;
        Checker
            .Check(peeking, Demo.Catalogue)
            .ShouldContain(finding => finding.Code == "field-unreadable" && finding.Severity == Severity.Error);
    }

    [Fact]
    public void Hidden_by_a_condition_on_the_record_is_never_required_by_the_layout()
    {
        var agreement = Demo.Definitions.Entities["agreement"];
        var form = Form("agreement", ["harbour-office"]);
        var ashore = new Dictionary<string, object?> { ["livingAboard"] = false };
        SaveRules.Hidden(form, Around(agreement, ashore, form)).ShouldContain("personsAboard");
        SaveRules
            .Layout(form, agreement, ashore, Around(agreement, ashore, form), Demo.Definitions)
            .ShouldNotContain(problem => problem.Field == "personsAboard");

        var aboard = new Dictionary<string, object?> { ["livingAboard"] = true };
        SaveRules
            .Layout(form, agreement, aboard, Around(agreement, aboard, form), Demo.Definitions)
            .Select(problem => problem.Field)
            .ShouldBe(["deposit", "personsAboard"], ignoreOrder: true);
    }

    [Fact]
    public void A_condition_that_ends_in_an_error_is_closed_rather_than_open()
    {
        var inspection = Demo.Definitions.Entities["inspection"];
        var form = Resolver.Resolve(
            Demo.ReadLayout(
                """
                kind: full
                key: trial
                entity: inspection
                body:
                  pages:
                    - sections:
                        - rows:
                            - [berth, inspectedOn]
                            - - field: details
                                visible: record.severity > 3
                              - field: closedOn
                                readOnly: record.severity > 7
                """
            ),
            Demo.Catalogue,
            new Viewer(["harbour-office"], "en"),
            Modes.Edit
        );
        var unknown = Around(inspection, [], form);
        SaveRules.Hidden(form, unknown).ShouldContain("details");
        SaveRules.ReadOnly(form, unknown).ShouldContain("closedOn");
    }

    [Fact]
    public void A_step_through_a_reference_reads_the_record_it_points_at_and_an_empty_one_leads_to_nothing()
    {
        var agreement = Demo.Definitions.Entities["agreement"];
        var form = Form("agreement", ["harbour-office"]);
        form.Steps.Select(each => each.Step).ShouldBe(["berth.zone"]);
        var note = form.Content.Items.OfType<ResolvedMark>().Single(mark => mark.Visible.When?.Reads().Contains("berth.zone") == true);
        var related = new Dictionary<string, IReadOnlyDictionary<string, object?>>
        {
            ["berth"] = new Dictionary<string, object?> { ["zone"] = "outer" },
        };
        Evaluator.Holds(note.Visible.When!, Around(agreement, new() { ["berth"] = 3L }, form, related)).ShouldBe(true);
        Evaluator.Holds(note.Visible.When!, Around(agreement, [], form)).ShouldBe(false);
        Evaluator.Holds(note.Visible.When!, Around(agreement, new() { ["berth"] = 3L }, form)).ShouldBeNull();
    }

    [Fact]
    public void Fields_are_retired_and_never_dropped_so_old_layouts_stay_whole()
    {
        var retired = Demo.Vessel with
        {
            Fields = [.. Demo.Vessel.Fields.Select(field => field.Key == "homePort" ? field with { Retired = true } : field)],
        };
        var catalogue = Demo.Catalogue.With(new Document.OfEntity(retired));
        Resolver
            .Resolve(Demo.VesselForm, catalogue, new Viewer(["harbour-office"], "en"), Modes.View)
            .FieldItems.Select(item => item.Field)
            .ShouldContain("homePort");
        GeneratedLayout.Full(retired).Walk().ShouldNotContain(node => node.Word("field") == "homePort");
    }

    [Fact]
    public void Each_user_gets_the_layout_of_the_first_routing_rule_that_fits_and_the_record_may_decide()
    {
        var rules = Demo.Catalogue with
        {
            Routing = new RoutingRules([
                new RoutingRule("vessel", "full", "vessel-foreman", ["yard-foreman"], null),
                new RoutingRule("vessel", "full", "vessel-foreman", [], "record.propulsion == 'diesel'"),
            ]),
        };
        EvaluationContext With(object? propulsion) =>
            EvaluationContext.Of(
                Condition.Values(Demo.Vessel, new Dictionary<string, object?> { ["propulsion"] = propulsion }),
                "",
                [],
                Modes.Edit,
                "en",
                default,
                default
            );
        LayoutSelector.LayoutFor(rules, Demo.Vessel, "full", ["yard-foreman"], With(null)).Key.ShouldBe("vessel-foreman");
        LayoutSelector.LayoutFor(rules, Demo.Vessel, "full", ["quay-hand"], With("sail")).Key.ShouldBe("vessel");
        LayoutSelector.LayoutFor(rules, Demo.Vessel, "full", ["quay-hand"], With("diesel")).Key.ShouldBe("vessel-foreman");
        LayoutSelector.LayoutFor(rules, Demo.Vessel, "card", ["quay-hand"], With(null)).Key.ShouldBe("vessel-card");
        LayoutSelector.LayoutFor(rules, Demo.Definitions.Entities["workLine"], "list", [], With(null)).Kind.ShouldBe("list");
    }

    [Fact]
    public void The_same_inputs_give_the_same_bytes()
    {
        foreach (var layout in Demo.Catalogue.Layouts.Values.Where(layout => layout.Kind != "piece"))
        {
            var viewer = new Viewer(["harbour-office"], "nl");
            var bytes = ResolvedFormJson.Write(Resolver.Resolve(layout, Demo.Catalogue, viewer, Modes.Edit), Demo.Definitions);
            ResolvedFormJson
                .Write(
                    Resolver.Resolve(
                        Demo.ReadLayout(DocumentFile.Write(new Document.OfLayout(layout))),
                        Demo.Catalogue,
                        viewer,
                        Modes.Edit
                    ),
                    Demo.Definitions
                )
                .ShouldBe(bytes, layout.Key);
        }
    }
}
