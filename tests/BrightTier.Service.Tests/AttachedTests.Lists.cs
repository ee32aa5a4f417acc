namespace BrightTier.Service.Tests;

// Rows in lists: pages, orders, filters, and what is said of those that would take long.
public abstract partial class AttachedTests
{
    [Theory]
    [InlineData("part", "")]
    [InlineData("part", "name")]
    [InlineData("part", "-price,name")]
    [InlineData("part", "state,-code")]
    [InlineData("part", "-supplier")]
    [InlineData("stockLevel", "")]
    [InlineData("stockLevel", "-amount")]
    [InlineData("movement", "-delta")]
    [InlineData("partPrice", "price")]
    [InlineData("supplier", "since")]
    [InlineData("supplier", "-since")]
    public async Task Every_row_is_on_one_page_in_any_order(string entity, string sort)
    {
        await AttachAll();
        var (seen, after) = (new List<long>(), (string?)null);
        do
        {
            var page = await greta.Records(entity, null, sort, null, after, 17, Cancel);
            seen.AddRange(page.Records.Select(record => record.Id));
            page.Total.ShouldBe(entity == "supplier" ? 3 : 130);
            after = page.Next;
        } while (after is not null);

        seen.Count.ShouldBe(entity == "supplier" ? 3 : 130);
        seen.ShouldBeUnique();
    }

    [Theory]
    [InlineData("part", "record.price > 100.0 && record.price < 110", 10)]
    [InlineData("part", "record.state == 'soldOut'", 43)]
    [InlineData("part", "record.supplier == 1", 65)]
    [InlineData("part", "record.supplier.name == 'Sails'", 65)]
    [InlineData("part", "record.name.startsWith('Part 12')", 11)]
    [InlineData("part", "has(record.notes)", 0)]
    [InlineData("supplier", "record.since == null", 2)]
    [InlineData("stockLevel", "record.store == 2 && record.amount >= 100", 15)]
    [InlineData("stockLevel", "record.part.state == 'inStock'", 44)]
    public async Task Filters_select_what_they_select_anywhere(string entity, string filter, int count)
    {
        await AttachAll();
        (await greta.Records(entity, null, null, filter, null, 5, Cancel)).Total.ShouldBe(count);
    }

    [Fact]
    public async Task What_hangs_on_a_record_is_found_by_whatever_key_it_has()
    {
        await AttachAll();
        var part = await Part("P-007");
        var level = (
            await greta.Records("stockLevel", null, null, $"record.part == {part.Id}", null, 5, Cancel)
        ).Records.ShouldHaveSingleItem();
        level.References["part"].Title.ShouldBe("Part 7, P-007");
        level.Title.ShouldBe("Part 7, P-007, South");
        (await greta.Records("movement", null, null, $"record.stockLevel == {level.Id}", null, 5, Cancel))
            .Records.ShouldHaveSingleItem()
            .References["stockLevel"]
            .Title.ShouldBe("Part 7, P-007, South", "what only joins others is called by what it joins");
        (await greta.Records("movement", null, null, $"record.stockLevel != {level.Id}", null, 5, Cancel)).Total.ShouldBe(129);
        (await greta.Record("supplier", 9_007_199_254_740, Cancel)).Title.ShouldBe(
            "Far",
            "a number that is the key is the record's number"
        );
    }

    [Fact]
    public async Task What_no_index_leads_to_in_a_large_table_is_told_before_it_is_read()
    {
        await Ask(
            "CREATE TABLE reading (id NUMBERED, gauge VARCHAR(20), level NUMERIC(10, 2))".Replace(
                "NUMBERED",
                Numbered,
                StringComparison.Ordinal
            )
        );
        await Ask(
            """
            WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 120000)
            INSERT INTO reading (id, gauge, level) SELECT i, 'G-' || i, i * 0.5 FROM n
            """
        );
        await Ask("CREATE INDEX reading_gauge ON reading (gauge)");
        await Ask("ANALYZE");
        await AttachAll();
        (await greta.Records("reading", null, null, null, null, 5, Cancel)).Records.Count.ShouldBe(5);
        (await greta.Records("reading", null, "gauge", "record.gauge == 'G-7' && record.level > 1.0", null, 5, Cancel)).Total.ShouldBe(1);
        foreach (var (search, sort, filter, about) in Slow)
        {
            var told = await Wire.Refused(() => greta.Records("reading", search, sort, filter, null, 5, Cancel));
            (told.Status, told.Code).ShouldBe((409, "slow"));
            told.Detail!.ShouldContain(about);
            (await greta.Records("reading", search, sort, filter, null, 5, Cancel, slow: true)).Records.Count.ShouldBeGreaterThan(0);
        }
    }

    private static readonly (string? Search, string? Sort, string? Filter, string About)[] Slow =
    [
        (null, "level", null, "leads to Level"),
        (null, null, "record.level > 50000.0", "leads to Level"),
        (null, null, "record.level > 59000.0 || record.gauge == 'G-1'", "leads to Level, Gauge"),
        ("G-11", null, null, "leads to Gauge"),
    ];
}
