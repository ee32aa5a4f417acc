using System.Text.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>What is published is what was looked at: said before, held to, and nothing where nothing differs.</summary>
public sealed class ReleasePlanTests(OwnService own) : IClassFixture<OwnService>, IAsyncLifetime
{
    private readonly RunningService service = own.Running;
    private BrightTierClient ada = null!;
    private BrightTierClient greta = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync() => (ada, greta) = (await service.As("ada"), await service.As("greta"));

    public ValueTask DisposeAsync()
    {
        ada.Dispose();
        greta.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task A_plan_says_what_goes_out_whose_work_it_is_and_what_would_not_go_along()
    {
        await Titled(ada, "inspection", "Seen");
        await Titled(greta, "inspection", "Looked at");
        var berth = (await greta.File("entity", "inspection", Cancel)) is var (text, tag)
            ? await greta.PutFile(
                "entity",
                "inspection",
                text.TrimEnd() + "\n  - key: lamp\n    label: Lamp\n    type: boolean\n    added: true\n",
                tag,
                Cancel
            )
            : null;

        var plan = await ada.PlanRelease([await Reference("inspection")], Cancel);

        var document = plan.Documents.Single();
        (document.Change, document.ChangedBy).ShouldBe(("changed", document.ChangedBy));
        document.ChangedBy.ShouldBe(["ada", "greta"]);
        document.Summary.Single().ShouldContain("Looked at");
        plan.Problems.ShouldBeEmpty();
        var needed = plan.Needed.Single();
        (needed.Kind, needed.Key, needed.Revision, needed.ForKey).ShouldBe(("entity", "inspection", berth!.Revision, "inspection"));
        needed.ChangedBy.ShouldBe(["greta"]);
        (await ada.Releases(Cancel))[0].Number.ShouldBe(plan.Base, "nothing was published");
    }

    [Fact]
    public async Task What_moved_on_after_it_was_planned_is_not_published()
    {
        await Titled(ada, "keeper", "Owner");
        var plan = await ada.PlanRelease([await Reference("keeper")], Cancel);
        var reviewed = plan.Documents.Single() is var one ? new DraftReference(one.Kind, one.Key, one.Revision) : null!;
        await Titled(greta, "keeper", "Holder");
        var moved = await Wire.Refused(() => ada.Publish(new PublishRequest([reviewed], Base: plan.Base), Cancel));
        moved.Code.ShouldBe("draft-moved-on");

        // Somebody publishes it, then hers is planned against what nobody has any more.
        var mine = await Reference("keeper");
        await Titled(greta, "keeper", "Person in charge");
        await greta.Publish(new PublishRequest([await Reference("keeper")]), Cancel);
        await greta.RestoreDocument("layout", "keeper", mine.Revision, Cancel);
        var late = await Wire.Refused(async () =>
            await ada.Publish(new PublishRequest([await Reference("keeper")], Base: plan.Base), Cancel)
        );
        (late.Status, late.Code).ShouldBe((409, "published-since"));
        // Another document's release stands in no way.
        await Titled(ada, "agreement", "Contract");
        (await ada.Publish(new PublishRequest([await Reference("agreement")], Base: plan.Base), Cancel)).Made.ShouldBeTrue();
    }

    [Fact]
    public async Task What_differs_in_nothing_makes_no_release()
    {
        var before = (await ada.File("layout", "liftOut", Cancel)).Text;
        await Titled(ada, "liftOut", "Out of the water");
        await ada.PutFile("layout", "liftOut", before, (await ada.File("layout", "liftOut", Cancel)).Tag, Cancel);
        var current = (await ada.Releases(Cancel))[0].Number;

        var receipt = await ada.Publish(new PublishRequest([await Reference("liftOut")]), Cancel);

        (receipt.Made, receipt.Release.Number).ShouldBe((false, current));
        (await ada.Releases(Cancel))[0].Number.ShouldBe(current);
        (await ada.Layouts(Cancel)).Single(layout => layout.Key == "liftOut").Published.ShouldBe((await Reference("liftOut")).Revision);
        (await greta.Restore(current, new RestoreRequest(), Cancel)).Made.ShouldBeFalse();
        (await greta.Restore(current, new RestoreRequest("", [new("layout", "liftOut")]), Cancel)).Made.ShouldBeFalse();

        // Beside another one it is left out of the release.
        await Titled(ada, "vessel-list", "Boats");
        var both = await ada.Publish(new PublishRequest([await Reference("liftOut"), await Reference("vessel-list")]), Cancel);
        both.Release.Documents.Select(document => document.Key).ShouldBe(["vessel-list"]);
    }

    private async Task<DraftReference> Reference(string key) =>
        new("layout", key, (await ada.Layouts(Cancel)).Single(layout => layout.Key == key).Revision);

    private static async Task Titled(BrightTierClient by, string key, string title)
    {
        var draft = await by.Layout(key, Cancel);
        var edits = Wire.Json($$"""[{"op":"set","node":"layout","property":"title","value":{{JsonSerializer.Serialize(title)}}}]""");
        await by.Edit(key, new EditRequest(draft.Revision, edits), Cancel);
    }
}
