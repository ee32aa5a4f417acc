using System.Diagnostics;
using System.Globalization;

namespace BrightTier.Testing;

/// <summary>The service as a process of its own, as it is delivered: for what is about processes. Killed by its process id.</summary>
public sealed class ServiceProcess : RunningService
{
    private readonly List<string> output = [];
    private readonly long? heap;
    private Process? process;

    private ServiceProcess(string[] settings, string? data, long? heap = null, Uri? address = null)
        : base(settings, data, address) => this.heap = heap;

    /// <summary>How long it has kept a processor busy: what a call costs, however much else the machine does meanwhile.</summary>
    public TimeSpan ProcessorTime
    {
        get
        {
            process!.Refresh();
            return process.TotalProcessorTime;
        }
    }

    /// <summary>The memory it holds, in bytes.</summary>
    public long Memory
    {
        get
        {
            process!.Refresh();
            return process.WorkingSet64;
        }
    }

    public override string Output
    {
        get
        {
            lock (output)
            {
                return string.Join('\n', output);
            }
        }
    }

    /// <summary>With the demo application, ready to answer.</summary>
    public static async Task<ServiceProcess> WithDemo(string? data = null, params string[] more) =>
        await Begun(From(null, more), data ?? (more.Contains("--Database") ? null : await CopyOf(Filled.Value)));

    /// <summary>
    /// With the demo application and a heap that cannot grow over so many bytes: a call that needs more fails for want of memory.
    /// </summary>
    public static async Task<ServiceProcess> WithHeapOf(long bytes) => await Begun(From(null, []), await CopyOf(Filled.Value), bytes);

    /// <summary>On a database of PostgreSQL, with the demo application if the database is empty; several may share one.</summary>
    public static Task<ServiceProcess> On(string database, params string[] more) => WithDemo(null, ["--Database", database, .. more]);

    /// <summary>With nothing in it.</summary>
    public static Task<ServiceProcess> Empty(params string[] more) => Begun(more, null);

    /// <summary>Beginning with a folder of documents.</summary>
    public static Task<ServiceProcess> Of(string seed, params string[] more) => Begun(From(seed, more), null);

    /// <summary>On the data and at the address of another that has ended.</summary>
    public static async Task<ServiceProcess> InPlaceOf(RunningService other, params string[] more)
    {
        var service = new ServiceProcess(From(null, more), other.Data, address: other.Address);
        await service.Begin();
        return service;
    }

    /// <summary>The data folder of a service that has taken the demo application in.</summary>
    private static readonly Lazy<Task<string>> Filled = new(async () =>
    {
        var folder = NewFolder();
        await (await Begun(From(null, []), folder)).Kill();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(folder, recursive: true);
        return folder;
    });

    private static async Task<ServiceProcess> Begun(string[] settings, string? data, long? heap = null)
    {
        var service = new ServiceProcess(settings, data, heap);
        await service.Begin();
        return service;
    }

    public override async Task Kill()
    {
        if (process is { HasExited: false })
        {
            process.Kill();
            await process.WaitForExitAsync();
        }
    }

    public Task HasEnded(CancellationToken cancel) => process!.WaitForExitAsync(cancel);

    /// <summary>As it is delivered, where the variable says so, which starts in half the time; else straight from its project.</summary>
    public static readonly string Program = Environment.GetEnvironmentVariable("BRIGHTTIER_SERVICE")
        ?? Path.Combine(
            Checkout,
            "src",
            "BrightTier.Service",
            "bin",
            AppContext.BaseDirectory.Contains($"{Path.DirectorySeparatorChar}Release{Path.DirectorySeparatorChar}") ? "Release" : "Debug",
            "net10.0",
            "linux-x64",
            "BrightTier.Service.dll"
        );

    protected override async Task Launch(string[] arguments)
    {
        if (process is not null)
        {
            await process.WaitForExitAsync();
            process.Dispose();
        }

        var start = new ProcessStartInfo("dotnet", [Program, .. arguments])
        {
            RedirectStandardError = true,
            RedirectStandardOutput = true,
            UseShellExecute = false,
            WorkingDirectory = Checkout,
        };
        if (heap is { } limit)
        {
            // The room for what is new, which tests are given much of, counts too.
            start.Environment.Remove("DOTNET_GCgen0size");
            start.Environment["DOTNET_GCHeapHardLimit"] = limit.ToString("X", CultureInfo.InvariantCulture);
        }

        process = Process.Start(start)!;
        process.ErrorDataReceived += Keep;
        process.OutputDataReceived += Keep;
        process.BeginErrorReadLine();
        process.BeginOutputReadLine();
        await Ready(process);

        void Keep(object sender, DataReceivedEventArgs line)
        {
            lock (output)
            {
                output.Add(line.Data ?? "");
            }
        }
    }

    private async Task Ready(Process started)
    {
        using var http = new HttpClient { BaseAddress = Address, Timeout = TimeSpan.FromSeconds(5) };
        for (var attempt = 0; attempt < 15_000; attempt++)
        {
            if (started.HasExited)
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
}
