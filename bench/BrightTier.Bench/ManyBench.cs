using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.Bench;

/// <summary>
/// P14: an edit, a preview, a page of the list of layouts, publishing one layout and being ready, in installations of 16, 1,000 and 10,000
/// published layouts: what is done costs what it touches, and not what there is.
/// </summary>
internal static class ManyBench
{
    public const int Few = 16;

    private static readonly int[] Sizes = [Few, 1_000, 10_000];

    private static readonly string[] Acts = ["edit", "preview", "list", "publish", "ready"];

    public static async Task<IReadOnlyList<Result>> Run()
    {
        var taken = new Dictionary<(string Act, int Size), double>();
        foreach (var size in Sizes)
        {
            Console.WriteLine($"P14: {size} layouts");
            foreach (var (act, milliseconds) in await Measure(size))
            {
                taken[(act, size)] = milliseconds;
                Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {act, -8} {milliseconds, 8:0.0} ms"));
            }
        }

        return
        [
            .. Acts.SelectMany(act =>
                Sizes
                    .Skip(1)
                    .Select(size => Result.Of($"P14 {act} among {size} layouts", taken[(act, size)], "ms", taken[(act, Few)], 1.3, "lower"))
            ),
        ];
    }

    private static async Task<Dictionary<string, double>> Measure(int size)
    {
        var folder = Seed(size);
        var took = new Dictionary<string, double>();
        await using var service = await ServiceProcess.Of(folder);
        using (var http = await service.Http("ada"))
        {
            using var opened = JsonDocument.Parse(await http.GetStringAsync("api/layouts/vessel"));
            var revision = opened.RootElement.GetProperty("revision").GetInt64();
            var (edits, previews, lists, publications) = (new List<double>(), new List<double>(), new List<double>(), new List<double>());
            for (var i = 0; i < 60; i++)
            {
                edits.Add(await Time(() => http.PostAsync("api/layouts/vessel/edits", Edit(revision++, i))));
                previews.Add(await Time(() => http.GetAsync("api/layouts/vessel/preview?mode=edit")));
                lists.Add(await Time(() => http.GetAsync($"api/layouts?limit={Few}")));
                if (i % 3 == 0)
                {
                    publications.Add(await Time(() => http.PostAsync("api/releases", Publication(revision))));
                }
            }

            (took["edit"], took["preview"], took["list"]) = (Late(edits), Late(previews), Late(lists));
            took["publish"] = Late(publications);
        }

        var starts = new List<double>();
        for (var i = 0; i < 5; i++)
        {
            await service.Kill();
            var began = Stopwatch.GetTimestamp();
            await service.Restart();
            starts.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
        }

        Directory.Delete(folder, recursive: true);
        took["ready"] = starts.Order().ElementAt(starts.Count / 2);
        return took;
    }

    private static StringContent Edit(long revision, int number) =>
        RunningService.Json(
            string.Create(
                CultureInfo.InvariantCulture,
                $$$"""
                {"base":{{{revision}}},"edits":[{"op":"set","node":"measures","property":"title","value":"Measures {{{number}}}"}],
                "label":"Measures"}
                """
            )
        );

    private static StringContent Publication(long revision) =>
        RunningService.Json(
            string.Create(
                CultureInfo.InvariantCulture,
                $$$"""{"documents":[{"kind":"layout","key":"vessel","revision":{{{revision}}}}],"note":"Measures"}"""
            )
        );

    private static async Task<double> Time(Func<Task<HttpResponseMessage>> ask)
    {
        var began = Stopwatch.GetTimestamp();
        using var answer = await ask();
        await answer.Content.ReadAsByteArrayAsync();
        var took = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
        answer.EnsureSuccessStatusCode();
        return took;
    }

    /// <summary>The median of the second half.</summary>
    private static double Late(List<double> times) => times.Skip(times.Count / 2).Order().ElementAt(times.Count / 4);

    /// <summary>The key of a layout that is in it because many are wanted.</summary>
    public static string KeyOf(int number) => string.Create(CultureInfo.InvariantCulture, $"vessel{number:00000}");

    /// <summary>The demo application, with as many layouts as are wanted: further forms of the vessel.</summary>
    public static string Seed(int size)
    {
        var folder = Directory.CreateTempSubdirectory("bright-tier-bench-").FullName;
        var demo = Path.Combine(RunningService.Checkout, "demo");
        foreach (var file in Directory.EnumerateFiles(demo, "*", SearchOption.AllDirectories))
        {
            var target = Path.Combine(folder, Path.GetRelativePath(demo, file));
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            File.Copy(file, target);
        }

        var layouts = Path.Combine(folder, "layouts");
        var form = File.ReadAllText(Path.Combine(layouts, "vessel.yaml"));
        for (var number = Directory.GetFiles(layouts).Length; number < size; number++)
        {
            var key = KeyOf(number);
            File.WriteAllText(
                Path.Combine(layouts, key + ".yaml"),
                form.Replace("key: vessel\n", $"key: {key}\n", StringComparison.Ordinal)
                    .Replace("en: Measures", $"en: Measures {key}", StringComparison.Ordinal),
                Encoding.UTF8
            );
        }

        return folder;
    }
}
