using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Import;

/// <summary>An application to look at and take apart, for a service that has none yet.</summary>
public static class ExampleEndpoints
{
    public static void MapExample(this IEndpointRouteBuilder api) =>
        api.MapPost("/example", Open)
            .WithName("openExample")
            .Needs(Permissions.Administer)
            .WithTags("documents")
            .Produces<ExampleOutcome>()
            .WithSummary("Makes and publishes the example's entities, forms, menu and records, in a service that has no entities.");

    private static async Task<IResult> Open(
        HttpContext http,
        ApplicationFolder application,
        DraftDocuments drafts,
        ReleasePublisher publisher,
        CurrentRelease releases,
        IOptions<ServiceOptions> options,
        CancellationToken cancel
    )
    {
        var rows = await drafts.List(cancel);
        if (rows.Any(row => row.Kind == DocumentKind.Entity.Name()))
        {
            throw new RefusedException(
                409,
                "example-taken",
                $"There are entities here already; the example is for a service that has none. Start another service to look at it."
            );
        }

        var folder = Folder(options.Value)
            ?? throw new RefusedException(404, "not-found", $"The example did not come with this service; its folder 'demo' is not there.");
        var author = http.Caller().Author;
        var own = (await drafts.Definitions(cancel)).Application;
        var documents = ApplicationFolder
            .Documents(folder)
            .Select(document =>
                document is Document.OfApplication shown ? new Document.OfApplication(With(own, shown.Application)) : document
            )
            .Select(document =>
                (
                    Document: document,
                    Expected: rows.FirstOrDefault(row => row.Kind == document.Kind.Name() && row.Key == document.Key)?.Revision ?? 0
                )
            )
            .ToArray();
        await drafts.SaveAll(documents, "The example", author, cancel);
        var references = documents.Select(each => new DraftReference(each.Document.Kind.Name(), each.Document.Key, each.Expected + 1));
        var release = await publisher.Publish(new PublishRequest([.. references], "The example"), author, cancel);
        var records = await application.ImportRecords(folder, releases.Default.Definitions, author.Id, cancel);
        return TypedResults.Json(
            new ExampleOutcome(releases.Default.Definitions.Entities.Count, records, release!.Number),
            WireJson.Default.ExampleOutcome
        );
    }

    /// <summary>An application as it was set up, with the roles and styles the example rests on.</summary>
    private static Application With(Application own, Application shown) =>
        own with
        {
            Roles = [.. own.Roles, .. shown.Roles.Where(role => own.Roles.All(each => each.Key != role.Key))],
            Styles = [.. own.Styles, .. shown.Styles.Where(style => own.Styles.All(each => each.Key != style.Key))],
        };

    /// <summary>Where the example is: where it is said to be, beside the program, or in the checkout.</summary>
    private static string? Folder(ServiceOptions options)
    {
        if (options.Example is { } given)
        {
            return Directory.Exists(given) ? given : null;
        }

        for (var at = new DirectoryInfo(AppContext.BaseDirectory); at is not null; at = at.Parent)
        {
            var candidate = Path.Combine(at.FullName, "demo");
            if (File.Exists(Path.Combine(candidate, "application.yaml")))
            {
                return candidate;
            }
        }

        return null;
    }
}
