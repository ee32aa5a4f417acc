using System.Net;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

public sealed partial class LayoutTests(DemoService service)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Edits_are_applied_given_ids_and_can_be_taken_back()
    {
        using var ada = await service.As("ada");
        var draft = await service.NewLayout(ada);
        var before = (await ada.File("layout", draft.Key, Cancel)).Text;

        var applied = await ada.Edit(
            draft.Key,
            new EditRequest(
                draft.Revision,
                Wire.Json(
                    """
                    [{"op":"insert","parent":"page","at":"first",
                      "node":{"kind":"section","properties":{"title":"Under way"},
                        "children":[{"kind":"row","children":[{"kind":"cell"}]}]}},
                     {"op":"set","node":"identity","property":"frame","value":"outline"}]
                    """
                )
            ),
            Cancel
        );

        applied.Revision.ShouldBe(draft.Revision + 1);
        applied.Edits[0].GetProperty("node").GetProperty("id").GetString().ShouldBe("underWay");
        var undone = await ada.Edit(draft.Key, new EditRequest(applied.Revision, applied.Inverse), Cancel);
        (await ada.File("layout", draft.Key, Cancel)).Text.ShouldBe(before);
        (await ada.Changes(draft.Key, draft.Revision, Cancel))
            .Select(change => change.Revision)
            .ShouldBe([applied.Revision, undone.Revision]);
    }

    [Fact]
    public async Task Comments_that_a_draft_does_not_keep_are_counted_and_a_list_comes_in_pages()
    {
        using var ada = await service.As("ada");
        var draft = await service.NewLayout(ada);
        var text = (await ada.File("layout", draft.Key, Cancel)).Text;
        var saved = await ada.PutFile("layout", draft.Key, "# why\n" + text.TrimEnd() + " # here\n", $"\"{draft.Revision}\"", Cancel);
        (saved.Changed, saved.Comments).ShouldBe((false, 2));

        var all = (await ada.Layouts(Cancel)).Select(each => each.Key).ToArray();
        using var http = await service.Http("ada");
        var (pages, after) = (new List<string>(), "");
        while (true)
        {
            using var page = JsonDocument.Parse(await http.GetStringAsync($"api/layouts?limit=3{after}", Cancel));
            var keys = page.RootElement.EnumerateArray().Select(each => each.GetProperty("key").GetString()!).ToArray();
            pages.AddRange(keys);
            if (keys.Length < 3)
            {
                break;
            }

            after = $"&after={keys[^1]}";
        }

        pages.ShouldBe(all);
        (await http.GetAsync("api/layouts?limit=501", Cancel)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Plain_edits_at_a_width_become_changes_of_it_and_leave_the_base_alone()
    {
        using var ada = await service.As("ada");
        var draft = await service.NewLayout(ada);
        var edits = Wire.Json(
            """
            [{"op":"set","node":"notes","property":"hidden","value":true},{"op":"insert","node":{"id":"atHand","kind":"section",
            "properties":{"title":"At hand"}},"parent":"page","at":"first"},{"op":"set","node":"atHand","property":"frame",
            "value":"outline"}]
            """
        );

        var applied = await ada.Edit(draft.Key, new EditRequest(draft.Revision, edits, Width: "narrow"), Cancel);
        var text = (await ada.File("layout", draft.Key, Cancel)).Text;
        text.ShouldContain("narrow:");
        text[..text.IndexOf("variants:", StringComparison.Ordinal)].ShouldNotContain("At hand");
        text[text.IndexOf("variants:", StringComparison.Ordinal)..].ShouldContain("At hand");

        // What is there only at the width is changed there, and taken back whole.
        var back = await ada.Edit(
            draft.Key,
            new EditRequest(
                applied.Revision,
                Wire.Json("""[{"op":"remove","node":"atHand"},{"op":"set","node":"notes","property":"hidden","value":false}]"""),
                Width: "narrow"
            ),
            Cancel
        );
        (await ada.Layout(draft.Key, Cancel))
            .Tree.GetProperty("children")
            .EnumerateArray()
            .Single(child => child.GetProperty("kind").GetString() == "variant")
            .GetProperty("children")
            .GetArrayLength()
            .ShouldBe(0);
        await ada.Edit(draft.Key, new EditRequest(back.Revision, back.Inverse), Cancel);
        (await ada.File("layout", draft.Key, Cancel)).Text.ShouldBe(text);

        (
            await Wire.Refused(() => ada.Edit(draft.Key, new EditRequest(back.Revision + 1, edits, Width: "narow"), Cancel))
        ).ShouldSatisfyAllConditions(
            problem => problem.Detail!.ShouldContain("narrow"),
            problem => problem.Problems!.Single().Pointer.ShouldBe("/width")
        );
    }

    [Fact]
    public async Task Plain_edits_of_what_a_layout_extends_become_its_own_changes()
    {
        await using var own = await HostedService.WithDemo();
        using var ada = await own.As("ada");
        var (vessel, foreman) = (await ada.Layout("vessel", Cancel), await ada.Layout("vessel-foreman", Cancel));

        var applied = await ada.Edit(
            "vessel-foreman",
            new EditRequest(
                foreman.Revision,
                Wire.Json(
                    """
                    [{"op":"set","node":"beam","property":"label","value":"Breadth"},{"op":"move","node":"nameRow","parent":"rig",
                    "at":"last"}]
                    """
                )
            ),
            Cancel
        );
        (await ada.Layout("vessel", Cancel)).Tree.GetRawText().ShouldBe(vessel.Tree.GetRawText());
        applied.Edits.EnumerateArray().ShouldAllBe(edit => edit.GetProperty("node").GetProperty("kind").GetString() == "change");
        (await (await own.Http("ada")).GetStringAsync("api/layouts/vessel-foreman/preview", Cancel)).ShouldContain("Breadth");
        await ada.Edit("vessel-foreman", new EditRequest(applied.Revision, applied.Inverse), Cancel);
        (await ada.Layout("vessel-foreman", Cancel)).Tree.GetRawText().ShouldBe(foreman.Tree.GetRawText());
    }

    [Theory]
    [InlineData("""{"base":1}""", 400, "", "edits")]
    [InlineData("""{"base":1,"edits":[],"extra":1}""", 400, "/extra", "extra")]
    [InlineData("""{"base":"one","edits":[]}""", 400, "/base", "")]
    [InlineData("""{"base":1,"edits":[{"op":"isnert"}]}""", 422, "/edits/0", "did you mean 'insert'?")]
    [InlineData(
        """{"base":1,"edits":[{"op":"set","node":"identity","property":"titel","value":"x"}]}""",
        422,
        "/edits/0/property",
        "did you mean 'title'?"
    )]
    [InlineData(
        """{"base":1,"edits":[{"op":"set","node":"identity","property":"columns","value":9}]}""",
        422,
        "/edits/0/value",
        "from 1 to 4; it is 9"
    )]
    [InlineData("""{"base":1,"edits":[{"op":"remove","node":"mast"}]}""", 422, "/edits/0", "no node 'mast'")]
    [InlineData(
        """{"base":1,"edits":[{"op":"move","node":"name","parent":"identity","at":{"beside":"x"}}]}""",
        422,
        "/edits/0/at",
        "must be"
    )]
    [InlineData("""{"base":99,"edits":[]}""", 400, "/base", "no revision 99")]
    [InlineData("""{"base":1,"edits":[""", 400, "", "")]
    public async Task A_wrong_body_is_answered_with_the_place(string body, int status, string pointer, string message)
    {
        using var ada = await service.As("ada");
        using var http = await service.Http("ada");
        var draft = await service.NewLayout(ada);

        using var answer = await http.PostAsync($"api/layouts/{draft.Key}/edits", RunningService.Json(body), Cancel);

        ((int)answer.StatusCode).ShouldBe(status);
        var problem = await answer.Problem();
        (problem.Detail + problem.Problems?[0].Message).ShouldContain(message);
        problem.Problems.ShouldNotBeNull()[0].Pointer.ShouldStartWith(pointer);
    }

    [Fact]
    public async Task A_file_replaces_a_draft_only_at_the_revision_it_was_made_for()
    {
        using var ada = await service.As("ada");
        var draft = await service.NewLayout(ada);
        var file = await ada.File("layout", draft.Key, Cancel);
        var changed = file.Text.Replace("entity: vessel\n", "entity: vessel\nwidth: limited\n");

        var saved = await ada.PutFile("layout", draft.Key, changed, file.Tag, Cancel);
        saved.Changed.ShouldBeTrue();
        (await Wire.Refused(() => ada.PutFile("layout", draft.Key, changed, file.Tag, Cancel))).Code.ShouldBe("draft-moved-on");
        (await ada.PutFile("layout", draft.Key, changed, $"\"{saved.Revision}\"", Cancel)).Changed.ShouldBeFalse();

        using var http = await service.Http("ada");
        using var bare = await http.PutAsync(
            $"api/layouts/{draft.Key}",
            new StringContent(changed, System.Text.Encoding.UTF8, "application/yaml"),
            Cancel
        );
        ((int)bare.StatusCode).ShouldBe(428);
    }

    [Fact]
    public async Task A_wrong_file_is_answered_with_line_and_column()
    {
        using var ada = await service.As("ada");

        var problem = await Wire.Refused(() =>
            ada.PutFile(
                "layout",
                "trial",
                "kind: full\nkey: trial\nentity: vessel\nbody:\n  pages:\n    - title: A\n      sections:\n        - titel: B\n",
                null,
                Cancel
            )
        );

        (problem.Problems![0].Line, problem.Problems[0].Column).ShouldBe((8, 11));
        problem.Problems[0].Message.ShouldContain("did you mean 'title'?");
    }

    [Fact]
    public async Task Findings_come_with_fixes_that_mend_them()
    {
        using var ada = await service.As("ada");
        var draft = await service.NewLayout(ada);
        var broken = await ada.Edit(
            draft.Key,
            new EditRequest(draft.Revision, Wire.Json("""[{"op":"remove","node":"registration"}]""")),
            Cancel
        );

        var finding = (await ada.Layout(draft.Key, Cancel)).Findings.Single(each => each.Code == "required-field-missing");
        await ada.Edit(draft.Key, new EditRequest(broken.Revision, finding.Fix!.Edits), Cancel);

        (await ada.Layout(draft.Key, Cancel)).Findings.ShouldNotContain(each => each.Code == "required-field-missing");
    }

    [Fact]
    public async Task A_preview_shows_the_draft_as_a_role_would_see_it()
    {
        using var ada = await service.As("ada");

        (await ada.Preview("vessel", "bookkeeper", "edit", Cancel)).GetRawText().ShouldContain("\"coverSum\"");
        (await ada.Preview("vessel", "quay-hand", "edit", Cancel)).GetRawText().ShouldNotContain("\"coverSum\"");
    }

    [Fact]
    public async Task What_a_draft_looks_like_is_answered_with_what_the_checks_find()
    {
        using var ada = await service.As("ada");
        using var http = await service.Http("ada");
        var draft = await service.NewLayout(ada);
        var edits = Wire.Json("""[{"op":"remove","node":"registration"}]""");
        var applied = await ada.Edit(draft.Key, new EditRequest(draft.Revision, edits), Cancel);

        var view = await ada.View(draft.Key, "harbour-office", "view", "nl", Cancel);

        System
            .Text.Json.JsonElement.DeepEquals(
                view.Form,
                Wire.Json(await http.GetStringAsync($"api/layouts/{draft.Key}/preview?role=harbour-office&mode=view&language=nl", Cancel))
            )
            .ShouldBeTrue();
        view.Lengths.ShouldBe(await ada.Length(draft.Key, Cancel));
        view.Revision.ShouldBe(applied.Revision);
        view.Findings.Select(finding => finding.Code).ShouldContain("required-field-missing");
        var nobody = await Wire.Refused(() => ada.View(draft.Key, "harbor-office", "edit", null, Cancel));
        (nobody.Status, nobody.Detail!.Contains("harbour-office")).ShouldBe((404, true));
        (await Wire.Refused(() => ada.View(draft.Key, null, "see", null, Cancel))).Problems!.Single().Pointer.ShouldBe("mode");
    }

    /// <summary>The console takes it at its word: what is answered leads from the revision before to the draft.</summary>
    [Fact]
    public async Task What_an_edit_answers_applied_to_the_revision_before_gives_the_draft()
    {
        using var ada = await service.As("ada");
        foreach (
            var (key, width, edits) in new[]
            {
                (
                    "vessel",
                    (string?)null,
                    """[{"op":"set","node":"measures","property":"title","value":"Dimensions"},{"op":"remove","node":"sailArea"}]"""
                ),
                ("vessel", "narrow", """[{"op":"set","node":"beam","property":"hidden","value":true}]"""),
                ("vessel-foreman", null, """[{"op":"set","node":"beam","property":"emphasis","value":true}]"""),
            }
        )
        {
            var revision = (await ada.Layout(key, Cancel)).Revision;
            var before = await Read(key);
            var applied = await ada.Edit(key, new EditRequest(revision, Wire.Json(edits), Width: width), Cancel);
            applied.Revision.ShouldBe(revision + 1);
            var done = before.Apply(TreeJson.ReadEdits(applied.Edits, before.Find).Edits).Layout!;
            done.Root.ShouldBe((await Read(key)).Root);
        }

        async Task<Layout> Read(string key) =>
            ((Document.OfLayout)DocumentFile.Read((await ada.File("layout", key, Cancel)).Text).Document!).Layout;
    }

    [Fact]
    public async Task The_generated_layout_can_always_be_had_again()
    {
        using var ada = await service.As("ada");
        var draft = await service.NewLayout(ada);
        var generated = (await ada.File("layout", draft.Key, Cancel)).Text;
        await ada.Edit(draft.Key, new EditRequest(draft.Revision, Wire.Json("""[{"op":"remove","node":"notes"}]""")), Cancel);

        await ada.GenerateLayout(draft.Key, Cancel);

        (await ada.File("layout", draft.Key, Cancel)).Text.ShouldBe(generated);
    }

    [Fact]
    public async Task Mutated_bodies_are_answered_and_never_break_the_service()
    {
        using var ada = await service.As("ada");
        using var http = await service.Http("ada");
        var draft = await service.NewLayout(ada);
        const string Body = """
            {"base":1,"edits":[{"op":"insert","node":{"kind":"row","children":[{"kind":"cell","children":[{"kind":"field",
            "properties":{"field":"beam","label":{"en":"Beam"}}}]}]},"parent":"identity","at":{"after":"nameRow"}}],"label":"x"}
            """;
        var random = new Random(7);
        for (var i = 0; i < 400; i++)
        {
            var at = random.Next(Body.Length);
            var text = Body[..at] + "{}[]\":,0x\\\u0000-e"[random.Next(13)] + Body[Math.Min(Body.Length, at + random.Next(6))..];
            using var answer = await http.PostAsync($"api/layouts/{draft.Key}/edits", RunningService.Json(text), Cancel);
            ((int)answer.StatusCode).ShouldBeLessThan(500, text);
        }

        (await http.GetAsync("health/ready", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }
}
