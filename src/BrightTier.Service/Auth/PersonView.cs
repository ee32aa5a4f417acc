using System.Globalization;
using BrightTier.Core.Model;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.AspNetCore.DataProtection;

namespace BrightTier.Service.Auth;

/// <summary>
/// An administrator sees the application as another person does: the menu, the lists, the forms and the records that are hers. She stays
/// signed in as herself, for an hour at most, and changes nothing meanwhile.
/// </summary>
public sealed class PersonView(IDataProtectionProvider protection, CurrentRelease releases, PeopleStore people, TimeProvider time)
{
    public const string Cookie = "bright-tier-viewing";

    private static readonly TimeSpan Longest = TimeSpan.FromHours(1);

    private readonly IDataProtector protector = protection.CreateProtector("viewing");

    /// <summary>Begins it: the cookie is good with this session alone.</summary>
    public void Begin(HttpContext http, Caller administrator, PersonRow person)
    {
        var until = time.GetUtcNow().Add(Longest).ToUnixTimeMilliseconds().ToString(CultureInfo.InvariantCulture);
        http.Response.Cookies.Append(
            Cookie,
            protector.Protect($"{administrator.Credential} {until} {person.Id}"),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = http.Request.IsHttps,
                Path = "/",
                MaxAge = Longest,
            }
        );
    }

    public static void End(HttpContext http) => http.Response.Cookies.Delete(Cookie);

    /// <summary>Whom a session sees the application as, until when; null where the cookie is not of it, or is over.</summary>
    public async Task<(Caller Caller, long Until)?> Through(string cookie, Caller signedIn, CancellationToken cancel)
    {
        if (
            !signedIn.PermissionsIn(releases.Default.Definitions.Application, releases.Default.Number).Contains(Permissions.Administer)
            || Read(cookie) is not ([var credential, var end, var id])
            || credential != signedIn.Credential
            || !long.TryParse(end, NumberStyles.None, CultureInfo.InvariantCulture, out var until)
            || until <= time.GetUtcNow().ToUnixTimeMilliseconds()
            || await people.Find(id, cancel) is not { } person
        )
        {
            return null;
        }

        return (new Caller(person, true, signedIn.Credential, signedIn.Expires) { Viewer = signedIn.Person }, until);
    }

    private string[]? Read(string cookie)
    {
        try
        {
            return protector.Unprotect(cookie).Split(' ', 3);
        }
        catch (System.Security.Cryptography.CryptographicException)
        {
            return null;
        }
    }

    /// <summary>Refuses whatever would change something while one sees the application as somebody else.</summary>
    public static async Task Middleware(HttpContext http, RequestDelegate next)
    {
        if (
            CrossSiteGuard.Changes(http.Request.Method)
            && http.CallerOrNull() is { Viewer: { } } caller
            && http.GetEndpoint() is { } endpoint
            && endpoint.Metadata.GetMetadata<HarmlessCall>() is null
        )
        {
            throw new RefusedException(
                403,
                "only-viewing",
                $"You see the application as {caller.Person.Name} does, and change nothing meanwhile. Go back to yourself first."
            );
        }

        await next(http);
    }
}

/// <summary>Marks a call that changes nothing of the application, or ends it: it is answered while one sees it as somebody else.</summary>
public sealed record HarmlessCall;
