namespace BrightTier.Core.Edits;

/// <summary>One edit that cannot stand beside what another person did meanwhile: both sides named.</summary>
public sealed record Conflict(string Code, string Message, Edit Mine, Edit Theirs);

/// <summary>
/// Lays a change made against an older revision over what happened since. Edits name nodes by id, so most need no rewriting: they
/// combine unless both sides gave one property different values, moved one node to different places, or one side removed what the other changes.
/// </summary>
public static class Rebasing
{
    /// <summary>The conflicts of <paramref name="mine"/> with <paramref name="theirs"/>, which came first. None means mine can be applied.</summary>
    public static IReadOnlyList<Conflict> Conflicts(IReadOnlyList<Edit> mine, IReadOnlyList<Edit> theirs)
    {
        var conflicts = new List<Conflict>();
        foreach (var edit in mine)
        {
            foreach (var other in theirs)
            {
                if (edit != other && Between(edit, other) is { } message)
                {
                    conflicts.Add(new Conflict(message.Code, message.Text, edit, other));
                }
            }
        }

        return conflicts;
    }

    /// <summary>Mine without what they did alike, so that the same edit on both sides is no conflict.</summary>
    public static IReadOnlyList<Edit> Without(IReadOnlyList<Edit> mine, IReadOnlyList<Edit> theirs) => [.. mine.Where(edit => !theirs.Contains(edit))];

    private static (string Code, string Text)? Between(Edit mine, Edit theirs) => (mine, theirs) switch
    {
        (Edit.Set a, Edit.Set b) when a.Node == b.Node && a.Property == b.Property && a.Value != b.Value =>
            ("set-twice", $"'{a.Property}' of '{a.Node}' was set by both."),
        (Edit.Move a, Edit.Move b) when a.Node == b.Node => ("moved-twice", $"'{a.Node}' was moved by both."),
        (Edit.Set a, Edit.Remove b) when a.Node == b.Node => ("removed-meanwhile", $"'{a.Node}' was removed meanwhile."),
        (Edit.Move a, Edit.Remove b) when a.Node == b.Node || a.Parent == b.Node => ("removed-meanwhile", $"'{b.Node}' was removed meanwhile."),
        (Edit.Insert a, Edit.Remove b) when a.Parent == b.Node => ("removed-meanwhile", $"'{b.Node}' was removed meanwhile."),
        (Edit.Remove a, Edit.Set b) when a.Node == b.Node => ("changed-meanwhile", $"'{a.Node}' was changed meanwhile."),
        (Edit.Remove a, Edit.Move b) when a.Node == b.Node || a.Node == b.Parent => ("changed-meanwhile", $"Something was moved into or with '{a.Node}' meanwhile."),
        (Edit.Remove a, Edit.Insert b) when a.Node == b.Parent => ("changed-meanwhile", $"Something was added to '{a.Node}' meanwhile."),
        _ => null,
    };
}
