using BrightTier.Core.Edits;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>Where two ways parted, when either side may have gone back to what it had before.</summary>
public sealed class HistoriesTests
{
    [Theory]
    [InlineData("a", "b", null)]
    [InlineData("a", "a", 0)]
    [InlineData("a", "abc", 0)]
    [InlineData("abc", "abd", 1)]
    [InlineData("ab", "aba", 1, "there one went back")]
    [InlineData("aba", "ab", 1, "here one went back")]
    [InlineData("aba", "aba", 2, "and that was taken")]
    [InlineData("abab", "aba", 2, "and gone back on here once more")]
    [InlineData("ac", "abca", 1, "not everything was taken")]
    [InlineData("acxbd", "zab", 3, "what one side alone had counts for nothing")]
    [InlineData("", "a", null)]
    public void The_last_they_had_in_common_is_found(string here, string there, int? expected, string because = "") =>
        MergeBase.Find([.. here.Select(each => each.ToString())], [.. there.Select(each => each.ToString())]).ShouldBe(expected, because);

    [Fact]
    public void Whoever_took_some_of_what_the_other_had_and_went_on_alone_parted_at_what_it_took_last() =>
        Gen.Select(Gen.Char['a', 'c'].List[1, 8], Gen.Bool.List[8], Gen.Int[0, 4])
            .Sample(
                (sent, taken, alone) =>
                {
                    var there = sent.Select(each => each.ToString()).ToArray();
                    var took = there.Where((_, i) => taken[i]).ToArray();
                    var found = MergeBase.Find([.. took, .. Enumerable.Range(0, alone).Select(i => $"alone {i}")], there);

                    found.ShouldBe(took.Length == 0 ? null : took.Length - 1);
                }
            );
}
