using System.Globalization;
using System.Text;
using BrightTier.Testing;

namespace BrightTier.Bench;

/// <summary>
/// P10: a record of 20 fields saved over HTTP, beside the same rows by ADO.NET behind a bare endpoint; on both databases.
/// </summary>
internal static class SaveBench
{
    public static async Task<IReadOnlyList<Result>> Run(
        Func<Uri, string?, string?, System.Diagnostics.Process> bare,
        Func<Uri> free,
        Func<Uri, Task> ready
    )
    {
        var results = new List<Result>();
        await using var postgres = await PostgresServer.Begin();
        foreach (var (name, database) in new[] { ("SQLite", null), ("PostgreSQL", await postgres.NewDatabase()) })
        {
            Console.WriteLine($"P10: a record of 20 fields, {name}");
            var seed = Directory.CreateTempSubdirectory("bright-tier-bench-").FullName;
            Seed(seed);
            await using var service = await ServiceProcess.Of(
                seed,
                [.. database is null ? Array.Empty<string>() : ["--Database", database], "--CallsPerSecond", "0"]
            );
            using var http = await service.Http("ada");
            results.Add(
                await Measure(
                    $"P10 a record of 20 fields saved, {name}",
                    service,
                    http,
                    bare,
                    free,
                    ready,
                    database is null ? Path.Combine(seed, "plain.db") : await postgres.NewDatabase(),
                    database is null ? 0.9 : 1
                )
            );
        }

        return results;
    }

    /// <summary>How many records of the entity plate are saved in a second, beside the same rows behind a bare endpoint.</summary>
    /// <param name="plain">The database of the bare endpoint.</param>
    internal static async Task<Result> Measure(
        string name,
        ServiceProcess service,
        HttpClient http,
        Func<Uri, string?, string?, System.Diagnostics.Process> bare,
        Func<Uri> free,
        Func<Uri, Task> ready,
        string plain,
        double target = 1
    )
    {
        var address = free();
        using var reference = bare(address, "", plain);
        await ready(address);
        var values =
            "{"
            + string.Join(
                ",",
                Enumerable
                    .Range(1, 20)
                    .Select(i =>
                        i % 2 == 1 ? $"\"f{i}\":\"Frame {i} of the hull\"" : string.Create(CultureInfo.InvariantCulture, $"\"f{i}\":{i}.25")
                    )
            )
            + "}";
        var body = $"{{\"values\":{values}}}";
        string Request(string path) =>
            $"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nAuthorization: Bearer "
            + $"{http.DefaultRequestHeaders.Authorization!.Parameter}\r\nContent-Type: "
            + $"application/json\r\nContent-Length: {Encoding.UTF8.GetByteCount(body)}\r\n\r\n{body}";
        var (ours, theirs) = (new List<double>(), new List<double>());
        for (var round = 0; round < 6; round++)
        {
            var a = await Load.Measure(address, Request("/save"), Length(round));
            var b = await Load.Measure(service.Address, Request("/api/records/plate"), Length(round));
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  round {round}: bare {a:0}/s, saved {b:0}/s{(round == 0 ? " (warming up)" : "")}"
                )
            );
            if (round > 0)
            {
                theirs.Add(a);
                ours.Add(b);
            }
        }

        reference.Kill();
        return Result.Of(name, Median(ours), "requests/s", Median(theirs), target, "higher");
    }

    /// <summary>Longer at first, until what runs often has been compiled for speed.</summary>
    private static TimeSpan Length(int round) => TimeSpan.FromSeconds(round == 0 ? 20 : 4);

    private static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);

    private static void Seed(string folder)
    {
        Directory.CreateDirectory(Path.Combine(folder, "entities"));
        File.Copy(Path.Combine(RunningService.Checkout, "demo", "application.yaml"), Path.Combine(folder, "application.yaml"));
        File.Copy(Path.Combine(RunningService.Checkout, "demo", "people.yaml"), Path.Combine(folder, "people.yaml"));
        var entity = new StringBuilder("kind: entity\nkey: plate\nlabel: Hull plate\ndisplay: \"{f1}\"\nfields:\n");
        for (var i = 1; i <= 20; i++)
        {
            entity.Append(
                CultureInfo.InvariantCulture,
                $"  - key: f{i}\n    label: Field {i}\n    type: {(i % 2 == 1 ? "text" : "decimal")}\n"
            );
        }

        File.WriteAllText(Path.Combine(folder, "entities", "plate.yaml"), entity.ToString());
    }
}
