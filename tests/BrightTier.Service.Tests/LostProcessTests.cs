using System.Collections.Concurrent;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Processes killed, cut off from the database, or left without one: nothing acknowledged is lost, and all goes on.</summary>
public sealed class LostProcessTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task One_killed_one_cut_off_and_a_release_meanwhile_nothing_acknowledged_is_lost_and_nobody_is_on_half_a_release()
    {
        var server = await postgres.Server;
        var database = await server.NewDemoDatabase();
        await using var line = new Line(server.Port);
        await using var one = await ServiceProcess.On(database);
        await using var two = await ServiceProcess.On(database.Replace($"Port={server.Port}", $"Port={line.Port}"));
        await using var three = await ServiceProcess.On(database);
        using var ada = await three.As("ada");
        using var cutOff = await two.As("ada");
        using var killed = await one.As("ada");
        using var asked = await two.Http();
        await cutOff.Form("vessel", "edit", Cancel);
        // A hundred people have forms open at all three.
        using var everybody = new CancellationTokenSource();
        var told = new Dictionary<RunningService, long[]>
        {
            [one] = new long[34],
            [two] = new long[33],
            [three] = new long[33],
        };
        using var bramOne = await one.Http("bram");
        using var bramTwo = await two.Http("bram");
        using var bramThree = await three.Http("bram");
        List<Task> streams =
        [
            .. FollowAll(bramOne, told[one], everybody.Token),
            .. FollowAll(bramTwo, told[two], everybody.Token),
            .. FollowAll(bramThree, told[three], everybody.Token),
        ];
        // And some save, wherever they are connected; who gets no answer goes to the next.
        using var saving = new CancellationTokenSource();
        var acknowledged = new ConcurrentDictionary<long, string>();
        var refused = new ConcurrentDictionary<long, string>();
        var savers = Enumerable
            .Range(1, 6)
            .Select(id => Save(id, [killed, cutOff, ada], id % 3, acknowledged, refused, saving.Token))
            .ToArray();
        await Eventually(() => acknowledged.Count == 6 || Array.Exists(savers, saver => saver.IsCompleted));
        var failed = string.Join("; ", savers.Select(saver => saver.Exception?.InnerException));
        acknowledged.Count.ShouldBe(6, $"Refused last: {string.Join("; ", refused)}. {failed}");

        await one.Kill();
        // Whom it held a balancer sends to the next.
        var moved = new long[34];
        streams.AddRange(FollowAll(bramThree, moved, everybody.Token));
        line.Cut();
        await Eventually(async () => !await IsFresh(asked));
        (await Rename(ada)).ShouldBe(2);
        var published = System.Diagnostics.Stopwatch.StartNew();
        await Eventually(() => Array.TrueForAll([.. told[three], .. moved], release => release == 2));
        var reached = published.ElapsedMilliseconds;

        // The one that is cut off serves what it has, whole, and takes nothing it could not keep.
        (await IsRenamed(cutOff)).ShouldBe((false, false));
        (await Wire.Refused(() => Note(cutOff, "lost?"))).Status.ShouldBe(503);

        line.Mend();
        published.Restart();
        await Eventually(() => Array.TrueForAll(told[two], release => release == 2));
        var mended = published.ElapsedMilliseconds;
        TestContext.Current.TestOutputHelper?.WriteLine($"Told after {reached} ms; where cut off, {mended} ms after that was mended.");
        (await IsRenamed(cutOff)).ShouldBe((true, true));
        await Eventually(() => IsFresh(asked));

        await saving.CancelAsync();
        await Task.WhenAll(savers);
        await AllThere(ada, acknowledged);
        await everybody.CancelAsync();
        await Task.WhenAll(streams);
    }

    private static async Task<bool> IsFresh(HttpClient http) => (await http.GetAsync("health/stale", Cancel)).IsSuccessStatusCode;

    private static Task<RecordInfo> Note(BrightTierClient client, string text) =>
        client.ChangeRecord("vessel", 9, 1, new RecordSave(Wire.Json($$"""{"notes":"{{text}}"}""")), Cancel);

    /// <summary>As many open forms as there are places to note what each was told last.</summary>
    private static IEnumerable<Task> FollowAll(HttpClient http, long[] told, CancellationToken until) =>
        told.Select((_, i) => Follow(http, release => told[i] = release, until));

    /// <summary>Publishes two changed titles; the number of the release.</summary>
    private static async Task<long> Rename(BrightTierClient ada)
    {
        var draft = await ada.Layout("vessel", Cancel);
        var edits = Wire.Json(
            """
            [{"op":"set","node":"rig","property":"title","value":"Canvas"},
             {"op":"set","node":"identity","property":"title","value":"Who she is"}]
            """
        );
        var revision = (await ada.Edit("vessel", new EditRequest(draft.Revision, edits), Cancel)).Revision;
        return (await ada.Publish(new PublishRequest([new DraftReference("layout", "vessel", revision)], "Canvas"), Cancel)).Release.Number;
    }

    private static async Task<(bool, bool)> IsRenamed(BrightTierClient who)
    {
        var form = (await who.Form("vessel", "edit", Cancel)).GetRawText();
        return (form.Contains("Canvas", StringComparison.Ordinal), form.Contains("Who she is", StringComparison.Ordinal));
    }

    /// <summary>What was acknowledged last is there, or what was on its way behind it.</summary>
    private static async Task AllThere(BrightTierClient ada, ConcurrentDictionary<long, string> acknowledged)
    {
        foreach (var (id, last) in acknowledged)
        {
            var now = (await ada.Record("vessel", id, Cancel)).Values.GetProperty("notes").GetString()!;
            int.Parse(now[6..], System.Globalization.CultureInfo.InvariantCulture)
                .ShouldBeGreaterThanOrEqualTo(int.Parse(last[6..], System.Globalization.CultureInfo.InvariantCulture));
        }
    }

    [Fact]
    public async Task While_the_database_is_gone_forms_are_served_and_saving_is_refused_and_afterwards_all_goes_on_without_a_restart()
    {
        await using var server = await PostgresServer.Begin();
        await using var service = await ServiceProcess.On(await server.NewDemoDatabase());
        using var ada = await service.As("ada");
        var form = (await ada.Form("vessel", "edit", Cancel)).GetRawText();
        var record = await ada.Record("vessel", 2, Cancel);

        await server.Stop();
        (await ada.Form("vessel", "edit", Cancel)).GetRawText().ShouldBe(form);
        (
            await Wire.Refused(() =>
                ada.ChangeRecord("vessel", 2, record.Version, new RecordSave(Wire.Json("{\"homePort\":\"Eel Creek\"}")), Cancel)
            )
        ).Status.ShouldBe(503);
        using var plain = await service.Http();
        using var later = await plain.GetAsync("api/forms/vessel", Cancel);
        later.StatusCode.ShouldBe(System.Net.HttpStatusCode.Unauthorized);

        await server.Start();
        await Eventually(async () =>
        {
            try
            {
                await ada.Record("vessel", 2, Cancel);
                return true;
            }
            catch (RefusedException)
            {
                return false;
            }
        });
        (
            await ada.ChangeRecord("vessel", 2, record.Version, new RecordSave(Wire.Json("{\"homePort\":\"Eel Creek\"}")), Cancel)
        ).Version.ShouldBe(record.Version + 1);
    }

    /// <summary>Saves one record again and again, at the next service where one does not answer, until it is told to stop.</summary>
    private static async Task Save(
        long id,
        BrightTierClient[] clients,
        int first,
        ConcurrentDictionary<long, string> acknowledged,
        ConcurrentDictionary<long, string> refused,
        CancellationToken stop
    )
    {
        for (var (count, at) = (1, first); !stop.IsCancellationRequested; count++)
        {
            try
            {
                var now = await clients[at].Record("vessel", id, CancellationToken.None);
                var text = string.Create(System.Globalization.CultureInfo.InvariantCulture, $"Saved {count}");
                await clients[at]
                    .ChangeRecord(
                        "vessel",
                        id,
                        now.Version,
                        new RecordSave(Wire.Json($"{{\"notes\":\"{text}\"}}")),
                        CancellationToken.None
                    );
                acknowledged[id] = text;
            }
            catch (Exception error) when (error is RefusedException or UnreachableException)
            {
                refused[id] = error.Message;
                at = (at + 1) % clients.Length;
            }
        }
    }

    /// <summary>Keeps a stream open, again and again, and notes the release it is told of, by hello or by event.</summary>
    private static async Task Follow(HttpClient http, Action<long> told, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                using var request = new HttpRequestMessage(HttpMethod.Get, "api/events");
                using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, stop);
                using var reader = new StreamReader(await answer.Content.ReadAsStreamAsync(stop));
                while (await reader.ReadLineAsync(stop) is { } line)
                {
                    if (
                        line.StartsWith("data:", StringComparison.Ordinal)
                        && line.IndexOf("\"release\":", StringComparison.Ordinal) is var at and > 0
                    )
                    {
                        told(
                            long.Parse(
                                new string([.. line[(at + 10)..].TakeWhile(char.IsAsciiDigit)]),
                                System.Globalization.CultureInfo.InvariantCulture
                            )
                        );
                    }
                }
            }
            catch (Exception error) when (error is HttpRequestException or IOException or OperationCanceledException)
            {
                await Task.Delay(100, CancellationToken.None);
            }
        }
    }

    private static Task Eventually(Func<bool> holds) => Eventually(() => Task.FromResult(holds()));

    /// <summary>Waits until something holds.</summary>
    private static async Task Eventually(Func<Task<bool>> holds)
    {
        for (var i = 0; !await holds(); i++)
        {
            // Several tests share few processors: what comes late is no fault, what does not come is.
            i.ShouldBeLessThan(2_400);
            await Task.Delay(50, Cancel);
        }
    }
}
