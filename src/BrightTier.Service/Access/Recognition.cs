using System.Collections.Concurrent;
using System.Security.Claims;
using BrightTier.Service.Hosting;
using BrightTier.Storage;
using Microsoft.AspNetCore.Antiforgery;

namespace BrightTier.Service.Access;

/// <summary>
/// Recognises callers by an opaque secret, in a cookie or as a bearer token, looked up by its hash. What was found is kept in memory for a
/// while, so that the hot path asks no database.
/// </summary>
public sealed class Recognition(PeopleStore people, TimeProvider time)
{
    public const string Cookie = "bright-tier-session";

    private static readonly TimeSpan Kept = TimeSpan.FromSeconds(60);

    private readonly ConcurrentDictionary<string, (Caller? Caller, long Until)> known = new();
    private int forgotten;

    public async ValueTask<Caller?> Recognise(HttpContext http)
    {
        var authorization = http.Request.Headers.Authorization.ToString();
        var bearer = authorization.StartsWith("Bearer ", StringComparison.OrdinalIgnoreCase);
        var given = bearer ? authorization : http.Request.Cookies[Cookie];
        if (given is null or { Length: 0 or > 200 })
        {
            return null;
        }

        // What was given is itself the key in memory: hashing it for every request would cost more than the look-up.
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        if (known.TryGetValue(given, out var found) && found.Until > now && (found.Caller is null || found.Caller.Expires > now))
        {
            return found.Caller;
        }

        var asked = Volatile.Read(ref forgotten);
        var secret = bearer ? given[7..].Trim() : given;
        var hash = PeopleStore.HashOf(secret);
        (PersonRow Person, long Expires, string? Scopes)? row;
        try
        {
            row = await people.Find(bearer ? PeopleStore.Token : PeopleStore.Session, hash, http.RequestAborted);
        }
        catch (Exception error) when (found.Caller is { } last && last.Expires > now && Databases.IsOutOfReach(error))
        {
            // While the database is away, whoever was known stays known: forms go on being served.
            return last;
        }

        var caller = row is { } someone ? new Caller(someone.Person, !bearer, hash, someone.Expires, someone.Scopes) : null;
        if (known.Count > 50_000)
        {
            known.Clear();
        }

        // What was read before somebody was forgotten may be who she was; it is good for this call and no other.
        known[given] = (caller, now + (long)Kept.TotalMilliseconds);
        if (asked != Volatile.Read(ref forgotten))
        {
            known.TryRemove(given, out _);
        }

        return caller;
    }

    /// <summary>Forgets a secret that is no longer good.</summary>
    public void Forget(string hash) => Forget(caller => caller.Credential == hash);

    /// <summary>Forgets who a person was, so that her next call is met with the roles she has now.</summary>
    public void ForgetPerson(string id) => Forget(caller => caller.Person.Id == id);

    private void Forget(Func<Caller, bool> which)
    {
        Interlocked.Increment(ref forgotten);
        foreach (var (given, entry) in known)
        {
            if (entry.Caller is { } caller && which(caller))
            {
                known.TryRemove(given, out _);
            }
        }
    }

    /// <summary>A caller as the framework knows one; what antiforgery values are bound to.</summary>
    public static ClaimsPrincipal Principal(Caller caller) =>
        new(new ClaimsIdentity([new Claim(ClaimTypes.NameIdentifier, caller.Person.Id), new Claim(ClaimTypes.Name, caller.Person.Id)], "opaque"));

    /// <summary>Says who is calling, and insists on the antiforgery token where a cookie says it and something is to change.</summary>
    public static async Task Middleware(HttpContext http, RequestDelegate next)
    {
        if (await http.RequestServices.GetRequiredService<Recognition>().Recognise(http) is { } caller)
        {
            Callers.Set(http, caller);
            http.RequestServices.GetRequiredService<Releases.CurrentRelease>().Serve(caller.Roles);
            http.User = Principal(caller);
            if (caller.ByCookie && !HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method)
                && http.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal)
                && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http))
            {
                await Problems.Write(http, 403, "antiforgery", "This call changes something and was made with a cookie: send the antiforgery value of GET /api/session in the header X-Antiforgery.");
                return;
            }
        }

        await next(http);
    }
}
