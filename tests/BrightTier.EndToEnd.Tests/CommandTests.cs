using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>What each command says, and with what exit code, on one service as its administrator and its configurator.</summary>
public sealed partial class CommandTests(CommandTests.Quay quay) : IClassFixture<CommandTests.Quay>
{
    /// <summary>A service, and the client's folder with a profile for each of two people.</summary>
    public sealed class Quay : IAsyncLifetime
    {
        public RunningService Service { get; private set; } = null!;

        public string Folder { get; } = RunningService.NewFolder();

        public async ValueTask InitializeAsync()
        {
            Service = await HostedService.WithDemo();
            foreach (var person in new[] { "greta", "ada" })
            {
                (
                    await Terminal.Run(
                        Service.Address.ToString(),
                        Folder,
                        "sign-in",
                        "--as",
                        person,
                        "--profile",
                        person,
                        "--server",
                        Service.Address.ToString().TrimEnd('/')
                    )
                ).Exit.ShouldBe(0);
            }
        }

        public ValueTask DisposeAsync() => Service.DisposeAsync();
    }

    private Task<TerminalOutput> As(string person, params string[] arguments) =>
        Terminal.Run(quay.Service.Address.ToString(), quay.Folder, [.. arguments, "--profile", person]);

    [Theory]
    [InlineData("status", 0, "Greta Root (administrator) at http://127.0.0.1:")]
    [InlineData("status", 0, "Release ")]
    [InlineData("entity list", 0, "berth\tBerth\t9\tberth\n")]
    [InlineData("entity show berth", 0, "maxLength\tLongest vessel\tdecimal, m\t")]
    [InlineData("entity show brth", 1, "There is no entity 'brth'; did you mean 'berth'? [not-found]")]
    [InlineData("record show berth 9999", 1, "There is no berth '9999'. [not-found]")]
    [InlineData("record list berth --filter record.zone==1", 1, "The filter, at character 1: a string is never equal to an int. [invalid]")]
    [InlineData("record list berth --sort -zones", 1, "did you mean 'zone'?")]
    [InlineData("record list berth --limit few", 2, "--limit must be a whole number; it is 'few'.")]
    [InlineData("record create berth code", 2, "field=value")]
    [InlineData("release show 1", 0, "Release 1: ")]
    [InlineData("release show 99", 1, "There is no release '99'. [not-found]")]
    [InlineData("release cancel 1", 1, "Release 1 is not staged")]
    [InlineData("publish vessel --at 2020-01-01", 1, "A release is scheduled for a time after now, within a year.")]
    [InlineData("publish vessel --at someday", 2, "--at must be a moment such as 2026-12-01T09:00Z; it is 'someday'.")]
    [InlineData("publish vessel --to quay-hnd", 1, "There is no role 'quay-hnd'; did you mean 'quay-hand'?")]
    [InlineData("publish", 2, "Name what to publish, by key, or give --plan")]
    [InlineData("publish --plan /none/here", 2, "There is no file '/none/here'")]
    [InlineData("publish --plan /proc/version", 2, "is no plan: give what")]
    [InlineData("publish --plan /dev/null", 2, "is empty: whatever was to write the plan did not")]
    [InlineData("publish vessel --plan /none/here", 2, "name nothing beside it")]
    [InlineData("publish vessel --dry-run", 0, "Nothing differs from release 1.")]
    [InlineData("publish vesel", 1, "There is no layout 'vesel'; did you mean 'vessel'?")]
    [InlineData("scheduled-release cancel 99", 1, "There is no scheduled release '99'")]
    [InlineData("release restore 99 --yes", 1, "There is no release '99'")]
    [InlineData("comment list vesel", 1, "There is no layout 'vesel'; did you mean 'vessel'?")]
    [InlineData("comment resolve 99", 1, "There is no comment '99'")]
    [InlineData("token create pipeline --scope fly", 1, "There is no permission 'fly'; there are: configure, review, publish")]
    [InlineData("token create pipeline --days 1000", 1, "365")]
    [InlineData("token revoke nothing", 1, "There is no token 'nothing'.")]
    [InlineData("person create", 2, "Option '--name' is required.")]
    [InlineData(
        "person create joris --name Joris --role quay-hnd",
        1,
        "is no role of the application: 'quay-hnd'; did you mean 'quay-hand'?"
    )]
    [InlineData("person create joris --name Joris --language fr", 1, "/language: must be one of en,")]
    [InlineData("audit list --from yesterday", 2, "--from must be a moment such as 2026-12-01T09:00Z; it is 'yesterday'.")]
    [InlineData("audit list --limit 5000", 1, "500")]
    [InlineData("audit list --records --subject berth/1", 0, "berth/1\t1\n")]
    [InlineData("audit list --records --subject berth/one", 2, "--subject names an entity, or one record as vessel/17; it is 'berth/one'.")]
    [InlineData("audit list --records --search words", 2, "--search looks into what is done to documents, releases and people")]
    [InlineData(
        "audit list --records --action burn",
        1,
        "There is no action 'burn' on records; there are: create, change, delete, restore."
    )]
    [InlineData("diff release:1 current", 0, "Nothing differs.")]
    [InlineData("diff release:9 drafts", 1, "'9' is no release; name one by its number, 'current' for what everyone has, or 'drafts'.")]
    [InlineData("diff draft:vessel current", 0, "Nothing differs.")]
    [InlineData("layout", 2, "'brighttier layout' needs a command: list, show, generate,")]
    [InlineData("audit verify", 0, "hold together; the last is ")]
    [InlineData("impact field vessel.propulsion drafts", 0, "layouts/vessel.yaml\trig\t")]
    [InlineData("impact field vessel.propulsoin drafts", 1, "There is no field 'vessel.propulsoin'; did you mean 'vessel.propulsion'?")]
    [InlineData("impact layuot vessel", 2, "brighttier: ")]
    [InlineData("layout explain draft:vessel rig --role auditor", 0, "record.propulsion")]
    [InlineData("layout place vessel name --right-of nothing", 1, "'vessel' has no node 'nothing'")]
    [InlineData("layout place vessel sectoin", 2, "'sectoin' is no field, part or piece, and nothing on 'vessel'; did you mean 'section'?")]
    [InlineData("layout place vessel name --above beam --below beam", 2, "Name one place, not 2: --above and --below.")]
    [InlineData("layout generate berth", 1, "There is a layout 'berth' already")]
    [InlineData("bundle import /no/such/file.zip", 2, "There is no file '/no/such/file.zip'.")]
    [InlineData("bundle import --rename vessel README.md", 2, "There is no file 'README.md'.")]
    [InlineData("backup create .", 2, "brighttier: ")]
    [InlineData("diagnose", 0, "good      Events come as they happen.\n")]
    [InlineData("frobnicate", 2, "There is no command 'brighttier frobnicate'")]
    [InlineData("layuot list", 2, "There is no command 'brighttier layuot'; did you mean 'layout'?")]
    [InlineData("record lst", 2, "There is no command 'brighttier record lst'; did you mean 'list'?")]
    public async Task A_command_says_what_is_so_or_what_would_be_right(string call, int exit, string expected)
    {
        var said = await As("greta", call.Split(' '));

        said.Exit.ShouldBe(exit, said.Out + said.Error);
        (exit == 0 ? said.Out : said.Error).ShouldContain(expected, Case.Sensitive);
        said.Error.ShouldNotContain("   at ");
        said.Error.ShouldNotContain("System.");
    }

    /// <summary>Programs get what people get, as JSON that is all of the output.</summary>
    [Theory]
    [InlineData("status", "person")]
    [InlineData("profile list", "profile")]
    [InlineData("token list", "name")]
    [InlineData("release list", "number")]
    [InlineData("release show 1", "number")]
    [InlineData("person list", "id")]
    [InlineData("approval list", "required")]
    [InlineData("entity list", "key")]
    [InlineData("entity show vessel", "fields")]
    [InlineData("layout list", "key")]
    [InlineData("record list vessel", "records")]
    [InlineData("record show vessel 1", "values")]
    [InlineData("audit list", "entries")]
    [InlineData("audit list --records", "entries")]
    [InlineData("diff release:1 current", "documents")]
    [InlineData("audit verify", "intact")]
    [InlineData("diagnose", "verdict")]
    [InlineData("layout length draft:vessel", "screens")]
    [InlineData("impact field vessel.propulsion drafts", "key")]
    [InlineData("person create ines --name Ines", "roles")]
    public async Task With_json_every_answer_is_one_document(string call, string member)
    {
        var said = await As("greta", [.. call.Split(' '), "--json"]);

        said.Exit.ShouldBe(0, said.Error);
        using var json = JsonDocument.Parse(said.Out);
        var first = json.RootElement.ValueKind is JsonValueKind.Array ? json.RootElement[0] : json.RootElement;
        first.EnumerateObject().Select(each => each.Name).ShouldContain(member, said.Out);
    }

    [Fact]
    public async Task What_is_said_about_a_draft_is_listed_with_its_item_and_done()
    {
        (await As("ada", "comment", "add", "agreement", "Hm", "--item", "no-such-item")).ShouldSatisfyAllConditions(
            said => said.Exit.ShouldBe(1),
            said => said.Error.ShouldContain("no-such-item")
        );
        var item = JsonDocument
            .Parse((await As("ada", "layout", "show", "agreement", "--json")).Out)
            .RootElement.GetProperty("tree")
            .GetProperty("children")[0]
            .GetProperty("id")
            .GetString()!;
        (await As("ada", "comment", "add", "agreement", "Is this in order, @greta?", "--item", item)).Exit.ShouldBe(0);
        var said = await As("ada", "comment", "list", "agreement");
        var row = said.Out.Split('\n')[1].Split('\t');
        row[1].ShouldBe("Ada Wader");
        row[3..].ShouldBe([item, "open", "Is this in order, @greta?"]);
        (await As("greta", "comment", "resolve", row[0])).Exit.ShouldBe(0);
        (await As("greta", "comment", "list", "agreement")).Out.ShouldContain("resolved by greta");
    }

    /// <summary>
    /// A review tool shows a finding beside its line: of a layout that of the node, of any other document that of the place.
    /// </summary>
    [Fact]
    public async Task What_a_dry_run_finds_has_its_line_in_the_file()
    {
        var folder = RunningService.NewFolder();
        (await As("ada", "pull", folder)).Exit.ShouldBe(0);
        var layout = await Break(
            Path.Combine(folder, "layouts", "keeper.yaml"),
            text => System.Text.RegularExpressions.Regex.Replace(text, "\n( +)rows:\n", "\n$1rows:\n$1  - []\n"),
            "- []"
        );
        var menu = await Break(
            Path.Combine(folder, "navigation.yaml"),
            text => text.Replace("entity: berth", "entity: bert", StringComparison.Ordinal),
            "entity: bert"
        );

        var said = await As("ada", "apply", folder, "--dry-run", "--format", "sarif");

        said.Exit.ShouldBe(1, said.Error);
        using var sarif = JsonDocument.Parse(said.Out);
        var places = sarif
            .RootElement.GetProperty("runs")[0]
            .GetProperty("results")
            .EnumerateArray()
            .Select(result => result.GetProperty("locations")[0].GetProperty("physicalLocation"))
            .Where(place => place.TryGetProperty("region", out _))
            .Select(place =>
                (
                    Path.GetFileName(place.GetProperty("artifactLocation").GetProperty("uri").GetString()!),
                    place.GetProperty("region").GetProperty("startLine").GetInt32()
                )
            )
            .ToList();
        places.ShouldContain(("keeper.yaml", layout));
        places.ShouldContain(("navigation.yaml", menu));

        static async Task<int> Break(string file, Func<string, string> how, string sign)
        {
            var text = how(await File.ReadAllTextAsync(file));
            await File.WriteAllTextAsync(file, text);
            return Array.FindIndex(text.Split('\n'), line => line.Contains(sign, StringComparison.Ordinal)) + 1;
        }
    }

    [Fact]
    public async Task The_published_schema_is_the_one_the_client_prints()
    {
        var printed = await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), "schema");
        printed
            .Out.TrimEnd()
            .ShouldBe((await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "docs", "schema", "document.json"))).TrimEnd());
    }

    [Theory]
    [InlineData("commands.md", "markdown")]
    [InlineData("brighttier.1", "man")]
    public async Task The_reference_in_docs_is_the_one_the_client_makes(string file, string format)
    {
        var made = await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), "reference", "--format", format);
        made.Out.TrimEnd()
            .ShouldBe((await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "docs", file))).TrimEnd(), "make commands");
    }

    [Fact]
    public async Task An_option_that_is_misspelt_is_told_from_a_file_that_is_not_there()
    {
        var misspelt = await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), "check", "--stict", "demo");
        (misspelt.Exit, misspelt.Error.Split('\n')[0]).ShouldBe(
            (2, "brighttier: 'brighttier check' has no option '--stict'; did you mean '--strict'?")
        );
        var missing = await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), "check", "stict");
        (missing.Exit, missing.Error.Trim()).ShouldBe((2, "brighttier: There is no file or folder 'stict'."));
    }

    [Fact]
    public async Task Errors_are_json_too_where_that_is_asked_for()
    {
        foreach (
            var (call, exit, code) in new[]
            {
                ("layout show vesel --json", 1, "not-found"),
                ("layout shw --json", 2, "usage"),
                ("check nothing.yaml --json", 2, "usage"),
            }
        )
        {
            var said = await As("ada", call.Split(' '));
            using var json = JsonDocument.Parse(said.Error);
            (said.Exit, json.RootElement.GetProperty("code").GetString(), said.Out).ShouldBe((exit, code, ""), call);
        }
    }

    [Fact]
    public async Task Production_asks_first_and_no_profile_is_switched_silently()
    {
        var folder = RunningService.NewFolder();
        Task<TerminalOutput> Run(params string[] call) => Terminal.Run(null, folder, call);
        var server = quay.Service.Address.ToString().TrimEnd('/');
        (await Run("sign-in", "--as", "ada", "--profile", "test", "--server", server)).Exit.ShouldBe(0);
        var live = await Run("sign-in", "--as", "greta", "--profile", "live", "--server", server, "--production");
        live.Out.ShouldContain("The current one is still 'test'; 'brighttier profile use live' changes that.");
        (await Run("profile", "list")).Out.ShouldContain($"test\t{server}\tcurrent\n");
        var asked = await Run("person", "create", "wim", "--name", "Wim Sluis", "--profile", "live");
        (asked.Exit, asked.Error.Contains("'live' is marked as production", StringComparison.Ordinal)).ShouldBe((2, true), asked.Error);
        (await Run("person", "create", "wim", "--name", "Wim Sluis", "--profile", "live", "--yes")).Exit.ShouldBe(0);
        (await Run("person", "list", "--profile", "live")).Out.ShouldContain(
            "wim\tWim Sluis",
            Case.Sensitive,
            "what only reads asks nothing"
        );
        (await Run("profile", "use", "live")).Out.ShouldContain("Profile 'live' is the current one");
        (await Run("status")).Out.ShouldContain("profile live (production)");
        (await Run("sign-out")).Out.ShouldContain("Signed out of");
        (await Run("status")).Out.ShouldContain("Ada Wader");
    }

    private Task Retitle(string layout, string section, string title) => Retitle(quay.Service, layout, section, title);

    private static async Task Retitle(RunningService service, string layout, string section, string title)
    {
        using var ada = await service.As("ada");
        var draft = await ada.Layout(layout, CancellationToken.None);
        await ada.Edit(
            layout,
            new(
                draft.Revision,
                JsonDocument.Parse($$"""[{"op":"set","node":"{{section}}","property":"title","value":"{{title}}"}]""").RootElement
            ),
            CancellationToken.None
        );
    }
}
