using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using BrightTier.Client;
using BrightTier.Contracts;
using Microsoft.Data.Sqlite;

namespace BrightTier.Service.Tests;

public sealed class RecordTests(DemoService service)
{
    private static int number = 2000;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_record_is_created_read_changed_deleted_and_brought_back()
    {
        using var ada = await service.As("ada");
        var made = await Make(ada);

        var changed = await ada.ChangeRecord(
            "vessel",
            made.Id,
            made.Version,
            Save("""{"beam":3.5,"equipment":["vhf","ais"],"livesAboard":false,"surveyDue":"2027-05-01","keeper":2}"""),
            Cancel
        );
        (changed.Version, changed.Values.GetProperty("beam").GetDecimal(), changed.Values.GetProperty("name").GetString()).ShouldBe(
            (2, 3.5m, "Dunlin")
        );
        changed.References["keeper"].Title.ShouldBe("Tobias Fenn");

        await ada.DeleteRecord("vessel", made.Id, 2, Cancel);
        (await Wire.Refused(() => ada.Record("vessel", made.Id, Cancel))).Status.ShouldBe(404);
        var back = await ada.RestoreRecord("vessel", made.Id, Cancel);
        back.Values.GetRawText().ShouldBe(changed.Values.GetRawText());
    }

    [Fact]
    public async Task The_second_of_two_people_saving_is_told_and_loses_nothing()
    {
        using var ada = await service.As("ada");
        using var cleo = await service.As("cleo");
        var made = await Make(ada);
        await ada.ChangeRecord("vessel", made.Id, 1, Save("""{"beam":3}"""), Cancel);

        var problem = await Wire.Refused(() => cleo.ChangeRecord("vessel", made.Id, 1, Save("""{"beam":4}"""), Cancel));

        (problem.Status, problem.Code).ShouldBe((412, "record-changed"));
        problem.Detail.ShouldNotBeNull().ShouldContain("ada");
        (await cleo.Record("vessel", made.Id, Cancel)).Values.GetProperty("beam").GetDecimal().ShouldBe(3);
    }

    [Theory]
    [InlineData("""{"lenght":3}""", "lenght", "did you mean 'length'?")]
    [InlineData("""{"length":"long"}""", "length", "must be a number")]
    [InlineData("""{"length":0.2}""", "length", "at least 1.5 m")]
    [InlineData("""{"length":9.123}""", "length", "more than 2 digits")]
    [InlineData("""{"registration":"SQ12"}""", "registration", "two capital letters")]
    [InlineData("""{"registration":"SQ-0417"}""", "registration", "taken")]
    [InlineData("""{"hullType":"mnoo"}""", "hullType", "did you mean 'mono'?")]
    [InlineData("""{"equipment":["radar","rdar"]}""", "equipment", "did you mean 'radar'?")]
    [InlineData("""{"name":null}""", "name", "is required")]
    [InlineData("""{"surveyDue":"31/12/2027"}""", "surveyDue", "must be a date such as")]
    [InlineData("""{"condition":6}""", "condition", "at most 5")]
    [InlineData("""{"keeper":4711}""", "keeper", "not there")]
    [InlineData("""{"livesAboard":"yes"}""", "livesAboard", "must be true, false or null")]
    public async Task A_wrong_value_is_answered_at_its_field(string values, string field, string message)
    {
        using var ada = await service.As("ada");

        var problem = await Wire.Refused(() => ada.ChangeRecord("vessel", 2, 1, Save(values), Cancel));

        problem.Status.ShouldBe(422);
        problem.Problems!.ShouldContain(
            part => part.Pointer == field && part.Message.Contains(message),
            string.Join("; ", problem.Problems!)
        );
    }

    [Fact]
    public async Task Who_may_see_what_is_decided_by_rights_and_never_leaves_the_service()
    {
        using var bram = await service.Http("bram");
        foreach (
            var path in new[]
            {
                "api/entities/vessel",
                "api/entities/berth",
                "api/forms/vessel?mode=edit",
                "api/forms/berth?mode=view",
                "api/records/vessel?limit=200",
                "api/records/vessel/1",
                "api/records/berth",
                "api/records/berth/lookup?q=",
                "api/records/vessel/csv",
                "api/records/vessel/1/history",
                "api/search?q=kittiwake",
            }
        )
        {
            using var answer = await bram.GetAsync(path, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, path);
            var text = await answer.Content.ReadAsStringAsync(Cancel);
            text.ShouldNotContain("\"coverSum\"", customMessage: path);
            text.ShouldNotContain("dayRate\":", customMessage: path);
            text.ShouldNotContain("25000", customMessage: path);
        }

        (await bram.GetAsync("api/records/berth?sort=dayRate", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        using var client = await service.As("bram");
        (await Wire.Refused(() => client.ChangeRecord("vessel", 1, 1, Save("""{"coverSum":1}"""), Cancel)))
            .Problems![0]
            .Code.ShouldBe("unknown");
        using var cleo = await service.As("cleo");
        (await Wire.Refused(() => cleo.ChangeRecord("vessel", 1, 1, Save("""{"coverSum":1}"""), Cancel))).Code.ShouldBe(
            "field-not-writable"
        );
    }

    [Fact]
    public async Task Lists_are_searched_sorted_and_paged_without_gap_or_repetition()
    {
        using var ada = await service.As("ada");
        foreach (var sort in new[] { "keeper", "-length", "engineHours", "-name", null })
        {
            var seen = new List<long>();
            string? after = null;
            do
            {
                var page = await ada.Records("vessel", null, sort, null, after, 5, Cancel);
                seen.AddRange(page.Records.Select(record => record.Id));
                after = page.Next;
            } while (after is not null);

            seen.ShouldBeUnique();
            seen.Count.ShouldBe((int)(await ada.Records("vessel", null, null, null, null, 1, Cancel)).Total, sort);
        }

        (await ada.Records("vessel", "plover", null, null, null, 50, Cancel)).Records.Single().Title.ShouldBe("Grey Plover, SQ-0588");
        (await ada.Records("vessel", "100%", null, null, null, 50, Cancel)).Total.ShouldBe(0);
        (await ada.LookUp("keeper", "sal", Cancel)).Select(name => name.Title).ShouldBe(["Pippa Salter", "Salma Haddad"]);
    }

    [Fact]
    public async Task Hidden_by_a_condition_on_the_record_keeps_its_stored_value_when_it_is_saved()
    {
        using var ada = await service.As("ada");
        var made = await Make(ada, """ "propulsion":"sail","mastHeight":14.5 """);

        var saved = await ada.ChangeRecord(
            "vessel",
            made.Id,
            1,
            new RecordSave(Wire.Json("""{"propulsion":"diesel","mastHeight":3}"""), new FormReference(1, "edit")),
            Cancel
        );

        saved.Values.GetProperty("propulsion").GetString().ShouldBe("diesel");
        saved.Values.GetProperty("mastHeight").GetDecimal().ShouldBe(14.5m);
    }

    [Fact]
    public async Task Saving_across_a_release_what_the_layout_requires_counts_only_for_saves_that_name_it()
    {
        using var ada = await service.As("ada");
        var made = await Make(ada);
        var values = Wire.Json("""{"coverInsurer":"Tidewater Mutual"}""");

        var problem = await Wire.Refused(() =>
            ada.ChangeRecord("vessel", made.Id, 1, new RecordSave(values, new FormReference(1, "edit")), Cancel)
        );
        problem.Problems!.Single().Pointer.ShouldBe("coverPolicy");
        (await ada.ChangeRecord("vessel", made.Id, 1, new RecordSave(values), Cancel)).Version.ShouldBe(2);
    }

    [Fact]
    public async Task Saving_across_a_release_with_what_the_newer_form_does_not_allow_is_a_conflict()
    {
        using var ada = await service.As("ada");
        var made = await Make(ada);

        var problem = await Wire.Refused(() =>
            ada.ChangeRecord(
                "vessel",
                made.Id,
                1,
                new RecordSave(Wire.Json("""{"coverInsurer":"Tidewater Mutual"}"""), new FormReference(0, "edit")),
                Cancel
            )
        );

        (problem.Status, problem.Code).ShouldBe((409, "form-changed"));
    }

    [Fact]
    public async Task A_record_others_refer_to_is_not_deleted_from_under_them()
    {
        using var ada = await service.As("ada");
        (await Wire.Refused(() => ada.DeleteRecord("keeper", 1, 1, Cancel))).Detail.ShouldNotBeNull().ShouldContain("Vessels (Keeper)");
    }

    [Fact]
    public async Task Anyone_with_plain_sql_reads_typed_columns_of_an_ordinary_table()
    {
        await using var connection = new SqliteConnection($"Data Source={Path.Combine(service.Running.Data, "records.db")};Mode=ReadOnly");
        await connection.OpenAsync(Cancel);
        await using var command = connection.CreateCommand();
        command.CommandText = """
            SELECT v.name, v.length, v.survey_due, v.cover_sum_minor, k.family_name, v.lives_aboard,
                typeof(v.length), typeof(v.engine_hours)
            FROM vessel v JOIN keeper k ON k.id = v.keeper WHERE v.registration = 'SQ-0588'
            """;
        await using var row = await command.ExecuteReaderAsync(Cancel);
        (await row.ReadAsync(Cancel)).ShouldBeTrue();
        (
            row.GetString(0),
            row.GetDouble(1),
            row.GetString(2),
            row.GetInt64(3),
            row.GetString(4),
            row.GetInt64(5),
            row.GetString(6),
            row.GetString(7)
        ).ShouldBe(("Grey Plover", 8.2, "2027-06-15", 3_800_000, "Haddad", 0, "real", "integer"));
    }

    [Fact]
    public async Task Files_are_kept_by_content_and_never_served_as_something_active()
    {
        using var http = await service.Http("ada");
        using var page = await http.PostAsync(
            "api/files?name=../../evil.html",
            new ByteArrayContent("<script>alert(1)</script>"u8.ToArray()) { Headers = { ContentType = new("application/octet-stream") } },
            Cancel
        );
        var stored = JsonSerializer.Deserialize(await page.Content.ReadAsStringAsync(Cancel), WireJson.Default.StoredFile)!;
        stored.Value.ShouldEndWith("/evil.html");

        using var served = await http.GetAsync($"api/files/{stored.Value}", Cancel);
        served.Content.Headers.ContentType!.MediaType.ShouldBe("application/octet-stream");
        served.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");

        using var picture = await http.PostAsync(
            "api/files?name=kittiwake.png",
            new ByteArrayContent([0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10, 0, 0, 0, 0])
            {
                Headers = { ContentType = new("application/octet-stream") },
            },
            Cancel
        );
        using var image = await http.GetAsync(
            $"api/files/{JsonSerializer.Deserialize(await picture.Content.ReadAsStringAsync(Cancel), WireJson.Default.StoredFile)!.Value}",
            Cancel
        );
        image.Content.Headers.ContentType!.MediaType.ShouldBe("image/png");
    }

    private static RecordSave Save(string values) => new(Wire.Json(values));

    private static Task<RecordInfo> Make(BrightTierClient client, string more = "\"beam\":3") =>
        client.CreateRecord(
            "vessel",
            Save(
                $$"""
                {"name":"Dunlin","registration":"SQ-{{Interlocked.Increment(ref number)}}","hullType":"mono",
                {{(more.Contains("propulsion") ? "" : "\"propulsion\":\"diesel\",")}}"length":9,{{more}}}
                """
            ),
            Cancel
        );

    [Fact]
    public async Task A_list_is_filtered_by_a_condition_and_sorted_by_several_fields()
    {
        using var ada = await service.As("ada");
        var sail = (
            await ada.Records(
                "vessel",
                null,
                "propulsion,-length",
                "record.propulsion == 'sail' || record.length > 12.0",
                null,
                200,
                Cancel
            )
        ).Records;
        sail.ShouldNotBeEmpty();
        sail.ShouldAllBe(record =>
            record.Values.GetProperty("propulsion").GetString() == "sail" || record.Values.GetProperty("length").GetDecimal() > 12m
        );
        var order = sail.Select(record =>
                (record.Values.GetProperty("propulsion").GetString(), -record.Values.GetProperty("length").GetDecimal())
            )
            .ToArray();
        order.ShouldBe(order.Order());

        // A step through a reference, and days counted from today.
        (await ada.Records("vessel", null, null, "record.berth.zone == 'inner'", null, 200, Cancel)).Records.ShouldNotBeEmpty();
        (
            await ada.Records("vessel", null, null, "record.surveyDue < today + duration('876000h')", null, 200, Cancel)
        ).Records.ShouldNotBeEmpty();
    }

    [Theory]
    [InlineData("record.lenght > 2.0", 400, "did you mean 'length'?")]
    [InlineData("record.length >", 400, "The filter, at character")]
    [InlineData("record.length * 2.0 > record.beam", 400, "a database cannot decide this")]
    [InlineData("record.coverSum > 1.0", 400, "no field 'coverSum'")]
    public async Task A_filter_that_cannot_be_is_refused_with_its_place(string filter, int status, string says)
    {
        using var bram = await service.As("bram");
        (await Wire.Refused(() => bram.Records("vessel", null, null, filter, null, 5, Cancel))).ShouldSatisfyAllConditions(
            each => each.Status.ShouldBe(status),
            each => each.Detail!.ShouldContain(says)
        );
        (await Wire.Refused(() => bram.Records("vessel", null, "coverSum", null, null, 5, Cancel))).Status.ShouldBe(404);
    }

    [Fact]
    public async Task The_published_list_brings_its_own_filter_and_order()
    {
        using var ada = await service.As("ada");
        await ada.CreateRecord("visitorCall", Save("""{"boatName":"Old Tern","arrivedOn":"2001-01-01","length":8,"nights":1}"""), Cancel);
        using var http = await service.Http("ada");
        var listed = await http.GetFromJsonAsync("api/records/visitorCall?listed=true&limit=200", WireJson.Default.RecordPage, Cancel);
        var all = await http.GetFromJsonAsync("api/records/visitorCall?limit=200", WireJson.Default.RecordPage, Cancel);
        listed!.Total.ShouldBeLessThan(all!.Total);
        var days = listed.Records.Select(record => record.Values.GetProperty("arrivedOn").GetString()).ToArray();
        days.ShouldBe(days.OrderDescending());
        var named = await http.GetFromJsonAsync(
            "api/records/vessel/lookup?ids=3,1&display={name}",
            WireJson.Default.IReadOnlyListRecordName,
            Cancel
        );
        named!.Select(each => each.Id).ShouldBe([3, 1]);
        named![0].Title.ShouldNotContain(",");
        (
            await http.GetFromJsonAsync(
                "api/records/berth/lookup?filter=record.zone%20%3D%3D%20'outer'",
                WireJson.Default.IReadOnlyListRecordName,
                Cancel
            )
        )!.ShouldNotBeEmpty();
    }

    [Theory]
    [InlineData("api/records/vessel", """{"values":{"name":"Curlew \ud800"}}""")]
    [InlineData("api/records/vessel", """{"values":{"name\udc00":"Curlew"}}""")]
    [InlineData(
        "api/layouts/vessel/edits",
        """{"base":1,"edits":[{"op":"set","node":"measures","property":"title","value":"Half \ude06"}]}"""
    )]
    public async Task Half_a_character_is_refused_and_said(string path, string body)
    {
        using var http = await service.Http("ada");
        using var answer = await http.PostAsync(path, BrightTier.Testing.RunningService.Json(body), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await answer.Problem()).Detail!.ShouldContain("half a character");
    }
}
