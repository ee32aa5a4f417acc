using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

public sealed partial class MergeTests
{
    private static readonly Layout Form = Demo.VesselForm;

    private static Layout Some(Layout from, int[] seeds) =>
        seeds.Aggregate(from, (form, seed) => form.Apply(EditTests.AnyEdit(form, seed)).Layout ?? form);

    private static readonly Gen<(Layout Mine, Layout Theirs)> Sides = Gen.Select(EditTests.Random(6), EditTests.Random(6), (a, b) =>
        (Some(Form, a), Some(Form, b))
    );

    [Fact]
    public void What_comparing_finds_leads_from_one_layout_to_the_other() =>
        Sides.Sample(
            sides =>
            {
                var edits = LayoutDiff.Edits(sides.Mine, sides.Theirs);
                var applied = sides.Mine.Apply(edits);
                applied.Refusal.ShouldBeNull();
                applied.Layout.ShouldBe(sides.Theirs);
                applied.Layout!.Apply(applied.Inverse).Layout.ShouldBe(sides.Mine);
            },
            iter: 3_000
        );

    /// <summary>
    /// Whatever the two arrange, of one kind: what comparing finds can be applied, and undone. A layout's kind is its own.
    /// </summary>
    [Fact]
    public void Anything_can_be_compared_with_anything()
    {
        var all = Directory
            .EnumerateFiles(Path.Combine(Demo.Folder, "..", "tests", "broken"), "*.yaml")
            .Select(file => Core.Documents.DocumentFile.Read(File.ReadAllText(file)).Document)
            .OfType<Core.Documents.Document.OfLayout>()
            .Select(document => document.Layout)
            .Concat(Demo.Catalogue.Layouts.Values)
            .ToArray();
        foreach (var (one, other) in all.SelectMany(one => all.Where(other => other.Kind == one.Kind).Select(other => (one, other))))
        {
            var applied = one.Apply(LayoutDiff.Edits(one, other));
            applied.Refusal.ShouldBeNull($"{one.Key} to {other.Key}: {applied.Refusal?.Message}");
            applied.Layout!.Root.Children.ShouldBe(other.Root.Children);
            applied.Layout!.Apply(applied.Inverse).Layout.ShouldBe(one);
        }
    }

    /// <summary>What a change of a derived layout says hangs together: no property of it can always be set before the others.</summary>
    [Fact]
    public void Any_change_of_a_derived_layout_becomes_any_other()
    {
        string[] changes =
        [
            "remove: engine",
            "move: engine, into: overview, after: identity",
            "move: engine, into: overview, first: true",
            "move: engine, into: care",
            "set: { engine: { frame: rule } }",
            "set: { engine: { title: Motor } }",
            "set: { engine: { visible: record.length > 9 } }",
            "insert: { section: { id: lifting } }, into: care, before: covers",
            "insert: { section: { id: lifting } }, into: care",
        ];
        var all = changes
            .Select(change => "kind: full\nkey: any\nentity: vessel\nextends: vessel\nchanges:\n  - { " + change + ", id: one }\n")
            .Select(Demo.ReadLayout)
            .ToArray();
        foreach (var (one, other) in all.SelectMany(one => all.Select(other => (one, other))))
        {
            var applied = one.Apply(LayoutDiff.Edits(one, other));
            applied.Refusal.ShouldBeNull($"{applied.Refusal?.Message}");
            applied.Layout.ShouldBe(other);
            applied.Layout!.Apply(applied.Inverse).Layout.ShouldBe(one);
        }
    }

    [Fact]
    public void A_node_that_survives_is_never_said_to_be_removed_or_inserted() =>
        Sides.Sample(
            sides =>
            {
                var (before, after) = (
                    sides.Mine.Walk().ToDictionary(node => node.Id, node => node.Kind),
                    sides.Theirs.Walk().ToDictionary(node => node.Id, node => node.Kind)
                );
                var edits = LayoutDiff.Edits(sides.Mine, sides.Theirs);
                var single = edits
                    .OfType<Edit.Remove>()
                    .Select(edit => sides.Mine.Find(edit.Node)!)
                    .Where(node => after.TryGetValue(node.Id, out var kind) && kind == node.Kind);
                single.ShouldBeEmpty();
                edits
                    .OfType<Edit.Insert>()
                    .Where(edit => before.TryGetValue(edit.Node.Id, out var kind) && kind == edit.Node.Kind)
                    .ShouldBeEmpty();
            },
            iter: 1_500
        );

    [Fact]
    public void Nothing_is_found_between_a_layout_and_itself() => LayoutDiff.Edits(Form, Demo.VesselForm).ShouldBeEmpty();

    [Fact]
    public void A_move_among_siblings_is_one_edit()
    {
        var moved = Form.Apply(new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())).Layout!;

        LayoutDiff.Edits(Form, moved).ShouldBe([new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.First())]);
    }

    [Fact]
    public void Merging_is_symmetric_up_to_the_side_chosen() =>
        Sides.Sample(
            sides =>
            {
                var one = LayoutMerge.Merge(Form, sides.Mine, sides.Theirs, conflict => Pick(conflict));
                var other = LayoutMerge.Merge(Form, sides.Theirs, sides.Mine, conflict =>
                    Pick(conflict) is Side.Mine ? Side.Theirs : Side.Mine
                );
                other.Layout.ShouldBe(one.Layout);
                other
                    .Conflicts.Select(each => (each.Code, each.Node, each.Property))
                    .ShouldBe(one.Conflicts.Select(each => (each.Code, each.Node, each.Property)), ignoreOrder: true);

                // A side that does not depend on which is called mine.
                static Side Pick(Conflict conflict) => conflict.Node.Name.Length % 2 == 0 ? Side.Mine : Side.Theirs;
            },
            iter: 3_000
        );

    /// <summary>What can go wrong where a node holds only one of something: side columns, bands, variants, the node of a change.</summary>
    private static Layout WithOnlyOnes(Layout from, int[] seeds) => seeds.Aggregate(from, (form, seed) =>
        {
            var (id, which) = (Demo.Id($"x{seed % 7}"), seed / 7 % 6);
            var change = new Node(
                id,
                NodeKind.Change,
                Node.NoProperties.Add("op", new Value.Word("insert")).Add("parent", new Value.Word("identity")),
                [Heading($"{id}h{seed % 3}", $"Rig {seed % 3}")]
            );
            Edit edit = which switch
            {
                0 => new Edit.Insert(
                    new Node(id, NodeKind.End, Node.NoProperties, [new Node(Demo.Id($"{id}s"), NodeKind.Section, Node.NoProperties, [])]),
                    form.Root.Id,
                    new Anchor.Last()
                ),
                1 => new Edit.Insert(
                    new Node(id, NodeKind.Bottom, Node.NoProperties.Add("text", new Value.Text(Texts.Of($"Berth {seed % 2}"))), []),
                    form.Root.Id,
                    new Anchor.Last()
                ),
                2 => new Edit.Insert(
                    new Node(
                        id,
                        NodeKind.Variant,
                        Node.NoProperties.Add("variant", new Value.Word(seed % 2 == 0 ? "wide" : "medium")),
                        [change with { Id = Demo.Id($"{id}c{seed % 3}") }]
                    ),
                    form.Root.Id,
                    new Anchor.Last()
                ),
                3 when form.Variants.FirstOrDefault() is { } variant => new Edit.Insert(change, variant.Id, new Anchor.Last()),
                4 when form.Walk().FirstOrDefault(node => node.Kind is NodeKind.End) is { } end => new Edit.Remove(end.Id),
                5 when form.Walk().FirstOrDefault(node => node.Kind is NodeKind.End) is { } end => new Edit.Move(
                    Demo.Id("rig"),
                    end.Id,
                    new Anchor.Last()
                ),
                _ => new Edit.Remove(id),
            };
            return form.Apply(edit).Layout ?? form;
        });

    private static Node Heading(string id, string text) =>
        new(Demo.Id(id), NodeKind.Heading, Node.NoProperties.Add("heading", new Value.Text(Texts.Of(text))), []);

    private static readonly Gen<(Layout From, Layout Mine, Layout Theirs)> OnlyOnes = Gen.Select(
        EditTests.Random(2),
        EditTests.Random(4),
        EditTests.Random(4),
        (a, b, c) =>
        {
            var from = WithOnlyOnes(Form, a);
            return (from, Some(WithOnlyOnes(from, b), [.. b.Take(1)]), Some(WithOnlyOnes(from, c), [.. c.Take(1)]));
        }
    );

    [Fact]
    public void Whatever_both_sides_did_the_merged_layout_is_one_that_can_be_stored() =>
        OnlyOnes.Sample(
            sides =>
            {
                foreach (var side in new[] { Side.Mine, Side.Theirs })
                {
                    var merged = LayoutMerge.Merge(sides.From, sides.Mine, sides.Theirs, _ => side);
                    var (text, problems) = Core.Documents.DocumentFile.WriteAndReadBack(
                        new Core.Documents.Document.OfLayout(merged.Layout)
                    );
                    problems.ShouldBeEmpty(text);
                    LayoutMerge
                        .Merge(sides.From, sides.Theirs, sides.Mine, _ => side is Side.Mine ? Side.Theirs : Side.Mine)
                        .Layout.ShouldBe(merged.Layout);
                    merged.Layout.Apply(LayoutDiff.Edits(merged.Layout, sides.From)).Refusal.ShouldBeNull();
                    sides.From.Apply(LayoutDiff.Edits(sides.From, merged.Layout)).Refusal.ShouldBeNull();
                }
            },
            iter: 3_000
        );

    [Fact]
    public void Merging_with_nothing_or_with_the_same_gives_the_one_side_and_no_conflict() =>
        Sides.Sample(
            sides =>
            {
                foreach (
                    var merged in new[]
                    {
                        LayoutMerge.Merge(Form, sides.Mine, Form),
                        LayoutMerge.Merge(Form, Form, sides.Mine),
                        LayoutMerge.Merge(Form, sides.Mine, sides.Mine),
                    }
                )
                {
                    merged.Conflicts.ShouldBeEmpty();
                    merged.Layout.ShouldBe(sides.Mine);
                }
            },
            iter: 1_500
        );

    [Fact]
    public void Nothing_is_lost_without_a_conflict() =>
        Sides.Sample(
            sides =>
            {
                var merged = LayoutMerge.Merge(Form, sides.Mine, sides.Theirs);
                var lost = merged.Conflicts.Select(conflict => conflict.Node).ToHashSet();
                foreach (var (side, resolved) in new[] { (sides.Mine, true), (sides.Theirs, merged.Conflicts.Count == 0) })
                {
                    // Mine had its way in every conflict; theirs must be there whole where there was none.
                    foreach (var edit in resolved ? LayoutDiff.Edits(Form, side) : [])
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
                                insert.Node.Walk().EachShould(node => merged.Layout.Contains(node.Id));
                                break;
                            case Edit.Move move when merged.Conflicts.Count == 0:
                                merged.Layout.ParentOf(move.Node).ShouldBe(move.Parent);
                                break;
                        }
                    }
                }
            },
            iter: 3_000
        );

    [Fact]
    public void What_is_laid_over_anothers_change_does_what_it_did_or_is_a_conflict() =>
        Gen.Select(EditTests.Random(4), EditTests.Random(4))
            .Sample(
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

                    var rebased = EditRebase.Rebase(Form, mine, theirs);
                    if (rebased.Conflicts.Count == 0)
                    {
                        theirs.Apply(rebased.Edits).Layout.ShouldBe(LayoutMerge.Merge(Form, layout, theirs).Layout);
                    }
                    else
                    {
                        rebased.Edits.ShouldBeEmpty();
                    }
                },
                iter: 1_000
            );

    private static Edit Title(string node, string title) => new Edit.Set(Demo.Id(node), "title", new Value.Text(Texts.Of(title)));

    private static Edit Move(string node, string parent) => new Edit.Move(Demo.Id(node), Demo.Id(parent), new Anchor.Last());

    private static Edit Insert(string id, string title) =>
        new Edit.Insert(NewNodes.Titled(NodeKind.Section, Texts.Of(title)) with { Id = Demo.Id(id) }, Demo.Id("care"), new Anchor.Last());
}
