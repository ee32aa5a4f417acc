using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace BrightTier.Core.Audit;

/// <summary>
/// The formula of the audit log's hash chain, for whoever writes it and whoever checks it. An entry's hash is SHA-256 (FIPS 180-4), in
/// lower-case
/// hexadecimal, of the UTF-8 of seven parts: the hash of the entry before (nothing for the first), its number, its moment in milliseconds
/// since
/// 1970 in UTC, by whom, which act, on what, and the detail as JSON, to the letter as it is kept. Before each part stand its length in
/// UTF-16 units
/// and a colon, so that no two entries are written alike. docs/security.md has an example.
/// </summary>
public static class AuditChain
{
    /// <summary>The hash of an entry.</summary>
    /// <param name="before">The hash of the entry before it; empty for the first.</param>
    public static string HashOf(string before, long number, long at, string by, string act, string subject, string detail)
    {
        var whole = new StringBuilder();
        foreach (
            var part in new[]
            {
                before,
                number.ToString(CultureInfo.InvariantCulture),
                at.ToString(CultureInfo.InvariantCulture),
                by,
                act,
                subject,
                detail,
            }
        )
        {
            whole.Append(CultureInfo.InvariantCulture, $"{part.Length}:{part}");
        }

        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(whole.ToString())));
    }

    /// <summary>What is signed of the log's head: how many entries there are, the hash of the last, and when it was asked for.</summary>
    public static byte[] HeadText(long entries, string hash, DateTimeOffset at) =>
        Encoding.UTF8.GetBytes(
            string.Create(CultureInfo.InvariantCulture, $"bright-tier audit head\n{entries}\n{hash}\n{at.ToUnixTimeMilliseconds()}\n")
        );

    /// <summary>
    /// Whether a head was signed by the key it names: ECDSA on P-256 with SHA-256 (FIPS 186-5), key and signature in base64.
    /// </summary>
    /// <param name="key">The public key as SubjectPublicKeyInfo (RFC 5280, 4.1.2.7).</param>
    /// <param name="signature">As r and s one behind the other (IEEE P1363).</param>
    public static bool IsSigned(long entries, string hash, DateTimeOffset at, string key, string signature)
    {
        try
        {
            using var signer = ECDsa.Create();
            signer.ImportSubjectPublicKeyInfo(Convert.FromBase64String(key), out _);
            return signer.VerifyData(HeadText(entries, hash, at), Convert.FromBase64String(signature), HashAlgorithmName.SHA256);
        }
        catch (Exception error) when (error is FormatException or CryptographicException)
        {
            return false;
        }
    }
}
