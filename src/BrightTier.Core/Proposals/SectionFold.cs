using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;

namespace BrightTier.Core.Proposals;

/// <summary>
/// On a form that is long still, sections nobody must fill in are folded at first: those that are shown to some only, and those below the
/// first of their page with no field that is required or wanted.
/// </summary>
internal sealed class SectionFold : IProposalRule
{
    public bool IsApart => true;

    public IEnumerable<Proposal> Find(FormInQuestion form) =>
        form.Screens <= FormPages.Long
            ? []
            : from section in form.Sections
            where form.Includes(section.Id) && section["title"] is not null && section["collapsible"] is null
            where form.Layout.Find(form.Layout.ParentOf(section.Id)!.Value)!.Children[0].Id != section.Id
            let fields = section.Walk().Select(form.FieldOf).OfType<Field>().ToArray()
            where fields.Length > 0 && !fields.Any(field => field.Required || field.Advised)
            where !section.Walk().Any(item => item["required"] is not null)
            select new Proposal(
                $"fold:{section.Id}",
                form.IsForSome(section.Id)
                    ? $"{form.Name(section)} folded at first: it is seldom shown, and nothing in it is required."
                    : (Message)$"{form.Name(section)} folded at first: nothing in it is required.",
                [section.Id],
                [new Edit.Set(section.Id, "collapsible", new Value.Flag(true)), new Edit.Set(section.Id, "collapsed", new Value.Flag(true))]
            );
}
