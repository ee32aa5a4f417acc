using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>
/// Variants and changes in files: <c>set: {registration: {span: 12}}</c>, <c>move: x</c>, <c>insert: …</c>, <c>remove: x</c>, with the
/// place of a
/// move or insert beside them as <c>into</c> and one of <c>first: true</c>, <c>before: id</c>, <c>after: id</c>. One set of several
/// properties is a
/// change for each.
/// </summary>
public static partial class LayoutFile
{
    private static readonly string[] Operations = ["set", "move", "insert", "remove"];

    private static readonly NodeRule ChangeRule = Grammar.Of(NodeKind.Change);

    private static Node ReadVariant(DocumentReader reading, FileNode.Entry named, Dictionary<Node, Place> places, int depth)
    {
        var rule = Grammar.Of(NodeKind.Variant);
        var whole = named.Value is FileNode.List or FileNode.Scalar { IsNull: true }
            ? FileNode.Of(("changes", named.Value))
            : reading.Map(named.Value, $"the variant '{named.Key}'") ?? FileNode.Of();
        var node = ReadNode(
            reading,
            whole with
            {
                Entries = whole.Entries.Insert(
                    0,
                    new FileNode.Entry("variant", named.KeyAt, new FileNode.Scalar(named.Key, true, named.KeyAt))
                ),
                At = named.KeyAt,
            },
            rule,
            places,
            depth
        );
        return node;
    }

    private static FileNode WriteVariant(Node variant, ImmutableHashSet<NodeId> written)
    {
        var map = (FileNode.Map)WriteNode(variant, written);
        var rest = map.Entries.RemoveAll(entry => entry.Key == "variant");
        return rest is [{ Key: "changes" } only] ? only.Value
            : rest.IsEmpty ? new FileNode.List([], default)
            : new FileNode.Map(rest, default);
    }

    private static IEnumerable<Node> ReadChanges(DocumentReader reading, FileNode node, Dictionary<Node, Place> places, int depth)
    {
        if (reading.Map(node, $"a change") is not { } map)
        {
            yield break;
        }

        if (map.Entries.Select(entry => entry.Key).FirstOrDefault(Operations.Contains) is not { } op)
        {
            reading.Problem(map.At, $"a change needs one of {string.Join(", ", Operations)}");
            yield break;
        }

        reading.Only(
            map,
            op == "insert" ? (Message)$"a change that is an insert" : $"a change that is a {op}",
            op is "set" or "remove" ? [op, "id", "note"] : [op, "into", "first", "before", "after", "id", "note"]
        );
        var properties = Node.NoProperties.Add("op", new Value.Word(op));
        if (map["note"] is { } note && ReadValue(reading, ChangeRule.Find("note")!, note) is { } remark)
        {
            properties = properties.Add("note", remark);
        }

        foreach (
            var read in op == "set" ? ReadSets(reading, map[op]!, properties) : [ReadPlaced(reading, map, op, properties, places, depth)]
        )
        {
            if (read is { } change)
            {
                var identified = change with { Id = ReadId(reading, map, NodeKind.Change) };
                places[identified] = map.At;
                yield return identified;
            }
        }
    }

    private static IEnumerable<Node?> ReadSets(DocumentReader reading, FileNode sets, PropertyBag properties)
    {
        foreach (var target in reading.Map(sets, $"'set'")?.Entries ?? [])
        {
            if (ReadTarget(reading, new FileNode.Scalar(target.Key, true, target.KeyAt), "target") is not { } named)
            {
                continue;
            }

            foreach (var entry in reading.Map(target.Value, $"what is set on '{target.Key}'")?.Entries ?? [])
            {
                if (Grammar.Property(entry.Key) is not { } rule)
                {
                    reading.Problem(entry.KeyAt, $"no node has a property '{entry.Key}'");
                    continue;
                }

                var value = entry.Value.IsNull ? null : ReadValue(reading, rule, entry.Value);
                var all = properties.Add("target", named).Add("property", new Value.Word(entry.Key));
                yield return value is null && !entry.Value.IsNull
                    ? null
                    : new Node(default, NodeKind.Change, value is null ? all : all.Add("value", value), []);
            }
        }
    }

    private static Node? ReadPlaced(
        DocumentReader reading,
        FileNode.Map map,
        string op,
        PropertyBag properties,
        Dictionary<Node, Place> places,
        int depth
    )
    {
        ImmutableArray<Node> children = [];
        if (op == "insert")
        {
            if (ReadInserted(reading, map[op]!, places, depth) is not { } inserted)
            {
                return null;
            }

            children = [inserted];
        }
        else if (ReadTarget(reading, map[op]!, "target") is { } target)
        {
            properties = properties.Add("target", target);
        }

        if (op == "remove")
        {
            return new Node(default, NodeKind.Change, properties, children);
        }

        if (map["into"] is not { } into)
        {
            reading.Problem(map.At, $"needs 'into', the node it goes into");
        }
        else if (ReadTarget(reading, into, "parent") is { } parent)
        {
            properties = properties.Add("parent", parent);
        }

        if (map["first"] is { } first && reading.Flag(first, "'first'"))
        {
            properties = properties.Add("at", new Value.Word("first"));
        }

        foreach (var side in new[] { "before", "after" })
        {
            if (map[side] is { } sibling && ReadTarget(reading, sibling, "sibling") is { } named)
            {
                properties = properties.SetItem("at", new Value.Word(side)).SetItem("sibling", named);
            }
        }

        return new Node(default, NodeKind.Change, properties, children);
    }

    private static Value? ReadTarget(DocumentReader reading, FileNode node, string property) =>
        ReadValue(reading, ChangeRule.Find(property)!, node);

    /// <summary>An item as in a cell, or one of the containers under its own name: <c>section: {title: …}</c>.</summary>
    private static Node? ReadInserted(DocumentReader reading, FileNode node, Dictionary<Node, Place> places, int depth)
    {
        var containers = ChangeRule.Holds[0].Kinds.Where(kind => !Grammar.IsItem(kind) && kind is not NodeKind.Column).ToArray();
        if (
            node is FileNode.Map { Entries: [var only] }
            && containers.Cast<NodeKind?>().FirstOrDefault(kind => Grammar.Of(kind!.Value).Name == only.Key) is { } container
        )
        {
            var into = ImmutableArray.CreateBuilder<Node>();
            ReadChild(reading, only.Value, [container], into, places, depth + 1);
            return into.FirstOrDefault();
        }

        return ReadItem(reading, node, places, depth + 1);
    }

    private static IEnumerable<FileNode> WriteChanges(IReadOnlyList<Node> changes, ImmutableHashSet<NodeId> written)
    {
        for (var i = 0; i < changes.Count; i++)
        {
            var change = changes[i];
            if (change.Word("op") != "set")
            {
                yield return WritePlaced(change, written);
                continue;
            }

            // Sets on one node in a row are written as one, where none of them needs an id or a note of its own.
            var together = new List<Node> { change };
            while (
                IsPlain(change)
                && i + 1 < changes.Count
                && changes[i + 1].Word("op") == "set"
                && IsPlain(changes[i + 1])
                && changes[i + 1].Word("target") == change.Word("target")
                && together.All(each => each.Word("property") != changes[i + 1].Word("property"))
            )
            {
                together.Add(changes[++i]);
            }

            var sets = FileNode.Of(
                together.Select(each => (each.Word("property")!, (FileNode?)(WriteValue(each["value"]) ?? FileNode.Bare("null"))))
            ) with
            {
                Flow = true,
            };
            yield return FileNode.Of(
                ("set", FileNode.Of((change.Word("target")!, sets)) with { Flow = true }),
                (Grammar.Id, written.Contains(change.Id) ? FileNode.Word(change.Id.Name) : null),
                ("note", WriteValue(change["note"]))
            );

            bool IsPlain(Node each) => !written.Contains(each.Id) && each["note"] is null;
        }
    }

    private static FileNode.Map WritePlaced(Node change, ImmutableHashSet<NodeId> written)
    {
        var op = change.Word("op")!;
        FileNode? what = change.Children is [var inserted]
            ? Grammar.IsItem(inserted.Kind)
                ? WriteNode(inserted, written)
                : FileNode.Of((Grammar.Of(inserted.Kind).Name, WriteNode(inserted, written)))
            : WriteValue(change["target"]);
        var at = change.Word("at");
        return FileNode.Of(
            (op, what ?? FileNode.Bare("null")),
            (Grammar.Id, written.Contains(change.Id) ? FileNode.Word(change.Id.Name) : null),
            ("into", WriteValue(change["parent"])),
            ("first", at == "first" ? FileNode.Bare("true") : null),
            ("before", at == "before" ? WriteValue(change["sibling"]) : null),
            ("after", at == "after" ? WriteValue(change["sibling"]) : null),
            ("note", WriteValue(change["note"]))
        );
    }
}
