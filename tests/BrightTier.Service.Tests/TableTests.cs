using System.Net;
using System.Net.Http.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Records out as tables and in again, as people have them.</summary>
public sealed class TableTests(DemoService service)
{
    [Fact]
    public async Task What_goes_out_as_csv_comes_in_again_all_or_nothing()
    {
        using var ada = await service.Http("ada");
        using var export = await ada.GetAsync("api/records/visitorCall/csv?sort=boatName", Cancel);
        export.Content.Headers.ContentType!.MediaType.ShouldBe("text/csv");
        var lines = (await export.Content.ReadAsStringAsync(Cancel)).Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        lines[0].ShouldStartWith("id,boatName,");

        async Task<HttpResponseMessage> Import(string text, bool dry = false) =>
            await ada.PostAsync($"api/records/visitorCall/csv?dryRun={dry}", Csv(text), Cancel);
        using var dry = await Import(
            "boatName,length,nights,arrivedOn\nTern One,7.2,1,2027-05-01\nTern Two,long,2,2027-05-02\n,8,1,tomorrow\n",
            dry: true
        );
        var report = (await dry.Content.ReadFromJsonAsync(WireJson.Default.TableImportReport, Cancel))!;
        report.Imported.ShouldBeFalse();
        report.Problems.Select(problem => (problem.Line, problem.Field)).ShouldBe([(3, "length"), (4, "arrivedOn")]);

        using var refused = await Import("boatName,length,nights,arrivedOn\nTern One,7.2,1,2027-05-01\nTern Two,long,2,2027-05-02\n");
        (await refused.Problem()).ShouldSatisfyAllConditions(
            problem => problem.Status.ShouldBe(422),
            problem => problem.Problems!.Single().Pointer.ShouldBe("/3/length")
        );
        using var client = await service.As("ada");
        (await client.Records("visitorCall", "Tern One", null, null, null, 5, Cancel)).Records.ShouldBeEmpty();

        using var taken = await Import("Boat,length,nights,arrivedOn\n\"Tern, One\",7.2,1,2027-05-01\nTern Two,9,2,2027-05-02\n");
        (await taken.Content.ReadFromJsonAsync(WireJson.Default.TableImportReport, Cancel))!.ShouldSatisfyAllConditions(
            done => done.Created.ShouldBe(2),
            done => done.Imported.ShouldBeTrue()
        );
        var record = (await client.Records("visitorCall", "Tern, One", null, null, null, 5, Cancel)).Records.Single();
        using var changed = await Import($"id,nights\n{record.Id},6\n");
        (await changed.Content.ReadFromJsonAsync(WireJson.Default.TableImportReport, Cancel))!.Changed.ShouldBe(1);
        (await client.Record("visitorCall", record.Id, Cancel)).Values.GetProperty("nights").GetInt64().ShouldBe(6);

        // An empty cell empties, wherever the id stands; a column that is not there leaves its field alone.
        using var emptied = await Import($"nights,id\n,{record.Id}\n");
        (await emptied.Content.ReadFromJsonAsync(WireJson.Default.TableImportReport, Cancel))!.Changed.ShouldBe(1);
        var after = (await client.Record("visitorCall", record.Id, Cancel)).Values;
        (after.TryGetProperty("nights", out _), after.GetProperty("length").GetDecimal()).ShouldBe((false, 7.2m));
    }

    [Theory]
    [InlineData("boatName\n", "There is nothing to import")]
    [InlineData("boatname2\nx\n", "did you mean 'boatName'?")]
    [InlineData("boatName,boatName\nx,y\n", "is named twice")]
    [InlineData("boatName\n\"x\n", "Line 2: a quotation mark is never closed")]
    public async Task Csv_that_is_no_table_of_records_is_refused_with_its_line(string text, string says)
    {
        using var ada = await service.Http("ada");
        using var answer = await ada.PostAsync("api/records/visitorCall/csv", Csv(text), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await answer.Problem()).Detail!.ShouldContain(says);
    }

    [Fact]
    public async Task Csv_leaves_out_what_one_may_not_read()
    {
        using var bram = await service.Http("bram");
        (await bram.GetStringAsync("api/records/vessel/csv", Cancel)).ShouldSatisfyAllConditions(
            text => text.ShouldNotContain("coverSum"),
            text => text.ShouldContain("Kittiwake")
        );
    }

    [Fact]
    public async Task What_a_table_is_is_guessed_and_told()
    {
        using var bram = await service.Http("bram");
        using var answer = await bram.PostAsync(
            "api/records/berth/csv/columns",
            Csv("Code;Grootste diepgang;Dagtarief;Gemeten\nZ-01;2,5;12;31-12-2026 08:00\nZ-02;;;\n"),
            Cancel
        );
        var info = (await answer.Content.ReadFromJsonAsync(WireJson.Default.TableInfo, Cancel))!;
        (info.Records, info.Separator, info.DecimalSeparator, info.DateOrder).ShouldBe((2, ";", ",", "dmy"));
        // The day rate is the office's: to others it is no field at all.
        info.Columns.Select(column => (column.Heading, column.Field))
            .ShouldBe([("Code", "code"), ("Grootste diepgang", "maxDraught"), ("Dagtarief", null), ("Gemeten", null)]);
        info.Columns[1].Examples.ShouldBe(["2,5"]);
        info.Targets.ShouldNotContain(target => target.Key == "dayRate");
        info.Targets.Single(target => target.Key == "code")
            .ShouldSatisfyAllConditions(code => code.Unique.ShouldBeTrue(), code => code.Required.ShouldBeTrue());
    }

    [Fact]
    public async Task Columns_go_where_somebody_says_and_lines_change_the_records_they_name()
    {
        await using var own = await HostedService.WithDemo();
        using var ada = await own.Http("ada");
        using var client = await own.As("ada");
        var berth = (await client.Records("berth", null, "code", null, null, 1, Cancel)).Records.Single();
        var code = berth.Values.GetProperty("code").GetString()!;
        var table = $"Waar;Wat;Diep;Onzin\n{code};Q;1,8;x\nZ-91;Q;2,1;y\n";
        const string Said = "columns=code,pontoon,maxDraught,&decimalSeparator=%2C";
        using var fresh = await ada.PostAsync($"api/records/berth/csv?dryRun=true&{Said}", Csv(table), Cancel);
        var report = (await fresh.Content.ReadFromJsonAsync(WireJson.Default.TableImportReport, Cancel))!;
        report.Problems[0].ShouldBe(new ImportProblem(2, "code", $"Code '{code}' is taken: another berth has it."));
        report.Problems.ShouldContain(problem => problem.Line == 3 && problem.Field == "zone", "a new berth needs a zone");

        using var taken = await ada.PostAsync(
            $"api/records/berth/csv?match=code&{Said}",
            Csv(table.Replace($"{code};Q", $"{code};Quay One", StringComparison.Ordinal).Split("Z-91")[0]),
            Cancel
        );
        (await taken.Content.ReadFromJsonAsync(WireJson.Default.TableImportReport, Cancel))!.ShouldSatisfyAllConditions(
            done => done.Changed.ShouldBe(1),
            done => done.Created.ShouldBe(0)
        );
        var values = (await client.Record("berth", berth.Id, Cancel)).Values;
        (
            values.GetProperty("pontoon").GetString(),
            values.GetProperty("maxDraught").GetDecimal(),
            values.GetProperty("zone").GetString()
        ).ShouldBe(("Quay One", 1.8m, berth.Values.GetProperty("zone").GetString()));
    }

    [Fact]
    public async Task References_are_named_as_people_name_them_and_every_line_says_what_is_wrong()
    {
        await using var own = await HostedService.WithDemo();
        using var ada = await own.Http("ada");
        using var client = await own.As("ada");
        var berth = (await client.Records("berth", null, "code", null, null, 1, Cancel)).Records.Single();
        var vessel = (await client.Record("vessel", 1, Cancel));
        string Line(string number, string of, string at) => $"{number},\"{of}\",\"{at}\",3/4/2027,Drafted\n";
        var heading = "number,vessel,berth,from,status\n";
        var right =
            Line("M-2027-901", vessel.Title.ToUpperInvariant(), berth.Values.GetProperty("code").GetString()!)
            + Line("M-2027-902", "1", berth.Title);
        using var wrong = await ada.PostAsync(
            "api/records/agreement/csv?dryRun=true&dateOrder=dmy",
            Csv(
                heading
                    + right
                    + Line("M-2027-902", "Flying Gull", "98765")
                    + Line("M-2027-903", "1", berth.Title).Replace("3/4", "3/14", StringComparison.Ordinal)
            ),
            Cancel
        );
        (await wrong.Content.ReadFromJsonAsync(WireJson.Default.TableImportReport, Cancel))!
            .Problems.Select(problem => $"{problem.Line} {problem.Message}")
            .ShouldBe(
                [
                    "4 Vessel must be the number or the name of a vessel; it is 'Flying Gull'.",
                    "4 Berth points at a berth that is not there; it is '98765'.",
                    "4 Number 'M-2027-902' stands in line 3 already.",
                    "5 From must be a date such as 2026-05-31; it is '3/14/2027'.",
                ],
                ignoreOrder: true
            );
        using var taken = await ada.PostAsync("api/records/agreement/csv?dateOrder=dmy", Csv(heading + right), Cancel);
        taken.StatusCode.ShouldBe(HttpStatusCode.OK, await taken.Content.ReadAsStringAsync(Cancel));
        var made = (await client.Records("agreement", "M-2027-901", null, null, null, 1, Cancel)).Records.Single().Values;
        (made.GetProperty("vessel").GetInt64(), made.GetProperty("berth").GetInt64(), made.GetProperty("from").GetString()).ShouldBe(
            (1, berth.Id, "2027-04-03")
        );
    }

    [Theory]
    [InlineData("columns=code", "columns", "says what 1 columns are; the table has 2")]
    [InlineData("columns=code,code", "/1/2", "named twice")]
    [InlineData("columns=,", "columns", "there is nothing to import")]
    [InlineData("columns=code,&match=pontoon", "match", "must be a unique field that has a column")]
    [InlineData("columns=id,code&match=code", "match", "leave 'match' out")]
    [InlineData("columns=code,&decimalSeparator=;", "decimalSeparator", "'.' or ','")]
    [InlineData("columns=code,&dateOrder=ydm", "dateOrder", "ymd, dmy or mdy")]
    public async Task What_a_table_means_is_said_rightly_or_refused(string said, string pointer, string says)
    {
        using var ada = await service.Http("ada");
        using var answer = await ada.PostAsync($"api/records/berth/csv?{said}", Csv("a,b\n1,2\n"), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        var problem = await answer.Problem();
        problem.Detail!.ShouldContain(says);
        problem.Problems!.Single().Pointer.ShouldBe(pointer);
    }

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static StringContent Csv(string text) => new(text, System.Text.Encoding.UTF8, "text/csv");
}
