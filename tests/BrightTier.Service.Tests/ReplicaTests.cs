using System.Net;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// Records read from a copy of the database that follows it two seconds behind: whoever wrote reads what she wrote, at whichever process.
/// </summary>
public sealed class ReplicaTests
{
    private static readonly TimeSpan Delay = TimeSpan.FromSeconds(2);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_save_is_read_back_at_once_and_others_see_it_when_the_replica_has_it()
    {
        await using var server = await PostgresServer.Begin();
        var database = await server.NewDatabase();
        await using (await HostedService.On(database)) { }
        await using var copy = await server.Follow(Delay);
        var replica = copy.Of(database);
        await using var one = await HostedService.On(database, "--Replica", replica);
        await using var two = await HostedService.On(database, "--Replica", replica);
        using var ada = await one.As("ada");
        using var bram = await one.As("bram");
        await Task.Delay(Delay + TimeSpan.FromSeconds(1), Cancel);

        var record = await ada.Record("vessel", 1, Cancel);
        var saved = await ada.ChangeRecord(
            "vessel",
            1,
            record.Version,
            new RecordSave(Wire.Json("""{"homePort":"Otter Sound"}""")),
            Cancel
        );

        (await Port(ada)).ShouldBe("Otter Sound", "she reads what she wrote");
        (await Port(bram)).ShouldNotBe("Otter Sound", "it is the replica that answers him, and that is behind");
        // At the other process, by what she sends along; it knows nothing else of what she did.
        using (var http = await two.Http("ada"))
        {
            http.DefaultRequestHeaders.Add(WireHeaders.Position, "99999999999999");
            (await http.GetStringAsync("api/records/vessel/1", Cancel)).ShouldContain("Otter Sound");
            http.DefaultRequestHeaders.Remove(WireHeaders.Position);
            http.DefaultRequestHeaders.Add(WireHeaders.Position, "rubbish");
            using var answer = await http.GetAsync("api/records/vessel/1", Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        await Until(async () => await Port(bram) == "Otter Sound");
        (
            await bram.ChangeRecord("vessel", 1, saved.Version, new RecordSave(Wire.Json("""{"homePort":"Gull Point"}""")), Cancel)
        ).Version.ShouldBe(saved.Version + 1, "what is changed is looked at where it is written");
        (await Port(bram)).ShouldBe("Gull Point");
    }

    [Fact]
    public async Task A_new_field_is_there_at_once_and_a_replica_that_is_away_costs_nobody_an_answer()
    {
        await using var server = await PostgresServer.Begin();
        var database = await server.NewDatabase();
        await using (await HostedService.On(database)) { }
        await using var copy = await server.Follow(Delay);
        await using var service = await HostedService.On(database, "--Replica", copy.Of(database));
        using var ada = await service.As("ada");
        using var bram = await service.As("bram");
        await Task.Delay(Delay + TimeSpan.FromSeconds(1), Cancel);

        var file = await ada.File("entity", "vessel", Cancel);
        var entity = await ada.PutFile(
            "entity",
            "vessel",
            file.Text.TrimEnd() + "\n  - key: lockerNumber\n    label: Locker\n    type: integer\n    added: true\n",
            file.Tag,
            Cancel
        );
        await ada.Publish(new PublishRequest([new("entity", "vessel", entity.Revision)]), Cancel);
        var record = await bram.Record("vessel", 1, Cancel);
        await bram.ChangeRecord("vessel", 1, record.Version, new RecordSave(Wire.Json("""{"lockerNumber":12}""")), Cancel);
        (await bram.Record("vessel", 1, Cancel)).Values.GetProperty("lockerNumber").GetInt32().ShouldBe(12);

        await copy.Stop();
        for (var i = 0; i < 20; i++)
        {
            await Port(bram);
            await Task.Delay(50, Cancel);
        }

        await copy.Start();
        await Until(() => Task.FromResult(service.Output.Contains("The read replica answers again", StringComparison.Ordinal)));
        await Port(bram);
    }

    [Fact]
    public async Task A_replica_of_nothing_is_refused_at_the_start()
    {
        var refused = await Should.ThrowAsync<InvalidOperationException>(() => HostedService.Empty("--Replica", "Host=127.0.0.1"));
        refused.Message.ShouldContain("there is no Database");
    }

    private static async Task<string?> Port(BrightTierClient client) =>
        (await client.Record("vessel", 1, Cancel)).Values.GetProperty("homePort").GetString();

    private static async Task Until(Func<Task<bool>> holds)
    {
        for (var attempt = 0; attempt < 300; attempt++)
        {
            if (await holds())
            {
                return;
            }

            await Task.Delay(50, Cancel);
        }

        throw new TimeoutException("It did not come about.");
    }
}
