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
    private const string Refusal = "Refusal";

    public static OpenApiOptions Describe(this OpenApiOptions options) =>
        options.AddOperationTransformer(Describe).AddDocumentTransformer(Describe);

    private static Task Describe(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancel)
    {
        var anonymous = context.Description.ActionDescriptor.EndpointMetadata.OfType<IAllowAnonymous>().Any();
        OpenApiSecurityRequirement By(string scheme) => new() { [new OpenApiSecuritySchemeReference(scheme, context.Document)] = [] };
        operation.Security = anonymous ? [] : [By(Token), By(Session)];
        (operation.Responses ??= [])["4XX"] = new OpenApiResponseReference(Refusal, context.Document);
        return Task.CompletedTask;
    }

    private static async Task Describe(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        document.Info = new()
        {
            Title = "Bright Tier",
            Version = "1",
            Description = "Layouts, releases, forms and records. Errors are problem details (RFC 9457) with a stable code.",
        };
        document.Servers?.Clear();
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
        document.AddComponent(
            Refusal,
            new OpenApiResponse
            {
                Description = "Why the call was refused: a stable code, what is wrong, where, and what would be right.",
                Content = new Dictionary<string, OpenApiMediaType>
                {
                    ["application/problem+json"] = new OpenApiMediaType { Schema = new OpenApiSchemaReference(nameof(Problem), document) },
                },
            }
        );
    }
}
