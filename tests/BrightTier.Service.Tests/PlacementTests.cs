using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Placing through the API: what goes where, who gives way, and what is said where it cannot be.</summary>
public sealed class PlacementTests(DemoService shared)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_field_is_placed_where_it_has_room_and_the_change_can_be_undone()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        await Remove(ada, "homePort");
        var removed = (await ada.File("layout", "vessel", Cancel)).Text;

        // Three that share have a third each; four a quarter, which is what a choice needs.
        var placed = await ada.Place("vessel", new PlaceRequest(Field: "homePort", Target: "hullType", Edge: "left"), Cancel);
        Flat(await ada.File("layout", "vessel", Cancel)).ShouldContain("- homePort - hullType - propulsion");
        placed.RowFull.ShouldBeFalse();
        (await ada.Changes("vessel", 0, Cancel))[^1].Label.ShouldBe("Place homePort");
        var back = await ada.Edit("vessel", new EditRequest(placed.Revision, placed.Inverse), Cancel);
        back.Revision.ShouldBe(placed.Revision + 1);
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldBe(removed);

        // A long text has no room beside a figure: it gets a row of its own, and that is said.
        var full = await ada.Place("vessel", new PlaceRequest(Node: "notes", Target: "beam", Edge: "right"), Cancel);
        full.RowFull.ShouldBeTrue();
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldContain("[length, beam, draught]");

        // Without a place it comes at the end of the page.
        await ada.Place("vessel", new PlaceRequest(Part: "heading", Title: "Papers", Page: "care"), Cancel);
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldContain("heading: Papers");
    }

    [Fact]
    public async Task At_a_width_the_base_stays_as_it_is()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        await ada.Place("vessel", new PlaceRequest(Node: "homePort", Target: "name", Edge: "below", Width: "narrow"), Cancel);
        var text = (await ada.File("layout", "vessel", Cancel)).Text;
        text.ShouldContain("[hullType, propulsion, homePort]");
        text.ShouldContain("move: homePort");
        (await ada.Layout("vessel", Cancel)).Findings.ShouldNotContain(finding => finding.Severity == "error");
    }

    [Theory]
    [InlineData("""{}""", "/", "exactly one of")]
    [InlineData("""{"field":"beam","node":"name"}""", "/", "exactly one of")]
    [InlineData("""{"field":"beam"}""", "/field", "is on the layout already")]
    [InlineData("""{"node":"bem"}""", "/node", "did you mean 'beam'?")]
    [InlineData("""{"part":"sections"}""", "/part", "did you mean 'section'?")]
    [InlineData("""{"part":"section","target":"idenity","edge":"below"}""", "/target", "did you mean 'identity'?")]
    [InlineData("""{"part":"section","target":"identity","edge":"under"}""", "/edge", "must be one of above, below, left, right, inside")]
    [InlineData("""{"part":"section","edge":"below"}""", "/target", "name the target")]
    [InlineData("""{"part":"section","target":"identity","edge":"left"}""", "/target", "There is no place for it left 'identity'")]
    [InlineData("""{"node":"name","target":"name","edge":"below"}""", "/target", "There is no place")]
    [InlineData("""{"node":"name","target":"beam","edge":"below","width":"narow"}""", "/width", "did you mean 'narrow'?")]
    public async Task What_cannot_be_placed_is_told_where_and_why(string body, string pointer, string message)
    {
        using var ada = await shared.Http("ada");
        using var answer = await ada.PostAsync(
            "api/layouts/vessel/place",
            new StringContent(body, System.Text.Encoding.UTF8, "application/json"),
            Cancel
        );
        ((int)answer.StatusCode).ShouldBe(400);
        var text = System.Text.RegularExpressions.Regex.Unescape(await answer.Content.ReadAsStringAsync(Cancel));
        text.ShouldContain(message);
        text.ShouldContain($"\"pointer\":\"{(pointer == "/" ? "" : pointer)}\"");
    }

    /// <summary>A file in one line.</summary>
    private static string Flat(Client.FileText file) => System.Text.RegularExpressions.Regex.Replace(file.Text, @"\s+", " ");

    private static async Task<EditResult> Remove(BrightTier.Client.BrightTierClient client, string node)
    {
        var draft = await client.Layout("vessel", Cancel);
        return await client.Edit(
            "vessel",
            new EditRequest(
                draft.Revision,
                System.Text.Json.JsonSerializer.SerializeToElement(new[] { new { op = "remove", node = node + "Cell" } })
            ),
            Cancel
        );
    }
}
