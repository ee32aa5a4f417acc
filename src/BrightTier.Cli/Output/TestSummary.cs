using System.Globalization;
using System.Text;
using System.Xml;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;

namespace BrightTier.Cli.Output;

/// <summary>
/// Findings as a test report in the XML that build servers read, in the form the Apache Ant JUnit task began: a case a file, failed where
/// something in it has to be mended.
/// </summary>
public static class TestSummary
{
    /// <param name="suite">What was run, such as brighttier check.</param>
    /// <param name="files">Every file looked at, found fault with or not.</param>
    /// <param name="fails">What is grave enough for a file to fail.</param>
    public static string Write(string suite, IEnumerable<string> files, IReadOnlyList<PlacedFinding> findings, Severity fails)
    {
        var byFile = findings.ToLookup(finding => finding.File, StringComparer.Ordinal);
        var all = files.Union(byFile.Select(group => group.Key)).ToArray();
        var failed = all.Count(file => byFile[file].Any(finding => finding.Severity >= fails));
        var text = new StringBuilder();
        using (var writer = XmlWriter.Create(text, new XmlWriterSettings { Indent = true, OmitXmlDeclaration = true }))
        {
            writer.WriteStartElement("testsuites");
            Counts(writer, all.Length, failed);
            writer.WriteStartElement("testsuite");
            writer.WriteAttributeString("name", suite);
            Counts(writer, all.Length, failed);
            foreach (var file in all)
            {
                Case(writer, suite, file, [.. byFile[file]], fails);
            }

            writer.WriteEndElement();
            writer.WriteEndElement();
        }

        return $"<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n{text}";
    }

    private static void Counts(XmlWriter writer, int tests, int failures)
    {
        writer.WriteAttributeString("tests", tests.ToString(CultureInfo.InvariantCulture));
        writer.WriteAttributeString("failures", failures.ToString(CultureInfo.InvariantCulture));
        writer.WriteAttributeString("errors", "0");
        writer.WriteAttributeString("skipped", "0");
    }

    private static void Case(XmlWriter writer, string suite, string file, IReadOnlyList<PlacedFinding> findings, Severity fails)
    {
        writer.WriteStartElement("testcase");
        writer.WriteAttributeString("classname", suite);
        writer.WriteAttributeString("name", XmlCharacters.Sound(file));
        writer.WriteAttributeString("file", XmlCharacters.Sound(file));
        var failures = findings.Where(finding => finding.Severity >= fails).ToArray();
        if (failures is [var first, ..])
        {
            writer.WriteStartElement("failure");
            writer.WriteAttributeString("type", first.Code);
            writer.WriteAttributeString(
                "message",
                XmlCharacters.Sound(failures.Length == 1 ? first.Message : $"{failures.Length} findings")
            );
            writer.WriteString(Lines(failures));
            writer.WriteEndElement();
        }

        var others = findings.Where(finding => finding.Severity < fails).ToArray();
        if (others.Length > 0)
        {
            writer.WriteElementString("system-out", Lines(others));
        }

        writer.WriteEndElement();
    }

    private static string Lines(IEnumerable<PlacedFinding> findings) =>
        XmlCharacters.Sound(
            string.Concat(
                findings.Select(finding =>
                    $"{(finding.Line > 0 ? $"{finding.Line}:{finding.Column}: " : "")}{finding.Severity.ToString().ToLowerInvariant()}: "
                    + $"{finding.Sentence} [{finding.Code}]\n"
                )
            )
        );
}
