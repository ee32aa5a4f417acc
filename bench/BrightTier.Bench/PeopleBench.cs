using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Bench;

/// <summary>
/// R6, as a working day has it: 50 designers who change 50 layouts, 10,000 forms that are open and are drawn anew at each release, people
/// who
/// save records, and a release a minute; for as many minutes as are asked for. Memory stays flat, no stream is lost, and the slowest
/// edits take
/// no more than five times the median.
/// </summary>
internal static class PeopleBench
{
    private const int Designers = 50;
    private const int SavesPerSecond = 5;
    private static readonly TimeSpan Thought = TimeSpan.FromSeconds(3);

    /// <param name="processes">1 on SQLite, more on one PostgreSQL.</param>
    public static async Task<bool> Run(double minutes, int forms, int processes)
    {
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Designers} designers, {forms} open forms, {SavesPerSecond} saves a second, a release a minute, {minutes} minutes, "
                    + $"{processes} process{(processes == 1 ? " on SQLite" : "es on PostgreSQL")}"
            )
        );
        var folder = ManyBench.Seed(ManyBench.Few + Designers);
        await using var postgres = processes == 1 ? null : await PostgresServer.Begin();
        var database = postgres is null ? null : await postgres.NewDatabase();
        var services = new List<ServiceProcess>();
        for (var i = 0; i < processes; i++)
        {
            string[] more = database is null ? [] : ["--Database", database];
            services.Add(await ServiceProcess.Of(folder, [.. more, "--CallsPerSecond", "0"]));
        }

        var day = new Day(services);
        var holders = new List<Process>();
        foreach (var service in services)
        {
            using var http = await service.Http("bram");
            holders.AddRange(
                await ReachBench.Hold(service.Address, http.DefaultRequestHeaders.Authorization!.Parameter!, forms / processes, draws: true)
            );
        }

        foreach (var holder in holders)
        {
            _ = day.Listen(holder);
        }

        using var over = new CancellationTokenSource(TimeSpan.FromMinutes(minutes));
        var acts = Enumerable
            .Range(0, Designers)
            .Select(number => day.Design(number, over.Token))
            .Append(day.Save(over.Token))
            .Append(day.Publish(over.Token))
            .Append(day.Watch(minutes, over.Token));
        await Task.WhenAll(acts);
        var met = day.Tell();
        ReachBench.Release(holders);
        foreach (var service in services)
        {
            await service.DisposeAsync();
        }

        Directory.Delete(folder, recursive: true);
        return met;
    }

    /// <summary>What happens, and what is measured of it.</summary>
    private sealed class Day(IReadOnlyList<ServiceProcess> services)
    {
        private readonly ConcurrentQueue<double> edits = new();
        private readonly ConcurrentQueue<(double Since, double Took)> phases = new();
        private readonly ConcurrentQueue<double> saves = new();
        private readonly ConcurrentQueue<double> drawn = new();
        private readonly List<(TimeSpan At, long Memory)> memory = [];
        private long published;
        private int releases;
        private int lost;

        private ServiceProcess At(int number) => services[number % services.Count];

        /// <summary>Changes a layout of her own, and looks at it, again and again.</summary>
        public async Task Design(int number, CancellationToken over)
        {
            using var ada = await At(number).As("ada");
            using var http = await At(number).Http("ada");
            var key = ManyBench.KeyOf(ManyBench.Few + number);
            var random = new Random(number);
            var revision = (await ada.Layout(key, CancellationToken.None)).Revision;
            for (var i = 0; await Waited(Thought * (0.5 + random.NextDouble()), over); i++)
            {
                using var change = JsonDocument.Parse(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $$"""[{"op":"set","node":"measures","property":"title","value":"Measures {{i}}"}]"""
                    )
                );
                var began = Stopwatch.GetTimestamp();
                revision = (await ada.Edit(key, new EditRequest(revision, change.RootElement), CancellationToken.None)).Revision;
                var took = Since(began);
                edits.Enqueue(took);
                phases.Enqueue((Stopwatch.GetElapsedTime(Interlocked.Read(ref published), began).TotalSeconds, took));
                using var view = await http.GetAsync($"api/layouts/{key}/view?mode=edit", CancellationToken.None);
                await view.Content.ReadAsByteArrayAsync(CancellationToken.None);
            }
        }

        /// <summary>Saves records.</summary>
        public async Task Save(CancellationToken over)
        {
            using var bram = await At(1).As("bram");
            var version = (await bram.Record("vessel", 1, CancellationToken.None)).Version;
            for (var i = 0; await Waited(TimeSpan.FromSeconds(1.0 / SavesPerSecond), over); i++)
            {
                using var values = JsonDocument.Parse(string.Create(CultureInfo.InvariantCulture, $$"""{"homePort":"Quay {{i}}"}"""));
                var began = Stopwatch.GetTimestamp();
                version = (
                    await bram.ChangeRecord("vessel", 1, version, new RecordSave(values.RootElement), CancellationToken.None)
                ).Version;
                saves.Enqueue(Since(began));
            }
        }

        /// <summary>Publishes what one of the designers has, a release a minute.</summary>
        public async Task Publish(CancellationToken over)
        {
            using var ada = await At(0).As("ada");
            do
            {
                var key = ManyBench.KeyOf(ManyBench.Few + (releases % Designers));
                while (true)
                {
                    var draft = await ada.Layout(key, CancellationToken.None);
                    Interlocked.Exchange(ref published, Stopwatch.GetTimestamp());
                    try
                    {
                        await ada.Publish(new PublishRequest([new("layout", key, draft.Revision)]), CancellationToken.None);
                        break;
                    }
                    catch (RefusedException refused) when (refused.Problem.Code == "draft-moved-on")
                    {
                        // Its designer was faster: once more.
                    }
                }

                releases++;
            } while (await Waited(TimeSpan.FromMinutes(1), over));
        }

        /// <summary>What a process says that holds open forms.</summary>
        public async Task Listen(Process holder)
        {
            while (await holder.StandardOutput.ReadLineAsync() is { } line)
            {
                if (line == "cut off")
                {
                    Interlocked.Increment(ref lost);
                }
                else if (line.StartsWith("drawn ", StringComparison.Ordinal))
                {
                    var at = long.Parse(line.AsSpan(6), CultureInfo.InvariantCulture);
                    drawn.Enqueue(Stopwatch.GetElapsedTime(Interlocked.Read(ref published), at).TotalMilliseconds);
                }
            }
        }

        /// <summary>Looks at the memory now and then.</summary>
        public async Task Watch(double minutes, CancellationToken over)
        {
            var began = Stopwatch.GetTimestamp();
            var pace = TimeSpan.FromMinutes(Math.Min(0.5, minutes / 20));
            while (await Waited(pace, over))
            {
                memory.Add((Stopwatch.GetElapsedTime(began), services.Max(service => service.Memory)));
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  {memory[^1].At:hh\\:mm\\:ss}  {memory[^1].Memory / 1_000_000} MB  {edits.Count} edits  {saves.Count} saves  "
                            + $"{releases} releases  {lost} lost"
                    )
                );
            }
        }

        /// <summary>Says what was measured; whether it is as it has to be.</summary>
        public bool Tell()
        {
            // What is there at the beginning is not what is needed in the long run: the second quarter is compared with the last.
            var quarter = memory.Count / 4;
            var early = memory.Skip(quarter).Take(quarter).Select(each => each.Memory).DefaultIfEmpty().Max();
            var late = memory.Skip(3 * quarter).Select(each => each.Memory).DefaultIfEmpty().Max();
            var (median, slow) = (At(edits, 0.5), At(edits, 0.99));
            var processor = services.Sum(service => service.ProcessorTime.TotalSeconds) / memory[^1].At.TotalSeconds;
            var flat = late <= early * 1.1;
            var fair = slow <= 5 * median;
            Say($"edits: {edits.Count}, median {median:0.0} ms, 99 of 100 within {slow:0.0} ms");
            Say($"  which is {slow / median:0.0} times the median (at most 5): {Word(fair)}");
            // A release is told in its first second; the forms are drawn anew in the next five.
            foreach (var (phase, from, below) in new[] { ("told", -1, 1), ("drawn", 1, 6), ("otherwise", 6, 3_600) })
            {
                var of = phases.Where(each => each.Since >= from && each.Since < below).Select(each => each.Took).ToList();
                Say($"  while a release is {phase}: {of.Count}, median {At(of, 0.5):0.0} ms, 99 of 100 within {At(of, 0.99):0.0} ms");
            }

            Say($"saves: {saves.Count}, median {At(saves, 0.5):0.0} ms, 99 of 100 within {At(saves, 0.99):0.0} ms");
            Say($"releases: {releases}; until all open forms are drawn, median {At(drawn, 0.5):0} ms, at most {At(drawn, 1):0} ms");
            Say($"memory: {early / 1_000_000} MB in the second quarter, {late / 1_000_000} MB in the last");
            Say($"  which is {(double)late / early:0.00} times as much (at most 1.1): {Word(flat)}");
            Say($"processor: {processor:0.00} of a core");
            Say($"streams lost: {lost}: {Word(lost == 0)}");
            return flat && fair && lost == 0;
        }

        private static void Say(FormattableString text) => Console.WriteLine("  " + text.ToString(CultureInfo.InvariantCulture));

        private static string Word(bool met) => met ? "met" : "MISSED";

        private static double At(IEnumerable<double> times, double share)
        {
            var sorted = times.Order().ToArray();
            return sorted.Length == 0 ? 0 : sorted[Math.Min(sorted.Length - 1, (int)(sorted.Length * share))];
        }

        private static double Since(long began) => Stopwatch.GetElapsedTime(began).TotalMilliseconds;

        /// <summary>Waits; false when the day is over.</summary>
        private static async Task<bool> Waited(TimeSpan time, CancellationToken over)
        {
            try
            {
                await Task.Delay(time, over);
                return true;
            }
            catch (OperationCanceledException)
            {
                return false;
            }
        }
    }
}
