using System.Buffers.Text;
using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Bench;

/// <summary>
/// P9: a release told to 10,000 open streams that other processes hold, until the last has it, beside a bare loop that writes the same
/// event.
/// </summary>
internal static class ReachBench
{
    private const int Streams = 10_000;
    private const int Holders = 2;
    private const int Rounds = 9;

    public static async Task<IReadOnlyList<Result>> Run(Func<Uri, string?, string?, Process> bare, Func<Uri> free, Func<Uri, Task> ready)
    {
        Console.WriteLine("P9: 10,000 open streams");
        await using var postgres = await PostgresServer.Begin();
        var results = new List<Result>();
        foreach (var (name, database) in new[] { ("SQLite", null), ("PostgreSQL", await postgres.NewDatabase()) })
        {
            // Before each of the two: a shared machine is not the same minutes later.
            var theirs = await Reference(bare, free, ready);
            await using var service = await ServiceProcess.WithDemo(
                null,
                [.. database is null ? Array.Empty<string>() : ["--Database", database], "--CallsPerSecond", "0"]
            );
            using var ada = await service.As("ada");
            // Whoever has a form open, not whoever makes them: configurators are told of every change of a draft, too.
            using var http = await service.Http("bram");
            var alone = new List<double>();
            for (var round = 0; round < 12; round++)
            {
                alone.Add(Since(await Publish(ada), Stopwatch.GetTimestamp()));
            }

            var holders = await Hold(service.Address, http.DefaultRequestHeaders.Authorization!.Parameter!);
            var (told, whole) = (new List<double>(), new List<double>());
            for (var round = 0; round < Rounds; round++)
            {
                var begun = await Publish(ada);
                var last = Since(begun, await Last(holders));
                whole.Add(last);
                // What publishing takes with nobody there is not telling.
                told.Add(Math.Max(0, last - Median(alone)));
            }

            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {name}: a publish alone {Median(alone):0} ms; from asking to publish until the last has it "
                        + $"{Median(whole):0} ms; "
                        + $"{Process.GetProcessesByName("dotnet").Select(process => process.WorkingSet64).Max() / 1_000_000} MB at most"
                )
            );
            results.Add(Result.Of($"P9 last of 10,000 streams told, {name}", Median(told), "ms", Median(theirs), 1.5, "lower"));
            results.Add(
                new Result(
                    $"P9 asked to publish until the last has it, {name}",
                    Median(whole),
                    "ms",
                    1_000,
                    Median(whole) / 1_000,
                    1,
                    "lower",
                    Median(whole) <= 1_000
                )
            );
            Release(holders);
        }

        return results;
    }

    private static async Task<List<double>> Reference(Func<Uri, string?, string?, Process> bare, Func<Uri> free, Func<Uri, Task> ready)
    {
        var address = free();
        using var reference = bare(address, null, null);
        await ready(address);
        using var plain = new HttpClient { BaseAddress = address };
        var holders = await Hold(address, "none");
        var told = new List<double>();
        for (var round = 0; round < Rounds; round++)
        {
            var begun = long.Parse(await plain.GetStringAsync("tell"), CultureInfo.InvariantCulture);
            told.Add(Since(begun, await Last(holders)));
        }

        Release(holders);
        reference.Kill();
        return told;
    }

    /// <summary>
    /// A process that holds streams and says when the last of them was told: what <c>hold ADDRESS TOKEN COUNT DRAWS</c> runs. Where it
    /// draws, it
    /// fetches the form for each of them then, as an open form does, and says when it has.
    /// </summary>
    public static async Task Holder(string address, string token, int count, bool draws)
    {
        var request = Encoding.ASCII.GetBytes($"GET /api/events HTTP/1.1\r\nHost: 127.0.0.1\r\nAuthorization: Bearer {token}\r\n\r\n");
        var sockets = new List<Socket>();
        var left = count;
        for (var i = 0; i < count; i++)
        {
            var socket = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp);
            await socket.ConnectAsync(IPAddress.Loopback, new Uri(address).Port);
            await socket.SendAsync(request);
            var buffer = new byte[1_024];
            var have = 0;
            while (!buffer.AsSpan(0, have).EndsWith("\n\n\r\n"u8))
            {
                have += await socket.ReceiveAsync(buffer.AsMemory(have));
            }

            sockets.Add(socket);
            _ = Listen(socket, buffer);
        }

        Console.WriteLine("open");
        // Until the other side closes the input.
        while (await Console.In.ReadLineAsync() is not null) { }

        async Task Listen(Socket socket, byte[] buffer)
        {
            while (true)
            {
                var read = await socket.ReceiveAsync(buffer);
                if (read == 0)
                {
                    Console.WriteLine("cut off");
                    return;
                }

                if (buffer.AsSpan(0, read).IndexOf("event: release"u8) >= 0 && Interlocked.Decrement(ref left) == 0)
                {
                    var now = Stopwatch.GetTimestamp();
                    Volatile.Write(ref left, count);
                    Console.WriteLine(now.ToString(CultureInfo.InvariantCulture));
                    if (draws)
                    {
                        _ = Draw(new Uri(address), token, count, Within(buffer.AsSpan(0, read)));
                    }
                }
            }
        }
    }

    /// <summary>Within what time forms are to be fetched anew, as the event says.</summary>
    private static TimeSpan Within(ReadOnlySpan<byte> told)
    {
        var at = told.IndexOf("\"within\":"u8);
        return at >= 0 && Utf8Parser.TryParse(told[(at + 9)..], out int milliseconds, out _)
            ? TimeSpan.FromMilliseconds(milliseconds)
            : TimeSpan.Zero;
    }

    /// <summary>Fetches a form as often as there are open ones, evenly within a time, over a few connections.</summary>
    private static async Task Draw(Uri address, string token, int count, TimeSpan within)
    {
        var began = Stopwatch.GetTimestamp();
        const int Connections = 8;
        using var http = new HttpClient { BaseAddress = address };
        http.DefaultRequestHeaders.Authorization = new System.Net.Http.Headers.AuthenticationHeaderValue("Bearer", token);
        await Task.WhenAll(
            Enumerable
                .Range(0, Connections)
                .Select(async _ =>
                {
                    for (var i = 0; i < count / Connections; i++)
                    {
                        var early = within * ((double)i * Connections / count) - Stopwatch.GetElapsedTime(began);
                        if (early > TimeSpan.Zero)
                        {
                            await Task.Delay(early);
                        }

                        using var answer = await http.GetAsync("api/forms/vessel?mode=edit");
                        await answer.Content.ReadAsByteArrayAsync();
                    }
                })
        );
        Console.WriteLine($"drawn {Stopwatch.GetTimestamp().ToString(CultureInfo.InvariantCulture)}");
    }

    /// <summary>Changes a title and publishes it; when it was asked to.</summary>
    private static async Task<long> Publish(Client.BrightTierClient ada)
    {
        var draft = await ada.Layout("berth", CancellationToken.None);
        using var edits = System.Text.Json.JsonDocument.Parse(
            $$"""[{"op":"set","node":"place","property":"title","value":"Place {{draft.Revision}}"}]"""
        );
        var edited = await ada.Edit("berth", new EditRequest(draft.Revision, edits.RootElement), CancellationToken.None);
        var begun = Stopwatch.GetTimestamp();
        await ada.Publish(new PublishRequest([new("layout", "berth", edited.Revision)]), CancellationToken.None);
        return begun;
    }

    /// <summary>Processes that hold so many streams, all of which are open.</summary>
    /// <param name="draws">Whether they fetch forms as they are told of a release.</param>
    public static async Task<IReadOnlyList<Process>> Hold(Uri address, string token, int streams = Streams, bool draws = false)
    {
        var holders = Enumerable
            .Range(0, Holders)
            .Select(_ =>
            {
                var start = new ProcessStartInfo("dotnet")
                {
                    UseShellExecute = false,
                    RedirectStandardOutput = true,
                    RedirectStandardInput = true,
                };
                foreach (
                    var argument in new[]
                    {
                        typeof(ReachBench).Assembly.Location,
                        "hold",
                        address.ToString(),
                        token,
                        (streams / Holders).ToString(CultureInfo.InvariantCulture),
                        draws.ToString(),
                    }
                )
                {
                    start.ArgumentList.Add(argument);
                }

                return Process.Start(start)!;
            })
            .ToArray();
        foreach (var holder in holders)
        {
            if (await holder.StandardOutput.ReadLineAsync() != "open")
            {
                throw new InvalidOperationException("The streams could not be opened.");
            }
        }

        await Task.Delay(1_000);
        return holders;
    }

    private static async Task<long> Last(IReadOnlyList<Process> holders) =>
        (await Task.WhenAll(holders.Select(holder => holder.StandardOutput.ReadLineAsync()))).Max(line =>
            long.Parse(line!, CultureInfo.InvariantCulture)
        );

    public static void Release(IReadOnlyList<Process> holders)
    {
        foreach (var holder in holders)
        {
            holder.StandardInput.Close();
            holder.Kill();
            holder.Dispose();
        }
    }

    private static double Since(long begun, long ended) => Stopwatch.GetElapsedTime(begun, ended).TotalMilliseconds;

    private static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);
}
