using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>A layout that is kept as its text is what it was, however often its tree is let go of.</summary>
public sealed class KeptLayoutsTests
{
    /// <summary>Holds one tree at a time.</summary>
    private readonly KeptLayouts tight = new(1);

    private static IEnumerable<(string Text, Layout Layout)> Every =>
        Demo
            .Files.Select(File.ReadAllText)
            .Select(text => (text, (DocumentFile.Read(text).Document as Document.OfLayout)?.Layout))
            .Where(each => each.Layout is not null)
            .Select(each => (each.text, each.Layout!));

    private static string Written(Layout layout) => DocumentFile.Write(new Document.OfLayout(layout));

    /// <summary>The same layout as a service has it that never read it: the text, and what another wrote down of it.</summary>
    private Layout Kept(string text, Layout layout) => tight.Of(text, LayoutHeadJson.Read(LayoutHeadJson.Write(layout.Head))!);

    [Fact]
    public void What_is_asked_of_it_among_thousands_is_what_its_tree_says()
    {
        foreach (var (text, layout) in Every)
        {
            var kept = Kept(text, layout);
            kept.ShouldSatisfyAllConditions(
                each => each.Key.ShouldBe(layout.Root.Word("key")),
                each => each.Kind.ShouldBe(layout.Root.Word("kind")),
                each => each.Entity.ShouldBe(layout.Root.Word("entity") ?? ""),
                each => each.Extends.ShouldBe(layout.Root.Word("extends")),
                each => each.IsArchived.ShouldBe(layout.Root.Flag("archived")),
                each => each.Title.ShouldBe(layout.Root.Text("title")),
                each => DocumentDependencies.OfLayout(each).ShouldBe(DocumentDependencies.OfLayout(layout))
            );
        }
    }

    [Fact]
    public void Whatever_is_done_with_it_comes_to_the_same() =>
        EditTests
            .Random(6)
            .Sample(
                seeds =>
                {
                    foreach (var (text, layout) in Every)
                    {
                        var (kept, open) = (Kept(text, layout), layout);
                        kept.ShouldBe(open);
                        kept.Count.ShouldBe(open.Count);
                        foreach (var seed in seeds)
                        {
                            var edit = EditTests.AnyEdit(open, seed);
                            var (one, other) = (kept.Apply([edit]), open.Apply([edit]));
                            (one.Refusal is null).ShouldBe(other.Refusal is null);
                            if (other.Layout is not null && one.Layout is not null)
                            {
                                Written(one.Layout).ShouldBe(Written(other.Layout));
                            }
                        }

                        foreach (var node in open.Walk())
                        {
                            kept.Find(node.Id).ShouldBe(node);
                            kept.ParentOf(node.Id).ShouldBe(open.ParentOf(node.Id));
                        }
                    }
                },
                iter: 20
            );

    /// <summary>A use is found in layouts that are kept as texts, whose words are asked first, as in those whose trees are there.</summary>
    [Fact]
    public void Everything_that_would_notice_a_change_is_found_in_it()
    {
        var open = Demo.Catalogue;
        var kept = Every.Aggregate(open, (all, each) => all.With(Kept(each.Text, each.Layout)));
        foreach (var subject in Impact.Subjects)
        {
            foreach (var name in Impact.Names(subject, open))
            {
                Impact.Of(subject, name, kept).ShouldBe(Impact.Of(subject, name, open), $"{subject} {name}");
            }
        }

        kept.SortedFields.ShouldBe(open.SortedFields, ignoreOrder: true);
    }

    [Theory]
    [InlineData("")]
    [InlineData("null")]
    [InlineData("[]")]
    [InlineData("{\"key\":1}")]
    public void What_was_not_written_by_a_reader_counts_for_nothing(string written) => LayoutHeadJson.Read(written).ShouldBeNull();

    [Fact]
    public void Trees_are_let_go_of_once_others_were_read()
    {
        var kept = Every.Select(each => Kept(each.Text, each.Layout)).ToArray();

        var first = Roots(kept);
        GC.Collect();

        first.Count(root => root.TryGetTarget(out _)).ShouldBe(1, "the one that was read last");
        kept.Select(layout => layout.Root.Word("key")).ShouldBe(kept.Select(layout => layout.Key));
    }

    [System.Runtime.CompilerServices.MethodImpl(System.Runtime.CompilerServices.MethodImplOptions.NoInlining)]
    private static WeakReference<Node>[] Roots(IEnumerable<Layout> layouts) =>
        [.. layouts.Select(layout => new WeakReference<Node>(layout.Root))];
}
