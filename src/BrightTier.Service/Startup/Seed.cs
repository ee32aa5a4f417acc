using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Hosting;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Startup;

/// <summary>
/// What an empty service begins with: a folder of documents, published as the first release, with people and records; or one administrator
/// with a token.
/// </summary>
public sealed class Seed(
    PeopleStore people,
    DraftDocuments drafts,
    ReleasePublisher publishing,
    CurrentRelease releases,
    IRecordStore records,
    TimeProvider time,
    IOptions<ServiceOptions> options,
    ILogger<Seed> log
)
{
    private const string Begins = "greta";

    public async Task Run(CancellationToken cancel)
    {
        if (options.Value.Seed is { } folder)
        {
            await FromFolder(folder, cancel);
        }
        else if (releases.Default.Number == 0 && (await people.List(cancel)).Count == 0)
        {
            await people.Save(
                new PersonRow
                {
                    Id = "administrator",
                    Name = "Administrator",
                    Roles = "administrator",
                    Language = "en",
                },
                cancel
            );
            var (secret, _) = await people.Issue(PeopleStore.Token, "administrator", "first", TimeSpan.FromDays(30), cancel);
            log.LogWarning(
                "This service is new. Open it and set it up with this code, shown this once and good for 30 days: {Code}",
                secret
            );
        }
    }

    /// <summary>A code to sign in or set up with, for whoever is at the machine and has lost the first.</summary>
    /// <exception cref="InvalidOperationException">Nobody administers.</exception>
    public async Task<string> NewCode(CancellationToken cancel)
    {
        var administrator = (await people.List(cancel)).FirstOrDefault(person =>
            person
                .Roles.Split(' ')
                .Any(role =>
                    role == Application.Administrator
                    || releases.Default.Definitions.Application.Allows([role], Permissions.Administer, null)
                )
        ) ?? throw new InvalidOperationException("Nobody administers this service; restore a backup in which somebody does.");
        var (secret, _) = await people.Issue(PeopleStore.Token, administrator.Id, "made at the machine", TimeSpan.FromDays(1), cancel);
        return secret;
    }

    /// <summary>Each part is done only where it is not there yet, so that a start cut short is made whole by the next.</summary>
    private async Task FromFolder(string folder, CancellationToken cancel)
    {
        if (!Directory.Exists(folder))
        {
            throw new InvalidOperationException($"The folder to begin with, {folder}, is not there.");
        }

        if (releases.Default.Number == 0)
        {
            await SeedPeople(Path.Combine(folder, "people.yaml"), cancel);
            var references = new List<DraftReference>();
            foreach (
                var file in Directory
                    .EnumerateFiles(folder, "*.yaml", SearchOption.AllDirectories)
                    .Order(StringComparer.Ordinal)
                    .Where(file => Path.GetFileName(file) != "people.yaml")
            )
            {
                var (document, problems) = DocumentFile.Read(await File.ReadAllTextAsync(file, cancel));
                if (document is null)
                {
                    throw new InvalidOperationException($"{file}: {problems[0].At}: {problems[0].Message}");
                }

                var present = (await drafts.List(cancel)).FirstOrDefault(row =>
                    row.Kind == document.Kind.Name() && row.Key == document.Key
                );
                var saved = await drafts.Save(document, present?.Revision ?? 0, new Author(Begins, null), cancel);
                references.Add(new DraftReference(saved.Kind, saved.Key, saved.Revision));
            }

            await publishing.Publish(new PublishRequest(references, "The application as supplied"), new Author(Begins, null), cancel);
        }

        await SeedRecords(Path.Combine(folder, "records"), cancel);
    }

    private async Task SeedPeople(string file, CancellationToken cancel)
    {
        if ((await people.List(cancel)).Count > 0 || !File.Exists(file))
        {
            return;
        }

        if (YamlText.Read(await File.ReadAllTextAsync(file, cancel)).Node is not FileNode.List list)
        {
            throw new InvalidOperationException($"{file} must be a list of people.");
        }

        foreach (var person in list.Elements.OfType<FileNode.Map>())
        {
            var roles = (person["roles"] as FileNode.List)?.Elements.OfType<FileNode.Scalar>().Select(role => role.Content) ?? [];
            await people.Save(
                new PersonRow
                {
                    Id = Word(person, "id") ?? throw new InvalidOperationException($"{file}: {person.At}: a person needs 'id'"),
                    Name = Word(person, "name") ?? "",
                    Roles = string.Join(' ', roles),
                    Language = Word(person, "language") ?? "en",
                    Region = Word(person, "region"),
                },
                cancel
            );
        }

        static string? Word(FileNode.Map map, string key) => (map[key] as FileNode.Scalar)?.Content;
    }

    private async Task SeedRecords(string folder, CancellationToken cancel)
    {
        var definitions = releases.Default.Definitions;
        foreach (var entity in InOrder(definitions))
        {
            var file = Path.Combine(folder, entity.Key + ".json");
            if (!File.Exists(file) || (await records.List(entity, new RecordQuery { Limit = 1 }, cancel)).Total > 0)
            {
                continue;
            }

            using var json = JsonDocument.Parse(await File.ReadAllTextAsync(file, cancel));
            foreach (var element in json.RootElement.EnumerateArray())
            {
                var values = new Dictionary<string, object?>();
                foreach (var property in element.EnumerateObject())
                {
                    var field = entity.Find(property.Name)
                        ?? throw new InvalidOperationException($"{file}: '{entity.Key}' has no field '{property.Name}'");
                    values[field.Key] = FieldValues.Read(field, property.Value, out var value) is { } problem
                        ? throw new InvalidOperationException($"{file}: '{field.Key}' {problem}")
                        : value;
                }

                if (await records.Create(entity, values, new Stamp(Begins, time.GetUtcNow()), cancel) is not SaveOutcome.Success)
                {
                    throw new InvalidOperationException($"{file}: {element.GetRawText()} was refused");
                }
            }
        }
    }

    /// <summary>What others refer to comes first.</summary>
    private static List<Entity> InOrder(Definitions definitions)
    {
        var ordered = new List<Entity>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        foreach (var entity in definitions.Entities.Values)
        {
            Visit(entity);
        }

        return ordered;

        void Visit(Entity entity)
        {
            if (seen.Add(entity.Key))
            {
                foreach (
                    var target in entity
                        .Fields.Select(field => field.Target is { } key ? definitions.Entities.GetValueOrDefault(key) : null)
                        .OfType<Entity>()
                )
                {
                    Visit(target);
                }

                ordered.Add(entity);
            }
        }
    }
}
