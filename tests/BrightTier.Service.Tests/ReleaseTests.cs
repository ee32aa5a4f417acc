using System.Net;
using System.Net.ServerSentEvents;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Publishing changes what everyone has, so these tests have a service of their own.</summary>
public sealed class ReleaseTests : IAsyncLifetime
{
    private RunningService service = null!;
    private BrightTierClient ada = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        service = await RunningService.WithDemo();
        ada = await service.As("ada");
    }

    public async ValueTask DisposeAsync()
    {
        ada.Dispose();
        await service.DisposeAsync();
    }

    [Fact]
    public async Task Drafts_are_published_together_reach_everyone_and_can_be_gone_back_from()
    {
        using var bram = await service.Http("bram");
        using var before = await bram.GetAsync("api/forms/vessel", Cancel);
        var vessel = await Retitle("vessel", "identity", "Who she is");
        var berth = await Retitle("berth", "place", "Where it is");

        var receipt = await ada.Publish(new PublishRequest([new("layout", "vessel", vessel), new("layout", "berth", berth)], "Plainer words"), Cancel);

        receipt.Release.Number.ShouldBe(2);
        receipt.Release.Documents.Where(document => document.Change == "changed").Select(document => document.Key).ShouldBe(["berth", "vessel"]);
        using var request = new HttpRequestMessage(HttpMethod.Get, "api/forms/vessel") { Headers = { { "If-None-Match", before.Headers.ETag!.ToString() } } };
        using var after = await bram.SendAsync(request, Cancel);
        after.StatusCode.ShouldBe(HttpStatusCode.OK);
        after.Headers.GetValues("Bright-Release").Single().ShouldBe("2");
        (await after.Content.ReadAsStringAsync(Cancel)).ShouldContain("Who she is");

        (await ada.Restore(1, new RestoreRequest("Back"), Cancel)).Release.ShouldSatisfyAllConditions(release => release.Number.ShouldBe(3), release => release.Restores.ShouldBe(1));
        using var back = await bram.GetAsync("api/forms/vessel", Cancel);
        back.Headers.ETag.ShouldBe(before.Headers.ETag);
        (await ada.Layout("vessel", Cancel)).Revision.ShouldBe(vessel);
        (await ada.Releases(Cancel)).Select(release => (release.Number, release.Current)).ShouldBe([(3, true), (2, false), (1, false)]);
    }

    [Fact]
    public async Task One_document_of_an_old_release_comes_back_alone_and_the_others_stay()
    {
        using var bram = await service.Http("bram");
        await ada.Publish(new PublishRequest([new("layout", "vessel", await Retitle("vessel", "identity", "Who she is")), new("layout", "berth", await Retitle("berth", "place", "Where it is"))]), Cancel);

        var receipt = await ada.Restore(1, new RestoreRequest(Documents: [new("layout", "berth")]), Cancel);

        receipt.Release.ShouldSatisfyAllConditions(release => release.Number.ShouldBe(3), release => release.Restores.ShouldBeNull(), release => release.Note.ShouldBe("layout berth as in release 1"));
        (await bram.GetStringAsync("api/forms/vessel", Cancel)).ShouldContain("Who she is");
        (await bram.GetStringAsync("api/forms/berth", Cancel)).ShouldNotContain("Where it is");
        var refused = await Wire.Refused(() => ada.Restore(1, new RestoreRequest(Documents: [new("layout", "berth"), new("layout", "bert")]), Cancel));
        (refused.Status, refused.Problems!.Single().Pointer).ShouldBe((400, "/documents/1"));
    }

    [Fact]
    public async Task What_a_draft_rests_on_is_told_as_far_as_it_was_changed_too_and_goes_out_with_it()
    {
        await Retitle("vessel", "identity", "Who she is");
        (await ada.Along(["layout/vessel"], Cancel)).ShouldBeEmpty();
        var file = await ada.File("choice-list", "propulsion", Cancel);
        await ada.PutFile("choice-list", "propulsion", file.Text.Replace("Petrol", "Petrol engine"), file.Tag, Cancel);
        var entity = await ada.File("entity", "vessel", Cancel);
        await ada.PutFile("entity", "vessel", entity.Text.TrimEnd() + "\n  - key: lockerNumber\n    type: integer\n", entity.Tag, Cancel);

        (await ada.Along(["layout/vessel"], Cancel)).Select(each => (each.Kind, each.Key, each.ForKey)).ShouldBe([("choice-list", "propulsion", "vessel"), ("entity", "vessel", "vessel")]);
        (await Wire.Refused(() => ada.Along(["layout/vesel"], Cancel))).Status.ShouldBe(400);
    }

    [Fact]
    public async Task A_form_that_has_not_changed_costs_no_bytes()
    {
        using var bram = await service.Http("bram");
        using var first = await bram.GetAsync("api/forms/vessel", Cancel);
        using var request = new HttpRequestMessage(HttpMethod.Get, "api/forms/vessel") { Headers = { { "If-None-Match", first.Headers.ETag!.ToString() } } };
        using var again = await bram.SendAsync(request, Cancel);
        again.StatusCode.ShouldBe(HttpStatusCode.NotModified);
    }

    [Fact]
    public async Task Publishing_names_revisions_and_an_edit_that_came_later_is_not_swept_along()
    {
        var revision = (await ada.Layout("vessel", Cancel)).Revision;
        await Retitle("vessel", "rig", "Canvas");

        var problem = await Wire.Refused(() => ada.Publish(new PublishRequest([new("layout", "vessel", revision)]), Cancel));

        (problem.Status, problem.Code).ShouldBe((409, "draft-moved-on"));
        (await ada.Releases(Cancel)).Count.ShouldBe(1);
    }

    [Fact]
    public async Task Nothing_is_published_while_an_error_stands_in_any_of_it()
    {
        var berth = await Retitle("berth", "place", "Where it is");
        var draft = await ada.Layout("vessel", Cancel);
        var broken = await ada.Edit("vessel", new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"rig","property":"visible","value":"record.propulsoin == 'sail'"}]""")), Cancel);

        var problem = await Wire.Refused(() => ada.Publish(new PublishRequest([new("layout", "berth", berth), new("layout", "vessel", broken.Revision)]), Cancel));

        problem.Code.ShouldBe("findings");
        problem.Problems![0].Pointer.ShouldBe("layout/vessel/rig");
        problem.Problems[0].Message.ShouldContain("did you mean 'propulsion'?");
        (await ada.Releases(Cancel)).Count.ShouldBe(1);
    }

    [Fact]
    public async Task Fields_added_in_a_draft_have_their_place_in_the_table_at_publishing_and_never_go_missing()
    {
        var file = await ada.File("entity", "berth", Cancel);
        var added = file.Text.TrimEnd() + "\n  - key: lockerNumber\n    label: Locker\n    type: integer\n    added: true\n";
        var saved = await ada.PutFile("entity", "berth", added, file.Tag, Cancel);
        await ada.Publish(new PublishRequest([new("entity", "berth", saved.Revision)]), Cancel);
        var record = await ada.Record("berth", 1, Cancel);
        (await ada.ChangeRecord("berth", 1, record.Version, new RecordSave(Wire.Json("""{"lockerNumber":12}""")), Cancel)).Values.GetProperty("lockerNumber").GetInt32().ShouldBe(12);

        var gone = await ada.PutFile("entity", "berth", file.Text, $"\"{saved.Revision}\"", Cancel);
        var problem = await Wire.Refused(() => ada.Publish(new PublishRequest([new("entity", "berth", gone.Revision)]), Cancel));
        problem.Detail.ShouldNotBeNull().ShouldContain("retired");
    }

    [Fact]
    public async Task Open_streams_are_told_of_a_release_resume_where_they_were_and_drafts_are_told_to_configurators_only()
    {
        using var bram = await service.Http("bram");
        await using var stream = await bram.GetStreamAsync("api/events", Cancel);
        var events = SseParser.Create(stream).EnumerateAsync(Cancel).GetAsyncEnumerator(Cancel);
        await events.MoveNextAsync();
        events.Current.EventType.ShouldBe("hello");
        Wire.Json(events.Current.Data).GetProperty("release").GetInt64().ShouldBe(1);
        var last = events.Current.EventId;

        var revision = await Retitle("vessel", "rig", "Canvas");
        await ada.Publish(new PublishRequest([new("layout", "vessel", revision)]), Cancel);
        await events.MoveNextAsync();
        (events.Current.EventType, events.Current.Data).ShouldBe(("release", "{\"release\":2}"));

        // Cut off before the release: it is told again, and the draft's change still is not.
        using var request = new HttpRequestMessage(HttpMethod.Get, "api/events") { Headers = { { "Last-Event-ID", last } } };
        using var resumed = await bram.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, Cancel);
        var again = SseParser.Create(await resumed.Content.ReadAsStreamAsync(Cancel)).EnumerateAsync(Cancel).GetAsyncEnumerator(Cancel);
        await again.MoveNextAsync();
        await again.MoveNextAsync();
        (again.Current.EventType, again.Current.Data).ShouldBe(("release", "{\"release\":2}"));

        using var lost = new HttpRequestMessage(HttpMethod.Get, "api/events") { Headers = { { "Last-Event-ID", "elsewhere-7" } } };
        using var away = await bram.SendAsync(lost, HttpCompletionOption.ResponseHeadersRead, Cancel);
        var anew = SseParser.Create(await away.Content.ReadAsStreamAsync(Cancel)).EnumerateAsync(Cancel).GetAsyncEnumerator(Cancel);
        await anew.MoveNextAsync();
        anew.Current.EventType.ShouldBe("look-again");
    }

    private async Task<long> Retitle(string layout, string node, string title)
    {
        var draft = await ada.Layout(layout, Cancel);
        return (await ada.Edit(layout, new EditRequest(draft.Revision, Wire.Json($$"""[{"op":"set","node":"{{node}}","property":"title","value":"{{title}}"}]""")), Cancel)).Revision;
    }
}
