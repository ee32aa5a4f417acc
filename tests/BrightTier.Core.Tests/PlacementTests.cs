using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Tests;

/// <summary>What a hand expects of every legal drop, on layouts that nobody thought of.</summary>
public sealed class PlacementTests
{
    private static readonly Entity Vessel = Demo.Definitions.Entities["vessel"];

    private static Field? FieldOf(string key) => Vessel.Find(key);

    private sealed record Position(NodeId Row, NodeId Cell, int Units, int Needed, int Order);

    /// <summary>Where each item stands, and how much room its cell has and it needs.</summary>
    private static Dictionary<NodeId, Position> Positions(Layout layout) =>
        layout
            .Walk()
            .Where(node => node.Kind is NodeKind.Row)
            .SelectMany(row =>
            {
                var units = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]);
                return row.Children.SelectMany(
                    (cell, i) =>
                        cell.Children.Select(
                            (item, order) =>
                                (item.Id, new Position(row.Id, cell.Id, units[i], Rooms.Of(item, FieldOf).Needed, (i * 100) + order))
                        )
                );
            })
            .ToDictionary();

    /// <summary>A form of some rows, in which each has what spans it likes, as far as a row goes.</summary>
    private static Layout AnyForm(Random random)
    {
        var fields = Vessel.Current.OrderBy(_ => random.Next()).Take(14).ToArray();
        var rows = new List<Node>();
        for (var i = 0; i < fields.Length; )
        {
            var count = Math.Min(fields.Length - i, 1 + random.Next(4));
            var written = random.Next(3) > 0;
            var left = Limits.Units;
            var cells = fields
                .Skip(i)
                .Take(count)
                .Select(
                    (field, n) =>
                    {
                        var span = Math.Max(1, Math.Min(left - (count - n - 1), 1 + random.Next(6)));
                        left -= span;
                        return NewNodes.CellOf(NewNodes.Field(field.Key), written ? span : null);
                    }
                )
                .ToList();
            if (random.Next(6) == 0 && written && left > 0)
            {
                cells.Insert(random.Next(cells.Count), Node.Of(NodeKind.Cell, default).With("span", new Value.Number(1)));
            }

            rows.Add(Node.Of(NodeKind.Row, default, cells));
            i += count;
        }

        var half = rows.Count / 2;
        var page = Node.Of(
            NodeKind.Page,
            default,
            Node.Of(NodeKind.Section, default, rows.Take(half)).With("columns", random.Next(3) == 0 ? new Value.Number(2) : null),
            Node.Of(NodeKind.Section, default, rows.Skip(half))
        );
        var root = Node.Of(NodeKind.Layout, new NodeId("layout"), Node.Of(NodeKind.Body, default, page, Node.Of(NodeKind.Page, default)))
            .With("key", new Value.Word("vessel"))
            .With("entity", new Value.Word("vessel"));
        return Layout.Of(DerivedIds.Fill(root, []));
    }

    /// <summary>Every legal drop of some subjects on a form.</summary>
    private static IEnumerable<(Subject Subject, Placement Place)> Drops(Layout form, Random random)
    {
        var placing = new LayoutPlaces(form, FieldOf);
        var nodes = form.Walk().ToArray();
        var items = nodes.Where(node => node.Kind is NodeKind.Field).ToArray();
        var absent = Vessel.Current.Where(field => items.All(item => item.Word("field") != field.Key)).ToArray();
        Subject[] subjects =
        [
            new Subject.OfNode(items[random.Next(items.Length)].Id),
            new Subject.OfNode(items[random.Next(items.Length)].Id),
            new Subject.OfField(absent[random.Next(absent.Length)].Key),
            new Subject.OfField(absent[random.Next(absent.Length)].Key),
            new Subject.OfPart(NodeKind.Heading),
            new Subject.OfPart(NodeKind.Section, "More"),
        ];
        return from subject in subjects
            from node in nodes
            from edge in Enum.GetValues<Edge>()
            let place = placing.At(subject, node.Id, edge)
            where place is not null
            select (subject, place);
    }

    [Fact]
    public void A_drop_changes_nobody_elses_row_column_or_order_and_leaves_everybody_what_they_need()
    {
        var drops = 0;
        for (var seed = 0; seed < 60; seed++)
        {
            var random = new Random(seed);
            var form = AnyForm(random);
            var before = Positions(form);
            foreach (var (subject, place) in Drops(form, random))
            {
                drops++;
                var applied = form.Apply(place.Edits);
                applied.Refusal.ShouldBeNull();
                var told = $"{seed}: {subject} {place.Edge} of {place.Target}";
                applied.Layout!.Apply(applied.Inverse).Layout.ShouldBe(form, told);
                var after = Positions(applied.Layout!);
                var others = before.Where(each => subject is not Subject.OfNode node || node.Id != each.Key).ToArray();
                foreach (var (id, was) in others)
                {
                    var so = after[id];
                    (so.Row, so.Cell).ShouldBe((was.Row, was.Cell), $"{told}: {id}");
                    so.Units.ShouldBeGreaterThanOrEqualTo(Math.Min(was.Units, was.Needed), $"{told}: {id}");
                }

                after
                    .Where(each => before.ContainsKey(each.Key) && others.Any(other => other.Key == each.Key))
                    .OrderBy(each => each.Value.Row.Name)
                    .ThenBy(each => each.Value.Order)
                    .Select(each => each.Key)
                    .ShouldBe(others.OrderBy(each => each.Value.Row.Name).ThenBy(each => each.Value.Order).Select(each => each.Key), told);
                foreach (var (id, so) in after.Where(each => !others.Any(other => other.Key == each.Key)))
                {
                    var within = before.GetValueOrDefault(id) is { } was && was.Row == so.Row;
                    so.Units.ShouldBeGreaterThanOrEqualTo(
                        within ? Math.Min(so.Needed, before[id].Units) : so.Needed,
                        $"{told}: {id} itself"
                    );
                }
            }
        }

        drops.ShouldBeGreaterThan(10_000);
    }

    [Fact]
    public void What_leaves_a_row_of_written_spans_leaves_the_others_where_they_stand()
    {
        for (var seed = 0; seed < 200; seed++)
        {
            var form = AnyForm(new Random(seed));
            foreach (var row in form.Walk().Where(node => node.Kind is NodeKind.Row && node.Children.All(cell => cell["span"] is not null)))
            {
                foreach (var item in row.Children.SelectMany(cell => cell.Children))
                {
                    var left = form.Apply([.. Removal.Of(form, item.Id)]).Layout!;
                    if (left.Find(row.Id) is not { } so)
                    {
                        row.Children.Count(cell => !cell.Children.IsEmpty).ShouldBe(1);
                        continue;
                    }

                    Starts(so).ShouldBeSubsetOf(Starts(row));
                }
            }
        }

        // At which unit each thing begins.
        static IEnumerable<(NodeId, int)> Starts(Node row) =>
            row.Children.SelectMany(
                (cell, i) => cell.Children.Select(item => (item.Id, row.Children.Take(i).Sum(each => each.Number("span")!.Value)))
            );
    }

    [Fact]
    public void A_full_row_says_so_and_gives_a_row_of_its_own()
    {
        var form = Layout.Of(
            DerivedIds.Fill(
                Node.Of(
                    NodeKind.Layout,
                    new NodeId("layout"),
                    Node.Of(
                        NodeKind.Body,
                        default,
                        Node.Of(
                            NodeKind.Page,
                            default,
                            Node.Of(NodeKind.Section, default, NewNodes.RowOf("length", "beam", "draught", "mastHeight"))
                        )
                    )
                ),
                []
            )
        );
        var place = new LayoutPlaces(form, FieldOf).At(new Subject.OfField("berth"), new NodeId("draught"), Edge.Right)!;
        place.Full.ShouldBeTrue();
        var after = form.Apply(place.Edits).Layout!;
        after.Walk().Count(node => node.Kind is NodeKind.Row).ShouldBe(2);
        Positions(after)[new NodeId("berth")].Units.ShouldBe(Limits.Units);
    }

    [Theory]
    [InlineData("6 3 3", 1, "3 3 3 3")]
    [InlineData("12", 1, "9 3")]
    [InlineData("6", 1, "6 3")]
    [InlineData("3 3", 0, "3 3 3")]
    public void A_figure_takes_a_quarter_from_those_with_most_to_spare(string spans, int at, string expected)
    {
        var cells = spans.Split(' ').Select(int.Parse).Select(span => new SharingCell(span, new Room(3, span == 12 ? 6 : span))).ToArray();
        string.Join(' ', RowRoom.Admit(cells, at, new Room(3, 3))!.Value).ShouldBe(expected);
    }
}
