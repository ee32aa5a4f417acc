using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.Bench;

/// <summary>
/// P16: a change to a form of 500 fields from asking to its answer, beside a bare endpoint that stores as much; and, for what it costs, how
/// long it takes after that to see it resolved and checked.
/// </summary>
internal static class EditBench
{
    private const int Edits = 800;

    public static async Task<IReadOnlyList<Result>> Run(Func<Uri, string?, string?, Process> bare, Func<Uri> free, Func<Uri, Task> ready)
    {
        Console.WriteLine("P16: a change to a form of 500 fields");
        var folder = Directory.CreateTempSubdirectory("bright-tier-bench-").FullName;
        await using var service = await ServiceProcess.Of(FormBench.Seed(folder));
        using var http = await service.Http("ada");
        var text = await http.GetStringAsync("api/layouts/form500");
        var address = free();
        using var reference = bare(address, "", Path.Combine(folder, "bare.db"));
        await ready(address);
        using var plain = new HttpClient { BaseAddress = address };
        using var opened = JsonDocument.Parse(text);
        var revision = opened.RootElement.GetProperty("revision").GetInt64();
        var (ours, theirs, seen) = (new List<double>(), new List<double>(), new List<double>());
        for (var i = 0; i < Edits; i++)
        {
            theirs.Add(await Time(plain, "draft", text));
            var body = string.Create(
                CultureInfo.InvariantCulture,
                $$$"""
                {"base":{{{revision++}}},"edits":[{"op":"set","node":"f{{{(i % 400) + 2}}}","property":"label","value":"Frame {{{i}}}"}],
                "label":"Frame"}
                """
            );
            ours.Add(await Time(http, "api/layouts/form500/edits", body));
            var began = Stopwatch.GetTimestamp();
            await http.GetByteArrayAsync("api/layouts/form500/view?mode=edit&language=en&showHidden=true");
            seen.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
        }

        reference.Kill();
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  resolved, measured and checked: {Late(seen):0.0} ms after that"));
        return [Result.Of("P16 a change to a form of 500 fields until it is answered", Late(ours), "ms", Late(theirs), 5, "lower")];
    }

    private static async Task<double> Time(HttpClient http, string path, string body)
    {
        using var content = new StringContent(body, Encoding.UTF8, "application/json");
        var began = Stopwatch.GetTimestamp();
        using var answer = await http.PostAsync(path, content);
        await answer.Content.ReadAsByteArrayAsync();
        var took = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
        answer.EnsureSuccessStatusCode();
        return took;
    }

    /// <summary>The median once what runs often has been compiled for speed.</summary>
    private static double Late(List<double> times) => times.Skip(Edits / 2).Order().ElementAt(Edits / 4);
}
