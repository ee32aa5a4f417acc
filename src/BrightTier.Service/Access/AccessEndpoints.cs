using System.Net;
using BrightTier.Contracts;
using BrightTier.Service.Hosting;
using BrightTier.Service.Releases;
using BrightTier.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Access;

/// <summary>Sessions, people one can be, personal tokens.</summary>
public static class AccessEndpoints
{
    private static readonly TimeSpan SessionLength = TimeSpan.FromDays(14);

    public static void MapAccess(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("").WithTags("session");
        group.MapGet("/session", Session).Produces<SessionInfo>().WithSummary("Who one is and what one may.");
        group.MapGet("/session/people", PeopleToPick).Produces<IReadOnlyList<Person>>().WithSummary("The people one can be, where the service lets one pick.");
        group.MapPost("/session", SignIn).Produces<SessionInfo>().WithSummary("Signs in and sets the session's cookie.");
        group.MapDelete("/session", SignOut).Produces(204).WithSummary("Signs out.");
        group.MapGet("/tokens", Tokens).Produces<IReadOnlyList<TokenInfo>>().WithSummary("One's own personal tokens.");
        group.MapPost("/tokens", MakeToken).Produces<TokenInfo>(201).WithSummary("Makes a personal token; its secret is shown this once.");
        group.MapDelete("/tokens/{id}", EndToken).Produces(204).WithSummary("Ends a personal token.");
    }

    private static IResult Session(HttpContext http, CurrentRelease releases, IAntiforgery antiforgery, IOptions<ServiceOptions> options)
    {
        http.Response.Headers.CacheControl = "no-store";
        return Json(Info(http, http.CallerOrNull(), releases.Snapshot, antiforgery, options.Value));
    }

    /// <summary>The session as the page of somebody who works here carries it.</summary>
    internal static byte[] SessionOf(HttpContext http, Caller caller)
    {
        var services = http.RequestServices;
        var info = Info(http, caller, services.GetRequiredService<CurrentRelease>().Snapshot, services.GetRequiredService<IAntiforgery>(), services.GetRequiredService<IOptions<ServiceOptions>>().Value);
        return System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(info, WireJson.Default.SessionInfo);
    }

    private static SessionInfo Info(HttpContext http, Caller? caller, Snapshot release, IAntiforgery antiforgery, ServiceOptions options)
    {
        var application = release.Definitions.Application;
        var language = caller?.Person.Language ?? Preferred(http, application);
        return new SessionInfo(
            caller is null ? null : ToPerson(caller.Person),
            caller is null ? [] : [.. caller.May(application, release.Number).Order(StringComparer.Ordinal)],
            caller is null ? "" : antiforgery.GetAndStoreTokens(http).RequestToken ?? "",
            new ApplicationInfo(
                application.Title.In(language), application.Languages, application.Currency, application.TimeZone,
                [.. application.Roles.Select(role => new RoleInfo(role.Key, role.Label.In(language), role.May))],
                [.. application.Ranges([]).Select(range => new WidthInfo(range.Name, range.From, range.Below))],
                new ThemeInfo(application.Theme.Primary, application.Theme.Accent, application.Theme.Typeface)),
            options.PickPeople && !Forwarded(http),
            release.Number,
            language);
    }

    /// <summary>The language of the application that a browser asks for first (RFC 9110, 12.5.4).</summary>
    private static string Preferred(HttpContext http, Core.Entities.Application application) =>
        http.Request.GetTypedHeaders().AcceptLanguage.OrderByDescending(each => each.Quality ?? 1)
            .Select(each => application.Languages.FirstOrDefault(language => language.Equals(each.Value.Value?.Split('-')[0], StringComparison.OrdinalIgnoreCase)))
            .FirstOrDefault(language => language is not null) ?? application.Languages[0];

    private static async Task<IResult> PeopleToPick(HttpContext http, PeopleStore people, IOptions<ServiceOptions> options, CancellationToken cancel)
    {
        InsistOnPicking(http, options.Value);
        return TypedResults.Json<IReadOnlyList<Person>>([.. (await people.List(cancel)).Select(ToPerson)], WireJson.Default.IReadOnlyListPerson);
    }

    private static async Task<IResult> SignIn(
        HttpContext http, SignIn body, PeopleStore people, Recognition recognition, CurrentRelease releases, IAntiforgery antiforgery, IOptions<ServiceOptions> options, CancellationToken cancel)
    {
        PersonRow person;
        if (body.Token is { } token)
        {
            person = (await people.Find(PeopleStore.Token, PeopleStore.HashOf(token), cancel))?.Person
                ?? throw Callers.TokenUnknown();
        }
        else
        {
            InsistOnPicking(http, options.Value);
            var everyone = await people.List(cancel);
            person = everyone.FirstOrDefault(each => each.Id == body.Person) ?? throw Problems.NotFound("person", body.Person ?? "", everyone.Select(each => each.Id));
        }

        var (secret, credential) = await people.Issue(PeopleStore.Session, person.Id, "", SessionLength, cancel);
        http.Response.Cookies.Append(Recognition.Cookie, secret, new CookieOptions
        {
            HttpOnly = true,
            SameSite = SameSiteMode.Strict,
            Secure = http.Request.IsHttps,
            Path = "/",
            MaxAge = SessionLength,
        });
        var caller = new Caller(person, true, credential.Hash, credential.Expires);
        http.User = new System.Security.Claims.ClaimsPrincipal(new System.Security.Claims.ClaimsIdentity(
            [new(System.Security.Claims.ClaimTypes.NameIdentifier, person.Id), new(System.Security.Claims.ClaimTypes.Name, person.Id)], "opaque"));
        return Json(Info(http, caller, releases.Snapshot, antiforgery, options.Value));
    }

    private static async Task<IResult> SignOut(HttpContext http, PeopleStore people, Recognition recognition, CancellationToken cancel)
    {
        var caller = http.Caller();
        await people.Revoke(caller.Person.Id, caller.Credential, cancel);
        recognition.Forget(caller.Credential);
        http.Response.Cookies.Delete(Recognition.Cookie);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> Tokens(HttpContext http, PeopleStore people, CancellationToken cancel) =>
        TypedResults.Json<IReadOnlyList<TokenInfo>>([.. (await people.Tokens(http.Caller().Person.Id, cancel)).Select(row => Info(row))], WireJson.Default.IReadOnlyListTokenInfo);

    private static async Task<IResult> MakeToken(HttpContext http, TokenRequest body, PeopleStore people, CancellationToken cancel)
    {
        var caller = http.Caller();
        if (body.Days is < 1 or > 365 || string.IsNullOrWhiteSpace(body.Name) || body.Name.Length > 100)
        {
            throw Problems.Invalid("A token needs a name of at most 100 characters and lives from 1 to 365 days.", new ProblemPart(body.Days is < 1 or > 365 ? "/days" : "/name", "is out of range"));
        }

        var (secret, row) = await people.Issue(PeopleStore.Token, caller.Person.Id, body.Name, TimeSpan.FromDays(body.Days), cancel);
        return TypedResults.Json(Info(row, secret), WireJson.Default.TokenInfo, statusCode: 201);
    }

    private static async Task<IResult> EndToken(HttpContext http, string id, PeopleStore people, Recognition recognition, CancellationToken cancel)
    {
        var caller = http.Caller();
        var row = (await people.Tokens(caller.Person.Id, cancel)).FirstOrDefault(each => each.Hash[..12] == id) ?? throw Problems.NotFound("token", id);
        await people.Revoke(caller.Person.Id, row.Hash, cancel);
        recognition.Forget(row.Hash);
        return TypedResults.NoContent();
    }

    private static TokenInfo Info(CredentialRow row, string? secret = null) => new(row.Hash[..12], row.Name, DateTimeOffset.FromUnixTimeMilliseconds(row.Expires), secret);

    internal static Person ToPerson(PersonRow row) => new(row.Id, row.Name, row.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries), row.Language);

    private static IResult Json(SessionInfo info) => TypedResults.Json(info, WireJson.Default.SessionInfo);

    private static void InsistOnPicking(HttpContext http, ServiceOptions options)
    {
        if (!options.PickPeople)
        {
            throw new RefusedException(403, "picking-off", "People are not picked from a list here; sign in with a personal token.");
        }

        if (Forwarded(http))
        {
            throw new RefusedException(403, "picking-forwarded", "People can be picked only from the machine the service runs on, never through a proxy.");
        }
    }

    /// <summary>Whether a request came from elsewhere or through something in between.</summary>
    private static bool Forwarded(HttpContext http) =>
        (http.Connection.RemoteIpAddress is { } address && !IPAddress.IsLoopback(address))
        || http.Request.Headers.Keys.Any(name => name.Equals("Forwarded", StringComparison.OrdinalIgnoreCase) || name.Equals("Via", StringComparison.OrdinalIgnoreCase) || name.StartsWith("X-Forwarded-", StringComparison.OrdinalIgnoreCase));
}
