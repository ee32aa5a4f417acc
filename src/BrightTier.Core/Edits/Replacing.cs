using BrightTier.Core.Layouts;

namespace BrightTier.Core.Edits;

/// <summary>A whole new content for a layout, said in edits, so that it too is one change that can be undone.</summary>
public static class Replacing
{
    /// <summary>The edits that make <paramref name="old"/> equal to <paramref name="next"/>. Nothing is compared below the pages: they go and come as wholes.</summary>
    public static IReadOnlyList<Edit> Edits(Layout old, Layout next)
    {
        var edits = new List<Edit>();
        Properties(edits, old.Root, next.Root);
        foreach (var part in old.Root.Children)
        {
            var same = next.Root.Children.FirstOrDefault(child => child.Kind == part.Kind);
            if (part.Kind is NodeKind.Body)
            {
                edits.AddRange(part.Children.Select(page => new Edit.Remove(page.Id)));
                Properties(edits, part, same!);
                edits.AddRange(same!.Children.Select(page => new Edit.Insert(page, part.Id, new Anchor.Last())));
            }
            else if (same is null || same != part)
            {
                edits.Add(new Edit.Remove(part.Id));
            }
        }

        foreach (var part in next.Root.Children.Where(part => part.Kind is not NodeKind.Body && old.Root.Children.FirstOrDefault(child => child.Kind == part.Kind) != part))
        {
            edits.Add(new Edit.Insert(part, old.Root.Id, part.Kind is NodeKind.Top ? new Anchor.First() : new Anchor.Last()));
        }

        return edits;
    }

    private static void Properties(List<Edit> edits, Node old, Node next)
    {
        foreach (var name in old.Properties.Keys.Union(next.Properties.Keys).Where(name => old[name] != next[name]))
        {
            edits.Add(new Edit.Set(old.Id, name, next[name]));
        }
    }
}
