using System.Security.Cryptography;
using BrightTier.Contracts;
using BrightTier.Core.Audit;
using BrightTier.Storage;
using Microsoft.AspNetCore.DataProtection;

namespace BrightTier.Service.Audit;

/// <summary>
/// Signs the head of the audit log with a key of this installation, made when it is first asked for and kept sealed beside its documents.
/// </summary>
public sealed class AuditSigner(AuditStore store, PreferenceStore kept, IDataProtectionProvider protection, TimeProvider time)
{
    private const string Name = "audit-key";

    public async Task<AuditHead> Head(CancellationToken cancel)
    {
        var (entries, hash) = await store.Head(cancel);
        using var key = await Key(cancel);
        var at = DateTimeOffset.FromUnixTimeMilliseconds(time.GetUtcNow().ToUnixTimeMilliseconds());
        return new AuditHead(
            entries,
            hash,
            at,
            Convert.ToBase64String(key.ExportSubjectPublicKeyInfo()),
            Convert.ToBase64String(key.SignData(AuditChain.HeadText(entries, hash, at), HashAlgorithmName.SHA256))
        );
    }

    private async Task<ECDsa> Key(CancellationToken cancel)
    {
        var sealing = protection.CreateProtector("bright-tier.audit");
        if (await kept.Find("", Name, cancel) is null)
        {
            using var made = ECDsa.Create(ECCurve.NamedCurves.nistP256);
            await kept.Save(
                "",
                Name,
                System.Text.Json.JsonSerializer.Serialize(Convert.ToBase64String(sealing.Protect(made.ExportPkcs8PrivateKey()))),
                cancel
            );
        }

        // As it was kept: another process may have made one at the same moment.
        var key = ECDsa.Create();
        key.ImportPkcs8PrivateKey(
            sealing.Unprotect(
                Convert.FromBase64String(System.Text.Json.JsonSerializer.Deserialize<string>((await kept.Find("", Name, cancel))!)!)
            ),
            out _
        );
        return key;
    }
}
