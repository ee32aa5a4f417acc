using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

// Cases whose outcome is known.
public sealed partial class MergeTests
{
    [Fact]
    public void Side_columns_that_both_sides_brought_become_one_with_what_is_in_both()
    {
        var (mine, theirs) = (WithEnd("aside", "advice"), WithEnd("beside", "tides"));

        var merged = LayoutMerge.Merge(Form, mine, theirs);

        merged.Conflicts.ShouldBeEmpty();
        merged
            .Layout.Walk()
            .Where(node => node.Kind is NodeKind.End)
            .ShouldHaveSingleItem()
            .Children.Select(child => child.Id.Name)
            .ShouldBe(["advice", "tides"]);
        LayoutMerge.Merge(Form, theirs, mine).Layout.ShouldBe(merged.Layout);

        Layout WithEnd(string id, string section) =>
            Form.Apply(
                new Edit.Insert(
                    new Node(
                        Demo.Id(id),
                        NodeKind.End,
                        Node.NoProperties,
                        [new Node(Demo.Id(section), NodeKind.Section, Node.NoProperties, [])]
                    ),
                    Form.Root.Id,
                    new Anchor.Last()
                )
            ).Layout!;
    }

    [Fact]
    public void Two_bands_with_different_words_are_a_conflict_and_one_of_them_stands()
    {
        var (mine, theirs) = (WithBottom("a", "Mind the tide"), WithBottom("b", "Ask the office"));

        var merged = LayoutMerge.Merge(Form, mine, theirs, _ => Side.Theirs);

        merged.Conflicts.ShouldHaveSingleItem().Code.ShouldBe("only-one");
        merged
            .Layout.Walk()
            .Where(node => node.Kind is NodeKind.Bottom)
            .ShouldHaveSingleItem()
            .Text("text")!
            .ToString()
            .ShouldBe("Ask the office");

        Layout WithBottom(string id, string text) =>
            Form.Apply(
                new Edit.Insert(
                    new Node(Demo.Id(id), NodeKind.Bottom, Node.NoProperties.Add("text", new Value.Text(Texts.Of(text))), []),
                    Form.Root.Id,
                    new Anchor.Last()
                )
            ).Layout
            ?? Form;
    }

    [Fact]
    public void A_change_that_inserts_already_takes_no_second_node()
    {
        var variant = Form.Variants.First();
        var change = new Node(
            Demo.Id("added"),
            NodeKind.Change,
            Node.NoProperties.Add("op", new Value.Word("insert")).Add("parent", new Value.Word("identity")),
            [new Node(Demo.Id("row1"), NodeKind.Row, Node.NoProperties, [])]
        );
        var form = Form.Apply(new Edit.Insert(change, variant.Id, new Anchor.Last())).Layout!;

        var refused = form.Apply(
            new Edit.Insert(new Node(Demo.Id("row2"), NodeKind.Row, Node.NoProperties, []), change.Id, new Anchor.Last())
        );

        refused.Refusal!.Message.English.ShouldBe("A change has only one node it inserts.");
    }

    /// <summary>A text is one for each language: two people who translate it do not stand in one another's way.</summary>
    [Fact]
    public void Two_languages_of_one_text_combine()
    {
        var from = Form.Apply(In("rig", ("en", "Rig"), ("nl", "Tuig"))).Layout!;
        var mine = from.Apply(In("rig", ("en", "Rigging"), ("nl", "Tuig"))).Layout!;
        var theirs = from.Apply(In("rig", ("en", "Rig"), ("nl", "Tuigage"), ("ar", "الأشرعة"))).Layout!;

        var merged = LayoutMerge.Merge(from, mine, theirs);

        merged.Conflicts.ShouldBeEmpty();
        merged
            .Layout.Find(Demo.Id("rig"))!["title"]
            .ShouldBe(((Edit.Set)In("rig", ("en", "Rigging"), ("nl", "Tuigage"), ("ar", "الأشرعة"))).Value);
        LayoutMerge.Merge(from, theirs, mine).Layout.ShouldBe(merged.Layout);

        var again = theirs.Apply(In("rig", ("en", "Sails"), ("nl", "Tuigage"), ("ar", "الأشرعة"))).Layout!;
        var conflict = LayoutMerge.Merge(from, mine, again, _ => Side.Theirs);
        conflict.Conflicts.ShouldHaveSingleItem().Code.ShouldBe("set-twice");
        conflict.Layout.Find(Demo.Id("rig"))!["title"].ShouldBe(again.Find(Demo.Id("rig"))!["title"]);
    }

    private static Edit In(string node, params (string Language, string Text)[] texts) =>
        new Edit.Set(Demo.Id(node), "title", new Value.Text(Texts.Of(texts.Select(each => KeyValuePair.Create(each.Language, each.Text)))));

    /// <summary>
    /// Where both sides agree which of two siblings stands first, it does: that each reached it by another move is no matter.
    /// </summary>
    [Fact]
    public void What_both_sides_order_alike_is_ordered_so() =>
        Sides.Sample(
            sides =>
            {
                var merged = LayoutMerge.Merge(Form, sides.Mine, sides.Theirs);
                if (merged.Conflicts.Count > 0)
                {
                    return;
                }

                foreach (var parent in merged.Layout.Walk())
                {
                    var (mine, theirs) = (Places(sides.Mine, parent.Id), Places(sides.Theirs, parent.Id));
                    var common = parent
                        .Children.Select(child => child.Id)
                        .Where(id => mine.ContainsKey(id) && theirs.ContainsKey(id))
                        .ToArray();
                    for (var i = 0; i < common.Length; i++)
                    {
                        for (var j = i + 1; j < common.Length; j++)
                        {
                            (mine[common[i]] > mine[common[j]] && theirs[common[i]] > theirs[common[j]]).ShouldBeFalse(
                                $"{common[i]} stands before {common[j]} in {parent.Id}"
                            );
                        }
                    }
                }
            },
            iter: 5_000
        );

    private static Dictionary<NodeId, int> Places(Layout layout, NodeId parent) =>
        layout.Find(parent)?.Children.Select((child, i) => (child.Id, i)).ToDictionary(each => each.Id, each => each.i) ?? [];

    public static TheoryData<string, Edit[], Edit[]> Conflicting =>
        new()
        {
            { "set-twice", [Title("rig", "Sails")], [Title("rig", "Canvas")] },
            { "moved-twice", [Move("rig", "care")], [new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())] },
            {
                "moved-twice",
                [new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.Last())],
                [new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())]
            },
            {
                "replaced-and-changed",
                [new Edit.Set(Demo.Id("mastHeight"), "field", new Value.Word("sailArea"))],
                [new Edit.Set(Demo.Id("mastHeight"), "help", new Value.Text(Texts.Of("Above the waterline")))]
            },
            { "inserted-twice", [Insert("log", "Log")], [Insert("log", "Logbook")] },
            {
                "removed-and-changed",
                [new Edit.Remove(Demo.Id("rig"))],
                [new Edit.Set(Demo.Id("mastHeight"), "help", new Value.Text(Texts.Of("Above the waterline")))]
            },
            {
                "removed-and-changed",
                [new Edit.Remove(Demo.Id("rig"))],
                [Move("measures", "care"), new Edit.Move(Demo.Id("nameRow"), Demo.Id("rig"), new Anchor.Last())]
            },
        };

    [Theory]
    [MemberData(nameof(Conflicting))]
    public void What_two_people_cannot_both_have_is_a_conflict_that_can_be_resolved_either_way(string code, Edit[] mine, Edit[] theirs)
    {
        var (one, other) = (Form.Apply(mine).Layout!, Form.Apply(theirs).Layout!);

        var merged = LayoutMerge.Merge(Form, one, other, _ => Side.Mine);
        var conflict = merged.Conflicts.ShouldHaveSingleItem();
        conflict.Code.ShouldBe(code);
        conflict.Mine.ShouldNotBeEmpty();
        conflict.Theirs.ShouldNotBeEmpty();
        var turned = LayoutMerge.Merge(Form, one, other, _ => Side.Theirs);
        if (mine.Length == 1 && theirs.Length == 1)
        {
            merged.Layout.ShouldBe(one);
            turned.Layout.ShouldBe(other);
        }

        LayoutMerge.Merge(Form, other, one).Conflicts.ShouldHaveSingleItem().Code.ShouldBe(code);
    }

    [Fact]
    public void Two_moves_that_put_each_into_the_other_are_a_conflict()
    {
        var nested = Demo.ReadLayout(
            """
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
            """
        );
        var mine = nested.Apply(new Edit.Move(Demo.Id("a"), Demo.Id("pageB"), new Anchor.Last())).Layout!;
        var theirs = nested.Apply(new Edit.Move(Demo.Id("b"), Demo.Id("pageA"), new Anchor.Last())).Layout!;

        var merged = LayoutMerge.Merge(nested, mine, theirs);
        merged.Conflicts.ShouldHaveSingleItem().Code.ShouldBe("circle");
        merged.Layout.ShouldBe(mine);
        LayoutMerge.Merge(nested, mine, theirs, _ => Side.Theirs).Layout.ShouldBe(theirs);
    }

    [Fact]
    public void What_comes_to_one_place_from_both_sides_is_ordered_by_id()
    {
        var mine = Form.Apply(Insert("zeta", "Zeta")).Layout!;
        var theirs = Form.Apply(Insert("alpha", "Alpha")).Layout!;

        var merged = LayoutMerge.Merge(Form, mine, theirs);

        merged.Conflicts.ShouldBeEmpty();
        merged.Layout.Find(Demo.Id("care"))!.Children.Select(child => child.Id.Name).TakeLast(2).ShouldBe(["alpha", "zeta"]);
    }

    [Fact]
    public void A_lost_anchor_gives_way_to_its_nearest_surviving_sibling()
    {
        var mine = Form.Apply(
            new Edit.Insert(
                NewNodes.Titled(NodeKind.Section, Texts.Of("Log")) with
                {
                    Id = Demo.Id("log"),
                },
                Demo.Id("overview"),
                new Anchor.After(Demo.Id("rig"))
            )
        ).Layout!;
        var theirs = Form.Apply(new Edit.Remove(Demo.Id("rig"))).Layout!;

        var merged = LayoutMerge.Merge(Form, mine, theirs);

        merged.Conflicts.ShouldBeEmpty();
        merged
            .Layout.Find(Demo.Id("overview"))!
            .Children.Select(child => child.Id.Name)
            .ShouldBe(["identity", "measures", "log", "engine", "notesSection"]);
    }
}
