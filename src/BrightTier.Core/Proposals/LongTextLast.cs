using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Proposals;

/// <summary>Long texts stand below what is taken in at a glance.</summary>
internal sealed class LongTextLast : IProposalRule
{
    public bool IsApart => true;

    public IEnumerable<Proposal> Find(FormInQuestion form)
    {
        foreach (var section in form.Sections)
        {
            var last = section.Children.LastOrDefault(row => !IsTall(form, row));
            var above = last is null ? [] : section.Children.TakeWhile(row => row.Id != last.Id);
            foreach (var row in above.Where(row => IsTall(form, row) && form.Includes(row.Id)))
            {
                var names = form.Names(row.Children.SelectMany(cell => cell.Children));
                yield return new Proposal(
                    $"last:{row.Id}",
                    $"{names} last in its section: long texts after what is taken in at a glance.",
                    [.. row.Children.SelectMany(cell => cell.Children).Select(item => item.Id)],
                    [new Edit.Move(row.Id, section.Id, new Anchor.Last())]
                );
            }
        }
    }

    /// <summary>Whether a row holds long texts and nothing else.</summary>
    private static bool IsTall(FormInQuestion form, Node row) =>
        !row.Children.IsEmpty && row.Children.All(cell => cell.Children.Length == 1 && form.IsTall(cell));
}
