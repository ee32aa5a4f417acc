using System.Globalization;
using System.Text.Json;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>What each command says, and with what exit code, on one service as its administrator and its configurator.</summary>
public sealed class CommandTests(CommandTests.Quay quay) : IClassFixture<CommandTests.Quay>
{
    /// <summary>A service, and the client's folder with a profile for each of two people.</summary>
    public sealed class Quay : IAsyncLifetime
    {
        public RunningService Service { get; private set; } = null!;

        public string Folder { get; } = RunningService.NewFolder();

        public async ValueTask InitializeAsync()
        {
            Service = await RunningService.WithDemo();
            foreach (var person in new[] { "greta", "ada" })
            {
                (await Terminal.Run(Service.Address.ToString(), Folder, "sign-in", "--as", person, "--profile", person, "--server", Service.Address.ToString().TrimEnd('/'))).Exit.ShouldBe(0);
            }
        }

        public ValueTask DisposeAsync() => Service.DisposeAsync();
    }

    private Task<Said> As(string person, params string[] arguments) => Terminal.Run(quay.Service.Address.ToString(), quay.Folder, [.. arguments, "--profile", person]);

    [Theory]
    [InlineData("who", 0, "Greta Root (administrator) at http://127.0.0.1:")]
    [InlineData("entities list", 0, "berth\tBerth\t9\tberth\n")]
    [InlineData("entities show berth", 0, "maxLength\tLongest vessel\tdecimal, m\t")]
    [InlineData("entities show brth", 1, "There is no entity 'brth'; did you mean 'berth'? [not-found]")]
    [InlineData("records show berth 9999", 1, "There is no berth '9999'. [not-found]")]
    [InlineData("records list berth --filter record.zone==1", 1, "The filter, at character 1: a string is never equal to an int. [invalid]")]
    [InlineData("records list berth --sort -zones", 1, "did you mean 'zone'?")]
    [InlineData("records list berth --limit few", 2, "--limit must be a whole number; it is 'few'.")]
    [InlineData("records create berth code", 2, "field=value")]
    [InlineData("release 1", 0, "Release 1 is what everyone has; 37 documents.\nDrawn by 0 of 0 open browsers.\n")]
    [InlineData("release 99", 1, "There is no release '99'. [not-found]")]
    [InlineData("release 1 --everyone --call-off", 2, "--everyone and --call-off are one or the other.")]
    [InlineData("release 1 --call-off", 1, "Release 1 is not out to some roles alone")]
    [InlineData("publish vessel --at 2020-01-01", 1, "A release is planned for a time to come, within a year.")]
    [InlineData("publish vessel --at someday", 2, "--at must be a moment such as 2026-12-01T09:00Z; it is 'someday'.")]
    [InlineData("publish vessel --to quay-hnd", 1, "There is no role 'quay-hnd'; did you mean 'quay-hand'?")]
    [InlineData("publish vesel", 1, "There is no layout 'vesel'; did you mean 'vessel'?")]
    [InlineData("plans --call-off 99", 1, "There is no planned release '99'")]
    [InlineData("restore 99 --yes", 1, "There is no release '99'")]
    [InlineData("comments vesel", 1, "There is no layout 'vesel'; did you mean 'vessel'?")]
    [InlineData("comments vessel --done 99", 1, "There is no comment '99'")]
    [InlineData("tokens --make pipeline --for fly", 1, "There is no act 'fly'; there are: configure, review, publish")]
    [InlineData("tokens --make pipeline --days 1000", 1, "365")]
    [InlineData("tokens --end nothing", 1, "There is no token 'nothing'.")]
    [InlineData("person", 2, "Option '--name' is required.")]
    [InlineData("person joris --name Joris --role quay-hnd", 1, "is no role of the application: 'quay-hnd'; did you mean 'quay-hand'?")]
    [InlineData("person joris --name Joris --language fr", 1, "/language: must be one of en,")]
    [InlineData("audit --from yesterday", 2, "--from must be a moment such as 2026-12-01T09:00Z; it is 'yesterday'.")]
    [InlineData("audit --limit 5000", 1, "500")]
    [InlineData("audit --records --on berth/1", 0, "berth/1\t1\n")]
    [InlineData("audit --records --on berth/one", 2, "--on names an entity, or one record as vessel/17; it is 'berth/one'.")]
    [InlineData("audit --records --with words", 2, "--with looks into what is done to documents, releases and people")]
    [InlineData("audit --records --act burn", 1, "Nothing like 'burn' is done to records; there are: create, change, delete, restore.")]
    [InlineData("compare release:1 current", 0, "Nothing differs.")]
    [InlineData("compare release:9 drafts", 1, "'9' is no release; name one by its number, 'current' for what everyone has, or 'drafts'.")]
    [InlineData("compare draft:vessel current", 2, "are compared with one another, not with a layout.")]
    [InlineData("layouts", 2, "'brighttier layouts' needs a command: list, show, generate.")]
    [InlineData("audit verify", 0, "hold together; the last is ")]
    [InlineData("impact field vessel.propulsion drafts", 0, "layouts/vessel.yaml\trig\t")]
    [InlineData("impact field vessel.propulsoin drafts", 1, "There is no field 'vessel.propulsoin'; did you mean 'vessel.propulsion'?")]
    [InlineData("impact layuot vessel", 2, "brighttier: ")]
    [InlineData("explain draft:vessel rig --role auditor", 0, "record.propulsion")]
    [InlineData("layouts generate berth", 1, "The draft 'berth' is at revision ")]
    [InlineData("import /no/such/file.zip", 2, "There is no file '/no/such/file.zip'.")]
    [InlineData("import --rename vessel README.md", 2, "There is no file 'README.md'.")]
    [InlineData("backup .", 2, "brighttier: ")]
    [InlineData("doctor", 0, "good      Events come as they happen.\n")]
    [InlineData("frobnicate", 2, "There is no command 'brighttier frobnicate'")]
    [InlineData("layuots list", 2, "There is no command 'brighttier layuots'; did you mean 'layouts'?")]
    [InlineData("records lst", 2, "There is no command 'brighttier records lst'; did you mean 'list'?")]
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
    [InlineData("who", "person")]
    [InlineData("profiles", "profile")]
    [InlineData("tokens", "name")]
    [InlineData("releases", "number")]
    [InlineData("release 1", "number")]
    [InlineData("entities list", "key")]
    [InlineData("entities show vessel", "fields")]
    [InlineData("layouts list", "key")]
    [InlineData("records list vessel", "records")]
    [InlineData("records show vessel 1", "values")]
    [InlineData("audit", "entries")]
    [InlineData("audit --records", "entries")]
    [InlineData("compare release:1 current", "documents")]
    [InlineData("audit verify", "whole")]
    [InlineData("doctor", "verdict")]
    [InlineData("length draft:vessel", "screens")]
    [InlineData("impact field vessel.propulsion drafts", "key")]
    [InlineData("person ines --name Ines", "roles")]
    public async Task With_json_every_answer_is_one_document(string call, string member)
    {
        var said = await As("greta", [.. call.Split(' '), "--json"]);

        said.Exit.ShouldBe(0, said.Error);
        using var json = JsonDocument.Parse(said.Out);
        var first = json.RootElement.ValueKind is JsonValueKind.Array ? json.RootElement[0] : json.RootElement;
        first.EnumerateObject().Select(each => each.Name).ShouldContain(member, said.Out);
    }

    [Fact]
    public async Task What_only_administrators_may_is_refused_to_others_with_a_word()
    {
        foreach (var call in new[] { "audit", "audit verify", "person joris --name Joris", "backup never.zip" })
        {
            var said = await As("ada", call.Split(' '));
            (said.Exit, said.Error.Contains("administer", StringComparison.Ordinal)).ShouldBe((1, true), call + said.Error);
        }

        File.Exists("never.zip").ShouldBeFalse();
    }

    [Fact]
    public async Task A_person_is_made_changes_the_password_she_was_given_and_is_somebody_elses_no_more()
    {
        var server = quay.Service.Address.ToString();
        var made = await Terminal.RunWith("eleven herons over the quay", server, quay.Folder, "person", "noor", "--name", "Noor Dekker", "--role", "quay-hand", "--role", "bookkeeper", "--language", "nl", "--password", "--profile", "greta");
        made.Out.ShouldBe("Noor Dekker signs in as noor; her roles: quay-hand, bookkeeper.\n");

        var early = await Terminal.RunWith("eleven herons over the quay", server, RunningService.NewFolder(), "sign-in", "--as", "noor", "--password");
        (early.Exit, early.Error.Contains("[password-to-change]", StringComparison.Ordinal)).ShouldBe((1, true), early.Error);
        var wrong = await Terminal.RunWith("some other words", server, RunningService.NewFolder(), "sign-in", "--as", "noor", "--password");
        (wrong.Exit, wrong.Error.Contains("[not-signed-in]", StringComparison.Ordinal)).ShouldBe((1, true), wrong.Error);
        var short_ = await Terminal.RunWith("short", server, quay.Folder, "person", "noor", "--name", "Noor Dekker", "--password", "--profile", "greta");
        (short_.Exit, short_.Error.Contains("from 12 to 200 characters", StringComparison.Ordinal)).ShouldBe((1, true), short_.Error);
        (await As("greta", "audit", "--on", "person/noor")).Out.ShouldContain("person.made");
    }

    [Fact]
    public async Task A_token_lasts_until_it_is_ended_and_is_shown_once()
    {
        var made = await As("ada", "tokens", "--make", "nightly", "--days", "2", "--for", "configure");
        var secret = made.Out.Trim();
        secret.ShouldStartWith("bt_");
        var row = (await As("ada", "tokens")).Out.Split('\n').Single(line => line.Contains("nightly", StringComparison.Ordinal)).Split('\t');
        row[1..].ShouldBe(["nightly", DateTime.UtcNow.AddDays(2).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), "configure"]);
        string.Concat(row).ShouldNotContain(secret);

        Task<Said> With(params string[] call) => Terminal.Run(quay.Service.Address.ToString(), RunningService.NewFolder(), [.. call, "--token", secret]);
        (await With("who")).Out.ShouldContain("may configure\n");
        (await With("layouts", "list")).Exit.ShouldBe(0);
        var narrow = await With("records", "list", "vessel");
        (narrow.Exit, narrow.Error.Contains("good for configure alone", StringComparison.Ordinal)).ShouldBe((1, true), narrow.Error);

        (await As("ada", "tokens", "--end", row[0])).Out.ShouldNotContain("nightly");
        (await With("who")).Exit.ShouldBe(1);
    }

    [Fact]
    public async Task A_release_is_set_for_a_time_called_off_and_goes_to_some_first()
    {
        await Retitle("berth", "supply", "At the pontoon");
        var set = await As("ada", "publish", "berth", "--at", DateTime.UtcNow.AddHours(3).ToString("s", CultureInfo.InvariantCulture) + "Z", "--note", "Tonight");
        set.Exit.ShouldBe(0, set.Error);
        var plan = set.Out.Split("--call-off ")[1].Split('\'')[0];
        (await As("ada", "plans")).Out.ShouldContain($"{plan}\t{DateTime.UtcNow.AddHours(3):yyyy-MM-dd}");
        (await As("ada", "plans", "--call-off", plan)).Out.ShouldContain("\tada\tcalled-off\tlayout/berth\tTonight");

        var some = await As("ada", "publish", "berth", "--to", "harbour-office", "--note", "Office first");
        some.Out.ShouldContain("is out to harbour-office: layout berth changed.");
        var number = some.Out.Split("Release ")[1].Split(' ')[0];
        (await As("ada", "releases")).Out.ShouldContain($"{number} (ahead: harbour-office)");
        (await As("ada", "release", number)).Out.ShouldContain($"Release {number} is out to harbour-office alone; layout berth changed.");
        var between = await As("ada", "publish", "vessel");
        (between.Exit, between.Error.Contains("give it to everyone or call it off before the next", StringComparison.Ordinal)).ShouldBe((1, true), between.Error);
        (await As("ada", "release", number, "--call-off")).Out.ShouldContain($"Release {number} is called off");
        (await As("ada", "releases")).Out.ShouldContain("1 (current)");
    }

    [Fact]
    public async Task What_is_said_about_a_draft_is_listed_with_its_item_and_done()
    {
        (await As("ada", "comments", "agreement", "--item", "no-such-item", "--say", "Hm")).ShouldSatisfyAllConditions(said => said.Exit.ShouldBe(1), said => said.Error.ShouldContain("no-such-item"));
        var item = JsonDocument.Parse((await As("ada", "layouts", "show", "agreement", "--json")).Out).RootElement.GetProperty("tree").GetProperty("children")[0].GetProperty("id").GetString()!;
        var said = await As("ada", "comments", "agreement", "--item", item, "--say", "Is this in order, @greta?");
        said.Exit.ShouldBe(0, said.Error);
        var row = said.Out.Split('\n')[1].Split('\t');
        row[1].ShouldBe("Ada Wader");
        row[3..].ShouldBe([item, "open", "Is this in order, @greta?"]);
        (await As("greta", "comments", "agreement", "--done", row[0])).Out.ShouldContain("done, said greta");
    }

    /// <summary>A review tool shows a finding beside its line: of a layout that of the node, of any other document that of the place.</summary>
    [Fact]
    public async Task What_a_dry_run_finds_has_its_line_in_the_file()
    {
        var folder = RunningService.NewFolder();
        (await As("ada", "pull", folder)).Exit.ShouldBe(0);
        var layout = await Break(Path.Combine(folder, "layouts", "keeper.yaml"), text => System.Text.RegularExpressions.Regex.Replace(text, "\n( +)rows:\n", "\n$1rows:\n$1  - []\n"), "- []");
        var menu = await Break(Path.Combine(folder, "navigation.yaml"), text => text.Replace("entity: berth", "entity: bert", StringComparison.Ordinal), "entity: bert");

        var said = await As("ada", "apply", folder, "--dry-run", "--format", "sarif");

        said.Exit.ShouldBe(1, said.Error);
        using var sarif = JsonDocument.Parse(said.Out);
        var places = sarif.RootElement.GetProperty("runs")[0].GetProperty("results").EnumerateArray().Select(result => result.GetProperty("locations")[0].GetProperty("physicalLocation"))
            .Where(place => place.TryGetProperty("region", out _)).Select(place => (Path.GetFileName(place.GetProperty("artifactLocation").GetProperty("uri").GetString()!), place.GetProperty("region").GetProperty("startLine").GetInt32())).ToList();
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
    public async Task What_waits_and_what_two_releases_have_differently_is_told_by_document()
    {
        await using var own = await RunningService.WithDemo();
        var folder = RunningService.NewFolder();
        Task<Said> Ada(params string[] call) => Terminal.Run(own.Address.ToString(), folder, call);
        (await Ada("sign-in", "--as", "ada")).Exit.ShouldBe(0);
        await Retitle(own, "inspection", "found", "What came to light");
        var waiting = await Ada("compare", "current", "drafts");
        waiting.Exit.ShouldBe(1, waiting.Error);
        waiting.Out.ShouldContain("layout/inspection was changed, by ada:\n  Sets the title of ");
        (await Ada("publish", "inspection", "--note", "Plainer")).Out.ShouldMatch("Reached at http://127.0.0.1:[0-9]+/records/inspection \\(Yard and quay › Inspections\\)");
        (await Ada("compare", "release:1", "current")).Out.ShouldContain("layout/inspection was changed:\n");
        (await Ada("restore", "1", "--only", "inspection", "--yes")).Exit.ShouldBe(0);
        (await Ada("compare", "release:1", "current")).Out.ShouldBe("Nothing differs.\n");
        (await Ada("compare", "current", "drafts")).Out.ShouldContain("layout/inspection was changed, by ada:");
    }

    [Fact]
    public async Task Nobody_approves_her_own_change()
    {
        await Retitle("keeper", "person", "Who it is");
        var own = await As("ada", "approve", "keeper");
        own.Exit.ShouldBe(1, own.Out);
        (await As("greta", "approve", "keeper")).Out.ShouldMatch("layout keeper is approved at revision [0-9]+");
        (await As("greta", "approve", "keeper", "--take-back")).Out.ShouldContain("is not approved by you any more");
    }

    [Fact]
    public async Task An_archive_goes_out_whole_or_alone_and_comes_in_under_another_name()
    {
        var file = Path.Combine(quay.Folder, "berth.zip");
        (await As("ada", "export", file, "berth")).Out.ShouldContain("berth.zip is written");
        var same = await As("ada", "import", file, "--dry-run");
        same.ShouldSatisfyAllConditions(said => said.Exit.ShouldBe(0, said.Error), said => said.Out.ShouldContain("othing"));
        var other = await As("ada", "import", file, "--only", "berth", "--only", "entity/berth", "--rename", "entity/berth=pier", "--rename", "berth=pier", "--dry-run");
        other.ShouldSatisfyAllConditions(said => said.Exit.ShouldBe(0, said.Out + said.Error), said => said.Out.ShouldContain("layout pier"), said => said.Out.ShouldContain("entity pier"));
        (await As("ada", "entities", "show", "pier")).Exit.ShouldBe(1, "a dry run changes nothing");
        var wrong = await As("ada", "import", file, "--only", "vessel");
        wrong.Exit.ShouldBe(1, wrong.Out);
        var not = await As("ada", "export", file, "vesel");
        (not.Exit, not.Error.Contains("did you mean 'layout/vessel'?", StringComparison.Ordinal)).ShouldBe((1, true), not.Error);
    }

    [Fact]
    public async Task A_backup_is_not_written_over_without_being_told_to()
    {
        var file = Path.Combine(quay.Folder, "quay.backup.zip");
        (await As("greta", "backup", file)).Out.ShouldContain("Everything is in quay.backup.zip");
        var again = await As("greta", "backup", file);
        (again.Exit, again.Error.Contains("--yes", StringComparison.Ordinal)).ShouldBe((2, true), again.Error);
        (await As("greta", "backup", file, "--yes")).Exit.ShouldBe(0);
        Directory.EnumerateFiles(quay.Folder, "*.arriving").ShouldBeEmpty();
    }

    [Fact]
    public async Task The_published_schema_is_the_one_the_client_prints()
    {
        var printed = await Terminal.Run("http://127.0.0.1:1", RunningService.NewFolder(), "schema");
        printed.Out.TrimEnd().ShouldBe((await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "docs", "schema", "layout.json"))).TrimEnd());
    }

    private Task Retitle(string layout, string section, string title) => Retitle(quay.Service, layout, section, title);

    private static async Task Retitle(RunningService service, string layout, string section, string title)
    {
        using var ada = await service.As("ada");
        var draft = await ada.Layout(layout, CancellationToken.None);
        await ada.Edit(layout, new(draft.Revision, JsonDocument.Parse($$"""[{"op":"set","node":"{{section}}","property":"title","value":"{{title}}"}]""").RootElement), CancellationToken.None);
    }
}
