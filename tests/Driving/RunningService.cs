using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text;
using BrightTier.Client;

namespace BrightTier.Testing;

/// <summary>The real service as its own process on loopback, with a data folder of its own; ended by its process id.</summary>
public sealed class RunningService : IAsyncDisposable
{
    private readonly List<string> output = [];
    private readonly string[] began;
    private readonly long? heap;
    private Process process;

    private RunningService(string data, Uri address, string[] more, long? heap = null)
    {
        began = more;
        this.heap = heap;
        Data = data;
        Address = address;
        process = Launch(more);
    }

    public static string Checkout { get; } = FindCheckout();

    public string Data { get; }

    public Uri Address { get; }

    public bool HasExited => process.HasExited;

    /// <summary>How long it has kept a processor busy: what a call costs, however much else the machine does meanwhile.</summary>
    public TimeSpan ProcessorTime
    {
        get
        {
            process.Refresh();
            return process.TotalProcessorTime;
        }
    }

    /// <summary>The memory it holds, in bytes.</summary>
    public long Memory
    {
        get
        {
            process.Refresh();
            return process.WorkingSet64;
        }
    }

    public string Output
    {
        get
        {
            lock (output)
            {
                return string.Join('\n', output);
            }
        }
    }

    /// <summary>A service with the demo application, ready to answer.</summary>
    public static async Task<RunningService> WithDemo(string? data = null, params string[] more) =>
        await Begin(data ?? (more.Contains("--Database") ? NewFolder() : await FilledFolder()), more);

    /// <summary>A service with the demo application whose heap cannot grow over so many bytes: a call that needs more fails for want of memory.</summary>
    public static async Task<RunningService> WithHeapOf(long bytes) => await Begin(await FilledFolder(), [], bytes);

    private static async Task<string> FilledFolder()
    {
        var data = NewFolder();
        foreach (var file in Directory.EnumerateFiles(await Filled.Value))
        {
            File.Copy(file, Path.Combine(data, Path.GetFileName(file)));
        }

        return data;
    }

    /// <summary>The data folder of a service that has taken the demo application in: done once for all tests, since it takes longer than most of them.</summary>
    private static readonly Lazy<Task<string>> Filled = new(async () =>
    {
        var folder = NewFolder();
        await (await Begin(folder, [])).Kill();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(folder, recursive: true);
        return folder;
    });

    private static async Task<RunningService> Begin(string data, string[] more, long? heap = null)
    {
        var service = new RunningService(data, FreeAddress(), ["--Seed", Path.Combine(Checkout, "demo"), "--PickPeople", "true", "--SignInsPerMinute", "0", .. more], heap);
        await service.Ready();
        return service;
    }

    /// <summary>A service on a database of PostgreSQL, with the demo application if the database is empty; several may share one.</summary>
    public static Task<RunningService> On(string database, params string[] more) => WithDemo(null, ["--Database", database, .. more]);

    /// <summary>A service with nothing in it.</summary>
    public static async Task<RunningService> Empty(params string[] more)
    {
        var service = new RunningService(NewFolder(), FreeAddress(), more);
        await service.Ready();
        return service;
    }

    /// <summary>A service that begins with a folder of documents.</summary>
    public static async Task<RunningService> Of(string seed, params string[] more)
    {
        var service = new RunningService(NewFolder(), FreeAddress(), ["--Seed", seed, "--PickPeople", "true", "--SignInsPerMinute", "0", .. more]);
        await service.Ready();
        return service;
    }

    public static string NewFolder() => Directory.CreateTempSubdirectory("bright-tier-test-").FullName;

    /// <summary>Starts the service again on its data after it has died.</summary>
    public async Task Restart(params string[] more)
    {
        await process.WaitForExitAsync();
        process = Launch([.. began, .. more]);
        await Ready();
    }

    public async Task Kill()
    {
        process.Kill();
        await process.WaitForExitAsync();
    }

    public Task HasEnded(CancellationToken cancel) => process.WaitForExitAsync(cancel);

    /// <summary>A client signed in as one of the demo's people, by a token.</summary>
    public async Task<BrightTierClient> As(string person)
    {
        var client = new BrightTierClient(Address, null);
        await client.PickPerson(person, "test", CancellationToken.None);
        return client;
    }

    /// <summary>Plain HTTP with a person's token, or nobody's.</summary>
    public async Task<HttpClient> Http(string? person = null)
    {
        var http = new HttpClient { BaseAddress = Address };
        if (person is not null)
        {
            using var client = new BrightTierClient(Address, null);
            http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", (await client.PickPerson(person, "test", CancellationToken.None)).Secret);
        }

        return http;
    }

    public static StringContent Json(string text) => new(text, Encoding.UTF8, "application/json");

    public async ValueTask DisposeAsync()
    {
        if (!process.HasExited)
        {
            await Kill();
        }

        process.Dispose();
        try
        {
            Directory.Delete(Data, recursive: true);
        }
        catch (IOException)
        {
            // A file still being let go of; the temporary folder is cleaned by the system.
        }
    }

    /// <summary>As it is delivered, where the variable says so, which starts in half the time; else straight from its project.</summary>
    public static readonly string ServiceProgram = Environment.GetEnvironmentVariable("BRIGHTTIER_SERVICE") ?? Path.Combine(
        Checkout, "src", "BrightTier.Service", "bin", AppContext.BaseDirectory.Contains($"{Path.DirectorySeparatorChar}Release{Path.DirectorySeparatorChar}") ? "Release" : "Debug", "net10.0", "linux-x64", "BrightTier.Service.dll");

    private Process Launch(string[] more)
    {
        var start = new ProcessStartInfo("dotnet") { RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false, WorkingDirectory = Checkout };
        foreach (var argument in (string[])[ServiceProgram, "--urls", Address.ToString().TrimEnd('/'), "--Data", Data, .. more])
        {
            start.ArgumentList.Add(argument);
        }

        if (heap is { } limit)
        {
            start.Environment["DOTNET_GCHeapHardLimit"] = limit.ToString("X", CultureInfo.InvariantCulture);
        }

        var started = Process.Start(start)!;
        started.ErrorDataReceived += Keep;
        started.OutputDataReceived += Keep;
        started.BeginErrorReadLine();
        started.BeginOutputReadLine();
        return started;

        void Keep(object sender, DataReceivedEventArgs line)
        {
            lock (output)
            {
                output.Add(line.Data ?? "");
            }
        }
    }

    private async Task Ready()
    {
        using var http = new HttpClient { BaseAddress = Address, Timeout = TimeSpan.FromSeconds(5) };
        for (var attempt = 0; attempt < 6_000; attempt++)
        {
            if (process.HasExited)
            {
                throw new InvalidOperationException("The service ended before it was ready:\n" + Output);
            }

            try
            {
                if ((await http.GetAsync("health/ready")).IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }

            await Task.Delay(10);
        }

        throw new InvalidOperationException("The service did not become ready:\n" + Output);
    }

    private static Uri FreeAddress()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return new Uri($"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}/");
    }

    private static string FindCheckout()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(at!.FullName, "BrightTier.slnx")))
        {
            at = at.Parent;
        }

        return at.FullName;
    }
}
