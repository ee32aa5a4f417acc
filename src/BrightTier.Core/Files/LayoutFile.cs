using System.Collections.Immutable;
using System.Globalization;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Files;

/// <summary>
/// Layouts to and from files, driven by the <see cref="Grammar"/>. A row may be a list of its cells; a cell of one field may be
/// <c>name</c>, <c>name/8</c> with its span, or the item itself with <c>span</c> among its properties.
/// </summary>
public static class LayoutFile
{
    internal static Layout? Read(Reading reading, FileNode.Map map)
    {
        var places = new List<(Node Node, Place At)>();
        var root = ReadNode(reading, map, NodeKind.Layout, places);
        var clash = root.Walk().Where(node => node.Id.Name is { Length: > 0 }).GroupBy(node => node.Id).FirstOrDefault(group => group.Count() > 1);
        if (clash is not null)
        {
            var at = places.Where(pair => pair.Node.Id == clash.Key).Select(pair => pair.At).Last();
            reading.Problem(at, $"the id '{clash.Key}' is given twice; ids are unique in a layout");
        }

        var count = root.Walk().Count();
        if (count > Limits.Nodes)
        {
            reading.Problem(map.At, $"a layout has at most {Limits.Nodes} nodes; this one has {count}");
        }

        return reading.Problems.Count == 0 ? Layout.Of(DerivedIds.Fill(root with { Id = new NodeId("layout") }, [])) : null;
    }

    /// <summary>Where each node of a layout stands in the text it was read from, by id; for findings on files.</summary>
    public static IReadOnlyDictionary<NodeId, Place> Places(string text, Layout layout)
    {
        var (node, _) = YamlText.Read(text);
        var places = new List<(Node Node, Place At)>();
        if (node is not FileNode.Map map)
        {
            return ImmutableDictionary<NodeId, Place>.Empty;
        }

        ReadNode(new Reading(), map, NodeKind.Layout, places);
        return layout.Walk().Zip(places).ToDictionary(pair => pair.First.Id, pair => pair.Second.At);
    }

    private static Node ReadNode(Reading reading, FileNode.Map map, NodeKind kind, List<(Node Node, Place At)> places)
    {
        var rule = Grammar.Of(kind);
        var slot = places.Count;
        places.Add(default);
        var properties = Node.NoProperties.ToBuilder();
        var children = ImmutableArray.CreateBuilder<Node>();
        var id = ReadId(reading, map, kind);
        foreach (var entry in map.Entries)
        {
            if (entry.Key == Grammar.Id)
            {
                continue;
            }

            if (entry.Key == rule.ChildWord)
            {
                foreach (var child in reading.List(entry.Value, $"'{entry.Key}'"))
                {
                    ReadChild(reading, child, rule.Children, children, places);
                }
            }
            else if (kind is NodeKind.Layout && rule.Children.Any(child => Grammar.Of(child).Name == entry.Key))
            {
                if (reading.Map(entry.Value, $"'{entry.Key}'") is { } part)
                {
                    children.Add(ReadNode(reading, part, Grammar.Named(entry.Key)!.Kind, places));
                }
            }
            else if (rule.Find(entry.Key) is { } property)
            {
                if (ReadValue(reading, property, entry.Value) is { } value && value != property.Default)
                {
                    properties[property.Name] = value;
                }
            }
            else
            {
                string[] words = [.. rule.Properties.Select(each => each.Name), .. rule.ChildWord is { } word ? [word] : Array.Empty<string>(), Grammar.Id];
                reading.Problem(entry.KeyAt, $"a {rule.Name} has no '{entry.Key}'{Suggestion.For(entry.Key, words)}");
            }
        }

        foreach (var absent in rule.Properties.Where(property => property.Required && map[property.Name] is null))
        {
            reading.Problem(map.At, $"a {rule.Name} needs '{absent.Name}'");
        }

        if (kind is NodeKind.Layout && children.All(child => child.Kind is not NodeKind.Body))
        {
            reading.Problem(map.At, "a layout needs 'body'");
        }

        children.Sort((a, b) => kind is NodeKind.Layout ? a.Kind.CompareTo(b.Kind) : 0);
        var node = new Node(id, kind, properties.ToImmutable(), children.ToImmutable());
        places[slot] = (node, map.At);
        return node;
    }

    private static NodeId ReadId(Reading reading, FileNode.Map map, NodeKind kind)
    {
        if (map[Grammar.Id] is not { } node || kind is NodeKind.Layout || reading.Word(node, "'id'") is not { } name)
        {
            return default;
        }

        if (!NodeId.IsWellFormed(name))
        {
            reading.Problem(node.At, $"an id must begin with a letter and have only letters, digits, '-' and '_', at most {Limits.IdLength}; it is '{name}'");
        }

        return new NodeId(name);
    }

    private static void ReadChild(Reading reading, FileNode node, ImmutableArray<NodeKind> kinds, ImmutableArray<Node>.Builder into, List<(Node Node, Place At)> places)
    {
        switch (kinds[0])
        {
            case NodeKind.Row when node is FileNode.List or FileNode.Scalar:
                var slot = places.Count;
                places.Add(default);
                var cells = ImmutableArray.CreateBuilder<Node>();
                foreach (var cell in node is FileNode.List list ? list.Elements : [node])
                {
                    ReadChild(reading, cell, [NodeKind.Cell], cells, places);
                }

                var row = new Node(default, NodeKind.Row, Node.NoProperties, cells.ToImmutable());
                places[slot] = (row, node.At);
                into.Add(row);
                break;
            case NodeKind.Cell when node is not FileNode.Map { } map || (map["items"] is null && map.Entries.Any(entry => IsMain(entry.Key))):
                into.Add(ReadShortCell(reading, node, places));
                break;
            case var kind when Grammar.IsItem(kind):
                if (ReadItem(reading, node, places) is { } item)
                {
                    into.Add(item);
                }

                break;
            case var kind:
                if (reading.Map(node, $"a {Grammar.Of(kind).Name}") is { } whole)
                {
                    into.Add(ReadNode(reading, whole, kind, places));
                }

                break;
        }
    }

    private static bool IsMain(string key) => Grammar.Rules.Any(rule => rule.Main == key);

    private static Node ReadShortCell(Reading reading, FileNode node, List<(Node Node, Place At)> places)
    {
        var slot = places.Count;
        places.Add(default);
        var properties = Node.NoProperties;
        FileNode? span = null;
        if (node is FileNode.Scalar scalar && scalar.Content.Split('/') is [var key, var units])
        {
            span = new FileNode.Scalar(units, false, scalar.At);
            node = scalar with { Content = key };
        }
        else if (node is FileNode.Map map && map["span"] is { } given)
        {
            span = given;
            node = map with { Entries = [.. map.Entries.Where(entry => entry.Key != "span")] };
        }

        if (span is not null && ReadValue(reading, Grammar.Of(NodeKind.Cell).Find("span")!, span) is { } value)
        {
            properties = properties.Add("span", value);
        }

        var item = ReadItem(reading, node, places);
        var cell = new Node(default, NodeKind.Cell, properties, item is null ? [] : [item]);
        places[slot] = (cell, node.At);
        return cell;
    }

    private static Node? ReadItem(Reading reading, FileNode node, List<(Node Node, Place At)> places)
    {
        if (node is FileNode.Scalar scalar && !scalar.IsNull)
        {
            var rule = Grammar.Of(NodeKind.Field).Find("field")!;
            if (ReadValue(reading, rule, node) is not { } key)
            {
                return null;
            }

            var field = new Node(default, NodeKind.Field, Node.NoProperties.Add("field", key), []);
            places.Add((field, node.At));
            return field;
        }

        if (reading.Map(node, "an item") is not { } map)
        {
            return null;
        }

        // A field may have a property named like another kind's main one (none has today); the kind written first decides.
        if (map.Entries.Select(entry => Grammar.Rules.FirstOrDefault(rule => rule.Main == entry.Key)).FirstOrDefault(rule => rule is not null) is { } kind)
        {
            return ReadNode(reading, map, kind.Kind, places);
        }

        reading.Problem(map.At, $"an item needs one of {string.Join(", ", Grammar.Rules.Select(rule => rule.Main).OfType<string>())}");
        return null;
    }

    /// <summary>Reads one property's value as its rule says; null, with a problem noted, when it is not one.</summary>
    internal static Value? ReadValue(Reading reading, PropertyRule rule, FileNode node)
    {
        Value? value = (rule.Type, node) switch
        {
            (PropertyType.Text, _) => reading.Texts(node, $"'{rule.Name}'") is { } texts ? new Value.Text(texts) : null,
            (PropertyType.Number, _) => reading.Whole(node, $"'{rule.Name}'") is { } number ? new Value.Number(number) : null,
            (PropertyType.Flag, _) => reading.FlagOrNull(node, $"'{rule.Name}'") is { } flag ? new Value.Flag(flag) : null,
            (PropertyType.FlagOrCondition, FileNode.Scalar { Quoted: false, Content: "true" or "false" } flag) => new Value.Flag(flag.Content == "true"),
            _ => reading.Word(node, $"'{rule.Name}'") is { } word ? new Value.Word(word) : null,
        };
        if (value is not null && Grammar.Problem(rule, value) is { } problem)
        {
            reading.Problem(node.At, $"'{rule.Name}' {problem}");
            return null;
        }

        return value;
    }

    internal static FileNode? WriteValue(Value? value) => value switch
    {
        null => null,
        Value.Text text => Reading.Write(text.Texts),
        Value.Word word => FileNode.Word(word.Content),
        Value.Number number => FileNode.Bare(number.Amount.ToString(CultureInfo.InvariantCulture)),
        Value.Flag flag => FileNode.Bare(flag.On ? "true" : "false"),
        _ => throw new ArgumentOutOfRangeException(nameof(value)),
    };

    /// <summary>The canonical form: defaults left out, ids only where reading would not derive them, rows as short as they can be.</summary>
    public static FileNode Write(Layout layout) => WriteNode(layout.Root, DerivedIds.MustBeWritten(layout.Root).Remove(layout.Root.Id));

    private static FileNode WriteNode(Node node, ImmutableHashSet<NodeId> written)
    {
        if (node.Kind is NodeKind.Row && !written.Contains(node.Id) && node.Properties.IsEmpty)
        {
            var cells = node.Children.Select(cell => WriteNode(cell, written)).ToImmutableArray();
            return new FileNode.List(cells, default, Flow: cells.All(cell => cell is FileNode.Scalar));
        }

        if (node.Kind is NodeKind.Cell && !written.Contains(node.Id) && node.Children is [var only] && node["note"] is null)
        {
            var item = WriteNode(only, written);
            var span = WriteValue(node["span"]);
            return (item, span) switch
            {
                (_, null) => item,
                (FileNode.Scalar scalar, FileNode.Scalar units) => scalar with { Content = $"{scalar.Content}/{units.Content}" },
                (FileNode.Map map, _) => map with { Entries = map.Entries.Insert(1, new FileNode.Entry("span", default, span)) },
                _ => throw new InvalidOperationException(),
            };
        }

        var rule = Grammar.Of(node.Kind);
        if (node.Kind is NodeKind.Field && node.Properties.Count == 1 && !written.Contains(node.Id))
        {
            return FileNode.Word(node.Word("field")!);
        }

        var entries = rule.Properties.Select(property => (property.Name, WriteValue(node[property.Name]))).ToList();
        // The main property says which kind an item is and so comes first; an id follows it, or leads where there is none.
        entries.Insert(rule.Main is null ? 0 : 1, (Grammar.Id, written.Contains(node.Id) ? FileNode.Word(node.Id.Name) : null));
        if (node.Kind is NodeKind.Layout)
        {
            entries.AddRange(node.Children.Select(child => (Grammar.Of(child.Kind).Name, (FileNode?)WriteNode(child, written))));
        }
        else if (rule.ChildWord is { } word && (node.Children.Length > 0 || node.Kind is NodeKind.Cell))
        {
            entries.Add((word, new FileNode.List([.. node.Children.Select(child => WriteNode(child, written))], default)));
        }

        return FileNode.Of(entries);
    }
}
