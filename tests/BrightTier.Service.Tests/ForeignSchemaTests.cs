using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Data.Sqlite;

namespace BrightTier.Service.Tests;

/// <summary>
/// Schemas that people run, as Debian's packages bring them: every table becomes an entity, and of every one that can be written a record
/// is made, changed, read again and deleted, held against what SQL says; the schema is the same before and after, to the byte.
/// </summary>
public sealed class ForeignSchemaTests(Postgres postgres)
{
    private static readonly string Folder = Path.Combine(ServiceProcess.Checkout, "out", "schemas");

    /// <summary>
    /// Each with how many tables may refuse a record that was made up knowing nothing of what they are for: by what their triggers and
    /// checks ask, or since they must have bytes. One has triggers that ask for a session of its own program's, and refuses most.
    /// </summary>
    public static TheoryData<string, int> Schemas() =>
        new()
        {
            { "backups.postgres", 2 },
            { "calls.postgres", 3 },
            { "leases.postgres", 40 },
            { "mail.postgres", 0 },
            { "messages.postgres", 1 },
            { "names.postgres", 0 },
            { "news.postgres", 2 },
            { "backups.sqlite", 2 },
            { "mail.sqlite", 0 },
            { "messages.sqlite", 1 },
            { "names.sqlite", 0 },
        };

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [MemberData(nameof(Schemas))]
    public async Task Every_table_is_attached_and_what_can_be_written_is_written_and_read_again(string schema, int refusing)
    {
        var script = Path.Combine(Folder, schema + ".sql");
        Assert.SkipUnless(File.Exists(script), $"{script} is not there: scripts/foreign-schemas.sh fetches it");
        await using var foreign = await ForeignDatabase.Of(script, postgres);
        await using var service = await HostedService.WithDemo(null, "--Databases:foreign", foreign.Connection);
        using var greta = await service.As("greta");
        var before = await foreign.Schema();
        var tables = await greta.DatabaseTables("foreign", Cancel);
        tables.Count.ShouldBeGreaterThan(3);
        var sketches = await greta.SketchAttachedTables("foreign", new AttachRequest([.. tables.Select(table => table.Path)]), Cancel);
        var made = await greta.AttachTables("foreign", new AttachRequest([.. tables.Select(table => table.Path)]), Cancel);
        made.Entities.Count.ShouldBe(tables.Count);
        (await greta.DatabaseDifferences("foreign", Cancel)).ShouldBeEmpty();

        var walk = new TableWalk(greta, foreign, sketches);
        var entities = (await greta.DatabaseTables("foreign", Cancel)).ToDictionary(table => table.Entity!, StringComparer.Ordinal);
        foreach (var key in Ordered(entities))
        {
            await walk.Take(entities[key]);
        }

        (await foreign.Schema()).ShouldBe(before);
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{schema}: {tables.Count} tables, {walk.Written} written and read again, "
                + $"{tables.Count(table => table.ReadOnly is not null)} only read, {walk.Refused.Count} refused"
        );
        foreach (var refused in walk.Refused)
        {
            TestContext.Current.TestOutputHelper?.WriteLine(refused);
        }

        walk.Refused.Count.ShouldBeLessThanOrEqualTo(refusing, string.Join('\n', walk.Refused));
    }

    /// <summary>Entities behind those they refer to, as far as there is such an order.</summary>
    private static List<string> Ordered(Dictionary<string, DatabaseTableInfo> entities)
    {
        var byPath = entities.ToDictionary(each => each.Value.Path, each => each.Key, StringComparer.Ordinal);
        var (ordered, seen) = (new List<string>(), new HashSet<string>(StringComparer.Ordinal));
        foreach (var key in entities.Keys)
        {
            Visit(key);
        }

        return ordered;

        void Visit(string key)
        {
            if (seen.Add(key))
            {
                foreach (var target in entities[key].References.Where(byPath.ContainsKey))
                {
                    Visit(byPath[target]);
                }

                ordered.Add(key);
            }
        }
    }

    /// <summary>Goes through tables, each with a record of its own.</summary>
    private sealed class TableWalk(BrightTierClient client, ForeignDatabase foreign, IReadOnlyList<AttachSketch> sketches)
    {
        private readonly Dictionary<string, long> records = new(StringComparer.Ordinal);
        private int number;

        public int Written { get; private set; }

        public List<string> Refused { get; } = [];

        public async Task Take(DatabaseTableInfo table)
        {
            var page = await client.Records(table.Entity!, null, null, null, null, 5, Cancel);
            if (table.ReadOnly is not null)
            {
                return;
            }

            var entity = await client.Entity(table.Entity!, Cancel);
            try
            {
                var rows = await foreign.Rows(table.Path);
                var record = await client.CreateRecord(table.Entity!, new RecordSave(Values(entity, entity.Fields, false)), Cancel);
                (await foreign.Rows(table.Path)).ShouldBe(rows + 1, table.Path);
                record = await client.Record(table.Entity!, record.Id, Cancel);
                var changed = Values(entity, [.. entity.Fields.Where(field => field.Type is not "reference")], true);
                var saved = await client.ChangeRecord(table.Entity!, record.Id, record.Version, new RecordSave(changed), Cancel);
                // Triggers may have a hand in it.
                var triggered = await foreign.HasTriggers(table.Path);
                foreach (var property in triggered ? [] : changed.EnumerateObject().ToArray())
                {
                    saved
                        .Values.GetProperty(property.Name)
                        .GetRawText()
                        .ShouldBe(property.Value.GetRawText(), $"{table.Path} {property.Name}");
                }

                (await client.Record(table.Entity!, record.Id, Cancel)).Values.GetRawText().ShouldBe(saved.Values.GetRawText(), table.Path);
                (
                    await client.ChangeRecord(
                        table.Entity!,
                        record.Id,
                        saved.Version,
                        new RecordSave(Writable(entity, saved.Values)),
                        Cancel
                    )
                ).Version.ShouldBe(saved.Version, $"{table.Path}: saved as it is, nothing is written");
                records[table.Entity!] = record.Id;
                Written++;
            }
            catch (RefusedException refused) when (refused.Problem.Status is 422 or 409)
            {
                Refused.Add($"{table.Path}: {refused.Problem.Detail}");
                if (page.Records is [var present, ..])
                {
                    records[table.Entity!] = present.Id;
                }
            }
        }

        private JsonElement Values(EntityInfo entity, IReadOnlyList<FieldInfo> fields, bool other)
        {
            var sketch = sketches.Single(each => each.Key == entity.Key);
            var values = new JsonObject();
            number++;
            foreach (
                var field in fields.Where(field =>
                    field.Writable && !field.Retired && !(other && sketch.Fields.Single(each => each.Key == field.Key).ReadOnly is not null)
                )
            )
            {
                JsonNode? value = field.Type switch
                {
                    "reference" => records.TryGetValue(field.Target!, out var id) ? id : null,
                    "choice" => field.Choices is { Count: > 0 } choices ? choices[other ? choices.Count - 1 : 0].Key : null,
                    "integer" => number + (other ? 200 : 100),
                    "decimal" => other ? 2.5m : 1.5m,
                    "boolean" => !other,
                    "date" => other ? "2026-05-31" : "2026-05-30",
                    "time" => other ? "14:30" : "13:30",
                    "dateTime" => other ? "2026-05-31T14:30:00Z" : "2026-05-30T14:30:00Z",
                    _ when sketch.Fields.Single(each => each.Key == field.Key).DatabaseType is "inet" or "cidr" =>
                        $"192.0.2.{number % 200}",
                    _ => Text(field, other),
                };
                if (value is not null)
                {
                    values[field.Key] = value;
                }
            }

            using var json = JsonDocument.Parse(values.ToJsonString());
            return json.RootElement.Clone();
        }

        /// <summary>Values as they were answered, without those nobody may send.</summary>
        private JsonElement Writable(EntityInfo entity, JsonElement values)
        {
            var kept = new JsonObject();
            foreach (var property in values.EnumerateObject())
            {
                if (entity.Fields.Single(field => field.Key == property.Name).Writable)
                {
                    kept[property.Name] = JsonNode.Parse(property.Value.GetRawText());
                }
            }

            using var json = JsonDocument.Parse(kept.ToJsonString());
            return json.RootElement.Clone();
        }

        private string Text(FieldInfo field, bool other)
        {
            var text = (other ? "b" : "a") + number.ToString(CultureInfo.InvariantCulture);
            return text[..Math.Min(text.Length, field.MaxLength ?? text.Length)];
        }
    }

    /// <summary>A database that is not ours, and what can be asked of it beside the service.</summary>
    private sealed class ForeignDatabase : IAsyncDisposable
    {
        private readonly PostgresServer? server;
        private readonly string? file;

        private ForeignDatabase(string connection, PostgresServer? server, string? file) =>
            (Connection, this.server, this.file) = (connection, server, file);

        public string Connection { get; }

        public static async Task<ForeignDatabase> Of(string script, Postgres postgres)
        {
            if (script.Contains(".postgres.", StringComparison.Ordinal))
            {
                var shared = await postgres.Server;
                return new ForeignDatabase(await shared.DatabaseOf(script), shared, null);
            }

            var made = Path.Combine(Path.GetTempPath(), $"bright-tier-foreign-{Guid.NewGuid():N}.db");
            await using var connection = new SqliteConnection($"Data Source={made}");
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText = await File.ReadAllTextAsync(script, Cancel);
            await command.ExecuteNonQueryAsync(Cancel);
            // One of them refers to a table that is not there, and is used without constraints.
            return new ForeignDatabase($"Data Source={made};Foreign Keys=False", null, made);
        }

        public async Task<string> Schema() =>
            server is not null
                ? await server.Schema(Connection)
                : await Scalar(
                    "SELECT group_concat(type || name || coalesce(sql, ''), char(10)) || (SELECT journal_mode FROM pragma_journal_mode) || "
                        + "(SELECT user_version FROM pragma_user_version) FROM (SELECT * FROM sqlite_schema ORDER BY name)"
                );

        public async Task<long> Rows(string path) =>
            long.Parse(
                await Scalar($"SELECT count(*) FROM {string.Join('.', path.Split('.').Select(part => $"\"{part}\""))}"),
                CultureInfo.InvariantCulture
            );

        public async Task<bool> HasTriggers(string path)
        {
            var table = path.Split('.')[^1];
            return await Scalar(
                    server is null
                        ? $"SELECT count(*) FROM sqlite_schema WHERE type = 'trigger' AND tbl_name = '{table}'"
                        : $"SELECT count(*) FROM information_schema.triggers WHERE event_object_table = '{table}'"
                ) != "0";
        }

        private async Task<string> Scalar(string sql)
        {
            await using System.Data.Common.DbConnection connection = server is null
                ? new SqliteConnection(Connection)
                : new Npgsql.NpgsqlConnection(Connection);
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText = sql;
            return Convert.ToString(await command.ExecuteScalarAsync(Cancel), CultureInfo.InvariantCulture) ?? "";
        }

        public ValueTask DisposeAsync()
        {
            SqliteConnection.ClearAllPools();
            if (file is not null)
            {
                File.Delete(file);
            }

            return ValueTask.CompletedTask;
        }
    }
}
