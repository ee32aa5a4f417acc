using System.IO.Compression;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>
/// A backup made while it is in use, restored elsewhere, in either kind of database: all that was in it is there, to the letter.
/// </summary>
public sealed class BackupTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData(false, true)]
    [InlineData(true, false)]
    public async Task What_is_restored_is_what_was_backed_up_and_new_records_get_new_numbers(bool fromPostgres, bool toPostgres)
    {
        await using var first = fromPostgres
            ? await HostedService.On(await (await postgres.Server).NewDemoDatabase())
            : await HostedService.WithDemo();
        using var greta = new BrightTierClient(first.Address, null);
        var token = (await greta.PickPerson("greta", "test", Cancel)).Secret;
        using var ada = await first.As("ada");
        var gone = await OfEveryKind(first, ada);

        // While it is backed up, somebody goes on saving.
        using var stop = new CancellationTokenSource();
        var saving = Task.Run(
            async () =>
            {
                for (var i = 0; !stop.IsCancellationRequested; i++)
                {
                    var now = await ada.Record("vessel", 5, CancellationToken.None);
                    await ada.ChangeRecord(
                        "vessel",
                        5,
                        now.Version,
                        new RecordSave(Wire.Json($"{{\"notes\":\"Saved {i}\"}}")),
                        CancellationToken.None
                    );
                }
            },
            Cancel
        );
        var file = Path.Combine(RunningService.NewFolder(), "quay.backup.zip");
        await Keep(greta, file);
        await stop.CancelAsync();
        await saving;

        string[] where = toPostgres ? ["--Database", await (await postgres.Server).NewDatabase()] : [];
        await using var second = await HostedService.Empty(["--Restore", file, "--PickPeople", "true", .. where]);
        var again = file + ".again";
        using (var there = new BrightTierClient(second.Address, token))
        {
            // Known by the token of before.
            await Keep(there, again);
            (await there.Layout("vessel", Cancel)).Tree.GetRawText().ShouldContain("Canvas");
            var fresh = await there.CreateRecord(
                "keeper",
                new RecordSave(Wire.Json("{\"givenName\":\"Somebody\",\"familyName\":\"New\"}")),
                Cancel
            );
            fresh.Id.ShouldBe(gone.Id + 1);
        }

        var (before, after) = (Parts(file), Parts(again));
        after.Keys.ShouldBe(before.Keys);
        foreach (var name in before.Keys)
        {
            after[name].ShouldBe(before[name], name);
        }
    }

    /// <summary>
    /// Something of every kind: a file, a comment with a mention, a view, a draft ahead of its release, a deleted record with the highest
    /// number, which is answered.
    /// </summary>
    private static async Task<RecordInfo> OfEveryKind(RunningService first, BrightTierClient ada)
    {
        using var http = await first.Http("ada");
        using var stored = await http.PostAsync(
            "api/files?name=deed.txt",
            new ByteArrayContent("Sold to nobody"u8.ToArray()) { Headers = { { "Content-Type", "application/octet-stream" } } },
            Cancel
        );
        stored.IsSuccessStatusCode.ShouldBeTrue();
        using var said = await http.PostAsync(
            "api/records/vessel/2/comments",
            RunningService.Json("{\"text\":\"Look at this @bram\"}"),
            Cancel
        );
        said.IsSuccessStatusCode.ShouldBeTrue(await said.Content.ReadAsStringAsync(Cancel));
        using var view = await http.PutAsync("api/preferences/views-vessel", RunningService.Json("{\"views\":[]}"), Cancel);
        view.IsSuccessStatusCode.ShouldBeTrue();

        await ada.Edit(
            "vessel",
            new EditRequest(
                (await ada.Layout("vessel", Cancel)).Revision,
                Wire.Json("[{\"op\":\"set\",\"node\":\"rig\",\"property\":\"title\",\"value\":\"Canvas\"}]")
            ),
            Cancel
        );
        var gone = await ada.CreateRecord(
            "keeper",
            new RecordSave(Wire.Json("{\"givenName\":\"Nobody\",\"familyName\":\"Anymore\"}")),
            Cancel
        );
        using var delete = new HttpRequestMessage(HttpMethod.Delete, $"api/records/keeper/{gone.Id}")
        {
            Headers = { { "If-Match", $"\"{gone.Version}\"" } },
        };
        using var deleted = await http.SendAsync(delete, Cancel);
        deleted.IsSuccessStatusCode.ShouldBeTrue(await deleted.Content.ReadAsStringAsync(Cancel));
        return gone;
    }

    [Fact]
    public async Task A_backup_that_is_damaged_or_meets_something_is_refused_with_the_reason()
    {
        await using var first = await HostedService.WithDemo();
        using var greta = await first.As("greta");
        var file = Path.Combine(RunningService.NewFolder(), "quay.backup.zip");
        await Keep(greta, file);
        (await Should.ThrowAsync<InvalidOperationException>(() => HostedService.WithDemo(first.Data))).Message.ShouldContain(
            "another service uses the data folder"
        );
        await first.Kill();
        (
            await Should.ThrowAsync<InvalidOperationException>(() => HostedService.WithDemo(first.Data, "--Restore", file))
        ).Message.ShouldContain("restored into an empty installation");

        using (var archive = ZipFile.Open(file, ZipArchiveMode.Update))
        {
            archive.GetEntry("records/vessel.jsonl")!.Delete();
            using var writer = new StreamWriter(archive.CreateEntry("records/vessel.jsonl").Open());
            await writer.WriteAsync("{}");
        }

        (await Should.ThrowAsync<InvalidOperationException>(() => HostedService.Empty("--Restore", file))).Message.ShouldContain(
            "records/vessel.jsonl is damaged"
        );
        await File.WriteAllTextAsync(file, "not an archive", Cancel);
        (await Should.ThrowAsync<InvalidOperationException>(() => HostedService.Empty("--Restore", file))).Message.ShouldContain(
            "cannot be used"
        );
    }

    private static async Task Keep(BrightTierClient client, string file)
    {
        await using var stream = File.Create(file);
        await client.Backup(stream, Cancel);
    }

    private static SortedDictionary<string, string> Parts(string file)
    {
        using var archive = ZipFile.OpenRead(file);
        var parts = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var entry in archive.Entries.Where(entry => entry.FullName != "manifest.json"))
        {
            using var reader = new StreamReader(entry.Open());
            parts.Add(entry.FullName, reader.ReadToEnd());
        }

        return parts;
    }
}
