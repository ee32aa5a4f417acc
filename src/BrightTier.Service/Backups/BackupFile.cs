using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;

namespace BrightTier.Service.Backups;

/// <summary>One part of a backup, with the SHA-256 of its content in lower-case hexadecimal.</summary>
public sealed record BackupPart(string Name, string Hash, long Length);

/// <summary>What a backup says of itself: the last entry of the archive, so that one cut short has none.</summary>
public sealed record BackupManifest(string Format, int Version, DateTimeOffset At, long Release, IReadOnlyList<BackupPart> Parts)
{
    public const string Name = "manifest.json";

    public const string TheFormat = "bright-tier-backup";
}

/// <summary>Writes the archive (ZIP) of a backup part by part, and its manifest.</summary>
internal sealed class BackupWriter(Stream target) : IDisposable
{
    private readonly ZipArchive archive = new(target, ZipArchiveMode.Create, leaveOpen: true);
    private readonly List<BackupPart> parts = [];

    /// <summary>A stream for a part; it is done when the stream is closed, and before the next.</summary>
    public Stream Part(string name) =>
        new HashStream(archive.CreateEntry(name, CompressionLevel.Fastest).Open(), (hash, length) =>
            parts.Add(new BackupPart(name, hash, length))
        );

    public void Finish(DateTimeOffset at, long release)
    {
        using var stream = archive.CreateEntry(BackupManifest.Name).Open();
        JsonSerializer.Serialize(stream, new BackupManifest(BackupManifest.TheFormat, 1, at, release, parts), Options);
    }

    public void Dispose() => archive.Dispose();

    internal static JsonSerializerOptions Options { get; } = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    private sealed class HashStream(Stream inner, Action<string, long> done) : Stream
    {
        private readonly IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        private long length;

        public override bool CanRead => false;

        public override bool CanSeek => false;

        public override bool CanWrite => true;

        public override long Length => length;

        public override long Position
        {
            get => length;
            set => throw new NotSupportedException();
        }

        public override void Flush() => inner.Flush();

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

        public override void Write(ReadOnlySpan<byte> buffer)
        {
            hash.AppendData(buffer);
            length += buffer.Length;
            inner.Write(buffer);
        }

        protected override void Dispose(bool disposing)
        {
            if (disposing)
            {
                inner.Dispose();
                done(Convert.ToHexStringLower(hash.GetHashAndReset()), length);
                hash.Dispose();
            }

            base.Dispose(disposing);
        }
    }
}

/// <summary>A backup that was found whole: every part that the manifest names is there, with the content it had.</summary>
internal sealed class BackupReader : IDisposable
{
    private readonly ZipArchive archive;

    /// <exception cref="InvalidDataException">It is no backup, of a version not known here, or damaged.</exception>
    public BackupReader(string file)
    {
        archive = ZipFile.OpenRead(file);
        try
        {
            var entry = archive.GetEntry(BackupManifest.Name)
                ?? throw new InvalidDataException("It is no backup, or was cut short: it has no manifest.");
            using (var stream = entry.Open())
            {
                Manifest = JsonSerializer.Deserialize<BackupManifest>(stream, BackupWriter.Options)
                    ?? throw new InvalidDataException("Its manifest is empty.");
            }

            if (Manifest is not { Format: BackupManifest.TheFormat, Version: 1 })
            {
                throw new InvalidDataException(
                    $"It is of format '{Manifest.Format}', version {Manifest.Version}; this service reads "
                        + $"'{BackupManifest.TheFormat}', version 1."
                );
            }

            foreach (var part in Manifest.Parts)
            {
                using var stream = (
                    archive.GetEntry(part.Name) ?? throw new InvalidDataException($"Its part {part.Name} is missing.")
                ).Open();
                if (Convert.ToHexStringLower(SHA256.HashData(stream)) != part.Hash)
                {
                    throw new InvalidDataException($"Its part {part.Name} is damaged: it is not what the manifest says.");
                }
            }
        }
        catch (JsonException error)
        {
            archive.Dispose();
            throw new InvalidDataException($"Its manifest cannot be read: {error.Message}", error);
        }
        catch
        {
            archive.Dispose();
            throw;
        }
    }

    public BackupManifest Manifest { get; }

    public Stream? Part(string name) => archive.GetEntry(name)?.Open();

    public void Dispose() => archive.Dispose();
}
