using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Storage;
using BrightTier.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace BrightTier.Service.Tests;

/// <summary>R13: what an earlier service wrote is upgraded by this one, and nothing of it is lost.</summary>
public sealed class UpgradeTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>
    /// A backup that a service wrote before tables had the glossary's names, with a staged, a scheduled and a cancelled release in it.
    /// </summary>
    private static readonly string Earlier = Path.Combine(RunningService.Checkout, "tests", "earlier", "before-names.backup.zip");

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_backup_of_before_the_names_is_restored_in_full(bool onPostgres)
    {
        string[] more = ["--Restore", Earlier, "--PickPeople", "true", "--SignInsPerMinute", "0"];
        await using var service = await HostedService.Empty(
            onPostgres ? ["--Database", await (await postgres.Server).NewDatabase(), .. more] : more
        );
        using var ada = await service.As("ada");
        using var greta = await service.As("greta");
        (await ada.Releases(Cancel)).Select(release => release.State).ShouldBe(["staged", "current", "past"]);
        (await ada.ScheduledReleases(Cancel))
            .Select(each => (each.Note, each.State))
            .ShouldBe([("second", "scheduled"), ("first", "cancelled")]);
        (await ada.Release(3, Cancel)).Rollout!.Roles.ShouldBe(["quay-hand"]);
        (await ada.ScheduledReleases(Cancel)).ShouldAllBe(each => each.Documents.Count == 1);
        var proof = await greta.AuditProof(Cancel);
        proof.Intact.ShouldBeTrue();
        proof.Entries.ShouldBeGreaterThan(50, "all that was in it, and that it was restored");
        (await greta.Audit(null, "bundle.imported", null, null, null, null, 10, null, Cancel)).Entries.Count.ShouldBe(
            0,
            "it held nothing new"
        );
        (await ada.Comments("layout", "berth", Cancel)).Single().Text.ShouldBe("Wide enough?");
        // It works on: what was staged is promoted, what was scheduled is cancelled.
        (await ada.Promote(3, Cancel)).State.ShouldBe("current");
        (await ada.CancelScheduledRelease(2, Cancel)).State.ShouldBe("cancelled");
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_database_of_before_the_names_is_upgraded_at_the_start(bool onPostgres)
    {
        var database = onPostgres ? await (await postgres.Server).NewDatabase() : null;
        await using var service = database is null ? await HostedService.WithDemo() : await HostedService.On(database);
        IReadOnlyList<string> before;
        using (var ada = await service.As("ada"))
        {
            await Use(ada);
            before = await Told();
        }

        await service.Kill();
        await using (var context = Context())
        {
            var migrator = context.GetService<IMigrator>();
            await migrator.MigrateAsync("FromFiles", Cancel);
            // What terms say beside roles and a time for everyone, releases of then could not.
            await context.Database.ExecuteSqlAsync($"UPDATE rollout SET \"EveryoneAt\" = {Later.ToUnixTimeMilliseconds()}", Cancel);
            await migrator.MigrateAsync("Arrivals", Cancel);
            (await context.Database.SqlQueryRaw<long>("SELECT count(*) AS \"Value\" FROM act").SingleAsync(Cancel)).ShouldBeGreaterThan(40);
            (
                await context.Database.SqlQueryRaw<string>("SELECT \"State\" AS \"Value\" FROM plan ORDER BY \"Id\"").ToListAsync(Cancel)
            ).ShouldBe(["waiting", "called-off"]);
            (
                await context
                    .Database.SqlQueryRaw<string>("SELECT \"Name\" AS \"Value\" FROM pointer ORDER BY \"Name\"")
                    .ToListAsync(Cancel)
            ).ShouldBe(["ahead", "current"]);
        }

        await service.Restart();
        (await Told()).ShouldBe(before);

        StorageContext Context() =>
            database is null
                ? new StorageContext(
                    new DbContextOptionsBuilder<StorageContext>().UseBrightTierSqlite(Path.Combine(service.Data, "brighttier.db")).Options
                )
                : new PostgresStorageContext(
                    (DbContextOptions<PostgresStorageContext>)
                        new DbContextOptionsBuilder<PostgresStorageContext>().UseBrightTierPostgres(database).Options
                );

        async Task<IReadOnlyList<string>> Told()
        {
            using var http = await service.Http("greta");
            var told = new List<string>();
            foreach (
                var path in new[]
                {
                    "releases",
                    "scheduled-releases",
                    "documents",
                    "layouts/berth/changes",
                    "audit/entries?subject=layout/berth",
                    "audit/entries?subject=release",
                    "audit/proof",
                }
            )
            {
                told.Add(await http.GetStringAsync($"api/{path}", Cancel));
            }

            // Signing in to ask is told in the log too: the last two change with it.
            return told[..^1];
        }
    }

    private static readonly DateTimeOffset Later = new(2090, 1, 2, 3, 4, 5, 678, TimeSpan.Zero);

    /// <summary>Leaves a name of a change, a release that only some have, one that is set for a time and one that no longer is.</summary>
    private static async Task Use(BrightTierClient ada)
    {
        var berth = await ada.Layout("berth", Cancel);
        await ada.Edit(
            "berth",
            new EditRequest(
                berth.Revision,
                Wire.Json(
                    $$"""
                    [{"op":"set","node":"{{berth.Tree.GetProperty("id").GetString()}}","property":"title",
                    "value":"Berths of the quay"}]
                    """
                ),
                Name: "said-once"
            ),
            Cancel
        );
        var wider = new DraftReference("layout", "berth", berth.Revision + 1);
        await ada.Publish(new PublishRequest([wider], "For the quay first", new(["quay-hand"], Steps: [new(Later, 100)])), Cancel);
        await ada.ScheduleRelease(new ScheduleRequest([wider], DateTimeOffset.UtcNow.AddDays(30), "Next month"), Cancel);
        await ada.CancelScheduledRelease(
            (await ada.ScheduleRelease(new ScheduleRequest([wider], DateTimeOffset.UtcNow.AddDays(31), "Never"), Cancel)).Id,
            Cancel
        );
    }
}
