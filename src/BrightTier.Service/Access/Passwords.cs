using System.Security.Cryptography;
using BrightTier.Service.Http;
using BrightTier.Storage;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;

namespace BrightTier.Service.Access;

/// <summary>
/// Passwords: long rather than intricate (NIST SP 800-63B, 5.1.1), kept as the hash of ASP.NET Core's hasher (PBKDF2). After some misses a
/// name is
/// closed for a while to the address they came from, and to that alone, so that nobody can lock out somebody else; after many it is closed
/// to every
/// browser that never got in by it. Whether a person is unknown, has no password or missed it is answered alike, and takes as long.
/// </summary>
public sealed class Passwords(PeopleStore people, AuditStore audit, TimeProvider time, IDataProtectionProvider protection)
{
    /// <summary>Misses from anywhere after which a name is open only to browsers that got in by it before.</summary>
    private const int MissesOfAll = 100;

    /// <summary>What is longer is nobody's name, and not worth counting.</summary>
    private const int LongestName = 100;

    private const string Browser = "bright-tier-browser";

    private readonly MissCount misses = new(time, Locked);

    /// <summary>Made when it is first asked for: its keys are read from the database.</summary>
    private readonly Lazy<IDataProtector> browsers = new(() => protection.CreateProtector("bright-tier.browsers"));

    public const int Shortest = 12;
    public const int Longest = 200;
    public const int Misses = 5;

    public static readonly TimeSpan Locked = TimeSpan.FromMinutes(5);

    private static readonly PasswordHasher<PersonRow> Hasher = new();
    private static readonly PersonRow Nobody = new()
    {
        Id = "",
        Name = "",
        Roles = "",
        Language = "",
    };
    private static readonly string Dummy = Hasher.HashPassword(Nobody, "a password that nobody has");

    /// <summary>Whoever has this password.</summary>
    /// <param name="next">The one she has from now on, where it is to be changed.</param>
    /// <exception cref="RefusedException">401: it is not hers. 403: it is to be changed. 429: it is locked.</exception>
    public async Task<PersonRow> Check(HttpContext http, string id, string password, string? next, CancellationToken cancel)
    {
        if (id.Length > LongestName)
        {
            throw Missed();
        }

        var known = IsKnownBrowser(http, id);
        var from = known ? $"{id}\nby {Tag(http)}" : $"{id}\nfrom {http.Connection.RemoteIpAddress}";
        // Counted before it is known, so that many tries at once get no more than their number; and for names nobody has alike.
        var here = misses.Count(from);
        var all = known ? 0 : misses.Count(id);
        if (here > Misses || all > MissesOfAll)
        {
            throw new RefusedException(
                429,
                "locked",
                $"After {Misses} wrong passwords this name is locked here for {Locked.TotalMinutes:0} minutes. An "
                    + $"administrator can set a new password at once."
            );
        }

        var person = (await people.List(cancel)).FirstOrDefault(each => each.Id == id);
        var row = person is null ? null : await people.Password(person.Id, cancel);
        if (row is null || person is null)
        {
            Hasher.VerifyHashedPassword(Nobody, Dummy, Cut(password));
            throw Missed();
        }

        var verdict = Hasher.VerifyHashedPassword(person, row.Hash, Cut(password));
        if (verdict == PasswordVerificationResult.Failed)
        {
            if (here == Misses || all == MissesOfAll)
            {
                await audit.Note(
                    person.Id,
                    "password.locked",
                    $"person/{person.Id}",
                    new { misses = Math.Max(here, all), from = http.Connection.RemoteIpAddress?.ToString() },
                    cancel
                );
            }

            throw Missed();
        }

        // It was none.
        misses.Forget(from);
        misses.Forget(known ? "" : id);

        if (row.ToChange && next is null)
        {
            throw new RefusedException(
                403,
                "password-to-change",
                $"Somebody else set this password. Choose your own and send it as 'newPassword'.",
                [Problems.Part("/newPassword", $"is missing")]
            );
        }

        Remember(http, id);
        if (next is not null || verdict == PasswordVerificationResult.SuccessRehashNeeded)
        {
            await Save(person, next is null ? password : Fit(person, next, row, "/newPassword"), toChange: false, cancel);
        }

        return person;
    }

    /// <summary>Changes a person's own password.</summary>
    public async Task Change(HttpContext http, PersonRow person, string? current, string next, CancellationToken cancel)
    {
        var row = await people.Password(person.Id, cancel);
        if (row is not null)
        {
            await Check(http, person.Id, current ?? "", next, cancel);
            return;
        }

        await Save(person, Fit(person, next, null, "/new"), toChange: false, cancel);
    }

    /// <summary>Sets a password for somebody, who is to change it when she signs in.</summary>
    public Task Set(PersonRow person, string password, CancellationToken cancel)
    {
        misses.ForgetAll(person.Id);
        return Save(person, Fit(person, password, null, "/password"), toChange: true, cancel);
    }

    /// <summary>Sets the password somebody chose herself before she was known.</summary>
    public Task SetOwn(PersonRow person, string password, CancellationToken cancel) =>
        Save(person, Fit(person, password, null, "/password"), toChange: false, cancel);

    /// <exception cref="RefusedException">400: it cannot be somebody's password.</exception>
    public static void RequireFit(PersonRow person, string password) => Fit(person, password, null, "/password");

    /// <summary>Whether this browser once got in by a name, as it keeps sealed.</summary>
    private bool IsKnownBrowser(HttpContext http, string id)
    {
        try
        {
            return http.Request.Cookies[Browser] is { Length: > 0 and < 2_000 } kept && browsers.Value.Unprotect(kept).Split('\n')[0] == id;
        }
        catch (CryptographicException)
        {
            return false;
        }
    }

    /// <summary>What tells one browser from another in counting.</summary>
    private static string Tag(HttpContext http) => PeopleStore.HashOf(http.Request.Cookies[Browser] ?? "");

    private void Remember(HttpContext http, string id) =>
        http.Response.Cookies.Append(
            Browser,
            browsers.Value.Protect($"{id}\n{Guid.NewGuid():N}"),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = http.Request.IsHttps,
                Path = "/api/session",
                MaxAge = TimeSpan.FromDays(365),
            }
        );

    private Task Save(PersonRow person, string password, bool toChange, CancellationToken cancel) =>
        people.SavePassword(
            new PasswordRow
            {
                Person = person.Id,
                Hash = Hasher.HashPassword(person, password),
                Missed = 0,
                LockedUntil = 0,
                ToChange = toChange,
            },
            cancel
        );

    private static string Fit(PersonRow person, string password, PasswordRow? before, string pointer)
    {
        Message? wrong =
            password.Length is < Shortest or > Longest
                ? (Message)$"must have from {Shortest} to {Longest} characters; a sentence is easy to keep in mind"
            : password.Distinct().Count() < 5 ? (Message)$"must not be a few characters again and again"
            : password.Contains(person.Id, StringComparison.OrdinalIgnoreCase) && password.Length < person.Id.Length + 8
                ? (Message)$"must be more than one's name"
            : GuessablePasswords.Contains(password, person.Id, person.Name)
                ? (Message)$"is easily guessed; a sentence of words that have nothing to do with one another is not"
            : before is not null && Hasher.VerifyHashedPassword(person, before.Hash, password) != PasswordVerificationResult.Failed
                ? (Message)$"must be another than the one up to now"
            : null;
        return wrong is null
            ? password
            : throw Problems.Invalid($"This password cannot be used: it {wrong}.", Problems.Part(pointer, wrong));
    }

    /// <summary>Hashing takes longer the longer a text is; nobody's password is as long as a body can be.</summary>
    private static string Cut(string password) => password.Length > Longest ? password[..Longest] : password;

    private static RefusedException Missed() => new(401, "not-signed-in", $"There is nobody with this name and this password.");
}
