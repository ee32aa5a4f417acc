using System.Diagnostics;
using System.Text.RegularExpressions;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// The worked example of docs/pipeline.md, as it stands there: two environments, a change by a person in one and by files in both.
/// </summary>
public sealed class PipelineTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_pipeline_of_the_guide_runs_as_it_is_written()
    {
        await using var test = await HostedService.WithDemo();
        await using var production = await HostedService.WithDemo();
        using var person = await production.As("ada");
        var guide = await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "docs", "pipeline.md"), Cancel);
        var blocks = Regex
            .Matches(guide, "```sh\n(?<lines>.*?)```", RegexOptions.Singleline | RegexOptions.ExplicitCapture)
            .Select(match => match.Groups["lines"].Value)
            .ToArray();
        blocks.Length.ShouldBe(9);
        var folder = RunningService.NewFolder();
        var surroundings = new Dictionary<string, string>
        {
            ["TEST_SERVER"] = test.Address.ToString().TrimEnd('/'),
            ["PRODUCTION_SERVER"] = production.Address.ToString().TrimEnd('/'),
            ["TEST_TOKEN"] = await Token(test),
            ["PRODUCTION_TOKEN"] = await Token(production),
            ["BRIGHTTIER_CONFIG"] = Path.Combine(folder, "config"),
            ["GIT_CONFIG_GLOBAL"] = Path.Combine(folder, "gitconfig"),
        };
        await File.WriteAllTextAsync(surroundings["GIT_CONFIG_GLOBAL"], "[user]\n\tname = Ada Wader\n\temail = ada@port.example\n", Cancel);

        (await Run(folder, surroundings, blocks[0])).ShouldContain("production");
        await Run(folder, surroundings, blocks[1]);
        (await Run(folder, surroundings, blocks[2])).ShouldContain("nothing found");
        (await Run(folder, surroundings, blocks[3])).ShouldSatisfyAllConditions(
            said => said.ShouldContain("1 draft would change; nothing was changed."),
            said => said.ShouldContain("layout vessel changes, by ada:"),
            said => said.ShouldContain("Release 2 is published: layout/vessel changed.")
        );
        (await Run(folder, surroundings, blocks[4])).ShouldContain(
            "Release 3 is published: layout/berth changed, layout/visitorCall-short changed."
        );

        var draft = await person.Layout("vessel", Cancel);
        var canvas = """[{"op":"set","node":"rig","property":"title","value":{"en":"Canvas"}}]""";
        await person.Edit("vessel", new EditRequest(draft.Revision, System.Text.Json.JsonDocument.Parse(canvas).RootElement), Cancel);

        var given = await Run(folder, surroundings, blocks[5]);
        given.ShouldContain("changed by ada");
        given.ShouldContain("layout vessel would be merged");
        given.ShouldContain("Release 2 is published");
        (await File.ReadAllTextAsync(Path.Combine(folder, "findings.sarif"), Cancel)).ShouldContain("\"version\": \"2.1.0\"");
        Directory.EnumerateFiles(Path.Combine(folder, "review")).Select(Path.GetFileName).ShouldBe(["vessel.svg"]);
        var form = (await person.Form("vessel", "edit", Cancel)).GetRawText();
        form.ShouldContain("Canvas", customMessage: "what the person did");
        form.ShouldMatch("draught.*beam", "what the files did");
        (await File.ReadAllTextAsync(Path.Combine(folder, "third", "layouts", "vessel.yaml"), Cancel)).ShouldContain("Canvas");
        (await person.Form("berth", "edit", Cancel)).GetRawText().ShouldContain("Mooring");

        (await Run(folder, surroundings, blocks[6])).ShouldContain("Release 3 is published");
        (await person.Form("vessel", "edit", Cancel)).GetRawText().ShouldNotContain("Canvas");

        (await Run(folder, surroundings, blocks[7])).ShouldContain("Release 4 is published");
        (await person.Form("berth", "edit", Cancel)).GetRawText().ShouldNotContain("Mooring");
        (await person.File("layout", "visitorCall-short", Cancel)).Text.ShouldNotContain("archived");

        await Run(folder, surroundings, blocks[8]);
        using var there = await test.As("ada");
        (await there.Form("vessel", "edit", Cancel)).GetRawText().ShouldContain("Canvas");
    }

    private static async Task<string> Token(RunningService service)
    {
        using var ada = await service.As("ada");
        return (await ada.CreateToken(new TokenRequest("pipeline", 1, ["configure", "publish"]), Cancel)).Secret!;
    }

    /// <summary>Runs lines of a shell, stopping at the first that fails; everything they said.</summary>
    private static async Task<string> Run(string folder, Dictionary<string, string> surroundings, string lines)
    {
        var start = new ProcessStartInfo("bash")
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
            WorkingDirectory = folder,
        };
        foreach (var (name, value) in surroundings)
        {
            start.Environment[name] = value;
        }

        start.Environment.Remove("BRIGHTTIER_SERVER");
        start.ArgumentList.Add("-euc");
        start.ArgumentList.Add($"brighttier() {{ dotnet '{Terminal.Program}' \"$@\"; }}\n{lines}");
        using var process = Process.Start(start)!;
        var (output, error) = (process.StandardOutput.ReadToEndAsync(Cancel), process.StandardError.ReadToEndAsync(Cancel));
        await process.WaitForExitAsync(Cancel);
        process.ExitCode.ShouldBe(0, $"{lines}\n{await output}\n{await error}");
        return await output + await error;
    }
}
