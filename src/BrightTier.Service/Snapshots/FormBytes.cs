using System.IO.Compression;
using System.Security.Cryptography;

namespace BrightTier.Service.Snapshots;

/// <summary>What a resolved form depends on, within a release.</summary>
internal readonly record struct FormKey(string Entity, string Mode, string Language, string Roles);

/// <summary>A resolved form ready to be written: its bytes plain and compressed once, named by the hash of their content.</summary>
public sealed class FormBytes
{
    public FormBytes(byte[] plain)
    {
        Plain = plain;
        Tag = $"\"{Convert.ToHexStringLower(SHA256.HashData(plain))[..32]}\"";
        Brotli = Compress(plain, stream => new BrotliStream(stream, CompressionLevel.SmallestSize));
        Gzip = Compress(plain, stream => new GZipStream(stream, CompressionLevel.SmallestSize));
    }

    public byte[] Plain { get; }

    public byte[] Brotli { get; }

    public byte[] Gzip { get; }

    /// <summary>The strong entity tag (RFC 9110, 8.8.3).</summary>
    public string Tag { get; }

    private static byte[] Compress(byte[] plain, Func<Stream, Stream> by)
    {
        var target = new MemoryStream();
        using (var stream = by(target))
        {
            stream.Write(plain);
        }

        return target.ToArray();
    }
}
