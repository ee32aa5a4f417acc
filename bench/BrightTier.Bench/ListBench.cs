using System.Collections.Immutable;
using System.Diagnostics;
using System.Globalization;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Records;
using Microsoft.Data.Sqlite;

namespace BrightTier.Bench;

/// <summary>
/// P11: a page of 50 from a million records, filtered and sorted by an indexed field, wherever in the list, beside the same SQL by hand.
/// </summary>
internal static class ListBench
{
    private const int Many = 1_000_000;

    /// <summary>The later half counts: by then what runs often has been compiled for speed.</summary>
    private const int Rounds = 200;

    private static readonly Entity Buoy = new()
    {
        Key = "buoy",
        Label = Texts.Of("Buoy"),
        Plural = Texts.Of("Buoys"),
        Display = "{name}",
        Fields =
        [
            new Field
            {
                Key = "name",
                Label = Texts.Of("Name"),
                Type = FieldType.Text,
            },
            new Field
            {
                Key = "depth",
                Label = Texts.Of("Depth"),
                Type = FieldType.Decimal,
                Scale = 2,
            },
            new Field
            {
                Key = "lit",
                Label = Texts.Of("Lit"),
                Type = FieldType.Boolean,
            },
            new Field
            {
                Key = "laidOn",
                Label = Texts.Of("Laid on"),
                Type = FieldType.Date,
            },
        ],
    };

    public static async Task<IReadOnlyList<Result>> Run()
    {
        Console.WriteLine("P11: a page of 50 from a million records");
        var file = Path.Combine(Directory.CreateTempSubdirectory("bright-tier-bench-").FullName, "records.db");
        var store = new SqlRecordStore(new SqliteDialect(file));
        var definitions = Definitions.Empty with { Entities = ImmutableSortedDictionary<string, Entity>.Empty.Add("buoy", Buoy) };
        await store.Define(definitions, new HashSet<(string, string)> { ("buoy", "name") }, CancellationToken.None);
        await Fill(file);

        var condition = Condition.Compile("record.lit == true && record.depth < 40.0", Buoy, definitions).Expression!;
        var filter = new RecordFilter(
            condition,
            EvaluationContext.Of(Condition.Values(Buoy, new Dictionary<string, object?>()), "", [], "view", "en", default, default),
            definitions
        );
        var results = new List<Result>();
        foreach (var (where, name) in new[] { ("first", ""), ("in the middle", "buoy 500000"), ("near the end", "buoy 999000") })
        {
            var query = new RecordQuery
            {
                Filters = [filter],
                Sort = [new SortBy(Buoy.Find("name")!, false)],
                Limit = 50,
                After = name.Length == 0 ? null : Cursor(name),
            };
            results.Add(
                await Measure(
                    $"P11 a page of 50 of 1,000,000, {where}",
                    async () => (await store.List(Buoy, query, CancellationToken.None)).Records.Count,
                    () => ByHand(file, name)
                )
            );
        }

        return results;
    }

    /// <summary>A page of 50 by ours and by hand, in turns; each answers how many records it has.</summary>
    internal static async Task<Result> Measure(string name, Func<Task<int>> list, Func<Task<int>> byHand)
    {
        var (ours, theirs) = (new List<double>(), new List<double>());
        for (var round = 0; round < Rounds; round++)
        {
            var clock = Stopwatch.GetTimestamp();
            var page = await list();
            var one = Stopwatch.GetElapsedTime(clock).TotalMilliseconds;
            clock = Stopwatch.GetTimestamp();
            var count = await byHand();
            var other = Stopwatch.GetElapsedTime(clock).TotalMilliseconds;
            if (page != 50 || count != 50)
            {
                throw new InvalidOperationException($"A page has {page} and {count} records.");
            }

            if (round >= Rounds / 2)
            {
                ours.Add(one);
                theirs.Add(other);
            }
        }

        return Result.Of(name, Median(ours), "ms", Median(theirs), 1.05, "lower");
    }

    private static double Median(List<double> times) => times.Order().ElementAt(times.Count / 2);

    private static string Cursor(string name) => Convert.ToBase64String(System.Text.Encoding.UTF8.GetBytes($"[\"{name}\",0]"));

    private static async Task Fill(string file)
    {
        await using var connection = new SqliteConnection($"Data Source={file}");
        await connection.OpenAsync();
        await using var command = connection.CreateCommand();
        command.CommandText = string.Create(
            CultureInfo.InvariantCulture,
            $"""
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < {Many})
            INSERT INTO buoy (version, created_at, created_by, changed_at, changed_by, name, depth, lit, laid_on)
            SELECT 1, '2026-01-01T00:00:00.000Z', 'bench', '2026-01-01T00:00:00.000Z', 'bench', printf('buoy %06d', (i * 7919) % {Many}),
              (i % 500) / 10.0, i % 3 = 0, date('2020-01-01', (i % 2000) || ' days') FROM n;
            ANALYZE;
            """
        );
        command.CommandTimeout = 300;
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>What one would write without any of this: the page, and the count as far as the list counts.</summary>
    private static async Task<int> ByHand(string file, string after)
    {
        await using var connection = new SqliteConnection($"Data Source={file};Pooling=True");
        await connection.OpenAsync();
        await using var count = connection.CreateCommand();
        count.CommandText = "SELECT count(*) FROM (SELECT 1 FROM buoy WHERE lit = 1 AND depth < 40.0 LIMIT 10001)";
        await count.ExecuteScalarAsync();
        await using var command = connection.CreateCommand();
        var from =
            after.Length == 0 ? "AND name IS NOT NULL" : "AND name COLLATE NOCASE >= $after AND (name COLLATE NOCASE > $after OR id > 0)";
        command.CommandText =
            $"SELECT id, version, created_at, created_by, changed_at, changed_by, name, depth, lit, laid_on FROM buoy WHERE "
            + $"lit = 1 AND depth < 40.0 "
            + $"{from} ORDER BY name COLLATE NOCASE, id LIMIT 51";
        command.Parameters.AddWithValue("$after", after);
        var rows = new List<object?[]>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            var row = new object?[reader.FieldCount];
            reader.GetValues(row!);
            rows.Add(row);
        }

        return Math.Min(50, rows.Count);
    }
}
