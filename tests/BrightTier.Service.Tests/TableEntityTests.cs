using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>A table becomes an entity with forms, list and records: why is said, and it is all or nothing.</summary>
public sealed class TableEntityTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Twelve lines as a spreadsheet in the Netherlands saves them.</summary>
    private const string Moorings =
        "mooring_no;Name;Vessel;Laid on;Depth;Fee;State;Lit;Warden mail;Remarks\r\n"
        + "M-01;Long Pool;Avocet;31-05-2019;2,4 m;€ 120,00;open;ja;pool@example.org;\"Two lines,\nof text\"\r\n"
        + "M-02;Short Pool;Kittiwake;01-06-2019;2,1 m;€ 95,50;open;nee;;\r\n"
        + "M-03;Mud Reach;Avocet;02-06-2019;1,8 m;€ 80,00;closed;nee;;\r\n"
        + "M-04;Ferry Steps;;17-02-2020;3,0 m;€ 140,00;open;ja;;\r\n"
        + "M-05;Old Quay;;18-02-2020;3,2 m;€ 140,00;open;ja;;\r\n"
        + "M-06;New Quay;;19-02-2020;3,2 m;€ 150,00;closed;ja;;\r\n";

    [Fact]
    public async Task A_table_tells_what_its_columns_are_and_why()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var sketch = await ada.SketchTable(new TableRequest("Moorings 2026.csv", Moorings), Cancel);
        (sketch.Key, sketch.Label, sketch.Plural, sketch.Records).ShouldBe(("mooring", "Mooring", "Moorings", 6));
        (sketch.DecimalSeparator, sketch.DateOrder, sketch.Doubtful).ShouldBe((",", "dmy", 0));
        sketch
            .Columns.Select(column => (column.Label, column.Type))
            .ShouldBe([
                ("Mooring no", "text"),
                ("Name", "text"),
                ("Vessel", "reference"),
                ("Laid on", "date"),
                ("Depth", "decimal"),
                ("Fee", "money"),
                ("State", "choice"),
                ("Lit", "boolean"),
                ("Warden mail", "email"),
                ("Remarks", "longText"),
            ]);
        sketch.Columns.Single(column => column.Unique).Key.ShouldBe("mooringNo");
        sketch.Columns[2].Target.ShouldBe("vessel");
        sketch.Columns[4].Unit.ShouldBe("m");
        sketch.Columns[6].Choices.ShouldBe(["open", "closed"]);
        sketch.Columns.ShouldAllBe(column => column.Reason.EndsWith('.'));
    }

    [Fact]
    public async Task It_is_made_with_everything_in_one_act()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var made = await ada.CreateEntity(new TableRequest("Moorings.csv", Moorings), Cancel);
        (made.Entity, made.Records, made.Release).ShouldBe(("mooring", 6, 2));
        made.Layouts.ShouldBe(["mooring", "mooring-short", "mooring-list", "mooring-card"]);
        var first = await ada.Record("mooring", 1, Cancel);
        first.Values.GetRawText().ShouldContain("\"laidOn\":\"2019-05-31\"");
        first.Values.GetProperty("fee").GetDecimal().ShouldBe(120m);
        first.Values.GetProperty("vessel").GetInt64().ShouldBeGreaterThan(0);
        using var bram = await service.As("bram");
        (await bram.Navigation(Cancel)).ShouldContain(entry => entry.Entity == "mooring", "everybody has it at once");
        (await ada.DiffReleases("current", "drafts", Cancel)).Documents.ShouldBeEmpty();
    }

    [Fact]
    public async Task Cells_that_do_not_fit_are_named_and_nothing_is_made_unless_they_may_stay_empty()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var table = "Code,Since\n" + string.Concat(Enumerable.Range(1, 30).Select(i => $"C{i},{(i == 7 ? "soon" : $"2026-01-{i:00}")}\n"));
        var refused = await Wire.Refused(() => ada.CreateEntity(new TableRequest("codes.csv", table), Cancel));
        (refused.Status, refused.Code).ShouldBe((422, "import-refused"));
        refused
            .Problems!.Single()
            .ShouldSatisfyAllConditions(
                part => part.Pointer.ShouldBe("/8/since"),
                part => part.Message.ShouldBe("'soon' must be a date such as 2026-05-31.")
            );
        (await ada.Documents(Cancel)).ShouldNotContain(each => each.Key == "code");

        var made = await ada.CreateEntity(new TableRequest("codes.csv", table, EmptyDoubtful: true), Cancel);
        made.Records.ShouldBe(30);
        (await ada.Record("code", 7, Cancel)).Values.TryGetProperty("since", out _).ShouldBeFalse();
    }

    [Fact]
    public async Task What_somebody_insists_on_is_looked_for_before_anything_is_made()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var table = new TableRequest("Moorings", "Code,Name\nA,\nA,Long Pool\n", Columns: [new(Unique: true), new(Required: true)]);
        var refused = await Wire.Refused(() => ada.CreateEntity(table, Cancel));
        refused.Problems!.Select(part => part.Pointer).ShouldBe(["/2/name", "/3/code"], ignoreOrder: true);
        (await ada.Documents(Cancel)).ShouldNotContain(each => each.Key == "mooring");
    }

    [Theory]
    [InlineData("", 400)]
    [InlineData("Name\n\"open", 400)]
    public async Task What_is_no_table_is_refused_with_the_place(string text, int status)
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        (await Wire.Refused(() => ada.SketchTable(new TableRequest("x.csv", text), Cancel))).Status.ShouldBe(status);
    }

    [Fact]
    public async Task Headings_of_any_kind_become_labels_and_keys_that_hold()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var table =
            "id,Id,version,<b>Tide</b>,الاسم,,😀,name\u202Eevil,NAME OF THING,firstName\n"
            + string.Concat(Enumerable.Range(1, 4).Select(i => $"{i},{i},{i},a,ب,x,😀,y,=1+1,z{i}\n"));
        var sketch = await ada.SketchTable(new TableRequest("../..\\odd name!.CSV", table), Cancel);
        sketch.Columns.Select(column => column.Label).Distinct(StringComparer.OrdinalIgnoreCase).Count().ShouldBe(10);
        sketch.Columns.Select(column => column.Key).ShouldNotContain("id");
        var left = sketch.Columns.Select(column => new TableColumnRequest(Left: column.Heading.Contains('\u202E'))).ToArray();
        var made = await ada.CreateEntity(new TableRequest("../..\\odd name!.CSV", table, Columns: left), Cancel);
        made.Records.ShouldBe(4);
    }

    [Fact]
    public async Task Whoever_may_not_publish_makes_drafts_and_whoever_may_not_configure_nothing()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var drafted = await ada.CreateEntity(new TableRequest("Moorings.csv", Moorings, Publish: false), Cancel);
        (drafted.Records, drafted.Release).ShouldBe((0, null));
        (await ada.Entities(Cancel)).ShouldNotContain(each => each.Key == "mooring");
        using var bram = await service.As("bram");
        (await Wire.Refused(() => bram.CreateEntity(new TableRequest("Moorings.csv", Moorings), Cancel))).Status.ShouldBe(403);
    }

    [Fact]
    public async Task Headings_alone_make_an_entity_without_records_and_a_choice_must_offer_something()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        TableColumnRequest[] columns = [new(Type: "text"), new(Type: "choice")];
        var table = new TableRequest("Moorings", "Name,State", Label: "Mooring", Columns: columns);
        var refused = await Wire.Refused(() => ada.CreateEntity(table, Cancel));
        (refused.Status, refused.Problems![0].Pointer).ShouldBe((400, "/columns/1/choices"));

        columns[1] = columns[1] with { Choices = ["open", "closed", "Open"] };
        var made = await ada.CreateEntity(table with { Columns = columns }, Cancel);
        (made.Entity, made.Records, made.Release).ShouldBe(("mooring", 0, 2));
        (await ada.Entity("mooring", Cancel)).Fields[1].Choices!.Select(choice => choice.Label).ShouldBe(["open", "closed"]);
    }

    [Fact]
    public async Task It_is_the_first_thing_in_an_empty_service()
    {
        await using var service = await HostedService.Empty();
        var token = System.Text.RegularExpressions.Regex.Match(service.Output, "bt_[A-Za-z0-9_-]+").Value;
        using var first = new BrightTierClient(service.Address, token);
        var made = await first.CreateEntity(
            new TableRequest("Moorings.csv", Moorings.Replace("Vessel;", "Boat;", StringComparison.Ordinal)),
            Cancel
        );
        (made.Records, made.Release).ShouldBe((6, 1));
        (await first.Form("mooring", "view", Cancel)).GetProperty("layout").GetString().ShouldBe("mooring");
    }
}
