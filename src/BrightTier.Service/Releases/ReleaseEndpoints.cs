using System.Collections.Immutable;
using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.AspNetCore.Mvc;

namespace BrightTier.Service.Releases;

/// <summary>Publishing, the releases there were, going back to one.</summary>
public static class ReleaseEndpoints
{
    public static void MapReleases(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/releases").WithTags("releases");
        group
            .MapGet("", List)
            .WithName("listReleases")
            .NeedsReader()
            .Produces<IReadOnlyList<ReleaseInfo>>()
            .WithSummary(
                "A page of releases, newest first: limit, up to 500, without it 100; before is the last number of the page before; with "
                    + "document=kind/key those that changed it. What each changed, where it is not many; else how many."
            );
        group.MapGet("/{number:long}", Get).WithName("getRelease").NeedsReader().Produces<ReleaseInfo>().WithSummary("One release.");
        group
            .MapGet("/{number:long}/documents/{kind}/{key}", Text)
            .WithName("getReleasedDocument")
            .NeedsReader()
            .Produces<string>(200, "application/yaml")
            .WithSummary("The exact text of a document in a release, whether it can be read or not.");
        group
            .MapPost("", Publish)
            .WithName("publishRelease")
            .Needs(Permissions.Publish)
            .Produces<Receipt>(201)
            .Produces<Receipt>()
            .WithSummary("Publishes drafts, all or none, at the revisions named; 200 where nothing differs and no release was made.");
        group
            .MapPost("/plan", Plan)
            .WithName("planRelease")
            .Needs(Permissions.Publish)
            .Produces<ReleasePlan>()
            .WithSummary(
                "What publishing drafts would change for everyone, in words, what stands against it, and what it depends on that would "
                    + "not go along. Publishing with the plan's base holds to it."
            );
        group
            .MapGet("/dependencies", Dependencies)
            .WithName("listDependencies")
            .NeedsReader()
            .Produces<IReadOnlyList<DependencyInfo>>()
            .WithSummary(
                "The unpublished drafts that the drafts in ?document=kind/key depend on, near and far: they are published with them."
            );
        group
            .MapGet("/diff", Diff)
            .WithName("diffReleases")
            .NeedsReader()
            .Produces<ReleaseComparison>()
            .WithSummary("How two releases differ, or a release and the drafts, document by document, in words.")
            .WithDescription(
                "from and to are a number, current or drafts. Without them: from current to drafts, which is what waits to be published."
            );
        group
            .MapPost("/{number:long}/promote", Promote)
            .WithName("promoteRelease")
            .Needs(Permissions.Publish)
            .Produces<ReleaseInfo>()
            .WithSummary("Promotes a staged release to everyone.");
        group
            .MapPost("/{number:long}/cancel", Cancel)
            .WithName("cancelRelease")
            .Needs(Permissions.Publish)
            .Produces<ReleaseInfo>()
            .WithSummary("Cancels a staged release: whoever has it gets what everyone has.");
        group
            .MapPost("/{number:long}/restore", Restore)
            .WithName("restoreRelease")
            .Needs(Permissions.Publish)
            .Produces<Receipt>(201)
            .Produces<Receipt>()
            .WithSummary("Creates a release of what an old one held, or of what is current with some documents as an old one had them.");
    }

    private static async Task<IResult> List(
        ReleaseStore store,
        CurrentRelease releases,
        long? before,
        int? limit,
        string? document,
        CancellationToken cancel
    )
    {
        if (limit is < 1 or > 500)
        {
            throw Problems.Invalid($"A page has from 1 to 500 entries.", Problems.Part("limit", $"is out of range"));
        }

        var name = document?.Split('/') switch
        {
            null => null,
            [var kind, var key] => new DocumentName(kind, key),
            _ => throw Problems.Invalid(
                $"A document is named by kind/key, such as layout/vessel; it is '{document}'.",
                Problems.Part("document", $"must be kind/key")
            ),
        };
        return TypedResults.Json(
            await ReleaseAnswers.Page(store, releases, before, limit ?? 100, name, cancel),
            WireJson.Default.IReadOnlyListReleaseInfo
        );
    }

    private static async Task<IResult> Get(
        HttpContext http,
        long number,
        ReleaseStore store,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        return TypedResults.Json(await ReleaseAnswers.Info(number, store, releases, cancel), WireJson.Default.ReleaseInfo);
    }

    private static async Task<IResult> Text(long number, string kind, string key, ReleaseStore store, CancellationToken cancel)
    {
        var texts = await store.Texts(number, cancel);
        return texts.FirstOrDefault(text => text.Kind == kind && text.Key == key) is { Text: var found }
            ? TypedResults.Text(found, "application/yaml", System.Text.Encoding.UTF8)
            : throw (
                texts.Count == 0
                    ? Problems.NotFound($"release", number.ToString(CultureInfo.InvariantCulture))
                    : Problems.NotFound($"{kind} in release {number}", key, texts.Where(text => text.Kind == kind).Select(text => text.Key))
            );
    }

    private static async Task<IResult> Publish(
        HttpContext http,
        PublishRequest body,
        ReleasePublisher publisher,
        ReleaseStore store,
        CurrentRelease releases,
        IOpenClients clients,
        CancellationToken cancel
    )
    {
        var caller = http.Publisher(body.Note, body.OverrideReason);
        // Once begun, publishing is finished even if whoever asked has gone.
        var open = await clients.Count(cancel);
        return await Receipt(
            http,
            caller,
            await publisher.Publish(body, caller.Author, CancellationToken.None),
            open,
            store,
            releases,
            cancel
        );
    }

    private static async Task<IResult> Plan(HttpContext http, PlanRequest body, ReleasePublisher publisher, CancellationToken cancel) =>
        TypedResults.Json(await publisher.Plan(body.Documents, http.Caller().Author, cancel), WireJson.Default.ReleasePlan);

    private static async Task<IResult> Diff(ReleaseDiff releases, string? from, string? to, CancellationToken cancel) =>
        TypedResults.Json(await releases.Compare(from ?? "current", to ?? "drafts", cancel), WireJson.Default.ReleaseComparison);

    private static Task<IResult> Promote(
        HttpContext http,
        long number,
        ReleasePublisher publisher,
        ReleaseStore store,
        CurrentRelease releases,
        CancellationToken cancel
    ) => End(http, number, true, publisher, store, releases, cancel);

    private static Task<IResult> Cancel(
        HttpContext http,
        long number,
        ReleasePublisher publisher,
        ReleaseStore store,
        CurrentRelease releases,
        CancellationToken cancel
    ) => End(http, number, false, publisher, store, releases, cancel);

    private static async Task<IResult> End(
        HttpContext http,
        long number,
        bool everyone,
        ReleasePublisher publisher,
        ReleaseStore store,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var by = http.Caller().Author;
        await (everyone ? publisher.Promote(number, by, CancellationToken.None) : publisher.Cancel(number, by, CancellationToken.None));
        return TypedResults.Json(await ReleaseAnswers.Info(number, store, releases, cancel), WireJson.Default.ReleaseInfo);
    }

    private static async Task<IResult> Dependencies(
        HttpContext http,
        [FromQuery] string[] document,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var chosen = new List<(DocumentKind, string)>();
        foreach (var name in document)
        {
            if (
                name.Split('/') is not [var word, var key]
                || DocumentFile.KindNamed(word) is not { } kind
                || !await drafts.IsThere(word, key, cancel)
            )
            {
                throw Problems.Invalid(
                    $"'{name}' names no draft; a draft is named by kind/key, such as layout/vessel.",
                    Problems.Part("document", $"'{name}' is no draft")
                );
            }

            chosen.Add((kind, key));
        }

        return TypedResults.Json(await drafts.Unpublished(chosen, cancel), WireJson.Default.IReadOnlyListDependencyInfo);
    }

    private static async Task<IResult> Restore(
        HttpContext http,
        long number,
        RestoreRequest body,
        ReleasePublisher publisher,
        ReleaseStore store,
        CurrentRelease releases,
        IOpenClients clients,
        CancellationToken cancel
    )
    {
        var caller = http.Publisher(body.Note, null);
        var open = await clients.Count(cancel);
        return await Receipt(
            http,
            caller,
            await publisher.Restore(number, body, caller.Author, CancellationToken.None),
            open,
            store,
            releases,
            cancel
        );
    }

    private static async Task<IResult> Receipt(
        HttpContext http,
        Caller caller,
        ReleaseRow? row,
        int open,
        ReleaseStore store,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var release = await ReleaseAnswers.Info(row?.Number ?? releases.Default.Number, store, releases, cancel);
        if (row is null)
        {
            return TypedResults.Json(new Receipt(release, [], open, Made: false), WireJson.Default.Receipt);
        }

        var (everyone, ahead) = releases.Active;
        var made = ahead?.Snapshot.Number == row.Number ? ahead.Snapshot : everyone;
        var language = http.LanguageOf(caller, made.Definitions.Application);
        var reached = release
            .Documents.Where(document => document.Change is "added" or "changed")
            .Select(document =>
                document.Kind switch
                {
                    "layout" when made.Catalogue.Layouts.GetValueOrDefault(document.Key) is { Kind: not "piece", Entity: var entity } =>
                        entity,
                    "entity" => document.Key,
                    _ => null,
                }
            )
            .Distinct()
            .Select(key => key is null ? null : made.Definitions.Entities.GetValueOrDefault(key))
            .OfType<Entity>()
            .Select(entity => new ReachInfo(
                entity.Key,
                entity.Plural.In(language),
                $"/records/{entity.Key}",
                // Where nobody has laid out a menu, everything is in it.
                made.Catalogue.Navigation.Entries.IsEmpty
                    ? [entity.Plural.In(language)]
                    : made.Catalogue.Navigation.WayTo(entity.Key)?.Select(entry => entry.Title.In(language)).ToArray()
            ));
        Layout[] layouts =
        [
            .. release
                .Documents.Where(document => document is { Kind: "layout", Change: "added" or "changed" })
                .Select(document => made.Catalogue.Layouts.GetValueOrDefault(document.Key))
                .OfType<Layout>(),
        ];
        var unrouted = LayoutSelector
            .Unrouted(made.Catalogue, layouts)
            .Select(layout => new UnroutedInfo(layout.Key, layout.Title?.In(language) ?? layout.Key, layout.Entity, layout.Kind));
        return CreatedResource.At(
            http,
            $"/api/releases/{release.Number.ToString(CultureInfo.InvariantCulture)}",
            new Receipt(release, [.. reached], open, [.. unrouted]),
            WireJson.Default.Receipt
        );
    }
}
