using System.Text.Encodings.Web;
using System.Text.Json;
using BrightTier.Core.Validation;
using BrightTier.Core.Validation.Rules;

namespace BrightTier.Cli.Output;

/// <summary>One finding with its place in a file: line and column from 1, 0 where there is none.</summary>
public sealed record PlacedFinding(
    string File,
    int Line,
    int Column,
    string Pointer,
    Severity Severity,
    string Code,
    string Message,
    string? Evidence,
    string? Fix
);

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
            writer.WriteStartObject();
            writer.WriteString("$schema", "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json");
            writer.WriteString("version", "2.1.0");
            writer.WriteStartArray("runs");
            writer.WriteStartObject();
            Tool(writer, [.. findings.Select(finding => finding.Code).Distinct().Order(StringComparer.Ordinal)]);
            writer.WriteStartArray("results");
            foreach (var finding in findings)
            {
                Result(writer, finding);
            }

            writer.WriteEndArray();
            writer.WriteEndObject();
            writer.WriteEndArray();
            writer.WriteEndObject();
        }

        return System.Text.Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void Tool(Utf8JsonWriter writer, IReadOnlyList<string> codes)
    {
        writer.WriteStartObject("tool");
        writer.WriteStartObject("driver");
        writer.WriteString("name", "brighttier");
        writer.WriteStartArray("rules");
        foreach (var code in codes)
        {
            writer.WriteStartObject();
            writer.WriteString("id", code);
            writer.WriteStartObject("shortDescription");
            writer.WriteString("text", About(code));
            writer.WriteEndObject();
            writer.WriteEndObject();
        }

        writer.WriteEndArray();
        writer.WriteEndObject();
        writer.WriteEndObject();
    }

    private static string About(string code) =>
        Checker.Rules.FirstOrDefault(rule => rule.Code == code)?.About
        ?? Checker.DocumentRules.FirstOrDefault(rule => rule.Code == code)?.About
        ?? CompositionProblems.Codes.GetValueOrDefault(code)
        ?? "The document is ill-formed.";

    private static void Result(Utf8JsonWriter writer, PlacedFinding finding)
    {
        writer.WriteStartObject();
        writer.WriteString("ruleId", finding.Code);
        writer.WriteString(
            "level",
            finding.Severity switch
            {
                Severity.Error => "error",
                Severity.Warning => "warning",
                _ => "note",
            }
        );
        writer.WriteStartObject("message");
        writer.WriteString("text", finding.Evidence is null ? finding.Message : $"{finding.Message} For example: {finding.Evidence}.");
        writer.WriteEndObject();
        writer.WriteStartArray("locations");
        writer.WriteStartObject();
        writer.WriteStartObject("physicalLocation");
        writer.WriteStartObject("artifactLocation");
        writer.WriteString("uri", finding.File.Replace('\\', '/'));
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
        writer.WriteEndObject();
    }
}
