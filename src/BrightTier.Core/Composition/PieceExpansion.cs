using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>
/// Puts pieces in the place of their uses: a panel that shows the piece's sections, its nodes named use/node, its slots bound to fields.
/// </summary>
public sealed class PieceExpansion(Catalogue catalogue, List<AssemblyProblem> problems)
{
    /// <summary>
    /// Nodes that pieces brought so far: pieces within pieces multiply, and what is refused is refused before it is made.
    /// </summary>
    private int brought;

    public Layout Expand(Layout layout) =>
        layout.Walk().Any(node => node.Kind is NodeKind.Piece) ? Layout.Of(Expand(layout.Root, "", [], outermost: null)) : layout;

    private Node Expand(Node node, string prefix, ImmutableList<string> path, NodeId? outermost)
    {
        if (node.Kind is NodeKind.Piece)
        {
            return Used(node, prefix, path, outermost ?? node.Id);
        }

        return node.Children.IsEmpty
            ? node
            : node with
            {
                Children = [.. node.Children.Select(child => Expand(child, prefix, path, outermost))],
            };
    }

    private Node Used(Node use, string prefix, ImmutableList<string> path, NodeId place)
    {
        var key = use.Word("piece") ?? "";
        var panel = new Node(
            use.Id,
            NodeKind.Panel,
            use.Properties.Remove("piece").Remove("slots").Remove("label").Add("panel", new Value.Word("stack")),
            []
        );
        if (path.Contains(key) || path.Count >= Limits.PieceDepth)
        {
            problems.Add(
                new AssemblyProblem(
                    "piece-circle",
                    place,
                    $"The piece '{key}' is used inside itself ({string.Join(" in ", path.Add(key).Reverse())})."
                )
            );
            return panel;
        }

        if (catalogue.Piece(key) is not { } piece)
        {
            problems.Add(
                new AssemblyProblem(
                    "piece-unknown",
                    place,
                    Suggestion.Sentence($"There is no piece '{key}'{catalogue.Suggest(key, catalogue.Pieces.Select(each => each.Key))}")
                )
            );
            return panel;
        }

        brought += piece.Count;
        if (brought > Limits.Nodes)
        {
            problems.Add(
                new AssemblyProblem(
                    "too-many-nodes",
                    place,
                    $"With its pieces the layout would have more than {Limits.Nodes} nodes; '{key}' and what follows are left out."
                )
            );
            return panel;
        }

        var (changed, orphaned) = Layout
            .Of(piece.Root with { Children = [.. piece.Root.Children.Where(child => child.Kind is NodeKind.Section)] })
            .ApplyOverrides(use.Children);
        problems.AddRange(
            orphaned.Select(each => new AssemblyProblem(
                "override-orphaned",
                path.IsEmpty ? each.Change.Id : place,
                $"A change to this use of '{key}' can no longer be applied: {each.Refusal.Message}"
            ))
        );
        var bound = Bind(use, piece, place);
        var id = prefix + use.Id.Name;
        var sections = changed.Root.Children.Select(section => Bound(section, bound, id + "/")).OfType<Node>().ToArray();
        var page = Node.Of(NodeKind.Page, new NodeId(id + "/page"), sections);
        return panel with { Id = new NodeId(id), Children = [Expand(page, "", path.Add(key), place)] };
    }

    /// <summary>From slot to field; null for one that is left unbound.</summary>
    private Dictionary<string, string?> Bind(Node use, Layout piece, NodeId place)
    {
        var given = use.Pairs("slots");
        var bound = new Dictionary<string, string?>(StringComparer.Ordinal);
        foreach (var slot in piece.Root.Children.Where(child => child.Kind is NodeKind.Slot))
        {
            var name = slot.Word("slot")!;
            bound[name] = given.GetValueOrDefault(name);
            if (bound[name] is null && !slot.Flag("optional"))
            {
                problems.Add(
                    new AssemblyProblem(
                        "slot-unbound",
                        place,
                        $"The slot '{slot.Text("label")?.ToString() ?? name}' of the piece '{piece.Key}' is bound to no field here."
                    )
                );
            }
        }

        foreach (var stray in given.Keys.Where(name => !bound.ContainsKey(name)))
        {
            problems.Add(
                new AssemblyProblem(
                    "slot-unbound",
                    place,
                    Suggestion.Sentence($"The piece '{piece.Key}' has no slot '{stray}'{Suggestion.For(stray, bound.Keys)}")
                )
            );
        }

        return bound;
    }

    /// <summary>A node of the piece as it is at this use; null for the field of a slot left unbound.</summary>
    internal static Node? Bound(Node node, IReadOnlyDictionary<string, string?> slots, string prefix)
    {
        if (node.Kind is NodeKind.Field && slots.TryGetValue(node.Word("field")!, out var key) && key is null)
        {
            return null;
        }

        var properties = node.Properties;
        var rule = Grammar.Of(node);
        foreach (var (name, value) in node.Properties)
        {
            var replaced = (rule.Find(name)?.Type, value) switch
            {
                (PropertyType.Key, Value.Word word) when name is "field" => new Value.Word(Field(word.Content)),
                (PropertyType.Condition or PropertyType.FlagOrCondition, Value.Word word) => new Value.Word(
                    SlotNames.InCondition(word.Content, slots)
                ),
                (PropertyType.Address, Value.Word word) => new Value.Word(SlotNames.InText(word.Content, slots)),
                (PropertyType.Text, Value.Text text) => new Value.Text(
                    Texts.Of(text.Texts.ByLanguage.Select(pair => KeyValuePair.Create(pair.Key, SlotNames.InText(pair.Value, slots))))
                ),
                (PropertyType.Pairs, Value.Pairs pairs) when name is "slots" => Value.Pairs.Of(
                    pairs
                        .Entries.Where(pair => Field(pair.Value).Length > 0)
                        .Select(pair => KeyValuePair.Create(pair.Key, Field(pair.Value)))
                ),
                (PropertyType.Pairs, Value.Pairs pairs) when name is "copies" => Value.Pairs.Of(
                    pairs.Entries.Select(pair => KeyValuePair.Create(Field(pair.Key), pair.Value))
                ),
                (PropertyType.Pairs, Value.Pairs pairs) when name is "filterBy" => Value.Pairs.Of(
                    pairs.Entries.Select(pair => KeyValuePair.Create(pair.Key, Field(pair.Value)))
                ),
                (PropertyType.Pairs, Value.Pairs pairs) when name is "values" => Value.Pairs.Of(
                    pairs.Entries.Select(pair => KeyValuePair.Create(Field(pair.Key), SlotNames.InCondition(pair.Value, slots)))
                ),
                _ => value,
            };
            properties = ReferenceEquals(replaced, value) ? properties : properties.SetItem(name, replaced);
        }

        return node with
        {
            Id = new NodeId(prefix + node.Id.Name),
            Properties = properties,
            Children = [.. node.Children.Select(child => Bound(child, slots, prefix)).OfType<Node>()],
        };

        string Field(string name) => slots.TryGetValue(name, out var field) ? field ?? "" : name;
    }
}

/// <summary>Replaces names of slots by the fields bound to them.</summary>
public static class SlotNames
{
    /// <summary>In a condition: record.slot becomes record.field. One that cannot be parsed stays; the checks tell.</summary>
    public static string InCondition(string condition, IReadOnlyDictionary<string, string?> slots)
    {
        if (Parser.Parse(condition).Expression is not { } expression)
        {
            return condition;
        }

        // From the end, so that places before it stay what they are.
        foreach (
            var read in expression
                .OfRecord()
                .Where(select => slots.GetValueOrDefault(select.Field) is not null)
                .OrderByDescending(select => select.FieldAt.Start)
        )
        {
            condition = condition[..read.FieldAt.Start] + slots[read.Field] + condition[read.FieldAt.End..];
        }

        return condition;
    }

    /// <summary>In a text: {slot} becomes {field}, whatever format follows it.</summary>
    public static string InText(string text, IReadOnlyDictionary<string, string?> slots) =>
        Placeholders.Rename(text, name => slots.GetValueOrDefault(name) ?? name);
}
