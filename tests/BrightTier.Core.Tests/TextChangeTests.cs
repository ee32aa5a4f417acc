using BrightTier.Core.Documents;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>What a document's history keeps: how one text became another.</summary>
public sealed class TextChangeTests
{
    private static readonly string[] Letters = ["a", "b", "\n", "é", "\U0001F6A2", "\U0001F6A3"];

    [Fact]
    public void It_leads_both_ways_and_cuts_no_character_in_two()
    {
        // Few letters, so that texts are alike in places; two that share half of their pair of surrogates.
        var text = Gen.Int[0, Letters.Length - 1].Select(i => Letters[i]).List[0, 12].Select(string.Concat);
        Gen.Select(text, text)
            .Sample(
                (before, after) =>
                {
                    var change = TextChange.Between(before, after);
                    change.Apply(before).ShouldBe(after);
                    change.Undo(after).ShouldBe(before);
                    foreach (var part in new[] { change.Was, change.Is })
                    {
                        part.IsNormalized().ShouldBeTrue("half a pair is no text");
                    }
                },
                iter: 5_000
            );
    }

    [Fact]
    public void It_keeps_the_place_alone_and_says_so_where_it_does_not_fit()
    {
        var change = TextChange.Between("label: Vessel\nfields: 62\n", "label: Ship\nfields: 62\n");
        (change.Was, change.Is).ShouldBe(("Vessel", "Ship"));
        change.Undo("label: Barge\nfields: 62\n").ShouldBeNull();
        change.Apply("").ShouldBeNull();
    }
}
