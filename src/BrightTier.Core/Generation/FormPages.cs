using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Generation;

/// <summary>How sections are spread over tabs where a form is longer than one looks at in one go.</summary>
public static class FormPages
{
    /// <summary>Screens from which on a form is better in tabs.</summary>
    public const double Long = 2;

    /// <summary>The screens a tab should have at most, where sections allow it.</summary>
    private const double Comfortable = 1.1;

    /// <summary>More tabs than this are not taken in.</summary>
    public const int Most = 7;

    /// <summary>The pages of a form: one, or as many as keep each to a screen where it is over two.</summary>
    public static IEnumerable<Node> Of(
        ImmutableArray<Node> sections,
        IReadOnlyList<FormGroup> groups,
        Entity entity,
        Definitions definitions
    )
    {
        var heights = sections.Select(section => Height(section, entity, definitions)).ToArray();
        if (heights.Sum() <= Long * Length.Screen)
        {
            return [Page("page", entity.Label, sections)];
        }

        return Split(heights)
            .Select(
                (range, i) =>
                    Tab(
                        i,
                        sections[range.Start..range.End],
                        groups.Skip(range.Start).Take(range.End - range.Start).SelectMany(group => group.Names),
                        entity
                    )
            );
    }

    /// <summary>Where to part heights, in order, so that no part is higher than is comfortable, or as little so as can be.</summary>
    public static IReadOnlyList<(int Start, int End)> Split(IReadOnlyList<double> heights)
    {
        for (var parts = 2; ; parts++)
        {
            var split = Parted(heights, parts);
            if (
                parts >= Math.Min(Most, heights.Count)
                || split.Max(range => Sum(range)) <= Math.Max(Comfortable * Length.Screen, heights.Max())
            )
            {
                return split;
            }
        }

        double Sum((int Start, int End) range) => heights.Skip(range.Start).Take(range.End - range.Start).Sum();
    }

    /// <summary>So many parts in order, the highest as low as can be.</summary>
    private static List<(int Start, int End)> Parted(IReadOnlyList<double> heights, int parts)
    {
        var sums = new double[heights.Count + 1];
        for (var i = 0; i < heights.Count; i++)
        {
            sums[i + 1] = sums[i] + heights[i];
        }

        var highest = new double[parts + 1, heights.Count + 1];
        var begin = new int[parts + 1, heights.Count + 1];
        for (var part = 1; part <= parts; part++)
        {
            for (var end = 0; end <= heights.Count; end++)
            {
                highest[part, end] = part == 1 ? sums[end] : double.MaxValue;
                for (var start = part - 1; part > 1 && start < end; start++)
                {
                    var high = Math.Max(highest[part - 1, start], sums[end] - sums[start]);
                    if (high < highest[part, end])
                    {
                        (highest[part, end], begin[part, end]) = (high, start);
                    }
                }
            }
        }

        var ranges = new List<(int, int)>();
        for (var (part, end) = (Math.Min(parts, heights.Count), heights.Count); part > 0; part--)
        {
            ranges.Insert(0, (begin[part, end], end));
            end = begin[part, end];
        }

        return ranges;
    }

    /// <summary>How high a section stands, in rem, at the narrow end of where the base is used.</summary>
    public static double Height(Node section, Entity entity, Definitions definitions)
    {
        var page = Node.Of(NodeKind.Page, new NodeId("page"), section);
        var root = Node.Of(NodeKind.Layout, new NodeId("layout"), Node.Of(NodeKind.Body, new NodeId("body"), page));
        return Length.Measure(Layout.Of(DerivedIds.Fill(root, [])), entity, definitions, Rooms.Form).Rem;
    }

    /// <summary>What a tab is called, after the first two of what is in it.</summary>
    public static Texts TitleOf(IEnumerable<Texts> names) => FormGroup.Together([.. names.Take(2)]);

    /// <summary>
    /// The first tab is named as the record is, the others by what is in them; a section alone needs no title of its own.
    /// </summary>
    private static Node Tab(int place, ImmutableArray<Node> sections, IEnumerable<Texts> names, Entity entity) =>
        place == 0
            ? Page("page", entity.Label, sections)
            : Page($"page{place + 1}", TitleOf(names), sections is [{ } only] ? [only.With("title", null)] : sections);

    private static Node Page(string id, Texts title, IEnumerable<Node> sections) =>
        Node.Of(NodeKind.Page, new NodeId(id), sections).With("title", new Value.Text(title));
}
