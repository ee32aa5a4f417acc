using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Several services on one PostgreSQL, as behind a balancer: whichever one asks, it is one application.</summary>
public sealed class ProcessesTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_is_done_at_one_process_is_there_at_the_others_with_the_same_session_and_everyone_is_told()
    {
        var database = await (await postgres.Server).NewDemoDatabase();
        await using var one = await ServiceProcess.On(database);
        await using var two = await ServiceProcess.On(database);
        using var ada = await one.As("ada");
        using var there = await two.As("ada");

        // Designed at one, seen and gone on with at the other.
        var draft = await ada.Layout("vessel", Cancel);
        var edited = await ada.Edit(
            "vessel",
            new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"rig","property":"title","value":"Canvas"}]""")),
            Cancel
        );
        (await there.Layout("vessel", Cancel)).Revision.ShouldBe(edited.Revision);
        using var stream = await two.Http("bram");
        var told = Told(stream, "release");
        var released = (await ada.Publish(new PublishRequest([new DraftReference("layout", "vessel", edited.Revision)], "Canvas"), Cancel))
            .Release
            .Number;
        (await told.WaitAsync(TimeSpan.FromSeconds(10), Cancel)).ShouldContain($"\"release\":{released}");
        (await there.Form("vessel", "edit", Cancel)).GetRawText().ShouldContain("Canvas");

        // A record saved at one is at its next version at the other; both at once are told apart.
        var record = await ada.Record("vessel", 2, Cancel);
        await ada.ChangeRecord("vessel", 2, record.Version, new RecordSave(Wire.Json("""{"homePort":"Eel Creek"}""")), Cancel);
        (await there.Record("vessel", 2, Cancel)).Values.GetProperty("homePort").GetString().ShouldBe("Eel Creek");
        (
            await Wire.Refused(() =>
                there.ChangeRecord("vessel", 2, record.Version, new RecordSave(Wire.Json("""{"homePort":"Gull Point"}""")), Cancel)
            )
        ).Code.ShouldBe("record-changed");
    }

    [Fact]
    public async Task What_drafts_rest_on_is_the_same_at_every_process_whoever_changes_what()
    {
        var database = await (await postgres.Server).NewDemoDatabase();
        await using var one = await ServiceProcess.On(database);
        await using var two = await ServiceProcess.On(database);
        using var ada = await one.As("ada");
        using var there = await two.As("ada");
        using var http = await two.Http("ada");
        async Task Add(string label) =>
            (
                await http.PostAsync(
                    "api/entities/vessel/fields",
                    RunningService.Json($$"""{"label":"{{label}}","type":"text","required":false}"""),
                    Cancel
                )
            ).EnsureSuccessStatusCode();
        async Task Retitle(string title)
        {
            var draft = await ada.Layout("vessel", Cancel);
            var edits = Wire.Json($$"""[{"op":"set","node":"rig","property":"title","value":"{{title}}"}]""");
            await ada.Edit("vessel", new EditRequest(draft.Revision, edits), Cancel);
        }

        // What one changes itself it knows without asking; what another changed meanwhile it must not miss by that.
        await Retitle("Canvas");
        await Add("Sail number");
        await Retitle("Sails");
        (await ada.LayoutEntity("vessel", Cancel)).Fields.ShouldContain(field => field.Label == "Sail number");
        await Add("Sail maker");
        (await ada.LayoutEntity("vessel", Cancel)).Fields.ShouldContain(field => field.Label == "Sail maker");
        (await there.LayoutEntity("vessel", Cancel)).Fields.ShouldContain(field => field.Label == "Sail maker");
    }

    [Fact]
    public async Task A_token_that_is_ended_at_one_process_is_over_at_the_others_with_its_streams()
    {
        var database = await (await postgres.Server).NewDemoDatabase();
        await using var one = await ServiceProcess.On(database);
        await using var two = await ServiceProcess.On(database);
        using var bram = await one.As("bram");
        var token = await bram.CreateToken(new TokenRequest("elsewhere", 1), Cancel);
        using var there = new HttpClient
        {
            BaseAddress = two.Address,
            DefaultRequestHeaders = { Authorization = new("Bearer", token.Secret) },
        };
        using var stream = await there.GetAsync("api/events", HttpCompletionOption.ResponseHeadersRead, Cancel);
        var read = Task.Run(
            async () => await new StreamReader(await stream.Content.ReadAsStreamAsync(Cancel)).ReadToEndAsync(Cancel),
            Cancel
        );
        (await there.GetAsync("api/entities", Cancel)).IsSuccessStatusCode.ShouldBeTrue();

        await bram.RevokeToken(token.Id, Cancel);

        await read.WaitAsync(TimeSpan.FromSeconds(10), Cancel);
        (await there.GetAsync("api/entities", Cancel)).StatusCode.ShouldBe(System.Net.HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Several_that_start_at_once_on_an_empty_database_make_it_once_and_all_come_up()
    {
        var database = await (await postgres.Server).NewDatabase();
        var services = await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => ServiceProcess.On(database)));
        foreach (var service in services)
        {
            using var ada = await service.As("ada");
            (await ada.Releases(Cancel)).Select(release => release.Number).ShouldBe([1]);
            (await ada.Records("berth", null, null, null, null, 50, Cancel)).Total.ShouldBe(10);
            await service.DisposeAsync();
        }
    }

    [Fact]
    public async Task Two_who_edit_one_draft_at_two_processes_both_have_their_say()
    {
        var database = await (await postgres.Server).NewDemoDatabase();
        await using var one = await ServiceProcess.On(database);
        await using var two = await ServiceProcess.On(database);
        using var ada = await one.As("ada");
        using var ben = await two.As("ada");
        var start = (await ada.Layout("vessel", Cancel)).Revision;
        await Task.WhenAll(
            Enumerable
                .Range(0, 20)
                .Select(i =>
                    (i % 2 == 0 ? ada : ben).Edit(
                        "vessel",
                        new EditRequest(
                            start,
                            Wire.Json(
                                $$"""
                                [{"op":"set","node":"{{(i % 2 == 0 ? "name" : "homePort")}}",
                                "property":"{{(i % 4 < 2 ? "help" : "hint")}}","value":"{{i}}"}]
                                """
                            ),
                            ConflictResolution: "mine"
                        ),
                        Cancel
                    )
                )
        );
        (await ada.Layout("vessel", Cancel)).Revision.ShouldBe(start + 20);
        (await ben.Layout("vessel", Cancel)).Revision.ShouldBe(start + 20);
    }

    [Fact]
    public async Task A_service_that_is_asked_to_measures_itself_and_otherwise_says_nothing()
    {
        await using var measuring = await ServiceProcess.WithDemo(null, "--Metrics", "true");
        using var http = await measuring.Http();
        (await http.GetStringAsync("metrics", Cancel)).ShouldSatisfyAllConditions(
            said => said.ShouldContain("bright_tier_release"),
            said => said.ShouldContain("bright_tier_streams"),
            said => said.ShouldContain("http_server_request_duration")
        );
        using var forwarded = new HttpRequestMessage(HttpMethod.Get, "metrics") { Headers = { { "X-Forwarded-For", "192.0.2.7" } } };
        (await (await http.SendAsync(forwarded, Cancel)).Problem()).Code.ShouldBe("measures-local");
        using var administrator = await measuring.Http("greta");
        using var hers = new HttpRequestMessage(HttpMethod.Get, "metrics") { Headers = { { "X-Forwarded-For", "192.0.2.7" } } };
        (await administrator.SendAsync(hers, Cancel)).StatusCode.ShouldBe(System.Net.HttpStatusCode.OK);
        await using var silent = await ServiceProcess.Empty();
        using var other = await silent.Http();
        using var nothing = await other.GetAsync("metrics", Cancel);
        nothing.StatusCode.ShouldBe(System.Net.HttpStatusCode.NotFound);
    }

    /// <summary>The data of the next event of a type on a new stream.</summary>
    private static async Task<string> Told(HttpClient http, string type)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "api/events");
        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        using var reader = new StreamReader(await answer.Content.ReadAsStreamAsync());
        var at = "";
        while (await reader.ReadLineAsync() is { } line)
        {
            at = line.StartsWith("event:", StringComparison.Ordinal) ? line[6..].Trim() : at;
            if (line.StartsWith("data:", StringComparison.Ordinal) && at == type)
            {
                return line[5..];
            }
        }

        return "";
    }
}
