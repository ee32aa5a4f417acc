using System.Diagnostics;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The same job with the command-line client alone, the real program as a process.</summary>
public sealed class ClientTests
{
    [Fact]
    public async Task A_form_is_pulled_changed_checked_pushed_published_and_restored_with_the_client_alone()
    {
        await using var service = await RunningService.WithDemo();
        var folder = RunningService.NewFolder();
        var work = Path.Combine(folder, "quay");
        Task<(int Exit, string Out, string Error)> Run(params string[] arguments) => Client(service.Address.ToString(), folder, arguments);

        (await Run("layouts", "list")).Exit.ShouldBe(1);
        (await Run("sign-in", "--as", "ada")).Out.ShouldContain("Ada Wader (harbour-office)");
        (await Run("layouts", "list")).Out.ShouldContain("vessel\tvessel\tVessel\t1\tyes");
        (await Run("layouts", "show", "vessel")).Out.ShouldContain("section Rig  when record.propulsion == 'sail'");
        (await Run("layouts", "show", "vessel", "--wireframe")).Out.ShouldContain("│ registration ");
        (await Run("pull", work)).Out.ShouldContain("12 files");
        (await Run("push", work)).Out.ShouldContain("Nothing was changed");

        var file = Path.Combine(work, "layouts", "vessel.yaml");
        var text = await File.ReadAllTextAsync(file);
        await File.WriteAllTextAsync(file, text.Replace("- [hullType, propulsion, homePort]", "- [homePort, propulsion, hulltype]"));
        var wrong = await Run("check", work);
        wrong.Exit.ShouldBe(1);
        wrong.Out.ShouldContain("did you mean 'hullType'?");
        wrong.Out.ShouldContain("              - [homePort, propulsion, hulltype]");
        wrong.Out.ShouldMatch(@"vessel\.yaml:16:\d+: error");

        await File.WriteAllTextAsync(file, text.Replace("- [hullType, propulsion, homePort]", "- [homePort, propulsion, hullType]"));
        (await Run("check", work)).Exit.ShouldBe(0);
        (await Run("push", work, "--dry-run")).Out.ShouldBe("layout vessel would change\n");
        (await Run("push", work)).Out.ShouldContain("layout vessel is at revision 2");
        var published = await Run("publish", "vessel", "--note", "Home port first");
        published.Out.ShouldContain("Release 2 is out: layout vessel changed.");
        (await Run("releases")).Out.ShouldContain("2 (current)");
        using (var bram = await service.As("bram"))
        {
            (await bram.Form("vessel", "edit", CancellationToken.None)).GetRawText().ShouldMatch("homePort.*hullType");
        }

        (await Run("restore", "1")).Exit.ShouldBe(2);
        (await Run("restore", "1", "--yes")).Out.ShouldContain("Release 3 is out");

        (await Run("records", "list", "vessel", "--sort", "-length", "--limit", "1")).Out.ShouldContain("Oystercatcher");
        (await Run("records", "create", "berth", "code=E1", "pontoon=East pontoon", "zone=outer", "maxLength=14", "shorePower=true")).Out.ShouldContain("E1, East pontoon");
        (await Run("records", "change", "berth", "11", "maxLength=", "zone=creek")).Out.ShouldContain("version 2");
        (await Run("records", "show", "berth", "11", "--json")).Out.ShouldContain("\"zone\": \"creek\"");
        var refused = await Run("records", "change", "berth", "11", "code=east");
        (refused.Exit, refused.Error.Contains("one capital letter")).ShouldBe((1, true));
    }

    [Fact]
    public async Task A_push_never_writes_over_what_somebody_else_did()
    {
        await using var service = await RunningService.WithDemo();
        var folder = RunningService.NewFolder();
        var work = Path.Combine(folder, "quay");
        await Client(service.Address.ToString(), folder, "sign-in", "--as", "ada");
        await Client(service.Address.ToString(), folder, "pull", work);
        using (var greta = await service.As("greta"))
        {
            await greta.Edit("berth", new(1, System.Text.Json.JsonDocument.Parse("""[{"op":"set","node":"supply","property":"frame","value":"rule"}]""").RootElement), CancellationToken.None);
        }

        var file = Path.Combine(work, "layouts", "berth.yaml");
        await File.WriteAllTextAsync(file, (await File.ReadAllTextAsync(file)).Replace("surveyedAt/6", "surveyedAt"));
        var push = await Client(service.Address.ToString(), folder, "push", work);
        (push.Exit, push.Error.Contains("changed by greta")).ShouldBe((1, true));
        var pull = await Client(service.Address.ToString(), folder, "pull", work);
        (pull.Exit, pull.Error.Contains("was changed since it was pulled")).ShouldBe((2, true));
    }

    [Theory]
    [InlineData(2, "no-such-command")]
    [InlineData(2, "layouts", "show")]
    [InlineData(2, "check", "/no/such/folder")]
    [InlineData(2, "records", "show", "vessel", "x")]
    [InlineData(2, "serve", "--port", "99999")]
    [InlineData(2, "layouts", "list", "--server", "nonsense")]
    [InlineData(3, "layouts", "list", "--server", "http://127.0.0.1:1")]
    public async Task A_wrong_call_has_its_exit_code_and_a_sentence(int exit, params string[] arguments)
    {
        var run = await Client("http://127.0.0.1:1", RunningService.NewFolder(), arguments);

        run.Exit.ShouldBe(exit);
        run.Error.ShouldStartWith("brighttier: ");
        run.Error.ShouldNotContain("   at ");
    }

    [Fact]
    public async Task Help_has_examples_and_completion_answers()
    {
        (await Client("http://127.0.0.1:1", RunningService.NewFolder(), "publish", "--help")).Out.ShouldContain("brighttier publish vessel --note");
        (await Client("http://127.0.0.1:1", RunningService.NewFolder(), "[suggest:8]", "layouts ")).Out.ShouldContain("generate");
    }

    private static async Task<(int Exit, string Out, string Error)> Client(string server, string config, params string[] arguments)
    {
        var kind = AppContext.BaseDirectory.Contains("/Release/") ? "Release" : "Debug";
        var built = Directory.EnumerateFiles(Path.Combine(RunningService.Checkout, "src", "BrightTier.Cli", "bin", kind), "brighttier.dll", SearchOption.AllDirectories)
            .Where(file => File.Exists(Path.ChangeExtension(file, "runtimeconfig.json"))).OrderBy(file => file.Length).First();
        var start = new ProcessStartInfo("dotnet") { RedirectStandardOutput = true, RedirectStandardError = true, RedirectStandardInput = true, UseShellExecute = false };
        foreach (var argument in (string[])[built, .. arguments])
        {
            start.ArgumentList.Add(argument);
        }

        start.Environment["BRIGHTTIER_SERVER"] = server.TrimEnd('/');
        start.Environment["BRIGHTTIER_CONFIG"] = config;
        using var process = Process.Start(start)!;
        process.StandardInput.Close();
        var output = process.StandardOutput.ReadToEndAsync();
        var error = process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (process.ExitCode, await output, await error);
    }
}
