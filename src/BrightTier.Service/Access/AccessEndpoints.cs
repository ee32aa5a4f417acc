using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Access;

/// <summary>Sessions: by password, by token, by the identity provider, or, for demonstrations, by picking a person.</summary>
public static class AccessEndpoints
{
    private static readonly TimeSpan SessionLength = TimeSpan.FromDays(14);

    public static void MapAccess(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("").WithTags("session");
        group
            .MapGet("/session", Session)
            .WithName("getSession")
            .AllowAnonymous()
            .WithMetadata(new NoCompression())
            .Produces<SessionInfo>()
            .WithSummary("Who one is and what one may.");
        group
            .MapGet("/session/people", PeopleToPick)
            .WithName("listPeopleToPick")
            .AllowAnonymous()
            .Produces<IReadOnlyList<Person>>()
            .WithSummary("The people one can be, where the service lets one pick.");
        group
            .MapPost("/session", SignIn)
            .WithName("signIn")
            .AllowAnonymous()
            .WithMetadata(new NoCompression(), new SignInTry())
            .TakesAtMost(BodySizes.Small)
            .Produces<SessionInfo>()
            .WithSummary("Signs in and sets the session's cookie.");
        group
            .MapDelete("/session", SignOut)
            .WithName("signOut")
            .Needs()
            .WithMetadata(new HarmlessCall())
            .Produces(204)
            .WithSummary("Signs out.");
        group
            .MapPut("/session/localization", Localizations.Put)
            .WithName("changeLocalization")
            .Needs()
            .Produces<Person>()
            .WithSummary("Changes one's own language, and the region whose dates and numbers are written; one's open pages follow.");
        group
            .MapPut("/session/password", ChangePassword)
            .WithName("changePassword")
            .Needs()
            .Produces(204)
            .WithSummary("Changes one's own password; one's other sessions end.");
    }

    private static IResult Session(HttpContext http)
    {
        http.Response.Headers.CacheControl = "no-store";
        return Json(SessionAnswer.Of(http, http.CallerOrNull()));
    }

    private static async Task<IResult> PeopleToPick(
        HttpContext http,
        PeopleStore people,
        IOptions<ServiceOptions> options,
        CancellationToken cancel
    )
    {
        RequirePicking(http, options.Value);
        return TypedResults.Json<IReadOnlyList<Person>>(
            [.. (await people.List(cancel)).Select(PersonAnswer.Of)],
            WireJson.Default.IReadOnlyListPerson
        );
    }

    private static async Task<IResult> SignIn(
        HttpContext http,
        SignIn body,
        PeopleStore people,
        Passwords passwords,
        AuditStore audit,
        IOptions<ServiceOptions> options,
        CancellationToken cancel
    )
    {
        var (person, token) = await Who(http, body, people, passwords, options.Value, cancel);
        return await Enter(
            http,
            person,
            body.Password is not null ? "password"
                : body.Token is not null ? "token"
                : "picking",
            people,
            audit,
            cancel,
            token
        );
    }

    /// <summary>Begins somebody's session, and answers it.</summary>
    /// <param name="by">How one got in, as the audit log has it.</param>
    /// <param name="token">The token it begins with, which it does not outlive; null for none.</param>
    internal static async Task<IResult> Enter(
        HttpContext http,
        PersonRow person,
        string by,
        PeopleStore people,
        AuditStore audit,
        CancellationToken cancel,
        (string Hash, TimeSpan Left)? token = null
    )
    {
        var credential = await StartSession(http, person, people, cancel, token);
        await audit.Note(person.Id, "session.begun", $"person/{person.Id}", new { by }, cancel);
        var caller = new Caller(person, true, credential.Hash, credential.Expires);
        http.User = KnownCallers.Principal(caller);
        return Json(SessionAnswer.Of(http, caller));
    }

    /// <summary>Begins a session: its secret goes into the cookie, and nowhere else.</summary>
    /// <param name="token">The token it begins with, which it does not outlive; null for none.</param>
    internal static async Task<CredentialRow> StartSession(
        HttpContext http,
        PersonRow person,
        PeopleStore people,
        CancellationToken cancel,
        (string Hash, TimeSpan Left)? token = null
    )
    {
        var length = token is { Left: var left } && left < SessionLength ? left : SessionLength;
        var (secret, credential) = await people.Issue(
            PeopleStore.Session,
            person.Id,
            token is { Hash: var hash } ? PeopleStore.NameOf(hash) : "",
            length,
            cancel
        );
        http.Response.Cookies.Append(
            KnownCallers.Cookie,
            secret,
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = http.Request.IsHttps,
                Path = "/",
                MaxAge = length,
            }
        );
        return credential;
    }

    private static async Task<(PersonRow Person, (string Hash, TimeSpan Left)? Token)> Who(
        HttpContext http,
        SignIn body,
        PeopleStore people,
        Passwords passwords,
        ServiceOptions options,
        CancellationToken cancel
    )
    {
        if (body.Password is { } password)
        {
            return (await passwords.Check(http, body.Person ?? "", password, body.NewPassword, cancel), null);
        }

        if (body.Token is { } token)
        {
            var found = await people.Find(PeopleStore.Token, PeopleStore.HashOf(token), cancel) ?? throw Callers.TokenUnknown();
            var left =
                DateTimeOffset.FromUnixTimeMilliseconds(found.Expires)
                - http.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow();
            return found.Scopes is null
                ? (found.Person, (PeopleStore.HashOf(token), left))
                : throw new RefusedException(
                    403,
                    "token-narrow",
                    $"This token has limited permissions; sign in with one that has all of yours."
                );
        }

        RequirePicking(http, options);
        var everyone = await people.List(cancel);
        return everyone.FirstOrDefault(each => each.Id == body.Person) is { } picked
            ? (picked, null)
            : throw Problems.NotFound($"person", body.Person ?? "", everyone.Select(each => each.Id));
    }

    private static async Task<IResult> ChangePassword(
        HttpContext http,
        PasswordChange body,
        PeopleStore people,
        Passwords passwords,
        PersonChanges changes,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        if (!caller.ByCookie)
        {
            throw Problems.Forbidden($"A password is changed in a session, not with a token.");
        }

        await passwords.Change(http, caller.Person, body.Current, body.New, cancel);
        await people.RevokeOthers(caller.Person.Id, caller.Credential, tokens: false, cancel);
        // Every page of hers comes back, and only that of this session is let in.
        changes.Announce(caller.Person.Id);
        await audit.Note(caller.Person.Id, "password.changed", $"person/{caller.Person.Id}", null, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> SignOut(
        HttpContext http,
        PeopleStore people,
        KnownCallers recognition,
        Broadcaster broadcaster,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var person = caller.Viewer ?? caller.Person;
        await End(person.Id, caller.Credential, people, recognition, broadcaster, cancel);
        await audit.Note(person.Id, "session.ended", $"person/{person.Id}", null, cancel);
        http.Response.Cookies.Delete(KnownCallers.Cookie);
        PersonView.End(http);
        return TypedResults.NoContent();
    }

    /// <summary>
    /// Ends a session or token with all that began with it: nobody is known by it any more, in no process, and its streams are over.
    /// </summary>
    internal static async Task End(
        string person,
        string hash,
        PeopleStore people,
        KnownCallers recognition,
        Broadcaster broadcaster,
        CancellationToken cancel
    )
    {
        foreach (var over in await people.Revoke(person, hash, cancel))
        {
            recognition.Forget(over);
            broadcaster.EndCredential(over);
        }
    }

    private static IResult Json(SessionInfo info) => TypedResults.Json(info, WireJson.Default.SessionInfo);

    private static void RequirePicking(HttpContext http, ServiceOptions options)
    {
        if (!options.PickPeople)
        {
            throw new RefusedException(
                403,
                "picking-off",
                $"People are not picked from a list here; sign in with your password or a personal token."
            );
        }

        if (http.IsFromElsewhere())
        {
            throw new RefusedException(
                403,
                "picking-forwarded",
                $"People can be picked only from the machine the service runs on, by its own name (127.0.0.1 or localhost), "
                    + $"never through a proxy."
            );
        }
    }
}
