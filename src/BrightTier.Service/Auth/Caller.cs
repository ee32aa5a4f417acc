using BrightTier.Core.Model;
using BrightTier.Service.Hosting;
using BrightTier.Storage;

namespace BrightTier.Service.Auth;

/// <summary>Who makes a request, and what their roles allow in the release of now.</summary>
public sealed class Caller(PersonRow person, bool byCookie, string credential, long expires, string? scopes = null)
{
    private (long Release, HashSet<string> Acts)? may;

    public PersonRow Person => person;

    /// <summary>Whether a cookie, which browsers send unasked, says so; then calls that change something need the antiforgery token.</summary>
    public bool ByCookie => byCookie;

    /// <summary>Hash of the session's or token's secret.</summary>
    public string Credential => credential;

    public long Expires => expires;

    public IReadOnlyList<string> Roles { get; } = person.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>All of the caller that forms can depend on: roles, language, and what her token is good for.</summary>
    public string Kind { get; } = $"{person.Roles}|{person.Language}|{scopes}";

    /// <summary>The acts her token is good for; null for all she may.</summary>
    public IReadOnlyList<string>? Scopes { get; } = scopes?.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>Her name under what she changes, with the roles that say which entities she may change, and what her token is good for.</summary>
    public Author Author => new(person.Id, Roles) { Scopes = Scopes };

    public IReadOnlySet<string> May(Application application, long release)
    {
        if (may is not { } known || known.Release != release)
        {
            // Before anything is published there are no roles yet, but somebody must be able to begin.
            var acts = Roles.Contains("administrator") && application.Roles.All(role => role.Key != "administrator")
                ? Acts.All
                : application.Roles.Where(role => Roles.Contains(role.Key)).SelectMany(role => role.May);
            known = (release, [.. acts.Where(act => Scopes is null || Scopes.Contains(act))]);
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

    /// <summary>The caller, if she may do an act that this call takes beyond what its endpoint asks for.</summary>
    /// <exception cref="RefusedException">401 or 403.</exception>
    public static Caller Caller(this HttpContext http, string act)
    {
        var caller = http.Caller();
        return http.May(caller).Contains(act) ? caller : throw Refuse(caller, act);
    }

    /// <summary>The caller, if she may look at drafts: to change them, to review them, or to publish them.</summary>
    /// <exception cref="RefusedException">401 or 403.</exception>
    public static Caller Reader(this HttpContext http)
    {
        var caller = http.Caller();
        return Reads(http.May(caller)) ? caller : throw Refuse(caller, Acts.Configure);
    }

    /// <summary>Whether some acts include looking at drafts.</summary>
    public static bool Reads(IReadOnlySet<string> acts) => acts.Contains(Acts.Configure) || acts.Contains(Acts.Review) || acts.Contains(Acts.Publish);

    internal static IReadOnlySet<string> May(this HttpContext http, Caller caller)
    {
        var release = http.RequestServices.GetRequiredService<Releases.CurrentRelease>().Snapshot;
        return caller.May(release.Definitions.Application, release.Number);
    }

    internal static RefusedException Refuse(Caller caller, string act) => Problems.Forbidden(
        caller.Scopes is { } scopes && !scopes.Contains(act)
            ? $"This token is good for {string.Join(", ", scopes)} alone, not for '{act}'."
            : $"Your roles ({string.Join(", ", caller.Roles)}) do not allow '{act}'.");
}

/// <summary>Whose name stands under a change.</summary>
/// <param name="Roles">Hers; null for the service itself, which may change everything.</param>
public sealed record Author(string Id, IReadOnlyList<string>? Roles)
{
    /// <summary>The acts her token is good for; null for all she may.</summary>
    public IReadOnlyList<string>? Scopes { get; init; }

    /// <summary>Sees that what changes who may do what comes from somebody who administers.</summary>
    /// <exception cref="RefusedException">403, with every such change.</exception>
    public void InsistOnRights(Definitions before, Definitions after)
    {
        var application = before.Application;
        var administers = Roles is null || (Scopes?.Contains(Acts.Administer) != false
            && application.Roles is var all && (all.Any(role => Roles.Contains(role.Key) && role.May.Contains(Acts.Administer)) || (all.All(role => role.Key != "administrator") && Roles.Contains("administrator"))));
        if (!administers && RightsChange.Between(before, after) is { Count: > 0 } changes)
        {
            throw new RefusedException(
                403, "rights-change", $"This would change who may do what, which takes the act '{Acts.Administer}': {changes[0]}{(changes.Count > 1 ? $" There are {changes.Count - 1} more." : "")}",
                [.. changes.Select(change => new Contracts.ProblemPart("", change, "rights-change"))]);
        }
    }

    /// <exception cref="RefusedException">403: her roles do not reach that far.</exception>
    public void InsistOn(string act, Application application, Core.Documents.Document document)
    {
        if (Roles is null || (application.Roles.All(role => role.Key != "administrator") && Roles.Contains("administrator")) || application.Allows(Roles, act, document.BelongsTo))
        {
            return;
        }

        var within = application.Roles.Where(role => Roles.Contains(role.Key) && role.May.Contains(act)).SelectMany(role => role.Entities).Distinct().Order(StringComparer.Ordinal);
        throw Problems.Forbidden($"Your roles ({string.Join(", ", Roles)}) allow '{act}' for {string.Join(", ", within)} alone; {Core.Documents.DocumentFile.Name(document.Kind)} '{document.Key}' belongs to {document.BelongsTo ?? "all entities"}.");
    }
}
