using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>What every kind of business database must do; each implementation is one subclass.</summary>
public abstract partial class RecordStoreTests : IAsyncLifetime
{
    private static readonly Stamp Stamp = new("ada", new DateTimeOffset(2026, 11, 23, 9, 0, 0, TimeSpan.Zero));

    private static readonly Entity Pier = Make(
        "pier",
        new Field
        {
            Key = "name",
            Label = Texts.Of("Name"),
            Type = FieldType.Text,
        }
    );

    private static readonly Entity Boat = Make(
        "boat",
        Of("name", FieldType.Text),
        Of("number", FieldType.Text) with
        {
            Unique = true,
        },
        Of("notes", FieldType.LongText),
        Of("crew", FieldType.Integer),
        Of("length", FieldType.Decimal),
        Of("fee", FieldType.Money),
        Of("afloat", FieldType.Boolean),
        Of("built", FieldType.Date),
        Of("leaves", FieldType.Time),
        Of("seenAt", FieldType.DateTime),
        Of("hull", FieldType.Choice),
        Of("gear", FieldType.Choices),
        Of("pier", FieldType.Reference) with
        {
            Target = "pier",
        },
        Of("stars", FieldType.Rating)
    );

    private SqlDialect dialect = null!;
    private IRecordStore store = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    protected abstract Task<SqlDialect> Open();

    public async ValueTask InitializeAsync()
    {
        dialect = await Open();
        store = new SqlRecordStore(dialect);
        await store.Define(With(Pier, Boat), Sorted, Cancel);
    }

    public ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task Every_type_of_value_comes_back_as_it_went_in()
    {
        var pier = await Create(Pier, ("name", "North"));
        var values = new (string, object?)[]
        {
            ("name", "O'Hara \"the\" \\ ; DROP TABLE boat --"),
            ("number", "1"),
            ("notes", "two\nlines"),
            ("crew", long.MaxValue),
            ("length", 9.75m),
            ("fee", 12_345_678.90m),
            ("afloat", false),
            ("built", new DateOnly(1904, 2, 29)),
            ("leaves", new TimeOnly(23, 59)),
            ("seenAt", new DateTimeOffset(2026, 7, 1, 4, 5, 6, TimeSpan.Zero)),
            ("hull", "mono"),
            ("gear", ImmutableArray.Create("vhf", "ais")),
            ("pier", pier.Id),
            ("stars", 5L),
        };

        var made = await Create(Boat, values);
        var read = (await store.Find(Boat, made.Id, Cancel))!;

        foreach (var (key, value) in values)
        {
            (read.Values[key] is ImmutableArray<string> list ? string.Join(',', list) : read.Values[key]).ShouldBe(
                value is ImmutableArray<string> given ? string.Join(',', given) : value,
                key
            );
        }

        (read.Version, read.CreatedBy, read.ChangedAt).ShouldBe((1, "ada", Stamp.At));
        // What making it answered is what is there, type by type.
        (made.Version, made.CreatedAt, made.ChangedAt, made.ChangedBy).ShouldBe(
            (read.Version, read.CreatedAt, read.ChangedAt, read.ChangedBy)
        );
        foreach (var (key, value) in read.Values)
        {
            (made.Values[key]?.GetType(), FieldValues.Same(made.Values[key], value)).ShouldBe((value?.GetType(), true), key);
        }
    }

    [Fact]
    public async Task Defining_again_changes_nothing_and_defining_more_keeps_what_is_there()
    {
        var made = await Create(Boat, ("name", "Curlew"), ("number", "2"));
        var wider = Boat with { Fields = [.. Boat.Fields, Of("colour", FieldType.Text)] };

        await store.Define(With(Pier, Boat), Sorted, Cancel);
        await store.Define(With(Pier, wider), Sorted, Cancel);

        var read = (await store.Find(wider, made.Id, Cancel))!;
        (read.Values["name"], read.Values["colour"]).ShouldBe(("Curlew", null));
    }

    [Fact]
    public async Task A_change_counts_only_for_the_version_it_was_made_for()
    {
        var made = await Create(Boat, ("name", "Curlew"), ("number", "3"));
        var changed = (await store.Change(Boat, made.Id, 1, Values(("crew", 2L)), Stamp, Cancel))
            .ShouldBeOfType<SaveOutcome.Success>()
            .Record;
        (changed.Version, changed.Values["crew"], changed.Values["name"]).ShouldBe((2, 2L, "Curlew"));

        (await store.Change(Boat, made.Id, 1, Values(("crew", 3L)), Stamp, Cancel))
            .ShouldBeOfType<SaveOutcome.VersionConflict>()
            .Current.Values["crew"]
            .ShouldBe(2L);
        (await store.Change(Boat, 4711, 1, Values(("crew", 3L)), Stamp, Cancel)).ShouldBeOfType<SaveOutcome.NotFound>();
    }

    [Fact]
    public async Task Uniqueness_and_references_are_kept_by_the_database()
    {
        var pier = await Create(Pier, ("name", "South"));
        await Create(Boat, ("number", "4"), ("pier", pier.Id));

        (await store.Create(Boat, Values(("number", "4")), Stamp, Cancel))
            .ShouldBeOfType<SaveOutcome.DuplicateValue>()
            .Field.Key.ShouldBe("number");
        (await store.Create(Boat, Values(("number", "5"), ("pier", 4711L)), Stamp, Cancel))
            .ShouldBeOfType<SaveOutcome.ReferenceNotFound>()
            .Field.Key.ShouldBe("pier");
        (await store.Delete(Pier, pier.Id, 1, Stamp, Cancel)).ShouldBeOfType<SaveOutcome.InUse>();
        (await store.Find(Pier, pier.Id, Cancel)).ShouldNotBeNull();
    }

    [Fact]
    public async Task What_is_deleted_can_be_brought_back_under_its_number()
    {
        var made = await Create(Boat, ("name", "Avocet"), ("number", "6"), ("gear", ImmutableArray.Create("radar")));
        await store.Delete(Boat, made.Id, 1, Stamp, Cancel);
        (await store.Find(Boat, made.Id, Cancel)).ShouldBeNull();

        var back = (await store.Restore(Boat, made.Id, Stamp, Cancel)).ShouldBeOfType<SaveOutcome.Success>().Record;

        (back.Id, back.Version, back.Values["name"]).ShouldBe((made.Id, 3, "Avocet"));
        (await store.Restore(Boat, 4711, Stamp, Cancel)).ShouldBeOfType<SaveOutcome.NotFound>();
    }

    [Fact]
    public async Task A_search_takes_its_text_to_the_letter()
    {
        await Create(Boat, ("number", "S1"), ("name", "100% sail"));
        await Create(Boat, ("number", "S2"), ("name", "100 sails"));
        async Task<long> Found(string text) =>
            (
                await store.List(
                    Boat,
                    new RecordQuery
                    {
                        Search = text,
                        SearchIn = [Boat.Find("name")!],
                        Limit = 10,
                    },
                    Cancel
                )
            ).Total;

        (await Found("100%"), await Found("SAIL"), await Found("_"), await Found("' OR 1=1 --")).ShouldBe((1, 2, 0, 0));
    }

    /// <summary>A condition selects in the database what it selects in memory, empty values and failures included.</summary>
    [Theory]
    [InlineData("record.crew > 1")]
    [InlineData("!(record.crew > 1)")]
    [InlineData("1 < record.crew && record.name != null")]
    [InlineData("record.crew == null || record.crew >= 2")]
    [InlineData("record.name != 'B1'")]
    [InlineData("!(record.name == 'B1')")]
    [InlineData("record.crew in [0, 2]")]
    [InlineData("!(record.crew in [0, 2])")]
    [InlineData("'radar' in record.gear")]
    [InlineData("!('radar' in record.gear)")]
    [InlineData("has(record.name) && record.name.startsWith('B')")]
    [InlineData("record.name.endsWith('1') || record.number.contains('1')")]
    [InlineData("record.crew > 0 ? record.name == null : record.number != 'F3'")]
    [InlineData("record.name < 'a'")]
    public async Task A_condition_selects_the_same_records_in_the_database_as_in_memory(string text)
    {
        for (var i = 0; i < 24; i++)
        {
            await Create(
                Boat,
                ("number", $"F{i}"),
                ("crew", i % 4 == 0 ? null : (long)(i % 3)),
                ("name", i % 5 == 0 ? null : $"{"bBaA"[i % 4]}{i}"),
                (
                    "gear",
                    i % 3 == 0 ? null
                    : i % 3 == 1 ? ImmutableArray.Create("radar", "vhf")
                    : ImmutableArray.Create("vhf")
                )
            );
        }

        var condition = Condition.Compile(text, Boat, Definitions.Empty).Expression.ShouldNotBeNull();
        EvaluationContext Around(StoredRecord? record) =>
            EvaluationContext.Of(
                Condition.Values(Boat, record?.Values ?? new Dictionary<string, object?>()),
                "",
                [],
                "view",
                "en",
                default,
                default
            );
        var all = (await store.List(Boat, new RecordQuery { Limit = 200 }, Cancel)).Records;
        var expected = all.Where(record => Evaluator.Holds(condition, Around(record)) == true).Select(record => record.Id);

        var found = await store.List(
            Boat,
            new RecordQuery { Filters = [new RecordFilter(condition, Around(null), Definitions.Empty)], Limit = 200 },
            Cancel
        );

        found.Records.Select(record => record.Id).ShouldBe(expected);
        found.Total.ShouldBe(found.Records.Count);
    }

    private static readonly HashSet<(string, string)> Sorted = [("boat", "name"), ("boat", "crew")];

    [Fact]
    public async Task A_history_whose_column_has_its_earlier_name_keeps_what_it_holds()
    {
        var pier = await Create(Pier, ("name", "North"));
        await using (var writer = await dialect.Write(Cancel))
        {
            await writer.Command("ALTER TABLE record_history RENAME COLUMN action TO act").ExecuteNonQueryAsync(Cancel);
            await writer.Commit(Cancel);
        }

        await store.Define(With(Pier, Boat), Sorted, Cancel);
        await store.Change(Pier, pier.Id, 1, Values(("name", "South")), Stamp with { At = Stamp.At.AddSeconds(1) }, Cancel);
        (await store.Actions(new RecordActionQuery(), Cancel)).Select(each => each.Action).ShouldBe(["change", "create"]);
    }

    private async Task<StoredRecord> Create(Entity entity, params (string Key, object? Value)[] values) =>
        (await store.Create(entity, Values(values), Stamp, Cancel)).ShouldBeOfType<SaveOutcome.Success>().Record;

    private static Dictionary<string, object?> Values(params (string Key, object? Value)[] values) =>
        values.ToDictionary(pair => pair.Key, pair => pair.Value);

    private static Field Of(string key, FieldType type) =>
        new()
        {
            Key = key,
            Label = Texts.Of(key),
            Type = type,
        };

    private static Entity Make(string key, params Field[] fields) =>
        new()
        {
            Key = key,
            Label = Texts.Of(key),
            Plural = Texts.Of(key),
            Display = "{name}",
            Fields = [.. fields],
        };

    private static Definitions With(params Entity[] entities) =>
        Definitions.Empty with
        {
            Entities = entities.ToImmutableSortedDictionary(entity => entity.Key, entity => entity),
        };
}

public sealed class SqliteRecordStoreTests : RecordStoreTests
{
    protected override Task<SqlDialect> Open() =>
        Task.FromResult<SqlDialect>(new SqliteDialect(Path.Combine(RunningService.NewFolder(), "records.db")));
}

public sealed class PostgresRecordStoreTests(Postgres postgres) : RecordStoreTests
{
    protected override async Task<SqlDialect> Open() =>
        new PostgresDialect(
            Npgsql.NpgsqlDataSource.Create(
                new Npgsql.NpgsqlConnectionStringBuilder(await (await postgres.Server).NewDatabase()) { Timezone = "UTC" }
            )
        );
}
