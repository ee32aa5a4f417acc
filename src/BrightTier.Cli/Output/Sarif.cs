using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using BrightTier.Core.Validation;

namespace BrightTier.Cli.Output;

/// <summary>Findings as SARIF 2.1.0 (OASIS), for pipelines and editors.</summary>
public static class Sarif
{
    public static string Write(IReadOnlyList<PlacedFinding> findings)
    {
        using var stream = new MemoryStream();
        using (
            var writer = new Utf8JsonWriter(
                stream,
                new JsonWriterOptions { Indented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping }
            )
        )
        {
            var codes = findings.Select(finding => finding.Code).Distinct().Order(StringComparer.Ordinal).ToArray();
            writer.WriteStartObject();
            writer.WriteString("$schema", "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json");
            writer.WriteString("version", "2.1.0");
            writer.WriteStartArray("runs");
            writer.WriteStartObject();
            Tool(writer, codes);
            Invocation(writer);
            writer.WriteString("columnKind", "utf16CodeUnits");
            writer.WriteStartArray("results");
            foreach (var finding in findings)
            {
                Result(writer, finding, Array.IndexOf(codes, finding.Code));
            }

            writer.WriteEndArray();
            writer.WriteEndObject();
            writer.WriteEndArray();
            writer.WriteEndObject();
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void Tool(Utf8JsonWriter writer, IReadOnlyList<string> codes)
    {
        writer.WriteStartObject("tool");
        writer.WriteStartObject("driver");
        writer.WriteString("name", "brighttier");
        writer.WriteString("organization", "Bright Tier");
        writer.WriteString("version", ProgramVersion.Written);
        writer.WriteString("semanticVersion", ProgramVersion.Written);
        writer.WriteStartArray("rules");
        foreach (var rule in codes.Select(RuleReference.Of))
        {
            writer.WriteStartObject();
            writer.WriteString("id", rule.Code);
            Text(writer, "shortDescription", rule.About);
            writer.WriteStartObject("help");
            writer.WriteString("text", rule.Help.Replace("`", "", StringComparison.Ordinal));
            writer.WriteString("markdown", rule.Help);
            writer.WriteEndObject();
            writer.WriteStartObject("defaultConfiguration");
            writer.WriteString("level", Level(rule.Usually));
            writer.WriteEndObject();
            writer.WriteEndObject();
        }

        writer.WriteEndArray();
        writer.WriteEndObject();
        writer.WriteEndObject();
    }

    /// <summary>That the checks ran to their end: an empty list of results says that nothing was found.</summary>
    private static void Invocation(Utf8JsonWriter writer)
    {
        writer.WriteStartArray("invocations");
        writer.WriteStartObject();
        writer.WriteBoolean("executionSuccessful", true);
        writer.WriteEndObject();
        writer.WriteEndArray();
    }

    private static void Result(Utf8JsonWriter writer, PlacedFinding finding, int rule)
    {
        writer.WriteStartObject();
        writer.WriteString("ruleId", finding.Code);
        writer.WriteNumber("ruleIndex", rule);
        writer.WriteString("level", Level(finding.Severity));
        Text(writer, "message", finding.Sentence);
        writer.WriteStartArray("locations");
        writer.WriteStartObject();
        writer.WriteStartObject("physicalLocation");
        writer.WriteStartObject("artifactLocation");
        writer.WriteString("uri", Address(finding.File));
        writer.WriteEndObject();
        if (finding.Line > 0)
        {
            writer.WriteStartObject("region");
            writer.WriteNumber("startLine", finding.Line);
            writer.WriteNumber("startColumn", Math.Max(1, finding.Column));
            writer.WriteEndObject();
        }

        writer.WriteEndObject();
        writer.WriteEndObject();
        writer.WriteEndArray();
        // The same finding at the same node is the same, wherever the node has come to stand in the file.
        writer.WriteStartObject("partialFingerprints");
        writer.WriteString("place/v1", Fingerprint($"{finding.File}\n{finding.Code}\n{finding.Pointer}\n{finding.Message}"));
        writer.WriteEndObject();
        writer.WriteEndObject();
    }

    private static void Text(Utf8JsonWriter writer, string name, string text)
    {
        writer.WriteStartObject(name);
        writer.WriteString("text", text);
        writer.WriteEndObject();
    }

    private static string Level(Severity severity) =>
        severity switch
        {
            Severity.Error => "error",
            Severity.Warning => "warning",
            _ => "note",
        };

    /// <summary>A path as a URI reference (RFC 3986): relative as it was given, absolute as a file.</summary>
    private static string Address(string path) =>
        Path.IsPathRooted(path)
            ? new Uri(path).AbsoluteUri
            : string.Join('/', path.Replace('\\', '/').Split('/').Select(Uri.EscapeDataString));

    private static string Fingerprint(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..32];
}
