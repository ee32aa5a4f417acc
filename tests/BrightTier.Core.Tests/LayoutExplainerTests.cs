using System.Text.Json;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;

namespace BrightTier.Core.Tests;

/// <summary>Why something is or is not there, held against what is.</summary>
public sealed class ExplainingTests
{
    [Theory]
    [InlineData("mastHeight", "sail", true)]
    [InlineData("mastHeight", "diesel", false)]
    [InlineData("rig", "diesel", false)]
    [InlineData("name", "diesel", true)]
    public void Why_something_is_or_is_not_there_is_explained_for_a_record(string node, string propulsion, bool shown)
    {
        var record = EvaluationContext.Of(
            Condition.Values(Demo.Vessel, new Dictionary<string, object?> { ["propulsion"] = propulsion }),
            "",
            [],
            "edit",
            "en",
            default,
            default
        );
        var explanation = LayoutExplainer.Explain(
            Demo.VesselForm,
            Demo.Id(node),
            Demo.Vessel,
            Demo.Definitions,
            new Viewer(["quay-hand"], "en"),
            "edit",
            record
        )!;
        explanation.Shown.ShouldBe(shown);
        explanation.Reasons.ShouldContain(reason => reason.Shows == shown);
    }

    [Fact]
    public void What_hides_for_a_role_or_depends_on_the_record_is_said_without_one()
    {
        var whole = LayoutComposer.Assemble(Demo.VesselForm, Demo.Catalogue).Base;
        LayoutExplainer
            .Explain(whole, Demo.Id("mastHeight"), Demo.Vessel, Demo.Definitions, new Viewer([], "en"), "edit")!
            .Shown.ShouldBeNull();
        LayoutExplainer
            .Explain(whole, Demo.Id("hullCover/sum"), Demo.Vessel, Demo.Definitions, new Viewer(["quay-hand"], "en"), "edit")!
            .Reasons[^1]
            .Message.English.ShouldContain("may be read only by");
    }

    public static TheoryData<string> Forms() =>
        [.. Demo.Catalogue.Layouts.Values.Where(each => each.Kind is not ("piece" or "card" or "list")).Select(each => each.Key)];

    /// <summary>What is said not to be shown is what the form does not have, for everyone and everything in the demo.</summary>
    [Theory]
    [MemberData(nameof(Forms))]
    public void What_is_explained_as_not_shown_is_exactly_what_the_form_leaves_out(string key)
    {
        var layout = Demo.Catalogue.Layouts[key];
        var entity = Demo.Definitions.Entities[layout.Entity];
        var assembled = LayoutComposer.Assemble(layout, Demo.Catalogue) with { Variants = [] };
        foreach (var role in Demo.Definitions.Application.Roles.Select(each => each.Key))
        {
            foreach (var mode in new[] { Modes.View, Modes.Edit, Modes.Create })
            {
                var viewer = new Viewer([role], "en");
                using var form = JsonDocument.Parse(
                    ResolvedFormJson.Write(Resolver.Resolve(assembled, entity, Demo.Definitions, viewer, mode), Demo.Definitions)
                );
                var there = new HashSet<string>();
                Gather(form.RootElement, there);
                foreach (var node in assembled.Base.Walk().Where(node => node.Kind is not (NodeKind.Layout or NodeKind.Body)))
                {
                    (LayoutExplainer.Explain(assembled.Base, node.Id, entity, Demo.Definitions, viewer, mode)!.Shown is not false).ShouldBe(
                        there.Contains(node.Id.Name),
                        $"{node.Id} in {key} for {role} in {mode}"
                    );
                }
            }
        }
    }

    private static void Gather(JsonElement json, HashSet<string> ids)
    {
        if (json.ValueKind is JsonValueKind.Object)
        {
            if (json.TryGetProperty("id", out var id) && id.ValueKind is JsonValueKind.String)
            {
                ids.Add(id.GetString()!);
            }

            foreach (var property in json.EnumerateObject())
            {
                Gather(property.Value, ids);
            }
        }
        else if (json.ValueKind is JsonValueKind.Array)
        {
            foreach (var element in json.EnumerateArray())
            {
                Gather(element, ids);
            }
        }
    }
}
