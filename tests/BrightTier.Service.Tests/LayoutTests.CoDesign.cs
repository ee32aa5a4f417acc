using BrightTier.Contracts;

namespace BrightTier.Service.Tests;

// Several who change one draft.
public partial class LayoutTests
{
    [Fact]
    public async Task Co_design_of_one_draft_by_two_people_lets_each_take_back_only_her_own()
    {
        using var ada = await service.As("ada");
        using var greta = await service.As("greta");
        var draft = await service.NewLayout(ada);

        var hers = await ada.Edit(
            draft.Key,
            new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"identity","property":"frame","value":"rule"}]""")),
            Cancel
        );
        // Made against the same revision, elsewhere: laid over hers.
        await greta.Edit(
            draft.Key,
            new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"attachments","property":"frame","value":"outline"}]""")),
            Cancel
        );
        await ada.Edit(draft.Key, new EditRequest(hers.Revision + 1, hers.Inverse), Cancel);

        var text = (await ada.File("layout", draft.Key, Cancel)).Text;
        text.ShouldContain("frame: outline");
        text.ShouldNotContain("frame: rule");
    }

    [Fact]
    public async Task The_same_property_set_by_both_is_a_conflict_and_nothing_is_lost_silently()
    {
        using var ada = await service.As("ada");
        var draft = await service.NewLayout(ada);
        await ada.Edit(
            draft.Key,
            new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"identity","property":"title","value":"Who she is"}]""")),
            Cancel
        );

        var problem = await Wire.Refused(() =>
            ada.Edit(
                draft.Key,
                new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"identity","property":"title","value":"Papers"}]""")),
                Cancel
            )
        );

        problem.Status.ShouldBe(409);
        problem.Problems![0].Pointer.ShouldBe("/edits/0");
        (await ada.File("layout", draft.Key, Cancel)).Text.ShouldContain("Who she is");
    }

    [Fact]
    public async Task What_is_sent_again_because_no_answer_came_is_applied_once_and_answered_as_it_was()
    {
        using var ada = await service.As("ada");
        using var greta = await service.As("greta");
        var draft = await service.NewLayout(ada);
        var insert = new EditRequest(
            draft.Revision,
            Wire.Json("""[{"op":"insert","node":{"kind":"section","properties":{"title":"Under way"}},"parent":"page","at":"first"}]"""),
            "Add a section",
            Name: "3f-a1"
        );
        var first = await ada.Edit(draft.Key, insert, Cancel);
        // Somebody goes on meanwhile; and whoever comes back sends it over what there is by then.
        var later = await greta.Edit(
            draft.Key,
            new EditRequest(first.Revision, Wire.Json("""[{"op":"set","node":"identity","property":"frame","value":"outline"}]""")),
            Cancel
        );
        foreach (var again in new[] { insert, insert with { Base = later.Revision } })
        {
            var answered = await ada.Edit(draft.Key, again, Cancel);
            (answered.Revision, answered.Edits.GetRawText(), answered.Inverse.GetRawText()).ShouldBe(
                (later.Revision, first.Edits.GetRawText(), first.Inverse.GetRawText())
            );
        }

        Sections(await ada.Layout(draft.Key, Cancel)).ShouldBe(1);
        await greta.Edit(draft.Key, insert with { Base = later.Revision }, Cancel);
        Sections(await ada.Layout(draft.Key, Cancel)).ShouldBe(2, "what somebody else calls so is another change");
        (await Wire.Refused(() => ada.Edit(draft.Key, insert with { Name = new string('n', 65) }, Cancel)))
            .Problems!.Single()
            .Pointer.ShouldBe("/name");

        static int Sections(LayoutDraft now) => System.Text.RegularExpressions.Regex.Count(now.Tree.GetRawText(), "Under way");
    }
}
