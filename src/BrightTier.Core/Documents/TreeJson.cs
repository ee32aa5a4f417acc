using System.Collections.Immutable;
using System.Text.Json;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>
/// Nodes and edits on the wire and in the history of a draft: <c>{"id", "kind", "properties", "children"}</c> and
/// <c>{"op": "insert" | "remove" | "move" | "set", …}</c>, where a place is one of <c>"first"</c>, <c>"last"</c>, <c>{"before": id}</c>,
/// <c>{"after": id}</c>.
/// </summary>
public static class TreeJson
{
    public static void Write(Utf8JsonWriter writer, Node node)
    {
        writer.WriteStartObject();
        if (node.Id.Name is { Length: > 0 } id)
        {
            writer.WriteString("id", id);
        }

        writer.WriteString("kind", Grammar.Of(node.Kind).Name);
        writer.WriteStartObject("properties");
        foreach (var (name, value) in node.Properties)
        {
            writer.WritePropertyName(name);
            JsonText.Write(writer, LayoutFile.WriteValue(value)!);
        }

        writer.WriteEndObject();
        writer.WriteStartArray("children");
        foreach (var child in node.Children)
        {
            Write(writer, child);
        }

        writer.WriteEndArray();
        writer.WriteEndObject();
    }

    public static void Write(Utf8JsonWriter writer, IEnumerable<Edit> edits)
    {
        writer.WriteStartArray();
        foreach (var edit in edits)
        {
            writer.WriteStartObject();
            switch (edit)
            {
                case Edit.Insert insert:
                    writer.WriteString("op", "insert");
                    writer.WritePropertyName("node");
                    Write(writer, insert.Node);
                    Write(writer, insert.Parent, insert.At);
                    break;
                case Edit.Remove remove:
                    writer.WriteString("op", "remove");
                    writer.WriteString("node", remove.Node.Name);
                    break;
                case Edit.Move move:
                    writer.WriteString("op", "move");
                    writer.WriteString("node", move.Node.Name);
                    Write(writer, move.Parent, move.At);
                    break;
                case Edit.Set set:
                    writer.WriteString("op", "set");
                    writer.WriteString("node", set.Node.Name);
                    writer.WriteString("property", set.Property);
                    writer.WritePropertyName("value");
                    JsonText.Write(writer, LayoutFile.WriteValue(set.Value) ?? FileNode.Bare("null"));
                    break;
            }

            writer.WriteEndObject();
        }

        writer.WriteEndArray();
    }

    private static void Write(Utf8JsonWriter writer, NodeId parent, Anchor at)
    {
        writer.WriteString("parent", parent.Name);
        switch (at)
        {
            case Anchor.First:
                writer.WriteString("at", "first");
                break;
            case Anchor.Last:
                writer.WriteString("at", "last");
                break;
            case Anchor.Before { Sibling: var sibling }:
                writer.WriteStartObject("at");
                writer.WriteString("before", sibling.Name);
                writer.WriteEndObject();
                break;
            case Anchor.After { Sibling: var sibling }:
                writer.WriteStartObject("at");
                writer.WriteString("after", sibling.Name);
                writer.WriteEndObject();
                break;
        }
    }

    /// <summary>
    /// Reads a list of edits. A value's sort depends on the property, and so on the node: <paramref name="find"/> finds those the edits do
    /// not insert.
    /// </summary>
    public static (IReadOnlyList<Edit> Edits, IReadOnlyList<FileProblem> Problems) ReadEdits(
        JsonElement json,
        Func<NodeId, Node?> find,
        string pointer = ""
    )
    {
        var reading = new DocumentReader();
        var inserted = new Dictionary<NodeId, Node>();
        var edits = new List<Edit>();
        foreach (var node in reading.List(FileNode.FromJson(json, new Place(0, 0, pointer)), "edits", Limits.Nodes))
        {
            if (
                reading.Map(node, $"an edit") is { } map
                && ReadEdit(reading, map, id => inserted.GetValueOrDefault(id) ?? find(id)) is { } edit
            )
            {
                edits.Add(edit);
                foreach (var each in (edit as Edit.Insert)?.Node.Walk() ?? [])
                {
                    inserted[each.Id.Name is null ? new NodeId("") : each.Id] = each;
                }
            }
        }

        return (edits, reading.Problems);
    }

    private static Edit? ReadEdit(DocumentReader reading, FileNode.Map map, Func<NodeId, Node?> find)
    {
        var op = reading.Required(map, "op", $"an edit");
        switch (op)
        {
            case "insert":
                reading.Only(map, $"an insert", "op", "node", "parent", "at");
                return map["node"] is { } node
                    ? ReadNode(reading, node, 0) is { } inserted
                        ? new Edit.Insert(inserted, Id(reading, map, "parent"), ReadAnchor(reading, map))
                        : null
                    : Lacking(reading, map, $"an insert needs 'node'");
            case "remove":
                reading.Only(map, $"a remove", "op", "node");
                return new Edit.Remove(Id(reading, map, "node"));
            case "move":
                reading.Only(map, $"a move", "op", "node", "parent", "at");
                return new Edit.Move(Id(reading, map, "node"), Id(reading, map, "parent"), ReadAnchor(reading, map));
            case "set":
                reading.Only(map, $"a set", "op", "node", "property", "value");
                var id = Id(reading, map, "node");
                var name = reading.Required(map, "property", $"a set");
                if (name.Length == 0)
                {
                    return null;
                }

                if (map["value"] is not { IsNull: false } given)
                {
                    return new Edit.Set(id, name, null);
                }

                if (find(id) is not { } named)
                {
                    // The layout refuses it with a better message than could be given here.
                    return new Edit.Set(id, name, new Value.Word(""));
                }

                if (RuleOf(Grammar.Of(named), name, named.Word("property")) is not { } rule)
                {
                    reading.Problem(
                        map.PlaceOf("property"),
                        $"a {Grammar.Of(named).Noun} has no property "
                            + $"'{name}'{Suggestion.For(name, [.. Grammar.Of(named).Properties.Select(each => each.Name)])}"
                    );
                    return null;
                }

                return LayoutFile.ReadValue(reading, rule, given) is { } value ? new Edit.Set(id, name, value) : null;
            default:
                return op.Length == 0
                    ? null
                    : Lacking(reading, map, $"there is no edit '{op}'{Suggestion.For(op, ["insert", "remove", "move", "set"])}");
        }
    }

    /// <summary>The rule of a property; a change's value is what the property named beside it takes.</summary>
    private static PropertyRule? RuleOf(NodeRule node, string name, string? property) =>
        node.Find(name) is not { } rule ? null
        : rule.Type is PropertyType.Any
            ? (property is null ? null : Grammar.Property(property)) is { } named ? named with { Name = name, Default = null }
                : null
        : rule;

    private static Edit? Lacking(DocumentReader reading, FileNode.Map map, Message message)
    {
        reading.Problem(map.At, message);
        return null;
    }

    private static NodeId Id(DocumentReader reading, FileNode.Map map, string key) => new(reading.Required(map, key, $"an edit"));

    private static Anchor ReadAnchor(DocumentReader reading, FileNode.Map map)
    {
        switch (map["at"])
        {
            case null or FileNode.Scalar { Content: "last" }:
                return new Anchor.Last();
            case FileNode.Scalar { Content: "first" }:
                return new Anchor.First();
            case FileNode.Map { Entries: [{ Key: "before", Value: FileNode.Scalar sibling }] }:
                return new Anchor.Before(new NodeId(sibling.Content));
            case FileNode.Map { Entries: [{ Key: "after", Value: FileNode.Scalar sibling }] }:
                return new Anchor.After(new NodeId(sibling.Content));
            case var other:
                reading.Problem(other.At, $"'at' must be \"first\", \"last\", {{\"before\": id}} or {{\"after\": id}}");
                return new Anchor.Last();
        }
    }

    private static Node? ReadNode(DocumentReader reading, FileNode node, int depth)
    {
        if (reading.Map(node, $"a node") is not { } map || depth > Limits.Depth)
        {
            return null;
        }

        reading.Only(map, $"a node", "id", "kind", "properties", "children");
        var name = reading.Required(map, "kind", $"a node");
        if (Grammar.Named(name) is not { } rule)
        {
            if (name.Length > 0)
            {
                reading.Problem(
                    map.PlaceOf("kind"),
                    $"there is no node of kind '{name}'{Suggestion.For(name, [.. Grammar.Rules.Select(each => each.Name)])}"
                );
            }

            return null;
        }

        var properties = Node.NoProperties;
        foreach (var entry in (map["properties"] is { } given ? reading.Map(given, $"'properties'") : null)?.Entries ?? [])
        {
            if (
                RuleOf(rule, entry.Key, (((map["properties"] as FileNode.Map)?["property"]) as FileNode.Scalar)?.Content)
                is not { } property
            )
            {
                reading.Problem(
                    entry.KeyAt,
                    $"a {rule.Noun} has no property "
                        + $"'{entry.Key}'{Suggestion.For(entry.Key, [.. rule.Properties.Select(each => each.Name)])}"
                );
            }
            else if (LayoutFile.ReadValue(reading, property, entry.Value) is { } value && value != property.Default)
            {
                properties = properties.SetItem(entry.Key, value);
            }
        }

        var children = reading
            .List(map["children"], "'children'", Limits.Nodes)
            .Select(child => ReadNode(reading, child, depth + 1))
            .OfType<Node>()
            .ToImmutableArray();
        return new Node(map["id"] is null ? default : new NodeId(reading.Word(map["id"], "'id'") ?? ""), rule.Kind, properties, children);
    }
}
