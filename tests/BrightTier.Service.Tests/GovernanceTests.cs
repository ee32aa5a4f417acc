using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;
using Microsoft.Data.Sqlite;

namespace BrightTier.Service.Tests;

/// <summary>
/// Who may let what out, and what is written down of it: overriding checks, approval by a second person, configurators of some entities,
/// the audit log, comments.
/// </summary>
public sealed class GovernanceTests : IAsyncLifetime
{
    private RunningService service = null!;
    private BrightTierClient ada = null!;
    private BrightTierClient greta = null!;
    private BrightTierClient hanna = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        service = await HostedService.WithDemo();
        (ada, greta, hanna) = (await service.As("ada"), await service.As("greta"), await service.As("hanna"));
    }

    public async ValueTask DisposeAsync()
    {
        ada.Dispose();
        greta.Dispose();
        hanna.Dispose();
        await service.DisposeAsync();
    }

    [Fact]
    public async Task Who_may_override_publishes_in_spite_of_an_error_with_her_reason_kept_and_nobody_else_does()
    {
        var revision = (await Set("vessel", "rig", "visible", "record.propulsoin == 'sail'")).Revision;
        var request = new PublishRequest([new("layout", "vessel", revision)]);

        (await Wire.Refused(() => greta.Publish(request, Cancel))).Code.ShouldBe("findings");
        (await Wire.Refused(() => ada.Publish(request with { OverrideReason = "It must go out" }, Cancel))).Status.ShouldBe(403);
        (await Wire.Refused(() => greta.Publish(request with { OverrideReason = " " }, Cancel)))
            .Problems!.Single()
            .Pointer.ShouldBe("/overrideReason");
        var receipt = await greta.Publish(request with { OverrideReason = "The regatta begins at noon" }, Cancel);

        receipt.Release.OverrideReason.ShouldBe("The regatta begins at noon");
        var entry = (await greta.Audit(null, "release.published", "release/2", null, null, null, 10, null, Cancel)).Entries.Single();
        entry.Detail.GetProperty("overrideReason").GetString().ShouldBe("The regatta begins at noon");
        entry.Detail.GetProperty("findings")[0].GetString().ShouldNotBeNull().ShouldContain("did you mean 'propulsion'?");
    }

    [Fact]
    public async Task What_would_lose_data_is_not_published_in_spite_of_anything()
    {
        var file = await greta.File("entity", "berth", Cancel);
        var without = System.Text.RegularExpressions.Regex.Replace(file.Text, "(?ms)^  - key: water$.*?(?=^  - key)", "");
        without.ShouldNotBe(file.Text);
        var saved = await greta.PutFile("entity", "berth", without, file.Tag, Cancel);

        var problem = await Wire.Refused(() =>
            greta.Publish(new PublishRequest([new("entity", "berth", saved.Revision)], OverrideReason: "Nobody needs it"), Cancel)
        );

        problem.Problems!.ShouldContain(part => part.Code == "field-removed");
    }

    [Fact]
    public async Task Where_approval_is_asked_for_a_second_person_approves_what_she_did_not_change_and_as_it_is()
    {
        await ChangeApplication(text => text.Replace("currency: EUR", "currency: EUR\napproval: true"));
        var draft = await Set("vessel", "rig", "title", "Canvas");
        var request = new PublishRequest([new("layout", "vessel", draft.Revision)]);

        var missing = await Wire.Refused(() => ada.Publish(request, Cancel));
        (missing.Code, missing.Problems!.Single().Pointer).ShouldBe(("approval-missing", "layout/vessel"));
        (await Wire.Refused(() => ada.Approve(new ApprovalRequest("layout", "vessel", draft.Revision), Cancel))).Code.ShouldBe(
            "own-change"
        );
        await hanna.Approve(new ApprovalRequest("layout", "vessel", draft.Revision), Cancel);
        (await ada.Approvals(Cancel)).ShouldSatisfyAllConditions(
            all => all.Required.ShouldBeTrue(),
            all => all.Given.Single().By.ShouldBe("hanna"),
            all => all.Own.ShouldContain(new DocumentName("layout", "vessel"))
        );
        (await hanna.Approvals(Cancel)).Own.ShouldBeEmpty("she changed nothing");

        var changed = await Set("vessel", "rig", "title", "Sails");
        (await ada.Approvals(Cancel)).Given.ShouldBeEmpty("it is another draft by now");
        (await Wire.Refused(() => hanna.Approve(new ApprovalRequest("layout", "vessel", draft.Revision), Cancel))).Code.ShouldBe(
            "draft-moved-on"
        );
        (
            await Wire.Refused(() => ada.Publish(request with { Documents = [new("layout", "vessel", changed.Revision)] }, Cancel))
        ).Code.ShouldBe("approval-missing");

        await hanna.Approve(new ApprovalRequest("layout", "vessel", changed.Revision), Cancel);
        (await ada.Publish(request with { Documents = [new("layout", "vessel", changed.Revision)] }, Cancel)).Release.Number.ShouldBe(3);
        (await Wire.Refused(() => hanna.Edit("vessel", new EditRequest(changed.Revision, Wire.Json("[]")), Cancel))).Status.ShouldBe(403);
    }

    [Fact]
    public async Task A_configurator_of_some_entities_changes_and_publishes_what_belongs_to_them_alone()
    {
        await ChangeApplication(text =>
            text.Replace(
                "styles:",
                "  - key: berth-clerk\n    label: Berth clerk\n    may: [configure, publish, read-records]\n    entities: [berth]\nstyles:"
            )
        );
        await greta.PutPerson("joris", new PersonRequest("Joris Tiller", ["berth-clerk"], "en"), Cancel);
        using var joris = await service.As("joris");

        var berth = await joris.Layout("berth", Cancel);
        var edited = await joris.Edit(
            "berth",
            new EditRequest(berth.Revision, Wire.Json("""[{"op":"set","node":"place","property":"title","value":"Where it is"}]""")),
            Cancel
        );
        (await joris.Publish(new PublishRequest([new("layout", "berth", edited.Revision)]), Cancel)).Release.Number.ShouldBe(3);

        var vessel = await joris.Layout("vessel", Cancel);
        var refused = await Wire.Refused(() =>
            joris.Edit(
                "vessel",
                new EditRequest(vessel.Revision, Wire.Json("""[{"op":"set","node":"rig","property":"title","value":"Canvas"}]""")),
                Cancel
            )
        );
        (refused.Status, refused.Detail!.Contains("for berth alone")).ShouldBe((403, true), refused.Detail);
        var zone = await joris.File("choice-list", "zone", Cancel);
        (await Wire.Refused(() => joris.PutFile("choice-list", "zone", zone.Text, zone.Tag, Cancel))).Status.ShouldBe(
            403,
            "what all entities share is not hers"
        );
        var other = await Set("vessel", "rig", "title", "Canvas");
        (await Wire.Refused(() => joris.Publish(new PublishRequest([new("layout", "vessel", other.Revision)]), Cancel))).Status.ShouldBe(
            403
        );
        (await Wire.Refused(() => joris.Restore(1, new RestoreRequest(), Cancel))).Status.ShouldBe(403);
    }

    [Fact]
    public async Task Every_act_is_in_the_audit_log_which_can_be_searched_taken_away_and_proved_whole()
    {
        await Set("vessel", "rig", "title", "Canvas");
        await greta.PutPerson("joris", new PersonRequest("Joris Tiller", ["quay-hand"], "en"), Cancel);

        var hers = await greta.Audit("ada", null, "layout", null, null, null, 10, null, Cancel);
        hers.Entries.Select(entry => (entry.Action, entry.Subject)).ShouldBe([("draft.changed", "layout/vessel")]);
        (await greta.Audit(null, "person.made", null, "Joris", null, null, 10, null, Cancel))
            .Entries.Single()
            .Detail.GetProperty("roles")[0]
            .GetString()
            .ShouldBe("quay-hand");
        var first = await greta.Audit(null, null, null, null, null, null, 2, null, Cancel);
        var second = await greta.Audit(null, null, null, null, null, null, 2, first.Next, Cancel);
        second.Entries[0].Number.ShouldBe(first.Entries[^1].Number - 1);

        using var http = await service.Http("greta");
        var csv = await http.GetStringAsync("api/audit/entries/export?subject=layout/vessel", Cancel);
        csv.Split("\r\n")[0].ShouldBe("number,at,by,action,subject,detail,hash");
        csv.ShouldContain("draft.changed");
        (await http.GetStringAsync("api/audit/entries/export?format=jsonl", Cancel))
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .ShouldAllBe(line => line.StartsWith('{') && line.EndsWith('}'));
        (await greta.AuditProof(Cancel)).Intact.ShouldBeTrue();
    }

    [Theory]
    [InlineData("UPDATE audit_entry SET By = 'bram' WHERE Number = 5", 5)]
    [InlineData("DELETE FROM audit_entry WHERE Number = 7", 7)]
    public async Task Whoever_alters_the_log_in_the_database_is_found_out(string tampering, long at)
    {
        await using (var database = new SqliteConnection($"Data Source={Path.Combine(service.Data, "brighttier.db")}"))
        {
            await database.OpenAsync(Cancel);
            await using var command = database.CreateCommand();
            command.CommandText = tampering;
            (await command.ExecuteNonQueryAsync(Cancel)).ShouldBe(1);
        }

        (await greta.AuditProof(Cancel)).ShouldSatisfyAllConditions(
            proof => proof.Intact.ShouldBeFalse(),
            proof => proof.FirstBroken.ShouldBe(at),
            proof => proof.Entries.ShouldBe(at - 1)
        );
    }

    [Fact]
    public async Task What_was_done_to_records_is_searched_page_by_page_and_taken_away_by_administrators()
    {
        var made = await ada.CreateRecord(
            "berth",
            new RecordSave(Wire.Json("""{"code":"Z901","pontoon":"North","zone":"outer"}""")),
            Cancel
        );
        var changed = await ada.ChangeRecord("berth", made.Id, made.Version, new RecordSave(Wire.Json("""{"pontoon":"South"}""")), Cancel);
        await ada.DeleteRecord("berth", made.Id, changed.Version, Cancel);

        var hers = await greta.RecordAudit("ada", null, "berth", made.Id, null, null, 10, null, Cancel);
        hers.Entries.Select(entry => (entry.Action, entry.Version, entry.By, entry.Entity))
            .ShouldBe([("delete", 3, "ada", "berth"), ("change", 2, "ada", "berth"), ("create", 1, "ada", "berth")]);
        (await greta.RecordAudit("bram", null, "berth", made.Id, null, null, 10, null, Cancel)).Entries.ShouldBeEmpty();
        (await greta.RecordAudit(null, "delete", null, null, hers.Entries[0].At, hers.Entries[0].At.AddMilliseconds(1), 10, null, Cancel))
            .Entries.ShouldHaveSingleItem()
            .Record.ShouldBe(made.Id);
        (
            await greta.RecordAudit(null, null, null, null, DateTimeOffset.UtcNow.AddHours(1), null, 10, null, Cancel)
        ).Entries.ShouldBeEmpty();

        var whole = await greta.RecordAudit(null, null, null, null, null, null, 500, null, Cancel);
        var paged = new List<RecordAuditEntry>();
        for (string? after = ""; after is not null; )
        {
            var page = await greta.RecordAudit(null, null, null, null, null, null, 7, after.Length == 0 ? null : after, Cancel);
            paged.AddRange(page.Entries);
            after = paged.Count < whole.Entries.Count ? page.Next : null;
        }

        // Many of the demo's were made at one moment: none is left out between two pages or told twice.
        paged.Take(whole.Entries.Count).ShouldBe(whole.Entries);
        using var http = await service.Http("greta");
        var csv = (await http.GetStringAsync($"api/audit/record-entries/export?entity=berth&record={made.Id}", Cancel)).Split(
            "\r\n",
            StringSplitOptions.RemoveEmptyEntries
        );
        (csv.Length, csv[0]).ShouldBe((4, "at,by,action,entity,record,version"));
        csv[1].ShouldEndWith($",ada,delete,berth,{made.Id},3");
    }

    [Fact]
    public async Task Comments_hold_to_an_item_through_moves_name_people_and_are_resolved_and_opened_again()
    {
        var comment = await hanna.Comment("layout", "vessel", new CommentRequest("In metres, @ada?", "rig"), Cancel);
        comment.ShouldSatisfyAllConditions(
            said => said.Draft.ShouldBe(new DocumentName("layout", "vessel")),
            said => said.Item.ShouldBe("rig"),
            said => said.Mentions.ShouldBe(["ada"])
        );
        using var http = await service.Http("ada");
        (await http.GetStringAsync("api/mentions", Cancel)).ShouldContain("In metres");
        (await ada.Layouts(Cancel)).Single(layout => layout.Key == "vessel").Comments.ShouldBe(1);

        var draft = await ada.Layout("vessel", Cancel);
        await ada.Edit(
            "vessel",
            new EditRequest(draft.Revision, Wire.Json("""[{"op":"move","node":"rig","parent":"care","at":"first"}]""")),
            Cancel
        );
        (await ada.Comments("layout", "vessel", Cancel)).Single().Item.ShouldBe("rig");

        (await ada.Resolve(comment.Id, true, Cancel)).ResolvedBy.ShouldBe("ada");
        (await ada.Layouts(Cancel)).Single(layout => layout.Key == "vessel").Comments.ShouldBe(0);
        (await hanna.Resolve(comment.Id, false, Cancel)).ResolvedBy.ShouldBeNull();
        (await Wire.Refused(() => hanna.Comment("layout", "vessel", new CommentRequest("x", "no-such-item"), Cancel)))
            .Problems!.Single()
            .Pointer.ShouldBe("/item");
        using var bram = await service.As("bram");
        (await Wire.Refused(() => bram.Resolve(comment.Id, true, Cancel))).Status.ShouldBe(
            403,
            "what is said of drafts is not for everyone"
        );
    }

    private async Task<EditResult> Set(string layout, string node, string property, string value)
    {
        var draft = await ada.Layout(layout, Cancel);
        return await ada.Edit(
            layout,
            new EditRequest(
                draft.Revision,
                Wire.Json($$"""[{"op":"set","node":"{{node}}","property":"{{property}}","value":"{{value}}"}]""")
            ),
            Cancel
        );
    }

    private async Task ChangeApplication(Func<string, string> change)
    {
        var file = await greta.File("application", "application", Cancel);
        var text = change(file.Text);
        text.ShouldNotBe(file.Text);
        var saved = await greta.PutFile("application", "application", text, file.Tag, Cancel);
        await greta.Publish(new PublishRequest([new("application", "application", saved.Revision)]), Cancel);
    }
}
