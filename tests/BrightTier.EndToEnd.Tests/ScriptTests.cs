using System.Diagnostics;
using System.Text.RegularExpressions;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The script of docs/configuring.md as it stands: from an empty service to a second person at work, by the client.</summary>
public sealed class ScriptTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_documented_script_makes_an_application_that_a_second_person_works_in()
    {
        var guide = await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "docs", "configuring.md"), Cancel);
        var script = Regex.Match(guide, "```sh\n(?<script>brighttier setup.*?)```", RegexOptions.Singleline).Groups["script"].Value;
        script.ShouldContain("entity create moorings.csv");
        await using var service = await HostedService.Empty();
        var folder = RunningService.NewFolder();
        await File.WriteAllTextAsync(
            Path.Combine(folder, "keepers.csv"),
            "Name,Phone\nMarit Reed,+31 6 1234 5671\nIda Stern,+31 6 1234 5672\n",
            Cancel
        );
        var moorings = Enumerable
            .Range(1, 10)
            .Select(i => $"M-{i:00},{(i % 2 == 0 ? "Ida Stern" : "Marit Reed")},{6 + i}.5,{90 + (10 * i)}.00\n");
        await File.WriteAllTextAsync(Path.Combine(folder, "moorings.csv"), $"Number,Keeper,Length,Rate\n{string.Concat(moorings)}", Cancel);
        // What is typed at a terminal: a password, and by who was given one, her own behind it.
        var shim = Path.Combine(folder, "brighttier");
        await File.WriteAllTextAsync(
            shim,
            $$"""
            #!/bin/sh
            case "$*" in
              *"--as bram"*) printf 'tide tables and rope\nanother tide and rope\n' | exec dotnet {{Terminal.Program}} "$@" ;;
              setup*|*--password*) printf 'tide tables and rope\n' | exec dotnet {{Terminal.Program}} "$@" ;;
              *) exec dotnet {{Terminal.Program}} "$@" < /dev/null ;;
            esac
            """,
            Cancel
        );

        var (exit, printed) = await Shell(folder, script, service);

        exit.ShouldBe(0, printed);
        printed.ShouldContain("mooring is made, with 4 layouts and 10 records");
        printed.ShouldContain("Bram Klaasen signs in as bram");
        var shown = printed[printed.LastIndexOf("M-01", StringComparison.Ordinal)..];
        shown.ShouldContain("9.5");
        shown.ShouldNotContain("100.00", Case.Sensitive, "what a mooring costs is not Bram's to see");
        using var ada = new BrightTierClient(service.Address, null);
        await ada.SignIn(new SignIn("ada", Password: "tide tables and rope"), new TokenRequest("test"), Cancel);
        (await ada.Records("mooring", null, null, null, null, 20, Cancel)).Total.ShouldBe(10);
        (await ada.Record("mooring", 1, Cancel)).Values.GetRawText().ShouldContain("rate");
    }

    private static async Task<(int Exit, string Printed)> Shell(string folder, string script, RunningService service)
    {
        var start = new ProcessStartInfo("/bin/sh")
        {
            WorkingDirectory = folder,
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            UseShellExecute = false,
        };
        start.ArgumentList.Add("-s");
        start.Environment["PATH"] = $"{folder}:{Environment.GetEnvironmentVariable("PATH")}";
        start.Environment["HOME"] = folder;
        start.Environment["XDG_CONFIG_HOME"] = Path.Combine(folder, "config");
        start.Environment["BRIGHTTIER_SERVER"] = service.Address.ToString().TrimEnd('/');
        start.Environment["CODE"] = Regex.Match(service.Output, "bt_[A-Za-z0-9_-]+").Value;
        using var shell = Process.Start(start)!;
        await shell.StandardInput.WriteAsync($"exec 2>&1\nset -e\nchmod +x brighttier\n{script}");
        shell.StandardInput.Close();
        var printed = await shell.StandardOutput.ReadToEndAsync(Cancel);
        await shell.WaitForExitAsync(Cancel);
        return (shell.ExitCode, printed);
    }
}
