using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Proposals;

/// <summary>A field that stands apart from the others of its subject comes beside them.</summary>
internal sealed class FieldToItsLike : IProposalRule
{
    public bool IsApart => false;

    public IEnumerable<Proposal> Find(FormInQuestion form)
    {
        var items = form
            .Sections.SelectMany(section => section.Children)
            .SelectMany(row => row.Children)
            .SelectMany(cell => cell.Children)
            .Where(item => form.FieldOf(item) is not null)
            .DistinctBy(item => item.Word("field"))
            .ToDictionary(item => item.Word("field")!);
        var heads = form.Entity.DisplayFields.Select(field => field.Key).ToHashSet();
        var fields = form.Entity.Current.Where(field => items.ContainsKey(field.Key) && !heads.Contains(field.Key)).ToArray();
        foreach (var topic in Topic.Of(fields, form.Entity))
        {
            var members = topic.Fields.Select(field => items[field.Key]).ToArray();
            var home = members.GroupBy(item => SectionOf(form, item)).OrderByDescending(group => group.Count()).First().Key;
            foreach (var stray in members.Where(item => SectionOf(form, item) != home && form.Includes(item.Id)))
            {
                var anchor = members.Last(item => SectionOf(form, item) == home);
                if (
                    form.IsForSome(stray.Id)
                    || form.IsForSome(anchor.Id)
                    || form.FieldOf(stray)!.Type is FieldType.LongText or FieldType.Image or FieldType.File
                    || StandsIn(form, stray) is not { Children.Length: 1 }
                    || Placed(form, stray, anchor) is not { } place
                )
                {
                    continue;
                }

                yield return new Proposal(
                    $"gather:{stray.Id}",
                    $"{form.Name(stray)} beside {form.Name(anchor)}: same subject.",
                    [stray.Id, anchor.Id],
                    place.Edits
                );
            }
        }
    }

    private static NodeId SectionOf(FormInQuestion form, Node item) =>
        form.Layout.Ancestors(item.Id).First(node => node.Kind is NodeKind.Section).Id;

    private static Node? StandsIn(FormInQuestion form, Node item) => form.Layout.Find(form.Layout.ParentOf(item.Id)!.Value);

    /// <summary>Right of the last of its like, else in a row below.</summary>
    private static Placement? Placed(FormInQuestion form, Node stray, Node anchor)
    {
        var places = new LayoutPlaces(form.Layout, form.Entity.Find);
        var row = form.Layout.Ancestors(anchor.Id).First(node => node.Kind is NodeKind.Row);
        return places.At(new Subject.OfNode(stray.Id), anchor.Id, Edge.Right)
            ?? places.At(new Subject.OfNode(stray.Id), row.Id, Edge.Below);
    }
}
