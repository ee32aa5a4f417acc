using System.Net;
using System.Net.Http.Json;
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
        service = await HostedService.WithDemo();
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

        var receipt = await ada.Publish(
            new PublishRequest([new("layout", "vessel", vessel), new("layout", "berth", berth)], "Plainer words"),
            Cancel
        );

        receipt.Release.Number.ShouldBe(2);
        receipt
            .Release.Documents.Where(document => document.Change == "changed")
            .Select(document => document.Key)
            .ShouldBe(["berth", "vessel"]);
        using var request = new HttpRequestMessage(HttpMethod.Get, "api/forms/vessel")
        {
            Headers = { { "If-None-Match", before.Headers.ETag!.ToString() } },
        };
        using var after = await bram.SendAsync(request, Cancel);
        after.StatusCode.ShouldBe(HttpStatusCode.OK);
        after.Headers.GetValues("Bright-Release").Single().ShouldBe("2");
        (await after.Content.ReadAsStringAsync(Cancel)).ShouldContain("Who she is");

        (await ada.Restore(1, new RestoreRequest("Back"), Cancel)).Release.ShouldSatisfyAllConditions(
            release => release.Number.ShouldBe(3),
            release => release.Restores.ShouldBe(1)
        );
        using var back = await bram.GetAsync("api/forms/vessel", Cancel);
        back.Headers.ETag.ShouldBe(before.Headers.ETag);
        (await ada.Layout("vessel", Cancel)).Revision.ShouldBe(vessel);
        (await ada.Releases(Cancel)).Select(release => (release.Number, release.Current)).ShouldBe([(3, true), (2, false), (1, false)]);
    }

    /// <summary>What a list of releases costs follows what they changed, and how many are asked for.</summary>
    [Fact]
    public async Task Releases_are_listed_in_pages_with_what_they_changed_where_that_is_not_much()
    {
        await using var own = await HostedService.WithDemo();
        using var author = await own.As("ada");
        using var http = await own.Http("ada");
        foreach (var (layout, node) in new[] { ("berth", "place"), ("keeper", "person"), ("berth", "place") })
        {
            var draft = await author.Layout(layout, Cancel);
            var edits = Wire.Json($$"""[{"op":"set","node":"{{node}}","property":"title","value":"{{layout}} {{draft.Revision}}"}]""");
            var edited = await author.Edit(layout, new EditRequest(draft.Revision, edits), Cancel);
            await author.Publish(new PublishRequest([new("layout", layout, edited.Revision)]), Cancel);
        }

        var first = await Page("limit=2");
        first.Select(release => (release.Number, release.Changed, release.Documents.Count)).ShouldBe([(4, 1, 1), (3, 1, 1)]);
        var last = await Page("limit=2&before=3");
        last.Select(release => release.Number).ShouldBe([2, 1]);
        // The first release is everything there is: a list says how much that is.
        (last[1].Changed, last[1].Added, last[1].Documents.Count).ShouldBe((37, 37, 0));
        (await author.Release(1, Cancel)).Documents.Count.ShouldBe(37);
        (await Page("document=layout/berth")).Select(release => release.Number).ShouldBe([4, 2, 1]);
        foreach (var wrong in new[] { "limit=0", "limit=501", "document=berth" })
        {
            (await http.GetAsync($"api/releases?{wrong}", Cancel)).StatusCode.ShouldBe(System.Net.HttpStatusCode.BadRequest, wrong);
        }

        async Task<IReadOnlyList<ReleaseInfo>> Page(string query) =>
            (await http.GetFromJsonAsync($"api/releases?{query}", WireJson.Default.IReadOnlyListReleaseInfo, Cancel))!;
    }

    [Fact]
    public async Task One_document_of_an_old_release_comes_back_alone_and_the_others_stay()
    {
        using var bram = await service.Http("bram");
        await ada.Publish(
            new PublishRequest([
                new("layout", "vessel", await Retitle("vessel", "identity", "Who she is")),
                new("layout", "berth", await Retitle("berth", "place", "Where it is")),
            ]),
            Cancel
        );

        var receipt = await ada.Restore(1, new RestoreRequest(Documents: [new("layout", "berth")]), Cancel);

        receipt.Release.ShouldSatisfyAllConditions(
            release => release.Number.ShouldBe(3),
            release => release.Restores.ShouldBeNull(),
            release => release.Note.ShouldBe("layout berth as in release 1")
        );
        (await bram.GetStringAsync("api/forms/vessel", Cancel)).ShouldContain("Who she is");
        (await bram.GetStringAsync("api/forms/berth", Cancel)).ShouldNotContain("Where it is");
        var refused = await Wire.Refused(() =>
            ada.Restore(1, new RestoreRequest(Documents: [new("layout", "berth"), new("layout", "bert")]), Cancel)
        );
        (refused.Status, refused.Problems!.Single().Pointer).ShouldBe((400, "/documents/1"));
    }

    [Fact]
    public async Task Any_two_releases_and_the_drafts_are_compared_in_words_whatever_kind_of_document_it_is()
    {
        (await ada.DiffReleases("current", "drafts", Cancel)).Documents.ShouldBeEmpty();
        var berth = await Retitle("berth", "place", "Where it is");
        var file = await ada.File("choice-list", "propulsion", Cancel);
        var choices = await ada.PutFile("choice-list", "propulsion", file.Text.Replace("Petrol", "Petrol engine"), file.Tag, Cancel);
        var waiting = await ada.DiffReleases("1", "drafts", Cancel);
        waiting
            .Documents.Select(each => (each.Kind, each.Key, each.Change, each.Draft!.Revision, each.Draft.ChangedBy))
            .ShouldBe([("choice-list", "propulsion", "changed", choices.Revision, "ada"), ("layout", "berth", "changed", berth, "ada")]);
        waiting.Documents[0].Summary.ShouldBe(["Changes label en of the choice ‘Petrol’ from ‘Petrol’ to ‘Petrol engine’."]);
        waiting.Documents[1].Summary.Single().ShouldContain("Where it is");

        await ada.Publish(new PublishRequest([new("layout", "berth", berth), new("choice-list", "propulsion", choices.Revision)]), Cancel);
        (await ada.DiffReleases("2", "current", Cancel)).ShouldSatisfyAllConditions(
            all => all.To.ShouldBe("2"),
            all => all.Documents.ShouldBeEmpty()
        );
        (await ada.DiffReleases("2", "1", Cancel)).Documents.ShouldSatisfyAllConditions(
            all => all.Select(each => each.Key).ShouldBe(["propulsion", "berth"]),
            all => all.ShouldAllBe(each => each.Draft == null),
            all => all[0].Summary.Single().ShouldEndWith("to ‘Petrol’.")
        );
        foreach (var (from, to, wrong) in new[] { ("9", "current", "from"), ("1", "yesterday", "to"), ("-1", "1", "from") })
        {
            (await Wire.Refused(() => ada.DiffReleases(from, to, Cancel))).ShouldSatisfyAllConditions(
                refused => refused.Status.ShouldBe(400),
                refused => refused.Problems!.Single().Pointer.ShouldBe(wrong),
                refused => refused.Detail!.ShouldContain("The newest is 2")
            );
        }
    }

    [Fact]
    public async Task After_going_back_what_a_draft_has_is_not_published_any_more_and_can_be_published_again_as_it_is()
    {
        var first = (await ada.Layout("berth", Cancel)).Revision;
        var berth = await Retitle("berth", "place", "Where it is");
        await ada.Publish(new PublishRequest([new("layout", "berth", berth)]), Cancel);
        await ada.Restore(1, new RestoreRequest(), Cancel);
        (await State("berth")).ShouldBe((berth, first));
        (await State("vessel")).ShouldBe((1, 1), "it was the same all the time");
        (await ada.DiffReleases("current", "drafts", Cancel)).Documents.Select(each => each.Key).ShouldBe(["berth"]);
        (await ada.Publish(new PublishRequest([new("layout", "berth", berth)]), Cancel)).Release.Number.ShouldBe(4);
        (await State("berth")).ShouldBe((berth, berth));

        async Task<(long, long?)> State(string key) =>
            (await ada.Layouts(Cancel)).Where(layout => layout.Key == key).Select(layout => (layout.Revision, layout.Published)).Single();
    }

    [Fact]
    public async Task A_receipt_says_where_what_went_out_is_reached_or_that_the_menu_leads_nowhere_near_it()
    {
        var berth = await Retitle("berth", "place", "Where it is");
        (await ada.Publish(new PublishRequest([new("layout", "berth", berth)]), Cancel))
            .Reached.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                reach => (reach.Entity, reach.Label, reach.Address).ShouldBe(("berth", "Berths", "/records/berth")),
                reach => reach.Menu.ShouldBe(["On the water", "Berths"])
            );
        var menu = await ada.File("navigation", "navigation", Cancel);
        var without = await ada.PutFile(
            "navigation",
            "navigation",
            System.Text.RegularExpressions.Regex.Replace(menu.Text, @"      - key: berths\n(        .*\n)+", ""),
            menu.Tag,
            Cancel
        );
        var again = await Retitle("berth", "place", "Where she lies");
        (await ada.Publish(new PublishRequest([new("navigation", "navigation", without.Revision), new("layout", "berth", again)]), Cancel))
            .Reached.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(reach => reach.Address.ShouldBe("/records/berth"), reach => reach.Menu.ShouldBeNull());
    }

    [Fact]
    public async Task A_draft_goes_back_to_what_is_generated_by_edits_like_any_others()
    {
        using var http = await service.Http("ada");
        var before = await ada.Layout("berth", Cancel);
        var back = (
            await http.GetFromJsonAsync("api/layouts/berth/diff?from=generated&reverse=true", WireJson.Default.Comparison, Cancel)
        )!;
        (back.From, back.Summary.Count).ShouldSatisfyAllConditions(
            said => said.From.ShouldBe("revision:1"),
            said => said.Count.ShouldBeGreaterThan(0)
        );
        var generated = await ada.Edit("berth", new EditRequest(before.Revision, back.Edits, "Back to the generated form"), Cancel);
        (
            await http.GetFromJsonAsync("api/layouts/berth/diff?from=generated", WireJson.Default.Comparison, Cancel)
        )!.Summary.ShouldBeEmpty();
        await ada.Edit("berth", new EditRequest(generated.Revision, generated.Inverse), Cancel);
        (await ada.Layout("berth", Cancel)).Tree.GetRawText().ShouldBe(before.Tree.GetRawText());
    }

    [Fact]
    public async Task What_a_draft_rests_on_is_told_as_far_as_it_was_changed_too_and_goes_out_with_it()
    {
        await Retitle("vessel", "identity", "Who she is");
        (await ada.Dependencies(["layout/vessel"], Cancel)).ShouldBeEmpty();
        var file = await ada.File("choice-list", "propulsion", Cancel);
        await ada.PutFile("choice-list", "propulsion", file.Text.Replace("Petrol", "Petrol engine"), file.Tag, Cancel);
        var entity = await ada.File("entity", "vessel", Cancel);
        await ada.PutFile("entity", "vessel", entity.Text.TrimEnd() + "\n  - key: lockerNumber\n    type: integer\n", entity.Tag, Cancel);

        (await ada.Dependencies(["layout/vessel"], Cancel))
            .Select(each => (each.Kind, each.Key, each.ForKey))
            .ShouldBe([("choice-list", "propulsion", "vessel"), ("entity", "vessel", "vessel")]);
        (await Wire.Refused(() => ada.Dependencies(["layout/vesel"], Cancel))).Status.ShouldBe(400);
    }

    [Fact]
    public async Task A_form_that_has_not_changed_costs_no_bytes()
    {
        using var bram = await service.Http("bram");
        using var first = await bram.GetAsync("api/forms/vessel", Cancel);
        using var request = new HttpRequestMessage(HttpMethod.Get, "api/forms/vessel")
        {
            Headers = { { "If-None-Match", first.Headers.ETag!.ToString() } },
        };
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
        var broken = await ada.Edit(
            "vessel",
            new EditRequest(
                draft.Revision,
                Wire.Json("""[{"op":"set","node":"rig","property":"visible","value":"record.propulsoin == 'sail'"}]""")
            ),
            Cancel
        );

        var problem = await Wire.Refused(() =>
            ada.Publish(new PublishRequest([new("layout", "berth", berth), new("layout", "vessel", broken.Revision)]), Cancel)
        );

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
        (await ada.ChangeRecord("berth", 1, record.Version, new RecordSave(Wire.Json("""{"lockerNumber":12}""")), Cancel))
            .Values.GetProperty("lockerNumber")
            .GetInt32()
            .ShouldBe(12);

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
        anew.Current.EventType.ShouldBe("resync");
    }

    private async Task<long> Retitle(string layout, string node, string title)
    {
        var draft = await ada.Layout(layout, Cancel);
        return (
            await ada.Edit(
                layout,
                new EditRequest(draft.Revision, Wire.Json($$"""[{"op":"set","node":"{{node}}","property":"title","value":"{{title}}"}]""")),
                Cancel
            )
        ).Revision;
    }
}
