using System.Collections.Concurrent;
using System.Data.Common;
using BrightTier.Contracts;
using BrightTier.Core.Attachment;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records.Attachment;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Tables;

namespace BrightTier.Service.Attachment;

/// <summary>Entities over the tables of attached databases: made, compared with what the tables have become, brought in line.</summary>
public sealed class DatabaseEntities(
    AttachedDatabases databases,
    Connections connections,
    DraftDocuments drafts,
    NewEntities entities,
    TimeProvider time
)
{
    /// <summary>How long a catalogue that was read is good for choosing from: one chooses table by table.</summary>
    private static readonly TimeSpan Kept = TimeSpan.FromSeconds(30);

    private readonly ConcurrentDictionary<string, (AttachedDatabase Of, DateTimeOffset At, IReadOnlyList<DatabaseTable> Tables)> read = new(
        StringComparer.Ordinal
    );

    /// <summary>So many tables are attached at once: more are no application.</summary>
    private const int Most = 200;

    /// <exception cref="RefusedException">404: there is no such connection.</exception>
    public async Task<AttachedDatabase> Database(string name, CancellationToken cancel) =>
        databases.Find(name) ?? throw Problems.NotFound($"connection", name, (await connections.All(cancel)).Select(each => each.Name));

    /// <summary>The tables of a database.</summary>
    /// <exception cref="RefusedException">404: there is no such connection.</exception>
    /// <exception cref="DatabaseAwayException">It does not answer.</exception>
    public async Task<IReadOnlyList<DatabaseTable>> Tables(string name, CancellationToken cancel)
    {
        var database = await Database(name, cancel);
        try
        {
            var tables = await database.Tables(cancel);
            read[name] = (database, time.GetUtcNow(), tables);
            return tables;
        }
        catch (Exception error) when (error is DbException or TimeoutException or System.Net.Sockets.SocketException)
        {
            throw new DatabaseAwayException(name, error.Message, error);
        }
    }

    /// <summary>The entities that tables suggest, by the catalogue as it was a moment ago.</summary>
    /// <exception cref="RefusedException">400 or 404: a table is not there, or is an entity already.</exception>
    public async Task<IReadOnlyList<AttachedSketch>> Sketch(string name, AttachRequest request, CancellationToken cancel) =>
        await Sketch(
            name,
            request,
            read.TryGetValue(name, out var known) && known.Of == databases.Find(name) && time.GetUtcNow() - known.At < Kept
                ? known.Tables
                : await Tables(name, cancel),
            cancel
        );

    private async Task<IReadOnlyList<AttachedSketch>> Sketch(
        string name,
        AttachRequest request,
        IReadOnlyList<DatabaseTable> tables,
        CancellationToken cancel
    )
    {
        var definitions = await drafts.Definitions(cancel);
        if (request.Tables.Count is 0 or > Most)
        {
            throw Problems.Invalid(
                $"From 1 to {Most} tables are attached at once.",
                Problems.Part("/tables", $"must name from 1 to {Most}")
            );
        }

        var taken = definitions
            .Entities.Values.Where(entity => entity.Attached?.Database == name)
            .ToDictionary(entity => AttachedEntities.PathOf(entity.Attached!), entity => entity.Key, StringComparer.Ordinal);
        foreach (var path in request.Tables)
        {
            if (tables.All(table => table.Path != path))
            {
                throw Problems.NotFound($"table", path, tables.Select(table => table.Path));
            }

            if (taken.TryGetValue(path, out var entity))
            {
                throw Problems.Invalid(
                    $"The table '{path}' is the entity '{entity}' already.",
                    Problems.Part("/tables", $"must name tables that are no entities yet")
                );
            }
        }

        return AttachedEntities.Of(name, tables, request.Tables.ToHashSet(StringComparer.Ordinal), definitions);
    }

    /// <exception cref="RefusedException">As for a sketch, and what stands against publishing; nothing was made.</exception>
    public async Task<AttachOutcome> Attach(string name, AttachRequest request, Author by, CancellationToken cancel)
    {
        var sketches = await Sketch(name, request, await Tables(name, cancel), cancel);
        if (sketches.FirstOrDefault(sketch => sketch.Entity.Fields.IsEmpty) is { } bare)
        {
            throw Problems.Invalid(
                $"No column of '{AttachedEntities.PathOf(bare.Entity.Attached!)}' becomes a field; there is nothing to show of it.",
                Problems.Part("/tables", $"names a table without fields")
            );
        }

        if (request.Publish)
        {
            entities.RequireNoApproval(
                $"What is published needs a second person's approval here. Attach the tables as drafts, and have them approved and "
                    + $"published."
            );
        }

        var (layouts, release) = await entities.Make(
            [.. sketches.Select(sketch => new NewEntity(sketch.Entity, sketch.Choices, field => IsLed(sketch.Table, field)))],
            new EntityRelease($"Attached from {name}", $"{name}: {string.Join(", ", request.Tables)}", request.Publish),
            by,
            cancel
        );
        return new AttachOutcome([.. sketches.Select(sketch => sketch.Entity.Key)], layouts, release);
    }

    /// <summary>Whether an order by a field is quick: the table is small, or an index leads by it.</summary>
    private static bool IsLed(DatabaseTable table, Field field) =>
        table.Rows <= AttachedRecords.Large || table.Indexed.Contains(field.Attached!.Name);

    /// <summary>What has become of the tables that entities are over.</summary>
    public async Task<IReadOnlyList<DatabaseDifference>> Differences(string name, CancellationToken cancel) =>
        [.. (await Compared(name, cancel)).SelectMany(each => each.Differences.Select(difference => Answer(each.Entity.Key, difference)))];

    /// <summary>Brings the drafts of entities in line with their tables.</summary>
    public async Task<RefreshOutcome> Refresh(string name, Author by, CancellationToken cancel)
    {
        var compared = await Compared(name, cancel);
        var changed = compared.Where(each => each.Differences.Any(difference => difference.Mended)).ToArray();
        var documents = new List<(Document, long)>();
        foreach (var each in changed)
        {
            var document = new Document.OfEntity(each.Now);
            documents.Add((document, (await drafts.Row(DocumentKind.Entity, document.Key, cancel)).Revision));
            documents.AddRange(each.Lists.Select(list => ((Document)new Document.OfChoiceList(list), 0L)));
        }

        if (documents.Count > 0)
        {
            await drafts.SaveAll(documents, $"Brought in line with {name}", by, cancel);
        }

        return new RefreshOutcome(
            [.. changed.Select(each => each.Entity.Key)],
            [.. compared.SelectMany(each => each.Differences.Select(difference => Answer(each.Entity.Key, difference)))]
        );
    }

    private sealed record Comparison(
        Entity Entity,
        Entity Now,
        IReadOnlyList<ChoiceList> Lists,
        IReadOnlyList<AttachedDifference> Differences
    );

    private async Task<IReadOnlyList<Comparison>> Compared(string name, CancellationToken cancel)
    {
        var tables = await Tables(name, cancel);
        var definitions = await drafts.Definitions(cancel);
        var compared = new List<Comparison>();
        foreach (var entity in definitions.Entities.Values.Where(entity => entity.Attached?.Database == name))
        {
            var path = AttachedEntities.PathOf(entity.Attached!);
            var fresh = AttachedEntities.Of(name, tables, [path], definitions) is [var made, ..] ? made : null;
            var (differences, now) = AttachedDifferences.Of(entity, fresh?.Entity);
            var used = now
                .Fields.Except(entity.Fields)
                .Select(field => field.ChoiceList)
                .OfType<string>()
                .ToHashSet(StringComparer.Ordinal);
            compared.Add(new Comparison(entity, now, [.. (fresh?.Choices ?? []).Where(list => used.Contains(list.Key))], differences));
        }

        return compared;
    }

    private static DatabaseDifference Answer(string entity, AttachedDifference difference) =>
        new(
            entity,
            difference.Kind switch
            {
                DifferenceKind.TableGone => "table-gone",
                DifferenceKind.ColumnNew => "column-new",
                DifferenceKind.ColumnGone => "column-gone",
                DifferenceKind.TypeChanged => "type-changed",
                _ => "rule-changed",
            },
            difference.Column,
            difference.Field,
            difference.Message.ToString(),
            difference.Mended
        );
}
