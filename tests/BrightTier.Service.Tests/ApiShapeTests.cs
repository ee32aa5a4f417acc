using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>What the description of the API says of forms, events and calls is what the service answers, tells and takes.</summary>
public sealed class ApiShapeTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>A member that no type has fails, and what is at its default is left out, as in the form itself.</summary>
    private static readonly JsonSerializerOptions Whole = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        AllowOutOfOrderMetadataProperties = true,
        NumberHandling = JsonNumberHandling.Strict,
        RespectRequiredConstructorParameters = true,
        RespectNullableAnnotations = true,
    };

    private static void ShouldBeTyped(string form, string of) =>
        JsonNode
            .DeepEquals(JsonNode.Parse(form), JsonSerializer.SerializeToNode(JsonSerializer.Deserialize<ResolvedForm>(form, Whole), Whole))
            .ShouldBeTrue(of);

    [Fact]
    public async Task Every_form_is_read_whole_by_its_type()
    {
        await using var service = await HostedService.WithDemo();
        var forms = 0;
        foreach (var person in new[] { "ada", "bram", "farid", "greta" })
        {
            using var http = await service.Http(person);
            using var client = await service.As(person);
            foreach (var entity in await client.Entities(Cancel))
            {
                foreach (var kind in new[] { "full", "short", "card", "list", "print" })
                {
                    foreach (var mode in new[] { "create", "edit", "view" })
                    {
                        using var answer = await http.GetAsync($"api/forms/{entity.Key}?kind={kind}&mode={mode}", Cancel);
                        if (answer.IsSuccessStatusCode)
                        {
                            forms++;
                            ShouldBeTyped(await answer.Content.ReadAsStringAsync(Cancel), $"{entity.Key} {kind} {mode} of {person}");
                        }
                    }
                }
            }
        }

        forms.ShouldBeGreaterThan(100);
    }

    [Fact]
    public async Task A_form_of_everything_is_read_whole_by_its_type_as_its_designer_sees_it()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        using var http = await service.Http("ada");
        await ada.PutFile("layout", "everything", Everything, null, Cancel);
        foreach (var language in new[] { "en", "ar" })
        {
            var form = await http.GetStringAsync($"api/layouts/everything/preview?mode=edit&showHidden=true&language={language}", Cancel);
            ShouldBeTyped(form, language);
            foreach (var part in new[] { "panel", "related", "action", "image", "link", "text", "divider", "spacer", "heading" })
            {
                form.ShouldContain($"\"kind\":\"{part}\"");
            }

            foreach (var part in new[] { "variants", "same", "blocks", "ghost", "top", "end", "filterBy", "pattern", "when" })
            {
                form.ShouldContain($"\"{part}\":");
            }
        }
    }

    private const string Everything = """
        kind: full
        key: everything
        entity: vessel
        title: Everything
        top:
          text: "{name}"
          empty: New vessel
          icon: anchor
          items:
            - action: open
              label: Chart
              address: "https://charts.example/{name}"
        body:
          pages:
            - id: first
              title: First
              icon: anchor
              sections:
                - id: second
                  title: Second
                  rows:
                    - - heading: Words
                      - text: "**Bold** and [a link](https://example.org)"
                    - - divider: thin
                      - spacer: small
                    - - image: /icon.svg
                        alt: The quay
                      - link: "https://example.org/{name}"
                        label: More
                    - - field: registration
                        pattern: "S.*"
                        patternMessage: Begins with S
                      - field: name
                        visible: mode == 'create'
                    - - field: beam
                        visible: record.length > 3.0
                      - field: berth
                        filterBy: { zone: homePort }
                    - - related: agreement
                        through: vessel
                    - - panel: tabs
                        pages:
                          - title: Inner
                            sections:
                              - rows:
                                  - draught
        end:
          share: 3
          sections:
            - rows:
                - condition
        variants:
          narrow:
            - set: { second: { hidden: true } }
        """;

    [Fact]
    public async Task Every_call_with_a_body_has_an_example_and_the_service_takes_it()
    {
        await using var service = await HostedService.WithDemo();
        using var http = await service.Http("greta");
        var described = JsonNode.Parse(await http.GetStringAsync("openapi/v1.json", Cancel))!;
        var calls = described["paths"]!
            .AsObject()
            .SelectMany(path => path.Value!.AsObject().Select(call => (Path: path.Key, Method: call.Key, Call: call.Value!)))
            .Where(call => call.Call["requestBody"]?["content"]?["application/json"] is not null)
            // Documents are written as YAML; docs/schema tells what they are.
            .Where(call => call.Call["requestBody"]!["content"]!["application/yaml"] is null)
            .ToDictionary(call => (string)call.Call["operationId"]!);
        calls
            .Where(call => call.Value.Call["requestBody"]!["content"]!["application/json"]!["example"] is null)
            .Select(call => call.Key)
            .ShouldBeEmpty();

        foreach (var name in Sent)
        {
            var (path, method, call) = calls[name];
            foreach (var parameter in (call["parameters"] as JsonArray ?? []).Where(each => (string?)each!["in"] == "path"))
            {
                path = path.Replace($"{{{parameter!["name"]}}}", parameter["example"]!.ToString(), StringComparison.Ordinal);
            }

            using var request = new HttpRequestMessage(new HttpMethod(method), path.TrimStart('/'));
            var body = call["requestBody"]!["content"]!["application/json"]!["example"]!.ToJsonString();
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
            Conditions(name, request.Headers);
            using var answer = await http.SendAsync(request, Cancel);
            answer.IsSuccessStatusCode.ShouldBeTrue($"{name}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync(Cancel)}");
        }

        Sent.Concat(Elsewhere).Order().ShouldBe(calls.Keys.Order());
    }

    /// <summary>What it changes is told as everywhere: by the revision that was read.</summary>
    private static void Conditions(string name, HttpRequestHeaders headers)
    {
        if (name is "putPerson")
        {
            headers.TryAddWithoutValidation("If-None-Match", "*");
        }
        else if (name is "changeRecord")
        {
            headers.TryAddWithoutValidation("If-Match", "\"1\"");
        }
    }

    /// <summary>In an order in which each finds what it names.</summary>
    private static readonly string[] Sent =
    [
        "changeLocalization",
        "createField",
        "placeOnLayout",
        "proposeForLayout",
        "tellSelection",
        "checkCondition",
        "testPattern",
        "createRecordComment",
        "createDraftComment",
        "resolveComment",
        "createRecord",
        "changeRecord",
        "changeRecords",
        "acknowledgeRelease",
        "importDocuments",
        "createToken",
        "putPerson",
        "setPassword",
        "putPreference",
        "restoreDocument",
        "renameUnit",
        "putChoiceList",
        "createLayout",
        "sketchTable",
        "createEntityOfTable",
        "createLayoutsFromTemplate",
        "createPiece",
        "detachPiece",
        "pasteNodes",
        "approveDraft",
        "editLayout",
        "planRelease",
        "publishRelease",
        "restoreRelease",
        "signIn",
    ];

    /// <summary>What needs another service than the demo: an empty one, a database, a password, a staged release, a time to come.</summary>
    private static readonly string[] Elsewhere =
    [
        "setUp",
        "setDatabase",
        "sketchAttachedTables",
        "attachTables",
        "changePassword",
        "viewAs",
        "widenRelease",
        "scheduleRelease",
    ];

    [Fact]
    public async Task What_is_told_is_of_the_type_its_event_has()
    {
        await using var service = await HostedService.WithDemo();
        using var http = await service.Http("ada");
        using var ada = await service.As("ada");
        using var stream = await http.GetAsync("api/events", HttpCompletionOption.ResponseHeadersRead, Cancel);
        using var reader = new StreamReader(await stream.Content.ReadAsStreamAsync(Cancel));
        var draft = await ada.Layout("keeper", Cancel);
        var edited = await ada.Edit(
            "keeper",
            new EditRequest(draft.Revision, Wire.Json("""[{"op":"set","node":"layout","property":"title","value":"Keepers"}]""")),
            Cancel
        );
        await ada.Publish(new PublishRequest([new("layout", "keeper", edited.Revision)]), Cancel);
        var (name, told) = ("", new Dictionary<string, string>());
        while (!told.ContainsKey("release") && await reader.ReadLineAsync(Cancel) is { } line)
        {
            name = line.StartsWith("event: ", StringComparison.Ordinal) ? line[7..] : name;
            if (line.StartsWith("data: ", StringComparison.Ordinal))
            {
                told[name] = line[6..];
            }
        }

        JsonSerializer.Deserialize(told["hello"], WireJson.Default.HelloEvent)!.Release.ShouldBe(1);
        JsonSerializer
            .Deserialize(told["draft"], WireJson.Default.DraftEvent)
            .ShouldBe(new DraftEvent("layout", "keeper", edited.Revision, "ada"));
        // Few listen: what is read anew is read at once.
        JsonSerializer.Deserialize(told["release"], WireJson.Default.ReleaseEvent).ShouldBe(new ReleaseEvent(2, 0));
    }
}
