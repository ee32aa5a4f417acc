using System.Text.Json;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>Letters in either case: patterns take what another implementation's do (tests/vectors/folds.json, made by web/form).</summary>
public sealed class FoldVectorTests
{
    [Fact]
    public void Letters_are_the_same_in_either_case()
    {
        using var cases = JsonDocument.Parse(File.ReadAllText(VectorFiles.PathOf("folds.json")));
        var wrong = cases
            .RootElement.EnumerateArray()
            .Where(each =>
                WholePattern.Matches($"(?i){each.GetProperty("pattern").GetString()}", each.GetProperty("text").GetString()!)
                != each.GetProperty("matches").GetBoolean()
            )
            .Select(each => each.GetRawText());
        wrong.ShouldBeEmpty();
    }

    /// <summary>RE2 folds a class before it is turned round: what is no word character is none in either case.</summary>
    [Theory]
    [InlineData(@"(?i)\W", "s", false)]
    [InlineData(@"(?i)\W", "ſ", false)]
    [InlineData(@"(?i)\w", "ſ", true)]
    [InlineData(@"\w", "ſ", false)]
    [InlineData(@"(?i)\P{Lu}", "a", false)]
    [InlineData(@"(?i)\P{Lu}", "1", true)]
    [InlineData(@"(?i)[[:^lower:]]", "A", false)]
    [InlineData(@"(?i)[[:^lower:]]", "1", true)]
    [InlineData(@"(?i)[^\w]", "\u212A", false)]
    [InlineData(@"(?i:k)K", "\u212AK", true)]
    [InlineData(@"(?i:k)K", "K\u212A", false)]
    public void Classes_are_folded_before_they_are_turned_round(string pattern, string text, bool matches) =>
        WholePattern.Matches(pattern, text).ShouldBe(matches);
}
