using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;
using BrightTier.Core.Proposals;

namespace BrightTier.Core.Tests;

/// <summary>
/// Need E6: what is proposed of any form keeps what the form holds, leaves everybody the room they need, and is what it says.
/// </summary>
public sealed class ProposalTests
{
    public static TheoryData<string, string> Every =>
        new MatrixTheoryData<string, string>(TradeTests.Trades.Select(row => row.Data), Aims.All);

    private static ProposedForm Proposed(Layout layout, string aim, IReadOnlySet<NodeId>? within = null, params string[] without) =>
        FormProposals.Of(
            layout,
            Entity(layout),
            layout.Entity == "vessel" ? Demo.Definitions : TradeTests.Catalogue.Definitions,
            Aims.Parse(aim)!.Value,
            within,
            without.ToHashSet()
        );

    private static Entity Entity(Layout layout) => layout.Entity == "vessel" ? Demo.Vessel : TradeTests.EntityOf(layout.Entity);

    /// <summary>All fields one under another, in the order of the entity: what one has before anybody lays out anything.</summary>
    private static Layout OneColumn(string trade)
    {
        var rows = TradeTests.EntityOf(trade).Fields.Select(field => NewNodes.RowOf(field.Key));
        return Form(trade, NewNodes.Titled(NodeKind.Section, Texts.Of("All"), rows));
    }

    private static Layout Form(string trade, params Node[] sections) =>
        Layout.Of(
            DerivedIds.Fill(
                Node.Of(
                        NodeKind.Layout,
                        new NodeId("layout"),
                        Node.Of(NodeKind.Body, new NodeId("body"), Node.Of(NodeKind.Page, new NodeId("page"), sections))
                    )
                    .With("kind", new Value.Word("full"))
                    .With("key", new Value.Word(trade))
                    .With("entity", new Value.Word(trade)),
                []
            )
        );

    /// <summary>A form as no hand would leave it: fields anywhere, in rows of any spans.</summary>
    private static Layout Anyhow(string trade, int seed)
    {
        var random = new Random(seed);
        var fields = TradeTests.EntityOf(trade).Fields.OrderBy(_ => random.Next()).ToArray();
        var sections = new List<Node>();
        for (var at = 0; at < fields.Length; )
        {
            var rows = new List<Node>();
            for (var row = random.Next(1, 7); row > 0 && at < fields.Length; row--)
            {
                var some = fields[at..Math.Min(fields.Length, at + random.Next(1, 4))];
                at += some.Length;
                rows.Add(
                    Node.Of(
                        NodeKind.Row,
                        default,
                        some.Select(field => NewNodes.CellOf(NewNodes.Field(field.Key), random.Next(3) == 0 ? null : 12 / some.Length))
                    )
                );
            }

            sections.Add(NewNodes.Titled(NodeKind.Section, Texts.Of($"Section {(char)('A' + sections.Count)}"), rows));
        }

        return Form(trade, [.. sections]);
    }

    [Theory]
    [MemberData(nameof(Every))]
    public void What_is_proposed_of_any_form_keeps_its_fields_their_room_and_can_be_undone(string trade, string aim)
    {
        foreach (var before in Enumerable.Range(0, 4).Select(seed => Anyhow(trade, seed)).Append(OneColumn(trade)))
        {
            var proposed = Proposed(before, aim);
            var outcome = before.Apply(proposed.Edits);

            outcome.Layout.ShouldBe(proposed.Layout);
            proposed.Offered.ShouldAllBe(each => !each.Edits.IsEmpty && !each.Nodes.IsEmpty);
            Before(before, proposed)
                .Zip(proposed.Offered)
                .ShouldAllBe(pair => !pair.First.Apply(pair.Second.Edits).Layout!.Equals(pair.First));
            outcome.Layout!.Apply(outcome.Inverse).Layout.ShouldBe(before);
            Fields(proposed.Layout).Order().ShouldBe(Fields(before).Order());
            Narrow(proposed.Layout).Except(Narrow(before)).ShouldBeEmpty();
            Proposed(before, aim).Edits.ShouldBe(proposed.Edits);
            Proposed(proposed.Layout, aim)
                .Offered.Select(each => each.Key)
                .Except(proposed.Offered.Select(each => each.Key))
                .ShouldBeEmpty();
            (aim == "tidier" || Rem(proposed.Layout) <= Rem(before)).ShouldBeTrue();
        }
    }

    [Theory]
    [MemberData(nameof(Every))]
    public void Whatever_is_left_out_the_rest_is_taken(string trade, string aim)
    {
        var before = Anyhow(trade, 5);
        var whole = Proposed(before, aim);
        foreach (var left in whole.Offered)
        {
            var rest = Proposed(before, aim, null, left.Key);

            rest.Offered.Single(each => each.Key == left.Key).Edits.ShouldBeEmpty();
            before.Apply(rest.Edits).Layout.ShouldBe(rest.Layout);
            Fields(rest.Layout).Order().ShouldBe(Fields(before).Order());
        }
    }

    [Fact]
    public void A_form_of_everything_there_is_is_answered_too()
    {
        // Ten trades in one: more fields than anybody should have, one a row.
        var trades = TradeTests.Trades.Select(row => row.Data).ToArray();
        var entity = TradeTests.EntityOf(trades[0]) with
        {
            Fields =
            [
                .. trades.SelectMany(
                    (trade, i) =>
                        TradeTests
                            .EntityOf(trade)
                            .Fields.Select(field => field with { Key = $"f{i}{field.Key}"[..Math.Min(40, field.Key.Length + 2)] })
                ),
            ],
        };
        var form = Form(
            trades[0],
            NewNodes.Titled(NodeKind.Section, Texts.Of("All"), entity.Fields.Select(field => NewNodes.RowOf(field.Key)))
        );
        foreach (var aim in Enum.GetValues<Aim>())
        {
            var proposed = FormProposals.Of(form, entity, TradeTests.Catalogue.Definitions, aim);
            form.Apply(proposed.Edits).Layout.ShouldBe(proposed.Layout);
        }
    }

    [Fact]
    public void Forms_one_field_a_row_become_less_than_half_as_long()
    {
        foreach (var trade in TradeTests.Trades.Select(row => row.Data))
        {
            var before = OneColumn(trade);
            (Rem(Proposed(before, "shorter").Layout) / Rem(before)).ShouldBeLessThan(0.5, trade);
        }
    }

    [Fact]
    public void Each_says_why()
    {
        var form = Demo.VesselRows("[name]", "[registration]", "[surveyDue]", "[notes]", "[length]", "[beam]");

        Proposed(form, "shorter")
            .Offered.Select(each => each.Reason.English)
            .ShouldBe([
                "Name, Registration, Survey due beside each other: one row instead of 3.",
                "Beam beside Length: there is room for both.",
            ]);
        Proposed(form, "tidier")
            .Offered.Select(each => each.Reason.English)
            .ShouldBe(["Notes last in its section: long texts after what is taken in at a glance."]);
    }

    [Fact]
    public void Only_what_is_chosen_is_touched()
    {
        var before = OneColumn("lift");
        var rows = before.Walk().Where(node => node.Kind is NodeKind.Row).Skip(3).Take(4).Select(row => row.Id).ToHashSet();
        var proposed = Proposed(before, "shorter", rows);

        proposed.Offered.ShouldNotBeEmpty();
        proposed
            .Offered.SelectMany(each => each.Nodes)
            .ShouldBeSubsetOf(rows.SelectMany(id => before.Find(id)!.Walk()).Select(node => node.Id));
    }

    [Fact]
    public void What_is_shown_to_some_only_stays_where_it_is()
    {
        foreach (var aim in Aims.All)
        {
            var proposed = Proposed(Demo.VesselForm, aim);
            foreach (var item in Demo.VesselForm.Walk().Where(node => node.Kind is NodeKind.Field))
            {
                Conditions(proposed.Layout, item.Id).ShouldBe(Conditions(Demo.VesselForm, item.Id));
            }
        }

        static IEnumerable<string> Conditions(Layout layout, NodeId id) =>
            layout.Ancestors(id).Select(node => node.Word("visible")).OfType<string>();
    }

    /// <summary>The form as it is before each proposal.</summary>
    private static IEnumerable<Layout> Before(Layout form, ProposedForm proposed)
    {
        foreach (var each in proposed.Offered)
        {
            yield return form;
            form = form.Apply(each.Edits).Layout!;
        }
    }

    private static IEnumerable<string> Fields(Layout layout) =>
        layout.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")!);

    /// <summary>The fields that have less room than they need.</summary>
    private static IEnumerable<NodeId> Narrow(Layout layout) =>
        from row in layout.Walk()
        where row.Kind is NodeKind.Row
        from cell in row.Children.Zip(Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]))
        from item in cell.First.Children
        where cell.Second < Rooms.Of(item, Entity(layout).Find).Needed
        select item.Id;

    private static double Rem(Layout layout) => Length.Measure(layout, Entity(layout), TradeTests.Catalogue.Definitions, Rooms.Form).Rem;
}
