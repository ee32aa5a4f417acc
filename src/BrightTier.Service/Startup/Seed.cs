using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Hosting;
using BrightTier.Service.Import;
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
    ApplicationFolder application,
    IOptions<ServiceOptions> options,
    CodeScreen screen
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
            if (options.Value.Existing)
            {
                throw new InvalidOperationException(
                    $"There is nothing in {(options.Value.Database is null ? $"the data folder '{options.Value.Data}'" : "the database")}, "
                        + $"and 'Existing' says that there is; look whether 'Data' and 'Database' are what they should be."
                );
            }

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
            screen.Show($"This service is new. Open it and set it up with this code, shown this once and good for 30 days: {secret}");
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
            var there = (await drafts.List(cancel)).ToDictionary(row => (row.Kind, row.Key));
            var documents = ApplicationFolder
                .Documents(folder)
                .Select(document => (Document: document, Present: there.GetValueOrDefault((document.Kind.Name(), document.Key))))
                .ToArray();
            var missing = documents.Where(each => each.Present?.Content != DocumentFile.Write(each.Document)).ToArray();
            await drafts.SaveAll(
                [.. missing.Select(each => (each.Document, each.Present?.Revision ?? 0))],
                "Made",
                new Author(Begins, null),
                cancel
            );
            var references = documents
                .Select(each => new DraftReference(
                    each.Document.Kind.Name(),
                    each.Document.Key,
                    (each.Present?.Revision ?? 0) + (missing.Contains(each) ? 1 : 0)
                ))
                .ToArray();
            await publishing.Publish(new PublishRequest(references, "The application as supplied"), new Author(Begins, null), cancel);
        }

        await application.ImportRecords(folder, releases.Default.Definitions, Begins, cancel);
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
}
