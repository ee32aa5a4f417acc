using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

// What both sides set on one node.
public sealed partial class LayoutMerge
{
    private Node Combine(Node node)
    {
        if (Replaced(node) is { } chosen)
        {
            return node with { Properties = Of(chosen).Places[node.Id].Node.Properties };
        }

        foreach (var name in Names(mine, node).Union(Names(theirs, node), StringComparer.Ordinal).ToArray())
        {
            var (a, b) = (mine.Sets.GetValueOrDefault((node.Id, name)), theirs.Sets.GetValueOrDefault((node.Id, name)));
            node = node.With(
                name,
                a is null ? b!.Value
                    : b is null || a.Value == b.Value ? a.Value
                    : Both(node, name, a, b)
            );
        }

        return node;
    }

    private static IEnumerable<string> Names(SideOf side, Node node) =>
        Grammar.Of(node).Properties.Select(rule => rule.Name).Where(name => side.Sets.ContainsKey((node.Id, name)));

    /// <summary>
    /// Whose the node is where one side has it show another field, list another column or use another piece, while the other side set
    /// something that was meant for what stood there; null where it is no such case.
    /// </summary>
    private Side? Replaced(Node node)
    {
        if (Grammar.Of(node).Main is not { } main || Grammar.Of(node).Find(main)?.Type is not PropertyType.Key)
        {
            return null;
        }

        var (a, b) = (mine.Sets.GetValueOrDefault((node.Id, main)), theirs.Sets.GetValueOrDefault((node.Id, main)));
        var (replaces, other) = (a, b) switch
        {
            (not null, null) => (a, theirs),
            (null, not null) => (b, mine),
            _ => (null, mine),
        };
        return replaces is not null && Names(other, node).Any()
            ? Decide(
                new Conflict(
                    "replaced-and-changed",
                    $"'{node.Id}' shows something else on one side, and was changed on the other.",
                    node.Id,
                    [.. mine.Sets.Values.Where(set => set.Node == node.Id)],
                    [.. theirs.Sets.Values.Where(set => set.Node == node.Id)]
                )
                {
                    Property = main,
                }
            )
            : null;
    }

    /// <summary>What both sides set a property to: texts language by language, anything else of the side that has its way.</summary>
    private Value? Both(Node node, string name, Edit.Set a, Edit.Set b)
    {
        Side? decided = null;
        if (a.Value is not Value.Text one || b.Value is not Value.Text other)
        {
            return Chosen() is Side.Mine ? a.Value : b.Value;
        }

        var before = (node[name] as Value.Text)?.Texts ?? Texts.Of([]);
        var languages = new SortedSet<string>(
            new[] { before, one.Texts, other.Texts }.SelectMany(texts => texts.ByLanguage.Keys),
            StringComparer.Ordinal
        );
        return new Value.Text(
            Texts.Of(
                languages
                    .Select(language => (language, Text: Of(language)))
                    .Where(each => each.Text is not null)
                    .Select(each => KeyValuePair.Create(each.language, each.Text!))
            )
        );

        string? Of(string language)
        {
            var (was, my, their) = (
                before.ByLanguage.GetValueOrDefault(language),
                one.Texts.ByLanguage.GetValueOrDefault(language),
                other.Texts.ByLanguage.GetValueOrDefault(language)
            );
            return my == their || their == was ? my
                : my == was ? their
                : Chosen() is Side.Mine ? my
                : their;
        }

        Side Chosen() =>
            decided ??= Decide(
                new Conflict("set-twice", $"'{name}' of '{node.Id}' was set to two values.", node.Id, [a], [b]) { Property = name }
            );
    }
}
