using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Entities put away with what belongs to them, their records kept, and brought back; on both databases.</summary>
public sealed class EntityArchiveTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task It_is_met_by_nobody_and_comes_back_as_it_was(bool onPostgres)
    {
        await using var service = onPostgres
            ? await HostedService.On(await (await postgres.Server).NewDemoDatabase())
            : await HostedService.WithDemo();
        using var greta = await service.As("greta");
        var before = (await greta.Records("inspection", null, null, null, null, 50, Cancel)).Total;
        before.ShouldBeGreaterThan(0);
        var layouts = (await greta.Layouts(Cancel)).Where(layout => layout.Entity == "inspection").Select(layout => layout.Key).ToArray();

        var drafts = await greta.ArchiveEntity("inspection", Cancel);
        drafts.Select(each => each.Key).ShouldBe(["inspection", .. layouts, "navigation"], ignoreOrder: true);
        (await greta.Records("inspection", null, null, null, null, 5, Cancel)).Total.ShouldBe(before, "until it is published");
        (await greta.ArchiveEntity("inspection", Cancel)).ShouldBeEmpty();
        await greta.Publish(new PublishRequest(drafts), Cancel);

        (await greta.Entities(Cancel)).ShouldNotContain(entity => entity.Key == "inspection");
        (await greta.Navigation(Cancel)).ShouldNotContain(entry => entry.Entity == "inspection");
        (await greta.Layouts(Cancel)).ShouldNotContain(layout => layout.Entity == "inspection");
        (await Wire.Refused(() => greta.Records("inspection", null, null, null, null, 5, Cancel))).Status.ShouldBe(404);
        (await greta.Documents(Cancel)).Single(each => each is { Kind: "entity", Key: "inspection" }).Archived.ShouldBeTrue();

        // A machine that is lost meanwhile: what was put away is in the backup.
        using (var http = await service.Http("greta"))
        {
            var backup = await http.GetByteArrayAsync("api/backup", Cancel);
            backup.Length.ShouldBeGreaterThan(1_000);
            using var archive = new System.IO.Compression.ZipArchive(new MemoryStream(backup));
            archive.Entries.ShouldContain(entry => entry.FullName.Contains("inspection"));
        }

        var back = await greta.BringBackEntity("inspection", Cancel);
        back.Select(each => each.Key).ShouldBe(["inspection", .. layouts], ignoreOrder: true);
        await greta.Publish(new PublishRequest(back), Cancel);
        (await greta.Records("inspection", null, null, null, null, 50, Cancel)).Total.ShouldBe(before);
        (await greta.Layouts(Cancel)).Count(layout => layout.Entity == "inspection").ShouldBe(layouts.Length);
    }

    [Fact]
    public async Task It_is_refused_while_something_else_names_it_and_says_what()
    {
        await using var service = await HostedService.WithDemo();
        using var greta = await service.As("greta");
        var used = await Wire.Refused(() => greta.ArchiveEntity("berth", Cancel));
        (used.Status, used.Code).ShouldBe((409, "entity-used"));
        used.Problems!.Select(each => each.Pointer).ShouldContain(pointer => pointer.StartsWith("entity/vessel"));
        (await greta.Documents(Cancel)).ShouldNotContain(each => each.Archived);
        (await Wire.Refused(() => greta.ArchiveEntity("bert", Cancel))).Detail!.ShouldContain("berth");
        (await Wire.Refused(() => greta.BringBackEntity("bert", Cancel))).Status.ShouldBe(404);
        (await greta.BringBackEntity("berth", Cancel)).ShouldBeEmpty("it is there");
    }

    [Fact]
    public async Task Its_key_is_nobody_elses_and_its_fields_keep_their_types_meanwhile()
    {
        await using var service = await HostedService.WithDemo();
        using var greta = await service.As("greta");
        var made = await greta.CreateEntity(new TableRequest("moorings.csv", "Number\n12\n13\n"), Cancel);
        await greta.Publish(new PublishRequest(await greta.ArchiveEntity(made.Entity, Cancel)), Cancel);
        var again = await greta.CreateEntity(new TableRequest("moorings.csv", "Number\n12\n13\n"), Cancel);
        again.Entity.ShouldNotBe(made.Entity);
        (await greta.Records(again.Entity, null, null, null, null, 5, Cancel)).Total.ShouldBe(2);

        var back = await greta.BringBackEntity(made.Entity, Cancel);
        var file = await greta.File("entity", made.Entity, Cancel);
        var typed = await greta.PutFile("entity", made.Entity, file.Text.Replace("type: integer", "type: text"), file.Tag, Cancel);
        var changed = back.Select(each => each.Kind == "entity" ? each with { Revision = typed.Revision } : each).ToArray();
        (await Wire.Refused(() => greta.Publish(new PublishRequest(changed), Cancel))).Problems!.ShouldContain(each =>
            each.Code == "type-changed"
        );
    }

    [Fact]
    public async Task A_retired_reference_stands_against_nothing_and_keeps_its_values()
    {
        await using var service = await HostedService.WithDemo();
        using var greta = await service.As("greta");
        var owners = await greta.CreateEntity(new TableRequest("owners.csv", "Name\nIda Stern\nMarit Reed\n"), Cancel);
        var moorings = await greta.CreateEntity(new TableRequest("moorings.csv", "Number,Owner\nM-1,Ida Stern\nM-2,Marit Reed\n"), Cancel);
        (await greta.Relations(Cancel)).Single(each => each.Key == moorings.Entity).References.Single().Target.ShouldBe(owners.Entity);
        (await Wire.Refused(() => greta.ArchiveEntity(owners.Entity, Cancel))).Detail!.ShouldContain("points at its records");

        var file = await greta.File("entity", moorings.Entity, Cancel);
        var retired = file
            .Text.Replace($"    target: {owners.Entity}\n", $"    target: {owners.Entity}\n    retired: true\n")
            .Replace("    required: true\n    target", "    target");
        var saved = await greta.PutFile("entity", moorings.Entity, retired, file.Tag, Cancel);
        var layouts = (await greta.Layouts(Cancel)).Where(each => each.Entity == moorings.Entity);
        foreach (var layout in layouts)
        {
            var text = await greta.File("layout", layout.Key, Cancel);
            var without = string.Join('\n', text.Text.Split('\n').Where(line => !line.Contains("owner", StringComparison.Ordinal)));
            await greta.PutFile("layout", layout.Key, without, text.Tag, Cancel);
        }

        await greta.Publish(new PublishRequest([new("entity", moorings.Entity, saved.Revision)]), Cancel);
        await greta.Publish(new PublishRequest(await greta.ArchiveEntity(owners.Entity, Cancel)), Cancel);
        (await greta.Records(moorings.Entity, null, null, null, null, 5, Cancel)).Total.ShouldBe(2);
        (await greta.Record(moorings.Entity, 1, Cancel)).Id.ShouldBe(1);
        await greta.ChangeRecord(moorings.Entity, 1, 1, new RecordSave(Wire.Json("""{"number":"M-9"}""")), Cancel);
        (await greta.Form(moorings.Entity, "view", Cancel)).GetRawText().ShouldContain("number");
    }
}
