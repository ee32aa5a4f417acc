using System.Xml.Linq;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Layouts begun, with their family or without, and what they would look like: all or none, and always said why not.</summary>
public sealed class NewLayoutTests(DemoService shared)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_family_is_made_in_one_act_with_its_entry_in_the_menu()
    {
        await using var service = await HostedService.WithDemo();
        using var greta = await service.As("greta");
        await greta.CreateLayout(new LayoutRequest("workLine", "jobs", Title: "Jobs", Also: ["short", "list"], MenuEntry: true), Cancel);

        (await greta.Layouts(Cancel))
            .Where(each => each.Published is null)
            .Select(each => (each.Key, each.Kind, each.Title))
            .Order()
            .ShouldBe([("jobs", "full", "Jobs"), ("jobs-list", "list", "Work lines"), ("jobs-short", "short", "Work line")]);
        (await greta.File("navigation", "navigation", Cancel)).Text.ShouldContain("entity: workLine");

        // An entity the menu leads to already gets no second entry.
        var menu = await greta.File("navigation", "navigation", Cancel);
        await greta.CreateLayout(new LayoutRequest("workLine", "others", MenuEntry: true), Cancel);
        (await greta.File("navigation", "navigation", Cancel)).Text.ShouldBe(menu.Text);
    }

    [Fact]
    public async Task Where_one_of_a_family_cannot_be_made_none_is()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var before = (await ada.Layouts(Cancel)).Count;
        var taken = await Wire.Refused(() => ada.CreateLayout(new LayoutRequest("vessel", "vessel2", Also: ["short", "shrot"]), Cancel));
        taken.Status.ShouldBe(400);
        taken.Problems![0].Pointer.ShouldBe("/also/1");
        await ada.CreateLayout(new LayoutRequest("vessel", "boat-list", Kind: "list"), Cancel);
        (await Wire.Refused(() => ada.CreateLayout(new LayoutRequest("vessel", "boat", Also: ["card", "list"]), Cancel))).Status.ShouldBe(
            409
        );
        (await ada.Layouts(Cancel)).Count.ShouldBe(before + 1);
    }

    [Fact]
    public async Task A_blank_one_has_a_place_for_things_and_nothing_else()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        foreach (var kind in new[] { "full", "short", "card", "list", "print" })
        {
            var made = await ada.CreateLayout(new LayoutRequest("berth", $"blank-{kind}", "blank", kind), Cancel);
            made.Tree.GetRawText().ShouldNotContain("\"field\"");
        }

        await ada.Place("blank-full", new PlaceRequest(Field: "code"), Cancel);
    }

    [Theory]
    [InlineData("api/layouts/vessel/picture", "Identity")]
    [InlineData("api/layouts/cover/picture", "")]
    [InlineData("api/layouts/vessel-list/picture", "Name")]
    [InlineData("api/entities/berth/picture?from=blank", "Berth")]
    [InlineData("api/entities/berth/picture?from=generated&kind=card", "Berth")]
    [InlineData("api/entities/vessel/picture?from=vessel-card", "")]
    [InlineData("api/entities/visitorCall/picture?from=template:register", "")]
    public async Task Pictures_are_images_and_nothing_else(string path, string word)
    {
        using var ada = await shared.Http("ada");
        using var answer = await ada.GetAsync(path, Cancel);
        answer.IsSuccessStatusCode.ShouldBeTrue(await answer.Content.ReadAsStringAsync(Cancel));
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("image/svg+xml");
        answer.Headers.GetValues("Content-Security-Policy").Single().ShouldStartWith("default-src 'none'");
        XDocument.Parse(await answer.Content.ReadAsStringAsync(Cancel)).Root!.Value.ShouldContain(word);
    }

    [Theory]
    [InlineData("api/layouts/vesel/picture", 404, "did you mean 'vessel'?")]
    [InlineData("api/entities/boat/picture", 404, "There is no entity 'boat'")]
    [InlineData("api/entities/berth/picture?kind=carpet", 400, "There is no kind 'carpet'")]
    [InlineData("api/entities/berth/picture?from=vessel", 400, "is for 'vessel', not for 'berth'")]
    [InlineData("api/entities/berth/picture?from=example:nothing", 400, "There is no example 'nothing'")]
    [InlineData("api/entities/berth/picture?from=template:nothing", 404, "There is no template 'nothing'")]
    public async Task What_cannot_be_drawn_is_told(string path, int status, string message)
    {
        using var ada = await shared.Http("ada");
        using var answer = await ada.GetAsync(path, Cancel);
        ((int)answer.StatusCode).ShouldBe(status);
        (await answer.Problem()).Detail.ShouldNotBeNull().ShouldContain(message);
    }
}
