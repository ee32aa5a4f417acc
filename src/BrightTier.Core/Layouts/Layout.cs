using System.Collections.Immutable;

namespace BrightTier.Core.Layouts;

/// <summary>
/// The document that arranges an entity's fields: a tree of nodes with an index from each id to its parent, kept beside the tree so that
/// a node is found by climbing and descending one path, never by searching the whole.
/// </summary>
public sealed class Layout : IEquatable<Layout>
{
    private readonly ImmutableDictionary<NodeId, NodeId> parents;

    private Layout(Node root, ImmutableDictionary<NodeId, NodeId> parents)
    {
        Root = root;
        this.parents = parents;
    }

    public Node Root { get; }

    /// <summary>full, short, card, list, print or piece.</summary>
    public string Kind => Root.Word("kind") ?? "full";

    public string Key => Root.Word("key") ?? "";

    public string Entity => Root.Word("entity") ?? "";

    /// <summary>The layout it is derived from, by key.</summary>
    public string? Extends => Root.Word("extends");

    public IEnumerable<Node> Variants => Root.Children.Where(child => child.Kind is NodeKind.Variant);

    public Node? Body => Root.Children.FirstOrDefault(child => child.Kind is NodeKind.Body);

    public int Count => parents.Count + 1;

    /// <summary>A layout over a tree whose ids are unique.</summary>
    /// <exception cref="ArgumentException">Two nodes share an id.</exception>
    public static Layout Of(Node root)
    {
        var index = ImmutableDictionary.CreateBuilder<NodeId, NodeId>();
        foreach (var node in root.Walk())
        {
            foreach (var child in node.Children)
            {
                if (child.Id == root.Id || !index.TryAdd(child.Id, node.Id))
                {
                    throw new ArgumentException($"Two nodes have the id '{child.Id}'.", nameof(root));
                }
            }
        }

        return new Layout(root, index.ToImmutable());
    }

    public bool Contains(NodeId id) => id == Root.Id || parents.ContainsKey(id);

    public NodeId? ParentOf(NodeId id) => parents.TryGetValue(id, out var parent) ? parent : null;

    public Node? Find(NodeId id)
    {
        if (!Contains(id))
        {
            return null;
        }

        var node = Root;
        foreach (var step in PathTo(id))
        {
            node = node.Children[IndexIn(node, step)];
        }

        return node;
    }

    /// <summary>The node's ancestors, nearest first, the root last.</summary>
    public IEnumerable<Node> Ancestors(NodeId id)
    {
        for (var parent = ParentOf(id); parent is { } at; parent = ParentOf(at))
        {
            yield return Find(at)!;
        }
    }

    public IEnumerable<Node> Walk() => Root.Walk();

    /// <summary>The layout with one node replaced by what <paramref name="change"/> makes of it; only the path to it is copied. The node keeps its id.</summary>
    internal Layout Replace(NodeId id, Func<Node, Node> change, IEnumerable<Node>? added = null, IEnumerable<Node>? removed = null)
    {
        var path = PathTo(id).ToArray();
        var index = parents;
        foreach (var node in removed ?? [])
        {
            index = index.RemoveRange(node.Walk().Select(each => each.Id));
        }

        foreach (var node in added ?? [])
        {
            index = index.SetItem(node.Id, id);
            index = index.SetItems(node.Walk().SelectMany(each => each.Children.Select(child => KeyValuePair.Create(child.Id, each.Id))));
        }

        return new Layout(Along(Root, path, 0, change), index);
    }

    /// <summary>The layout with a node re-hung without touching the index of what lies below it.</summary>
    internal Layout Rehang(Node node, NodeId from, NodeId to, int place)
    {
        var without = Along(Root, PathTo(from).ToArray(), 0, parent => parent with { Children = parent.Children.RemoveAt(IndexIn(parent, node.Id)) });
        var index = parents.SetItem(node.Id, to);
        var step = new Layout(without, index);
        return new Layout(Along(without, step.PathTo(to).ToArray(), 0, parent => parent with { Children = parent.Children.Insert(place, node) }), index);
    }

    private static Node Along(Node node, NodeId[] path, int depth, Func<Node, Node> change)
    {
        if (depth == path.Length)
        {
            return change(node);
        }

        var at = IndexIn(node, path[depth]);
        return node with { Children = node.Children.SetItem(at, Along(node.Children[at], path, depth + 1, change)) };
    }

    private Stack<NodeId> PathTo(NodeId id)
    {
        var path = new Stack<NodeId>();
        for (var at = id; at != Root.Id; at = parents[at])
        {
            path.Push(at);
        }

        return path;
    }

    internal static int IndexIn(Node parent, NodeId child)
    {
        var children = parent.Children;
        for (var i = 0; i < children.Length; i++)
        {
            if (children[i].Id == child)
            {
                return i;
            }
        }

        throw new InvalidOperationException($"'{child}' is not under '{parent.Id}'.");
    }

    public bool Equals(Layout? other) => other is not null && Root.Equals(other.Root);

    public override bool Equals(object? obj) => Equals(obj as Layout);

    public override int GetHashCode() => Root.GetHashCode();
}
