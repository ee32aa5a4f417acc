using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>What happened to entities, lists and layouts as drafts, in words, and the way back to any of it.</summary>
public sealed class DocumentHistoryTests(DemoService shared)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_change_of_an_entity_is_told_and_can_be_gone_back_to()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var first = await ada.File("entity", "keeper", Cancel);
        var made = long.Parse(first.Tag.Trim('"'), System.Globalization.CultureInfo.InvariantCulture);
        var renamed = first.Text.Replace("en: Keeper,", "en: Owner,");
        var second = await ada.PutFile("entity", "keeper", renamed, first.Tag, Cancel);
        var third = await ada.PutFile(
            "entity",
            "keeper",
            renamed + "  - key: locker\n    type: integer\n    label: Locker \U0001F511\n",
            $"\"{second.Revision}\"",
            Cancel
        );

        var history = await ada.DocumentHistory("entity", "keeper", Cancel);
        history.Revision.ShouldBe(third.Revision);
        history.Since!.ShouldBe(["Changes label en from ‘Keeper’ to ‘Owner’.", "Adds the field ‘Locker \U0001F511’."]);
        history
            .Changes.Select(change => (change.Revision, change.By))
            .ShouldBe([(third.Revision, "ada"), (second.Revision, "ada"), (made, "greta")]);
        history.Changes[0].Words!.ShouldBe(["Adds the field ‘Locker \U0001F511’."]);
        history.Changes[^1].Words.ShouldBeNull("before the first there was nothing");

        var back = await ada.RestoreDocument("entity", "keeper", made, Cancel);
        (back.Changed, back.Revision).ShouldBe((true, third.Revision + 1));
        (await ada.File("entity", "keeper", Cancel)).Text.ShouldBe(first.Text);
        (await ada.RestoreDocument("entity", "keeper", third.Revision, Cancel)).Changed.ShouldBeTrue(
            "what was gone back from is in the history"
        );
        (await ada.File("entity", "keeper", Cancel)).Text.ShouldContain("locker");
        (await ada.RestoreDocument("entity", "keeper", third.Revision + 2, Cancel)).Changed.ShouldBeFalse();
        foreach (var missing in new[] { 0, third.Revision + 3 })
        {
            var refused = await Wire.Refused(() => ada.RestoreDocument("entity", "keeper", missing, Cancel));
            refused.Detail!.ShouldContain($"no revision '{missing}'");
        }
    }

    [Fact]
    public async Task A_layout_has_the_same_history_and_a_kind_that_is_none_is_told()
    {
        using var ada = await shared.As("ada");
        var layout = await shared.NewLayout(ada);
        await ada.Edit(
            layout.Key,
            new EditRequest(
                layout.Revision,
                Wire.Json($$"""[{"op":"set","node":"{{layout.Tree.GetProperty("id").GetString()}}","property":"title","value":"Trial"}]""")
            ),
            Cancel
        );
        var history = await ada.DocumentHistory("layout", layout.Key, Cancel);
        history.Changes[0].Words!.Single().ShouldContain("Trial");
        (await ada.RestoreDocument("layout", layout.Key, layout.Revision, Cancel)).Changed.ShouldBeTrue();
        (await ada.DocumentHistory("layout", layout.Key, Cancel)).Changes.Count.ShouldBe(3);
        (await Wire.Refused(() => ada.DocumentHistory("entitty", "vessel", Cancel))).Detail!.ShouldContain("entity");
        (await Wire.Refused(() => ada.DocumentHistory("entity", "vesel", Cancel))).Detail!.ShouldContain("vessel");
    }

    [Fact]
    public async Task A_long_history_comes_in_parts()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var file = await ada.File("choice-list", "propulsion", Cancel);
        var tag = file.Tag;
        for (var i = 0; i < 60; i++)
        {
            var saved = await ada.PutFile(
                "choice-list",
                "propulsion",
                file.Text + $"  - key: extra{i}\n    label: Extra {i}\n",
                tag,
                Cancel
            );
            tag = $"\"{saved.Revision}\"";
        }

        var newest = await ada.DocumentHistory("choice-list", "propulsion", Cancel);
        (newest.Changes.Count, newest.Earlier).ShouldBe((50, true));
        using var http = await service.Http("ada");
        var rest = await http.GetStringAsync($"api/documents/choice-list/propulsion/changes?before={newest.Changes[^1].Revision}", Cancel);
        var earlier = JsonSerializer.Deserialize(rest, WireJson.Default.DocumentHistory)!;
        earlier.Earlier.ShouldBeFalse();
        earlier.Changes.Count.ShouldBe(11);
        earlier.Changes[^2].Words.ShouldBe(["Adds the choice ‘Extra 0’."]);
    }
}
