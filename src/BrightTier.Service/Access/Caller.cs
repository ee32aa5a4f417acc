using BrightTier.Core.Entities;
using BrightTier.Service.Hosting;
using BrightTier.Storage;

namespace BrightTier.Service.Access;

/// <summary>Who makes a request, and what their roles allow in the release of now.</summary>
public sealed class Caller(PersonRow person, bool byCookie, string credential, long expires)
{
    private (long Release, HashSet<string> Acts)? may;

    public PersonRow Person => person;

    /// <summary>Whether a cookie, which browsers send unasked, says so; then calls that change something need the antiforgery token.</summary>
    public bool ByCookie => byCookie;

    /// <summary>Hash of the session's or token's secret.</summary>
    public string Credential => credential;

    public long Expires => expires;

    public IReadOnlyList<string> Roles { get; } = person.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>All of the person that forms can depend on: roles and language.</summary>
    public string Kind { get; } = $"{person.Roles}|{person.Language}";

    public IReadOnlySet<string> May(Application application, long release)
    {
        if (may is not { } known || known.Release != release)
        {
            // Before anything is published there are no roles yet, but somebody must be able to begin.
            var acts = Roles.Contains("administrator") && application.Roles.All(role => role.Key != "administrator")
                ? Acts.All
                : application.Roles.Where(role => Roles.Contains(role.Key)).SelectMany(role => role.May);
            known = (release, [.. acts]);
            may = known;
        }

        return known.Acts;
    }
}

/// <summary>How endpoints ask who is calling.</summary>
public static class Callers
{
    private static readonly object Key = new();

    public static void Set(HttpContext http, Caller caller) => http.Items[Key] = caller;

    public static Caller? CallerOrNull(this HttpContext http) => (Caller?)http.Items[Key];

    /// <exception cref="RefusedException">401: nobody is signed in.</exception>
    public static Caller Caller(this HttpContext http) =>
        http.CallerOrNull() ?? throw (http.Request.Headers.Authorization.Count > 0
            ? TokenUnknown()
            : new RefusedException(401, "not-signed-in", "Sign in first: by a session, or with a personal token as 'Authorization: Bearer …'."));

    public static RefusedException TokenUnknown() =>
        new(401, "token-unknown", "This token is not known or has expired; sign in and make a new one with POST /api/tokens.");

    /// <summary>The caller, if one of their roles allows an act.</summary>
    /// <exception cref="RefusedException">401 or 403.</exception>
    public static Caller Caller(this HttpContext http, string act)
    {
        var caller = http.Caller();
        var release = http.RequestServices.GetRequiredService<Releases.CurrentRelease>().Snapshot;
        return caller.May(release.Definitions.Application, release.Number).Contains(act)
            ? caller
            : throw Problems.Forbidden($"Your roles ({string.Join(", ", caller.Roles)}) do not allow '{act}'.");
    }
}
