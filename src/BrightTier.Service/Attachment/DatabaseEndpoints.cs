using BrightTier.Contracts;
using BrightTier.Core.Attachment;
using BrightTier.Core.Model;
using BrightTier.Records.Attachment;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Storage;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Attachment;

/// <summary>Databases that are attached: their connections, their tables, and the entities over them.</summary>
public static class DatabaseEndpoints
{
    public static void MapDatabases(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/databases").WithTags("databases");
        group
            .MapGet("", List)
            .WithName("listDatabases")
            .Needs(Permissions.Configure)
            .Produces<IReadOnlyList<DatabaseInfo>>()
            .WithSummary("The connections to databases, which entities are attached by them, and whether they answer.");
        group
            .MapPut("/{name}", Set)
            .WithName("setDatabase")
            .Needs(Permissions.Administer)
            .Produces<DatabaseInfo>()
            .WithSummary("Sets a connection, after it has answered. What it connects with is kept as a secret and never shown again.");
        group
            .MapDelete("/{name}", Remove)
            .WithName("removeDatabase")
            .Needs(Permissions.Administer)
            .Produces(204)
            .WithSummary("Removes a connection that no entity is attached by.");
        group
            .MapGet("/{name}/tables", Tables)
            .WithName("listDatabaseTables")
            .Needs(Permissions.Configure)
            .Produces<IReadOnlyList<DatabaseTableInfo>>()
            .WithSummary("The tables and views of a database, and what of them can be written.");
        group
            .MapPost("/{name}/sketch", Sketch)
            .WithName("sketchAttachedTables")
            .Needs(Permissions.Configure)
            .Produces<IReadOnlyList<AttachSketch>>()
            .WithSummary("The entities tables would become, field by field; nothing is made.");
        group
            .MapPost("/{name}/attach", Attach)
            .WithName("attachTables")
            .Needs(Permissions.Configure)
            .Produces<AttachOutcome>(201)
            .WithSummary(
                "Makes entities over tables, with forms, lists, cards and menu entries: all or nothing. The tables stay as they are."
            );
        group
            .MapGet("/{name}/differences", Differences)
            .WithName("listDatabaseDifferences")
            .Needs(Permissions.Configure)
            .Produces<IReadOnlyList<DatabaseDifference>>()
            .WithSummary("How the tables are other ones than the entities over them say.");
        group
            .MapPost("/{name}/refresh", Refresh)
            .WithName("refreshDatabase")
            .Needs(Permissions.Configure)
            .Produces<RefreshOutcome>()
            .WithSummary(
                "Brings the drafts of entities in line with their tables: new columns become fields, fields without one are retired."
            );
    }

    private static async Task<IResult> List(
        Connections connections,
        AttachedDatabases databases,
        DraftDocuments drafts,
        CancellationToken cancel
    )
    {
        var definitions = await drafts.Definitions(cancel);
        var answered = new List<DatabaseInfo>();
        foreach (var connection in await connections.All(cancel))
        {
            answered.Add(await Info(connection, databases, definitions, cancel));
        }

        return TypedResults.Json<IReadOnlyList<DatabaseInfo>>(answered, WireJson.Default.IReadOnlyListDatabaseInfo);
    }

    private static async Task<DatabaseInfo> Info(
        Connection connection,
        AttachedDatabases databases,
        Definitions definitions,
        CancellationToken cancel
    )
    {
        string[] entities =
        [
            .. definitions.Entities.Values.Where(entity => entity.Attached?.Database == connection.Name).Select(entity => entity.Key),
        ];
        try
        {
            return databases.Find(connection.Name) is { } database
                ? new DatabaseInfo(
                    connection.Name,
                    database.Kind,
                    database.Address,
                    connection.IsFixed,
                    entities,
                    await database.Problem(cancel)
                )
                : new DatabaseInfo(connection.Name, "", "", connection.IsFixed, entities, "Its secret can no longer be read; set it anew.");
        }
        catch (FormatException error)
        {
            return new DatabaseInfo(connection.Name, "", "", connection.IsFixed, entities, error.Message);
        }
    }

    private static async Task<IResult> Set(
        HttpContext http,
        string name,
        ConnectionRequest body,
        Connections connections,
        AttachedDatabases databases,
        DraftDocuments drafts,
        AuditStore audit,
        IOptions<ServiceOptions> options,
        CancellationToken cancel
    )
    {
        if (!NodeId.IsWellFormed(name) || name.Length > 40)
        {
            throw Problems.Invalid(
                $"A connection's name begins with a letter and has only letters, digits, '-' and '_', at most 40.",
                Problems.Part("name", $"must be such a name")
            );
        }

        if (connections.IsFixed(name))
        {
            throw new RefusedException(
                409,
                "connection-fixed",
                $"The connection '{name}' is set in the service's configuration; change it there."
            );
        }

        await RequireAnswer(name, body.Connection, options.Value, cancel);
        await connections.Set(name, body.Connection, cancel);
        databases.Forget(name);
        await audit.Note(http.Caller().Person.Id, "database.set", $"database/{name}", null, cancel);
        var info = await Info(new Connection(name, false), databases, await drafts.Definitions(cancel), cancel);
        return TypedResults.Json(info, WireJson.Default.DatabaseInfo);
    }

    /// <summary>Refuses what is no connection, leads to the service's own files, or does not answer.</summary>
    private static async Task RequireAnswer(string name, string connectionString, ServiceOptions options, CancellationToken cancel)
    {
        try
        {
            using var database = AttachedDatabases.Open(name, connectionString);
            var own = Path.GetFullPath(options.Data);
            if (
                database is SqliteDatabase
                && Path.GetFullPath(database.Address).StartsWith(own + Path.DirectorySeparatorChar, StringComparison.Ordinal)
            )
            {
                throw Problems.Invalid(
                    $"That is a file of the service's own; attach another one.",
                    Problems.Part("/connection", $"must not lead into the data folder")
                );
            }

            if (await database.Problem(cancel) is { } problem)
            {
                throw new RefusedException(
                    422,
                    "database-away",
                    $"The database does not answer: {Message.Verbatim(problem)}",
                    [Problems.Part("/connection", Message.Verbatim(problem))]
                );
            }
        }
        catch (FormatException error)
        {
            throw Problems.Invalid(
                $"That is no connection string: {Message.Verbatim(error.Message)}",
                Problems.Part("/connection", Message.Verbatim(error.Message))
            );
        }
    }

    private static async Task<IResult> Remove(
        HttpContext http,
        string name,
        Connections connections,
        AttachedDatabases databases,
        DraftDocuments drafts,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        if ((await connections.All(cancel)).FirstOrDefault(each => each.Name == name) is not { } connection)
        {
            throw Problems.NotFound($"connection", name, (await connections.All(cancel)).Select(each => each.Name));
        }

        var used = (await drafts.Definitions(cancel)).Entities.Values.Where(entity => entity.Attached?.Database == name).ToArray();
        if (connection.IsFixed || used.Length > 0)
        {
            throw new RefusedException(
                409,
                "connection-used",
                connection.IsFixed
                    ? (Message)$"The connection '{name}' is set in the service's configuration; take it out there."
                    : $"The connection '{name}' is used by {string.Join(", ", used.Select(entity => entity.Key))}."
            );
        }

        await connections.Remove(name, cancel);
        databases.Forget(name);
        await audit.Note(http.Caller().Person.Id, "database.removed", $"database/{name}", null, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> Tables(string name, DatabaseEntities entities, DraftDocuments drafts, CancellationToken cancel)
    {
        var taken = (await drafts.Definitions(cancel))
            .Entities.Values.Where(entity => entity.Attached?.Database == name)
            .ToDictionary(entity => AttachedEntities.PathOf(entity.Attached!), entity => entity.Key, StringComparer.Ordinal);
        var tables = await entities.Tables(name, cancel);
        return TypedResults.Json<IReadOnlyList<DatabaseTableInfo>>(
            [
                .. tables.Select(table => new DatabaseTableInfo(
                    table.Path,
                    table.IsView,
                    table.Comment,
                    table.Columns.Length,
                    table.Key,
                    table.Rows,
                    taken.GetValueOrDefault(table.Path),
                    AttachedEntities.BarOf(table)?.Reason().ToString(),
                    [.. table.References.Select(each => each.Schema is null ? each.Table : $"{each.Schema}.{each.Table}").Distinct()]
                )),
            ],
            WireJson.Default.IReadOnlyListDatabaseTableInfo
        );
    }

    private static async Task<IResult> Sketch(string name, AttachRequest body, DatabaseEntities entities, CancellationToken cancel) =>
        TypedResults.Json<IReadOnlyList<AttachSketch>>(
            [.. (await entities.Sketch(name, body, cancel)).Select(Answer)],
            WireJson.Default.IReadOnlyListAttachSketch
        );

    private static AttachSketch Answer(AttachedSketch sketch) =>
        new(
            AttachedEntities.PathOf(sketch.Entity.Attached!),
            sketch.Entity.Key,
            sketch.Entity.Label.ToString(),
            sketch.Entity.Plural.ToString(),
            sketch.Entity.Attached!.ReadOnly?.Reason().ToString(),
            [
                .. sketch.Entity.Fields.Select(field => new AttachSketchField(
                    string.Join(", ", field.Attached!.Columns.Select(each => each.Column)),
                    string.Join(", ", field.Attached.Columns.Select(each => each.Type)),
                    field.Key,
                    field.Label.ToString(),
                    field.Type.Name(),
                    field.Required,
                    field.Target,
                    [
                        .. sketch
                            .Choices.FirstOrDefault(list => list.Key == field.ChoiceList)
                            ?.Choices.Select(choice => choice.Label.ToString())
                            ?? [],
                    ],
                    field.Attached.ReadOnly?.Reason().ToString()
                )),
            ],
            [.. sketch.Left.Select(left => new AttachLeft(left.Column, left.Reason.ToString()))]
        );

    private static async Task<IResult> Attach(
        HttpContext http,
        string name,
        AttachRequest body,
        DatabaseEntities entities,
        CancellationToken cancel
    ) =>
        TypedResults.Json(await entities.Attach(name, body, http.Caller().Author, cancel), WireJson.Default.AttachOutcome, statusCode: 201);

    private static async Task<IResult> Differences(string name, DatabaseEntities entities, CancellationToken cancel) =>
        TypedResults.Json(await entities.Differences(name, cancel), WireJson.Default.IReadOnlyListDatabaseDifference);

    private static async Task<IResult> Refresh(HttpContext http, string name, DatabaseEntities entities, CancellationToken cancel) =>
        TypedResults.Json(await entities.Refresh(name, http.Caller().Author, cancel), WireJson.Default.RefreshOutcome);
}
