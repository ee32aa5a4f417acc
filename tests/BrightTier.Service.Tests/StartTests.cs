using System.Diagnostics;
using System.Net;
using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Data.Sqlite;

namespace BrightTier.Service.Tests;

/// <summary>
/// What stops the service or misleads who runs it: wrong settings, a folder that is taken, records that are mislaid, a disk that is full.
/// </summary>
public sealed class StartTests(Postgres postgres)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("There is no setting 'Dta'; did you mean 'Data'?", "--Dta", "x")]
    [InlineData("'Metrics' must be true or false; it is 'perhaps'.", "--Metrics", "perhaps")]
    [InlineData("'CallsPerSecond' must be a whole number; it is 'many'.", "--CallsPerSecond", "many")]
    [InlineData("'CallsPerSecond' must be from 0 to 1000000; it is -1.", "--CallsPerSecond", "-1")]
    [InlineData("'Log' must be text or json; it is 'xml'.", "--Log", "xml")]
    [InlineData("'urls' must be addresses", "--urls", "nonsense")]
    [InlineData("'urls' must be addresses", "--urls", "ftp://127.0.0.1:1")]
    [InlineData("'Origins' names 'quay'", "--Origins", "quay")]
    [InlineData("'Proxies' names 'here'", "--Proxies", "here")]
    [InlineData("'--Data' needs a value.", "--Data")]
    [InlineData("'nonsense' is no setting", "nonsense")]
    [InlineData("Database is no connection string", "--Database", "x;y;z")]
    [InlineData("the data folder '/proc/quay' cannot be", "--Data", "/proc/quay")]
    [InlineData("'Existing' says that there is", "--Existing", "true")]
    [InlineData("'OpenId:Client' is missing", "--OpenId:Authority", "https://port.example")]
    [InlineData("'OpenId:Authority' is missing", "--OpenId:Client", "quay")]
    [InlineData("There is no setting 'OpenId:Autority'; did you mean 'Authority'?", "--OpenId:Autority", "https://port.example")]
    [InlineData("There is no setting 'BrightTier:Dta'; did you mean 'Data'?", "--BrightTier:Dta", "x")]
    [InlineData("The folder to begin with, /none/here, is not there.", "--Seed", "/none/here")]
    [InlineData("The backup /none/here is not there.", "--Restore", "/none/here")]
    public async Task A_wrong_setting_is_one_line_and_an_exit_code(string says, params string[] settings)
    {
        var folder = RunningService.NewFolder();
        var (code, lines) = await Run([
            .. settings.Contains("--Data") || settings is ["--Data"] ? [] : new[] { "--Data", folder },
            .. settings.Contains("--urls") ? [] : new[] { "--urls", "http://127.0.0.1:0" },
            .. settings,
        ]);

        code.ShouldBe(2, string.Join('\n', lines));
        lines.ShouldHaveSingleItem().ShouldContain(says);
        lines[0].ShouldContain("cannot begin");
    }

    [Fact]
    public async Task A_name_in_the_environment_that_is_much_like_a_setting_is_no_setting()
    {
        var (code, lines) = await Run(["--Data", RunningService.NewFolder()], ("BRIGHTTIER_DATABSE", "Host=127.0.0.1"));

        (code, lines.Single()).ShouldBe(
            (2, "The service cannot begin: There is no setting 'BRIGHTTIER_DATABSE'; did you mean 'BRIGHTTIER_DATABASE'?")
        );
    }

    [Fact]
    public async Task Nobody_else_at_the_machine_reads_the_data_folder_and_no_log_has_the_code()
    {
        var folder = Path.Combine(RunningService.NewFolder(), "data");
        await using var service = await ServiceProcess.Empty("--Data", folder, "--Log", "json");

        var mode = OperatingSystem.IsWindows() ? UnixFileMode.None : File.GetUnixFileMode(folder);
        mode.ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        var lines = service.Output.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        lines.Single(line => line.Contains("bt_", StringComparison.Ordinal)).ShouldStartWith("This service is new.");
    }

    [Fact]
    public async Task A_service_copied_elsewhere_has_its_console_with_it()
    {
        var copy = RunningService.NewFolder();
        var from = Path.GetDirectoryName(ServiceProcess.Program)!;
        foreach (var file in Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories))
        {
            var to = Path.Combine(copy, Path.GetRelativePath(from, file));
            Directory.CreateDirectory(Path.GetDirectoryName(to)!);
            File.Copy(file, to);
        }

        string[] settings = ["--urls", "http://127.0.0.1:0", "--Data", RunningService.NewFolder()];
        using var process = Process.Start(Starting([Path.Combine(copy, Path.GetFileName(ServiceProcess.Program)), .. settings]))!;
        try
        {
            string? line;
            do
            {
                line = await process.StandardError.ReadLineAsync(Cancel);
            } while (line is not null && !line.Contains("is ready at", StringComparison.Ordinal));

            using var http = new HttpClient();
            (await http.GetStringAsync(line!.Split(' ')[^1], Cancel)).ShouldContain("<script");
        }
        finally
        {
            process.Kill();
        }
    }

    [Fact]
    public async Task The_first_start_on_PostgreSQL_says_nothing_of_its_tables()
    {
        await using var service = await ServiceProcess.Empty("--Database", await (await postgres.Server).NewDatabase());

        service.Output.ShouldNotContain("SELECT");
        service
            .Output.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .ShouldAllBe(line => line.Contains("is new", StringComparison.Ordinal) || line.Contains("is ready", StringComparison.Ordinal));
    }

    private static async Task<(int Code, string[] Lines)> Run(string[] settings, params (string Name, string Value)[] environment)
    {
        var start = Starting([ServiceProcess.Program, .. settings]);
        foreach (var (name, value) in environment)
        {
            start.Environment[name] = value;
        }

        using var process = Process.Start(start)!;
        var (error, output) = (process.StandardError.ReadToEndAsync(Cancel), process.StandardOutput.ReadToEndAsync(Cancel));
        await process.WaitForExitAsync(Cancel);
        return (process.ExitCode, (await error + await output).Split('\n', StringSplitOptions.RemoveEmptyEntries));
    }

    private static ProcessStartInfo Starting(string[] arguments) =>
        new("dotnet", arguments)
        {
            RedirectStandardError = true,
            RedirectStandardOutput = true,
            UseShellExecute = false,
        };

    [Fact]
    public async Task Records_that_are_mislaid_are_missed_before_anything_is_numbered_anew()
    {
        // A process of its own: what moves files away moves them from under no connection that is kept.
        await using var service = await ServiceProcess.WithDemo();
        await service.Kill();
        var there = Path.Combine(RunningService.NewFolder(), "records.db");
        SqliteConnection.ClearAllPools();
        foreach (var file in Directory.EnumerateFiles(service.Data, "records.db*"))
        {
            File.Move(file, there + Path.GetFileName(file)["records.db".Length..]);
        }

        (await Should.ThrowAsync<InvalidOperationException>(() => service.Restart())).Message.ShouldContain(
            "the records that belong to them are not there"
        );

        foreach (var file in Directory.EnumerateFiles(Path.GetDirectoryName(there)!))
        {
            File.Move(file, Path.Combine(service.Data, Path.GetFileName(file)), overwrite: true);
        }

        await service.Restart();
        using var ada = await service.As("ada");
        (await ada.Records("vessel", null, null, null, null, 1, Cancel)).Records.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task A_folder_that_cannot_be_written_is_not_ready_and_forms_are_served_on()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.Http("ada");
        (await ada.GetAsync("api/forms/vessel", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        // Where the probe would be written, something stands that cannot be: as good as a disk that is full, and possible everywhere.
        Directory.CreateDirectory(Path.Combine(service.Data, "probe", "in the way"));

        using var http = await service.Http();
        await Until(http, HttpStatusCode.ServiceUnavailable);
        (await ada.GetAsync("api/forms/vessel", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);

        Directory.Delete(Path.Combine(service.Data, "probe"), recursive: true);
        await Until(http, HttpStatusCode.OK);
    }

    private static async Task Until(HttpClient http, HttpStatusCode expected)
    {
        for (var i = 0; i < 200; i++)
        {
            if ((await http.GetAsync("health/ready", Cancel)).StatusCode == expected)
            {
                return;
            }

            await Task.Delay(100, Cancel);
        }

        Assert.Fail($"never {expected}");
    }

    [Fact]
    public async Task What_has_expired_is_removed()
    {
        await using var service = await HostedService.WithDemo();
        await service.Kill();
        var database = $"Data Source={Path.Combine(service.Data, "brighttier.db")};Pooling=False";
        await Sql(
            database,
            "INSERT INTO credential (\"Hash\", \"Use\", \"Person\", \"Name\", \"Expires\") VALUES ('old', 'token', 'ada', 'old', 1000)"
        );
        await service.Restart();
        for (var i = 0; i < 150; i++)
        {
            if (await Sql(database, "SELECT count(*) FROM credential WHERE \"Hash\" = 'old'") == 0)
            {
                return;
            }

            await Task.Delay(100, Cancel);
        }

        Assert.Fail("it is there still");
    }

    private static async Task<long> Sql(string database, string sql)
    {
        await using var connection = new SqliteConnection(database);
        await connection.OpenAsync(Cancel);
        await using var command = connection.CreateCommand();
        command.CommandText = sql;
        return await command.ExecuteScalarAsync(Cancel) as long? ?? -1;
    }

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgres")]
    public async Task Changes_of_the_same_records_in_any_order_and_restores_at_once_wait_for_one_another(string database)
    {
        await using var service =
            database == "sqlite" ? await HostedService.WithDemo() : await HostedService.On(await (await postgres.Server).NewDemoDatabase());
        using var ada = await service.As("ada");
        using var http = await service.Http("ada");
        var ids = new List<long>();
        for (var i = 0; i < 40; i++)
        {
            ids.Add(
                (
                    await ada.CreateRecord(
                        "berth",
                        new RecordSave(Wire.Json($$"""{"code":"{{(char)('A' + (i % 8))}}{{i + 50}}","pontoon":"P","zone":"outer"}""")),
                        Cancel
                    )
                ).Id
            );
        }

        // Saves of one record with what hangs on it come in any order; so do tables. None is lost to another's lock.
        var rounds = await Task.WhenAll(
            Enumerable
                .Range(0, 12)
                .Select(async round =>
                {
                    var order = round % 2 == 0 ? ids : [.. ids.AsEnumerable().Reverse()];
                    var csv = "id,pontoon\r\n" + string.Concat(order.Select(id => $"{id},Q{round}\r\n"));
                    using var answer = await http.PostAsync(
                        "api/records/berth/csv",
                        new StringContent(csv, System.Text.Encoding.UTF8, "text/csv"),
                        Cancel
                    );
                    var records = string.Join(',', order.Select(id => $"{{\"id\":{id},\"version\":1}}"));
                    using var body = RunningService.Json("{\"records\":[" + records + "],\"values\":{\"water\":true}}");
                    using var bulk = await http.PatchAsync("api/records/berth", body, Cancel);
                    return ((int)answer.StatusCode, (int)bulk.StatusCode);
                })
        );
        // Somebody was first; the others are told that it was changed meanwhile.
        rounds.ShouldAllBe(each => each.Item1 < 500 && each.Item2 < 500);
        rounds.ShouldContain(each => each.Item1 == 200);

        var victim = await ada.Record("berth", ids[0], Cancel);
        await ada.DeleteRecord("berth", victim.Id, victim.Version, Cancel);
        var restores = await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(async _ => (int)(await http.PostAsync($"api/records/berth/{victim.Id}/restore", null, Cancel)).StatusCode)
        );
        restores.ShouldAllBe(status => status == 200, string.Join(' ', restores));

        using var greta = await service.As("greta");
        var edits = Wire.Json("""[{"op":"set","node":"layout","property":"title","value":"Moorings"}]""");
        await ada.Edit("berth", new EditRequest((await ada.Layout("berth", Cancel)).Revision, edits), Cancel);
        await ada.Publish(new PublishRequest([new("layout", "berth", (await ada.Layout("berth", Cancel)).Revision)]), Cancel);
        var releases = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(async _ => await greta.Restore(1, new RestoreRequest("at once"), Cancel))
        );
        // The first restores it; for the others nothing differs any more.
        releases.Count(receipt => receipt.Made).ShouldBe(1);
        releases.ShouldAllBe(receipt => receipt.Release.Number == 3);
    }

    [Fact]
    public async Task A_field_for_a_file_holds_what_was_stored_and_nothing_else()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.Http("ada");
        foreach (
            var text in new[]
            {
                "javascript:alert(1)",
                "../../etc/passwd",
                $"{new string('0', 64)}/none.png",
                $"{new string('z', 64)}/a.png",
                $"{new string('0', 64)}/a/b.png",
                "https://elsewhere.example/x.png",
            }
        )
        {
            using var refused = await ada.PostAsync(
                "api/records/vessel",
                RunningService.Json($$$"""{"values":{"name":"Tern","photo":"{{{text}}}"}}"""),
                Cancel
            );
            refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, text);
            (await refused.Problem()).Problems!.ShouldContain(part => part.Pointer == "photo", text);
        }
    }
}
