using System.Text.Json;
using BrightTier.Contracts;

namespace BrightTier.Cli.Output;

/// <summary>What publishing would do, for people and for programs.</summary>
internal static class ReleasePlans
{
    /// <summary>The drafts that a plan, or the report of an import, names; of a plan also the release it was made against.</summary>
    /// <exception cref="FormatException">It is neither.</exception>
    public static (List<DraftReference> References, long? Reviewed) Read(JsonElement json)
    {
        if (json.ValueKind is not JsonValueKind.Object || !json.TryGetProperty("documents", out var documents))
        {
            throw new FormatException("It has no 'documents'.");
        }

        var references = new List<DraftReference>();
        foreach (var document in documents.EnumerateArray())
        {
            // What an import left alone since somebody changed it is not its to publish.
            if (!(document.TryGetProperty("ahead", out var ahead) && ahead.GetBoolean()))
            {
                references.Add(Reference(document));
            }
        }

        if (json.TryGetProperty("missing", out var missing) && missing.ValueKind is JsonValueKind.Array)
        {
            references.AddRange(
                missing.EnumerateArray().Where(document => document.GetProperty("state").GetString() == "archived").Select(Reference)
            );
        }

        long? reviewed = json.TryGetProperty("base", out var release) ? release.GetInt64() : null;
        return (references, reviewed);
    }

    private static DraftReference Reference(JsonElement document) =>
        new(
            document.GetProperty("kind").GetString()!,
            document.GetProperty("key").GetString()!,
            document.GetProperty("revision").GetInt64()
        );

    /// <returns>The exit code.</returns>
    public static int Print(Printer printer, ReleasePlan plan)
    {
        if (printer.Json)
        {
            printer.Write(plan, WireJson.Default.ReleasePlan);
        }
        else
        {
            PrintChanges(printer, plan);
            foreach (var problem in plan.Problems)
            {
                printer.Marked("red", "error", $": {problem.Pointer}: {problem.Message}{(problem.Code is { } code ? $" [{code}]" : "")}");
            }

            PrintNeeded(printer, plan);
            var count = plan.Documents.Count;
            printer.Line(
                count == 0
                    ? $"Nothing differs from release {plan.Base}."
                    : $"{(count == 1 ? "1 document" : $"{count} documents")} would be published over release {plan.Base}; nothing was."
            );
        }

        return plan.Problems.Count > 0 ? Exit.Refused : Exit.Done;
    }

    /// <summary>What becomes another one for everyone, and whose work that is.</summary>
    public static void PrintChanges(Printer printer, ReleasePlan plan)
    {
        if (printer.Json)
        {
            return;
        }

        foreach (var document in plan.Documents)
        {
            var by = document.ChangedBy.Count == 0 ? "" : $", by {string.Join(", ", document.ChangedBy)}";
            var state = document.Change == "added" ? "is new" : "changes";
            printer.Line($"{document.Kind} {document.Key} {state}{by}{(document.Summary.Count == 0 ? "." : ":")}");
            foreach (var sentence in document.Summary)
            {
                printer.Line($"  {sentence}");
            }
        }
    }

    public static void PrintNeeded(Printer printer, ReleasePlan plan)
    {
        if (plan.Needed.Count == 0)
        {
            return;
        }

        var names = plan.Needed.Select(each =>
            $"{each.Kind}/{each.Key}{(each.ChangedBy.Count == 0 ? "" : $" (changed by {string.Join(", ", each.ChangedBy)})")}"
        );
        printer.Note($"Not published, although these depend on it: {string.Join(", ", names)}. --dependencies publishes it too.");
    }
}
