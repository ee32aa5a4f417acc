using System.Collections.Immutable;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Proposals;

/// <summary>Rows whose fields have room beside each other become fewer, in the same order.</summary>
internal sealed class RowUnion : IProposalRule
{
    public bool IsApart => true;

    public IEnumerable<Proposal> Find(FormInQuestion form) =>
        from section in form.Sections
        where (section.Number("columns") ?? 1) == 1
        from run in Runs(form, section)
        from part in Parts(form, run)
        select Joined(form, part.Rows, part.Broken);

    /// <summary>Rows one after another that say nothing themselves and hold only fields.</summary>
    private static IEnumerable<ImmutableArray<Node>> Runs(FormInQuestion form, Node section)
    {
        var run = ImmutableArray.CreateBuilder<Node>();
        foreach (var row in section.Children)
        {
            if (form.Includes(row.Id) && form.MayGo(row) && row.Children.All(cell => form.HoldsFields(cell) && !cell.Flag("hidden")))
            {
                run.Add(row);
                continue;
            }

            yield return run.ToImmutable();
            run.Clear();
        }

        yield return run.ToImmutable();
    }

    /// <summary>
    /// The least parts of a run that begin and end where rows do both before and after, and have fewer rows after.
    /// </summary>
    private static IEnumerable<(ImmutableArray<Node> Rows, ImmutableArray<BrokenRow> Broken)> Parts(
        FormInQuestion form,
        ImmutableArray<Node> rows
    )
    {
        if (rows.Length < 2)
        {
            yield break;
        }

        var cells = rows.SelectMany(row => row.Children).ToArray();
        var broken = RowBreaks.Of([.. cells.Select((cell, i) => ItemOf(form, cell, i + 1 < cells.Length ? cells[i + 1] : null))]);
        var (row, next, from, fromBroken) = (0, 0, 0, 0);
        for (var (before, after) = (0, 0); row < rows.Length; )
        {
            if (before <= after)
            {
                before += rows[row++].Children.Length;
            }
            else
            {
                after += broken[next++].Count;
            }

            while (after < before && next < broken.Length)
            {
                after += broken[next++].Count;
            }

            if (before == after)
            {
                if (next - fromBroken < row - from)
                {
                    yield return (rows[from..row], broken[fromBroken..next]);
                }

                (from, fromBroken) = (row, next);
            }
        }
    }

    internal static RowItem ItemOf(FormInQuestion form, Node cell, Node? next) =>
        new(form.RoomOf(cell), form.IsTall(cell), next is not null && AreAlike(form, cell, next));

    /// <summary>Whether what stands in two cells is about the same.</summary>
    internal static bool AreAlike(FormInQuestion form, Node cell, Node next) =>
        form.FieldOf(cell.Children[^1]) is { } one
        && form.FieldOf(next.Children[0]) is { } other
        && FieldWords.AreAlike(one, other, form.Entity);

    private static Proposal Joined(FormInQuestion form, ImmutableArray<Node> rows, ImmutableArray<BrokenRow> broken)
    {
        var items = rows.SelectMany(row => row.Children).SelectMany(cell => cell.Children).ToArray();
        Message reason = rows is [{ Children: [var one] }, { Children: [var other] }]
            ? AreAlike(form, one, other)
                ? (Message)$"{form.Names(other.Children)} beside {form.Names(one.Children)}: same subject."
                : $"{form.Names(other.Children)} beside {form.Names(one.Children)}: there is room for both."
            : broken.Length == 1
                ? (Message)$"{form.Names(items)} beside each other: one row instead of {rows.Length}."
                : $"{form.Names(items)}: {broken.Length} rows instead of {rows.Length}.";
        return new Proposal($"join:{rows[0].Id}", reason, [.. items.Select(item => item.Id)], [.. RowEdits.Rearranged(rows, broken)]);
    }
}
