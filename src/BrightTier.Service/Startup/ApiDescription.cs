using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Service.Auth;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace BrightTier.Service.Startup;

/// <summary>
/// What the OpenAPI document (3.1) says beyond paths and bodies: how one signs in, which calls ask for it, and how a call is refused (RFC
/// 9457).
/// </summary>
internal static class ApiDescription
{
    private const string Session = "session";
    private const string Token = "token";
    private static readonly Dictionary<string, string> Tags = new(StringComparer.Ordinal)
    {
        ["session"] = "Who is signed in: signing in and out, tokens, what a person prefers.",
        ["entities"] = "Kinds of records and their fields, as drafts and as published.",
        ["layouts"] = "Drafts of layouts: read, made, edited, checked, looked at.",
        ["definitions"] = "What layouts rest on: choice lists, patterns, units, templates.",
        ["forms"] = "Published forms and the menu, resolved for whoever asks.",
        ["records"] = "Records of entities: listed, read, saved, their history.",
        ["comments"] = "Comments on drafts and records.",
        ["events"] = "What happens, as it happens.",
        ["releases"] = "What was published, and publishing it: planned, scheduled, staged, restored.",
        ["operations"] = "Running the service: backups, how it is.",
        ["documents"] = "Documents of every kind as files: folders, bundles, histories.",
        ["audit"] = "The audit log, for administrators.",
        ["people"] = "People and their roles, for administrators.",
        ["databases"] = "Forms over the tables of existing databases.",
        ["files"] = "Files and images that records hold.",
    };

    /// <summary>How a call is refused, by status: what the component is called, what it means, and the header that comes with it.</summary>
    private static readonly (int Status, string Name, string Meaning, string? Header, string? About)[] Refusals =
    [
        (400, "Malformed", "The call is not what it takes: a parameter, or the body, is ill-formed or out of range.", null, null),
        (
            401,
            "NotSignedIn",
            "Nobody is signed in: send a token, or sign in on a page.",
            "WWW-Authenticate",
            "The scheme by which one signs in (RFC 9110, 11.6.1)."
        ),
        (403, "NotAllowed", "Whoever asks may not do this.", null, null),
        (404, "NotFound", "There is nothing of that name; names that are like it are told.", null, null),
        (
            409,
            "Conflict",
            "It does not go with what is there by now: somebody else changed it, or it is in use. Nothing was changed.",
            null,
            null
        ),
        (413, "TooLarge", "The body is larger than this call takes.", null, null),
        (415, "NotThisMediaType", "The body is of a media type this call does not take.", null, null),
        (422, "Refused", "What is sent can be read and is not right: each place is named with what would be.", null, null),
        (428, "PreconditionRequired", "Say in If-Match which revision this changes, or If-None-Match: * for something new.", null, null),
        (429, "TooMany", "Too many calls in a short time.", "Retry-After", "Seconds until it is worth trying again (RFC 9110, 10.2.3)."),
        (
            503,
            "Unavailable",
            "The service is starting, or what it rests on does not answer. Nothing was changed.",
            "Retry-After",
            "Seconds until it is worth trying again (RFC 9110, 10.2.3)."
        ),
    ];

    public static OpenApiOptions Describe(this OpenApiOptions options) =>
        options.AddOperationTransformer(Describe).AddDocumentTransformer(Describe).AddSchemaTransformer(Describe).DescribeShapes();

    /// <summary>A list of what can be anything says so.</summary>
    private static Task Describe(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancel)
    {
        if (schema.Type is { } type && type.HasFlag(JsonSchemaType.Array))
        {
            schema.Items ??= new OpenApiSchema();
        }

        return Task.CompletedTask;
    }

    private static Task Describe(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancel)
    {
        var anonymous = context.Description.ActionDescriptor.EndpointMetadata.OfType<IAllowAnonymous>().Any();
        OpenApiSecurityRequirement By(string scheme) => new() { [new OpenApiSecuritySchemeReference(scheme, context.Document)] = [] };
        operation.Security = anonymous ? [] : [By(Token), By(Session)];
        foreach (var parameter in (operation.Parameters ?? []).OfType<OpenApiParameter>())
        {
            parameter.Description ??= ParameterTexts.Of(operation.OperationId, parameter.Name ?? "");
        }

        operation.Responses ??= [];
        var changes = context.Description.HttpMethod is not "GET";
        foreach (var (status, name, _, _, _) in Refusals)
        {
            var happens = status switch
            {
                401 or 403 => !anonymous,
                404 => context.Description.RelativePath?.Contains('{', StringComparison.Ordinal) == true,
                409 => changes,
                413 or 415 or 422 => operation.RequestBody is not null,
                428 => context.Description.HttpMethod is "PUT" or "DELETE",
                _ => true,
            };
            if (happens)
            {
                operation.Responses[status.ToString(CultureInfo.InvariantCulture)] = new OpenApiResponseReference(name, context.Document);
            }
        }

        Head(operation);
        return Task.CompletedTask;
    }

    /// <summary>What the headers of an answer say.</summary>
    private static void Head(OpenApiOperation operation)
    {
        foreach (var (status, answer) in operation.Responses!.Where(pair => pair.Value is OpenApiResponse))
        {
            var response = (OpenApiResponse)answer;
            response.Headers ??= new Dictionary<string, IOpenApiHeader>();
            if (status == "201")
            {
                response.Headers["Location"] = Header("Where what was made is read (RFC 9110, 10.2.2).");
            }

            if (status == "200" && operation.OperationId is "getForm")
            {
                response.Headers["Bright-Release"] = Header("The release the form is of.");
                response.Headers["ETag"] = Header("The form's entity tag, for If-None-Match (RFC 9110, 8.8.3).");
            }
        }
    }

    private static OpenApiHeader Header(string about) =>
        new()
        {
            Description = about,
            Schema = new OpenApiSchema { Type = JsonSchemaType.String },
        };

    private static async Task Describe(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        document.Info = new()
        {
            Title = "Bright Tier",
            Version = "1",
            Description = "Layouts, releases, forms and records. Errors are problem details (RFC 9457) with a stable code.",
        };
        foreach (var tag in document.Tags ?? new HashSet<OpenApiTag>())
        {
            tag.Description = Tags.GetValueOrDefault(tag.Name ?? "");
        }

        document.Servers = [new OpenApiServer { Url = "/", Description = "The service that answers this document." }];
        document.AddComponent(
            Token,
            new OpenApiSecurityScheme
            {
                Type = SecuritySchemeType.Http,
                Scheme = "bearer",
                Description = "A personal token (RFC 6750).",
            }
        );
        document.AddComponent(
            Session,
            new OpenApiSecurityScheme
            {
                Type = SecuritySchemeType.ApiKey,
                In = ParameterLocation.Cookie,
                Name = KnownCallers.Cookie,
                Description =
                    "The cookie of a session. Calls that change something send the session's antiforgery value in the header "
                    + "X-Antiforgery.",
            }
        );
        document.AddComponent(nameof(Problem), await context.GetOrCreateSchemaAsync(typeof(Problem), cancellationToken: cancel));
        foreach (var (_, name, meaning, header, about) in Refusals)
        {
            document.AddComponent(
                name,
                new OpenApiResponse
                {
                    Description = meaning,
                    Headers = header is null ? null : new Dictionary<string, IOpenApiHeader> { [header] = Header(about!) },
                    Content = new Dictionary<string, OpenApiMediaType>
                    {
                        ["application/problem+json"] = new OpenApiMediaType
                        {
                            Schema = new OpenApiSchemaReference(nameof(Problem), document),
                        },
                    },
                }
            );
        }
    }
}
