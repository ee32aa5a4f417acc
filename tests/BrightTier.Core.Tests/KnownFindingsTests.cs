using BrightTier.Core.Documents;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

/// <summary>Findings that are kept are those there are.</summary>
public sealed class KnownFindingsTests
{
    /// <summary>
    /// Whatever of the definitions or of other layouts is changed, and changed back: what was found before is said again only where it
    /// would
    /// be found again.
    /// </summary>
    [Fact]
    public void What_is_known_of_a_layout_is_what_checking_it_anew_finds()
    {
        var start = Demo.Catalogue;
        var definitions = start.Definitions;
        var changes = definitions
            .Entities.Values.SelectMany(entity =>
                new[]
                {
                    start with
                    {
                        Definitions = definitions.With(entity with { Fields = entity.Fields[..^1] }),
                    },
                    start with
                    {
                        Definitions = definitions.With(entity with { Fields = entity.Fields[1..] }),
                    },
                }
            )
            .Concat(
                definitions.ChoiceLists.Values.Select(list =>
                    start.With(new Document.OfChoiceList(list with { Choices = list.Choices[1..] }))
                )
            )
            .Concat(definitions.Patterns.Values.Select(pattern => start.With(new Document.OfPattern(pattern with { Expression = "x" }))))
            .Append(start.With(new Document.OfApplication(definitions.Application with { Roles = [], Styles = [] })))
            .Concat(start.Layouts.Keys.Select(key => start with { Layouts = start.Layouts.Remove(key) }))
            .ToArray();
        var differing = 0;
        foreach (var next in changes)
        {
            foreach (var layout in start.Layouts.Values)
            {
                var before = Told(Checker.Known(layout, start));
                var anew = Told(Checker.Check(layout, next));
                Told(Checker.Known(layout, next)).ShouldBe(anew, layout.Key);
                Told(Checker.Known(layout, start)).ShouldBe(before, layout.Key);
                differing += anew.SequenceEqual(before) ? 0 : 1;
            }
        }

        differing.ShouldBeGreaterThan(20);

        static string[] Told(IEnumerable<Finding> findings) =>
            [.. findings.Select(each => $"{each.Severity} {each.Code} {each.Node} {each.Property}: {each.Message}")];
    }
}
