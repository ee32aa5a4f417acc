using System.Net.Http.Json;
using System.Text.Json;
using BrightTier.Contracts;

namespace BrightTier.Service.Tests;

/// <summary>What is told of all entities together: the units of their fields, and which of them point at which.</summary>
public sealed class AllEntitiesTests(OwnService own) : IClassFixture<OwnService>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_unit_is_written_anew_for_all_its_fields_or_some_all_or_none()
    {
        using var http = await own.Running.Http("ada");
        var metres = (await Units(http))["m"];
        metres.ShouldContain("vessel.length");
        metres.ShouldContain("berth.maxDraught");

        (await Rename(http, "m", "metres", ["vessel.length", "berth.maxDraught"])).Fields.ShouldBe(2);
        var units = await Units(http);
        units["metres"].ShouldBe(["berth.maxDraught", "vessel.length"], ignoreOrder: true);
        units["m"].ShouldNotContain("vessel.length");
        (await Rename(http, "metres", "m", null)).Entities.ShouldBe(["berth", "vessel"], ignoreOrder: true);
        (await Units(http))["m"].ShouldBe(metres, ignoreOrder: true);
        using var ada = await own.Running.As("ada");
        (await ada.DocumentHistory("entity", "berth", Cancel)).Changes[0].Label.ShouldBe("Unit metres is m");

        foreach (
            var (from, to, fields, told) in new (string, string, string[]?, string)[]
            {
                ("m", " ", null, "at least one character"),
                ("metr", "m", null, "There is no unit"),
                ("m", "M", ["vessel.name"], "vessel.name"),
                ("m", new string('m', 5_000), null, "m"),
            }
        )
        {
            var refused = await http.PostAsJsonAsync(
                "api/units/rename",
                new
                {
                    from,
                    to,
                    fields,
                },
                Cancel
            );
            ((int)refused.StatusCode).ShouldBeInRange(400, 422);
            (await refused.Content.ReadAsStringAsync(Cancel)).ShouldContain(told);
        }

        (await Units(http))["m"].ShouldBe(metres, ignoreOrder: true);
    }

    [Fact]
    public async Task References_lead_from_entity_to_entity_as_drafts()
    {
        using var ada = await own.Running.As("ada");
        var vessel = (await ada.Relations(Cancel)).Single(entity => entity.Key == "vessel");
        vessel.References.Select(each => (each.Field, each.Target)).ShouldBe([("keeper", "keeper"), ("berth", "berth")], ignoreOrder: true);
        using var http = await own.Running.Http("ada");
        var body = new
        {
            label = "Sister ship",
            type = "reference",
            target = "vessel",
        };
        (await http.PostAsJsonAsync("api/entities/vessel/fields", body, Cancel)).EnsureSuccessStatusCode();
        (await ada.Relations(Cancel)).Single(entity => entity.Key == "vessel").References.ShouldContain(each => each.Target == "vessel");
        (await ada.Entity("vessel", Cancel)).Fields.ShouldNotContain(field => field.Key == "sisterShip", "nobody else has it yet");
    }

    [Fact]
    public async Task A_layout_that_nobody_gets_is_told_when_it_is_published()
    {
        using var ada = await own.Running.As("ada");
        var layout = await ada.CreateLayout(new LayoutRequest("berth", "berth-two"), Cancel);
        var receipt = await ada.Publish(new PublishRequest([new("layout", layout.Key, layout.Revision)]), Cancel);
        receipt.Unrouted!.Single().ShouldBe(new UnroutedInfo("berth-two", receipt.Unrouted![0].Title, "berth", "full"));
        var routing = await ada.File("routing", "routing", Cancel);
        var rules = await ada.PutFile(
            "routing",
            "routing",
            routing.Text + "  - entity: berth\n    layout: berth-two\n    roles: [quay-hand]\n",
            routing.Tag,
            Cancel
        );
        receipt = await ada.Publish(new PublishRequest([new("routing", "routing", rules.Revision)]), Cancel);
        receipt.Unrouted.ShouldBeEmpty();
    }

    private static async Task<Dictionary<string, string[]>> Units(HttpClient http) =>
        (await http.GetFromJsonAsync<JsonElement>("api/units", Cancel))
            .EnumerateArray()
            .ToDictionary(
                unit => unit.GetProperty("unit").GetString()!,
                unit =>
                    unit.GetProperty("fields")
                        .EnumerateArray()
                        .Select(each => $"{each.GetProperty("entity").GetString()}.{each.GetProperty("field").GetString()}")
                        .ToArray()
            );

    private static async Task<UnitReach> Rename(HttpClient http, string from, string to, string[]? fields)
    {
        var answer = await http.PostAsJsonAsync(
            "api/units/rename",
            new
            {
                from,
                to,
                fields,
            },
            Cancel
        );
        answer.EnsureSuccessStatusCode();
        return (await answer.Content.ReadFromJsonAsync<UnitReach>(Cancel))!;
    }
}
