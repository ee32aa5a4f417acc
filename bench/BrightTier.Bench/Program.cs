using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Bench;
using BrightTier.Testing;

// Measures what docs/quality.md promises, each beside its reference in the same run, and writes bench/results.json.
if (args is ["hold", var held, var secret, var count, var draws])
{
    await ReachBench.Holder(held, secret, int.Parse(count, CultureInfo.InvariantCulture), bool.Parse(draws));
    return 0;
}

if (args is ["people", var minutes, var forms, var processes])
{
    return await PeopleBench.Run(
        double.Parse(minutes, CultureInfo.InvariantCulture),
        int.Parse(forms, CultureInfo.InvariantCulture),
        int.Parse(processes, CultureInfo.InvariantCulture)
    )
        ? 0
        : 1;
}

var results = new List<Result>();
if (args is [] or ["core"])
{
    results.AddRange(CoreBench.Run());
}

if (args is [] or ["lists"])
{
    results.AddRange(await ListBench.Run());
}

if (args is [] or ["many"])
{
    results.AddRange(await ManyBench.Run());
}

if (args is [] or ["mass"])
{
    results.AddRange(await MassBench.Run());
}

if (args is [] or ["forms"])
{
    results.AddRange(await FormBench.Run((address, body) => Bare(address, body), () => new Uri("http://127.0.0.1:" + FreePort()), Ready));
}

if (args is [] or ["editing"])
{
    results.AddRange(await EditBench.Run(Bare, () => new Uri("http://127.0.0.1:" + FreePort()), Ready));
}

if (args is [] or ["saving"])
{
    results.AddRange(await SaveBench.Run(Bare, () => new Uri("http://127.0.0.1:" + FreePort()), Ready));
}

if (args is [] or ["attached"])
{
    results.AddRange(await AttachedBench.Run(Bare, () => new Uri("http://127.0.0.1:" + FreePort()), Ready));
}

if (args is [] or ["reach"])
{
    results.AddRange(await ReachBench.Run(Bare, () => new Uri("http://127.0.0.1:" + FreePort()), Ready));
}

if (args is [] or ["serving"])
{
    await P1();
    await P12();
}

var file = Path.Combine(RunningService.Checkout, "bench", "results.json");
await File.WriteAllTextAsync(
    file,
    JsonSerializer.Serialize(
        results,
        new JsonSerializerOptions
        {
            WriteIndented = true,
            PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
            Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        }
    )
);
Console.WriteLine();
foreach (var result in results)
{
    Console.WriteLine(
        string.Create(
            CultureInfo.InvariantCulture,
            $"{(result.Met ? "met " : "MISSED")}  {result.Name}: {result.Value:0.#} {result.Unit}, reference "
                + $"{result.Reference:0.#}, ratio {result.Ratio:0.00} (target {result.Target}, {result.Better} is better)"
        )
    );
}

Console.WriteLine($"\nWritten to {file}");
return 0;

async Task P1()
{
    Console.WriteLine("P1: a published form of the 20 kB class, signed in");
    var seed = Seed(Path.Combine(Path.GetTempPath(), $"bright-tier-bench-{Environment.ProcessId}"));
    await using var service = await ServiceProcess.Of(seed);
    using var http = await service.Http("ada");
    var form = await http.GetByteArrayAsync("api/forms/survey");
    var token = http.DefaultRequestHeaders.Authorization!.Parameter;
    var tag = (await http.GetAsync("api/forms/survey")).Headers.ETag!.ToString();
    Console.WriteLine($"  the form has {form.Length} bytes");
    var bytes = Path.GetTempFileName();
    await File.WriteAllBytesAsync(bytes, form);
    var bare = new Uri("http://127.0.0.1:" + FreePort());
    using var reference = Bare(bare, bytes);
    await Ready(bare);
    string Request(string path, string more = "") =>
        $"GET {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: theme=paper\r\nAuthorization: Bearer {token}\r\nAccept: "
        + $"application/json\r\n{more}\r\n";
    var (ours, theirs, unchanged) = (new List<double>(), new List<double>(), new List<double>());
    for (var round = 0; round < 8; round++)
    {
        var length = TimeSpan.FromSeconds(round == 0 ? 3 : 2);
        var a = await Load.Measure(bare, Request("/form"), length);
        var b = await Load.Measure(service.Address, Request("/api/forms/survey"), length);
        var c = await Load.Measure(service.Address, Request("/api/forms/survey", $"If-None-Match: {tag}\r\n"), length);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  round {round}: bare {a:0}/s, form {b:0}/s, unchanged (304) {c:0}/s{(round == 0 ? " (warming up)" : "")}"
            )
        );
        if (round > 0)
        {
            theirs.Add(a);
            ours.Add(b);
            unchanged.Add(c);
        }
    }

    reference.Kill();
    results.Add(Result.Of("P1 published form", Median(ours), "requests/s", Median(theirs), 0.95, "higher"));
    results.Add(Result.Of("P1 unchanged form (304)", Median(unchanged), "requests/s", Median(ours), 1, "higher"));
}

async Task P12()
{
    Console.WriteLine("P12: starting");
    var client = Path.Combine(RunningService.Checkout, "out", "cli", "brighttier");
    var smallest = Path.Combine(RunningService.Checkout, "out", "smallest", "Smallest");
    var layout = Path.Combine(RunningService.Checkout, "demo", "layouts", "vessel.yaml");
    var (help, check, hello) = (new List<double>(), new List<double>(), new List<double>());
    for (var round = 0; round < 21; round++)
    {
        hello.Add(Time(smallest));
        help.Add(Time(client, "--help"));
        check.Add(Time(client, "check", layout));
    }

    results.Add(Result.More("P12 client answers --help", Median(help), Median(hello), 12));
    results.Add(Result.More("P12 client checks one file", Median(check), Median(hello), 12));
    var data = RunningService.NewFolder();
    await using (var first = await ServiceProcess.WithDemo(data))
    {
        await first.Kill();
        var (ours, theirs) = (new List<double>(), new List<double>());
        for (var round = 0; round < 7; round++)
        {
            var clock = Stopwatch.StartNew();
            var bare = new Uri("http://127.0.0.1:" + FreePort());
            using var reference = Bare(bare, null);
            await Ready(bare);
            theirs.Add(clock.Elapsed.TotalMilliseconds);
            reference.Kill();
            clock.Restart();
            await first.Restart();
            ours.Add(clock.Elapsed.TotalMilliseconds);
            await first.Kill();
        }

        results.Add(Result.Of("P12 service ready", Median(ours), "ms", Median(theirs), 1.8, "lower"));
    }
}

static string Seed(string folder)
{
    Directory.CreateDirectory(Path.Combine(folder, "entities"));
    File.Copy(Path.Combine(RunningService.Checkout, "demo", "application.yaml"), Path.Combine(folder, "application.yaml"), true);
    File.Copy(Path.Combine(RunningService.Checkout, "demo", "people.yaml"), Path.Combine(folder, "people.yaml"), true);
    var entity = new StringBuilder("kind: entity\nkey: survey\nlabel: Hull survey\ndisplay: \"{frame1}\"\nfields:\n");
    for (var i = 1; i <= 62; i++)
    {
        entity.Append(
            CultureInfo.InvariantCulture,
            $"  - key: frame{i}\n    label: Frame {i} thickness\n    type: {(i % 3 == 0 ? "text" : "decimal")}\n    unit: mm\n"
        );
    }

    File.WriteAllText(Path.Combine(folder, "entities", "survey.yaml"), entity.ToString());
    return folder;
}

static Process Bare(Uri address, string? body, string? database = null)
{
    var start = new ProcessStartInfo("dotnet") { UseShellExecute = false, RedirectStandardOutput = true };
    foreach (
        var argument in new[]
        {
            Path.Combine(RunningService.Checkout, "bench", "Bare", "bin", "Release", "net10.0", "Bare.dll"),
            address.ToString(),
            body,
            database,
        }.OfType<string>()
    )
    {
        start.ArgumentList.Add(argument);
    }

    return Process.Start(start)!;
}

static async Task Ready(Uri address)
{
    using var http = new HttpClient { BaseAddress = address };
    for (var attempt = 0; attempt < 2_000; attempt++)
    {
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

    throw new InvalidOperationException("The reference did not start.");
}

static int FreePort()
{
    using var listener = new System.Net.Sockets.TcpListener(System.Net.IPAddress.Loopback, 0);
    listener.Start();
    return ((System.Net.IPEndPoint)listener.LocalEndpoint).Port;
}

static double Time(string program, params string[] arguments)
{
    var start = new ProcessStartInfo(program, arguments)
    {
        RedirectStandardOutput = true,
        RedirectStandardError = true,
        UseShellExecute = false,
    };
    var clock = Stopwatch.StartNew();
    using var process = Process.Start(start)!;
    process.StandardOutput.ReadToEnd();
    process.WaitForExit();
    return clock.Elapsed.TotalMilliseconds;
}

static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);

internal sealed record Result(
    string Name,
    double Value,
    string Unit,
    double Reference,
    double Ratio,
    double Target,
    string Better,
    bool Met
)
{
    public static Result Of(string name, double value, string unit, double reference, double target, string better)
    {
        var ratio = value / reference;
        return new Result(name, value, unit, reference, ratio, target, better, better == "higher" ? ratio >= target : ratio <= target);
    }

    /// <summary>A target that allows so many milliseconds more than the reference.</summary>
    public static Result More(string name, double value, double reference, double more) =>
        new(
            name,
            value,
            "ms",
            reference,
            value / reference,
            Math.Round((reference + more) / reference, 2),
            "lower",
            value <= reference + more
        );
}
