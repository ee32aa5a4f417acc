using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

/// <summary>The menu: who sees what of it, and which way through it leads to an entity.</summary>
public sealed class NavigationTests
{
    private static readonly Navigation Menu = new([
        Entry("water", null, [], Entry("vessels", "vessel", []), Entry("moorings", null, ["harbour-office"], Entry("berths", "berth", []))),
        Entry("yard", null, ["yard-foreman"], Entry("lifts", "liftOut", []), Entry("again", "vessel", [])),
        Entry("empty", null, []),
    ]);

    [Theory]
    [InlineData("vessel", "water vessels")]
    [InlineData("berth", "water moorings berths")]
    [InlineData("liftOut", "yard lifts")]
    [InlineData("keeper", null)]
    [InlineData("water", null)]
    public void The_first_way_to_an_entity_is_told_from_the_outermost_heading_on(string entity, string? way) =>
        (Menu.WayTo(entity) is { } found ? string.Join(' ', found.Select(entry => entry.Key)) : null).ShouldBe(way);

    [Theory]
    [InlineData("quay-hand", "water vessels")]
    [InlineData("harbour-office", "water vessels moorings berths")]
    [InlineData("yard-foreman", "water vessels yard lifts again")]
    public void Somebody_sees_what_is_for_her_roles_and_no_heading_with_nothing_below_it(string role, string seen) =>
        string.Join(' ', Menu.For([role]).Entries.SelectMany(entry => entry.Walk()).Select(entry => entry.Key)).ShouldBe(seen);

    [Fact]
    public void An_empty_menu_leads_nowhere() => Navigation.None.WayTo("vessel").ShouldBeNull();

    private static MenuEntry Entry(string key, string? entity, string[] roles, params MenuEntry[] below) =>
        new(key, Texts.Of(key), null, entity, null, [.. roles], [.. below]);
}
