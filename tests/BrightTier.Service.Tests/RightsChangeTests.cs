using System.Net;
using System.Text;
using System.Text.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// What changes who may do what takes an administrator, and where approval is on a second person, by whatever way it comes; and what one
/// began with ends with it.
/// </summary>
public sealed class RightsChangeTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static readonly (string Kind, string Key, Func<string, string> Change)[] Grants =
    [
        ("application", "application", text =>
            text.Replace(
                "may: [configure, review, publish, read-records, write-records]",
                "may: [administer, configure, review, publish, read-records, write-records]",
                StringComparison.Ordinal
            )
        ),
        ("application", "application", text => text.Replace("timeZone:", "approval: true\ntimeZone:", StringComparison.Ordinal)),
        ("application", "application", text =>
            text.Replace(
                "  - key: quay-hand",
                "  - key: skipper\n    label: Skipper\n    may: [administer]\n  - key: quay-hand",
                StringComparison.Ordinal
            )
        ),
        ("entity", "berth", text =>
            text.Replace(
                "read: [harbour-office, harbour-master, bookkeeper, administrator, auditor]",
                "read: [harbour-office, harbour-master, bookkeeper, administrator, auditor, quay-hand]",
                StringComparison.Ordinal
            )
        ),
        ("entity", "agreement", text =>
            text.Replace("    read: [harbour-office, harbour-master, bookkeeper, administrator, auditor]\n", "", StringComparison.Ordinal)
        ),
    ];

    [Fact]
    public async Task Nobody_who_configures_gives_herself_or_others_more_by_any_way()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        using var greta = await service.As("greta");
        foreach (var (kind, key, change) in Grants)
        {
            var file = await ada.File(kind, key, Cancel);
            var text = change(file.Text);
            text.ShouldNotBe(file.Text, $"{kind} {key}");
            (await Wire.Refused(() => ada.PutFile(kind, key, text, file.Tag, Cancel))).Code.ShouldBe("rights-change");
            (await Wire.Refused(() => ada.ImportDocuments(new ImportRequest([new ImportDocument(text, file.Text)]), Cancel))).Code.ShouldBe(
                "rights-change"
            );
            (
                await Wire.Refused(() =>
                    ada.ImportDocuments(new ImportRequest([new ImportDocument(text)], ConflictResolution: "mine"), Cancel)
                )
            ).Code.ShouldBe("rights-change");

            // Drafted by one who may, it is published by one who may, and by nobody else.
            var saved = await greta.PutFile(kind, key, text, file.Tag, Cancel);
            (await Wire.Refused(() => ada.Publish(new PublishRequest([new(kind, key, saved.Revision)], "mine now"), Cancel))).Code.ShouldBe(
                "rights-change"
            );
            (
                await Wire.Refused(() =>
                    ada.ScheduleRelease(new ScheduleRequest([new(kind, key, saved.Revision)], DateTimeOffset.UtcNow.AddHours(1)), Cancel)
                )
            ).Code.ShouldBe("rights-change");
            var bundle = await greta.ExportBundle([$"{kind}/{key}"], draft: true, withoutDependencies: true, Cancel);
            var back = await greta.PutFile(kind, key, file.Text, $"\"{saved.Revision}\"", Cancel);
            (await Wire.Refused(() => ada.ImportBundle(bundle, [], [], dryRun: false, merge: false, null, Cancel))).Code.ShouldBe(
                "rights-change"
            );
            back.Changed.ShouldBeTrue();
        }

        // A title of the same document is hers to change.
        var mine = await ada.File("application", "application", Cancel);
        var named = await ada.PutFile(
            "application",
            "application",
            mine.Text.Replace("Saltmarsh Quay", "Saltmarsh Quay Marina", StringComparison.Ordinal),
            mine.Tag,
            Cancel
        );
        await ada.Publish(new PublishRequest([new("application", "application", named.Revision)], "title"), Cancel);
        // A token of an administrator's that is not good for administering is not, here either.
        using var narrow = new BrightTierClient(
            service.Address,
            (await greta.CreateToken(new TokenRequest("narrow", 1, ["configure", "publish"]), Cancel)).Secret
        );
        var now = await narrow.File("application", "application", Cancel);
        (await Wire.Refused(() => narrow.PutFile("application", "application", Grants[0].Change(now.Text), now.Tag, Cancel))).Code.ShouldBe(
            "rights-change"
        );
    }

    [Fact]
    public async Task Going_back_to_an_old_release_switches_approval_off_for_nobody()
    {
        await using var service = await HostedService.WithDemo();
        using var greta = await service.As("greta");
        using var ada = await service.As("ada");
        var first = (await greta.Releases(Cancel))[0].Number;
        var edits = Wire.Json("""[{"op":"set","node":"layout","property":"title","value":"Moorings"}]""");
        await ada.Edit("berth", new EditRequest(1, edits), Cancel);
        await ada.Publish(new PublishRequest([new("layout", "berth", 2)]), Cancel);
        var file = await greta.File("application", "application", Cancel);
        var saved = await greta.PutFile("application", "application", Grants[1].Change(file.Text), file.Tag, Cancel);
        await greta.Publish(new PublishRequest([new("application", "application", saved.Revision)], "approval"), Cancel);

        (await Wire.Refused(() => ada.Restore(first, new RestoreRequest("back"), Cancel))).Code.ShouldBe("rights-change");
        (await Wire.Refused(() => greta.Restore(first, new RestoreRequest("back"), Cancel))).Code.ShouldBe("approval-missing");
        (
            await Wire.Refused(() => greta.Restore(first, new RestoreRequest("back", [new("application", "application")]), Cancel))
        ).Code.ShouldBe("approval-missing");
        (await greta.Restore(first, new RestoreRequest("back", [new("layout", "berth")]), Cancel)).Release.Number.ShouldBe(first + 3);
    }

    [Fact]
    public async Task A_publisher_of_some_entities_ends_and_cancels_no_release_of_others_and_a_plan_goes_by_the_rights_of_then()
    {
        await using var service = await HostedService.WithDemo();
        using var greta = await service.As("greta");
        var file = await greta.File("application", "application", Cancel);
        var saved = await greta.PutFile(
            "application",
            "application",
            file.Text.Replace(
                "  - key: quay-hand",
                "  - key: berth-office\n    label: Berth office\n    may: [configure, publish, read-records]\n    entities: "
                    + "[berth]\n  - key: quay-hand",
                StringComparison.Ordinal
            ),
            file.Tag,
            Cancel
        );
        await greta.Publish(new PublishRequest([new("application", "application", saved.Revision)], "a role"), Cancel);
        await greta.PutPerson("joris", new PersonRequest("Joris Tiller", ["berth-office"], "en"), Cancel);
        using var joris = await service.As("joris");
        using var ada = await service.As("ada");

        var vessel = await ada.Layout("vessel", Cancel);
        var edited = await ada.Edit(
            "vessel",
            new EditRequest(vessel.Revision, Wire.Json("""[{"op":"set","node":"rig","property":"title","value":"Rigging"}]"""), "Rig"),
            Cancel
        );
        var plan = await ada.ScheduleRelease(
            new ScheduleRequest([new("layout", "vessel", edited.Revision)], DateTimeOffset.UtcNow.AddHours(1)),
            Cancel
        );
        (await Wire.Refused(() => joris.CancelScheduledRelease(plan.Id, Cancel))).Status.ShouldBe(403);
        (
            await Wire.Refused(() =>
                joris.ScheduleRelease(
                    new ScheduleRequest([new("layout", "vessel", edited.Revision)], DateTimeOffset.UtcNow.AddHours(1)),
                    Cancel
                )
            )
        ).Status.ShouldBe(403);
        await ada.CancelScheduledRelease(plan.Id, Cancel);

        var staged = await ada.Publish(
            new PublishRequest([new("layout", "vessel", edited.Revision)], "first some", new(["quay-hand"])),
            Cancel
        );
        (await Wire.Refused(() => joris.Promote(staged.Release.Number, Cancel))).Status.ShouldBe(403);
        (await Wire.Refused(() => joris.Cancel(staged.Release.Number, Cancel))).Status.ShouldBe(403);
        await ada.Promote(staged.Release.Number, Cancel);

        // Who planned it may not publish it any more when its time has come.
        var berth = await joris.Layout("berth", Cancel);
        var his = await joris.Edit(
            "berth",
            new EditRequest(berth.Revision, Wire.Json("""[{"op":"set","node":"place","property":"title","value":"Where"}]"""), "Where"),
            Cancel
        );
        var soon = await joris.ScheduleRelease(
            new ScheduleRequest([new("layout", "berth", his.Revision)], DateTimeOffset.UtcNow.AddSeconds(3)),
            Cancel
        );
        await greta.PutPerson("joris", new PersonRequest("Joris Tiller", ["quay-hand"], "en"), Cancel);
        (await Outcome(greta, soon.Id)).ShouldBe("failed");
    }

    private static async Task<string> Outcome(BrightTierClient greta, long plan)
    {
        for (var i = 0; i < 100; i++)
        {
            var state = (await greta.ScheduledReleases(Cancel)).Single(each => each.Id == plan).State;
            if (state != "scheduled")
            {
                return state;
            }

            await Task.Delay(100, Cancel);
        }

        return "never looked at";
    }

    [Fact]
    public async Task Tokens_end_and_make_no_others_unless_they_are_good_for_all_and_none_that_outlives_them()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var (reader, other) = (
            await ada.CreateToken(new TokenRequest("reader", 10, ["read-records"]), Cancel),
            await ada.CreateToken(new TokenRequest("other", 10), Cancel)
        );
        using var narrow = new BrightTierClient(service.Address, reader.Secret);
        using var whole = new BrightTierClient(service.Address, other.Secret);

        (await Wire.Refused(() => narrow.RevokeToken(other.Id, Cancel))).Code.ShouldBe("token-narrow");
        (await Wire.Refused(() => narrow.CreateToken(new TokenRequest("twin", 365), Cancel))).Code.ShouldBe("token-narrow");
        (await Wire.Refused(() => narrow.Tokens(Cancel))).Code.ShouldBe("token-narrow");
        (await Wire.Refused(() => whole.CreateToken(new TokenRequest("twin", 365), Cancel))).Problems!.Single().Pointer.ShouldBe("/days");
        (await whole.CreateToken(new TokenRequest("shorter", 5), Cancel)).Expires.ShouldBeLessThan(other.Expires);
        await narrow.RevokeToken(reader.Id, Cancel);
        (await Wire.Refused(() => narrow.Session(Cancel).ContinueWith(_ => narrow.Entities(Cancel), Cancel).Unwrap())).Status.ShouldBe(401);

        // A session begun with a token is over with it.
        var cookies = new CookieContainer();
        using var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = cookies }) { BaseAddress = service.Address };
        using var begun = await browser.PostAsync(
            "api/session",
            RunningService.Json($$"""{"token":{{JsonSerializer.Serialize(other.Secret)}}}"""),
            Cancel
        );
        begun.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await browser.GetAsync("api/entities", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await ada.RevokeToken(other.Id, Cancel);
        (await browser.GetAsync("api/entities", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Theory]
    [InlineData("token")]
    [InlineData("sign-out")]
    [InlineData("password")]
    [InlineData("roles")]
    public async Task A_stream_is_over_with_what_it_began_with(string what)
    {
        await using var service = await HostedService.WithDemo();
        using var greta = await service.As("greta");
        using var bram = await service.As("bram");
        var token = await bram.CreateToken(new TokenRequest("stream", 1), Cancel);
        using var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer() })
        {
            BaseAddress = service.Address,
        };
        using var session = await browser.PostAsync("api/session", RunningService.Json("""{"person":"bram"}"""), Cancel);
        browser.DefaultRequestHeaders.Add(
            "X-Antiforgery",
            JsonDocument.Parse(await session.Content.ReadAsStringAsync(Cancel)).RootElement.GetProperty("antiforgery").GetString()
        );
        using var other = new HttpClient
        {
            BaseAddress = service.Address,
            DefaultRequestHeaders = { Authorization = new("Bearer", token.Secret) },
        };
        using var stream = await (what == "token" ? other : browser).GetAsync(
            "api/events",
            HttpCompletionOption.ResponseHeadersRead,
            Cancel
        );
        var read = Task.Run(async () =>
        {
            using var reader = new StreamReader(await stream.Content.ReadAsStreamAsync(Cancel), Encoding.UTF8);
            return await reader.ReadToEndAsync(Cancel);
        });
        await Task.Delay(200, Cancel);
        read.IsCompleted.ShouldBeFalse();

        await (
            what switch
            {
                "token" => bram.RevokeToken(token.Id, Cancel),
                "sign-out" => browser.DeleteAsync("api/session", Cancel),
                "password" => greta.SetPassword("bram", "eleven herons over the quay", Cancel),
                _ => greta.PutPerson("bram", new PersonRequest("Bram Klaasen", ["auditor"], "nl"), Cancel),
            }
        );

        (await Task.WhenAny(read, Task.Delay(5_000, Cancel))).ShouldBe(read, "the stream goes on");
    }
}
