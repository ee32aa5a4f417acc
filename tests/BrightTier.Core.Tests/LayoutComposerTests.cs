using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

public sealed class AssemblingTests
{
    private static readonly ComposedLayout Vessel = LayoutComposer.Assemble(Demo.VesselForm, Demo.Catalogue);

    [Fact]
    public void A_piece_stands_at_each_use_with_its_slots_bound_and_its_nodes_named_by_the_use()
    {
        Vessel.Problems.ShouldBeEmpty();
        Vessel.Base.Find(Demo.Id("hullCover/policy"))!.Word("field").ShouldBe("coverPolicy");
        Vessel.Base.Find(Demo.Id("thirdCover/policy"))!.Word("required").ShouldBe("has(record.thirdInsurer)");
        Vessel.Base.Find(Demo.Id("hullCover/insured"))!.Text("title")!.In("en").ShouldBe("Hull cover");
        Vessel.Base.Find(Demo.Id("thirdCover/insured"))!.Text("title")!.In("nl").ShouldBe("WA-dekking");
    }

    [Fact]
    public void A_linked_piece_follows_its_later_changes_and_a_detached_one_does_not()
    {
        var cover = Demo
            .Catalogue.Layouts["cover"]
            .Apply(new Edit.Set(Demo.Id("policy"), "help", new Value.Text(Texts.Of("On the first sheet"))))
            .Layout!;
        var catalogue = Demo.Catalogue.With(new Document.OfLayout(cover));
        var detached = Demo.VesselForm.Apply(Pieces.Detach(Demo.VesselForm, Demo.Id("hullCover"), Demo.Catalogue)).Layout!;

        LayoutComposer
            .Assemble(Demo.VesselForm, catalogue)
            .Base.Find(Demo.Id("hullCover/policy"))!
            .Text("help")!
            .ToString()
            .ShouldBe("On the first sheet");
        var plain = LayoutComposer.Assemble(detached, catalogue).Base;
        plain.Contains(Demo.Id("hullCover/policy")).ShouldBeFalse();
        plain.Walk().Single(node => node.Word("field") == "coverPolicy")["help"].ShouldBeNull();
        Pieces.Uses("cover", Demo.Catalogue.With(new Document.OfLayout(detached))).Select(use => use.Node.Name).ShouldBe(["thirdCover"]);
    }

    [Fact]
    public void Sections_become_a_piece_with_a_slot_for_each_field_and_a_use_in_their_place()
    {
        var piece = Pieces.Make("rigging", Texts.Of("Rigging"), Clipboard.Sections(Demo.VesselForm, [Demo.Id("rig")]), Demo.Vessel);
        var used = Demo.VesselForm.Apply(Pieces.UseInPlace(piece, Demo.VesselForm, [Demo.Id("rig")])).Layout!;
        var whole = LayoutComposer.Assemble(used, Demo.Catalogue.With(new Document.OfLayout(piece)));

        piece
            .Root.Children.Where(child => child.Kind is NodeKind.Slot)
            .Select(slot => slot.Word("slot"))
            .ShouldBe(["propulsion", "mastHeight", "sailArea"]);
        whole.Problems.ShouldBeEmpty();
        whole.Base.Walk().Select(node => node.Word("field")).ShouldContain("sailArea");
        Demo.ReadLayout(DocumentFile.Write(new Document.OfLayout(piece))).ShouldBe(piece);
    }

    [Fact]
    public void A_layout_that_extends_another_follows_its_later_changes()
    {
        var foreman = Demo.Catalogue.Layouts["vessel-foreman"];
        var parent = Demo.VesselForm.Apply(new Edit.Set(Demo.Id("engine"), "title", new Value.Text(Texts.Of("Propulsion")))).Layout!;

        var whole = LayoutComposer.Assemble(foreman, Demo.Catalogue.With(new Document.OfLayout(parent)));

        whole.Problems.ShouldBeEmpty();
        whole.Base.Find(Demo.Id("engine"))!.Text("title")!.ToString().ShouldBe("Propulsion");
        whole.Base.Contains(Demo.Id("covers")).ShouldBeFalse();
        whole.Base.Find(Demo.Id("overview"))!.Children[1].Id.Name.ShouldBe("engine");
        whole.Base.Root.Word("density").ShouldBe("dense");
    }

    [Fact]
    public void A_change_whose_target_is_gone_is_told_and_the_others_hold() =>
        EditTests
            .Random(8)
            .Sample(
                seeds =>
                {
                    // Whatever happens to the parent, the child can be put together, and what does not hold is said.
                    var parent = seeds.Aggregate(Demo.VesselForm, (form, seed) => form.Apply(EditTests.AnyEdit(form, seed)).Layout ?? form);
                    var foreman = Demo.Catalogue.Layouts["vessel-foreman"];
                    var whole = LayoutComposer.Assemble(foreman, Demo.Catalogue.With(new Document.OfLayout(parent)));
                    foreach (var change in foreman.Root.Children.Where(child => child.Kind is NodeKind.Change))
                    {
                        var orphaned = whole.Problems.Any(problem => problem.Code == "override-orphaned" && problem.Node == change.Id);
                        var target = change.Word("target") is { } name ? new NodeId(name) : new NodeId(change.Word("parent")!);
                        if (!parent.Contains(target))
                        {
                            orphaned.ShouldBeTrue(change.Id.Name);
                        }
                    }
                },
                iter: 400
            );

    [Fact]
    public void Every_edit_becomes_a_change_and_back() =>
        EditTests
            .Random(1)
            .Sample(
                seeds =>
                {
                    var edit = EditTests.AnyEdit(Demo.VesselForm, seeds[0]);
                    var applied = Demo.VesselForm.Apply(edit);
                    if (applied.Refusal is null)
                    {
                        Demo.VesselForm.ApplyOverrides([OverrideApplier.ToChange(applied.Edits[0]) with { Id = Demo.Id("change") }])
                            .Layout.ShouldBe(applied.Layout);
                    }
                },
                iter: 600
            );

    [Fact]
    public void Ranges_of_widths_cannot_overlap_whatever_cut_points_a_layout_adds() =>
        Gen.Int[11, 120]
            .List[0, 4]
            .Sample(cuts =>
            {
                var ranges = Demo.Definitions.Application.Ranges(cuts.Distinct().Select((cut, i) => ($"own{i}", cut)));
                ranges[0].From.ShouldBe(0);
                ranges[^1].Below.ShouldBeNull();
                for (var i = 1; i < ranges.Length; i++)
                {
                    ranges[i].From.ShouldBe(ranges[i - 1].Below!.Value);
                }
            });

    [Fact]
    public void A_variant_hides_and_places_and_leaves_the_base_alone()
    {
        var narrow = Vessel.Variants.Single().Layout;

        narrow.Find(Demo.Id("photo"))!.Flag("hidden").ShouldBeTrue();
        Vessel.Base.Find(Demo.Id("photo"))!.Flag("hidden").ShouldBeFalse();
        // Placement set on an item that stands alone in its cell means the cell.
        narrow.Find(Demo.Id("registrationCell"))!.Number("span").ShouldBe(12);
        Vessel.Base.Find(Demo.Id("registrationCell"))!.Number("span").ShouldBe(4);
    }

    [Fact]
    public void The_more_specific_wins_where_parent_and_child_have_a_variant_of_one_width()
    {
        var child = Demo.ReadLayout(
            "kind: full\nkey: trial\nentity: vessel\nextends: vessel\nvariants:\n  narrow:\n    - set: { photo: { hidden: "
                + "false } }\n    - set: { papers: { hidden: true } }\n"
        );
        var narrow = LayoutComposer.Assemble(child, Demo.Catalogue).Variants.Single().Layout;

        narrow.Find(Demo.Id("photo"))!.Flag("hidden").ShouldBeFalse();
        narrow.Find(Demo.Id("papers"))!.Flag("hidden").ShouldBeTrue();
        narrow.Find(Demo.Id("registrationCell"))!.Number("span").ShouldBe(12);
    }

    [Fact]
    public void What_is_inherited_tells_where_it_is_from()
    {
        var shortForm = Demo.Catalogue.Layouts["vessel-short"];
        var field = shortForm.Walk().First(node => node.Kind is NodeKind.Field).Id;

        InheritedValues.Find(shortForm, field, "labels").ShouldBe((new Value.Word("beside"), Demo.Id("layout")));
        InheritedValues.Find(Demo.VesselForm, Demo.Id("name"), "labels").ShouldBe((new Value.Word("above"), null));
        var own = shortForm.Apply(new Edit.Set(field, "labels", new Value.Word("inside"))).Layout!;
        InheritedValues.Find(own, field, "labels").Origin.ShouldBe(field);
    }

    [Fact]
    public void A_template_is_taken_over_for_another_entity_and_tells_what_found_no_match()
    {
        var made = TemplateLayouts.Make(
            Demo.Catalogue.Templates["register"],
            Demo.Catalogue,
            Demo.Definitions.Entities["visitorCall"],
            "call"
        );

        made.Select(each => each.Layout.Key).ShouldBe(["call", "call-short", "call-card", "call-list"]);
        made[0].Strays.ShouldContain("registration");
        made[0].Layout.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")).ShouldBe(["length"]);
        made.ShouldAllBe(each => LayoutComposer.Assemble(each.Layout, Demo.Catalogue).Problems.Length == 0);
    }

    [Fact]
    public void Panels_nest_as_deep_as_the_limit_and_no_deeper()
    {
        static string Nested(int depth) =>
            depth == 0 ? "[name]" : $"[[{{ panel: stack, pages: [{{ sections: [{{ rows: [{Nested(depth - 1)}] }}] }}] }}]]"[1..^1];
        string File(int depth) =>
            $"kind: full\nkey: trial\nentity: vessel\nbody: {{ pages: [{{ sections: [{{ rows: [{Nested(depth)}] }}] }}] }}\n";

        var deep = Demo.ReadLayout(File(10));
        deep.Walk().Count(node => node.Kind is NodeKind.Panel).ShouldBe(10);
        Demo.ReadLayout(DocumentFile.Write(new Document.OfLayout(deep))).ShouldBe(deep);
        DocumentFile.Read(File(13)).Problems.ShouldContain(problem => problem.Message.English.Contains("levels", StringComparison.Ordinal));
    }

    [Fact]
    public void Slots_that_swap_names_are_swapped_in_texts_and_conditions()
    {
        var swapped = new Dictionary<string, string?> { ["from"] = "until", ["until"] = "from" };
        SlotNames.InText("{from} to {until, date} and {other}", swapped).ShouldBe("{until} to {from, date} and {other}");
        SlotNames.InCondition("record.from < record.until", swapped).ShouldBe("record.until < record.from");
    }

    [Fact]
    public void A_list_taken_over_for_another_entity_keeps_only_what_that_entity_has()
    {
        var list = Demo.ReadLayout(
            """
            kind: list
            key: fleet
            entity: vessel
            sort: [-code, name]
            filters: [propulsion]
            columns: [name, propulsion]
            """
        );
        var taken = TemplateLayouts.TakeOver(list, Demo.Definitions.Entities["berth"], "berths");
        taken.Layout.Root.Words("sort").ShouldBe(["-code"]);
        taken.Layout.Root["filters"].ShouldBeNull();
    }
}
