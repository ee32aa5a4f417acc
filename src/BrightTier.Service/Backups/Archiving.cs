using BrightTier.Records;
using BrightTier.Service.Hosting;
using BrightTier.Service.Releases;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Backups;

/// <summary>
/// Everything an installation holds in one file, made while it is in use, and put into an empty one, of either kind of database. Secrets are in it as
/// the databases have them: tokens as hashes, the keys of cookies as they are.
/// </summary>
public sealed class Archiving(DocumentTables documents, IRecordStore records, CurrentRelease releases, PeopleStore people, PreferenceStore preferences, TimeProvider time, IOptions<ServiceOptions> options, ILogger<Archiving> log)
{
    private const string Restoring = "restoring";

    private string Files => Path.Combine(options.Value.Data, "files");

    /// <summary>Writes a backup. Records first: a document may know more than the records do, never less.</summary>
    public async Task Write(Stream target, CancellationToken cancel)
    {
        using var writer = new BackupWriter(target);
        var snapshot = releases.Snapshot;
        await records.Dump(snapshot.Definitions, entity => writer.Part(entity is null ? "history.jsonl" : $"records/{entity}.jsonl"), cancel);
        foreach (var file in Directory.Exists(Files) ? Directory.GetFiles(Files).Where(file => Path.GetExtension(file).Length == 0).Order(StringComparer.Ordinal).ToArray() : [])
        {
            await using var part = writer.Part($"files/{Path.GetFileName(file)}");
            await using var stored = File.OpenRead(file);
            await stored.CopyToAsync(part, cancel);
        }

        await documents.Dump(table => writer.Part($"documents/{table}.jsonl"), cancel);
        writer.Finish(time.GetUtcNow(), snapshot.Number);
    }

    /// <summary>Puts a backup into an empty installation. One that was cut short is gone on with when it is asked for again.</summary>
    /// <exception cref="InvalidOperationException">There is something already, or the file is no whole backup.</exception>
    public async Task Restore(string file, CancellationToken cancel)
    {
        if (!File.Exists(file))
        {
            throw new InvalidOperationException($"The backup {file} is not there.");
        }

        BackupReader backup;
        try
        {
            backup = new BackupReader(file);
        }
        catch (InvalidDataException error)
        {
            throw new InvalidOperationException($"The backup {file} cannot be used. {error.Message}", error);
        }

        using (backup)
        {
            if (!await IsCutShort(cancel))
            {
                if (releases.Snapshot.Number > 0 || (await people.List(cancel)).Count > 0)
                {
                    throw new InvalidOperationException("A backup is restored into an empty installation; this one has content. Name another Data or Database, or start without Restore.");
                }

                await preferences.Put("", Restoring, "{}", cancel);
                await documents.Load(table => backup.Part($"documents/{table}.jsonl"), cancel);
            }

            await releases.Load(cancel);
            await records.Define(releases.Snapshot.Definitions, releases.Snapshot.Catalogue.SortedFields, cancel);
            foreach (var part in backup.Manifest.Parts.Where(part => part.Name.StartsWith("files/", StringComparison.Ordinal)))
            {
                // Named by their hashes, and by nothing that could lead elsewhere.
                if (part.Name["files/".Length..] is { Length: 64 } hash && hash.All(char.IsAsciiHexDigitLower))
                {
                    await using var target = File.Create(Path.Combine(Directory.CreateDirectory(Files).FullName, hash));
                    await using var stored = backup.Part(part.Name)!;
                    await stored.CopyToAsync(target, cancel);
                }
            }

            await records.Load(releases.Snapshot.Definitions, entity => backup.Part(entity is null ? "history.jsonl" : $"records/{entity}.jsonl"), cancel);
            await preferences.Remove("", Restoring, cancel);
            log.LogInformation("Restored {File}: release {Release}, as it was at {At}.", file, backup.Manifest.Release, backup.Manifest.At);
        }
    }

    /// <summary>Whether a restore began and did not end.</summary>
    public async Task<bool> IsCutShort(CancellationToken cancel) => releases.Snapshot.Number > 0 && await preferences.Find("", Restoring, cancel) is not null;
}
