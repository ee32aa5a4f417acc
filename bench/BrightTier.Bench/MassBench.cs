using System.Diagnostics;
using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Validation;
using BrightTier.Testing;

namespace BrightTier.Bench;

/// <summary>
/// P15: 10,000 changed layouts published at once, beside reading and checking their texts once, one after another; and what memory the
/// service
/// holds after it. How long importing them took is said, too.
/// </summary>
internal static class MassBench
{
    private const int Size = 10_000;

    /// <summary>As many as one import takes.</summary>
    private const int Batch = 2_000;

    public static async Task<IReadOnlyList<Result>> Run()
    {
        Console.WriteLine($"P15: {Size} documents published at once");
        var folder = ManyBench.Seed(Size);
        var texts = Directory
            .EnumerateFiles(Path.Combine(folder, "layouts"))
            .Select(file => File.ReadAllText(file).Replace("en: Measures", "en: Sizes", StringComparison.Ordinal))
            .ToArray();
        var reference = Reference(folder, texts);
        await using var service = await ServiceProcess.Of(folder);
        using var ada = await service.As("ada");
        Say($"memory before {service.Memory / 1_000_000} MB");
        var references = new List<DraftReference>();
        var imported = Stopwatch.GetTimestamp();
        foreach (var batch in texts.Chunk(Batch))
        {
            var report = await ada.ImportDocuments(
                new ImportRequest([.. batch.Select(text => new ImportDocument(text))]),
                CancellationToken.None
            );
            references.AddRange(report.Documents.Select(document => new DraftReference(document.Kind, document.Key, document.Revision)));
        }

        var importing = Stopwatch.GetElapsedTime(imported).TotalSeconds;
        Say($"imported {references.Count} in {importing:0.0} s, memory {service.Memory / 1_000_000} MB");
        var began = Stopwatch.GetTimestamp();
        await ada.Publish(new PublishRequest(references, "All of them"), CancellationToken.None);
        var took = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
        // What publishing needed is given back once nothing is asked for.
        await Task.Delay(TimeSpan.FromSeconds(20));
        var memory = service.Memory / 1e6;
        Directory.Delete(folder, recursive: true);
        return
        [
            Result.Of($"P15 publishing {references.Count} at once, against reading and checking", took, "ms", reference, 2, "lower"),
            Result.Of("P15 memory of the service after it, MB", memory, "MB", 250, 1, "lower"),
        ];

        static void Say(FormattableString text) => Console.WriteLine("  " + text.ToString(CultureInfo.InvariantCulture));
    }

    /// <summary>How long it takes to read and check them, in milliseconds.</summary>
    private static double Reference(string folder, IReadOnlyList<string> texts)
    {
        var others = Directory
            .EnumerateFiles(folder, "*.yaml", SearchOption.AllDirectories)
            .Where(file => Path.GetFileName(Path.GetDirectoryName(file)) != "layouts")
            .Select(file => DocumentFile.Read(File.ReadAllText(file)).Document)
            .OfType<Document>()
            .ToArray();
        var began = Stopwatch.GetTimestamp();
        var catalogue = DocumentFile.Of([.. others, .. texts.Select(text => DocumentFile.Read(text).Document!)]);
        var found = catalogue.Layouts.Values.Sum(layout => Checker.Check(layout, catalogue).Count);
        var took = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  read and checked in {took / 1000:0.0} s, {found} findings"));
        return took;
    }
}
