using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>Layouts, nodes and edits that nobody thought of: whatever the grammar allows, and some of what it does not.</summary>
internal sealed class AnyTree(int seed)
{
    private static readonly string[] Words =
    [
        "Name",
        "Hull & engine",
        "Länge über alles",
        "42",
        "_",
        "Über",
        "a/b",
        "Measures and so on and so forth with a title that is long enough",
    ];

    private readonly Random random = new(seed);

    private bool Once(int outOf) => random.Next(outOf) == 0;

    private T One<T>(IReadOnlyList<T> of) => of[random.Next(of.Count)];

    /// <summary>A layout of any kind with ids throughout.</summary>
    public Layout Layout()
    {
        var kind = One((string[])["full", "full", "full", "list", "card", "short", "piece"]);
        var root = new Node(new NodeId("layout"), NodeKind.Layout, Node.NoProperties, [])
            .With("kind", kind == "full" ? null : new Value.Word(kind))
            .With("key", new Value.Word("vessel"))
            .With("entity", kind == "piece" ? null : new Value.Word("vessel"));
        return Model.Layout.Of(DerivedIds.Fill(Filled(root, 0, named: false), []));
    }

    private Node Filled(Node node, int depth, bool named)
    {
        var rule = Grammar.Of(node);
        var children = ImmutableArray.CreateBuilder<Node>();
        var some =
            node.Kind is NodeKind.Cell ? random.Next(3)
            : depth == 0 ? 4
            : random.Next(4);
        if (node.Kind is NodeKind.Layout && rule.HolderOf(NodeKind.Body) is not null)
        {
            children.Add(Any(NodeKind.Body, depth + 1, named));
        }

        for (var i = 0; i < some && rule.Children.Length > 0 && depth < 9 && node.Kind is not NodeKind.Change; i++)
        {
            var kind = One(rule.Children);
            // Panels within panels would never end.
            if (kind is not NodeKind.Panel || depth < 5)
            {
                var child = Any(kind, depth + 1, named);
                if (
                    rule.HolderOf(kind) is not { Shape: ChildShape.One or ChildShape.Named }
                    || !children.Any(each => each.Kind == kind && each["variant"] == child["variant"])
                )
                {
                    children.Add(child);
                }
            }
        }

        return node with
        {
            Children = [.. children.OrderBy(child => node.Kind is NodeKind.Layout ? (int)child.Kind : 0)],
        };
    }

    /// <summary>A node of a kind with what it needs, and children.</summary>
    /// <param name="named">Whether some nodes have ids of their own already.</param>
    public Node Any(NodeKind kind, int depth, bool named)
    {
        var node = Node.Of(kind, named && Once(2) ? new NodeId($"n{random.Next(400)}") : default);
        if (kind is NodeKind.Change)
        {
            return Change(depth);
        }

        foreach (var property in Grammar.Of(kind).Properties.Where(property => property.Required || Once(6)))
        {
            node = node.With(property.Name, Value(property) is { } value && value != property.Default ? value : null);
        }

        return Filled(node, depth, named);
    }

    private Node Change(int depth)
    {
        var property = One((string[])["label", "span", "hidden", "title", "lines"]);
        return OverrideApplier.ToChange(
            random.Next(4) switch
            {
                0 => new Edit.Set(Id(), property, Value(Grammar.Property(property)!)),
                1 => new Edit.Remove(Id()),
                2 => new Edit.Move(Id(), Id(), Anchor(null)),
                _ => new Edit.Insert(
                    Any(One((NodeKind[])[NodeKind.Row, NodeKind.Section, NodeKind.Field]), depth + 5, named: true),
                    Id(),
                    Anchor(null)
                ),
            }
        );
    }

    private NodeId Id() => new(One((string[])["name", "nameCell", "nameRow", "field", "section", "page", "body", "cell", "row"]));

    /// <summary>A value a property takes; null where it is left out.</summary>
    private Value? Value(PropertyRule rule) =>
        rule.Type switch
        {
            PropertyType.Text => Once(3)
                ? new Value.Text(Texts.Of([new("en", One(Words)), new("nl", One(Words))]))
                : new Value.Text(Texts.Of(One(Words))),
            PropertyType.Word => new Value.Word(One(rule.Words)),
            PropertyType.Words => new Value.Words([rule.Words.IsEmpty ? "name" : One(rule.Words)]),
            PropertyType.Key => new Value.Word(
                One((string[])["name", "length", "a-rather-long-key-that-goes-on-and-on-until-it-is-sixty-long-x"])
            ),
            PropertyType.Target => new Value.Word("name"),
            PropertyType.Address => new Value.Word("/berths"),
            PropertyType.Pattern => new Value.Word("[A-Z]+"),
            PropertyType.Condition => new Value.Word("record.length > 8"),
            PropertyType.FlagOrCondition => Once(2) ? new Value.Flag(true) : new Value.Word("record.length > 8"),
            PropertyType.Flag => new Value.Flag(Once(2)),
            PropertyType.Number or PropertyType.Decimal => new Value.Number(random.Next(rule.Min, Math.Min(rule.Max, rule.Min + 12) + 1)),
            _ => rule.Default,
        };

    private Anchor Anchor(Node? parent) =>
        random.Next(5) switch
        {
            0 => new Anchor.First(),
            1 => new Anchor.Last(),
            2 when parent is { Children.Length: > 0 } => new Anchor.Before(One(parent.Children).Id),
            3 when parent is { Children.Length: > 0 } => new Anchor.After(One(parent.Children).Id),
            4 when Once(6) => new Anchor.After(Id()),
            _ => new Anchor.Last(),
        };

    /// <summary>An edit of a layout, which may be refused.</summary>
    public Edit Edit(Layout layout)
    {
        var nodes = layout.Walk().ToArray();
        NodeId Some() => Once(20) ? Id() : One(nodes).Id;
        switch (random.Next(6))
        {
            case 0:
                return new Edit.Remove(Some());
            case 1 or 2:
                var moved = One(nodes);
                var homes = nodes.Where(each => Grammar.Of(each).Children.Contains(moved.Kind)).ToArray();
                var home = homes.Length == 0 || Once(8) ? One(nodes) : One(homes);
                return new Edit.Move(moved.Id, home.Id, Anchor(home));
            case 3 or 4:
                var node = One(nodes);
                var properties = Grammar.Of(node).Properties;
                if (properties.IsEmpty || Once(12))
                {
                    return new Edit.Set(node.Id, One((string[])["span", "title", "colour"]), null);
                }

                var property = One(properties);
                return new Edit.Set(
                    node.Id,
                    property.Name,
                    Once(4) ? null
                        : Once(5) ? property.Default
                        : property.Type is PropertyType.Any ? null
                        : Value(property)
                );
            default:
                var parent = One(nodes);
                var kinds = Grammar.Of(parent).Children;
                return new Edit.Insert(
                    Any(
                        kinds.IsEmpty || Once(8)
                            ? One((NodeKind[])[NodeKind.Row, NodeKind.Section, NodeKind.Field, NodeKind.Cell])
                            : One(kinds),
                        4,
                        named: Once(2)
                    ),
                    Once(20) ? Id() : parent.Id,
                    Anchor(parent)
                );
        }
    }

    public int Next(int below) => random.Next(below);
}
