using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// The document that arranges an entity's fields: a tree of nodes with an index from each id to its parent, kept beside the tree so that
/// a node is found by climbing and descending one path, never by searching the whole. The tree of one among thousands is read when it is
/// asked for, and may be let go of after that.
/// </summary>
public sealed class Layout : IEquatable<Layout>
{
    /// <summary>The index as it is made at first: quick to make and to ask, and kept for every comparison to come.</summary>
    private Dictionary<NodeId, NodePosition>? made;

    /// <summary>The index of a layout that differs in properties only: its parents are this one's too, its nodes are not.</summary>
    private readonly Dictionary<NodeId, NodePosition>? alike;

    /// <summary>
    /// The index in the form that edits share with the layouts they make; made of another at the first edit that inserts, moves or removes.
    /// </summary>
    private ImmutableDictionary<NodeId, NodeId>? shared;

    /// <summary>The tree; null where it is read when it is asked for.</summary>
    private readonly Node? root;

    private readonly LayoutSource? source;

    /// <summary>What was read of the source, for as long as somebody else holds it.</summary>
    private readonly WeakReference<Layout>? read;

    private LayoutHead? head;

    private Layout(LayoutHead head, LayoutSource source, Layout? whole)
    {
        this.head = head;
        this.source = source;
        read = new WeakReference<Layout>(whole!);
    }

    private Layout(
        Node root,
        Dictionary<NodeId, NodePosition>? made,
        Dictionary<NodeId, NodePosition>? alike,
        ImmutableDictionary<NodeId, NodeId>? shared
    )
    {
        this.root = root;
        this.made = made;
        this.alike = alike;
        this.shared = shared;
    }

    private Dictionary<NodeId, NodePosition>? Parents => made ?? alike;

    private ImmutableDictionary<NodeId, NodeId> Shared =>
        shared ??= Parents!
            .Where(pair => pair.Value.Parent is not null)
            .ToImmutableDictionary(pair => pair.Key, pair => pair.Value.Parent!.Value);

    /// <summary>Where every node stands, the root included.</summary>
    internal Dictionary<NodeId, NodePosition> Standings => Whole.Made;

    private Dictionary<NodeId, NodePosition> Made => made ??= Index(Root, Count);

    /// <summary>This layout, or what its source says it is.</summary>
    private Layout Whole
    {
        get
        {
            if (root is not null)
            {
                return this;
            }

            if (!read!.TryGetTarget(out var whole))
            {
                whole = source!.Read();
                read.SetTarget(whole);
            }

            return whole;
        }
    }

    public Node Root => root ?? Whole.Root;

    /// <summary>What is asked of it among thousands.</summary>
    public LayoutHead Head => head ??= LayoutHead.Of(this);

    /// <summary>full, short, card, list, print or piece.</summary>
    public string Kind => head?.Kind ?? Root.Word("kind") ?? "full";

    public string Key => head?.Key ?? Root.Word("key") ?? "";

    public string Entity => head?.Entity ?? Root.Word("entity") ?? "";

    /// <summary>The layout it is derived from, by key.</summary>
    public string? Extends => head is not null ? head.Extends : Root.Word("extends");

    /// <summary>Whether it is put away: nobody gets it, and nothing may name it.</summary>
    public bool IsArchived => head?.IsArchived ?? Root.Flag("archived");

    public Texts? Title => head is not null ? head.Title : Root.Text("title");

    /// <summary>Whether it is kept as its text.</summary>
    internal bool IsKept => source is not null;

    /// <summary>Whether it may hold this word: never false where it does.</summary>
    public bool MayName(string word) => source?.Has(word) ?? true;

    public IEnumerable<Node> Variants => Root.Children.Where(child => child.Kind is NodeKind.Variant);

    public Node? Body => Root.Children.FirstOrDefault(child => child.Kind is NodeKind.Body);

    public int Count => root is null ? Whole.Count : Parents?.Count ?? (shared!.Count + 1);

    /// <summary>A layout over a tree whose ids are unique.</summary>
    /// <exception cref="ArgumentException">Two nodes share an id.</exception>
    public static Layout Of(Node root) => Of(root, 0);

    /// <summary>A layout whose tree is read when it is asked for.</summary>
    /// <param name="whole">What would be read, where it is at hand: it is not held.</param>
    public static Layout Of(LayoutHead head, LayoutSource source, Layout? whole = null) => new(head, source, whole);

    /// <param name="count">How many nodes it has; 0 where that is not known.</param>
    internal static Layout Of(Node root, int count) => new(root, Index(root, count), null, null);

    private static Dictionary<NodeId, NodePosition> Index(Node root, int capacity)
    {
        var index = new Dictionary<NodeId, NodePosition>(capacity) { [root.Id] = new(root, null, 0) };
        Below(root);
        return index;

        void Below(Node node)
        {
            for (var i = 0; i < node.Children.Length; i++)
            {
                var child = node.Children[i];
                if (!index.TryAdd(child.Id, new NodePosition(child, node.Id, i)))
                {
                    throw new ArgumentException($"Two nodes have the id '{child.Id}'.", nameof(root));
                }

                Below(child);
            }
        }
    }

    public bool Contains(NodeId id) =>
        root is null ? Whole.Contains(id) : Parents?.ContainsKey(id) ?? (id == root.Id || shared!.ContainsKey(id));

    public NodeId? ParentOf(NodeId id) =>
        root is null ? Whole.ParentOf(id)
        : Parents is { } parents ? parents.GetValueOrDefault(id).Parent
        : shared!.TryGetValue(id, out var parent) ? parent
        : null;

    public Node? Find(NodeId id)
    {
        if (root is null)
        {
            return Whole.Find(id);
        }

        if (made is not null)
        {
            return made.GetValueOrDefault(id).Node;
        }

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

    /// <summary>
    /// The layout with one node replaced by what <paramref name="change"/> makes of it; only the path to it is copied. The node keeps its
    /// id.
    /// </summary>
    internal Layout Replace(NodeId id, Func<Node, Node> change, IEnumerable<Node>? added = null, IEnumerable<Node>? removed = null)
    {
        if (root is null)
        {
            return Whole.Replace(id, change, added, removed);
        }

        var path = PathTo(id).ToArray();
        if (added is null && removed is null)
        {
            return new Layout(Along(Root, path, 0, change), null, Parents, shared);
        }

        var index = Shared;
        foreach (var node in removed ?? [])
        {
            index = index.RemoveRange(node.Walk().Select(each => each.Id));
        }

        foreach (var node in added ?? [])
        {
            index = index.SetItem(node.Id, id);
            index = index.SetItems(node.Walk().SelectMany(each => each.Children.Select(child => KeyValuePair.Create(child.Id, each.Id))));
        }

        return new Layout(Along(Root, path, 0, change), null, null, index);
    }

    /// <summary>The layout with a node re-hung without touching the index of what lies below it.</summary>
    internal Layout Rehang(Node node, NodeId from, NodeId to, int place)
    {
        if (root is null)
        {
            return Whole.Rehang(node, from, to, place);
        }

        var without = Along(Root, PathTo(from).ToArray(), 0, parent =>
            parent with
            {
                Children = parent.Children.RemoveAt(IndexIn(parent, node.Id)),
            }
        );
        var index = Shared.SetItem(node.Id, to);
        var step = new Layout(without, null, null, index);
        return new Layout(
            Along(without, step.PathTo(to).ToArray(), 0, parent => parent with { Children = parent.Children.Insert(place, node) }),
            null,
            null,
            index
        );
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
        for (var at = id; at != Root.Id; at = ParentOf(at)!.Value)
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

    /// <summary>Where a node stands: the node, its parent, and its place among the children there.</summary>
    internal readonly record struct NodePosition(Node Node, NodeId? Parent, int Index);

    public bool Equals(Layout? other) => ReferenceEquals(this, other) || (other is not null && Root.Equals(other.Root));

    public override bool Equals(object? obj) => Equals(obj as Layout);

    public override int GetHashCode() => Root.GetHashCode();
}
