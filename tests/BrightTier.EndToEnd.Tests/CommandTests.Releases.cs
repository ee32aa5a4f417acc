using System.Globalization;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

// Releases, approvals, bundles and backups.
public sealed partial class CommandTests
{
    [Fact]
    public async Task A_release_is_set_for_a_time_called_off_and_goes_to_some_first()
    {
        await Retitle("berth", "supply", "At the pontoon");
        var set = await As(
            "ada",
            "publish",
            "berth",
            "--at",
            DateTime.UtcNow.AddHours(3).ToString("s", CultureInfo.InvariantCulture) + "Z",
            "--note",
            "Tonight"
        );
        set.Exit.ShouldBe(0, set.Error);
        var plan = set.Out.Split("scheduled-release cancel ")[1].Split('\'')[0];
        (await As("ada", "scheduled-release", "list")).Out.ShouldContain($"{plan}\t{DateTime.UtcNow.AddHours(3):yyyy-MM-dd}");
        (await As("ada", "scheduled-release", "cancel", plan)).Exit.ShouldBe(0);
        (await As("ada", "scheduled-release", "list")).Out.ShouldContain("\tada\tcancelled\tlayout/berth\tTonight");

        var some = await As("ada", "publish", "berth", "--to", "harbour-office", "--note", "Office first");
        some.Out.ShouldContain("is published to harbour-office: layout/berth changed.");
        var number = some.Out.Split("Release ")[1].Split(' ')[0];
        (await As("ada", "release", "list")).Out.ShouldContain($"{number}\tstaged for harbour-office\t");
        (await As("ada", "release", "show", number)).Out.ShouldContain(
            $"Release {number}: staged for harbour-office. Changed: layout/berth changed."
        );
        var between = await As("ada", "publish", "vessel");
        (between.Exit, between.Error.Contains("promote or cancel it before the next", StringComparison.Ordinal)).ShouldBe(
            (1, true),
            between.Error
        );
        (await As("ada", "release", "cancel", number)).Out.ShouldContain($"Release {number}: cancelled.");
        (await As("ada", "release", "list")).Out.ShouldContain("1\tcurrent\t");
    }

    [Fact]
    public async Task What_waits_and_what_two_releases_have_differently_is_told_by_document()
    {
        await using var own = await HostedService.WithDemo();
        var folder = RunningService.NewFolder();
        Task<TerminalOutput> Ada(params string[] call) => Terminal.Run(own.Address.ToString(), folder, call);
        (await Ada("sign-in", "--as", "ada")).Exit.ShouldBe(0);
        await Retitle(own, "inspection", "found", "What came to light");
        var waiting = await Ada("diff", "current", "drafts");
        waiting.Exit.ShouldBe(1, waiting.Error);
        waiting.Out.ShouldContain("layout/inspection changed, by ada:\n  Sets the title of ");
        (await Ada("publish", "inspection", "--note", "Plainer")).Out.ShouldMatch(
            ": http://127.0.0.1:[0-9]+/records/inspection \\(Yard and quay › Inspections\\)"
        );
        (await Ada("diff", "release:1", "current")).Out.ShouldContain("layout/inspection changed:\n");
        (await Ada("release", "restore", "1", "--only", "inspection", "--yes")).Exit.ShouldBe(0);
        (await Ada("diff", "release:1", "current")).Out.ShouldBe("Nothing differs.\n");
        (await Ada("diff", "current", "drafts")).Out.ShouldContain("layout/inspection changed, by ada:");
    }

    [Fact]
    public async Task Nobody_approves_her_own_change()
    {
        await Retitle("keeper", "person", "Who it is");
        var own = await As("ada", "approval", "create", "keeper");
        own.Exit.ShouldBe(1, own.Out);
        (await As("greta", "approval", "create", "keeper")).Out.ShouldMatch("layout/keeper at revision [0-9]+: approved.");
        (await As("greta", "approval", "withdraw", "keeper")).Out.ShouldContain("approval withdrawn");
    }

    [Fact]
    public async Task An_archive_goes_out_whole_or_alone_and_comes_in_under_another_name()
    {
        var file = Path.Combine(quay.Folder, "berth.zip");
        (await As("ada", "bundle", "export", file, "berth")).Out.ShouldContain("berth.zip is written");
        var same = await As("ada", "bundle", "import", file, "--dry-run");
        same.ShouldSatisfyAllConditions(said => said.Exit.ShouldBe(0, said.Error), said => said.Out.ShouldContain("othing"));
        var other = await As(
            "ada",
            "bundle",
            "import",
            file,
            "--only",
            "berth",
            "--only",
            "entity/berth",
            "--rename",
            "entity/berth=pier",
            "--rename",
            "berth=pier",
            "--dry-run"
        );
        other.ShouldSatisfyAllConditions(
            said => said.Exit.ShouldBe(0, said.Out + said.Error),
            said => said.Out.ShouldContain("layout pier"),
            said => said.Out.ShouldContain("entity pier")
        );
        (await As("ada", "entity", "show", "pier")).Exit.ShouldBe(1, "a dry run changes nothing");
        var wrong = await As("ada", "bundle", "import", file, "--only", "vessel");
        wrong.Exit.ShouldBe(1, wrong.Out);
        var not = await As("ada", "bundle", "export", file, "vesel");
        (not.Exit, not.Error.Contains("did you mean 'layout/vessel'?", StringComparison.Ordinal)).ShouldBe((1, true), not.Error);
    }

    [Fact]
    public async Task A_backup_is_not_written_over_without_being_told_to()
    {
        var file = Path.Combine(quay.Folder, "quay.backup.zip");
        (await As("greta", "backup", "create", file)).Out.ShouldContain("Everything is in quay.backup.zip");
        var again = await As("greta", "backup", "create", file);
        (again.Exit, again.Error.Contains("--yes", StringComparison.Ordinal)).ShouldBe((2, true), again.Error);
        (await As("greta", "backup", "create", file, "--yes")).Exit.ShouldBe(0);
        Directory.EnumerateFiles(quay.Folder, "*.arriving").ShouldBeEmpty();
    }

    [Fact]
    public async Task A_bundle_and_a_layout_go_through_standard_input_and_output()
    {
        var text = await File.ReadAllTextAsync(Path.Combine(RunningService.Checkout, "demo", "layouts", "berth.yaml"));
        (await Terminal.RunWith(text, quay.Service.Address.ToString(), quay.Folder, "layout", "show", "-")).Out.ShouldContain("What fits");
        (await As("ada", "bundle", "export", "-", "berth")).Out.ShouldStartWith("PK");
    }
}
