using System.Globalization;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

// What is done with people and tokens.
public partial class CommandTests
{
    [Fact]
    public async Task A_person_is_made_changes_the_password_she_was_given_and_is_somebody_elses_no_more()
    {
        var server = quay.Service.Address.ToString();
        var made = await Terminal.RunWith(
            "eleven herons over the quay",
            server,
            quay.Folder,
            "person",
            "create",
            "noor",
            "--name",
            "Noor Dekker",
            "--role",
            "quay-hand",
            "--role",
            "bookkeeper",
            "--language",
            "nl",
            "--password",
            "--profile",
            "greta"
        );
        made.Out.ShouldBe("Noor Dekker signs in as noor. Roles: quay-hand, bookkeeper.\n");

        var early = await Terminal.RunWith(
            "eleven herons over the quay",
            server,
            RunningService.NewFolder(),
            "sign-in",
            "--as",
            "noor",
            "--password"
        );
        (early.Exit, early.Error.Contains("[password-to-change]", StringComparison.Ordinal)).ShouldBe((1, true), early.Error);
        var wrong = await Terminal.RunWith("some other words", server, RunningService.NewFolder(), "sign-in", "--as", "noor", "--password");
        (wrong.Exit, wrong.Error.Contains("[not-signed-in]", StringComparison.Ordinal)).ShouldBe((1, true), wrong.Error);
        var short_ = await Terminal.RunWith(
            "short",
            server,
            quay.Folder,
            "person",
            "create",
            "noor",
            "--name",
            "Noor Dekker",
            "--password",
            "--profile",
            "greta"
        );
        (short_.Exit, short_.Error.Contains("from 12 to 200 characters", StringComparison.Ordinal)).ShouldBe((1, true), short_.Error);
        (await As("greta", "audit", "list", "--subject", "person/noor")).Out.ShouldContain("person.made");
    }

    [Fact]
    public async Task What_only_administrators_may_is_refused_to_others_with_a_word()
    {
        foreach (var call in new[] { "audit list", "audit verify", "person create joris --name Joris", "backup create never.zip" })
        {
            var said = await As("ada", call.Split(' '));
            (said.Exit, said.Error.Contains("administer", StringComparison.Ordinal)).ShouldBe((1, true), call + said.Error);
        }

        File.Exists("never.zip").ShouldBeFalse();
    }

    [Fact]
    public async Task A_token_lasts_until_it_is_ended_and_is_shown_once()
    {
        var made = await As("ada", "token", "create", "nightly", "--days", "2", "--scope", "configure");
        var secret = made.Out.Trim();
        secret.ShouldStartWith("bt_");
        var row = (await As("ada", "token", "list"))
            .Out.Split('\n')
            .Single(line => line.Contains("nightly", StringComparison.Ordinal))
            .Split('\t');
        row[1..].ShouldBe(["nightly", DateTime.UtcNow.AddDays(2).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), "configure"]);
        string.Concat(row).ShouldNotContain(secret);

        Task<TerminalOutput> With(params string[] call) =>
            Terminal.Run(quay.Service.Address.ToString(), RunningService.NewFolder(), [.. call, "--token", secret]);
        (await With("status")).Out.ShouldContain("permissions: configure.\n");
        (await With("layout", "list")).Exit.ShouldBe(0);
        var narrow = await With("record", "list", "vessel");
        (narrow.Exit, narrow.Error.Contains("good for configure alone", StringComparison.Ordinal)).ShouldBe((1, true), narrow.Error);

        (await As("ada", "token", "revoke", row[0])).Exit.ShouldBe(0);
        (await As("ada", "token", "list")).Out.ShouldNotContain("nightly");
        (await With("status")).Exit.ShouldBe(1);
    }
}
