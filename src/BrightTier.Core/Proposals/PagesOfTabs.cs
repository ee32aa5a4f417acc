using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;

namespace BrightTier.Core.Proposals;

/// <summary>A form of one stack that is over two screens gets tabs.</summary>
internal sealed class PagesOfTabs : IProposalRule
{
    public bool IsApart => false;

    public IEnumerable<Proposal> Find(FormInQuestion form)
    {
        if (
            !form.IsWhole
            || form.Layout.Kind != "full"
            || form.Layout.Body is not { } body
            || (body.Word("arrangement") ?? "stack") != "stack"
            || form.Screens <= FormPages.Long
        )
        {
            yield break;
        }

        var edits = body.Children is [{ Children.Length: > 1 } only] ? Parted(form, only) : [];
        if (edits.Count == 0 && (body.Children.Length < 2 || body.Children.Any(page => page["title"] is null)))
        {
            yield break;
        }

        Edit[] all = [new Edit.Set(body.Id, "arrangement", new Value.Word("tabs")), .. edits];
        var tabs = body.Children.Length + edits.OfType<Edit.Insert>().Count();
        yield return new Proposal(
            $"tabs:{body.Id}",
            $"{tabs} tabs: {form.Screens:0.#} screens one under another are much to scroll.",
            [body.Id],
            [.. all]
        );
    }

    /// <summary>The sections of a page spread over more of them, each named by what is in it.</summary>
    private static List<Edit> Parted(FormInQuestion form, Node page)
    {
        var sections = page.Children;
        var ranges = FormPages.Split([.. sections.Select(section => FormPages.Height(section, form.Entity, form.Definitions))]);
        var edits = new List<Edit>();
        if (page["title"] is null)
        {
            edits.Add(new Edit.Set(page.Id, "title", new Value.Text(form.Entity.Label)));
        }

        var before = page.Id;
        foreach (var (start, end) in ranges.Skip(1).Where(range => range.End > range.Start))
        {
            var id = new NodeId(DerivedIds.Fresh(form.Layout, $"{sections[start].Id}Page"));
            var title = FormPages.TitleOf(sections[start..end].Select(section => section.Text("title") ?? form.Entity.Label).Distinct());
            edits.Add(
                new Edit.Insert(
                    Node.Of(NodeKind.Page, id).With("title", new Value.Text(title)),
                    form.Layout.ParentOf(page.Id)!.Value,
                    new Anchor.After(before)
                )
            );
            edits.AddRange(sections[start..end].Select(section => new Edit.Move(section.Id, id, new Anchor.Last())));
            before = id;
        }

        return edits;
    }
}
