using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>The same job with the command-line client alone, the real program as a process.</summary>
public sealed class ClientTests
{
    [Fact]
    public async Task A_form_is_pulled_changed_checked_applied_published_and_restored_with_the_client_alone()
    {
        await using var service = await HostedService.WithDemo();
        var folder = RunningService.NewFolder();
        var work = Path.Combine(folder, "quay");
        Task<TerminalOutput> Run(params string[] arguments) => Terminal.Run(service.Address.ToString(), folder, arguments);

        (await Run("layout", "list")).Exit.ShouldBe(1);
        (await Run("sign-in", "--as", "ada")).Out.ShouldContain("Ada Wader (harbour-office)");
        (await Run("layout", "list")).Out.ShouldContain("vessel\tvessel\tVessel\t1\tyes");
        (await Run("layout", "show", "vessel")).Out.ShouldContain("section Rig  when record.propulsion == 'sail'");
        (await Run("layout", "show", "vessel", "--wireframe")).Out.ShouldContain("│ registration ");
        (await Run("pull", work)).Out.ShouldContain("37 files");
        (await Run("apply", work)).Out.ShouldContain("Nothing differs from the drafts");

        var file = Path.Combine(work, "layouts", "vessel.yaml");
        var text = await File.ReadAllTextAsync(file);
        await File.WriteAllTextAsync(file, text.Replace("- [hullType, propulsion, homePort]", "- [homePort, propulsion, hulltype]"));
        var wrong = await Run("check", work);
        wrong.Exit.ShouldBe(1);
        wrong.Out.ShouldContain("did you mean 'hullType'?");
        wrong.Out.ShouldContain("              - [homePort, propulsion, hulltype]");
        wrong.Out.ShouldMatch(@"vessel\.yaml:17:\d+: error");

        await File.WriteAllTextAsync(file, text.Replace("- [hullType, propulsion, homePort]", "- [homePort, propulsion, hullType]"));
        (await Run("check", work)).Exit.ShouldBe(0);
        (await Run("apply", work, "--dry-run")).Out.ShouldBe(
            "layout vessel would change:\n  Moves the cell with 'homePort' to the beginning of the row with 'hullType'.\n  "
                + "Moves the cell with 'propulsion' behind the cell with 'homePort'.\n1 draft would change; nothing was changed.\n"
        );
        (await Run("apply", work)).Out.ShouldContain("1 draft changed.");
        var published = await Run("publish", "vessel", "--note", "Home port first");
        published.Out.ShouldContain("Release 2 is published: layout/vessel changed.");
        (await Run("release", "list")).Out.ShouldContain("2\tcurrent\t");
        using (var bram = await service.As("bram"))
        {
            (await bram.Form("vessel", "edit", CancellationToken.None)).GetRawText().ShouldMatch("homePort.*hullType");
        }

        (await Run("release", "restore", "1")).Exit.ShouldBe(2);
        (await Run("release", "restore", "1", "--yes")).Out.ShouldContain("Release 3 is published");

        (await Run("record", "list", "vessel", "--sort", "-length", "--limit", "1")).Out.ShouldContain("Oystercatcher");
        (
            await Run("record", "create", "berth", "code=E1", "pontoon=East pontoon", "zone=outer", "maxLength=14", "shorePower=true")
        ).Out.ShouldContain("E1, East pontoon");
        (await Run("record", "change", "berth", "11", "maxLength=", "zone=creek")).Out.ShouldContain("version 2");
        (await Run("record", "show", "berth", "11", "--json")).Out.ShouldContain("\"zone\": \"creek\"");
        var refused = await Run("record", "change", "berth", "11", "code=east");
        (refused.Exit, refused.Error.Contains("one capital letter")).ShouldBe((1, true));
    }

    [Fact]
    public async Task Layouts_as_files_are_compared_merged_mended_and_asked_about_without_a_service()
    {
        var folder = RunningService.NewFolder();
        var demo = Path.Combine(RunningService.Checkout, "demo");
        Task<TerminalOutput> Run(params string[] arguments) => Terminal.Run("http://127.0.0.1:9", folder, arguments);
        var text = await File.ReadAllTextAsync(Path.Combine(demo, "layouts", "berth.yaml"));
        var start = await Put(folder, "base.yaml", text);
        var mine = await Put(folder, "mine.yaml", text.Replace("What fits", "Limits"));
        var theirs = await Put(folder, "theirs.yaml", text.Replace("- [code/3, pontoon/5, zone/4]", "- [zone/4, code/3, pontoon/5]"));
        (await Run("diff", start, mine)).ShouldSatisfyAllConditions(
            run => run.Exit.ShouldBe(1),
            run => run.Out.ShouldContain("Sets the title of the section 'What fits' to 'Limits'")
        );
        (await Run("merge", start, mine, theirs)).ShouldSatisfyAllConditions(
            run => run.Exit.ShouldBe(0),
            run => run.Out.ShouldContain("without conflicts")
        );
        (await File.ReadAllTextAsync(mine)).ShouldSatisfyAllConditions(
            merged => merged.ShouldContain("Limits"),
            merged => merged.ShouldContain("- [zone/4, code/3, pontoon/5]")
        );
        var other = await Put(folder, "other.yaml", text.Replace("What fits", "Bounds"));
        var conflict = await Run("merge", start, mine, other, "-o", Path.Combine(folder, "both.yaml"), "--name", "berth.yaml");
        (conflict.Exit, conflict.Out.Contains("[set-twice]")).ShouldBe((1, true));
        conflict.Out.ShouldContain("berth.yaml: 1 conflict, between marks");
        (await Run("merge", start, mine, other, "--conflict-resolution", "theirs")).Exit.ShouldBe(0);
        (await File.ReadAllTextAsync(mine)).ShouldContain("Bounds");

        var edits = await Put(folder, "edits.json", (await Run("diff", start, theirs, "--json")).Out);
        (await Run("layout", "edit", start, edits, "--dry-run")).Out.ShouldContain("Nothing was changed.");
        (await Run("layout", "edit", start, edits)).Exit.ShouldBe(0);
        (await Run("diff", start, theirs)).Out.ShouldContain("Nothing differs.");

        (await Run("check", demo)).Out.ShouldContain("37 files checked, nothing found.");
        (
            await Run(
                "layout",
                "explain",
                Path.Combine(demo, "layouts", "vessel.yaml"),
                "mastHeight",
                "--record",
                """{"propulsion":"diesel"}"""
            )
        ).Out.ShouldContain("Not shown.");
        (await Run("layout", "explain", Path.Combine(demo, "layouts", "vessel.yaml"), "mast")).ShouldSatisfyAllConditions(
            run => run.Exit.ShouldBe(2),
            run => run.Error.ShouldContain("There is no node 'mast'")
        );
        (await Run("impact", "piece", "cover", demo)).Out.ShouldContain("hullCover");
        (await Run("layout", "length", Path.Combine(demo, "layouts", "vessel.yaml"))).Out.ShouldContain("narrow");
        (await Run("schema")).Out.ShouldContain("json-schema.org/draft/2020-12");
        (await Run("schema", demo)).Out.ShouldContain("\"placed-vessel\"");
    }

    [Fact]
    public async Task What_is_faulty_in_files_is_mended_and_translated_without_a_service()
    {
        var folder = RunningService.NewFolder();
        var demo = Path.Combine(RunningService.Checkout, "demo");
        Task<TerminalOutput> Run(params string[] arguments) => Terminal.Run("http://127.0.0.1:9", folder, arguments);
        var text = await File.ReadAllTextAsync(Path.Combine(demo, "layouts", "berth.yaml"));
        var faulty = Path.Combine(folder, "faulty");
        Directory.CreateDirectory(Path.Combine(faulty, "layouts"));
        foreach (var part in new[] { "application.yaml", "entities", "choice-lists", "patterns" })
        {
            Copy(Path.Combine(demo, part), Path.Combine(faulty, part));
        }

        await Put(folder, "faulty/layouts/berth.yaml", text.Replace("- [surveyedAt/6]", "- [surveyedAt/6]\n            - []"));
        (await Run("check", faulty, "--format", "sarif")).Out.ShouldContain("\"ruleId\": \"row-empty\"");
        (await Run("check", faulty, "--fix")).Out.ShouldContain("Remove the row");
        (await Run("check", faulty)).Out.ShouldContain("nothing found");
        var xliff = await Put(
            folder,
            "nl.xlf",
            (await Run("text", "export", faulty, "--to", "fr")).Out.Replace(
                "<source xml:space=\"preserve\">Place</source>",
                "<source xml:space=\"preserve\">Place</source><target>Lieu</target>"
            )
        );
        (await Run("text", "import", faulty, xliff)).Out.ShouldContain("berth.yaml: 1 imported");
    }

    private static async Task<string> Put(string folder, string name, string text)
    {
        Directory.CreateDirectory(folder);
        var path = Path.Combine(folder, name);
        await File.WriteAllTextAsync(path, text);
        return path;
    }

    private static void Copy(string from, string to)
    {
        foreach (var file in File.Exists(from) ? [from] : Directory.EnumerateFiles(from))
        {
            var target = File.Exists(from) ? to : Path.Combine(to, Path.GetFileName(file));
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            File.Copy(file, target);
        }
    }

    [Fact]
    public async Task Applying_never_writes_over_what_somebody_else_did()
    {
        await using var service = await HostedService.WithDemo();
        var folder = RunningService.NewFolder();
        var work = Path.Combine(folder, "quay");
        await Terminal.Run(service.Address.ToString(), folder, "sign-in", "--as", "ada");
        await Terminal.Run(service.Address.ToString(), folder, "pull", work);
        using (var greta = await service.As("greta"))
        {
            await greta.Edit(
                "berth",
                new(
                    1,
                    System.Text.Json.JsonDocument.Parse("""[{"op":"set","node":"supply","property":"frame","value":"rule"}]""").RootElement
                ),
                CancellationToken.None
            );
        }

        var file = Path.Combine(work, "layouts", "berth.yaml");
        await File.WriteAllTextAsync(file, (await File.ReadAllTextAsync(file)).Replace("surveyedAt/6", "surveyedAt"));
        var apply = await Terminal.Run(service.Address.ToString(), folder, "apply", work);
        (apply.Exit, apply.Error.Contains("changed by greta")).ShouldBe((1, true), apply.Error);
        var pull = await Terminal.Run(service.Address.ToString(), folder, "pull", work);
        (pull.Exit, pull.Error.Contains("holds changes that were not applied")).ShouldBe((2, true));
    }

    [Fact]
    public async Task A_certificate_nobody_trusts_is_said_to_be_that()
    {
        using var key = RSA.Create(2048);
        var request = new CertificateRequest("CN=port.example", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        using var certificate = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var answering = Answer();

        var said = await Terminal.Run($"https://{listener.LocalEndpoint}", RunningService.NewFolder(), "layout", "list");

        said.Exit.ShouldBe(3);
        said.Error.ShouldContain("its certificate is not one this machine trusts");
        said.Error.ShouldNotContain("inner exception");
        await answering;

        async Task Answer()
        {
            using var connected = await listener.AcceptTcpClientAsync();
            await using var secured = new SslStream(connected.GetStream());
            try
            {
                await secured.AuthenticateAsServerAsync(certificate);
                secured.ReadByte();
            }
            catch (Exception error) when (error is IOException or System.Security.Authentication.AuthenticationException)
            {
                // The client has turned away.
            }
        }
    }

    [Theory]
    [InlineData(2, "no-such-command")]
    [InlineData(2, "layout", "show")]
    [InlineData(2, "check", "/no/such/folder")]
    [InlineData(2, "record", "show", "vessel", "x")]
    [InlineData(2, "serve", "--port", "99999")]
    [InlineData(2, "layout", "list", "--server", "nonsense")]
    [InlineData(2, "layout", "explain", "draft:vessel", "name", "--role", "auditor", "--role", "quay-hand")]
    [InlineData(2, "layout", "explain", "draft:vessel", "name", "--record", "Curlew")]
    [InlineData(3, "layout", "list", "--server", "http://127.0.0.1:1")]
    public async Task A_wrong_call_has_its_exit_code_and_a_sentence(int exit, params string[] arguments)
    {
        var run = await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), arguments);

        run.Exit.ShouldBe(exit);
        run.Error.ShouldStartWith("brighttier: ");
        run.Error.ShouldNotContain("   at ");
    }

    [Fact]
    public async Task Help_has_examples_and_completion_answers()
    {
        (await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), "publish", "--help")).Out.ShouldContain(
            "brighttier publish vessel --note"
        );
        (await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), "[suggest:7]", "layout ")).Out.ShouldContain("generate");
    }

    [Fact]
    public async Task Signing_in_keeps_its_token_in_a_home_that_has_no_folder_for_such_things_yet()
    {
        await using var service = await HostedService.WithDemo();
        var home = RunningService.NewFolder();
        // Where the client is called there may be a file of its own name, as in a checkout.
        await File.WriteAllTextAsync(Path.Combine(home, "brighttier"), "");
        (await Terminal.RunAt(service.Address.ToString(), home, home, ["sign-in", "--as", "ada"])).Out.ShouldContain("Ada Wader");
        (await Terminal.RunAt(service.Address.ToString(), home, home, ["status"])).Out.ShouldContain("Ada Wader");
        File.Exists(Path.Combine(home, ".config", "brighttier", "credentials.json")).ShouldBeTrue();
    }
}
