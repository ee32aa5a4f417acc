using System.Collections.Immutable;
using System.Text;

namespace BrightTier.Core.Model;

/// <summary>
/// The id a node gets when none is written: from its field or title, a row's and a cell's from the first thing in it, made unique by a
/// number in reading order. Reading and writing files share this, so that an id is left out exactly where reading finds it again.
/// </summary>
public static class DerivedIds
{
    /// <summary>
    /// The tree with an id for every node whose id is empty, unlike any in <paramref name="taken"/> and any other in the tree.
    /// </summary>
    public static Node Fill(Node node, IEnumerable<NodeId> taken) => FillWith(node, new IdPool(taken, node.Walk().Count()));

    /// <summary>The same for what comes into a layout, without looking at more of that than it takes.</summary>
    public static Node FillFor(Layout layout, Node node) => FillWith(node, new IdPool([], 0) { Layout = layout });

    private static Node FillWith(Node node, IdPool used)
    {
        used.UnionWith(node.Walk().Where(each => each.Id.Name is { Length: > 0 }).Select(each => each.Id));
        var body = node.Children.FirstOrDefault(child => child.Kind is NodeKind.Body);
        if (body is { Id.Name: null or "" } && used.Add("body"))
        {
            // The body is what everything else hangs on: it has one name, whatever else would like it.
            node = node with { Children = node.Children.Replace(body, body with { Id = new NodeId("body") }) };
        }

        return FillFrom(node, used);
    }

    private static Node FillFrom(Node node, IdPool used)
    {
        var id = node.Id.Name is { Length: > 0 } ? node.Id : new NodeId(used.Take(Short(Stem(node))));
        return node with { Id = id, Children = [.. node.Children.Select(child => FillFrom(child, used))] };
    }

    /// <summary>
    /// The layout as its text would be read if the ids were left out that were derived when it was: what is called otherwise by now has
    /// another. What the layout's own changes name keeps its id.
    /// </summary>
    /// <param name="derived">The ids that did not stand in the text.</param>
    public static Layout Anew(Layout layout, IReadOnlySet<NodeId> derived)
    {
        var named = CarriedIds.Named(layout.Root);
        return Layout.Of(Fill(layout.Root with { Children = [.. layout.Root.Children.Select(Without)] }, []));

        Node Without(Node node) =>
            node with
            {
                Id = derived.Contains(node.Id) && !named.Contains(node.Id.Name) ? default : node.Id,
                Children = [.. node.Children.Select(Without)],
            };
    }

    /// <summary>An id like a stem that no node of a layout has.</summary>
    public static string Fresh(Layout layout, string stem)
    {
        var name = Short(stem);
        for (var number = 2; layout.Contains(new NodeId(name)); number++)
        {
            name = Short(stem) + number.ToString(System.Globalization.CultureInfo.InvariantCulture);
        }

        return name;
    }

    /// <summary>Which nodes of a layout would get another id than they have if none were written; those must be.</summary>
    public static ImmutableHashSet<NodeId> MustBeWritten(Node root)
    {
        var nodes = root.Walk().Select(node => (Node: node, Stem: Short(Stem(node)))).ToArray();
        var written = new HashSet<NodeId>();
        while (Differing(nodes, written) is { Count: > 0 } more)
        {
            written.UnionWith(more);
        }

        return [.. written];
    }

    /// <summary>Those that <see cref="Fill"/> would give another id than they have, were all ids left out but the written ones.</summary>
    private static List<NodeId> Differing((Node Node, string Stem)[] nodes, HashSet<NodeId> written)
    {
        var used = new IdPool(written, nodes.Length);
        var body = nodes[0].Node.Children.FirstOrDefault(child => child.Kind is NodeKind.Body);
        var named = body is not null && !written.Contains(body.Id) && used.Add("body") ? body : null;
        var differing = new List<NodeId>();
        foreach (var (node, stem) in nodes)
        {
            if (!written.Contains(node.Id) && (ReferenceEquals(node, named) ? "body" : used.Take(stem)) != node.Id.Name)
            {
                differing.Add(node.Id);
            }
        }

        return differing;
    }

    private static string Stem(Node node) =>
        node.Kind switch
        {
            NodeKind.Field => node.Word("field") is { Length: > 0 } key ? key : "field",
            // What shows a slot has the slot's own name.
            NodeKind.Slot => Short("slot-" + node.Word("slot")),
            NodeKind.Column or NodeKind.Variant or NodeKind.Piece or NodeKind.Related => node.Word(Grammar.Of(node.Kind).Name)
                is { Length: > 0 } named
                ? named
                : Grammar.Of(node.Kind).Name,
            NodeKind.Action or NodeKind.Link => Slug(node.Text("label")?.ToString()) ?? Grammar.Of(node.Kind).Name,
            NodeKind.Change => Short(
                node.Word("op") switch
                {
                    "insert" => node.Children.IsEmpty ? "insert" : "insert-" + Stem(node.Children[0]),
                    "set" => $"{node.Word("target")}-{node.Word("property")}",
                    var op => $"{op}-{node.Word("target")}",
                }
            ),
            NodeKind.Page or NodeKind.Section => Slug(node.Text("title")?.ToString()) ?? Grammar.Of(node.Kind).Name,
            NodeKind.Heading => Slug(node.Text("heading")?.ToString()) ?? "heading",
            NodeKind.Row or NodeKind.Cell => node.Children.IsEmpty ? Grammar.Of(node.Kind).Name
            : FirstItem(node) is { } item ? Stem(item) + (node.Kind is NodeKind.Row ? "Row" : "Cell")
            : Grammar.Of(node.Kind).Name,
            _ => Grammar.Of(node.Kind).Name,
        };

    /// <summary>A stem of parts, no longer than leaves room for a number.</summary>
    internal static string Short(string stem)
    {
        var plain = stem.Replace('/', '-');
        return plain.Length <= Limits.IdLength - 6 ? plain : plain[..(Limits.IdLength - 6)];
    }

    private static Node? FirstItem(Node node) => node.Walk().FirstOrDefault(each => Grammar.IsItem(each.Kind));

    /// <summary>"Hull &amp; engine" becomes hullEngine; null when no letter is left to begin with.</summary>
    private static string? Slug(string? title)
    {
        if (title is null)
        {
            return null;
        }

        var slug = new StringBuilder();
        var capital = false;
        foreach (var c in title)
        {
            if (!char.IsAsciiLetterOrDigit(c))
            {
                capital = slug.Length > 0;
            }
            else if (slug.Length > 0 || char.IsAsciiLetter(c))
            {
                slug.Append(
                    slug.Length == 0 ? char.ToLowerInvariant(c)
                    : capital ? char.ToUpperInvariant(c)
                    : c
                );
                capital = false;
            }

            if (slug.Length >= 40)
            {
                break;
            }
        }

        return slug.Length == 0 ? null : slug.ToString();
    }
}
