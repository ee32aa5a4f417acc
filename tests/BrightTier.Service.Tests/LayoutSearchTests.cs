using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Layouts that are sought among all: what is found is what going through all of them finds.</summary>
public sealed class LayoutSearchTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<FoundLayouts> Find(HttpClient http, string query) =>
        System.Text.Json.JsonSerializer.Deserialize(
            await http.GetStringAsync($"api/search/layouts?{query}", Cancel),
            WireJson.Default.FoundLayouts
        )!;

    [Fact]
    public async Task What_is_sought_is_found_by_words_entity_kind_and_state()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        using var http = await service.Http("ada");
        var draft = await ada.Layout("vessel-short", Cancel);
        await ada.Edit(
            draft.Key,
            new EditRequest(
                draft.Revision,
                Wire.Json("""[{"op":"set","node":"layout","property":"title","value":{"en":"Quick Vessel","nl":"Snel"}}]""")
            ),
            Cancel
        );
        var all = (await ada.Layouts(Cancel)).ToList();

        async Task ShouldFind(string query, Func<LayoutSummary, bool> isSought)
        {
            var found = await Find(http, query);
            found.Layouts.Select(each => each.Key).Order().ShouldBe(all.Where(isSought).Select(each => each.Key).Order(), query);
            (found.Found, found.All).ShouldBe((found.Layouts.Count, all.Count), query);
        }

        await ShouldFind("", _ => true);
        await ShouldFind("entity=vessel", each => each.Entity == "vessel");
        await ShouldFind("kind=list", each => each.Kind == "list");
        await ShouldFind("entity=vessel&kind=list", each => each is { Entity: "vessel", Kind: "list" });
        await ShouldFind("state=unpublished", each => each.Published != each.Revision);
        await ShouldFind("state=findings", each => each.Errors + each.Warnings > 0);
        await ShouldFind("state=comments", each => each.Comments > 0);
        await ShouldFind("state=damaged", each => each.Damaged is not null);
        await ShouldFind("text=QUICK%20%20vess", each => each.Key == "vessel-short");
        // The name of the entity, the kind and the key are sought too.
        await ShouldFind("text=mooring", each => each.Entity == "agreement");
        await ShouldFind("text=vessel-f", each => each.Key == "vessel-foreman");
        await ShouldFind("text=%25_%22", _ => false);

        var changed = await Find(http, "limit=3");
        (changed.Layouts[0].Key, changed.Layouts.Count, changed.Found).ShouldBe(("vessel-short", 3, all.Count));
        // In the order people count in.
        foreach (var number in new[] { 10, 9, 100 })
        {
            await ada.CreateLayout(new LayoutRequest("berth", $"trial{number}", Title: $"trial {number}"), Cancel);
        }

        (await Find(http, "sort=title&text=trial")).Layouts.Select(each => each.Title).ShouldBe(["trial 9", "trial 10", "trial 100"]);
    }

    [Fact]
    public async Task One_that_was_archived_is_found_among_those_alone()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        using var http = await service.Http("ada");
        (await http.PostAsync("api/layouts/vessel-print/archive", null, Cancel)).IsSuccessStatusCode.ShouldBeTrue();
        (await Find(http, "")).Layouts.ShouldNotContain(each => each.Key == "vessel-print");
        (await Find(http, "state=archived")).Layouts.Single().Key.ShouldBe("vessel-print");
    }

    [Theory]
    [InlineData("state=lost", "state")]
    [InlineData("sort=random", "sort")]
    [InlineData("limit=0", "limit")]
    [InlineData("limit=501", "limit")]
    public async Task What_cannot_be_sought_is_refused_with_what_can(string query, string parameter)
    {
        await using var service = await HostedService.WithDemo();
        using var http = await service.Http("ada");
        using var answer = await http.GetAsync($"api/search/layouts?{query}", Cancel);
        ((int)answer.StatusCode).ShouldBe(400);
        (await answer.Content.ReadAsStringAsync(Cancel)).ShouldContain($"\"pointer\":\"{parameter}\"");
    }
}
