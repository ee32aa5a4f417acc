using System.Security.Cryptography;
using BrightTier.Service.Hosting;
using BrightTier.Storage;
using Microsoft.AspNetCore.DataProtection;

namespace BrightTier.Service.Attachment;

/// <summary>A connection that there is: by the configuration, or set by an administrator.</summary>
public sealed record Connection(string Name, bool IsFixed);

/// <summary>
/// The connection strings of attached databases: those of the configuration, under Databases, and those an administrator set, which are
/// kept as secrets and never answered.
/// </summary>
public sealed class Connections(IConfiguration configuration, ConnectionStore store, IDataProtectionProvider protection)
{
    private readonly IDataProtector protector = protection.CreateProtector("attached-database");

    public async Task<IReadOnlyList<Connection>> All(CancellationToken cancel)
    {
        var given = Given.Select(each => each.Key).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. given.Select(name => new Connection(name, true)),
            .. (await store.All(cancel)).Where(row => !given.Contains(row.Name)).Select(row => new Connection(row.Name, false)),
        ];
    }

    public bool IsFixed(string name) => Given.Any(each => each.Key == name);

    public Task Set(string name, string connectionString, CancellationToken cancel) =>
        store.Set(name, protector.Protect(connectionString), cancel);

    public Task Remove(string name, CancellationToken cancel) => store.Remove(name, cancel);

    /// <summary>The connection string of a name; null where there is none, or it can no longer be read.</summary>
    public string? Find(string name)
    {
        if (Given.FirstOrDefault(each => each.Key == name) is { Value: { } given })
        {
            return given;
        }

        if (store.Find(name) is not { } secret)
        {
            return null;
        }

        try
        {
            return protector.Unprotect(secret);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    private IEnumerable<KeyValuePair<string, string?>> Given =>
        configuration
            .GetSection("Databases")
            .GetChildren()
            .Concat(configuration.GetSection($"{ServiceOptions.Section}:Databases").GetChildren())
            .Select(each => KeyValuePair.Create(each.Key, each.Value))
            .Where(each => !string.IsNullOrEmpty(each.Value));
}
