using BrightTier.Core.Model;

namespace BrightTier.Core.Edits;

/// <summary>
/// Plain edits of a layout as it is seen at a width, or over what it extends, as edits of what it has differently: the base, and the layout
/// under it, stay
/// as they are. The browser foresees the same (web/layout, overrides.ts); tests/vectors/overrides.json holds both to it.
/// </summary>
public static class OverrideEdits
{
    /// <summary>What edits are made over, and what is seen there; the holder has no id where a width has no form of its own yet.</summary>
    private sealed record EffectiveLayout(Layout Base, Layout Whole, IReadOnlyList<Node> Changes, NodeId Holder);

    /// <summary>Applies plain edits, in order, or none.</summary>
    /// <param name="layout">The layout as it is kept.</param>
    /// <param name="edits">Edits of what is seen.</param>
    /// <param name="width">The width whose own form is changed; one that has none gets one. Null for the base.</param>
    /// <param name="under">What a derived layout extends, put together; null for a layout of its own.</param>
    /// <returns>The edits of the layout itself, as applied.</returns>
    public static EditOutcome ApplyOver(this Layout layout, IReadOnlyList<Edit> edits, string? width, Layout? under)
    {
        var done = new List<Edit>();
        var inverse = new List<Edit>();
        for (var i = 0; i < edits.Count; i++)
        {
            var (own, refusal) = Own(layout, edits[i], width, under);
            var outcome = refusal is null ? Apply(layout, own, width) : new EditOutcome(null, [], [], refusal);
            if (outcome.Refusal is { } refused)
            {
                return outcome with { Refusal = refused with { Index = i } };
            }

            layout = outcome.Layout!;
            done.AddRange(outcome.Edits);
            inverse.InsertRange(0, outcome.Inverse);
        }

        return new EditOutcome(layout, done, inverse, null);
    }

    /// <summary>The layout as it is seen at a width, or over what it extends.</summary>
    public static Layout At(this Layout layout, string? width, Layout? under) => See(layout, width, under).Whole;

    private static EffectiveLayout See(Layout layout, string? width, Layout? under)
    {
        var holder =
            width is not null ? Variant(layout, width)
            : under is not null ? layout.Root
            : null;
        var over = under is null ? layout.Bare() : Beneath(under.Bare(), layout);
        if (width is not null && under is not null)
        {
            over = over.ApplyOverrides(layout.Root.Children).Layout;
        }

        var changes = holder is null ? [] : holder.Children.Where(child => child.Kind is NodeKind.Change).ToArray();
        return new EffectiveLayout(over, over.ApplyOverrides(changes).Layout, changes, holder?.Id ?? default);
    }

    /// <summary>What a derived layout's changes are laid over. What it says of the form itself stands.</summary>
    private static Layout Beneath(Layout under, Layout own) =>
        Layout.Of(under.Root with { Id = own.Root.Id, Properties = under.Root.Properties.SetItems(own.Root.Properties) });

    private static EditOutcome Apply(Layout layout, IReadOnlyList<Edit> edits, string? width)
    {
        var done = new List<Edit>();
        var inverse = new List<Edit>();
        foreach (var edit in edits)
        {
            // The variant that is made for a width has no id before it is there.
            var outcome = layout.Apply(
                edit is Edit.Insert { Parent.Name: null } insert ? insert with { Parent = Variant(layout, width!)!.Id } : edit
            );
            if (outcome.Refusal is not null)
            {
                return outcome;
            }

            layout = outcome.Layout!;
            done.AddRange(outcome.Edits);
            inverse.InsertRange(0, outcome.Inverse);
        }

        return new EditOutcome(layout, done, inverse, null);
    }

    private static Node? Variant(Layout layout, string width) =>
        layout.Variants.FirstOrDefault(variant => variant.Word("variant") == width);

    private static (IReadOnlyList<Edit> Edits, Refusal? Refusal) Own(Layout layout, Edit edit, string? width, Layout? under)
    {
        if (width is null && under is null)
        {
            return ([edit], null);
        }

        var named = edit switch
        {
            Edit.Insert insert => insert.Parent,
            Edit.Remove remove => remove.Node,
            Edit.Move move => move.Node,
            Edit.Set set => set.Node,
            _ => throw new ArgumentOutOfRangeException(nameof(edit)),
        };
        // What stands in a width's form is seen at that width alone; elsewhere it is named as what it is.
        var isOwn = layout.Root.Children.Any(child =>
            OverrideApplier.IsLaid(child)
            && (
                child.Id == named
                || (child.Kind is NodeKind.Variant && (width is null ? child.Walk() : child.Children).Any(node => node.Id == named))
            )
        );
        if (
            isOwn
            || (edit is Edit.Insert { Node: var added } && OverrideApplier.IsLaid(added))
            || (width is null && edit is Edit.Set && named == layout.Root.Id)
        )
        {
            return ([edit], null);
        }

        var seen = See(layout, width, under);
        if (edit is Edit.Insert { Node: var node } inserting)
        {
            edit = inserting with { Node = DerivedIds.Fill(node, seen.Whole.Walk().Concat(layout.Walk()).Select(each => each.Id)) };
        }

        // What is seen has a body, whoever's it is.
        if (edit is Edit.Remove { Node: var goes } && seen.Whole.Find(goes) is { Kind: NodeKind.Body } body)
        {
            return ([], EditApplier.CannotRemove(body));
        }

        var tried = seen.Whole.Apply(
            edit is Edit.Set placing ? placing with { Node = OverrideApplier.Holder(seen.Whole, placing.Node, placing.Property) } : edit
        );
        if (tried.Refusal is { } refusal)
        {
            return ([], refusal);
        }

        var own = Changing(seen, edit);
        return (
            own.Count > 0 && seen.Holder.Name is null
                ?
                [
                    new Edit.Insert(
                        Node.Of(NodeKind.Variant, default).With("variant", new Value.Word(width!)),
                        layout.Root.Id,
                        new Anchor.Last()
                    ),
                    .. own,
                ]
                : own,
            null
        );
    }

    /// <summary>One edit as edits of the changes that are laid over a base.</summary>
    private static IReadOnlyList<Edit> Changing(EffectiveLayout seen, Edit edit)
    {
        switch (edit)
        {
            case Edit.Insert insert:
                return [Maker(seen, insert.Parent) is null ? Add(seen, insert) : insert];
            case Edit.Remove remove when Maker(seen, remove.Node) is { } change:
                return change.Children[0].Id == remove.Node ? TakeBack(seen, change) : [remove];
            case Edit.Move move:
                var last = seen.Changes is [.., var final] ? final : null;
                if (Maker(seen, move.Node) is { } maker)
                {
                    if (maker.Children[0].Id != move.Node && Maker(seen, move.Parent) == maker)
                    {
                        return [move];
                    }

                    // What was only just put somewhere is put elsewhere instead.
                    if (maker == last && maker.Children[0].Id == move.Node)
                    {
                        return [new Edit.Remove(last.Id), Add(seen, new Edit.Insert(maker.Children[0], move.Parent, move.At))];
                    }
                }

                return last?.Word("op") == "move" && last.Word("target") == move.Node.Name
                    ? [new Edit.Remove(last.Id), Add(seen, move)]
                    : [Add(seen, move)];
            case Edit.Set set:
                return Setting(seen, set);
            default:
                return [Add(seen, edit)];
        }
    }

    private static Edit Add(EffectiveLayout seen, Edit change) =>
        new Edit.Insert(OverrideApplier.ToChange(change), seen.Holder, new Anchor.Last());

    /// <summary>The change that inserted a node, by itself or with what holds it.</summary>
    private static Node? Maker(EffectiveLayout seen, NodeId id) =>
        seen.Changes.FirstOrDefault(change => change.Children.Any(child => child.Walk().Any(node => node.Id == id)));

    /// <summary>Takes back a change that inserts, with those that are about what it inserted.</summary>
    private static IReadOnlyList<Edit> TakeBack(EffectiveLayout seen, Node change)
    {
        var gone = change.Children[0].Walk().Select(node => node.Id.Name).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. seen
                .Changes.Where(each =>
                    each != change && (gone.Contains(each.Word("target") ?? "") || gone.Contains(each.Word("parent") ?? ""))
                )
                .Append(change)
                .Select(each => new Edit.Remove(each.Id)),
        ];
    }

    private static IReadOnlyList<Edit> Setting(EffectiveLayout seen, Edit.Set set)
    {
        if (Maker(seen, set.Node) is { } maker)
        {
            var made = Layout.Of(maker);
            var direct = OverrideApplier.Holder(made, set.Node, set.Property);
            if (Grammar.Of(made.Find(direct)!).Find(set.Property) is not null)
            {
                return [set with { Node = direct }];
            }
        }

        // Named by what stands in the cell, as it is written in files.
        var target =
            seen.Whole.Find(set.Node) is { Kind: NodeKind.Cell, Children: [var only] } cell
            && Grammar.Of(cell).Find(set.Property) is not null
            && Grammar.Of(only).Find(set.Property) is null
                ? only.Id
                : set.Node;
        var before = seen.Changes.LastOrDefault(change =>
            change.Word("op") == "set"
            && change.Word("property") == set.Property
            && (change.Word("target") == target.Name || change.Word("target") == set.Node.Name)
        );
        var held = seen.Base.Find(OverrideApplier.Holder(seen.Base, target, set.Property));
        var standard = held is null ? null : Grammar.Of(held).Find(set.Property)?.Default;
        var same = held is not null && Plain(held[set.Property], standard) == Plain(set.Value, standard);
        // Clearing what differs takes the difference back.
        return before is not null ? [same || set.Value is null ? new Edit.Remove(before.Id) : new Edit.Set(before.Id, "value", set.Value)]
            : same ? []
            : [Add(seen, set with { Node = target })];
    }

    private static Value? Plain(Value? value, Value? standard) => value == standard ? null : value;
}
