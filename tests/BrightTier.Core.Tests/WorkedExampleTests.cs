using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

public sealed class WorkedExampleTests
{
    public static TheoryData<string> Keys => [.. WorkedExamples.All.Select(example => example.Key)];

    [Theory]
    [MemberData(nameof(Keys))]
    public void Whatever_it_is_made_of_an_example_passes_every_check_and_says_how_it_is_done(string key)
    {
        var example = WorkedExamples.Find(key).ShouldNotBeNull();
        var made = Demo.Definitions.Entities.Values.Select(entity => example.Make(entity, Demo.Definitions)).OfType<Layout>().ToArray();
        made.ShouldNotBeEmpty();
        foreach (var layout in made)
        {
            Checker
                .Check(layout, Demo.Catalogue)
                .Where(finding => finding.Severity is Severity.Error)
                .Select(finding => finding.Message)
                .ShouldBeEmpty(layout.Entity);
            layout.Root.Walk().Count(node => node.Text("note") is not null).ShouldBeGreaterThan(0);
        }
    }

    [Fact]
    public void An_entity_without_the_fields_an_example_needs_has_none()
    {
        var bare = Demo.Definitions.Entities["vessel"] with { Fields = [.. Demo.Definitions.Entities["vessel"].Fields.Take(2)] };
        WorkedExamples.Find("tall-beside-short")!.Make(bare, Demo.Definitions).ShouldBeNull();
        WorkedExamples.Find("columns")!.Make(bare, Demo.Definitions).ShouldBeNull();
    }
}
