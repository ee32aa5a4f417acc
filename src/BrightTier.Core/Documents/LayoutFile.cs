using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>
/// Layouts to and from files, driven by the <see cref="Grammar"/>. A row may be a list of its cells; a cell of one field may be
/// <c>name</c>, <c>name/8</c> with its span, or the item itself with <c>span</c> among its properties.
/// </summary>
public static partial class LayoutFile
{
    /// <summary>Reads a layout of any kind, and where each of its nodes stood.</summary>
    internal static (Layout Layout, IReadOnlyDictionary<NodeId, Place> Places, IReadOnlySet<NodeId> Derived)? Read(
        DocumentReader reading,
        FileNode.Map map
    )
    {
        var places = new Dictionary<Node, Place>(ReferenceEqualityComparer.Instance);
        var root = ReadRoot(reading, map, places);
        var clash = root.Walk()
            .Where(node => node.Id.Name is { Length: > 0 })
            .GroupBy(node => node.Id)
            .FirstOrDefault(group => group.Count() > 1);
        if (clash is not null)
        {
            reading.Problem(places.GetValueOrDefault(clash.Last()), $"the id '{clash.Key}' is given twice; ids are unique in a layout");
        }

        var count = root.Walk().Count();
        if (count > Limits.Nodes)
        {
            reading.Problem(map.At, $"a layout has at most {Limits.Nodes} nodes; this one has {count}");
        }

        if (reading.Problems.Count > 0)
        {
            return null;
        }

        var filled = DerivedIds.Fill(root with { Id = new NodeId("layout") }, []);
        var (byId, derived) = (new Dictionary<NodeId, Place>(count), new HashSet<NodeId>(count));
        foreach (var (read, node) in root.Walk().Zip(filled.Walk()))
        {
            byId.Add(node.Id, places.TryGetValue(read, out var at) ? at : map.At);
            if (read.Id.Name is not { Length: > 0 })
            {
                derived.Add(node.Id);
            }
        }

        return (Layout.Of(filled, count), byId, derived);
    }

    private static Node ReadRoot(DocumentReader reading, FileNode.Map map, Dictionary<Node, Place> places)
    {
        var kind = (map["kind"] as FileNode.Scalar)?.Content ?? "";
        var rule = Grammar.Root(kind)!;
        var root = ReadNode(reading, map, rule, places, 0);
        if (
            rule.HolderOf(NodeKind.Body) is not null
            && root["extends"] is null
            && root.Children.All(child => child.Kind is not NodeKind.Body)
        )
        {
            reading.Problem(map.At, $"a layout needs 'body'");
        }

        return root;
    }

    private static Node ReadNode(DocumentReader reading, FileNode.Map map, NodeRule rule, Dictionary<Node, Place> places, int depth)
    {
        if (depth > Limits.Depth)
        {
            reading.Problem(map.At, $"a layout nests at most {Limits.Depth} levels of nodes");
            return new Node(default, rule.Kind, Node.NoProperties, []);
        }

        var properties = Node.NoProperties;
        var children = ImmutableArray.CreateBuilder<Node>();
        var id = ReadId(reading, map, rule.Kind);
        foreach (var entry in map.Entries)
        {
            if (entry.Key == Grammar.Id || (entry.Key == "$schema" && rule.Kind is NodeKind.Layout))
            {
                continue;
            }

            if (rule.Holds.FirstOrDefault(holds => holds.Word == entry.Key && rule.Find(entry.Key) is null) is { } child)
            {
                ReadChildren(reading, entry, child, children, places, depth + 1);
            }
            else if (rule.Find(entry.Key) is { } property)
            {
                if (ReadValue(reading, property, entry.Value) is { } value && value != property.Default)
                {
                    properties = properties.SetItem(property.Name, value);
                }
            }
            else
            {
                string[] words = [.. rule.Properties.Select(each => each.Name), .. rule.Holds.Select(each => each.Word), Grammar.Id];
                reading.Problem(entry.KeyAt, $"a {NameOf(rule)} has no '{entry.Key}'{Suggestion.For(entry.Key, words)}");
            }
        }

        foreach (var absent in rule.Properties.Where(property => property.Required && map[property.Name] is null))
        {
            reading.Problem(map.At, $"a {NameOf(rule)} needs '{absent.Name}'");
        }

        if (rule.Kind is NodeKind.Layout)
        {
            // The parts of a layout have one order, in whichever a file has them; within a kind the file's order stays.
            var ordered = children.OrderBy(child => child.Kind).ToImmutableArray();
            children = ordered.ToBuilder();
        }

        var node = new Node(id, rule.Kind, properties, children.ToImmutable());
        places[node] = map.At;
        return node;
    }

    private static string NameOf(NodeRule rule) =>
        rule.Kind is NodeKind.Layout && rule.Root is not (null or "full") ? $"{rule.Root} layout" : rule.Name;

    private static NodeId ReadId(DocumentReader reading, FileNode.Map map, NodeKind kind)
    {
        if (map[Grammar.Id] is not { } node || kind is NodeKind.Layout || reading.Word(node, "'id'") is not { } name)
        {
            return default;
        }

        if (kind is NodeKind.Body && name != "body")
        {
            reading.Problem(node.At, $"the id of the body is 'body'; leave it out");
        }
        else if (!NodeId.IsWellFormed(name))
        {
            reading.Problem(
                node.At,
                $"an id must begin with a letter and have only letters, digits, '-' and '_', at most {Limits.IdLength}; it is '{name}'"
            );
        }

        return new NodeId(name);
    }

    private static void ReadChildren(
        DocumentReader reading,
        FileNode.Entry entry,
        ChildRule child,
        ImmutableArray<Node>.Builder into,
        Dictionary<Node, Place> places,
        int depth
    )
    {
        switch (child.Shape)
        {
            case ChildShape.One:
                if (reading.Map(entry.Value, $"'{entry.Key}'") is { } part)
                {
                    into.Add(ReadNode(reading, part, Grammar.Of(child.Kinds[0]), places, depth));
                }

                break;
            case ChildShape.Named:
                foreach (var named in (reading.Map(entry.Value, $"'{entry.Key}'"))?.Entries ?? [])
                {
                    into.Add(ReadVariant(reading, named, places, depth));
                }

                break;
            default:
                foreach (var element in reading.List(entry.Value, $"'{entry.Key}'", Limits.Nodes))
                {
                    ReadChild(reading, element, child.Kinds, into, places, depth);
                }

                break;
        }
    }

    private static void ReadChild(
        DocumentReader reading,
        FileNode node,
        ImmutableArray<NodeKind> kinds,
        ImmutableArray<Node>.Builder into,
        Dictionary<Node, Place> places,
        int depth
    )
    {
        switch (kinds[0])
        {
            case NodeKind.Row when node is FileNode.List or FileNode.Scalar:
                var cells = ImmutableArray.CreateBuilder<Node>();
                foreach (var cell in node is FileNode.List list ? list.Elements : [node])
                {
                    ReadChild(reading, cell, [NodeKind.Cell], cells, places, depth + 1);
                }

                var row = new Node(default, NodeKind.Row, Node.NoProperties, cells.ToImmutable());
                places[row] = node.At;
                into.Add(row);
                break;
            case NodeKind.Cell
                when node is not FileNode.Map { } map
                    || (map["items"] is null && map.Entries.Any(entry => Grammar.WithMain(entry.Key) is not null)):
                into.Add(ReadShortCell(reading, node, places, depth));
                break;
            case NodeKind.Column when node is FileNode.Scalar { IsNull: false }:
                if (ReadValue(reading, Grammar.Of(NodeKind.Column).Find("column")!, node) is { } key)
                {
                    var column = new Node(default, NodeKind.Column, Node.NoProperties.Add("column", key), []);
                    places[column] = node.At;
                    into.Add(column);
                }

                break;
            case NodeKind.Change:
                into.AddRange(ReadChanges(reading, node, places, depth));
                break;
            case var kind when Grammar.IsItem(kind):
                if (ReadItem(reading, node, places, depth) is { } item)
                {
                    into.Add(kinds.Contains(item.Kind) ? item : Misplaced(reading, node, item, kinds));
                }

                break;
            case var kind:
                if (reading.Map(node, $"a {Grammar.Of(kind).Name}") is { } whole)
                {
                    into.Add(ReadNode(reading, whole, Grammar.Of(kind), places, depth));
                }

                break;
        }
    }

    private static Node Misplaced(DocumentReader reading, FileNode at, Node item, ImmutableArray<NodeKind> kinds)
    {
        reading.Problem(
            at.At,
            $"a {Grammar.Of(item.Kind).Name} cannot stand here; {string.Join(", ", kinds.Select(kind => Grammar.Of(kind).Name))} can"
        );
        return item;
    }

    private static Node ReadShortCell(DocumentReader reading, FileNode node, Dictionary<Node, Place> places, int depth)
    {
        var properties = Node.NoProperties;
        var given = new List<(string Name, FileNode Value)>();
        if (node is FileNode.Scalar scalar && scalar.Content.Split('/') is [var key, var units])
        {
            given.Add(("span", new FileNode.Scalar(units, false, scalar.At)));
            node = scalar with { Content = key };
        }
        else if (node is FileNode.Map map)
        {
            given.AddRange(map.Entries.Where(entry => IsOfCell(entry.Key)).Select(entry => (entry.Key, entry.Value)));
            node = given.Count == 0 ? map : map with { Entries = [.. map.Entries.Where(entry => !IsOfCell(entry.Key))] };
        }

        foreach (var (name, value) in given)
        {
            var rule = Grammar.Of(NodeKind.Cell).Find(name)!;
            if (ReadValue(reading, rule, value) is { } read && read != rule.Default)
            {
                properties = properties.SetItem(name, read);
            }
        }

        var item = ReadItem(reading, node, places, depth + 1);
        var cell = new Node(default, NodeKind.Cell, properties, item is null ? [] : [item]);
        places[cell] = node.At;
        return cell;
    }

    /// <summary>Placement belongs to the cell; written on the item that stands alone in it, it means the cell.</summary>
    private static bool IsOfCell(string property) => property is "span" or "align";

    private static Node? ReadItem(DocumentReader reading, FileNode node, Dictionary<Node, Place> places, int depth)
    {
        if (node is FileNode.Scalar scalar && !scalar.IsNull)
        {
            var rule = Grammar.Of(NodeKind.Field).Find("field")!;
            if (ReadValue(reading, rule, node) is not { } key)
            {
                return null;
            }

            var field = new Node(default, NodeKind.Field, Node.NoProperties.Add("field", key), []);
            places[field] = node.At;
            return field;
        }

        if (reading.Map(node, $"an item") is not { } map)
        {
            return null;
        }

        // The kind whose main property is written first decides.
        if (map.Entries.Select(entry => Grammar.WithMain(entry.Key)).FirstOrDefault(rule => rule is not null) is { } kind)
        {
            return ReadNode(reading, map, kind, places, depth);
        }

        reading.Problem(
            map.At,
            $"an item needs one of {string.Join(", ", Grammar.Rules.Where(rule => Grammar.IsItem(rule.Kind)).Select(rule => rule.Main))}"
        );
        return null;
    }

    /// <summary>Reads one property's value as its rule says; null, with a problem noted, when it is not one.</summary>
    internal static Value? ReadValue(DocumentReader reading, PropertyRule rule, FileNode node)
    {
        Value? value = (rule.Type, node) switch
        {
            (PropertyType.Text, _) => reading.Texts(node, $"'{rule.Name}'") is { } texts ? new Value.Text(texts) : null,
            (PropertyType.Number, _) => reading.Whole(node, $"'{rule.Name}'") is { } number ? new Value.Number(number) : null,
            (PropertyType.Decimal, _) => reading.Number(node, $"'{rule.Name}'") is { } number ? new Value.Number(number) : null,
            (PropertyType.Words or PropertyType.Samples, _) => new Value.Words(reading.Words(node, $"'{rule.Name}'")),
            (PropertyType.Pairs, _) => reading.Map(node, $"'{rule.Name}'") is { } map
                ? Value.Pairs.Of(
                    map.Entries.Select(entry => KeyValuePair.Create(entry.Key, reading.Word(entry.Value, $"'{entry.Key}'") ?? ""))
                )
                : null,
            (PropertyType.Flag, _) => reading.FlagOrNull(node, $"'{rule.Name}'") is { } flag ? new Value.Flag(flag) : null,
            (PropertyType.FlagOrCondition, FileNode.Scalar { Quoted: false, Content: "true" or "false" } flag) => new Value.Flag(
                flag.Content == "true"
            ),
            _ => reading.Word(node, $"'{rule.Name}'") is { } word ? new Value.Word(word) : null,
        };
        if (value is not null && Grammar.Problem(rule, value) is { } problem)
        {
            reading.Problem(node.At, $"'{rule.Name}' {problem}");
            return null;
        }

        return value;
    }
}
