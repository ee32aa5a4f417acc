using BrightTier.Core.Edits;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;
using CsCheck;

namespace BrightTier.Core.Tests;

public sealed class MergeTests
{
    private static readonly Layout Form = Demo.VesselForm;

    private static Layout Some(Layout from, int[] seeds) => seeds.Aggregate(from, (form, seed) => form.Apply(EditTests.AnyEdit(form, seed)).Layout ?? form);

    private static readonly Gen<(Layout Mine, Layout Theirs)> Sides = Gen.Select(EditTests.Random(6), EditTests.Random(6), (a, b) => (Some(Form, a), Some(Form, b)));

    [Fact]
    public void What_comparing_finds_leads_from_one_layout_to_the_other() => Sides.Sample(
        sides =>
        {
            var edits = Comparing.Edits(sides.Mine, sides.Theirs);
            var applied = sides.Mine.Apply(edits);
            applied.Refusal.ShouldBeNull();
            applied.Layout.ShouldBe(sides.Theirs);
            applied.Layout!.Apply(applied.Inverse).Layout.ShouldBe(sides.Mine);
        },
        iter: 3_000);

    [Fact]
    public void A_node_that_survives_is_never_said_to_be_removed_or_inserted() => Sides.Sample(
        sides =>
        {
            var (before, after) = (sides.Mine.Walk().ToDictionary(node => node.Id, node => node.Kind), sides.Theirs.Walk().ToDictionary(node => node.Id, node => node.Kind));
            var edits = Comparing.Edits(sides.Mine, sides.Theirs);
            var single = edits.OfType<Edit.Remove>().Select(edit => sides.Mine.Find(edit.Node)!).Where(node => after.TryGetValue(node.Id, out var kind) && kind == node.Kind);
            single.ShouldBeEmpty();
            edits.OfType<Edit.Insert>().Where(edit => before.TryGetValue(edit.Node.Id, out var kind) && kind == edit.Node.Kind).ShouldBeEmpty();
        },
        iter: 1_500);

    [Fact]
    public void Nothing_is_found_between_a_layout_and_itself() => Comparing.Edits(Form, Demo.VesselForm).ShouldBeEmpty();

    [Fact]
    public void A_move_among_siblings_is_one_edit()
    {
        var moved = Form.Apply(new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())).Layout!;

        Comparing.Edits(Form, moved).ShouldBe([new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())]);
    }

    [Fact]
    public void Merging_is_symmetric_up_to_the_side_chosen() => Sides.Sample(
        sides =>
        {
            var one = Merging.Merge(Form, sides.Mine, sides.Theirs, conflict => Pick(conflict));
            var other = Merging.Merge(Form, sides.Theirs, sides.Mine, conflict => Pick(conflict) is Side.Mine ? Side.Theirs : Side.Mine);
            other.Layout.ShouldBe(one.Layout);
            other.Conflicts.Select(each => (each.Code, each.Node, each.Property)).ShouldBe(one.Conflicts.Select(each => (each.Code, each.Node, each.Property)), ignoreOrder: true);

            // A side that does not depend on which is called mine.
            static Side Pick(Conflict conflict) => conflict.Node.Name.Length % 2 == 0 ? Side.Mine : Side.Theirs;
        },
        iter: 3_000);

    [Fact]
    public void Merging_with_nothing_or_with_the_same_gives_the_one_side_and_no_conflict() => Sides.Sample(
        sides =>
        {
            foreach (var merged in new[] { Merging.Merge(Form, sides.Mine, Form), Merging.Merge(Form, Form, sides.Mine), Merging.Merge(Form, sides.Mine, sides.Mine) })
            {
                merged.Conflicts.ShouldBeEmpty();
                merged.Layout.ShouldBe(sides.Mine);
            }
        },
        iter: 1_500);

    [Fact]
    public void Nothing_is_lost_without_a_conflict() => Sides.Sample(
        sides =>
        {
            var merged = Merging.Merge(Form, sides.Mine, sides.Theirs);
            var lost = merged.Conflicts.Select(conflict => conflict.Node).ToHashSet();
            foreach (var (side, resolved) in new[] { (sides.Mine, true), (sides.Theirs, merged.Conflicts.Count == 0) })
            {
                // Mine had its way in every conflict; theirs must be there whole where there was none.
                foreach (var edit in resolved ? Comparing.Edits(Form, side) : [])
                {
                    switch (edit)
                    {
                        case Edit.Set set when merged.Layout.Find(set.Node) is { } node:
                            node[set.Property].ShouldBe(set.Value);
                            break;
                        case Edit.Set set:
                            lost.ShouldContain(id => Form.Contains(id), $"{set} is gone");
                            break;
                        case Edit.Remove remove when merged.Conflicts.Count == 0:
                            merged.Layout.Contains(remove.Node).ShouldBeFalse();
                            break;
                        case Edit.Insert insert:
                            insert.Node.Walk().ShouldAllBe(node => merged.Layout.Contains(node.Id));
                            break;
                        case Edit.Move move when merged.Conflicts.Count == 0:
                            merged.Layout.ParentOf(move.Node).ShouldBe(move.Parent);
                            break;
                    }
                }
            }
        },
        iter: 3_000);

    [Fact]
    public void What_is_laid_over_anothers_change_does_what_it_did_or_is_a_conflict() => Gen.Select(EditTests.Random(4), EditTests.Random(4)).Sample(
        (a, b) =>
        {
            var theirs = Some(Form, b);
            var mine = new List<Edit>();
            var layout = Form;
            foreach (var seed in a)
            {
                if (layout.Apply(EditTests.AnyEdit(layout, seed)) is { Layout: { } next } applied)
                {
                    mine.AddRange(applied.Edits);
                    layout = next;
                }
            }

            var rebased = Rebasing.Rebase(Form, mine, theirs);
            if (rebased.Conflicts.Count == 0)
            {
                theirs.Apply(rebased.Edits).Layout.ShouldBe(Merging.Merge(Form, layout, theirs).Layout);
            }
            else
            {
                rebased.Edits.ShouldBeEmpty();
            }
        },
        iter: 1_000);

    public static TheoryData<string, Edit[], Edit[]> Conflicting => new()
    {
        { "set-twice", [Title("rig", "Sails")], [Title("rig", "Canvas")] },
        { "moved-twice", [Move("rig", "care")], [new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())] },
        { "moved-twice", [new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.Last())], [new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())] },
        { "inserted-twice", [Insert("log", "Log")], [Insert("log", "Logbook")] },
        { "removed-and-changed", [new Edit.Remove(Demo.Id("rig"))], [new Edit.Set(Demo.Id("mastHeight"), "help", new Value.Text(Texts.Of("Above the waterline")))] },
        { "removed-and-changed", [new Edit.Remove(Demo.Id("rig"))], [Move("measures", "care"), new Edit.Move(Demo.Id("nameRow"), Demo.Id("rig"), new Anchor.Last())] },
    };

    [Theory]
    [MemberData(nameof(Conflicting))]
    public void What_two_people_cannot_both_have_is_a_conflict_that_can_be_resolved_either_way(string code, Edit[] mine, Edit[] theirs)
    {
        var (one, other) = (Form.Apply(mine).Layout!, Form.Apply(theirs).Layout!);

        var merged = Merging.Merge(Form, one, other, _ => Side.Mine);
        var conflict = merged.Conflicts.ShouldHaveSingleItem();
        conflict.Code.ShouldBe(code);
        conflict.Mine.ShouldNotBeEmpty();
        conflict.Theirs.ShouldNotBeEmpty();
        var turned = Merging.Merge(Form, one, other, _ => Side.Theirs);
        if (mine.Length == 1 && theirs.Length == 1)
        {
            merged.Layout.ShouldBe(one);
            turned.Layout.ShouldBe(other);
        }

        Merging.Merge(Form, other, one).Conflicts.ShouldHaveSingleItem().Code.ShouldBe(code);
    }

    [Fact]
    public void Two_moves_that_put_each_into_the_other_are_a_conflict()
    {
        var nested = Demo.ReadLayout("""
            kind: full
            key: trial
            entity: vessel
            body:
              pages:
                - id: page
                  sections:
                    - id: a
                      rows: [[{ panel: stack, id: panelA, pages: [{ id: pageA, sections: [] }] }]]
                    - id: b
                      rows: [[{ panel: stack, id: panelB, pages: [{ id: pageB, sections: [] }] }]]
            """);
        var mine = nested.Apply(new Edit.Move(Demo.Id("a"), Demo.Id("pageB"), new Anchor.Last())).Layout!;
        var theirs = nested.Apply(new Edit.Move(Demo.Id("b"), Demo.Id("pageA"), new Anchor.Last())).Layout!;

        var merged = Merging.Merge(nested, mine, theirs);
        merged.Conflicts.ShouldHaveSingleItem().Code.ShouldBe("circle");
        merged.Layout.ShouldBe(mine);
        Merging.Merge(nested, mine, theirs, _ => Side.Theirs).Layout.ShouldBe(theirs);
    }

    [Fact]
    public void What_comes_to_one_place_from_both_sides_is_ordered_by_id()
    {
        var mine = Form.Apply(Insert("zeta", "Zeta")).Layout!;
        var theirs = Form.Apply(Insert("alpha", "Alpha")).Layout!;

        var merged = Merging.Merge(Form, mine, theirs);

        merged.Conflicts.ShouldBeEmpty();
        merged.Layout.Find(Demo.Id("care"))!.Children.Select(child => child.Id.Name).TakeLast(2).ShouldBe(["alpha", "zeta"]);
    }

    [Fact]
    public void A_lost_anchor_gives_way_to_its_nearest_surviving_sibling()
    {
        var mine = Form.Apply(new Edit.Insert(NewNodes.Titled(NodeKind.Section, Texts.Of("Log")) with { Id = Demo.Id("log") }, Demo.Id("overview"), new Anchor.After(Demo.Id("rig")))).Layout!;
        var theirs = Form.Apply(new Edit.Remove(Demo.Id("rig"))).Layout!;

        var merged = Merging.Merge(Form, mine, theirs);

        merged.Conflicts.ShouldBeEmpty();
        merged.Layout.Find(Demo.Id("overview"))!.Children.Select(child => child.Id.Name).ShouldBe(["identity", "measures", "log", "engine", "notesSection"]);
    }

    private static Edit Title(string node, string title) => new Edit.Set(Demo.Id(node), "title", new Value.Text(Texts.Of(title)));

    private static Edit Move(string node, string parent) => new Edit.Move(Demo.Id(node), Demo.Id(parent), new Anchor.Last());

    private static Edit Insert(string id, string title) => new Edit.Insert(NewNodes.Titled(NodeKind.Section, Texts.Of(title)) with { Id = Demo.Id(id) }, Demo.Id("care"), new Anchor.Last());
}
