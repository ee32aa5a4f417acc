using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>People, and the sessions and tokens by which they are known. Secrets are stored only as hashes.</summary>
public sealed class PeopleStore(IDbContextFactory<StorageContext> contexts, TimeProvider time)
{
    public const string Session = "session";
    public const string Token = "token";

    public static string HashOf(string secret) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));

    public async Task<IReadOnlyList<PersonRow>> List(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.People.AsNoTracking().OrderBy(person => person.Name).ToListAsync(cancel);
    }

    public async Task<PersonRow?> Find(string id, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.People.AsNoTracking().FirstOrDefaultAsync(person => person.Id == id, cancel);
    }

    public async Task Save(PersonRow person, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        context.Update(person);
        if (!await context.People.AnyAsync(row => row.Id == person.Id, cancel))
        {
            context.Entry(person).State = EntityState.Added;
        }

        await context.SaveChangesAsync(cancel);
    }

    /// <summary>Makes a session or token and returns its secret, which is stored nowhere.</summary>
    public async Task<(string Secret, CredentialRow Credential)> Issue(
        string use,
        string person,
        string name,
        TimeSpan lifetime,
        CancellationToken cancel,
        string? scopes = null
    )
    {
        var secret =
            (use == Token ? "bt_" : "")
            + Convert.ToBase64String(RandomNumberGenerator.GetBytes(32)).Replace('+', '-').Replace('/', '_').TrimEnd('=');
        var credential = new CredentialRow
        {
            Hash = HashOf(secret),
            Use = use,
            Person = person,
            Name = name,
            Expires = time.GetUtcNow().Add(lifetime).ToUnixTimeMilliseconds(),
            Scopes = scopes,
        };
        await using var context = await contexts.CreateDbContextAsync(cancel);
        context.Credentials.Add(credential);
        await context.SaveChangesAsync(cancel);
        return (secret, credential);
    }

    /// <summary>Removes a person, with her sessions, tokens and password. For one who was there before anybody was.</summary>
    public async Task Remove(string id, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Credentials.Where(credential => credential.Person == id).ExecuteDeleteAsync(cancel);
        await context.Passwords.Where(password => password.Person == id).ExecuteDeleteAsync(cancel);
        await context.People.Where(person => person.Id == id).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Whose a secret's hash is, if it is known and has not expired.</summary>
    public async Task<(PersonRow Person, long Expires, string? Scopes, string Name)?> Find(
        string use,
        string hash,
        CancellationToken cancel
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        var found = await (
            from credential in context.Credentials.AsNoTracking()
            where credential.Hash == hash && credential.Use == use && credential.Expires > now
            join person in context.People on credential.Person equals person.Id
            select new
            {
                person,
                credential.Expires,
                credential.Scopes,
                credential.Name,
            }
        ).FirstOrDefaultAsync(cancel);
        return found is null ? null : (found.person, found.Expires, found.Scopes, found.Name);
    }

    public async Task<IReadOnlyList<CredentialRow>> Tokens(string person, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context
            .Credentials.AsNoTracking()
            .Where(credential => credential.Person == person && credential.Use == Token)
            .OrderBy(credential => credential.Name)
            .ToListAsync(cancel);
    }

    /// <summary>Ends a session or token of a person, and the sessions that began with it; the hashes of all that are over.</summary>
    public async Task<IReadOnlyList<string>> Revoke(string person, string hash, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var begun = NameOf(hash);
        var over = context.Credentials.Where(credential =>
            credential.Person == person && (credential.Hash == hash || (credential.Use == Session && credential.Name == begun))
        );
        var hashes = await over.Select(credential => credential.Hash).ToListAsync(cancel);
        await over.ExecuteDeleteAsync(cancel);
        return hashes;
    }

    /// <summary>The name a session has that began with a token: it ends with that.</summary>
    public static string NameOf(string token) => "token " + token;

    /// <summary>Removes what has expired; how many there were.</summary>
    public async Task<int> RemoveExpired(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        return await context.Credentials.Where(credential => credential.Expires <= now).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Ends all sessions of a person but one, and her tokens too where that is asked for.</summary>
    public async Task RevokeOthers(string person, string? except, bool tokens, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context
            .Credentials.Where(credential =>
                credential.Person == person && credential.Hash != except && (tokens || credential.Use == Session)
            )
            .ExecuteDeleteAsync(cancel);
    }

    public async Task<PersonRow?> ByProvider(string provider, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.People.AsNoTracking().FirstOrDefaultAsync(person => person.Provider == provider, cancel);
    }

    public async Task<PasswordRow?> Password(string person, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Passwords.AsNoTracking().FirstOrDefaultAsync(row => row.Person == person, cancel);
    }

    public async Task SavePassword(PasswordRow password, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        if (await context.Passwords.AnyAsync(row => row.Person == password.Person, cancel))
        {
            context.Passwords.Update(password);
        }
        else
        {
            context.Passwords.Add(password);
        }

        await context.SaveChangesAsync(cancel);
    }
}
