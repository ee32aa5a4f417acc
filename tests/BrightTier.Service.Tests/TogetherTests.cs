using System.Net;
using System.Net.Http.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>What hangs on a record and is saved with it; what happened to it; what people say about it and keep for themselves.</summary>
public sealed class TogetherTests(DemoService service)
{
    [Fact]
    public async Task One_change_goes_to_all_of_several_records_or_to_none()
    {
        await using var own = await HostedService.WithDemo();
        using var ada = await own.Http("ada");
        using var client = await own.As("ada");
        async Task<(HttpStatusCode Status, Problem? Problem)> Change(object body)
        {
            using var answer = await ada.PatchAsJsonAsync("api/records/berth", body, Cancel);
            return (answer.StatusCode, answer.IsSuccessStatusCode ? null : await answer.Problem());
        }

        async Task<IReadOnlyList<string?>> Pontoons() =>
            [
                .. (await client.Records("berth", null, null, null, null, 50, Cancel))
                    .Records.Where(record => record.Id <= 3)
                    .OrderBy(record => record.Id)
                    .Select(record => record.Values.GetProperty("pontoon").GetString()),
            ];

        (
            await Change(
                new
                {
                    records = new[] { new { id = 1, version = 1 }, new { id = 2, version = 1 }, new { id = 3, version = 1 } },
                    values = new { pontoon = "West pontoon" },
                }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await Pontoons()).ShouldBe(["West pontoon", "West pontoon", "West pontoon"]);

        // The second was changed meanwhile, so the first is not changed either.
        var (status, problem) = await Change(
            new { records = new[] { new { id = 1, version = 2 }, new { id = 2, version = 1 } }, values = new { pontoon = "East pontoon" } }
        );
        (status, problem!.Problems!.Single().Pointer).ShouldBe((HttpStatusCode.UnprocessableEntity, "/records/1"));
        (status, problem) = await Change(
            new { records = new[] { new { id = 1, version = 2 }, new { id = 2, version = 2 } }, values = new { maxLength = -1 } }
        );
        (status, problem!.Problems![0].Pointer).ShouldBe((HttpStatusCode.UnprocessableEntity, "/records/0/maxLength"));
        (await Pontoons()).ShouldBe(["West pontoon", "West pontoon", "West pontoon"]);

        using var bram = await own.Http("bram");
        using var refused = await bram.PatchAsJsonAsync(
            "api/records/berth",
            new { records = new[] { new { id = 1, version = 2 } }, values = new { dayRate = 1 } },
            Cancel
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static readonly FormReference Editing = new(1, "edit");

    private static System.Text.Json.JsonElement Json(string text) => Wire.Json(text);

    private static Task<RecordInfo> LiftOut(BrightTierClient dirk, params RelatedSave[] related) =>
        dirk.CreateRecord("liftOut", new RecordSave(Json("""{"vessel":3,"craneSlot":"2027-03-01T08:00:00Z"}"""), null, related), Cancel);

    private static async Task<IReadOnlyList<RecordInfo>> Lines(BrightTierClient dirk, long liftOut) =>
        (await dirk.Records("workLine", null, "task", $"record.liftOut == {liftOut}", null, 50, Cancel)).Records;

    [Fact]
    public async Task Lines_are_made_changed_and_removed_with_their_record()
    {
        using var dirk = await service.As("dirk");
        var made = await LiftOut(
            dirk,
            new RelatedSave(
                "workLine",
                "liftOut",
                [Json("""{"task":"Antifouling","hours":4}"""), Json("""{"task":"Polish","hours":2.5}""")]
            )
        );
        var lines = await Lines(dirk, made.Id);
        lines.Select(line => line.Title).ShouldBe(["Antifouling", "Polish"]);

        await dirk.ChangeRecord(
            "liftOut",
            made.Id,
            made.Version,
            new RecordSave(
                Json("""{"yardPlace":"B2"}"""),
                null,
                [
                    new RelatedSave(
                        "workLine",
                        "liftOut",
                        [Json("""{"task":"Wash"}""")],
                        [new RelatedChange(lines[0].Id, lines[0].Version, Json("""{"done":true}"""))],
                        [new RelatedRemoval(lines[1].Id, lines[1].Version)]
                    ),
                ]
            ),
            Cancel
        );

        var after = await Lines(dirk, made.Id);
        after.Select(line => line.Title).ShouldBe(["Antifouling", "Wash"]);
        after[0].Values.GetProperty("done").GetBoolean().ShouldBeTrue();
    }

    [Fact]
    public async Task One_wrong_line_and_nothing_is_saved()
    {
        using var dirk = await service.As("dirk");
        var made = await LiftOut(dirk);
        var problem = await Wire.Refused(() =>
            dirk.ChangeRecord(
                "liftOut",
                made.Id,
                made.Version,
                new RecordSave(
                    Json("""{"yardPlace":"C9"}"""),
                    null,
                    [new RelatedSave("workLine", "liftOut", [Json("""{"task":"Wash"}"""), Json("""{"hours":9000}""")])]
                ),
                Cancel
            )
        );

        problem
            .Problems!.Select(part => part.Pointer)
            .ShouldBe(["/related/0/created/1/task", "/related/0/created/1/hours"], ignoreOrder: true);
        (await Lines(dirk, made.Id)).ShouldBeEmpty();
        (await dirk.Record("liftOut", made.Id, Cancel)).Version.ShouldBe(made.Version);

        // Somebody else's line, and a line that was changed meanwhile.
        var other = await LiftOut(dirk, new RelatedSave("workLine", "liftOut", [Json("""{"task":"Rigging"}""")]));
        var line = (await Lines(dirk, other.Id)).Single();
        (
            await Wire.Refused(() =>
                dirk.ChangeRecord(
                    "liftOut",
                    made.Id,
                    made.Version,
                    new RecordSave(Json("{}"), null, [new RelatedSave("workLine", "liftOut", Removed: [new RelatedRemoval(line.Id, 1)])]),
                    Cancel
                )
            )
        ).Code.ShouldBe("related-changed");
        (
            await Wire.Refused(() =>
                dirk.ChangeRecord(
                    "liftOut",
                    other.Id,
                    other.Version,
                    new RecordSave(
                        Json("""{"yardPlace":"X1"}"""),
                        null,
                        [new RelatedSave("workLine", "liftOut", Removed: [new RelatedRemoval(line.Id, 7)])]
                    ),
                    Cancel
                )
            )
        ).Code.ShouldBe("related-changed");
        (await dirk.Record("liftOut", other.Id, Cancel)).Version.ShouldBe(other.Version);
    }

    [Fact]
    public async Task Lines_that_the_form_only_shows_are_not_changed_through_it()
    {
        using var dirk = await service.As("dirk");
        var made = await dirk.CreateRecord(
            "liftOut",
            new RecordSave(
                Json("""{"vessel":3,"craneSlot":"2027-03-02T08:00:00Z","slingCheck":true,"releasedAt":"2027-03-03T08:00:00Z"}""")
            ),
            Cancel
        );
        var problem = await Wire.Refused(() =>
            dirk.ChangeRecord(
                "liftOut",
                made.Id,
                made.Version,
                new RecordSave(Json("{}"), Editing, [new RelatedSave("workLine", "liftOut", [Json("""{"task":"Wash"}""")])]),
                Cancel
            )
        );
        problem.Problems!.Single().Code.ShouldBe("read-only");
    }

    [Fact]
    public async Task The_history_tells_what_changed_to_whoever_may_read_it()
    {
        using var esme = await service.As("esme");
        using var ada = await service.As("ada");
        var made = await ada.CreateRecord(
            "vessel",
            new RecordSave(
                Json(
                    """
                    {"name":"Turnstone","registration":"SQ-7441","propulsion":"sail","hullType":"mono","length":9.1,"beam":3,
                    "coverSum":200000}
                    """
                )
            ),
            Cancel
        );
        await ada.ChangeRecord("vessel", made.Id, 1, new RecordSave(Json("""{"beam":3.2,"keeper":2}""")), Cancel);

        var all = await History("ada", made.Id);
        all.Select(entry => (entry.Action, entry.By)).ShouldBe([("change", "ada"), ("create", "ada")]);
        all[0]
            .Changes.Select(change => (change.Field, change.Before?.GetRawText(), change.After?.GetRawText(), change.AfterTitle))
            .ShouldBe([("beam", "3", "3.2", null), ("keeper", null, "2", "Tobias Fenn")], ignoreOrder: true);
        (await History("ada", made.Id))[1].Changes.ShouldContain(change => change.Field == "coverSum");
        (await History("bram", made.Id))[1].Changes.ShouldNotContain(change => change.Field == "coverSum");
    }

    [Fact]
    public async Task Whoever_is_named_in_a_comment_is_told_until_she_has_seen_it()
    {
        using var ada = await service.Http("ada");
        using var cleo = await service.Http("cleo");
        using var said = await ada.PostAsJsonAsync(
            "api/records/berth/2/comments",
            new { text = "The cleat is loose, @cleo. Not for @nobody or a.wader@example.org." },
            Cancel
        );
        said.StatusCode.ShouldBe(HttpStatusCode.Created);

        var told = (await cleo.GetFromJsonAsync("api/mentions", WireJson.Default.IReadOnlyListCommentInfo, Cancel))!.Single(each =>
            each.Entity == "berth"
        );
        (told.Record, told.ByName, string.Join(' ', told.Mentions)).ShouldBe((2, "Ada Wader", "cleo"));
        (await cleo.GetFromJsonAsync("api/records/berth/2/comments", WireJson.Default.IReadOnlyListCommentInfo, Cancel))!.Count.ShouldBe(1);
        (await cleo.GetFromJsonAsync("api/mentions", WireJson.Default.IReadOnlyListCommentInfo, Cancel))!.ShouldBeEmpty();

        using var empty = await ada.PostAsJsonAsync("api/records/berth/2/comments", new { text = "  " }, Cancel);
        (await empty.Problem()).Problems!.Single().Pointer.ShouldBe("/text");
        using var nowhere = await ada.PostAsJsonAsync("api/records/berth/4711/comments", new { text = "x" }, Cancel);
        nowhere.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_one_keeps_is_ones_own()
    {
        using var ada = await service.Http("ada");
        using var cleo = await service.Http("cleo");
        (await ada.GetStringAsync("api/preferences/list:berth", Cancel)).ShouldBe("null");
        using var put = await ada.PutAsJsonAsync("api/preferences/list:berth", new { views = new[] { "Outer basin" } }, Cancel);
        put.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await ada.GetStringAsync("api/preferences/list:berth", Cancel)).ShouldContain("Outer basin");
        (await cleo.GetStringAsync("api/preferences/list:berth", Cancel)).ShouldBe("null");
        using var large = await ada.PutAsJsonAsync("api/preferences/list:berth", new { text = new string('x', 70_000) }, Cancel);
        large.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    private async Task<IReadOnlyList<HistoryEntry>> History(string person, long vessel)
    {
        using var http = await service.Http(person);
        return (await http.GetFromJsonAsync($"api/records/vessel/{vessel}/history", WireJson.Default.IReadOnlyListHistoryEntry, Cancel))!;
    }
}
