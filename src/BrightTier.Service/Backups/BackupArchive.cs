using BrightTier.Records;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Backups;

/// <summary>
/// Everything an installation holds in one file, made while it is in use, and put into an empty one, of either kind of database. Secrets
/// are in it as
/// the databases have them: tokens as hashes, the keys of cookies as they are.
/// </summary>
public sealed class BackupArchive(
    DocumentTables documents,
    IRecordStore records,
    CurrentRelease releases,
    PeopleStore people,
    PreferenceStore preferences,
    TimeProvider time,
    ILogger<BackupArchive> log
)
{
    private const string Restoring = "restoring";

    /// <summary>Writes a backup. Records first: a document may know more than the records do, never less.</summary>
    public async Task Write(Stream target, CancellationToken cancel)
    {
        using var writer = new BackupWriter(target);
        var snapshot = releases.Default;
        await records.Dump(
            snapshot.Definitions,
            entity => writer.Part(entity is null ? "history.jsonl" : $"records/{entity}.jsonl"),
            cancel
        );
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
                if (releases.Default.Number > 0 || (await people.List(cancel)).Count > 0)
                {
                    throw new InvalidOperationException(
                        "A backup is restored into an empty installation; this one has content. Name another Data or "
                            + "Database, or start without Restore."
                    );
                }

                await preferences.Save("", Restoring, "{}", cancel);
                await documents.Load(table => backup.Part($"documents/{table}.jsonl"), cancel);
            }

            await releases.Load(cancel);
            await records.Define(releases.Default.Definitions, releases.Default.Catalogue.SortedFields, cancel);
            await records.Load(
                releases.Default.Definitions,
                entity => backup.Part(entity is null ? "history.jsonl" : $"records/{entity}.jsonl"),
                cancel
            );
            await preferences.Remove("", Restoring, cancel);
            log.LogInformation("Restored {File}: release {Release}, as it was at {At}.", file, backup.Manifest.Release, backup.Manifest.At);
        }
    }

    /// <summary>Whether a restore began and did not end.</summary>
    public async Task<bool> IsCutShort(CancellationToken cancel) =>
        releases.Default.Number > 0 && await preferences.Find("", Restoring, cancel) is not null;
}
