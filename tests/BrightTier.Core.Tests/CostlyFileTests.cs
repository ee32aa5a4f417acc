using System.Runtime.InteropServices;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Tests;

/// <summary>
/// R14 for every file the client reads: what nests, repeats, is long or fans out is refused or read, and costs what it is long. Counted is
/// the time a processor works on it, which other tests beside do not lengthen; what is allowed is generous, since machines differ.
/// </summary>
public sealed partial class CostlyFileTests
{
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20);

    private const long MostMemory = 400_000_000;

    private static string Times(string part, int count) => string.Concat(Enumerable.Repeat(part, count));

    private static void Costs(string what, Action act)
    {
        GC.Collect();
        var before = GC.GetTotalMemory(true);
        var begun = Worked();
        act();
        (Worked() - begun).ShouldBeLessThan(Longest, what);
        (GC.GetTotalMemory(false) - before).ShouldBeLessThan(MostMemory, what);
    }

    /// <summary>How long processors have worked on what this thread does (POSIX.1, clock_gettime).</summary>
    private static TimeSpan Worked()
    {
        const int ThreadProcessorTime = 3;
        ClockGetTime(ThreadProcessorTime, out var time).ShouldBe(0);
        return TimeSpan.FromSeconds(time.Seconds) + TimeSpan.FromMicroseconds(time.Nanoseconds / 1000);
    }

    private struct Timespec
    {
        public long Seconds;
        public long Nanoseconds;
    }

    [LibraryImport("libc", EntryPoint = "clock_gettime")]
    private static partial int ClockGetTime(int clock, out Timespec time);

    [Fact]
    public void Yaml_and_json()
    {
        foreach (
            var text in new[]
            {
                Times("[", 4_000_000),
                Times("{", 1_000_000),
                Times("- ", 1_000_000),
                Times("{\"a\":", 1_000_000),
                Times("a: ", 1_000_000),
                Times("- a\n", 1_900_000),
                Times("?", 1_000_000),
                Times("!", 1_000_000),
                Times("&a ", 500_000),
                Times("\"", 1_000_001),
                Times("'", 1_000_001),
                Times("|\n", 500_000),
                Times("# a\n", 1_000_000),
                "kind: full\nkey: a\nentity: vessel\ntitle: " + new string('a', 7_000_000),
                "kind: choice-list\nkey: a\nchoices:\n"
                    + string.Concat(Enumerable.Range(0, 200_000).Select(i => $"  - {{ key: c{i}, label: C }}\n")),
                "kind: entity\nkey: a\nfields:\n"
                    + string.Concat(Enumerable.Range(0, 100_000).Select(i => $"  - {{ key: c{i}, type: text }}\n")),
                "kind: application\n" + string.Concat(Enumerable.Range(0, 100_000).Select(i => $"x{i}: 1\n")),
                "kind: full\nkey: a\nentity: vessel\nbody:\n  pages:\n    - sections:\n        - rows:\n"
                    + string.Concat(Enumerable.Range(0, 60_000).Select(i => "            - [name]\n")),
                "kind: navigation\nentries:\n" + Times("  - { key: a, title: A }\n", 100_000),
                $"kind: routing\nrules:\n{Times("  - { entity: vessel, layout: vessel }\n", 100_000)}",
            }
        )
        {
            Costs(text[..Math.Min(40, text.Length)], () => DocumentFile.Read(text).Problems.ShouldNotBeEmpty());
        }
    }

    [Fact]
    public void Xliff()
    {
        const string head = "<xliff xmlns=\"urn:oasis:names:tc:xliff:document:2.0\" version=\"2.1\" srcLang=\"en\" trgLang=\"nl\">";
        foreach (
            var text in new[]
            {
                head + "<file id=\"layout.vessel\">" + Times("<unit id=\"a\">", 200_000),
                head + Times("<a>", 200_000) + Times("</a>", 200_000) + "</xliff>",
                head
                    + "<file id=\"layout.vessel\">"
                    + Times("<unit id=\"a\"><segment><source>a</source><target>b</target></segment></unit>", 80_000)
                    + "</file></xliff>",
                "<!DOCTYPE a [<!ENTITY a \"" + new string('a', 100_000) + "\">]>" + head,
                Times("<", 1_000_000),
            }
        )
        {
            Costs(text[..30], () => Core.Documents.Xliff.Import(text, (kind, key) => Demo.Catalogue.Find(kind, key)));
        }
    }

    [Fact]
    public void Formatted_text()
    {
        foreach (var each in new[] { "*", "**a", "[", "[](", "- ", "1. ", "> - ", "[a]:\n", "\\", "*a_", "![", "*a **b ", "_a*" })
        {
            var text = Times(each, Limits.TextLength / each.Length);
            Costs(text[..30], () => Core.Resolution.Markdown.Parse(text));
        }
    }

    [Fact]
    public void Patterns_and_words()
    {
        foreach (
            var pattern in new[]
            {
                Times("(", 200_000),
                Times("a|", 200_000),
                "((a{1000}){1000}){1000}",
                $"[{Times("a-z", 100_000)}]",
                Times("[a-z]{1000}", 100),
                Times("\\", 200_001),
                Times("(?i:", 100_000),
            }
        )
        {
            Costs(pattern[..8], () => WholePattern.Problem(pattern).ShouldNotBeNull());
        }

        // The longest text against the costliest pattern there can be.
        Costs("a text", () => WholePattern.Try(Times("(a|b|ab)*", 200), [new string('a', 4_000)]));
        Costs("a name", () =>
            Suggestion.For(new string('a', 5_000_000), [.. Enumerable.Range(0, 1_000).Select(i => $"field{i}")]).English.ShouldNotBeEmpty()
        );
    }

    [Fact]
    public void Conditions_and_tables()
    {
        foreach (
            var text in new[]
            {
                Times("(", 1_000_000),
                Times("!", 1_000_000) + "true",
                Times("a.", 1_000_000),
                Times("1+", 1_000_000) + "1",
                "'" + new string('a', 5_000_000),
                Times("[", 1_000_000),
            }
        )
        {
            Costs(text[..8], () => Condition.CompileAnew(text, Demo.Vessel, Demo.Definitions).Problems.ShouldNotBeEmpty());
        }

        foreach (
            var text in new[] { Times(",", 8_000_000), Times("\"", 8_000_001), Times("a\r\n", 2_000_000), Times("\"\"\r\n", 1_000_000) }
        )
        {
            Costs(text[..4], () => CsvText.Separator(text));
        }
    }
}
