using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>The service killed between any two steps of a publish: the old release or the new one, whole.</summary>
public sealed class SurvivalTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("checked", 1)]
    [InlineData("tables-defined", 1)]
    [InlineData("contents-stored", 1)]
    [InlineData("before-commit", 1)]
    [InlineData("committed", 2)]
    [InlineData("current", 2)]
    public async Task Killed_at_a_step_of_a_publish_one_release_or_the_other_is_whole(string step, long expected)
    {
        await using var service = await HostedService.WithDemo();
        long vessel,
            entity;
        using (var before = await service.As("ada"))
        {
            vessel = await Canvas(before);
            var file = await before.File("entity", "berth", Cancel);
            entity = (
                await before.PutFile(
                    "entity",
                    "berth",
                    file.Text.TrimEnd() + "\n  - key: lockerNumber\n    type: integer\n",
                    file.Tag,
                    Cancel
                )
            ).Revision;
        }

        await service.Kill();
        await using var killed = await ServiceProcess.InPlaceOf(service, "--KillAt", step);
        using (var publishing = await killed.As("ada"))
        {
            await Should.ThrowAsync<UnreachableException>(() => publishing.Publish(Request(vessel, entity), Cancel));
        }

        await killed.HasEnded(Cancel);
        await service.Restart();

        using var ada = await service.As("ada");
        var releases = await ada.Releases(Cancel);
        releases.Single(release => release.Current).Number.ShouldBe(expected);
        (await Shown(ada)).ShouldBe(expected == 2);
        (await ada.Entity("berth", Cancel)).Fields.Any(field => field.Key == "lockerNumber").ShouldBe(expected == 2);
        (await ada.Records("berth", null, null, null, null, 50, Cancel)).Total.ShouldBe(10);
        (await ada.Layout("vessel", Cancel)).Revision.ShouldBe(vessel);

        // What was interrupted can simply be done again.
        if (expected == 1)
        {
            (await ada.Publish(Request(vessel, entity), Cancel)).Release.Number.ShouldBe(2);
        }
    }

    /// <summary>A release that goes to some roles first, and what ends that: all of it, or none.</summary>
    [Theory]
    [InlineData("before-commit", null)]
    [InlineData("committed", "staged")]
    [InlineData("before-end", "staged")]
    [InlineData("ended", "everyone")]
    public async Task Killed_at_a_step_of_a_release_to_some_all_have_what_they_had_or_what_they_were_to_have(string step, string? expected)
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var vessel = await Canvas(ada);
        var request = new PublishRequest([new("layout", "vessel", vessel)], Rollout: new(["harbour-office"]));
        var ending = step.EndsWith("end", StringComparison.Ordinal) || step == "ended";
        if (ending)
        {
            await ada.Publish(request, Cancel);
        }

        await service.Kill();
        await using var killed = await ServiceProcess.InPlaceOf(service, "--KillAt", step);
        await Should.ThrowAsync<UnreachableException>(() => ending ? ada.Promote(2, Cancel) : ada.Publish(request, Cancel));
        await killed.HasEnded(Cancel);
        await service.Restart();

        (await ada.Releases(Cancel))
            .SingleOrDefault(release => release.Number == 2)
            ?.State.ShouldBe(expected == "everyone" ? "current" : expected);
        using var bram = await service.As("bram");
        (await Shown(ada), await Shown(bram)).ShouldBe((expected is not null, expected == "everyone"));
        using var greta = await service.As("greta");
        (
            await greta.Audit(
                null,
                expected == "everyone" ? "release.promoted" : "release.published",
                "release/2",
                null,
                null,
                null,
                5,
                null,
                Cancel
            )
        ).Entries.Count.ShouldBe(expected is null ? 0 : 1);

        // It is gone on with from there.
        if (expected is null)
        {
            await ada.Publish(request, Cancel);
        }

        if (expected != "everyone")
        {
            await ada.Promote(2, Cancel);
        }

        (await Shown(bram)).ShouldBeTrue();
    }

    /// <summary>A plan that is being carried out: once, whenever the process died.</summary>
    [Fact]
    public Task Killed_at_a_step_of_a_planned_release_it_is_made_once() =>
        Task.WhenAll(new[] { "contents-stored", "before-commit", "committed" }.Select(MadeOnce));

    /// <summary>Whoever is gone keeps the others from a planned release for a while, which passes for all of them at once.</summary>
    private static async Task MadeOnce(string step)
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var vessel = await Canvas(ada);
        await service.Kill();
        await using var killed = await ServiceProcess.InPlaceOf(service, "--KillAt", step);
        await ada.ScheduleRelease(
            new ScheduleRequest([new("layout", "vessel", vessel)], DateTimeOffset.UtcNow.AddSeconds(8), "Canvas"),
            Cancel
        );
        await killed.HasEnded(Cancel);
        await service.Restart();

        ScheduledReleaseInfo plan;
        while ((plan = (await ada.ScheduledReleases(Cancel)).Single()).State == "scheduled")
        {
            await Task.Delay(100, Cancel);
        }

        (plan.State, plan.Release).ShouldBe(("published", 2), step);
        (await ada.Releases(Cancel)).Select(release => release.Number).ShouldBe([2, 1], step);
        (await Shown(ada)).ShouldBeTrue(step);
    }

    [Fact]
    public async Task What_was_acknowledged_is_there_after_a_kill()
    {
        await using var service = await ServiceProcess.WithDemo();
        using (var ada = await service.As("ada"))
        {
            await ada.CreateRecord("berth", new RecordSave(Wire.Json("""{"code":"E7","pontoon":"East pontoon","zone":"outer"}""")), Cancel);
        }

        await service.Kill();
        await service.Restart();

        using var after = await service.As("ada");
        (await after.Records("berth", "East", null, null, null, 5, Cancel)).Records.Single().Title.ShouldBe("E7, East pontoon");
    }

    private static async Task<long> Canvas(BrightTierClient ada)
    {
        var draft = await ada.Layout("vessel", Cancel);
        return (
            await ada.Edit(
                "vessel",
                new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"rig","property":"title","value":"Canvas"}]""")),
                Cancel
            )
        ).Revision;
    }

    private static async Task<bool> Shown(BrightTierClient person) =>
        (await person.Form("vessel", "edit", Cancel)).GetRawText().Contains("Canvas");

    private static PublishRequest Request(long vessel, long entity) =>
        new([new("layout", "vessel", vessel), new("entity", "berth", entity)], "Canvas");
}
