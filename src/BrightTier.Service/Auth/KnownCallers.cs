using System.Collections.Concurrent;
using System.Security.Claims;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Auth;

/// <summary>
/// Recognises callers by an opaque secret, in a cookie or as a bearer token, looked up by its hash. What was found is kept in memory for a
/// while, so that the hot path asks no database.
/// </summary>
public sealed class KnownCallers(PeopleStore people, PersonView view, TimeProvider time)
{
    public const string Cookie = "bright-tier-session";

    private static readonly TimeSpan Kept = TimeSpan.FromSeconds(60);

    private readonly ConcurrentDictionary<string, (Caller Caller, long Until)> known = new();
    private int forgotten;

    /// <summary>How many secrets nobody is known by an address may try in a window before it is not looked up any more.</summary>
    private const int Guesses = 200;

    private static readonly TimeSpan Window = TimeSpan.FromSeconds(10);

    private readonly ConcurrentDictionary<string, (long Until, int Count)> guesses = new();

    /// <summary>Those whom administrators see the application as, by the cookie that says so.</summary>
    private readonly ConcurrentDictionary<string, (Caller Caller, long Until)> seen = new();

    public ValueTask<Caller?> Recognise(HttpContext http) =>
        http.Request.Cookies[PersonView.Cookie] is { } cookie ? SeenAs(http, cookie) : SignedIn(http);

    private async ValueTask<Caller?> SeenAs(HttpContext http, string cookie)
    {
        var caller = await SignedIn(http);
        if (caller is not { ByCookie: true })
        {
            return caller;
        }

        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        if (seen.TryGetValue(cookie, out var found) && found.Until > now && found.Caller.Credential == caller.Credential)
        {
            return found.Caller;
        }

        if (await view.Through(cookie, caller, http.RequestAborted) is not { } through)
        {
            return caller;
        }

        if (seen.Count > 1_000)
        {
            seen.Clear();
        }

        seen[cookie] = (through.Caller, Math.Min(through.Until, now + (long)Kept.TotalMilliseconds));
        return through.Caller;
    }

    private async ValueTask<Caller?> SignedIn(HttpContext http)
    {
        var authorization = http.Request.Headers.Authorization.ToString();
        var bearer = authorization.StartsWith("Bearer ", StringComparison.OrdinalIgnoreCase);
        var given = bearer ? authorization : http.Request.Cookies[Cookie];
        // What no secret of ours looks like is nobody's, and is not asked about.
        if (given is null || !IsWellFormed(bearer ? given.AsSpan(7).Trim() : given, bearer))
        {
            return null;
        }

        // What was given is itself the key in memory: hashing it for every request would cost more than the look-up.
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        if (known.TryGetValue(given, out var found) && found.Until > now && found.Caller.Expires > now)
        {
            return found.Caller;
        }

        var address = http.Connection.RemoteIpAddress?.ToString() ?? "";
        if (guesses.TryGetValue(address, out var tried) && tried.Until > now && tried.Count >= Guesses)
        {
            throw new RefusedException(
                429,
                "too-many",
                $"Too many unknown sessions and tokens came from this address; try again in a moment."
            );
        }

        var asked = Volatile.Read(ref forgotten);
        var secret = bearer ? given[7..].Trim() : given;
        var hash = PeopleStore.HashOf(secret);
        (PersonRow Person, long Expires, string? Scopes, string Name)? row;
        try
        {
            row = await people.Find(bearer ? PeopleStore.Token : PeopleStore.Session, hash, http.RequestAborted);
        }
        catch (Exception error) when (found.Caller is { } last && last.Expires > now && DatabaseErrors.IsOutOfReach(error))
        {
            // While the database is away, whoever was known stays known: forms go on being served.
            return last;
        }

        var caller = row is { } someone
            ? new Caller(someone.Person, !bearer, hash, someone.Expires, someone.Scopes) { Token = bearer ? someone.Name : null }
            : null;
        if (caller is null)
        {
            // Not remembered: anybody can think up as many as they like.
            CountGuess(address, now);
            return null;
        }

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

    private void CountGuess(string address, long now)
    {
        if (guesses.Count > 10_000)
        {
            guesses.Clear();
        }

        guesses.AddOrUpdate(address, (now + (long)Window.TotalMilliseconds, 1), (_, tried) =>
            tried.Until > now ? (tried.Until, tried.Count + 1) : (now + (long)Window.TotalMilliseconds, 1)
        );
    }

    /// <summary>43 characters of base64url (RFC 4648, 5), which is 32 random bytes; of a token behind bt_.</summary>
    private static bool IsWellFormed(ReadOnlySpan<char> secret, bool token)
    {
        if (token && !secret.StartsWith("bt_"))
        {
            return false;
        }

        var random = token ? secret[3..] : secret;
        return random.Length == 43 && !random.ContainsAnyExcept(Base64Url);
    }

    private static readonly System.Buffers.SearchValues<char> Base64Url = System.Buffers.SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_"
    );

    /// <summary>Forgets a secret that is no longer good.</summary>
    public void Forget(string hash) => Forget(caller => caller.Credential == hash);

    /// <summary>Forgets who a person was, so that her next call is met with the roles she has now.</summary>
    public void ForgetPerson(string id) => Forget(caller => caller.Person.Id == id || caller.Viewer?.Id == id);

    private void Forget(Func<Caller, bool> which)
    {
        Interlocked.Increment(ref forgotten);
        foreach (var callers in new[] { known, seen })
        {
            foreach (var (given, entry) in callers)
            {
                if (which(entry.Caller))
                {
                    callers.TryRemove(given, out _);
                }
            }
        }
    }

    /// <summary>A caller as the framework knows one; what antiforgery values are bound to.</summary>
    public static ClaimsPrincipal Principal(Caller caller) =>
        new(
            new ClaimsIdentity(
                [new Claim(ClaimTypes.NameIdentifier, caller.Person.Id), new Claim(ClaimTypes.Name, caller.Person.Id)],
                CallerAuthentication.Name
            )
        );
}
