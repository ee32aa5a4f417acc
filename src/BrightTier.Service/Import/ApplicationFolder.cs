using System.Text.Json;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records;

namespace BrightTier.Service.Import;

/// <summary>A folder with an application's documents and records, such as the one that is shown to newcomers.</summary>
public sealed class ApplicationFolder(IRecordStore records, TimeProvider time)
{
    /// <summary>The documents of a folder, in the order of their files; people are no document.</summary>
    /// <exception cref="InvalidOperationException">One of them cannot be read.</exception>
    public static IEnumerable<Document> Documents(string folder)
    {
        foreach (
            var file in Directory
                .EnumerateFiles(folder, "*.yaml", SearchOption.AllDirectories)
                .Order(StringComparer.Ordinal)
                .Where(file => Path.GetFileName(file) != "people.yaml")
        )
        {
            var (document, problems) = DocumentFile.Read(File.ReadAllText(file));
            yield return document ?? throw new InvalidOperationException($"{file}: {problems[0].At}: {problems[0].Message}");
        }
    }

    /// <summary>Imports the records of a folder, those of each entity only where it has none yet; how many there were.</summary>
    /// <exception cref="InvalidOperationException">A record is refused, or names what is not there.</exception>
    public async Task<int> ImportRecords(string folder, Definitions definitions, string by, CancellationToken cancel)
    {
        var imported = 0;
        foreach (var entity in InOrder(definitions))
        {
            var file = Path.Combine(folder, "records", entity.Key + ".json");
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

                if (await records.Create(entity, values, new Stamp(by, time.GetUtcNow()), cancel) is not SaveOutcome.Success)
                {
                    throw new InvalidOperationException($"{file}: {element.GetRawText()} was refused");
                }

                imported++;
            }
        }

        return imported;
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
