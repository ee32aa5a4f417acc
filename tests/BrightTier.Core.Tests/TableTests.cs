using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>Tables as people have them: what parts their cells, what their columns are, how numbers and days are written.</summary>
public sealed class TableTests
{
    private static readonly Entity Berth = Demo.Catalogue.Definitions.Entities["berth"];

    private static readonly Entity Agreement = Demo.Catalogue.Definitions.Entities["agreement"];

    private static readonly TimeZoneInfo Amsterdam = TimeZoneInfo.FindSystemTimeZoneById("Europe/Amsterdam");

    /// <summary>Any table of texts comes back as it was written, whatever is in its cells.</summary>
    [Fact]
    public void A_table_written_as_csv_is_read_back()
    {
        string[] cells =
        [
            "",
            "a",
            "1,5",
            "1;5",
            "\"",
            "two\nlines",
            "\r\n",
            "=1+1",
            "-3",
            "@x",
            "'",
            "'=",
            "+",
            "\t",
            "قارب",
            " padded ",
            "\"\"",
        ];
        var cell = Gen.Int[0, cells.Length - 1].Select(i => cells[i]);
        cell.Array[2, 4]
            .Array[1, 5]
            .Sample(rows =>
            {
                var (lines, problem) = CsvText.Read(string.Concat(rows.Select(CsvText.Line)));
                problem.ShouldBeNull();
                lines.Select(line => string.Join('\u0001', line.Cells)).ShouldBe(rows.Select(row => string.Join('\u0001', row)));
            });
    }

    [Fact]
    public void A_formula_is_disarmed_and_a_number_is_not()
    {
        CsvText.Line(["=1+1", "-3.5", "+31 6", "@me"]).ShouldBe("'=1+1,-3.5,'+31 6,'@me\r\n");
        CsvText
            .Read("a,\"b\nc")
            .Problem!.Value.Message.English.ShouldBe(
                "a quotation mark is never closed, or text stands behind a closing one; a mark inside a cell is doubled"
            );
        CsvText.Read("a\n\"b\"c").Problem!.Value.Line.ShouldBe(2);
        CsvText.Read("a\n" + new string(',', Limits.Columns - 1)).Problem.ShouldBeNull();
        CsvText
            .Read("a\n" + new string(',', Limits.Columns))
            .Problem!.Value.Message.English.ShouldBe("this line has more than 3000 cells, which is the most a table can have");
    }

    [Theory]
    [InlineData("a;b\n1,5;2\n", ';')]
    [InlineData("a\tb\n1,5\t2\n", '\t')]
    [InlineData("\"a;b;c\",d\n1,2\n", ',')]
    [InlineData("a\n1;2\n", ',')]
    public void Cells_are_parted_by_what_parts_the_first_line(string text, char separator)
    {
        CsvText.Separator(text).ShouldBe(separator);
        CsvText.Read(text).Lines[0].Cells.Count.ShouldBe(text[0] == '"' ? 2 : text.Split('\n')[0].Split(separator).Length);
    }

    [Fact]
    public void Columns_are_known_by_key_by_label_in_any_language_and_when_nearly_spelled_so()
    {
        var fields = Berth.Current.ToArray();
        ColumnGuess
            .Of(["id", "CODE", "Steiger", "longest vessel", "Diepste_diepgang", "Strom", "", "x"], fields)
            .ShouldBe(["id", "code", "pontoon", "maxLength", "maxDraught", null, null, null]);
        ColumnGuess.Of(["Grootste diepgag", "Draught deepest"], fields).ShouldBe(["maxDraught", null]);
        ColumnGuess.Of(["Code", "code", "Kode"], fields).ShouldBe(["code", null, null], "a field is given to one column");
    }

    [Theory]
    [InlineData('.', "1,250.5", "1250.5")]
    [InlineData(',', "1.250,5", "1250.5")]
    [InlineData(',', "12,5 m", "12.5")]
    [InlineData('.', "-3", "-3")]
    [InlineData('.', "1,25", null)]
    [InlineData(',', "1.25", null)]
    [InlineData('.', "12.5 kg", null)]
    [InlineData('.', "€ 1", "1")]
    public void A_number_is_read_as_its_table_writes_it_or_refused(char point, string cell, string? value)
    {
        var message = new CsvFormat(point, DayOrder.YearMonthDay, Amsterdam).Read(
            Berth.Find("maxLength")! with
            {
                Min = null,
            },
            Demo.Catalogue.Definitions,
            cell,
            out var read
        );
        (message is null ? FieldValues.ToCell(read) : null).ShouldBe(value, message?.English);
    }

    [Theory]
    [InlineData(DayOrder.DayMonthYear, "3-4-2026", "2026-04-03")]
    [InlineData(DayOrder.MonthDayYear, "3/4/2026", "2026-03-04")]
    [InlineData(DayOrder.MonthDayYear, "2026-05-31", "2026-05-31")]
    [InlineData(DayOrder.DayMonthYear, "31.05.2026 00:00", "2026-05-31")]
    [InlineData(DayOrder.DayMonthYear, "31.05.2026 08:00", null)]
    [InlineData(DayOrder.MonthDayYear, "31/05/2026", null)]
    [InlineData(DayOrder.YearMonthDay, "3-4-2026", null)]
    public void A_day_is_read_in_its_tables_order_or_refused(DayOrder order, string cell, string? value)
    {
        var message = new CsvFormat('.', order, Amsterdam).Read(Agreement.Find("from")!, Demo.Catalogue.Definitions, cell, out var read);
        (message is null ? FieldValues.ToCell(read) : null).ShouldBe(value, message?.English);
    }

    [Theory]
    [InlineData("31-05-2026 14:30", "2026-05-31T12:30:00Z")]
    [InlineData("2026-01-31T14:30", "2026-01-31T13:30:00Z")]
    [InlineData("2026-05-31T14:30:00Z", "2026-05-31T14:30:00Z")]
    [InlineData("29-03-2026 02:30", null)]
    public void A_moment_without_a_zone_is_the_applications(string cell, string? value)
    {
        var message = new CsvFormat('.', DayOrder.DayMonthYear, Amsterdam).Read(
            Berth.Find("surveyedAt")!,
            Demo.Catalogue.Definitions,
            cell,
            out var read
        );
        (message is null ? FieldValues.ToCell(read) : null).ShouldBe(value, message?.English);
    }

    [Fact]
    public void Choices_are_read_by_label_and_yes_and_no_by_word()
    {
        var zone = Demo.Catalogue.Definitions.ChoiceLists["zone"].Choices[0];
        Read("zone", zone.Label.In("nl").ToUpperInvariant()).ShouldBe(zone.Key);
        Read("zone", zone.Key).ShouldBe(zone.Key);
        Read("zone", "nowhere").ShouldBe("nowhere");
        Read("water", "Ja").ShouldBe(true);
        Read("water", "0").ShouldBe(false);
        CsvFormat
            .Own.Read(Berth.Find("water")!, Demo.Catalogue.Definitions, "perhaps", out _)!
            .English.ShouldBe("must be yes or no, or true or false");

        static object? Read(string field, string cell)
        {
            CsvFormat.Own.Read(Berth.Find(field)!, Demo.Catalogue.Definitions, cell, out var value).ShouldBeNull();
            return value;
        }
    }

    [Fact]
    public void How_a_table_writes_is_guessed_from_what_can_only_be_meant_one_way()
    {
        var (length, from) = (Berth.Find("maxLength")!, Agreement.Find("from")!);
        CsvFormat
            .Guess([(length, "12,5"), (length, "1.250"), (from, "03/04/2026"), (from, "03/31/2026")], monthFirst: false)
            .ShouldBe((',', DayOrder.MonthDayYear));
        CsvFormat.Guess([(length, "1,250"), (from, "03-04-2026")], monthFirst: true).ShouldBe(('.', DayOrder.DayMonthYear));
        CsvFormat.Guess([(null, "31/04/2026"), (Berth.Find("code")!, "1,5")], monthFirst: true).ShouldBe(('.', DayOrder.DayMonthYear));
        CsvFormat.Guess([], monthFirst: true).ShouldBe(('.', DayOrder.YearMonthDay));
    }

    [Theory]
    [InlineData("en", null, true)]
    [InlineData("en", "US", true)]
    [InlineData("en", "GB", false)]
    [InlineData("nl", null, false)]
    [InlineData("ar", "EG", false)]
    public void What_nothing_tells_is_read_as_in_the_region_of_whoever_brings_the_table(string language, string? region, bool monthFirst)
    {
        CsvFormat.WritesMonthFirst(language, region).ShouldBe(monthFirst);
        var from = Agreement.Find("from")!;
        CsvFormat
            .Guess([(from, "03/04/2026")], CsvFormat.WritesMonthFirst(language, region))
            .Days.ShouldBe(monthFirst ? DayOrder.MonthDayYear : DayOrder.DayMonthYear);
        CsvFormat.Guess([(from, "03/31/2026")], monthFirst: false).Days.ShouldBe(DayOrder.MonthDayYear, "what tells is believed");
    }

    /// <summary>What an export writes is read back as it was, whatever the field's type.</summary>
    [Fact]
    public void What_is_written_to_a_cell_is_read_from_it()
    {
        var number = Gen.Decimal[-999_999m, 999_999m].Select(value => (Berth.Find("maxLength")!, (object)decimal.Round(value, 1)));
        var day = Gen.DateOnly.Select(value => (Agreement.Find("from")!, (object)value));
        var moment = Gen.Long[0, 4_000_000_000]
            .Select(value => (Berth.Find("surveyedAt")!, (object)DateTimeOffset.FromUnixTimeSeconds(value)));
        var flag = Gen.Bool.Select(value => (Berth.Find("water")!, (object)value));
        Gen.OneOf(number, day, moment, flag)
            .Sample(pair =>
            {
                CsvFormat.Own.Read(pair.Item1, Demo.Catalogue.Definitions, FieldValues.ToCell(pair.Item2), out var value).ShouldBeNull();
                value.ShouldBe(pair.Item2);
            });
    }
}
