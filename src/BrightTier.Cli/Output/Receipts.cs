using BrightTier.Contracts;

namespace BrightTier.Cli.Output;

/// <summary>What publishing did.</summary>
internal static class Receipts
{
    public static void Print(Printer printer, Uri address, Receipt receipt)
    {
        if (printer.Json)
        {
            printer.Write(receipt, WireJson.Default.Receipt);
            return;
        }

        if (!receipt.Made)
        {
            printer.Line($"Nothing differs from release {receipt.Release.Number}, which everyone has; no release was made.");
            return;
        }

        printer.Marked(
            "green",
            $"Release {receipt.Release.Number} is published",
            $"{(receipt.Release.Rollout is { } first ? $" to {RolloutTexts.Audience(first)}" : "")}: {Changed(receipt.Release)}."
        );
        printer.Note($"{receipt.OpenClients} open {(receipt.OpenClients == 1 ? "browser was" : "browsers were")} told.");
        foreach (var place in receipt.Reached)
        {
            var way = place.Menu is { } menu ? $" ({string.Join(" › ", menu)})" : "; not in the menu yet: add it to navigation.yaml";
            printer.Note($"{place.Label}: {address}{place.Address.TrimStart('/')}{way}");
        }
    }

    /// <summary>What a release changed, in a line.</summary>
    public static string Changed(ReleaseInfo release) =>
        release.Changed == 0 ? "nothing"
        : release.Added > 4 || release.Documents.Count == 0 ? $"{release.Changed} documents"
        : string.Join(", ", release.Documents.Select(document => $"{document.Kind}/{document.Key} {document.Change}"));
}
