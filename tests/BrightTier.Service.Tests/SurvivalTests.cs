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
        await using var service = await RunningService.WithDemo();
        long vessel, entity;
        using (var before = await service.As("ada"))
        {
            var draft = await before.Layout("vessel", Cancel);
            vessel = (await before.Edit("vessel", new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"rig","property":"title","value":"Canvas"}]""")), Cancel)).Revision;
            var file = await before.File("entity", "berth", Cancel);
            entity = (await before.PutFile("entity", "berth", file.Text.TrimEnd() + "\n  - key: lockerNumber\n    type: integer\n", file.Tag, Cancel)).Revision;
        }

        await service.Kill();
        await service.Restart("--KillAt", step);
        using (var publishing = await service.As("ada"))
        {
            await Should.ThrowAsync<UnreachableException>(() => publishing.Publish(Request(vessel, entity), Cancel));
        }

        await service.HasEnded(Cancel);
        await service.Restart();

        using var ada = await service.As("ada");
        var releases = await ada.Releases(Cancel);
        releases.Single(release => release.Current).Number.ShouldBe(expected);
        var form = (await ada.Form("vessel", "edit", Cancel)).GetRawText();
        form.Contains("Canvas").ShouldBe(expected == 2);
        (await ada.Entity("berth", Cancel)).Fields.Any(field => field.Key == "lockerNumber").ShouldBe(expected == 2);
        (await ada.Records("berth", null, null, null, null, 50, Cancel)).Total.ShouldBe(10);
        (await ada.Layout("vessel", Cancel)).Revision.ShouldBe(vessel);

        // What was interrupted can simply be done again.
        if (expected == 1)
        {
            (await ada.Publish(Request(vessel, entity), Cancel)).Release.Number.ShouldBe(2);
        }
    }

    [Fact]
    public async Task What_was_acknowledged_is_there_after_a_kill()
    {
        await using var service = await RunningService.WithDemo();
        using (var ada = await service.As("ada"))
        {
            await ada.CreateRecord("berth", new RecordSave(Wire.Json("""{"code":"E7","pontoon":"East pontoon","zone":"outer"}""")), Cancel);
        }

        await service.Kill();
        await service.Restart();

        using var after = await service.As("ada");
        (await after.Records("berth", "East", null, null, null, 5, Cancel)).Records.Single().Title.ShouldBe("E7, East pontoon");
    }

    private static PublishRequest Request(long vessel, long entity) => new([new("layout", "vessel", vessel), new("entity", "berth", entity)], "Canvas");
}
