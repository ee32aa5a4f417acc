using System.Net;
using System.Net.Http.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Entities, choice lists and the application as drafts, and what publishing them does.</summary>
public sealed class DefinitionTests(DemoService shared)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_new_entity_with_its_choices_is_published_and_used_with_its_generated_form()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var list = await ada.PutFile(
            "choice-list",
            "severity",
            "kind: choice-list\nkey: severity\nchoices: [{ key: low, label: Low }, { key: high, label: High }]\n",
            null,
            Cancel
        );
        var entity = await ada.PutFile(
            "entity",
            "logEntry",
            "kind: entity\nkey: logEntry\nlabel: Quay logEntry\nplural: Quay logEntrys\ndisplay: \"{finding}\"\nfields:\n"
                + "  - { key: finding, type: text, label: Finding, required: true }\n  - { key: severity, type: choice, "
                + "choices: severity, label: Severity }\n"
                + "  - { key: berth, type: reference, target: berth, label: Berth }\n  - { key: closedAt, type: dateTime, "
                + "label: Closed }\n  - { key: at, type: time, label: At }\n",
            null,
            Cancel
        );

        var missing = await Wire.Refused(() => ada.Publish(new PublishRequest([new("entity", "logEntry", entity.Revision)]), Cancel));
        missing.Problems!.Single().Message.ShouldContain("choice list 'severity'");
        await ada.Publish(
            new PublishRequest([new("entity", "logEntry", entity.Revision), new("choice-list", "severity", list.Revision)]),
            Cancel
        );

        (await ada.Entities(Cancel)).Select(each => each.Key).ShouldContain("logEntry");
        (await ada.Form("logEntry", "create", Cancel)).GetRawText().ShouldContain("\"field\":\"finding\"");
        var made = await ada.CreateRecord(
            "logEntry",
            new RecordSave(
                Wire.Json("""{"finding":"Loose cleat","severity":"high","berth":1,"closedAt":"2026-11-23T09:30:00+01:00","at":"14:05"}""")
            ),
            Cancel
        );
        made.Values.GetRawText().ShouldContain("\"closedAt\":\"2026-11-23T08:30:00Z\"");
        made.Values.GetProperty("at").GetString().ShouldBe("14:05");
        made.References["berth"].Title.ShouldBe("A1, North pontoon");
    }

    [Fact]
    public async Task A_field_may_be_retired_and_comes_back_but_keeps_its_type_for_good()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var file = await ada.File("entity", "keeper", Cancel);
        var retired = await ada.PutFile(
            "entity",
            "keeper",
            file.Text.Replace("  - key: website\n", "  - key: website\n    retired: true\n"),
            file.Tag,
            Cancel
        );
        await ada.Publish(new PublishRequest([new("entity", "keeper", retired.Revision)]), Cancel);
        (await ada.Record("keeper", 1, Cancel)).Values.GetProperty("website").GetString().ShouldBe("https://reed.example.org");
        (await ada.Layout("keeper", Cancel)).Findings.ShouldContain(finding => finding.Code == "field-retired");

        var typed = await ada.PutFile("entity", "keeper", file.Text.Replace("type: url", "type: text"), $"\"{retired.Revision}\"", Cancel);
        (await Wire.Refused(() => ada.Publish(new PublishRequest([new("entity", "keeper", typed.Revision)]), Cancel)))
            .Problems!.Single()
            .Code.ShouldBe("type-changed");
        await ada.Restore(1, new RestoreRequest(), Cancel);
        (await ada.Entity("keeper", Cancel)).Fields.Single(field => field.Key == "website").Retired.ShouldBeFalse();
    }

    [Fact]
    public async Task Publishing_an_entity_that_would_break_a_published_layout_is_refused_with_the_layout_named()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var file = await ada.File("entity", "vessel", Cancel);
        var stricter = await ada.PutFile(
            "entity",
            "vessel",
            file.Text.TrimEnd() + "\n  - { key: hullNumber, type: text, label: Hull number, required: true }\n",
            file.Tag,
            Cancel
        );

        var problem = await Wire.Refused(() => ada.Publish(new PublishRequest([new("entity", "vessel", stricter.Revision)]), Cancel));

        problem.Problems!.ShouldAllBe(part => part.Code == "required-field-missing");
        problem.Problems!.Select(part => part.Pointer.Split('/')[1]).ShouldBe(["vessel", "vessel-short"]);
        // With the layouts that place it, all go out together.
        var references = new List<DraftReference> { new("entity", "vessel", stricter.Revision) };
        foreach (var key in new[] { "vessel", "vessel-short" })
        {
            var draft = await ada.Layout(key, Cancel);
            var fix = draft.Findings.Single(finding => finding.Code == "required-field-missing").Fix!;
            references.Add(new("layout", key, (await ada.Edit(key, new EditRequest(draft.Revision, fix.Edits), Cancel)).Revision));
        }

        (await ada.Publish(new PublishRequest(references), Cancel)).Release.Number.ShouldBe(2);
    }

    [Theory]
    [InlineData("kind: entity\nkey: berth\nfields: [{ key: code, type: txt }]", "did you mean 'text'?")]
    [InlineData("kind: entity\nkey: pier", "names the entity 'berth'")]
    [InlineData("kind: choice-list\nkey: berth", "names the entity 'berth'")]
    [InlineData("{", "is not YAML")]
    public async Task A_wrong_definition_changes_nothing(string text, string message)
    {
        using var ada = await shared.As("ada");
        var before = await ada.File("entity", "berth", Cancel);

        var problem = await Wire.Refused(() => ada.PutFile("entity", "berth", text, before.Tag, Cancel));

        (problem.Detail + problem.Problems?[0].Message).ShouldContain(message);
        (await ada.File("entity", "berth", Cancel)).ShouldBe(before);
    }

    [Theory]
    [InlineData("""{"label":" ","type":"text"}""", "/label")]
    [InlineData("""{"label":"Shore power","type":"text"}""", "/label")]
    [InlineData("""{"label":"Fender","type":"txt"}""", "/type")]
    [InlineData("""{"label":"Fender","type":"reference","target":"nothing"}""", "/target")]
    [InlineData("""{"label":"Fender","type":"choice","choices":[" "]}""", "/choices")]
    [InlineData("""{"label":"Fender","type":"choice","choiceList":"nothing"}""", "/choiceList")]
    public async Task A_field_that_cannot_be_added_is_refused_with_the_place(string body, string pointer)
    {
        using var http = await shared.Http("ada");
        using var answer = await http.PostAsync("api/entities/berth/fields", RunningService.Json(body), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await answer.Problem()).Problems!.ShouldHaveSingleItem().Pointer.ShouldBe(pointer);
    }

    [Fact]
    public async Task A_field_is_added_to_the_draft_with_choices_of_its_own_and_nobody_sees_it_before_it_is_published()
    {
        await using var own = await HostedService.WithDemo();
        using var http = await own.Http("ada");
        using var answer = await http.PostAsync(
            "api/entities/berth/fields",
            RunningService.Json("""{"label":"Abri d'hiver, côté quai","type":"choice","choices":["Été","Été","Hiver"]}"""),
            Cancel
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.Created);
        (await answer.Content.ReadFromJsonAsync(WireJson.Default.AddedField, Cancel)).ShouldBe(
            new AddedField("abriDHiverCoteQuai", "abriDHiverCoteQuai")
        );
        var draft = (await http.GetFromJsonAsync("api/entities/berth?draft=true", WireJson.Default.EntityInfo, Cancel))!;
        draft.Fields.Single(field => field.Key == "abriDHiverCoteQuai").Choices!.Select(choice => choice.Key).ShouldBe(["ete", "hiver"]);
        (await http.GetFromJsonAsync("api/entities/berth", WireJson.Default.EntityInfo, Cancel))!.Fields.ShouldNotContain(field =>
            field.Key == "abriDHiverCoteQuai"
        );
        // What is asked about a record of now is answered though its table has no such column yet.
        using var why = await http.GetAsync("api/layouts/berth/explain?node=code&record=1", Cancel);
        why.StatusCode.ShouldBe(HttpStatusCode.OK);
        using var nobody = await http.GetAsync("api/layouts/berth/explain?node=code&record=98765", Cancel);
        nobody.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
