using System.Security.Claims;
using System.Text;
using System.Text.RegularExpressions;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.OpenIdConnect;
using Microsoft.Extensions.Options;
using Microsoft.IdentityModel.Protocols.OpenIdConnect;

namespace BrightTier.Service.Access;

/// <summary>
/// Signing in through an identity provider (OpenID Connect Core 1.0, authorisation code with PKCE, RFC 7636). What comes of it is a session
/// like any
/// other; name, language and roles are the provider's, taken anew each time.
/// </summary>
public static partial class OpenId
{
    private const string Scheme = "openid";

    /// <returns>What is wrong with the configuration; null when nothing is.</returns>
    public static string? AddOpenId(this WebApplicationBuilder builder)
    {
        var given = new OpenIdOptions();
        builder.Configuration.GetSection($"{ServiceOptions.Section}:OpenId").Bind(given);
        builder.Configuration.GetSection("OpenId").Bind(given);
        if (!given.IsSet)
        {
            return given.Client.Length > 0 || !string.IsNullOrEmpty(given.Secret)
                ? "'OpenId:Authority' is missing: the https address of the identity provider whose client 'OpenId:Client' names."
                : null;
        }

        if (given.Client.Length == 0)
        {
            return "'OpenId:Client' is missing: what this service is called at the identity provider.";
        }

        if (
            !Uri.TryCreate(given.Authority, UriKind.Absolute, out var authority)
            || (authority.Scheme != Uri.UriSchemeHttps && !authority.IsLoopback)
        )
        {
            return $"'OpenId:Authority' must be the https address of the issuer; it is '{given.Authority}'.";
        }

        builder
            .Services.AddAuthentication()
            .AddCookie("passing")
            .AddOpenIdConnect(Scheme, options =>
            {
                options.Authority = given.Authority;
                options.ClientId = given.Client;
                options.ClientSecret = given.Secret;
                options.ResponseType = OpenIdConnectResponseType.Code;
                options.ResponseMode = OpenIdConnectResponseMode.Query;
                options.UsePkce = true;
                options.RequireHttpsMetadata = authority.Scheme == Uri.UriSchemeHttps;
                options.CallbackPath = "/sign-in/back";
                options.SignInScheme = "passing";
                options.MapInboundClaims = false;
                options.GetClaimsFromUserInfoEndpoint = true;
                options.ClaimActions.MapUniqueJsonKey("locale", "locale");
                options.ClaimActions.MapJsonKey(given.RolesClaim, given.RolesClaim);
                options.CorrelationCookie.SameSite = options.NonceCookie.SameSite = SameSiteMode.Lax;
                options.CorrelationCookie.SecurePolicy = options.NonceCookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
                foreach (var scope in given.Scopes.Split(' ', StringSplitOptions.RemoveEmptyEntries))
                {
                    options.Scope.Add(scope);
                }

                options.Events = new OpenIdConnectEvents
                {
                    OnTicketReceived = context => Enter(context, given),
                    OnRemoteFailure = context =>
                    {
                        context.HandleResponse();
                        return Page(
                            context.HttpContext,
                            401,
                            "Signing in was refused",
                            context.Failure?.Message is { } message ? $"{given.Name} said: {message}" : "",
                            "/"
                        );
                    },
                };
            });
        return null;
    }

    public static void MapOpenId(this WebApplication app)
    {
        if (!app.Services.GetRequiredService<IOptions<ServiceOptions>>().Value.OpenId.IsSet)
        {
            return;
        }

        app.MapGet("/sign-in", (string? back) => Results.Challenge(new AuthenticationProperties { RedirectUri = Local(back) }, [Scheme]))
            .AllowAnonymous()
            .ExcludeFromDescription();
    }

    private static async Task Enter(TicketReceivedContext context, OpenIdOptions given)
    {
        context.HandleResponse();
        var (http, cancel) = (context.HttpContext, context.HttpContext.RequestAborted);
        var services = http.RequestServices;
        var claims = context.Principal!;
        var application = services.GetRequiredService<CurrentRelease>().Default.Definitions.Application;
        var person = await Person(claims, given, application, services.GetRequiredService<PeopleStore>(), cancel);
        services.GetRequiredService<KnownCallers>().ForgetPerson(person.Id);
        await AccessEndpoints.StartSession(http, person, services.GetRequiredService<PeopleStore>(), cancel);
        await services
            .GetRequiredService<AuditStore>()
            .Note(person.Id, "session.begun", $"person/{person.Id}", new { by = "provider", roles = person.Roles }, cancel);
        // A strict cookie is not sent along a way that began elsewhere: the page that follows is asked for from here.
        await Page(http, 200, "Signed in", "", Local(context.ReturnUri));
    }

    /// <summary>The person a provider vouches for, made when she comes for the first time.</summary>
    private static async Task<PersonRow> Person(
        ClaimsPrincipal claims,
        OpenIdOptions given,
        Application application,
        PeopleStore people,
        CancellationToken cancel
    )
    {
        var (issuer, subject) = (
            claims.FindFirstValue("iss") ?? given.Authority!,
            claims.FindFirstValue("sub")
                ?? throw new RefusedException(401, "subject-missing", $"The identity provider did not say who it is.")
        );
        var provider = $"{issuer} {subject}";
        var known = await people.ByProvider(provider, cancel);
        var preferred = claims.FindFirstValue("preferred_username") ?? claims.FindFirstValue("email") ?? subject;
        var roles = claims
            .FindAll(given.RolesClaim)
            .Select(claim => given.Roles.GetValueOrDefault(claim.Value, claim.Value))
            .Where(role => application.Roles.Any(each => each.Key == role))
            .Distinct();
        var language = claims.FindFirstValue("locale")?.Split('-', '_')[0];
        var person = new PersonRow
        {
            Id = known?.Id ?? await FreeId(preferred, people, cancel),
            Name = (claims.FindFirstValue("name") ?? preferred) is { Length: > 100 } name
                ? name[..100]
                : claims.FindFirstValue("name") ?? preferred,
            Roles = string.Join(' ', roles),
            Language =
                language is not null && application.Languages.Contains(language) ? language : known?.Language ?? application.Languages[0],
            Region = claims.FindFirstValue("locale")?.Split('-', '_') is [_, { Length: 2 } region]
                ? region.ToUpperInvariant()
                : known?.Region,
            Provider = provider,
        };
        await people.Save(person, cancel);
        return person;
    }

    private static async Task<string> FreeId(string preferred, PeopleStore people, CancellationToken cancel)
    {
        var word = NotInIds().Replace(preferred.Split('@')[0].ToLowerInvariant().Normalize(NormalizationForm.FormKD), "-").Trim('-');
        word = word.Length == 0 || !char.IsAsciiLetterLower(word[0]) ? "person-" + word : word;
        word = word.Length > 50 ? word[..50] : word;
        var taken = (await people.List(cancel)).Select(person => person.Id).ToHashSet(StringComparer.Ordinal);
        return Enumerable.Range(1, int.MaxValue).Select(i => i == 1 ? word : $"{word}-{i}").First(id => !taken.Contains(id));
    }

    /// <summary>A way back within this service, or its beginning.</summary>
    private static string Local(string? back) => back is ['/', not '/' and not '\\', ..] && !back.Any(char.IsControl) ? back : "/";

    private static Task Page(HttpContext http, int status, string title, string said, string next)
    {
        http.Response.StatusCode = status;
        http.Response.ContentType = "text/html; charset=utf-8";
        http.Response.Headers.CacheControl = "no-store";
        var (safe, way) = (System.Net.WebUtility.HtmlEncode(said), System.Net.WebUtility.HtmlEncode(next));
        var onward = status == 200 ? $"<meta http-equiv=\"refresh\" content=\"0;url={way}\">" : "";
        return http.Response.WriteAsync(
            $"<!doctype html><title>{title}</title>{onward}<p>{title}. {safe} <a href=\"{way}\">Go on</a></p>",
            http.RequestAborted
        );
    }

    [GeneratedRegex("[^a-z0-9]+")]
    private static partial Regex NotInIds();
}
