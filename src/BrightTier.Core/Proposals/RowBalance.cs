using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Proposals;

/// <summary>
/// A row with room left over, or in which one has too little beside one with too much, is shared by what its fields take.
/// </summary>
internal sealed class RowBalance : IProposalRule
{
    /// <summary>Fewer units left over are no gap.</summary>
    private const int Gap = 3;

    public bool IsApart => true;

    public IEnumerable<Proposal> Find(FormInQuestion form) =>
        from section in form.Sections
        from row in section.Children
        where form.Includes(row.Id) && row.Children.Length > 1 && row.Children.All(form.HoldsFields)
        let spans = Spans.Share([.. row.Children.Select(cell => cell.Number("span"))])
        let rooms = row.Children.Select(form.RoomOf).ToArray()
        where Limits.Units - spans.Sum() >= Gap || spans.Zip(rooms).Any(IsShort) && spans.Zip(rooms).Any(IsWide)
        let broken = RowBreaks.Of([.. row.Children.Select(cell => RowUnion.ItemOf(form, cell, null))])
        where broken.Length == 1 && !broken[0].Spans.SequenceEqual(spans)
        select new Proposal(
            $"even:{row.Id}",
            $"{form.Names(row.Children.SelectMany(cell => cell.Children))} share their row by what they take.",
            [.. row.Children.SelectMany(cell => cell.Children).Select(item => item.Id)],
            [.. row.Children.Zip(RowEdits.Written(broken[0])).SelectMany(pair => RowEdits.Spanned(pair.First, pair.Second))]
        );

    private static bool IsShort((int Span, Room Room) cell) => cell.Span < cell.Room.Needed;

    private static bool IsWide((int Span, Room Room) cell) => cell.Span > cell.Room.Natural + 1;
}
