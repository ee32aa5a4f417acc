using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;

namespace BrightTier.Core.Proposals;

/// <summary>Rows of a long section that are about one thing get a section of their own.</summary>
internal sealed class TopicOfItsOwn : IProposalRule
{
    /// <summary>A section of fewer fields is taken in as it is.</summary>
    private const int Many = 10;

    public bool IsApart => false;

    public IEnumerable<Proposal> Find(FormInQuestion form)
    {
        foreach (var section in form.Sections.Where(section => form.Includes(section.Id)))
        {
            var parent = form.Layout.Find(form.Layout.ParentOf(section.Id)!.Value)!;
            var fields = section.Walk().Select(form.FieldOf).OfType<Field>().Distinct().ToArray();
            if (parent.Kind is not NodeKind.Page || fields.Length < Many || form.IsForSome(section.Id))
            {
                continue;
            }

            foreach (var topic in Topic.Of(fields, form.Entity).Where(topic => topic.Fields.Length >= Topic.Several))
            {
                // Only where they fill rows of their own: nothing else is moved about for it.
                var rows = section
                    .Children.Where(row => row.Children.All(cell => form.HoldsFields(cell) && cell.Children.All(item => IsOf(topic, item))))
                    .ToArray();
                var members = rows.SelectMany(row => row.Children).SelectMany(cell => cell.Children).ToArray();
                if (members.Length < topic.Fields.Length || fields.Length - members.Length < Topic.Several)
                {
                    continue;
                }

                var id = new NodeId(DerivedIds.Fresh(form.Layout, Keys.Of(topic.Word, "section")));
                yield return new Proposal(
                    $"section:{rows[0].Id}",
                    $"{topic.Title} in a section of its own: {members.Length} fields of one subject.",
                    [.. members.Select(item => item.Id)],
                    [
                        new Edit.Insert(
                            Node.Of(NodeKind.Section, id).With("title", new Value.Text(topic.Title)),
                            parent.Id,
                            new Anchor.After(section.Id)
                        ),
                        .. rows.Select(row => new Edit.Move(row.Id, id, new Anchor.Last())),
                    ]
                );
            }
        }

        bool IsOf(Topic topic, Node item) => form.FieldOf(item) is { } field && topic.Fields.Contains(field);
    }
}
