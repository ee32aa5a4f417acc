using System.Globalization;
using System.IO.Compression;
using System.Net.ServerSentEvents;
using System.Text.RegularExpressions;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>What must survive for long: a few rounds here, in full under <c>make endure</c>, which sets the counts.</summary>
public sealed class EnduranceTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>
    /// Killed at random moments while people save and publish: all that was acknowledged is there, the release is a whole one, the log is
    /// unbroken.
    /// </summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task Killed_again_and_again_while_saving_and_publishing_nothing_acknowledged_is_lost(bool onPostgres)
    {
        await using var service = onPostgres
            ? await ServiceProcess.On(await (await postgres.Server).NewDemoDatabase())
            : await ServiceProcess.WithDemo();
        var random = new Random(4271);
        var acknowledged = new HashSet<string>();
        var (published, tried, made) = (0, 0, 0);
        for (var round = 0; round < Count("KILLS", 2); round++)
        {
            var (before, shownBefore) = (acknowledged.Count, published);
            var first = Registration(made);
            using var saver = await service.As("ada");
            using var publisher = await service.As("ada");
            var saving = Until(async () =>
            {
                var registration = Registration(made++);
                await saver.CreateRecord("vessel", new RecordSave(Vessel(registration)), Cancel);
                acknowledged.Add(registration);
            });
            var publishing = Until(async () =>
            {
                var draft = await publisher.Layout("vessel", Cancel);
                var edited = await publisher.Edit(
                    "vessel",
                    new EditRequest(
                        draft.Revision,
                        Wire.Json($$"""[{"op":"set","node":"rig","property":"title","value":"Canvas {{++tried}}"}]""")
                    ),
                    Cancel
                );
                await publisher.Publish(new PublishRequest([new("layout", "vessel", edited.Revision)]), Cancel);
                published = tried;
            });
            // However slow the machine: what is to outlive the kill has been acknowledged.
            while (!(saving.IsCompleted || publishing.IsCompleted) && (acknowledged.Count == before || published <= shownBefore))
            {
                await Task.Delay(10, Cancel);
            }

            await Task.Delay(random.Next(300, 1_500), Cancel);
            await service.Kill();
            await Task.WhenAll(saving, publishing);
            await service.Restart();

            using var ada = await service.As("ada");
            using var greta = await service.As("greta");
            var shown = Regex.Match((await ada.Form("vessel", "edit", Cancel)).GetRawText(), "Canvas (?<number>[0-9]+)");
            (shown.Success ? int.Parse(shown.Groups["number"].Value, CultureInfo.InvariantCulture) : 0).ShouldBeInRange(
                published,
                tried,
                $"round {round}"
            );
            // The release is whole: all that was in the first, of which every later one changes something.
            (await ada.Releases(Cancel)).Single(release => release.Current).Number.ShouldBeGreaterThan(1);
            var bundle = await ada.ExportBundle([], draft: false, withoutDependencies: false, Cancel);
            using (var archive = new ZipArchive(new MemoryStream(bundle)))
            {
                archive.Entries.Count(entry => entry.FullName != "manifest.json").ShouldBe(37, $"round {round}");
            }

            acknowledged.Count.ShouldBeGreaterThan(before, $"round {round}");
            published.ShouldBeGreaterThan(shownBefore, $"round {round}");
            (await Registrations(ada, first)).IsSupersetOf(acknowledged.Skip(before)).ShouldBeTrue($"round {round}");
            (await greta.AuditProof(Cancel)).Intact.ShouldBeTrue($"round {round}");
        }

        using var reader = await service.As("ada");
        (await Registrations(reader, "")).IsSupersetOf(acknowledged).ShouldBeTrue("at the end all there ever were");
        TestContext.Current.TestOutputHelper?.WriteLine($"{acknowledged.Count} records and {published} releases were acknowledged");
    }

    private static System.Text.Json.JsonElement Vessel(string registration) =>
        Wire.Json(
            $$"""
            {"name":"Sea Pink","registration":"{{registration}}","hullType":"mono","propulsion":"diesel","length":9.5}
            """
        );

    /// <summary>More of them than can be saved while the test lasts, in the order of the alphabet; behind those of the demo.</summary>
    private static string Registration(int number) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{(char)('U' + (number / 260_000))}{(char)('A' + (number / 10_000 % 26))}-{number % 10_000:0000}"
        );

    /// <summary>
    /// Many open streams while people save and publish: nobody is dropped, everybody is told of every release in its order, and memory
    /// stays what it was half the way.
    /// </summary>
    [Fact]
    public async Task Many_streams_stay_open_and_are_told_of_every_release()
    {
        await using var service = await ServiceProcess.WithDemo(null, "--CallsPerSecond", "0");
        using var http = await service.Http("bram");
        using var ada = await service.As("ada");
        var streams = await Task.WhenAll(
            Enumerable
                .Range(0, Count("STREAMS", 200))
                .Select(async _ =>
                    SseParser.Create(await http.GetStreamAsync("api/events", Cancel)).EnumerateAsync(Cancel).GetAsyncEnumerator(Cancel)
                )
        );
        var releases = Count("RELEASES", 5);
        var listening = streams
            .Select(async stream =>
            {
                var heard = new List<long>();
                while (heard.Count < releases && await stream.MoveNextAsync())
                {
                    if (stream.Current.EventType == "release")
                    {
                        heard.Add(Wire.Json(stream.Current.Data).GetProperty("release").GetInt64());
                    }
                }

                return heard;
            })
            .ToArray();
        var half = 0L;
        for (var i = 0; i < releases; i++)
        {
            if (i == (releases + 1) / 2)
            {
                half = service.Memory;
            }

            var draft = await ada.Layout("vessel", Cancel);
            var edited = await ada.Edit(
                "vessel",
                new EditRequest(draft.Revision, Wire.Json($$"""[{"op":"set","node":"rig","property":"title","value":"Canvas {{i}}"}]""")),
                Cancel
            );
            await ada.Publish(new PublishRequest([new("layout", "vessel", edited.Revision)]), Cancel);
            var record = await ada.Record("berth", 1, Cancel);
            await ada.ChangeRecord("berth", 1, record.Version, new RecordSave(Wire.Json($$"""{"dayRate":{{i + 10}}}""")), Cancel);
        }

        foreach (var heard in await Task.WhenAll(listening).WaitAsync(TimeSpan.FromMinutes(2), Cancel))
        {
            heard.ShouldBe(Enumerable.Range(2, releases).Select(number => (long)number));
        }

        // What is not collected yet is allowed for; what a stream or a release kept for good would be more.
        service.Memory.ShouldBeLessThan((half * 5 / 4) + 50_000_000, $"half the way it was {half}");
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{streams.Length} streams, {releases} releases: {half / 1_000_000} MB half the way, {service.Memory / 1_000_000} MB at the end"
        );
    }

    private static int Count(string name, int usual) =>
        int.TryParse(Environment.GetEnvironmentVariable($"BRIGHTTIER_ENDURE_{name}"), out var count) ? count : usual;

    private static async Task Until(Func<Task> again)
    {
        try
        {
            while (true)
            {
                await again();
            }
        }
        catch (UnreachableException)
        {
            // It was killed; what was on its way may or may not have come about.
        }
    }

    /// <summary>The registrations there are, from one on.</summary>
    private static async Task<HashSet<string>> Registrations(BrightTierClient ada, string from)
    {
        var found = new HashSet<string>();
        for (string? after = null; ; )
        {
            var page = await ada.Records("vessel", null, "-registration", null, after, 200, Cancel);
            found.UnionWith(page.Records.Select(record => record.Values.GetProperty("registration").GetString()!));
            if (page.Next is null || string.CompareOrdinal(page.Records[^1].Values.GetProperty("registration").GetString(), from) < 0)
            {
                return found;
            }

            after = page.Next;
        }
    }
}
