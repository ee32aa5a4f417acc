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
        var database = await (await postgres.Server).NewDatabase();
        await using var one = await RunningService.On(database);
        await using var two = await RunningService.On(database);
        using var ada = await one.As("ada");
        using var there = await two.As("ada");

        // Designed at one, seen and gone on with at the other.
        var draft = await ada.Layout("vessel", Cancel);
        var edited = await ada.Edit("vessel", new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"rig","property":"title","value":"Canvas"}]""")), Cancel);
        (await there.Layout("vessel", Cancel)).Revision.ShouldBe(edited.Revision);
        using var stream = await two.Http("bram");
        var told = Told(stream, "release");
        var released = (await ada.Publish(new PublishRequest([new DraftReference("layout", "vessel", edited.Revision)], "Canvas"), Cancel)).Release.Number;
        (await told.WaitAsync(TimeSpan.FromSeconds(10), Cancel)).ShouldContain($"\"release\":{released}");
        (await there.Form("vessel", "edit", Cancel)).GetRawText().ShouldContain("Canvas");

        // A record saved at one is at its next version at the other; both at once are told apart.
        var record = await ada.Record("vessel", 2, Cancel);
        await ada.ChangeRecord("vessel", 2, record.Version, new RecordSave(Wire.Json("""{"homePort":"Eel Creek"}""")), Cancel);
        (await there.Record("vessel", 2, Cancel)).Values.GetProperty("homePort").GetString().ShouldBe("Eel Creek");
        (await Wire.Refused(() => there.ChangeRecord("vessel", 2, record.Version, new RecordSave(Wire.Json("""{"homePort":"Gull Point"}""")), Cancel))).Code.ShouldBe("record-changed");
    }

    [Fact]
    public async Task Two_who_edit_one_draft_at_two_processes_both_have_their_say()
    {
        var database = await (await postgres.Server).NewDatabase();
        await using var one = await RunningService.On(database);
        await using var two = await RunningService.On(database);
        using var ada = await one.As("ada");
        using var ben = await two.As("ada");
        var start = (await ada.Layout("vessel", Cancel)).Revision;
        await Task.WhenAll(Enumerable.Range(0, 20).Select(i => (i % 2 == 0 ? ada : ben).Edit("vessel", new EditRequest(start, Wire.Json($$"""[{"op":"set","node":"{{(i % 2 == 0 ? "name" : "homePort")}}","property":"{{(i % 4 < 2 ? "help" : "hint")}}","value":"{{i}}"}]"""), Take: "mine"), Cancel)));
        (await ada.Layout("vessel", Cancel)).Revision.ShouldBe(start + 20);
        (await ben.Layout("vessel", Cancel)).Revision.ShouldBe(start + 20);
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
