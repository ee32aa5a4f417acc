using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Data.Sqlite;
using Npgsql;

namespace BrightTier.Service.Tests;

/// <summary>What a database that is attached must do, whatever kind it is; each kind is one subclass.</summary>
public abstract partial class AttachedTests : IAsyncLifetime
{
    private HostedService service = null!;
    private BrightTierClient greta = null!;

    protected static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Tables of every kind of key, in words both kinds of database know.</summary>
    protected const string Stores = """
        CREATE TABLE supplier (id NUMBERED, name VARCHAR(20) NOT NULL, since DATE, rating INTEGER CHECK (rating >= 0 AND rating <= 5));
        CREATE TABLE part (code VARCHAR(20) PRIMARY KEY, name VARCHAR(80) NOT NULL,
            state VARCHAR(20) NOT NULL DEFAULT 'in stock' CHECK (state IN ('in stock', 'sold out', 'on order')),
            price NUMERIC(10, 2) NOT NULL, supplier_id BIGINT NOT NULL REFERENCES supplier (id), notes TEXT NOT NULL DEFAULT '');
        CREATE TABLE store (id NUMBERED, name VARCHAR(40) NOT NULL UNIQUE);
        CREATE TABLE stock_level (part_code VARCHAR(20) NOT NULL REFERENCES part (code), store_id BIGINT NOT NULL REFERENCES store (id),
            amount INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (part_code, store_id));
        CREATE TABLE movement (id NUMBERED, part_code VARCHAR(20) NOT NULL, store_id BIGINT NOT NULL, delta INTEGER NOT NULL,
            FOREIGN KEY (part_code, store_id) REFERENCES stock_level (part_code, store_id));
        CREATE TABLE remark (line VARCHAR(80));
        CREATE VIEW part_price AS SELECT code, price FROM part;
        INSERT INTO supplier VALUES (1, 'Ropes', '2019-03-04', 4), (2, 'Sails', NULL, NULL), (9007199254740, 'Far', NULL, NULL);
        INSERT INTO store VALUES (1, 'North'), (2, 'South');
        INSERT INTO remark VALUES ('one'), ('two'), ('two');
        """;

    protected abstract string Connection { get; }

    /// <summary>Makes the database, and runs statements in it beside the service.</summary>
    protected abstract Task Begin();

    protected abstract Task<string> Ask(string sql);

    /// <summary>The type of a key that the database counts.</summary>
    protected abstract string Numbered { get; }

    public async ValueTask InitializeAsync()
    {
        await Begin();
        await Ask(Stores.Replace("NUMBERED", Numbered, StringComparison.Ordinal));
        for (var i = 0; i < 130; i++)
        {
            var state = (i % 3) switch
            {
                0 => "in stock",
                1 => "sold out",
                _ => "on order",
            };
            var code = i.ToString("000", CultureInfo.InvariantCulture);
            await Ask(
                $"INSERT INTO part VALUES ('P-{code}', 'Part {i}', '{state}', {i}.25, {1 + (i % 2)}, ''); "
                    + $"INSERT INTO stock_level VALUES ('P-{code}', {1 + (i % 2)}, {i}); "
                    + $"INSERT INTO movement VALUES ({i + 1}, 'P-{code}', {1 + (i % 2)}, 1)"
            );
        }

        service = await HostedService.WithDemo(null, "--Databases:stores", Connection);
        greta = await service.As("greta");
    }

    public virtual async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        greta.Dispose();
        await service.DisposeAsync();
    }

    private async Task<AttachOutcome> AttachAll() =>
        await greta.AttachTables(
            "stores",
            new AttachRequest([.. (await greta.DatabaseTables("stores", Cancel)).Select(table => table.Path)]),
            Cancel
        );

    private async Task<RecordInfo> Part(string code) =>
        (await greta.Records("part", null, null, $"record.code == '{code}'", null, 5, Cancel)).Records.ShouldHaveSingleItem();

    [Fact]
    public async Task Tables_become_entities_with_what_the_catalogue_tells()
    {
        var sketches = await greta.SketchAttachedTables(
            "stores",
            new AttachRequest([.. (await greta.DatabaseTables("stores", Cancel)).Select(table => table.Path)]),
            Cancel
        );
        var part = sketches.Single(sketch => sketch.Key == "part");
        (part.Label, part.Plural, part.ReadOnly).ShouldBe(("Part", "Parts", null));
        part.Fields.Select(field => (field.Key, field.Type, field.Required, field.Target))
            .ShouldBe([
                ("code", "text", true, null),
                ("name", "text", true, null),
                ("state", "choice", true, null),
                ("price", "decimal", true, null),
                ("supplier", "reference", true, "supplier"),
                ("notes", "longText", false, null),
            ]);
        part.Fields[2].Choices.ShouldBe(["In stock", "Sold out", "On order"]);
        part.Fields[0].ReadOnly.ShouldBe("It is part of the key; it is written when a record is made, and never after.");
        sketches.Single(sketch => sketch.Key == "movement").Fields[0].Columns.ShouldBe("part_code, store_id");
        sketches.Single(sketch => sketch.Key == "remark").ReadOnly.ShouldBe("It has no key that tells its rows apart; it is only read.");
        sketches.Single(sketch => sketch.Key == "partPrice").ReadOnly.ShouldBe("It is a view; views are only read.");
        (await greta.Databases(Cancel)).ShouldHaveSingleItem().Entities.ShouldBeEmpty("a sketch makes nothing");
    }

    [Fact]
    public async Task They_are_there_in_one_act_for_everybody()
    {
        var made = await AttachAll();
        made.Entities.ShouldBe(["movement", "part", "partPrice", "remark", "stockLevel", "store", "supplier"], ignoreOrder: true);
        made.Release.ShouldBe(2);
        using var bram = await service.As("bram");
        (await bram.Navigation(Cancel)).ShouldContain(entry => entry.Entity == "stockLevel");
        (await bram.Records("part", null, null, null, null, 5, Cancel)).Total.ShouldBe(130);
        var taken = (await greta.DatabaseTables("stores", Cancel))[0].Path;
        var again = await Wire.Refused(() => greta.AttachTables("stores", new AttachRequest([taken]), Cancel));
        again.Detail!.ShouldContain("is the entity");
        var none = await Wire.Refused(() => greta.AttachTables("stores", new AttachRequest(["prat"]), Cancel));
        none.Detail!.ShouldContain("There is no table 'prat'");
    }

    [Fact]
    public async Task A_connection_is_set_once_it_answers_and_what_it_connects_with_is_never_told()
    {
        var wrong = await Wire.Refused(() => greta.SetDatabase("again", "Host=127.0.0.1;Port=1;Username=eve;Password=hush-hush", Cancel));
        (wrong.Status, wrong.Code).ShouldBe((422, "database-away"));
        (await Wire.Refused(() => greta.SetDatabase("again", "nonsense", Cancel))).Status.ShouldBe(400);
        (await Wire.Refused(() => greta.SetDatabase("stores", Connection, Cancel))).Code.ShouldBe("connection-fixed");
        var set = await greta.SetDatabase(
            "again",
            Connection + (Connection.StartsWith("Host", StringComparison.Ordinal) ? ";Password=hush-hush" : ""),
            Cancel
        );
        (set.Name, set.IsFixed, set.Problem).ShouldBe(("again", false, null));
        using (var http = await service.Http("greta"))
        {
            (await http.GetStringAsync("api/databases", Cancel)).ShouldNotContain("hush-hush");
        }

        await AttachAll();
        var twin = await greta.AttachTables("again", new AttachRequest([(await greta.DatabaseTables("again", Cancel))[1].Path]), Cancel);
        (await greta.Entity(twin.Entities[0], Cancel)).Label.ShouldEndWith(
            "(again)",
            Case.Sensitive,
            "two of one name cannot be told apart"
        );
        (await Wire.Refused(() => greta.RemoveDatabase("again", Cancel))).Code.ShouldBe("connection-used");
        await greta.SetDatabase("third", Connection, Cancel);
        await greta.RemoveDatabase("third", Cancel);
        (await greta.Databases(Cancel)).Select(each => each.Name).ShouldBe(["stores", "again"]);
    }

    [Fact]
    public async Task Only_what_is_another_one_is_written_and_two_at_one_row_are_told()
    {
        await AttachAll();
        var part = await Part("P-005");
        // Whole as it was answered, with one value changed.
        var values = part.Values.EnumerateObject().ToDictionary(each => each.Name, each => each.Value.Clone());
        values["price"] = Wire.Json("7.5");
        var saved = await greta.ChangeRecord("part", part.Id, part.Version, new RecordSave(Json(values)), Cancel);
        (await Ask("SELECT price FROM part WHERE code = 'P-005'")).ShouldStartWith("7.5");
        (await Ask("SELECT notes FROM part WHERE code = 'P-005'")).ShouldBe("");
        var late = await Wire.Refused(() => greta.ChangeRecord("part", part.Id, part.Version, new RecordSave(Json(values)), Cancel));
        (late.Status, late.Code).ShouldBe((412, "record-changed"));
        late.Detail!.ShouldContain("was changed by greta meanwhile");

        // Somebody at the database itself.
        await Ask("UPDATE part SET name = 'Other' WHERE code = 'P-005'");
        var beside = await Wire.Refused(() =>
            greta.ChangeRecord("part", part.Id, saved.Version, new RecordSave(Wire.Json("""{"price":8}""")), Cancel)
        );
        beside.Code.ShouldBe("record-changed");
        var history = await History("part", part.Id);
        var change = history.ShouldHaveSingleItem().Changes.ShouldHaveSingleItem();
        (change.Field, change.Before!.Value.GetRawText(), change.After!.Value.GetRawText()).ShouldBe(("price", "5.25", "7.5"));
    }

    [Fact]
    public async Task What_the_database_stands_against_is_told_at_its_field()
    {
        await AttachAll();
        var part = await Part("P-001");
        (await Told("part", """{"code":"P-001","name":"Twice","price":1,"supplier":1}""")).ShouldBe(("code", "unique"));
        (await Told("store", """{"name":"North"}""")).ShouldBe(("name", "unique"));
        (await Told("part", """{"code":"P-900","name":"New","price":1,"supplier":77}""")).ShouldBe(("supplier", "reference"));
        (await Told("supplier", """{"name":"A name that is far too long"}""")).ShouldBe(("name", "invalid"));
        (await Told("supplier", """{"name":"Rated","rating":6}""")).ShouldBe(("rating", "invalid"));
        (await Told("remark", """{"line":"three"}""")).ShouldBe(("line", "read-only"));
        var key = await Wire.Refused(() =>
            greta.ChangeRecord("part", part.Id, part.Version, new RecordSave(Wire.Json("""{"code":"X"}""")), Cancel)
        );
        (key.Status, key.Problems![0].Pointer, key.Problems[0].Code).ShouldBe((422, "code", "read-only"));
        var used = await Wire.Refused(() => greta.DeleteRecord("part", part.Id, part.Version, Cancel));
        (used.Status, used.Code).ShouldBe((409, "referred-to"));
        (await Ask("SELECT count(*) FROM part")).ShouldBe("130");

        async Task<(string, string?)> Told(string entity, string values)
        {
            var problem = await Wire.Refused(() => greta.CreateRecord(entity, new RecordSave(Wire.Json(values)), Cancel));
            problem.Status.ShouldBe(422);
            return (problem.Problems![0].Pointer, problem.Problems[0].Code);
        }
    }

    [Fact]
    public async Task Rows_are_made_deleted_and_brought_back_with_the_key_they_had()
    {
        await AttachAll();
        var part = await greta.CreateRecord(
            "part",
            new RecordSave(Wire.Json("""{"code":"N-1","name":"New","price":3,"supplier":2,"state":"onOrder"}""")),
            Cancel
        );
        (await Ask("SELECT state FROM part WHERE code = 'N-1'")).ShouldBe("on order");
        var level = await greta.CreateRecord(
            "stockLevel",
            new RecordSave(Wire.Json($$"""{"part":{{part.Id}},"store":1,"amount":5}""")),
            Cancel
        );
        (await Ask("SELECT amount FROM stock_level WHERE part_code = 'N-1'")).ShouldBe("5");
        await greta.DeleteRecord("stockLevel", level.Id, level.Version, Cancel);
        (await Ask("SELECT count(*) FROM stock_level WHERE part_code = 'N-1'")).ShouldBe("0");
        var back = await greta.RestoreRecord("stockLevel", level.Id, Cancel);
        (back.Id, back.Values.GetRawText()).ShouldBe((level.Id, level.Values.GetRawText()));
        (await History("stockLevel", level.Id)).Select(each => each.Action).ShouldBe(["restore", "delete", "create"]);
    }

    [Fact]
    public async Task Ours_refer_to_theirs_and_theirs_is_searched_with_ours()
    {
        await AttachAll();
        using var ada = await service.As("ada");
        using (var http = await service.Http("ada"))
        {
            using var added = await http.PostAsJsonAsync(
                "api/entities/vessel/fields",
                new NewField("Supplier", "reference", Target: "supplier"),
                WireJson.Default.NewField,
                Cancel
            );
            added.EnsureSuccessStatusCode();
        }

        await Publish(ada);
        var vessel = (await greta.Records("vessel", null, null, null, null, 1, Cancel)).Records[0];
        var saved = await greta.ChangeRecord("vessel", vessel.Id, vessel.Version, new RecordSave(Wire.Json("""{"supplier":2}""")), Cancel);
        saved.References["supplier"].Title.ShouldBe("Sails");
        // No constraint of either database reaches into the other.
        var nobody = await Wire.Refused(() =>
            greta.ChangeRecord("vessel", vessel.Id, saved.Version, new RecordSave(Wire.Json("""{"supplier":77}""")), Cancel)
        );
        (nobody.Status, nobody.Problems![0].Code).ShouldBe((422, "reference"));
        await Ask("DELETE FROM movement; DELETE FROM stock_level; DELETE FROM part");
        var sails = await greta.Record("supplier", 2, Cancel);
        (await Wire.Refused(() => greta.DeleteRecord("supplier", 2, sails.Version, Cancel))).Code.ShouldBe("referred-to");
        using (var http = await service.Http("greta"))
        {
            (await http.GetStringAsync("api/search?q=Sails", Cancel)).ShouldContain("\"entity\":\"supplier\"");
        }

        var across = await Wire.Refused(() => greta.Records("vessel", null, null, "record.supplier.name == 'Sails'", null, 5, Cancel));
        across.Detail!.ShouldContain("a database cannot decide this");
    }

    [Fact]
    public async Task A_schema_that_moves_on_is_told_and_entities_are_brought_in_line()
    {
        await AttachAll();
        (await greta.DatabaseDifferences("stores", Cancel)).ShouldBeEmpty();
        await Ask("ALTER TABLE supplier ADD COLUMN phone VARCHAR(20); ALTER TABLE part DROP COLUMN notes");
        var moved = await Wire.Refused(() => greta.Records("part", null, null, null, null, 5, Cancel));
        (moved.Status, moved.Code).ShouldBe((409, "database-changed"));
        var found = await greta.DatabaseDifferences("stores", Cancel);
        found
            .Select(each => (each.Entity, each.Kind, each.Column))
            .ShouldBe([("part", "column-gone", "notes"), ("supplier", "column-new", "phone")]);
        var outcome = await greta.RefreshDatabase("stores", Cancel);
        outcome.Changed.ShouldBe(["part", "supplier"]);
        (await greta.DatabaseDifferences("stores", Cancel)).ShouldBeEmpty();
        await Publish(greta);
        (await greta.Records("part", null, null, null, null, 5, Cancel)).Total.ShouldBe(130);
        (await greta.Entity("supplier", Cancel)).Fields.ShouldContain(field => field.Key == "phone");
        await Ask("DROP VIEW part_price");
        (await greta.DatabaseDifferences("stores", Cancel)).ShouldHaveSingleItem().Kind.ShouldBe("table-gone");
        await service.Kill();
        await service.Restart();
        for (var tries = 0; tries < 100 && !service.Output.Contains("part_price", StringComparison.Ordinal); tries++)
        {
            await Task.Delay(50, Cancel);
        }

        service.Output.ShouldContain("entity partPrice: The table", customMessage: "said at the start as well");
    }

    private async Task<IReadOnlyList<HistoryEntry>> History(string entity, long id)
    {
        using var http = await service.Http("greta");
        return (await http.GetFromJsonAsync($"api/records/{entity}/{id}/history", WireJson.Default.IReadOnlyListHistoryEntry, Cancel))!;
    }

    private static async Task Publish(BrightTierClient client)
    {
        var changed = (await client.DiffReleases("current", "drafts", Cancel)).Documents;
        await client.Publish(
            new PublishRequest([.. changed.Select(each => new DraftReference(each.Kind, each.Key, each.Draft!.Revision))]),
            Cancel
        );
    }

    private static JsonElement Json(Dictionary<string, JsonElement> values) => JsonSerializer.SerializeToElement(values);
}

public sealed class SqliteAttachedTests : AttachedTests
{
    private readonly string file = Path.Combine(RunningService.NewFolder(), "stores.db");

    protected override string Connection => $"Data Source={file}";

    protected override string Numbered => "INTEGER PRIMARY KEY";

    protected override Task Begin() => Task.CompletedTask;

    protected override async Task<string> Ask(string sql)
    {
        await using var connection = new SqliteConnection($"Data Source={file};Pooling=False");
        await connection.OpenAsync(Cancel);
        await using var command = connection.CreateCommand();
        command.CommandText = sql;
        return Convert.ToString(await command.ExecuteScalarAsync(Cancel), CultureInfo.InvariantCulture) ?? "";
    }
}

public sealed class PostgresAttachedTests(Postgres postgres) : AttachedTests
{
    private string connection = "";

    protected override string Connection => connection;

    protected override string Numbered => "BIGINT GENERATED BY DEFAULT AS IDENTITY (START 5000) PRIMARY KEY";

    protected override async Task Begin() => connection = await (await postgres.Server).NewDatabase();

    protected override async Task<string> Ask(string sql)
    {
        await using var opened = new NpgsqlConnection(connection);
        await opened.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand(sql, opened);
        return Convert.ToString(await command.ExecuteScalarAsync(Cancel), CultureInfo.InvariantCulture) ?? "";
    }
}
