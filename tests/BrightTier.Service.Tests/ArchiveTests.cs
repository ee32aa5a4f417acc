using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Layouts put away: refused while named, gone once that is published, brought back as they were.</summary>
public sealed class ArchiveTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_is_archived_is_gone_when_that_is_published_and_comes_back_as_it_was()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var before = await ada.File("layout", "liftOut", Cancel);
        var form = await Form(ada);

        var archived = await ada.ArchiveLayout("liftOut", Cancel);
        (archived.Changed, archived.Revision).ShouldBe((true, 2));
        (await ada.ArchiveLayout("liftOut", Cancel)).Changed.ShouldBeFalse();
        (await ada.Layouts(Cancel)).ShouldNotContain(each => each.Key == "liftOut");
        (await ada.ArchivedLayouts(Cancel)).Single().Key.ShouldBe("liftOut");
        (await Form(ada)).ShouldBe(form, "nobody notices before it is published");

        await ada.Publish(new PublishRequest([new("layout", "liftOut", archived.Revision)]), Cancel);
        (await Form(ada)).ShouldNotBe(form);
        var taken = await Wire.Refused(() => ada.CreateLayout(new LayoutRequest("liftOut", "liftOut"), Cancel));
        (taken.Status, taken.Code).ShouldBe((409, "key-taken"));

        var back = await ada.BringBackLayout("liftOut", Cancel);
        await ada.Publish(new PublishRequest([new("layout", "liftOut", back.Revision)]), Cancel);
        (await Form(ada)).ShouldBe(form);
        (await ada.File("layout", "liftOut", Cancel)).Text.ShouldBe(before.Text);
    }

    [Theory]
    [InlineData("vessel-foreman", "routing/routing/rules/0", "rule")]
    [InlineData("vessel", "layout/vessel-foreman/", "extends")]
    [InlineData("cover", "layout/vessel/", "piece")]
    [InlineData("vessel-card", "template/register/layouts", "template")]
    public async Task What_is_named_is_not_archived_and_it_is_said_by_what(string key, string place, string use)
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var refused = await Wire.Refused(() => ada.ArchiveLayout(key, Cancel));
        (refused.Status, refused.Code).ShouldBe((409, "layout-used"));
        refused.Problems!.ShouldContain(part => part.Pointer.StartsWith(place, StringComparison.Ordinal) && part.Code == use);
        (await ada.ArchivedLayouts(Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_names_an_archived_one_afterwards_is_told_so_and_not_published()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var made = await ada.CreateLayout(new LayoutRequest("berth", "pontoons"), Cancel);
        var archived = await ada.ArchiveLayout(made.Key, Cancel);
        await ada.Publish(new PublishRequest([new("layout", made.Key, archived.Revision)]), Cancel);
        var routing = await ada.File("routing", "routing", Cancel);
        var named = await ada.PutFile(
            "routing",
            "routing",
            routing.Text.TrimEnd() + "\n  - entity: berth\n    layout: pontoons\n",
            routing.Tag,
            Cancel
        );
        var refused = await Wire.Refused(() => ada.Publish(new PublishRequest([new("routing", "routing", named.Revision)]), Cancel));
        refused.Status.ShouldBe(422);
        refused.Detail!.ShouldContain("it is archived: bring it back, or name another.");
    }

    [Fact]
    public async Task One_archived_before_anybody_had_it_is_no_change_to_publish_and_a_copy_of_it_is_in_use()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        await ada.CreateLayout(new LayoutRequest("berth", "pontoons"), Cancel);
        await ada.ArchiveLayout("pontoons", Cancel);
        (await ada.DiffReleases("current", "drafts", Cancel)).Documents.ShouldBeEmpty();

        await ada.CreateLayout(new LayoutRequest("berth", "jetties", "pontoons"), Cancel);
        (await ada.Layouts(Cancel)).ShouldContain(each => each.Key == "jetties");
        using var bram = await service.As("bram");
        (await Wire.Refused(() => bram.ArchiveLayout("jetties", Cancel))).Status.ShouldBe(403);
        (await Wire.Refused(() => ada.BringBackLayout("nowhere", Cancel))).Status.ShouldBe(404);
    }

    /// <summary>The sections somebody sees of a lift-out.</summary>
    private static async Task<string> Form(BrightTierClient caller) =>
        (await caller.Form("liftOut", "view", Cancel)).GetProperty("pages").GetRawText();
}
