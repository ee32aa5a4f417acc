using System.Text.Json;
using System.Xml.Linq;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// A folder, the drafts, releases and two environments compared by the client: in words, as JSON, as pictures, as reports.
/// </summary>
public sealed class DiffTests : IAsyncLifetime
{
    private readonly string home = RunningService.NewFolder();
    private HostedService test = null!;
    private HostedService production = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private string Folder => Path.Combine(home, "quay");

    private Task<TerminalOutput> Run(params string[] arguments) => Terminal.RunAt(test.Address.ToString(), home, home, arguments);

    public async ValueTask InitializeAsync()
    {
        test = await HostedService.WithDemo();
        production = await HostedService.WithDemo();
        (await Run("sign-in", "--profile", "test", "--server", test.Address.ToString(), "--as", "ada")).Exit.ShouldBe(0);
        (await Run("sign-in", "--profile", "live", "--server", production.Address.ToString(), "--as", "ada")).Exit.ShouldBe(0);
        (await Run("pull", "quay", "--profile", "test")).Exit.ShouldBe(0);
    }

    public async ValueTask DisposeAsync()
    {
        await test.DisposeAsync();
        await production.DisposeAsync();
    }

    private async Task Retitle(HostedService service, string title)
    {
        using var ada = await service.As("ada");
        var draft = await ada.Layout("berth", Cancel);
        var edits = JsonDocument.Parse($$"""[{"op":"set","node":"place","property":"title","value":"{{title}}"}]""").RootElement;
        await ada.Edit("berth", new EditRequest(draft.Revision, edits), Cancel);
    }

    private async Task Change(string file, string from, string to)
    {
        var path = Path.Combine(Folder, file);
        var text = await File.ReadAllTextAsync(path, Cancel);
        text.ShouldContain(from);
        await File.WriteAllTextAsync(path, text.Replace(from, to, StringComparison.Ordinal), Cancel);
    }

    [Fact]
    public async Task A_folder_a_file_and_two_environments_are_compared_with_each_other()
    {
        (await Run("diff", "current@test", "quay")).Out.ShouldBe("Nothing differs.\n");
        (await Run("diff", "drafts@live", "drafts@test")).Out.ShouldBe("Nothing differs.\n");

        await Change("layouts/vessel.yaml", "[length, beam, draught]", "[length, draught, beam]");
        await Retitle(production, "Where it lies");
        var folder = await Run("diff", "current@test", "quay");
        folder.Exit.ShouldBe(1, folder.Error);
        folder.Out.ShouldMatch("^layout/vessel changed:\n  Moves .+\n1 document differs.\n$");
        (await Run("diff", "quay", "drafts@live")).Out.ShouldSatisfyAllConditions(
            said => said.ShouldContain("layout/berth changed:\n  Sets the title of the section"),
            said => said.ShouldContain("layout/vessel changed:\n"),
            said => said.ShouldContain("2 documents differ.")
        );
        (await Run("diff", "drafts@test", "drafts@live")).Out.ShouldMatch("^layout/berth changed:\n.+\n1 document differs.\n$");

        // One document of a state, and what a file or a folder says of it.
        (await Run("diff", "draft:berth@live", "quay/layouts/berth.yaml")).Out.ShouldContain("1 change.");
        (await Run("diff", "current:berth@live", "quay")).Out.ShouldBe("Nothing differs.\n");
        (await Run("diff", "release:1@live", "quay/layouts/berth.yaml")).Out.ShouldBe("Nothing differs.\n");
        (await Run("diff", "current:entity/vessel@test", "quay/entities/vessel.yaml")).Out.ShouldBe("Nothing differs.\n");

        // A part of a folder says nothing of what is not in it.
        (await Run("diff", "current@test", "quay/layouts")).Out.ShouldMatch("^layout/vessel changed:\n.+\n1 document differs.\n$");

        var json = JsonSerializer.Deserialize(
            (await Run("diff", "current@test", "quay", "--json")).Out,
            WireJson.Default.ReleaseComparison
        )!;
        json.Documents.Select(each => (each.Kind, each.Key, each.Change)).ShouldBe([("layout", "vessel", "changed")]);
    }

    [Fact]
    public async Task A_bundle_of_a_release_is_compared_like_any_other_set()
    {
        await Retitle(test, "Where it lies");
        (await Run("publish", "berth", "--profile", "test", "--yes")).Exit.ShouldBe(0);
        (await Run("bundle", "export", "first.zip", "--release", "1", "--profile", "test")).Exit.ShouldBe(0);
        (await Run("diff", "first.zip", "current@live")).Out.ShouldBe("Nothing differs.\n");
        (await Run("diff", "first.zip", "current@test")).Out.ShouldMatch("^layout/berth changed:\n.+\n1 document differs.\n$");
        var beyond = await Run("bundle", "export", "none.zip", "--release", "9", "--profile", "test");
        (beyond.Exit, beyond.Error.Contains("There is no release '9'; the newest is 2.", StringComparison.Ordinal)).ShouldBe(
            (1, true),
            beyond.Error
        );
        var both = await Run("bundle", "export", "none.zip", "--release", "1", "--draft", "--profile", "test");
        (both.Exit, both.Error.Contains("not of both", StringComparison.Ordinal)).ShouldBe((1, true), both.Error);
    }

    [Fact]
    public async Task What_differs_is_drawn_for_a_review()
    {
        await Change("layouts/vessel.yaml", "[length, beam, draught]", "[length, draught, beam]");
        await Retitle(production, "Where it lies");

        var one = await Run("diff", "drafts@live", "quay", "--picture", "changes.svg");
        one.Out.ShouldContain("2 layouts are drawn in changes.svg.");
        var words = XDocument
            .Parse(await File.ReadAllTextAsync(Path.Combine(home, "changes.svg"), Cancel))
            .Descendants()
            .Where(each => each.Name.LocalName == "text")
            .Select(text => text.Value)
            .ToArray();
        words.ShouldContain("drafts@live");
        words.ShouldContain("Where it lies");
        words.ShouldContain("moved");
        words.ShouldContain("changed");

        (await Run("diff", "drafts@live", "quay", "--picture", "review", "--language", "nl")).Exit.ShouldBe(1);
        Directory.EnumerateFiles(Path.Combine(home, "review")).Select(Path.GetFileName).Order().ShouldBe(["berth.svg", "vessel.svg"]);
        (await Run("diff", "draft:berth@live", "quay/layouts/berth.yaml", "--picture", "one.svg")).Out.ShouldContain("1 layout is drawn");
    }

    [Fact]
    public async Task Where_a_folder_stands_is_told_in_a_line_a_document()
    {
        (await Run("status", "quay", "--profile", "test")).Out.ShouldContain("quay holds what the drafts hold.");
        await Change("layouts/vessel.yaml", "[length, beam, draught]", "[length, draught, beam]");
        await Retitle(test, "Where it lies");
        File.Delete(Path.Combine(Folder, "layouts", "visitorCall-short.yaml"));
        await File.WriteAllTextAsync(
            Path.Combine(Folder, "layouts", "extra.yaml"),
            (await File.ReadAllTextAsync(Path.Combine(Folder, "layouts", "keeper.yaml"), Cancel)).Replace("key: keeper", "key: extra"),
            Cancel
        );

        var said = await Run("status", "quay", "--profile", "test");

        said.Exit.ShouldBe(0, said.Error);
        said.Out.ShouldContain("1 draft waits to be published:\n  layout/berth  changed by ada, 1 change\n");
        said.Out.ShouldMatch("  layout/berth +changed in the draft; 'pull' brings it\n");
        said.Out.ShouldMatch("  layout/extra +only in the folder; 'apply' makes the draft\n");
        said.Out.ShouldMatch("  layout/vessel +changed in the folder; 'apply' brings it\n");
        said.Out.ShouldMatch("  layout/visitorCall-short +gone from the folder; ");
        using var json = JsonDocument.Parse((await Run("status", "quay", "--profile", "test", "--json")).Out);
        json.RootElement.GetProperty("files").GetArrayLength().ShouldBe(4);
    }

    [Theory]
    [InlineData("There is no profile 'nowhere'", "diff", "drafts@nowhere", "quay")]
    [InlineData("There is no file or folder 'kuay'", "diff", "current@test", "kuay")]
    [InlineData("'layuot' is no kind of document", "diff", "draft:layuot/berth@test", "quay")]
    [InlineData("'broken.zip' is no bundle", "diff", "broken.zip", "quay")]
    [InlineData("There is no folder 'kuay'", "status", "kuay", "--profile", "test")]
    public async Task What_is_named_wrongly_is_told(string told, params string[] call)
    {
        await File.WriteAllTextAsync(Path.Combine(home, "broken.zip"), "no archive", Cancel);
        var said = await Run(call);
        (said.Exit, said.Error.Contains(told, StringComparison.Ordinal)).ShouldBe((2, true), said.Error);
    }

    /// <summary>What review tools and build servers read: the version, help for each rule, conflicts, a case a file.</summary>
    [Fact]
    public async Task Reports_for_programs_say_which_rules_there_are_and_what_conflicts()
    {
        await Change("layouts/berth.yaml", "Place", "Spot");
        await Change("navigation.yaml", "entity: berth", "entity: bert");
        await Retitle(test, "Where it lies");

        var said = await Run("apply", "quay", "--profile", "test", "--merge", "--dry-run", "--format", "sarif");

        said.Exit.ShouldBe(1, said.Error);
        using var sarif = JsonDocument.Parse(said.Out);
        var run = sarif.RootElement.GetProperty("runs")[0];
        var driver = run.GetProperty("tool").GetProperty("driver");
        driver.GetProperty("version").GetString().ShouldNotBeNullOrEmpty();
        var rules = driver.GetProperty("rules").EnumerateArray().ToArray();
        foreach (var rule in rules)
        {
            rule.GetProperty("help").GetProperty("text").GetString().ShouldNotBeNullOrEmpty();
            rule.GetProperty("defaultConfiguration").GetProperty("level").GetString().ShouldBeOneOf("error", "warning", "note");
        }

        var results = run.GetProperty("results").EnumerateArray().ToArray();
        foreach (var result in results)
        {
            rules[result.GetProperty("ruleIndex").GetInt32()]
                .GetProperty("id")
                .GetString()
                .ShouldBe(result.GetProperty("ruleId").GetString());
            result.GetProperty("partialFingerprints").GetProperty("place/v1").GetString().ShouldNotBeNullOrEmpty();
        }

        results.Select(result => result.GetProperty("ruleId").GetString()).ShouldContain("conflict");
        var report = XDocument.Parse((await Run("check", "quay", "--format", "junit")).Out).Root!;
        report.Name.LocalName.ShouldBe("testsuites");
        var cases = report.Descendants("testcase").ToArray();
        cases.Length.ShouldBe(37);
        report.Attribute("failures")!.Value.ShouldBe("1");
        cases.Single(each => each.Element("failure") is not null).Attribute("name")!.Value.ShouldBe("quay/navigation.yaml");
    }
}
