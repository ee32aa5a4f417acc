using System.Net.Http.Json;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Comparing, explaining, measuring, impact, templates, routing and the menu, over HTTP and through the client.</summary>
public sealed class QuestionTests(DemoService demo)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static JsonElement Set(string node, string property, string value) =>
        Wire.Json($$"""[{"op":"set","node":"{{node}}","property":"{{property}}","value":{{value}}}]""");

    [Fact]
    public async Task A_draft_is_compared_with_what_is_released_and_with_any_revision_in_words()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        await ada.Edit("berth", new EditRequest(1, Set("place", "frame", "\"outline\"")), Cancel);
        await ada.Edit("berth", new EditRequest(2, Wire.Json("""[{"op":"move","node":"supply","parent":"page","at":"first"}]""")), Cancel);

        (await ada.Diff("berth", "released", Cancel)).Summary.ShouldBe([
            "Moves the section 'Supply and rate' to the beginning of the page 'Berth'.",
            "Sets the frame of the section 'Place' to 'outline'.",
        ]);
        (await ada.Diff("berth", "revision:2", Cancel)).Summary.Count.ShouldBe(1);
        (await Wire.Refused(() => ada.Diff("berth", "revision:9", Cancel))).Detail!.ShouldContain("the newest is 3");

        // Any release with any other, and with the draft.
        await ada.Publish(new PublishRequest([new DraftReference("layout", "berth", 3)], ""), Cancel);
        using var http = await service.Http("ada");
        async Task<int> Between(string from, string to) =>
            (await http.GetFromJsonAsync($"api/layouts/berth/diff?from={from}&to={to}", WireJson.Default.Comparison, Cancel))!
                .Summary
                .Count;
        (await Between("release:1", "release:2")).ShouldBe(2);
        (await Between("release:2", "release:1")).ShouldBe(2);
        (await Between("release:2", "released")).ShouldBe(0);
        (await Between("revision:2", "release:2")).ShouldBe(1);
        (await Wire.Refused(() => ada.Diff("berth", "release:7", Cancel))).Detail!.ShouldContain("the newest is 2");
    }

    [Fact]
    public async Task Conflicting_edits_are_told_and_can_be_resolved_either_way()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        using var greta = await service.As("greta");
        await ada.Edit("berth", new EditRequest(1, Set("place", "title", "\"Where\"")), Cancel);

        var refused = await Wire.Refused(() => greta.Edit("berth", new EditRequest(1, Set("place", "title", "\"Spot\"")), Cancel));
        refused
            .Problems!.Single()
            .ShouldSatisfyAllConditions(part => part.Code.ShouldBe("set-twice"), part => part.Pointer.ShouldBe("/edits/0"));
        await greta.Edit("berth", new EditRequest(1, Set("place", "title", "\"Spot\""), ConflictResolution: "theirs"), Cancel);
        (await greta.Layout("berth", Cancel)).Tree.GetRawText().ShouldContain("\"Where\"");
        await greta.Edit("berth", new EditRequest(1, Set("place", "title", "\"Spot\""), ConflictResolution: "mine"), Cancel);
        (await greta.Layout("berth", Cancel)).Tree.GetRawText().ShouldContain("\"Spot\"");
        (
            await Wire.Refused(() =>
                greta.Edit("berth", new EditRequest(1, Set("place", "title", "\"x\""), ConflictResolution: "ours"), Cancel)
            )
        )
            .Problems!.Single()
            .Pointer.ShouldBe("/conflictResolution");
    }

    [Fact]
    public async Task Why_how_long_and_what_would_notice_are_answered()
    {
        using var ada = await demo.As("ada");
        (await ada.Explain("vessel", "mastHeight", null, "edit", null, 3, Cancel)).ShouldSatisfyAllConditions(
            each => each.Shown.ShouldBe(false),
            each => each.Reasons[0].Message.ShouldContain("does not hold for this record")
        );
        (await ada.Explain("vessel", "hullCover/sum", "quay-hand", "edit", null, null, Cancel)).Shown.ShouldBe(false);
        (await Wire.Refused(() => ada.Explain("vessel", "mastHeigt", null, "edit", null, null, Cancel))).Detail!.ShouldContain(
            "did you mean 'mastHeight'?"
        );
        (await ada.Explain("vessel", "photo", null, "edit", "narrow", null, Cancel)).Shown.ShouldBe(false);
        (await Wire.Refused(() => ada.Explain("vessel", "photo", null, "edit", "narow", null, Cancel))).ShouldSatisfyAllConditions(
            each => each.Status.ShouldBe(404),
            each => each.Detail!.ShouldContain("did you mean 'narrow'?")
        );
        var lengths = await ada.Length("vessel", Cancel);
        lengths.Select(each => each.Width).ShouldBe(["narrow", "medium", "wide"]);
        lengths[0].Screens.ShouldBeGreaterThan(lengths[2].Screens);
        (await ada.Impact("piece", "cover", Cancel)).Select(use => use.Place).ShouldBe(["hullCover", "thirdCover"]);
        (await Wire.Refused(() => ada.Impact("feild", "vessel.name", Cancel))).Detail!.ShouldContain("did you mean 'field'?");
        (await ada.DocumentFindings(Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_template_makes_a_family_of_drafts_once()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var made = await ada.CreateFromTemplate("register", new TemplateRequest("visitorCall", "guest"), Cancel);
        made.Select(each => each.Key).ShouldBe(["guest", "guest-short", "guest-card", "guest-list"]);
        made[0].Unmatched.ShouldContain("registration");
        (await Wire.Refused(() => ada.CreateFromTemplate("register", new TemplateRequest("visitorCall", "guest"), Cancel))).Code.ShouldBe(
            "key-taken"
        );
        string[] all = ["full", "short", "card", "list"];
        (
            await Wire.Refused(() => ada.CreateFromTemplate("register", new TemplateRequest("visitorCall", "none", all), Cancel))
        ).Detail!.ShouldContain("Nothing of the template 'register' is left");
        await ada.CreateFromTemplate("register", new TemplateRequest("visitorCall", "brief", ["full", "list"], "In brief"), Cancel);
        (await ada.Layouts(Cancel))
            .Where(each => each.Key.StartsWith("brief", StringComparison.Ordinal))
            .Select(each => each.Title)
            .ShouldContain("In brief");
    }

    [Fact]
    public async Task Each_role_gets_the_layout_the_routing_rules_give_it_and_its_menu()
    {
        using var dirk = await demo.As("dirk");
        using var bram = await demo.As("bram");
        (await dirk.Form("vessel", "edit", Cancel)).GetProperty("layout").GetString().ShouldBe("vessel-foreman");
        (await bram.Form("vessel", "edit", Cancel)).GetProperty("layout").GetString().ShouldBe("vessel");
        (await bram.Navigation(Cancel)).Select(entry => entry.Title).ShouldBe(["Op het water", "Mensen en papieren", "Werf en kade"]);
    }

    [Fact]
    public async Task Every_kind_of_form_is_served_and_a_save_through_a_short_one_is_held_to_it()
    {
        using var http = await demo.Http("ada");
        foreach (var kind in new[] { "full", "short", "card", "list", "print" })
        {
            using var form = JsonDocument.Parse(await http.GetStringAsync($"api/forms/vessel?kind={kind}", Cancel));
            form.RootElement.GetProperty("kind").GetString().ShouldBe(kind);
        }

        (await http.GetAsync("api/forms/vessel?kind=piece", Cancel)).StatusCode.ShouldBe(System.Net.HttpStatusCode.BadRequest);
        using var ada = await demo.As("ada");
        var problem = await Wire.Refused(() =>
            ada.CreateRecord(
                "agreement",
                new RecordSave(
                    Wire.Json("""{"number":"M-2026-900","vessel":1,"berth":1,"from":"2026-12-01","livingAboard":true}"""),
                    new FormReference(1, "create")
                ),
                Cancel
            )
        );
        problem.Problems!.Select(part => part.Pointer).ShouldBe(["deposit", "personsAboard"], ignoreOrder: true);
    }

    [Fact]
    public async Task A_record_named_by_what_it_points_at_is_called_by_that_ones_name()
    {
        using var ada = await demo.As("ada");
        (await ada.Record("liftOut", 1, Cancel)).Title.ShouldBe("Grey Plover, SQ-0588, 2026-11-30 08:30");
        (await ada.LookUp("inspection", "", Cancel)).Select(name => name.Title).ShouldContain("B12, Middle pontoon, 2026-10-12");
    }

    [Fact]
    public async Task Documents_of_every_kind_are_files()
    {
        using var ada = await demo.As("ada");
        foreach (var document in await ada.Documents(Cancel))
        {
            (await ada.File(document.Kind, document.Key, Cancel)).Text.ShouldStartWith("kind: ");
        }
    }
}
