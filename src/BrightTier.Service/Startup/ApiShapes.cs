using System.Text.Json.Nodes;
using BrightTier.Contracts;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace BrightTier.Service.Startup;

/// <summary>
/// What the OpenAPI document says of shapes that types alone do not tell: what is one thing or another, the events of the stream, and what
/// calls look like.
/// </summary>
internal static class ApiShapes
{
    /// <summary>Each event of the stream with its data.</summary>
    private static readonly (string Name, Type Data)[] Events =
    [
        ("hello", typeof(HelloEvent)),
        ("resync", typeof(HelloEvent)),
        ("release", typeof(ReleaseEvent)),
        ("draft", typeof(DraftEvent)),
        ("approval", typeof(DraftEvent)),
        ("scheduled-release", typeof(ScheduledReleaseEvent)),
        ("rollout", typeof(RolloutEvent)),
        ("comment", typeof(CommentEvent)),
        ("person", typeof(PersonEvent)),
        ("selection", typeof(SelectionEvent)),
    ];

    /// <summary>What calls look like, by the name of the call: its path, its headers, its body. A test makes them.</summary>
    private static readonly JsonObject Examples = Read();

    public static OpenApiOptions DescribeShapes(this OpenApiOptions options) =>
        options.AddSchemaTransformer(Either).AddOperationTransformer(Exemplify).AddDocumentTransformer(Tell);

    private static JsonObject Read()
    {
        using var stream = typeof(ApiShapes).Assembly.GetManifestResourceStream("examples.json")!;
        return JsonNode.Parse(stream)!.AsObject();
    }

    private static Task Either(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancel)
    {
        if (context.JsonTypeInfo.Type == typeof(FormDecision))
        {
            schema.OneOf =
            [
                new OpenApiSchema { Type = JsonSchemaType.Boolean, Enum = [JsonValue.Create(true)] },
                new OpenApiSchema
                {
                    Type = JsonSchemaType.Object,
                    Properties = new Dictionary<string, IOpenApiSchema>
                    {
                        ["when"] = new OpenApiSchema { Description = "A compiled condition (docs/model.md)." },
                        ["reads"] = new OpenApiSchema
                        {
                            Type = JsonSchemaType.Array,
                            Items = new OpenApiSchema { Type = JsonSchemaType.String },
                        },
                    },
                    Required = new HashSet<string> { "when", "reads" },
                },
            ];
        }

        return Task.CompletedTask;
    }

    private static Task Exemplify(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancel)
    {
        if (operation.OperationId is not { } name || Examples[name] is not JsonObject example)
        {
            return Task.CompletedTask;
        }

        if (
            operation.RequestBody?.Content is { } content
            && content.TryGetValue("application/json", out var media)
            && media is OpenApiMediaType body
        )
        {
            body.Example = example["body"]?.DeepClone();
        }

        foreach (var parameter in (operation.Parameters ?? []).OfType<OpenApiParameter>())
        {
            parameter.Example = example["path"]?[parameter.Name ?? ""]?.DeepClone();
        }

        return Task.CompletedTask;
    }

    private static async Task Tell(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        foreach (var type in Events.Select(each => each.Data).Distinct())
        {
            document.AddComponent(type.Name, await context.GetOrCreateSchemaAsync(type, cancellationToken: cancel));
        }

        document.AddComponent(
            "ServerEvent",
            new OpenApiSchema
            {
                Description = "One event of the stream: its name, its data as one line of JSON, and its id.",
                OneOf = [.. Events.Select(each => Event(each.Name, each.Data, document))],
            }
        );
        var stream = document.Paths["/api/events"].Operations![HttpMethod.Get].Responses!["200"].Content!["text/event-stream"];
        ((OpenApiMediaType)stream).Schema = new OpenApiSchemaReference("ServerEvent", document);
        ((OpenApiSchema)document.Components!.Schemas![nameof(LayoutView)]).Properties!["form"] = new OpenApiSchemaReference(
            nameof(ResolvedForm),
            document
        );
    }

    private static OpenApiSchema Event(string name, Type data, OpenApiDocument document) =>
        new()
        {
            Type = JsonSchemaType.Object,
            Properties = new Dictionary<string, IOpenApiSchema>
            {
                ["event"] = new OpenApiSchema { Type = JsonSchemaType.String, Enum = [JsonValue.Create(name)] },
                ["data"] = new OpenApiSchemaReference(data.Name, document),
                ["id"] = new OpenApiSchema { Type = JsonSchemaType.String },
            },
            Required = new HashSet<string> { "event", "data" },
        };
}
