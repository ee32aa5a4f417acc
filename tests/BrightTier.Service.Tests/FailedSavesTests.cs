extern alias service;

using BrightTier.Contracts;
using service::BrightTier.Service.Publication;
using service::BrightTier.Service.Snapshots;

namespace BrightTier.Service.Tests;

/// <summary>The rule by which a release is taken back by itself, and who has a share of it, reckoned without a service.</summary>
public sealed class FailedSavesTests
{
    [Theory]
    [InlineData(10, 9, 1000, 0, false, "of 19 nothing is concluded")]
    [InlineData(10, 10, 1000, 10, true, "half of them fail")]
    [InlineData(96, 4, 9_700, 300, false, "one more of a hundred is not markedly more")]
    [InlineData(90, 10, 970, 30, false, "chance does so too often for so few")]
    [InlineData(900, 100, 9_700, 300, true, "the same rates of ten times as many are beyond chance")]
    [InlineData(0, 20, 0, 0, true, "where the one before was never saved with, one in twenty is taken for it")]
    [InlineData(15, 5, 0, 0, false, "five of twenty may be chance")]
    [InlineData(20, 0, 0, 20, false, "fewer fail than before")]
    [InlineData(700_000, 300_000, 9_000_000, 1_000_000, true, "many are reckoned as well")]
    public void A_release_is_taken_back_where_saving_fails_markedly_more_often(
        long saved,
        long failed,
        long savedBefore,
        long failedBefore,
        bool marked,
        string because
    ) => new FailedSaves(new SaveCount(saved, failed), new SaveCount(savedBefore, failedBefore)).AreMarked.ShouldBe(marked, because);

    /// <summary>Fisher's own example: eight cups, four of them rightly told by chance once in seventy times, three or four 17
    /// times.</summary>
    [Theory]
    [InlineData(4, 4, 0, 4, 1 / 70.0)]
    [InlineData(3, 4, 1, 4, 17 / 70.0)]
    [InlineData(0, 4, 4, 4, 1.0)]
    public void Chance_is_what_counting_all_ways_gives(long failed, long tried, long failedBefore, long triedBefore, double probability) =>
        FailedSaves.ByChance(failed, tried, failedBefore, triedBefore).ShouldBe(probability, 1e-9);

    [Fact]
    public void Chance_agrees_with_drawing_lots()
    {
        var random = new Random(26);
        for (var round = 0; round < 20; round++)
        {
            var (tried, before, failures) = (random.Next(5, 30), random.Next(5, 30), random.Next(2, 10));
            var failed = random.Next(0, failures + 1);
            var hits = 0;
            const int Draws = 20_000;
            var lots = Enumerable.Range(0, tried + before).Select(i => i < failures).ToArray();
            for (var draw = 0; draw < Draws; draw++)
            {
                random.Shuffle(lots);
                hits += lots.Take(tried).Count(fails => fails) >= failed ? 1 : 0;
            }

            FailedSaves.ByChance(failed, tried, failures - failed, before).ShouldBe((double)hits / Draws, 0.02);
        }
    }

    [Fact]
    public void Everybody_has_one_place_of_a_hundred_and_another_at_the_next_release()
    {
        var people = Enumerable.Range(0, 10_000).Select(i => $"person-{i}").ToArray();
        var places = people.Select(person => Audience.PlaceOf(7, person)).ToArray();

        places.ShouldBe(people.Select(person => Audience.PlaceOf(7, person)));
        places.ShouldAllBe(place => place >= 0 && place < 100);
        places.Count(place => place < 10).ShouldBeInRange(850, 1_150, "a tenth of them");
        people.Count(person => Audience.PlaceOf(8, person) == Audience.PlaceOf(7, person)).ShouldBeLessThan(200, "others come first");
        // What is drawn must not depend on which machine draws it.
        (Audience.PlaceOf(1, "ada"), Audience.PlaceOf(2, "bram"), Audience.PlaceOf(3, "é")).ShouldBe((22, 73, 72));
    }
}
