using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

// Releases that reach more and more people, and are taken back by themselves.
public abstract partial class StagedReleaseTests
{
    [Fact]
    public async Task A_share_of_people_has_it_by_their_ids_and_keeps_it_as_the_share_grows_step_by_step()
    {
        using var greta = await service.As("greta");
        for (var i = 0; i < 60; i++)
        {
            await greta.PutPerson($"guest-{i}", new PersonRequest($"Guest {i}", ["quay-hand"], "en"), Cancel);
        }

        var now = service.Clock.GetUtcNow();
        var terms = new Rollout(People: ["bram"], Share: 20, Steps: [new(now.AddHours(1), 50), new(now.AddHours(3), 100)]);
        var receipt = await ada.Publish(new PublishRequest([new("layout", "vessel", await Retitle("Canvas"))], Rollout: terms), Cancel);

        receipt
            .Release.Rollout.ShouldNotBeNull()
            .ShouldSatisfyAllConditions(
                is_ => is_.Share.ShouldBe(20),
                is_ => is_.People.ShouldBe(["bram"]),
                is_ => is_.Steps!.Select(step => step.Share).ShouldBe([50, 100])
            );
        var first = await Having(2);
        first.ShouldContain("bram");
        first.Count.ShouldBeInRange(3, 30, "a fifth of 60, as chance has it");
        (await ada.Rollout(2, Cancel)).ShouldSatisfyAllConditions(
            state => state.Reached.ShouldBe(first.Count),
            state => state.Entities.ShouldBe(["vessel"])
        );
        foreach (var person in first.Take(2).Append((await Having(1)).First(id => id.StartsWith("guest", StringComparison.Ordinal))))
        {
            using var client = await service.As(person);
            (await client.Session(Cancel)).Release.ShouldBe(first.Contains(person) ? 2 : 1, person);
        }

        service.Clock.Forward(TimeSpan.FromMinutes(61));
        await Until(async () => (await ada.Release(2, Cancel)).Rollout!.Share == 50);
        var second = await Having(2);
        first.ShouldBeSubsetOf(second);
        second.Count.ShouldBeGreaterThan(first.Count);

        (await ada.Widen(2, 80, Cancel)).Rollout!.Share.ShouldBe(80, "by hand, at any time");
        second.ShouldBeSubsetOf(await Having(2));
        var less = await Wire.Refused(() => ada.Widen(2, 60, Cancel));
        (less.Status, less.Problems!.Single().Pointer).ShouldBe((400, "/share"));

        service.Clock.Forward(TimeSpan.FromHours(2));
        await Until(async () => (await ada.Release(2, Cancel)).State == "current");
        (await Wire.Refused(() => ada.Widen(2, 100, Cancel))).Code.ShouldBe("not-staged");
        (await Wire.Refused(() => ada.Rollout(2, Cancel))).Code.ShouldBe("not-staged");
    }

    [Fact]
    public async Task Those_whom_a_wider_share_reaches_are_told()
    {
        await ada.Publish(
            new PublishRequest([new("layout", "vessel", await Retitle("Canvas"))], Rollout: new(["harbour-office"], Share: 1)),
            Cancel
        );
        var his = await Follow("bram");

        await ada.Widen(2, 99, Cancel);
        await ada.Promote(2, Cancel);

        (await Next(his, "release")).ShouldBe("""{"release":2}""");
        (await bram.Session(Cancel)).Release.ShouldBe(2);
    }

    [Fact]
    public async Task A_release_with_which_saving_fails_is_taken_back_by_itself_and_says_why()
    {
        await Save(bram, 30, valid: true);
        await ada.Publish(new PublishRequest([new("layout", "vessel", await Retitle("Canvas"))], Rollout: new(["harbour-office"])), Cancel);
        await Save(ada, 12, valid: true);
        for (var i = 0; i < 12; i++)
        {
            await Save(ada, 3, valid: false);
            service.Clock.Forward(TimeSpan.FromSeconds(61));
        }

        await Until(async () => (await ada.Release(2, Cancel)).State == "stopped");

        // How many of them had been counted when it was judged depends on when that was.
        var reason = (await ada.Release(2, Cancel)).StopReason.ShouldNotBeNull();
        Regex
            .Match(reason, "^([0-9]+) of ([0-9]+) saves failed; with the release before 0 of 30[.]$")
            .ShouldSatisfyAllConditions(
                said => said.Success.ShouldBeTrue(reason),
                said => int.Parse(said.Groups[1].Value, CultureInfo.InvariantCulture).ShouldBeInRange(6, 12),
                said => int.Parse(said.Groups[2].Value, CultureInfo.InvariantCulture).ShouldBeInRange(20, 24)
            );
        (await Shows(ada, "Canvas"), await Shows(bram, "Canvas")).ShouldBe((false, false));
        (await ada.Session(Cancel)).Release.ShouldBe(1);
        using var greta = await service.As("greta");
        (await greta.Audit(null, "release.stopped", null, null, null, null, 20, null, Cancel)).Entries.Count.ShouldBe(1);
        (
            await ada.Publish(new PublishRequest([new("layout", "vessel", (await ada.Layout("vessel", Cancel)).Revision)]), Cancel)
        ).Release.Number.ShouldBe(3, "the draft is as it was");
    }

    [Fact]
    public async Task What_a_form_refuses_counts_as_a_save_that_failed_and_one_who_tries_again_counts_once()
    {
        await ada.Publish(
            new PublishRequest([new("layout", "vessel", await Retitle("Canvas"))], Rollout: new(["harbour-office"], Stops: false)),
            Cancel
        );
        using var http = await service.Http("ada");
        for (var i = 0; i < 5; i++)
        {
            using var said = await http.PostAsync("api/records/vessel/refused", null, Cancel);
            said.StatusCode.ShouldBe(System.Net.HttpStatusCode.NoContent);
        }

        using var elsewhere = await http.PostAsync("api/records/berth/refused", null, Cancel);
        using var nowhere = await http.PostAsync("api/records/submarine/refused", null, Cancel);
        nowhere.StatusCode.ShouldBe(System.Net.HttpStatusCode.NotFound);

        await Until(async () => (await ada.Rollout(2, Cancel)).Saves.Failed > 0);
        (await ada.Rollout(2, Cancel)).ShouldSatisfyAllConditions(
            state => state.Saves.ShouldBe(new SaveCount(0, 1), "what is entered for a berth is not of this form"),
            state => state.Rule.ShouldContain("10000")
        );
    }

    [Theory]
    [InlineData("""{}""", "/rollout")]
    [InlineData("""{"share":100}""", "/rollout/share")]
    [InlineData("""{"share":-1}""", "/rollout/share")]
    [InlineData("""{"roles":["harbor-office"]}""", "/rollout/roles/0")]
    [InlineData("""{"people":["ada","adda"]}""", "/rollout/people/1")]
    [InlineData("""{"share":10,"steps":[{"at":"2020-01-01T00:00:00Z","share":50}]}""", "/rollout/steps/0/at")]
    [InlineData("""{"share":10,"steps":[{"at":"2090-01-01T00:00:00Z","share":10}]}""", "/rollout/steps/0/share")]
    [InlineData("""{"share":10,"steps":[{"at":"2090-01-01T00:00:00Z","share":101}]}""", "/rollout/steps/0/share")]
    [InlineData(
        """{"share":10,"steps":[{"at":"2090-01-02T00:00:00Z","share":20},{"at":"2090-01-01T00:00:00Z","share":30}]}""",
        "/rollout/steps/1/at"
    )]
    public async Task Terms_that_cannot_be_kept_are_refused_where_they_are_wrong(string rollout, string pointer)
    {
        using var http = await service.Http("ada");
        var revision = (await ada.Layout("vessel", Cancel)).Revision;
        using var answer = await http.PostAsync(
            "api/releases",
            RunningService.Json($$"""{"documents":[{"kind":"layout","key":"vessel","revision":{{revision}}}],"rollout":{{rollout}}}"""),
            Cancel
        );

        answer.StatusCode.ShouldBe(System.Net.HttpStatusCode.BadRequest);
        Wire.Json(await answer.Content.ReadAsStringAsync(Cancel))
            .GetProperty("problems")[0]
            .GetProperty("pointer")
            .GetString()
            .ShouldBe(pointer);
    }

    /// <summary>The ids of those who have a release.</summary>
    private async Task<IReadOnlyList<string>> Having(long release)
    {
        var all = await ada.Holders(null, 0, 500, Cancel);
        all.People.Count.ShouldBe(all.Total);
        return [.. all.People.Where(holder => holder.Release == release).Select(holder => holder.Person)];
    }

    private static async Task Save(BrightTierClient client, int times, bool valid)
    {
        for (var i = 0; i < times; i++)
        {
            var record = await client.Record("vessel", 1, Cancel);
            var save = client.ChangeRecord(
                "vessel",
                1,
                record.Version,
                new RecordSave(Wire.Json(valid ? $$"""{"homePort":"Seen {{i}}"}""" : """{"name":""}""")),
                Cancel
            );
            if (valid)
            {
                await save;
            }
            else
            {
                (await Wire.Refused(() => save)).Status.ShouldBe(422);
            }
        }
    }
}
