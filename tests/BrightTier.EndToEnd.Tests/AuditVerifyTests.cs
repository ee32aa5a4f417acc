using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// The audit log verified with the client: against the service, against what was taken away, and against a head kept elsewhere.
/// </summary>
public sealed class AuditVerifyTests
{
    [Fact]
    public async Task What_was_altered_taken_out_or_cut_off_is_found_with_the_head_that_was_kept()
    {
        await using var service = await HostedService.WithDemo();
        var (address, folder) = (service.Address.ToString(), RunningService.NewFolder());
        (await Terminal.Run(address, folder, "sign-in", "--as", "greta")).Exit.ShouldBe(0);
        foreach (var id in new[] { "joris", "ines", "piet" })
        {
            // A name that is written in several ways in JSON.
            (
                await Terminal.Run(address, folder, "person", "create", id, "--name", $"{id} “O’Hara” <&> \u2028", "--role", "quay-hand")
            ).Exit.ShouldBe(0);
        }

        var head = Path.Combine(folder, "head.json");
        var kept = await Terminal.Run(address, folder, "audit", "head");
        await File.WriteAllTextAsync(head, kept.Out);
        (await Terminal.Run(address, folder, "person", "create", "later", "--name", "Later", "--role", "auditor")).Exit.ShouldBe(0);

        var whole = await Terminal.Run(address, folder, "audit", "verify", "--head", head);
        (whole.Exit, whole.Out.Contains("hold together")).ShouldBe((0, true), whole.Out + whole.Error);

        using var http = await service.Http("greta");
        var lines = (await http.GetStringAsync("api/audit/entries/export?format=jsonl")).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        var export = Path.Combine(folder, "audit.jsonl");
        async Task<TerminalOutput> Verify(IEnumerable<string> text)
        {
            await File.WriteAllLinesAsync(export, text);
            return await Terminal.Run("http://127.0.0.1:1", folder, "audit", "verify", "--export", export, "--head", head);
        }

        (await Verify(lines)).Exit.ShouldBe(0);
        var altered = await Verify(lines.Select((line, i) => i == 3 ? line.Replace("greta", "grete", StringComparison.Ordinal) : line));
        (altered.Exit, altered.Out.Contains("Entry 4 is missing or was altered")).ShouldBe((1, true), altered.Out + altered.Error);
        var without = await Verify(lines.Where((_, i) => i != 2));
        (without.Exit, without.Out.Contains("Entry 3 is missing or was altered")).ShouldBe((1, true), without.Out);
        using var json = System.Text.Json.JsonDocument.Parse(kept.Out);
        var cut = await Verify(lines[..(json.RootElement.GetProperty("entries").GetInt32() - 1)]);
        (cut.Exit, cut.Out.Contains("Its end was cut off")).ShouldBe((1, true), cut.Out);

        await File.WriteAllTextAsync(head, kept.Out.Replace("\"entries\": ", "\"entries\": 1", StringComparison.Ordinal));
        var forged = await Verify(lines);
        (forged.Exit, forged.Error.Contains("its signature does not fit")).ShouldBe((2, true), forged.Error);
    }
}
