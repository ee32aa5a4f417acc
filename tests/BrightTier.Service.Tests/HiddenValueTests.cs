using System.Text.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// R15: what a caller may not read, through whatever step, influences nothing she is answered. A berth's day rate may be read neither by
/// the quay hand nor by the form reviewer.
/// </summary>
public sealed class HiddenValueTests(OwnService own) : IClassFixture<OwnService>
{
    private readonly RunningService service = own.Running;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Gives every berth another day rate and asks again: the answers must be the same to the letter.</summary>
    private async Task Unmoved(string person, Func<HttpClient, Task<string>> ask, string what)
    {
        using var http = await service.Http(person);
        var answers = new List<string>();
        foreach (var rate in new[] { 5, 5_000 })
        {
            using var greta = await service.As("greta");
            foreach (var berth in (await greta.Records("berth", null, null, null, null, 200, Cancel)).Records)
            {
                var now = await greta.Record("berth", berth.Id, Cancel);
                await greta.ChangeRecord("berth", berth.Id, now.Version, new RecordSave(Wire.Json($$"""{"dayRate":{{rate}}}""")), Cancel);
            }

            answers.Add(await ask(http));
        }

        answers[1].ShouldBe(answers[0], $"{person} can tell the day rate by {what}");
    }

    private static async Task<string> Post(HttpClient http, string path, string body)
    {
        using var answer = await http.PostAsync(path, RunningService.Json(body), Cancel);
        return $"{answer.StatusCode} {await answer.Content.ReadAsStringAsync(Cancel)}";
    }

    private static async Task<string> Get(HttpClient http, string path)
    {
        using var answer = await http.GetAsync(path, Cancel);
        return $"{answer.StatusCode} {await answer.Content.ReadAsStringAsync(Cancel)}";
    }

    /// <summary>Publishes a document in spite of findings, as an administrator can.</summary>
    private static async Task Publish(BrightTierClient greta, string kind, string key, Func<string, string> change)
    {
        var file = await greta.File(kind, key, Cancel);
        var saved = await greta.PutFile(kind, key, change(file.Text), file.Tag, Cancel);
        await greta.Publish(
            new PublishRequest([new(kind, key, saved.Revision)], "for a test", OverrideReason: "a test of what is hidden"),
            Cancel
        );
    }

    [Theory]
    [InlineData("record.dayRate > 1000.0", "berth")]
    [InlineData("record.berth.dayRate > 1000.0", "agreement")]
    [InlineData("has(record.dayRate) && record.dayRate > 1000.0", "berth")]
    [InlineData("[record.berth.dayRate].exists(rate, rate > 1000.0)", "agreement")]
    public async Task A_reviewer_asks_conditions_about_records_she_may_read_so_far(string condition, string layout)
    {
        await Unmoved(
            "hanna",
            http =>
                Post(http, $"api/layouts/{layout}/conditions/check", $$"""{"text":{{JsonSerializer.Serialize(condition)}},"record":1}"""),
            condition
        );
    }

    [Fact]
    public async Task Neither_explaining_nor_trying_the_rules_tells_what_is_hidden()
    {
        using (var greta = await service.As("greta"))
        {
            var draft = await greta.Layout("agreement", Cancel);
            await greta.Edit(
                "agreement",
                new EditRequest(
                    draft.Revision,
                    Wire.Json("""[{"op":"set","node":"what","property":"visible","value":"record.berth.dayRate > 1000.0"}]"""),
                    "Hidden"
                ),
                Cancel
            );
            var routing = await greta.File("routing", "routing", Cancel);
            await greta.PutFile(
                "routing",
                "routing",
                routing.Text + "  - entity: berth\n    layout: berth\n    when: record.dayRate > 1000.0\n",
                routing.Tag,
                Cancel
            );
        }

        await Unmoved("hanna", http => Get(http, "api/layouts/agreement/explain?node=what&record=1"), "explain");
        await Unmoved("hanna", http => Get(http, "api/routing?entity=berth&person=cleo&record=1"), "routing, as somebody who may");
        await Unmoved("hanna", http => Get(http, "api/layouts/agreement/preview?mode=view"), "preview");
        await Unmoved("hanna", http => Get(http, "api/layouts/agreement/view?mode=view"), "view");
    }

    [Fact]
    public async Task A_form_published_in_spite_of_it_tells_nothing_either()
    {
        using (var greta = await service.As("greta"))
        {
            await Publish(greta, "layout", "berth", text =>
                text.Replace(
                        "    - id: page",
                        "    - id: page\n      visible: record.dayRate == null || record.dayRate < 1000.0",
                        StringComparison.Ordinal
                    )
                    .Replace(
                        "  empty: {",
                        "  items:\n    - { action: set, id: double, label: Double, values: { pontoon: "
                            + "\"string(record.dayRate)\", dayRate: \"2.0\" } }\n  empty: {",
                        StringComparison.Ordinal
                    )
            );
            await Publish(greta, "routing", "routing", text =>
                text
                + "  - entity: visitorCall\n    layout: visitorCall\n    when: has(record.paid)\n  - entity: berth\n    "
                + "layout: berth\n    when: record.dayRate > 1000.0\n"
            );
            var saved = await greta.PutFile(
                "layout",
                "berth-list",
                "kind: list\nkey: berth-list\nentity: berth\ntitle: Berths\ncolumns: [code]\nfilter: record.dayRate > 1000.0\n",
                null,
                Cancel
            );
            await greta.Publish(
                new PublishRequest([new("layout", "berth-list", saved.Revision)], "for a test", OverrideReason: "a test of what is hidden"),
                Cancel
            );
        }

        await Unmoved("bram", http => Get(http, "api/forms/berth?record=1"), "the form he gets");
        await Unmoved("bram", http => Get(http, "api/records/berth?listed=true"), "the list");
        using var bram = await service.Http("bram");
        var form = await bram.GetStringAsync("api/forms/berth?record=1&mode=edit", Cancel);
        form.ShouldNotContain("dayRate");
        form.ShouldContain("Double");
        using var cleo = await service.Http("cleo");
        (await cleo.GetStringAsync("api/forms/berth?record=1&mode=edit", Cancel)).ShouldContain("dayRate");
    }

    [Fact]
    public async Task Filters_sorting_and_messages_name_nothing_hidden()
    {
        using var bram = await service.Http("bram");
        foreach (
            var path in new[]
            {
                "records/berth?filter=record.dayRate%20%3E%201.0",
                "records/berth?filter=record.dayrat%20%3E%201.0",
                "records/agreement?filter=record.berth.dayRate%20%3E%201.0",
                "records/agreement?filter=record.berth.dayRat%20%3E%201.0",
                "records/agreement?filter=record.vessel.kepeer%20%3D%3D%201",
                "records/berth?sort=dayRate",
                "records/berth/csv?filter=record.dayRate%20%3E%201.0",
                "records/berth/lookup?filter=record.dayRate%20%3E%201.0",
            }
        )
        {
            using var answer = await bram.GetAsync("api/" + path, Cancel);
            ((int)answer.StatusCode).ShouldBeInRange(400, 499, path);
            var said = await answer.Content.ReadAsStringAsync(Cancel);
            // It may repeat what was asked, and no more.
            foreach (
                var hidden in new[] { "dayRate", "deposit", "coverSum", "Day rate", "Deposit" }.Where(name =>
                    !path.Contains(name, StringComparison.Ordinal)
                )
            )
            {
                said.ShouldNotContain(hidden, customMessage: path);
            }
        }

        (await bram.GetStringAsync("api/records/berth/lookup?display={code} {dayRate}", Cancel)).ShouldNotContain("5000");
    }

    [Fact]
    public async Task A_token_reads_no_further_than_it_is_good_for()
    {
        using var greta = await service.As("greta");
        var token = await greta.CreateToken(new TokenRequest("designs", 1, ["configure", "review", "publish"]), Cancel);
        using var http = new HttpClient
        {
            BaseAddress = service.Address,
            DefaultRequestHeaders = { Authorization = new("Bearer", token.Secret) },
        };

        (await Post(http, "api/layouts/berth/conditions/check", """{"text":"record.dayRate > 1.0","record":1}""")).ShouldStartWith(
            "Forbidden"
        );
        (await Get(http, "api/layouts/berth/explain?node=page&record=1")).ShouldStartWith("Forbidden");
        (await Get(http, "api/routing?entity=berth&record=1")).ShouldStartWith("Forbidden");
        foreach (
            var path in new[]
            {
                "api/records/berth",
                "api/records/berth/1",
                "api/search?q=a",
                "api/forms/berth",
                "api/people",
                "api/records/berth/csv",
                "api/records/berth/1/history",
                "api/audit/entries",
                "api/tokens",
                "api/backup",
            }
        )
        {
            (await Get(http, path)).ShouldStartWith("Forbidden", customMessage: path);
        }

        (await Post(http, "api/layouts/berth/conditions/check", """{"text":"record.dayRate > 1.0"}""")).ShouldStartWith("OK");
    }
}
