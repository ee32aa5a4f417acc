using System.Net.ServerSentEvents;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Releases that go to some roles first, or at a set time; the same on both databases.</summary>
public abstract partial class StagedReleaseTests : IAsyncLifetime
{
    private HostedService service = null!;
    private BrightTierClient ada = null!;
    private BrightTierClient bram = null!;

    /// <summary>The office has it first.</summary>
    private static Rollout Office => new(["harbour-office"]);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    protected abstract Task<HostedService> Begin();

    public async ValueTask InitializeAsync()
    {
        service = await Begin();
        ada = await service.As("ada");
        bram = await service.As("bram");
    }

    public async ValueTask DisposeAsync()
    {
        ada.Dispose();
        bram.Dispose();
        await service.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    [Fact]
    public async Task A_release_goes_to_some_roles_first_and_then_to_everyone()
    {
        var receipt = await ada.Publish(new PublishRequest([new("layout", "vessel", await Retitle("Canvas"))], "Try it", Office), Cancel);

        (receipt.Release.Number, receipt.Release.State, receipt.Release.Current).ShouldBe((2, "staged", false));
        (await Shows(ada, "Canvas"), await Shows(bram, "Canvas")).ShouldBe((true, false));
        (await ada.Session(Cancel)).Release.ShouldBe(2);
        (await bram.Session(Cancel)).Release.ShouldBe(1);
        (await ada.Layouts(Cancel)).Single(layout => layout.Key == "vessel").Published.ShouldBe(1, "what some have is not published yet");

        var next = await Wire.Refused(() => ada.Publish(new PublishRequest([new("layout", "berth", 1)]), Cancel));
        (next.Status, next.Code).ShouldBe((409, "release-staged"));

        (await ada.Promote(2, Cancel)).State.ShouldBe("current");
        (await Shows(ada, "Canvas"), await Shows(bram, "Canvas")).ShouldBe((true, true));
        (await ada.Layouts(Cancel))
            .Single(layout => layout.Key == "vessel")
            .ShouldSatisfyAllConditions(layout => layout.Published.ShouldBe(layout.Revision));
    }

    [Fact]
    public async Task A_release_called_off_leaves_everyone_with_the_same_and_its_number_is_not_given_again()
    {
        var file = await ada.File("entity", "vessel", Cancel);
        var entity = (
            await ada.PutFile(
                "entity",
                "vessel",
                file.Text.TrimEnd() + "\n  - key: lockerNumber\n    label: Locker\n    type: integer\n    added: true\n",
                file.Tag,
                Cancel
            )
        ).Revision;
        await ada.Publish(
            new PublishRequest([new("entity", "vessel", entity), new("layout", "vessel", await Retitle("Canvas"))], Rollout: Office),
            Cancel
        );
        var record = await ada.Record("vessel", 1, Cancel);
        (await ada.ChangeRecord("vessel", 1, record.Version, new RecordSave(Wire.Json("""{"lockerNumber":12}""")), Cancel))
            .Values.TryGetProperty("lockerNumber", out _)
            .ShouldBeTrue("those who have it save by it");
        var other = await bram.Record("vessel", 2, Cancel);
        (
            await Wire.Refused(() =>
                bram.ChangeRecord("vessel", 2, other.Version, new RecordSave(Wire.Json("""{"lockerNumber":12}""")), Cancel)
            )
        ).Status.ShouldBe(422);

        (await ada.Cancel(2, Cancel)).State.ShouldBe("cancelled");

        (await Shows(ada, "Canvas"), await Shows(bram, "Canvas")).ShouldBe((false, false));
        (await Wire.Refused(() => ada.Promote(2, Cancel))).Code.ShouldBe("not-staged");
        var again = await ada.Publish(new PublishRequest([new("layout", "vessel", (await ada.Layout("vessel", Cancel)).Revision)]), Cancel);
        (again.Release.Number, again.Release.Base).ShouldBe((3, 1));
        again
            .Release.Documents.Where(document => document.Change == "changed")
            .Select(document => document.Key)
            .ShouldBe(["vessel"], "it is compared with what it was made from");
        (await ada.Releases(Cancel)).Select(release => release.State).ShouldBe(["current", "cancelled", "past"]);
    }

    [Fact]
    public async Task Only_those_it_is_for_are_told_of_a_release_to_some()
    {
        var (hers, his) = (await Follow("ada"), await Follow("bram"));

        await ada.Publish(new PublishRequest([new("layout", "vessel", await Retitle("Canvas"))], Rollout: Office), Cancel);
        (await Next(hers, "release")).ShouldBe("""{"release":2}""");
        await ada.Cancel(2, Cancel);
        (await Next(hers, "release")).ShouldBe("""{"release":1}""", "it was taken back from her");
        await ada.Publish(new PublishRequest([new("layout", "vessel", (await ada.Layout("vessel", Cancel)).Revision)]), Cancel);
        (await Next(his, "release")).ShouldBe("""{"release":3}""", "of the one to some he heard nothing");
    }

    [Fact]
    public async Task A_release_set_for_a_time_goes_out_then_with_the_drafts_as_they_were()
    {
        var revision = await Retitle("Canvas");
        var plan = await ada.ScheduleRelease(
            new ScheduleRequest([new("layout", "vessel", revision)], service.Clock.GetUtcNow().AddHours(2), "Tonight"),
            Cancel
        );
        await Retitle("Something later");
        (await Shows(bram, "Canvas")).ShouldBeFalse();
        service.Clock.Forward(TimeSpan.FromHours(2));

        await Until(async () => (await ada.ScheduledReleases(Cancel)).Single().State == "published");

        (await ada.ScheduledReleases(Cancel))
            .Single()
            .ShouldSatisfyAllConditions(done => done.Id.ShouldBe(plan.Id), done => done.Release.ShouldBe(2));
        (await Shows(bram, "Canvas"), await Shows(bram, "Something later")).ShouldBe((true, false));
        (await ada.Layouts(Cancel))
            .Single(layout => layout.Key == "vessel")
            .ShouldSatisfyAllConditions(layout => layout.Published.ShouldBe(revision), layout => layout.Revision.ShouldBe(revision + 1));
    }

    [Fact]
    public async Task A_release_set_for_a_time_can_be_called_off_and_does_not_undo_what_was_published_since()
    {
        var first = await ada.ScheduleRelease(
            new ScheduleRequest([new("layout", "vessel", await Retitle("Canvas"))], DateTimeOffset.UtcNow.AddHours(1)),
            Cancel
        );
        (await ada.CancelScheduledRelease(first.Id, Cancel)).State.ShouldBe("cancelled");
        (await Wire.Refused(() => ada.CancelScheduledRelease(first.Id, Cancel))).Code.ShouldBe("not-scheduled");

        var second = await ada.ScheduleRelease(
            new ScheduleRequest(
                [new("layout", "vessel", (await ada.Layout("vessel", Cancel)).Revision)],
                service.Clock.GetUtcNow().AddHours(2)
            ),
            Cancel
        );
        await ada.Publish(new PublishRequest([new("layout", "vessel", await Retitle("Sails"))]), Cancel);
        service.Clock.Forward(TimeSpan.FromHours(2));

        await Until(async () => (await ada.ScheduledReleases(Cancel)).Single(plan => plan.Id == second.Id).State == "failed");
        (await ada.ScheduledReleases(Cancel))
            .Single(plan => plan.Id == second.Id)
            .Reason.ShouldNotBeNull()
            .ShouldContain("published differently");
        (await Shows(bram, "Sails")).ShouldBeTrue();
        (
            await Wire.Refused(() =>
                ada.ScheduleRelease(new ScheduleRequest([new("layout", "vessel", 1)], DateTimeOffset.UtcNow.AddHours(-1)), Cancel)
            )
        )
            .Problems!.Single()
            .Pointer.ShouldBe("/at");
    }

    [Fact]
    public async Task What_went_to_some_goes_to_everyone_by_itself_at_its_time_and_a_plan_waits_for_it()
    {
        await ada.Publish(
            new PublishRequest(
                [new("layout", "vessel", await Retitle("Canvas"))],
                Rollout: Office with
                {
                    Steps = [new(service.Clock.GetUtcNow().AddHours(2), 100)],
                }
            ),
            Cancel
        );
        var berth = await ada.Layout("berth", Cancel);
        var edited = await ada.Edit(
            "berth",
            new EditRequest(berth.Revision, Wire.Json("""[{"op":"set","node":"place","property":"title","value":"Where it is"}]""")),
            Cancel
        );
        await ada.ScheduleRelease(
            new ScheduleRequest([new("layout", "berth", edited.Revision)], service.Clock.GetUtcNow().AddHours(1)),
            Cancel
        );

        service.Clock.Forward(TimeSpan.FromMinutes(61));
        await Until(async () =>
            (await ada.ScheduledReleases(Cancel)).Single().Reason is { } reason && reason.Contains("waits for release 2")
        );
        service.Clock.Forward(TimeSpan.FromHours(1));
        await Until(async () => (await ada.ScheduledReleases(Cancel)).Single().State == "published");

        (await ada.Releases(Cancel))
            .Select(release => (release.Number, release.State))
            .ShouldBe([(3, "current"), (2, "past"), (1, "past")]);
        (await Shows(bram, "Canvas")).ShouldBeTrue();
    }

    [Fact]
    public async Task How_many_have_drawn_a_release_is_counted_as_they_say_so()
    {
        await using var stream = await Follow("bram");
        var hello = Wire.Json(stream.Current.Data);
        (await Adopted(1)).ShouldBe((1, 0), "a stream that is open has drawn nothing yet");

        using var http = await service.Http("bram");
        using var said = await http.PostAsync(
            "api/events/acknowledge",
            RunningService.Json($$"""{"stream":"{{hello.GetProperty("stream").GetString()}}","release":1}"""),
            Cancel
        );
        using var another = await service.Http("esme");
        using var forged = await another.PostAsync(
            "api/events/acknowledge",
            RunningService.Json($$"""{"stream":"{{hello.GetProperty("stream").GetString()}}","release":7}"""),
            Cancel
        );

        await Until(async () => await Adopted(1) == (1, 1));
        (await Adopted(7)).ShouldBe((1, 0), "nobody speaks for another's stream");

        async Task<(int, int)> Adopted(long release)
        {
            var found = await ada.Adoption(release, Cancel);
            return (found.Open, found.Drawn);
        }
    }

    private async Task<long> Retitle(string title)
    {
        var draft = await ada.Layout("vessel", Cancel);
        return (
            await ada.Edit(
                "vessel",
                new EditRequest(draft.Revision, Wire.Json($$"""[{"op":"set","node":"rig","property":"title","value":"{{title}}"}]""")),
                Cancel
            )
        ).Revision;
    }

    private static async Task<bool> Shows(BrightTierClient client, string title) =>
        (await client.Form("vessel", "edit", Cancel)).GetRawText().Contains(title, StringComparison.Ordinal);

    private async Task<IAsyncEnumerator<SseItem<string>>> Follow(string person)
    {
        var http = await service.Http(person);
        var events = SseParser.Create(await http.GetStreamAsync("api/events", Cancel)).EnumerateAsync(Cancel).GetAsyncEnumerator(Cancel);
        await events.MoveNextAsync();
        return events;
    }

    private static async Task<string> Next(IAsyncEnumerator<SseItem<string>> events, string type)
    {
        while (await events.MoveNextAsync())
        {
            if (events.Current.EventType == type)
            {
                return events.Current.Data;
            }
        }

        return "";
    }

    private static async Task Until(Func<Task<bool>> holds)
    {
        for (var attempt = 0; attempt < 300; attempt++)
        {
            if (await holds())
            {
                return;
            }

            await Task.Delay(50, Cancel);
        }

        throw new TimeoutException("It did not come about.");
    }
}

public sealed class SqliteStagedReleaseTests : StagedReleaseTests
{
    protected override async Task<HostedService> Begin() => await HostedService.WithDemo();
}

public sealed class PostgresStagedReleaseTests(Postgres postgres) : StagedReleaseTests
{
    protected override async Task<HostedService> Begin() => await HostedService.On(await (await postgres.Server).NewDemoDatabase());
}
