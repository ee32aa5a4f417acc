using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// Whole jobs of a configurator, each by mouse and by keyboard alone. Every one ends with undoing all of it back to the start. How many
/// actions each
/// took is written to bench/actions.json.
/// </summary>
public sealed class JobTests(Chromium chromium)
{
    private const string Survey = """
        kind: entity
        key: survey
        label: Survey
        plural: Surveys
        display: "{name}"
        fields:
          - { key: name, type: text, label: Name, required: true }
          - { key: hullNumber, type: text, label: Hull number }
          - { key: builder, type: text, label: Builder }
          - { key: flag, type: text, label: Flag }
          - { key: length, type: decimal, label: Length }
          - { key: beam, type: decimal, label: Beam }
          - { key: draught, type: decimal, label: Draught }
          - { key: airDraught, type: decimal, label: Air draught }
          - { key: weight, type: decimal, label: Weight }
          - { key: built, type: integer, label: Built in }
          - { key: surveyedOn, type: date, label: Surveyed on }
          - { key: dueOn, type: date, label: Due on }
          - { key: surveyor, type: text, label: Surveyor }
          - { key: grade, type: rating, label: Grade }
          - { key: passed, type: boolean, label: Passed }
          - { key: fee, type: money, label: Fee }
          - { key: findings, type: longText, label: Findings }
          - { key: advice, type: longText, label: Advice }
          - { key: agent, type: text, label: Agent }
          - { key: agentPhone, type: phone, label: Agent phone }
          - { key: agentEmail, type: email, label: Agent e-mail }
          - { key: yard, type: text, label: Yard }
          - { key: yardPhone, type: phone, label: Yard phone }
          - { key: yardSite, type: url, label: Yard site }
        """;

    /// <summary>Where the first job begins: sections by type, as somebody who never laid out a form makes them.</summary>
    private const string SurveyForm = """
        kind: full
        key: survey
        entity: survey
        title: Survey
        top:
          text: "{name}"
        body:
          pages:
            - title: Survey
              id: page
              sections:
                - { id: identity, title: Survey, rows: [[name/6]] }
                - { id: contact, title: Contact, rows: [[agentPhone/3, agentEmail/6, yardPhone/3], [yardSite/6]] }
                - { id: figures, title: Figures, rows: [[length/3, beam/3, draught/3, airDraught/3], [weight/3, built/3, grade/3]] }
                - { id: dates, title: Dates, rows: [[surveyedOn/3, dueOn/3]] }
                - id: details
                  title: Details
                  rows: [[hullNumber/6, builder/6], [flag/6, surveyor/6], [passed/3, fee/3, agent/6], [yard/6]]
                - { id: notes, title: Notes, rows: [[findings], [advice]] }
        """;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Part Field(string key, string name, string? tab = null) => new(key, name, tab);

    /// <summary>Does a job with one kind of hands, looks at what came of it, undoes all of it and notes the number of actions.</summary>
    private async Task Job(string name, string with, string layout, Func<Hands, Task> work, Func<string, Task> look)
    {
        await using var service = await HostedService.WithDemo();
        using var client = await service.As("ada");
        if (layout == "survey")
        {
            await client.PutFile("entity", "survey", Survey, null, Cancel);
            await client.PutFile("layout", "survey", SurveyForm, null, Cancel);
        }

        if (layout == "vessel")
        {
            // The covers are not on it yet.
            var full = await client.Layout(layout, Cancel);
            await client.Edit(
                layout,
                new EditRequest(
                    full.Revision,
                    JsonSerializer.Deserialize<JsonElement>("""[{"op":"remove","node":"hullCover"},{"op":"remove","node":"thirdCover"}]"""),
                    "Without covers"
                ),
                Cancel
            );
        }

        var before = await client.Layout(layout, Cancel);
        await using var ada = await (
            with == "finger" ? chromium.Touch(service, "Ada Wader", width: 1180) : chromium.Open(service, "Ada Wader")
        );
        Hands hands = with switch
        {
            "mouse" => new MouseHands(ada),
            "keyboard" => new KeyboardHands(ada),
            _ => new FingerHands(ada),
        };
        await hands.Begin(layout);
        await work(hands);
        var actions = await hands.Actions();
        await Window.Eventually(async () => await look((await client.File("layout", layout, Cancel)).Text));
        // Back to the start, which is the last job.
        await hands.UndoAll();
        await Window.Eventually(async () =>
            JsonNode
                .Parse((await client.Layout(layout, Cancel)).Tree.GetRawText())!
                .ToJsonString()
                .ShouldBe(JsonNode.Parse(before.Tree.GetRawText())!.ToJsonString())
        );
        ada.Complaints.ShouldBeEmpty();
        Note(name, hands.With, actions);
    }

    private static readonly Lock Writing = new();

    private static void Note(string job, string with, int actions)
    {
        lock (Writing)
        {
            var path = Path.Combine(RunningService.Checkout, "bench", "actions.json");
            var all = File.Exists(path) ? JsonNode.Parse(File.ReadAllText(path))!.AsObject() : [];
            var noted = all[job] as JsonObject ?? [];
            if ((int?)noted[with] == actions)
            {
                return;
            }

            all[job] = noted;
            noted[with] = actions;
            File.WriteAllText(path, all.ToJsonString(new JsonSerializerOptions { WriteIndented = true }) + "\n");
        }
    }

    [Theory]
    [InlineData("mouse")]
    [InlineData("keyboard")]
    public Task Twenty_four_fields_into_three_tabs_and_six_sections(string with) =>
        Job(
            "a: 24 fields into three tabs, six sections, columns and two full-width texts",
            with,
            "survey",
            async hands =>
            {
                var page = new Part("page", "Survey");
                await hands.PlaceNext("Tab", "Add a tab");
                await hands.Changes(1);
                await hands.Name("Papers");
                await hands.Changes(2);
                await hands.PlaceNext("Tab", "Add a tab");
                await hands.Changes(3);
                await hands.Name("People");
                await hands.Changes(4);
                var changes = 4;
                var (papers, people) = (new Part("papers", "Papers"), new Part("people", "People"));
                await hands.Open(page);
                foreach (
                    var (section, tab, columns) in new[]
                    {
                        (new Part("notes", "Notes", "page"), papers, 1),
                        (new Part("dates", "Dates", "page"), papers, 2),
                        (new Part("contact", "Contact", "page"), people, 3),
                    }
                )
                {
                    await hands.ToTab(section, tab);
                    await hands.Changes(++changes);
                    if (columns > 1)
                    {
                        await hands.Columns(section, columns);
                        await hands.Changes(++changes);
                    }
                }

                await hands.Select(Field("hullNumber", "Hull number"), Field("flag", "Flag"), 2);
                changes += await hands.Below(Field("hullNumber", "Hull number"), Field("name", "Name"));
                await hands.Changes(changes);
                await hands.Open(page);
                await hands.Select(Field("surveyor", "Surveyor"), Field("fee", "Fee"), 2);
                changes += await hands.ToTab(Field("surveyor", "Surveyor"), papers, Field("dueOn", "Due on"));
                await hands.Changes(changes);
                await hands.Open(page);
                await hands.ToTab(new Part("details", "Details"), people);
                await hands.Changes(++changes);
                await hands.Columns(new Part("details", "Details"), 2);
                await hands.Changes(++changes);
                await hands.Columns(new Part("figures", "Figures"), 3);
                await hands.Changes(++changes);
            },
            text =>
            {
                text.Split("      - id:").Length.ShouldBeGreaterThan(3);
                var rows = text.Split('\n').Select(line => line.Trim()).ToArray();
                rows.ShouldContain("- [findings]");
                rows.ShouldContain("- [advice]");
                text.Split("columns: 3").Length.ShouldBe(3);
                text.Split("columns: 2").Length.ShouldBe(3);
                return Task.CompletedTask;
            }
        );

    [Theory]
    [InlineData("mouse")]
    [InlineData("keyboard")]
    [InlineData("finger")]
    public Task A_phone_variant_hides_eight_fields(string with) =>
        Job(
            "b: a phone variant that hides eight fields",
            with,
            "berth",
            async hands =>
            {
                await hands.Do("Create a narrow form", onSelection: false);
                await hands.Changes(1);
                await hands.Select(Field("pontoon", "Pontoon"), Field("water", "Water"), 7);
                await hands.Remove();
                await hands.Changes(2);
            },
            text =>
            {
                text.Split("hidden: true").Length.ShouldBe(9);
                return Task.CompletedTask;
            }
        );

    [Theory]
    [InlineData("mouse")]
    [InlineData("keyboard")]
    public Task A_cover_piece_is_used_twice(string with) =>
        Job(
            "c: a cover piece used twice",
            with,
            "vessel",
            async hands =>
            {
                await hands.Place("Insurance cover", "Add the piece Insurance cover", Field("berth", "Berth"), "below");
                await hands.Changes(1);
                await hands.PlaceNext("Insurance cover", "Add the piece Insurance cover");
                await hands.Changes(2);
            },
            text =>
            {
                text.Split("piece: cover").Length.ShouldBe(3);
                text.ShouldContain("slots: { insurer: coverInsurer, policy: coverPolicy, sum: coverSum, until: coverUntil }");
                text.ShouldContain("slots: { insurer: thirdInsurer, policy: thirdPolicy, sum: thirdSum, until: thirdUntil }");
                return Task.CompletedTask;
            }
        );

    [Theory]
    [InlineData("mouse")]
    [InlineData("keyboard")]
    [InlineData("finger")]
    public Task A_tall_description_stands_beside_three_stacked_fields(string with) =>
        Job(
            "d: a tall description beside three stacked short fields",
            with,
            "survey",
            async hands =>
            {
                await hands.Move(Field("dueOn", "Due on"), Field("surveyedOn", "Surveyed on"), 0.5, 0.8, "below");
                await hands.Changes(1);
                await hands.Move(Field("passed", "Passed"), Field("dueOn", "Due on"), 0.5, 0.8, "below");
                await hands.Changes(2);
                await hands.Move(Field("findings", "Findings"), Field("surveyedOn", "Surveyed on"), 0.9, 0.3, "after");
                await hands.Changes(3);
                await hands.Lines(Field("findings", "Findings"), 12);
            },
            text =>
            {
                text.ShouldContain("lines: 12");
                return Task.CompletedTask;
            }
        );

    [Theory]
    [InlineData("mouse")]
    [InlineData("keyboard")]
    public Task A_code_is_validated_by_a_pattern_with_samples(string with) =>
        Job(
            "e: a code validated by a pattern with samples",
            with,
            "survey",
            async hands =>
            {
                await hands.Select(Field("hullNumber", "Hull number"));
                await hands.Fill(("Pattern", "H[0-9]{3}"), ("Must match, one a line", "H001"), ("Must not match, one a line", "h1"));
                await hands.Changes(3);
            },
            text =>
            {
                text.ShouldContain("H[0-9]{3}");
                text.ShouldContain("passes: [H001]");
                text.ShouldContain("fails: [h1]");
                return Task.CompletedTask;
            }
        );

    [Theory]
    [InlineData("mouse")]
    [InlineData("keyboard")]
    [InlineData("finger")]
    public Task Widths_of_three_fields_are_changed_at_once(string with) =>
        Job(
            "f: widths of three fields changed at once",
            with,
            "survey",
            async hands =>
            {
                await hands.Select(Field("length", "Length"), Field("draught", "Draught"), 2);
                await hands.Do("Make narrower");
                await hands.Changes(1);
            },
            text =>
            {
                text.ShouldContain("[length/2, beam/2, draught/2, airDraught/3]");
                return Task.CompletedTask;
            }
        );
}
