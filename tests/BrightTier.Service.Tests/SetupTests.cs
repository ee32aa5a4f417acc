using System.Text.RegularExpressions;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>A new service is set up once, by whoever has the code it printed; a lost code is made anew at the machine.</summary>
public sealed class SetupTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string CodeOf(RunningService service) => Regex.Match(service.Output, "bt_[A-Za-z0-9_-]+").Value;

    private static SetupRequest Asked(string code) =>
        new(code, "ada", "Ada Wader", "tide tables and rope", "Saltmarsh Quay", ["en", "nl"], "EUR", "Europe/Amsterdam");

    [Fact]
    public async Task Who_has_the_code_sets_it_up_and_the_code_is_good_for_that_once()
    {
        await using var service = await HostedService.Empty();
        using var nobody = new BrightTierClient(service.Address, null);
        (await nobody.Session(Cancel)).Unclaimed.ShouldBeTrue();

        var session = await nobody.SetUp(Asked(CodeOf(service)), Cancel);
        (session.Person!.Id, session.Application.Title, session.Release, session.Unclaimed).ShouldBe(("ada", "Saltmarsh Quay", 1, false));
        session.Permissions.ShouldContain("administer");
        session.Application.Roles.Select(role => role.Key).ShouldBe(["administrator", "configurator", "user"]);
        (await nobody.Everybody(Cancel)).Select(person => person.Id).ShouldBe(["ada"], "who was there before anybody was is not");

        using var later = new BrightTierClient(service.Address, null);
        (await later.Session(Cancel)).Unclaimed.ShouldBeFalse();
        (await Wire.Refused(() => later.SetUp(Asked(CodeOf(service)), Cancel))).Code.ShouldBe("set-up");
        using var old = new BrightTierClient(service.Address, CodeOf(service));
        (await Wire.Refused(() => old.Entities(Cancel))).Status.ShouldBe(401);
        await later.SignIn(new SignIn("ada", Password: "tide tables and rope"), new TokenRequest("test"), Cancel);
        (await later.Session(Cancel)).Person!.Name.ShouldBe("Ada Wader");
    }

    [Fact]
    public async Task What_is_not_right_is_said_with_its_place_and_nothing_is_set_up()
    {
        await using var service = await HostedService.Empty();
        using var nobody = new BrightTierClient(service.Address, null);
        var code = CodeOf(service);
        (await Wire.Refused(() => nobody.SetUp(Asked("bt_guess"), Cancel))).Code.ShouldBe("code-unknown");
        foreach (
            var (asked, pointer) in new[]
            {
                (Asked(code) with { Name = " " }, "/name"),
                (Asked(code) with { Title = new string('x', 101) }, "/title"),
                (Asked(code) with { Person = "Ada W" }, "/person"),
                (Asked(code) with { Password = "short" }, "/password"),
                (Asked(code) with { Languages = [] }, "/languages"),
                (Asked(code) with { Languages = ["English"] }, "/languages"),
                (Asked(code) with { Currency = "euro" }, "/currency"),
                (Asked(code) with { TimeZone = "Mars/Olympus" }, "/timeZone"),
            }
        )
        {
            var refused = await Wire.Refused(() => nobody.SetUp(asked, Cancel));
            (refused.Status, refused.Problems![0].Pointer).ShouldBe((400, pointer));
        }

        (await nobody.Session(Cancel)).Unclaimed.ShouldBeTrue();
        (await nobody.SetUp(Asked(code), Cancel)).Person!.Id.ShouldBe("ada");
    }

    [Fact]
    public async Task A_service_with_content_asks_nobody_to_set_it_up()
    {
        await using var service = await HostedService.WithDemo();
        using var nobody = new BrightTierClient(service.Address, null);
        (await nobody.Session(Cancel)).Unclaimed.ShouldBeFalse();
    }
}
