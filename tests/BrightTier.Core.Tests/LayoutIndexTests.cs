using BrightTier.Core.Model;
using BrightTier.Core.Validation;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>What is looked up by an index that is carried along is what going through all layouts finds.</summary>
public sealed class LayoutIndexTests
{
    private static readonly string[] Keys = ["vessel", "berth", "a", "b", "c", "d"];
    private static readonly string[] Kinds = ["full", "short", "list", "piece"];
    private static readonly string[] Entities = ["vessel", "berth"];

    /// <summary>A small layout decided by a number: of some kind, some extending or holding others, some archived.</summary>
    private static Layout Any(int seed)
    {
        var random = new Random(seed);
        string One(string[] of) => of[random.Next(of.Length)];
        var parts = new List<Node>();
        for (var i = random.Next(3); i > 0; i--)
        {
            parts.Add(Node.Of(NodeKind.Piece, new NodeId($"p{i}")).With("piece", new Value.Word(One(Keys))));
        }

        if (random.Next(3) == 0)
        {
            parts.Add(Node.Of(NodeKind.Related, new NodeId("r")).With("related", new Value.Word(One(Entities))));
        }

        var root = Node.Of(NodeKind.Layout, new NodeId("layout"), parts)
            .With("key", new Value.Word(One(Keys)))
            .With("kind", new Value.Word(One(Kinds)))
            .With("entity", new Value.Word(One(Entities)))
            .With("sort", new Value.Words([One(["name", "-code"])]));
        root = random.Next(3) == 0 ? root.With("extends", new Value.Word(One(Keys))) : root;
        return Layout.Of(random.Next(5) == 0 ? root.With("archived", new Value.Flag(true)) : root);
    }

    private static Catalogue After(Catalogue catalogue, int[] seeds, bool asked) => seeds.Aggregate(catalogue, (all, seed) =>
        {
            // Whether it was there before a layout was put in decides whether it is carried along or made anew.
            _ = asked ? all.Index : null;
            return all.With(Any(seed));
        });

    [Fact]
    public void However_layouts_were_put_in_it_says_the_same() =>
        EditTests
            .Random(40)
            .Sample(
                seeds =>
                {
                    var carried = After(Catalogue.Empty, seeds, asked: true);
                    var anew = Catalogue.Empty.With(seeds.Select(Any));
                    carried.Layouts.ShouldBe(anew.Layouts);
                    carried.Archived.ShouldBe(anew.Archived);
                    foreach (var catalogue in new[] { carried, anew })
                    {
                        var all = catalogue.Layouts.Values.ToArray();
                        foreach (var key in Keys)
                        {
                            catalogue.Index.Naming(key).ShouldBe(Those(all, each => each.Head.Layouts.Contains(key)));
                        }

                        foreach (var entity in Entities)
                        {
                            catalogue.Index.Showing(entity).ShouldBe(Those(all, each => each.Head.Entities.Contains(entity)));
                            foreach (var kind in Kinds)
                            {
                                var those = Those(all, each => each.Entity == entity && each.Kind == kind);
                                catalogue.Index.Of(entity, kind).ShouldBe(those);
                                catalogue.First(entity, kind)?.Key.ShouldBe(those.Contains(entity) ? entity : those[0]);
                            }
                        }

                        catalogue.Index.Sorts.ShouldBe(all.Select(each => (each.Entity, each.Kind)).Distinct(), ignoreOrder: true);
                    }
                },
                iter: 2_000
            );

    /// <summary>Those that may have other findings, given what was changed, are those found by comparing all.</summary>
    [Fact]
    public void What_a_change_reaches_is_found_from_what_was_changed() =>
        Gen.Select(EditTests.Random(30), EditTests.Random(4))
            .Sample(
                (seeds, more) =>
                {
                    var before = After(Catalogue.Empty, seeds, asked: false);
                    var next = After(before, more, asked: true);

                    var found = AffectedLayouts.Between(before, next, more.Select(seed => Any(seed).Key)).ToArray();

                    found.ShouldBe(AffectedLayouts.Between(before, next));
                    var reached = Keys.Where(key =>
                            !ReferenceEquals(before.Layouts.GetValueOrDefault(key), next.Layouts.GetValueOrDefault(key))
                        )
                        .ToHashSet();
                    while (next.Layouts.Values.Any(each => each.Head.Layouts.Any(reached.Contains) && reached.Add(each.Key)))
                    {
                        // As far as it goes.
                    }

                    found.Select(layout => layout.Key).ShouldBe(reached.Where(next.Layouts.ContainsKey).Order(StringComparer.Ordinal));
                },
                iter: 2_000
            );

    private static string[] Those(IEnumerable<Layout> all, Func<Layout, bool> which) =>
        [.. all.Where(which).Select(layout => layout.Key).Order(StringComparer.Ordinal)];
}
