using BrightTier.Core.Model;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Auth;

/// <summary>Who makes a request, and what their roles allow in the release of now.</summary>
public sealed class Caller(PersonRow person, bool byCookie, string credential, long expires, string? scopes = null)
{
    private (long Release, HashSet<string> Permissions)? found;

    public PersonRow Person => person;

    /// <summary>
    /// Whether a cookie, which browsers send unasked, says so; then calls that change something need the antiforgery token.
    /// </summary>
    public bool ByCookie => byCookie;

    /// <summary>Who is signed in and sees the application as this person does; null where one is oneself.</summary>
    public PersonRow? Viewer { get; init; }

    /// <summary>What her token is called; null where she is known by a session.</summary>
    public string? Token { get; init; }

    /// <summary>Hash of the session's or token's secret.</summary>
    public string Credential => credential;

    public long Expires => expires;

    public IReadOnlyList<string> Roles { get; } = person.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>All of the caller that forms can depend on: roles, language, and what her token is good for.</summary>
    public string Kind { get; } = $"{person.Roles}|{person.Language}|{scopes}";

    /// <summary>The permissions her token is good for; null for all she may.</summary>
    public IReadOnlyList<string>? Scopes { get; } = scopes?.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>
    /// Her name under what she changes, with the roles that say which entities she may change, and what her token is good for.
    /// </summary>
    public Author Author => new(person.Id, Roles) { Scopes = Scopes };

    /// <summary>The caller's permissions in a release.</summary>
    public IReadOnlySet<string> PermissionsIn(Application application, long release)
    {
        if (found is not { } known || known.Release != release)
        {
            // Before anything is published there are no roles yet, but somebody must be able to begin.
            var all =
                Roles.Contains("administrator") && application.Roles.All(role => role.Key != "administrator")
                    ? Permissions.All
                    : application.Roles.Where(role => Roles.Contains(role.Key)).SelectMany(role => role.May);
            known = (release, [.. all.Where(permission => Scopes is null || Scopes.Contains(permission))]);
            found = known;
        }

        return known.Permissions;
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
        http.CallerOrNull()
        ?? throw (
            http.Request.Headers.Authorization.Count > 0
                ? TokenUnknown()
                : new RefusedException(
                    401,
                    "not-signed-in",
                    $"Sign in first: by a session, or with a personal token as 'Authorization: Bearer …'."
                )
        );

    public static RefusedException TokenUnknown() =>
        new(401, "token-unknown", $"This token is not known or has expired; sign in and make a new one with POST /api/tokens.");

    /// <summary>The caller, if they have a permission that this call takes beyond what its endpoint asks for.</summary>
    /// <exception cref="RefusedException">401 or 403.</exception>
    public static Caller Caller(this HttpContext http, string permission)
    {
        var caller = http.Caller();
        return http.PermissionsOf(caller).Contains(permission) ? caller : throw Refuse(caller, permission);
    }

    /// <summary>The caller, if she may look at drafts: to change them, to review them, or to publish them.</summary>
    /// <exception cref="RefusedException">401 or 403.</exception>
    public static Caller Reader(this HttpContext http)
    {
        var caller = http.Caller();
        return Reads(http.PermissionsOf(caller)) ? caller : throw Refuse(caller, Permissions.Configure);
    }

    /// <summary>The language of an answer: the one asked for, else the caller's own, else the application's first.</summary>
    public static string LanguageOf(this HttpContext http, Caller caller, Application application)
    {
        var asked = http.Request.Query["language"].ToString();
        return application.Languages.Contains(asked) ? asked
            : application.Languages.Contains(caller.Person.Language) ? caller.Person.Language
            : application.Languages[0];
    }

    /// <summary>Whether some permissions include looking at drafts.</summary>
    public static bool Reads(IReadOnlySet<string> permissions) =>
        permissions.Contains(Permissions.Configure)
        || permissions.Contains(Permissions.Review)
        || permissions.Contains(Permissions.Publish);

    internal static IReadOnlySet<string> PermissionsOf(this HttpContext http, Caller caller)
    {
        var release = http.RequestServices.GetRequiredService<CurrentRelease>().Snapshot;
        return caller.PermissionsIn(release.Definitions.Application, release.Number);
    }

    internal static RefusedException Refuse(Caller caller, string permission) =>
        Problems.Forbidden(
            caller.Scopes is { } scopes && !scopes.Contains(permission)
                ? (Message)$"This token is good for {string.Join(", ", scopes)} alone, not for '{permission}'."
                : $"Your roles ({string.Join(", ", caller.Roles)}) do not allow '{permission}'."
        );
}

/// <summary>Whose name stands under a change.</summary>
/// <param name="Roles">Hers; null for the service itself, which may change everything.</param>
public sealed record Author(string Id, IReadOnlyList<string>? Roles)
{
    /// <summary>The permissions her token is good for; null for all she may.</summary>
    public IReadOnlyList<string>? Scopes { get; init; }

    /// <summary>Sees that what changes who may do what comes from somebody who administers.</summary>
    /// <exception cref="RefusedException">403, with every such change.</exception>
    public void RequireRights(Definitions before, Definitions after)
    {
        var application = before.Application;
        var administers =
            Roles is null
            || (
                Scopes?.Contains(Permissions.Administer) != false
                && application.Roles is var all
                && (
                    all.Any(role => Roles.Contains(role.Key) && role.May.Contains(Permissions.Administer))
                    || (all.All(role => role.Key != "administrator") && Roles.Contains("administrator"))
                )
            );
        if (!administers && RightsChange.Between(before, after) is { Count: > 0 } changes)
        {
            throw new RefusedException(
                403,
                "rights-change",
                changes.Count > 1
                    ? (Message)(
                        $"This would change permissions, which takes the permission '{Permissions.Administer}': {changes[0]} "
                        + $"There are {changes.Count - 1} more."
                    )
                    : $"This would change permissions, which takes the permission '{Permissions.Administer}': {changes[0]}",
                [.. changes.Select(change => Problems.Part("", change, "rights-change"))]
            );
        }
    }

    /// <exception cref="RefusedException">403: her roles do not reach that far.</exception>
    public void Require(string permission, Application application, Core.Documents.Document document)
    {
        if (
            Roles is null
            || (application.Roles.All(role => role.Key != "administrator") && Roles.Contains("administrator"))
            || application.Allows(Roles, permission, document.BelongsTo)
        )
        {
            return;
        }

        var within = application
            .Roles.Where(role => Roles.Contains(role.Key) && role.May.Contains(permission))
            .SelectMany(role => role.Entities)
            .Distinct()
            .Order(StringComparer.Ordinal);
        var owner = document.BelongsTo is { } entity ? Message.Verbatim(entity) : $"all entities";
        throw Problems.Forbidden(
            $"Your roles ({string.Join(", ", Roles)}) allow '{permission}' for {string.Join(", ", within)} alone; "
                + $"{Core.Documents.DocumentFile.Noun(document.Kind)} '{document.Key}' belongs to {owner}."
        );
    }
}
