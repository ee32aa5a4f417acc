using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Pieces made, used, detached; parts taken to other layouts; conditions and patterns tried while they are written.</summary>
public sealed class ReuseTests(DemoService shared)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_piece_is_made_of_a_selection_with_a_slot_for_every_field_it_shows_or_reads()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");

        var piece = await ada.CreatePiece("vessel", new NewPiece("Rigging évalué", ["rig"]), Cancel);

        piece.Key.ShouldBe("riggingEvalue");
        piece.Slots.Select(slot => slot.Slot).ShouldContain("mastHeight");
        piece.Slots.Single(slot => slot.Slot == "mastHeight").Types.ShouldBe(["decimal"]);
        piece.Uses.ShouldBeEmpty();
        var draft = await ada.Layout(piece.Key, Cancel);
        draft.Findings.ShouldNotContain(finding => finding.Severity == "error");
        (await ada.Pieces(Cancel)).Select(each => each.Key).ShouldBe(["riggingEvalue", "cover"], ignoreOrder: true);
        (await ada.Pieces(Cancel))
            .Single(each => each.Key == "cover")
            .Uses.Select(use => (use.Layout, use.Node))
            .ShouldBe([("vessel", "hullCover"), ("vessel", "thirdCover")], ignoreOrder: true);

        (await Wire.Refused(() => ada.CreatePiece("vessel", new NewPiece("Rig", ["nowhere"]), Cancel))).Detail!.ShouldContain(
            "no node 'nowhere'"
        );
        (await Wire.Refused(() => ada.CreatePiece("vessel", new NewPiece("Rig", ["rig"], "cover"), Cancel))).Detail!.ShouldContain(
            "there is a layout of that key"
        );
        (await Wire.Refused(() => ada.CreatePiece("vessel", new NewPiece(" ", ["rig"]), Cancel)))
            .Problems!.Single()
            .Pointer.ShouldBe("/title");
        (await Wire.Refused(() => ada.CreatePiece("vessel", new NewPiece("Form", ["body"]), Cancel)))
            .Problems!.Single()
            .Message.ShouldContain("nothing that can be copied");
    }

    [Fact]
    public async Task A_use_is_detached_by_a_change_that_can_be_undone()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var before = await ada.Layout("vessel", Cancel);

        var applied = await ada.Detach("vessel", new DetachRequest("hullCover", "Cover of its own"), Cancel);

        (await ada.Pieces(Cancel)).Single(each => each.Key == "cover").Uses.Select(use => use.Node).ShouldBe(["thirdCover"]);
        (await Tree("vessel")).ShouldContain("\"field\":\"coverPolicy\"");
        (await ada.Changes("vessel", 0, Cancel))[^1].Label.ShouldBe("Cover of its own");
        var back = await ada.Edit("vessel", new EditRequest(applied.Revision, applied.Inverse), Cancel);
        back.Revision.ShouldBe(applied.Revision + 1);
        (await Tree("vessel")).ShouldBe(before.Tree.GetRawText());
        (await Wire.Refused(() => ada.Detach("vessel", new DetachRequest("rig"), Cancel))).Problems!.Single().Pointer.ShouldBe("/use");

        async Task<string> Tree(string layout) => (await ada.Layout(layout, Cancel)).Tree.GetRawText();
    }

    [Fact]
    public async Task Parts_are_pasted_as_text_into_a_layout_of_another_entity_matched_by_field()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var clip = await ada.Copy("vessel", ["identity"], Cancel);
        clip.ShouldStartWith("kind: piece\nkey: clip\n");
        clip.ShouldContain("slot: registration");

        // The berth has no field of these names, so nothing of it can be there.
        var rig = await ada.Copy("vessel", ["rig"], Cancel);
        (await Wire.Refused(() => ada.Paste("berth", new PasteRequest(rig), Cancel))).Detail!.ShouldContain("mastHeight");

        var agreement = await ada.Layout("agreement", Cancel);
        var money = await ada.Copy("berth", ["dayRate", "code"], Cancel);
        var pasted = await ada.Paste("agreement", new PasteRequest(money, At: "dayRate"), Cancel);
        pasted.Unmatched.ShouldBe(["code"]);
        pasted.Revision.ShouldBe(agreement.Revision + 1);
        (await ada.Layout("agreement", Cancel)).Findings.ShouldContain(finding => finding.Code == "field-twice");

        // In its own layout a section comes again, with other ids and its title.
        var again = await ada.Paste("vessel", new PasteRequest(clip, At: "engine"), Cancel);
        again.Unmatched.ShouldBe([]);
        (await ada.Layout("vessel", Cancel)).Tree.GetRawText().ShouldContain("\"identity2\"");

        (
            await Wire.Refused(() => ada.Paste("vessel", new PasteRequest("kind: pattern\nkey: x\npattern: a\n"), Cancel))
        ).Detail!.ShouldContain("not a piece");
        (await Wire.Refused(() => ada.Paste("vessel", new PasteRequest("{ what"), Cancel))).Problems.ShouldNotBeEmpty();
        (await Wire.Refused(() => ada.Paste("vessel", new PasteRequest(Piece: "covr"), Cancel))).Detail!.ShouldContain("cover");
    }

    [Fact]
    public async Task What_is_pasted_or_detached_at_a_width_or_over_a_parent_becomes_a_change_of_that()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var clip = await ada.Copy("vessel", ["engine"], Cancel);

        var before = (await ada.File("layout", "vessel", Cancel)).Text;
        var narrow = await ada.Paste("vessel", new PasteRequest(clip, At: "identity", Width: "narrow"), Cancel);
        narrow.Edits[0].GetProperty("parent").GetString().ShouldBe("narrow");
        (await ada.Layout("vessel", Cancel)).Tree.GetRawText().ShouldContain("engineHours2");
        var text = (await ada.File("layout", "vessel", Cancel)).Text;
        var variants = before.IndexOf("variants:", StringComparison.Ordinal);
        text[..variants].ShouldBe(before[..variants]);
        await ada.Edit("vessel", new EditRequest(narrow.Revision, narrow.Inverse), Cancel);
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldBe(before);
        (await Wire.Refused(() => ada.Paste("vessel", new PasteRequest(clip, Width: "narow"), Cancel))).Detail!.ShouldContain("narrow");

        // The yard's layout has no identity section of its own: it extends one that has.
        var over = await ada.Paste("vessel-foreman", new PasteRequest(clip, At: "identity"), Cancel);
        (await ada.Layout("vessel-foreman", Cancel)).Tree.GetRawText().ShouldContain("engine2");
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldBe(before);
        await ada.Edit("vessel-foreman", new EditRequest(over.Revision, over.Inverse), Cancel);
        await ada.Detach("vessel", new DetachRequest("hullCover", Width: "narrow"), Cancel);
        (await ada.Layout("vessel", Cancel)).Tree.GetRawText().ShouldContain("coverPolicy");
        (await ada.File("layout", "vessel", Cancel)).Text[..variants].ShouldBe(before[..variants]);
    }

    [Fact]
    public async Task A_piece_is_looked_at_by_its_slots()
    {
        using var ada = await shared.As("ada");

        (await ada.LayoutEntity("cover", Cancel)).Fields.Select(field => field.Key).ShouldBe(["insurer", "policy", "sum", "until"]);
        (await ada.Preview("cover", null, "create", Cancel)).GetRawText().ShouldContain("\"field\":\"until\"");
    }

    [Theory]
    [InlineData("record.length < 12.0", "holds", "yes", "yes")]
    [InlineData("record.propulsion == 'sail' && record.propulsion == 'oars'", "does not hold", "no", "yes")]
    [InlineData("record.length > 12.0 || !(record.length > 12.0)", null, "yes", "no")]
    [InlineData("'yard-foreman' in user.roles", "does not hold", "yes", "yes")]
    public async Task What_a_condition_comes_to_is_known_while_it_is_written(string text, string? now, string holds, string fails)
    {
        using var ada = await shared.As("ada");

        var known = await ada.Condition("vessel", new ConditionRequest(text, Record: 1, Role: "harbour-office"), Cancel);

        known.Problems.ShouldBeEmpty();
        known.Holds!.Verdict.ShouldBe(holds);
        known.Fails!.Verdict.ShouldBe(fails);
        if (now is not null)
        {
            known.Result.ShouldBe(now);
        }
    }

    [Theory]
    [InlineData("record.lenght > 12.0", 7, 6, "did you mean 'length'?")]
    [InlineData("record.length > 'long'", 0, 22, "")]
    [InlineData("record.length >", 15, 1, "")]
    public async Task What_is_wrong_with_a_condition_is_said_with_its_place(string text, int start, int length, string message)
    {
        using var ada = await shared.As("ada");

        var part = (await ada.Condition("vessel", new ConditionRequest(text), Cancel)).Problems.ShouldHaveSingleItem();

        (part.Start, part.Length).ShouldBe((start, length));
        part.Message.ShouldContain(message);
    }

    [Fact]
    public async Task Patterns_are_tried_by_the_engine_that_checks_on_saving()
    {
        using var ada = await shared.As("ada");

        (await ada.TestPattern(new PatternTest("[A-Z][0-9]{1,3}", ["B12", "b12", "B1234"]), Cancel)).Matches.ShouldBe([true, false, false]);
        var wrong = await ada.TestPattern(new PatternTest("[A-Z", ["B12"]), Cancel);
        wrong.Problem.ShouldNotBeNullOrEmpty();
        wrong.Matches.ShouldBeEmpty();
        (await Wire.Refused(() => ada.TestPattern(new PatternTest("a", [.. Enumerable.Repeat("a", 201)]), Cancel)))
            .Problems!.Single()
            .Pointer.ShouldBe("/samples");
    }

    [Fact]
    public async Task A_choice_list_is_edited_in_order_and_never_loses_what_records_may_hold()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var zone = await ada.ChoiceList("zone", Cancel);
        zone.Uses.ShouldContain(use => use.Contains("Berth"));

        var labels = new Dictionary<string, string> { ["en"] = "Dry stack", ["nl"] = "Droogstalling" };
        var changed = await ada.ChangeChoiceList(
            "zone",
            new ChoiceListChange(
                zone.Revision,
                [new EditedChoice(labels), .. zone.Choices.Select(choice => choice with { Retired = choice.Key == "creek" })]
            ),
            Cancel
        );

        changed
            .Choices.Select(choice => (choice.Key, choice.Retired))
            .ShouldBe([("dryStack", false), ("inner", false), ("outer", false), ("creek", true), ("yard", false)]);
        changed.Revision.ShouldBe(zone.Revision + 1);
        (await Wire.Refused(() => ada.ChangeChoiceList("zone", new ChoiceListChange(zone.Revision, zone.Choices), Cancel))).Code.ShouldBe(
            "draft-moved-on"
        );
        (
            await Wire.Refused(() =>
                ada.ChangeChoiceList("zone", new ChoiceListChange(changed.Revision, [.. changed.Choices.Skip(2)]), Cancel)
            )
        ).Detail!.ShouldContain("'inner', which records may hold");
        (
            await Wire.Refused(() =>
                ada.ChangeChoiceList(
                    "zone",
                    new ChoiceListChange(changed.Revision, [.. changed.Choices, new EditedChoice(new Dictionary<string, string>())]),
                    Cancel
                )
            )
        )
            .Problems!.Single()
            .Pointer.ShouldBe("/choices/5/labels");
        (
            await Wire.Refused(() =>
                ada.ChangeChoiceList("zone", new ChoiceListChange(changed.Revision, [.. changed.Choices, changed.Choices[0]]), Cancel)
            )
        ).Detail!.ShouldContain("there twice");
    }

    [Fact]
    public async Task A_pattern_of_a_form_is_held_to_the_samples_kept_with_it_before_it_is_published()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        (await ada.Patterns(Cancel)).Single(pattern => pattern.Key == "berthCode").Passes.ShouldBe(["A1", "B12", "C300"]);
        var draft = await ada.Layout("vessel", Cancel);
        var edits = Wire.Json(
            """
            [{"op":"set","node":"registration","property":"pattern","value":"SQ-[0-9]{4}"},{"op":"set","node":"registration",
            "property":"passes","value":["SQ-0417","SQ-1"]}]
            """
        );

        var applied = await ada.Edit("vessel", new EditRequest(draft.Revision, edits), Cancel);

        (await ada.Layout("vessel", Cancel))
            .Findings.Single(finding => finding.Code == "pattern-sample")
            .Message.ShouldBe("'SQ-1' must match SQ-[0-9]{4}, but does not.");
        (await Wire.Refused(() => ada.Publish(new PublishRequest([new("layout", "vessel", applied.Revision)]), Cancel)))
            .Problems!.Single()
            .Code.ShouldBe("pattern-sample");
    }
}
