using System.Text.Json;
using System.Text.Json.Serialization;
using BrightTier.Core.Audit;
using BrightTier.Core.Documents;
using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>What to look for in the audit log; null is anything. <paramref name="Before"/> is a number: only what came earlier.</summary>
public sealed record AuditQuery(
    string? By = null,
    string? Action = null,
    string? Subject = null,
    string? Text = null,
    long? From = null,
    long? Until = null,
    long? Before = null,
    int Limit = 100
);

/// <summary>
/// The audit log. Rows are only ever added, each with a hash over itself and the one before (a hash chain, as in RFC 6962 without its
/// tree), so that
/// whoever alters the database behind the service's back is found out.
/// </summary>
public sealed class AuditStore(IDbContextFactory<StorageContext> contexts, TimeProvider time)
{
    private static readonly JsonSerializerOptions Written = new(JsonSerializerDefaults.Web)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = JsonText.Options.Encoder,
    };

    /// <summary>What the token is called by which a call is made; null for a call made otherwise.</summary>
    public static AsyncLocal<string?> Token { get; } = new();

    /// <summary>Writes down what somebody did. What people do to records is in the records' own history.</summary>
    /// <param name="action">What was done, such as draft.changed.</param>
    /// <param name="subject">To what, such as layout/vessel.</param>
    /// <param name="detail">Whatever says more; written as JSON.</param>
    public Task Note(string by, string action, string subject, object? detail, CancellationToken cancel) =>
        Add(Entry(by, action, subject, detail), cancel);

    /// <summary>An entry for the transaction that does what it records.</summary>
    public AuditEntryRow Entry(string by, string action, string subject, object? detail) =>
        new()
        {
            Number = 0,
            At = time.GetUtcNow().ToUnixTimeMilliseconds(),
            By = by,
            Action = action,
            Subject = subject,
            Detail = WithToken(detail is null ? "{}" : JsonSerializer.Serialize(detail, Written)),
            Hash = "",
        };

    /// <summary>Who acts by a token is told with it: a person has several, and gives them to programs.</summary>
    private static string WithToken(string detail) =>
        Token.Value is not { } name ? detail
        : detail == "{}" ? JsonSerializer.Serialize(new { token = name }, Written)
        : $"{detail[..^1]},{JsonSerializer.Serialize(new { token = name }, Written)[1..]}";

    public async Task Add(AuditEntryRow entry, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        await Append(context, [entry], cancel);
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>
    /// Puts entries at the end of the log, as part of the transaction that does what they tell of. Whoever else adds one waits until it
    /// ends.
    /// </summary>
    internal static async Task Append(StorageContext context, IEnumerable<AuditEntryRow> entries, CancellationToken cancel)
    {
        if (context is PostgresStorageContext)
        {
            await context.Database.ExecuteSqlRawAsync($"SELECT pg_advisory_xact_lock({Turn})", cancel);
        }

        // SQLite has one writer at a time anyway.
        var last = await context
            .AuditEntries.AsNoTracking()
            .OrderByDescending(row => row.Number)
            .Select(row => new { row.Number, row.Hash })
            .FirstOrDefaultAsync(cancel);
        var (number, hash) = (last?.Number ?? 0, last?.Hash ?? "");
        foreach (var entry in entries)
        {
            entry.Number = ++number;
            hash = entry.Hash = HashOf(hash, entry);
            context.AuditEntries.Add(entry);
        }
    }

    private const string Turn = "4272696768743";

    /// <summary>Newest first.</summary>
    public async Task<IReadOnlyList<AuditEntryRow>> Search(AuditQuery query, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await Matching(context, query).OrderByDescending(row => row.Number).Take(query.Limit).ToListAsync(cancel);
    }

    /// <summary>All that match, oldest first, a few at a time.</summary>
    public async IAsyncEnumerable<AuditEntryRow> Export(
        AuditQuery query,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await foreach (var row in Matching(context, query).OrderBy(row => row.Number).AsAsyncEnumerable().WithCancellation(cancel))
        {
            yield return row;
        }
    }

    /// <summary>Reads the whole log: how many rows, the last hash, and the first number that does not fit, if one does not.</summary>
    public async Task<(long Rows, string Hash, long? Broken)> Prove(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var (number, hash) = (0L, "");
        await foreach (
            var row in context.AuditEntries.AsNoTracking().OrderBy(row => row.Number).AsAsyncEnumerable().WithCancellation(cancel)
        )
        {
            if (row.Number != number + 1 || row.Hash != HashOf(hash, row))
            {
                return (number, hash, number + 1);
            }

            (number, hash) = (row.Number, row.Hash);
        }

        return (number, hash, null);
    }

    private static IQueryable<AuditEntryRow> Matching(StorageContext context, AuditQuery query)
    {
        var rows = context.AuditEntries.AsNoTracking();
        rows = query.By is { } by ? rows.Where(row => row.By == by) : rows;
        rows = query.Action is { } action ? rows.Where(row => row.Action == action) : rows;
        rows = query.Subject is { } subject ? rows.Where(row => row.Subject == subject || row.Subject.StartsWith(subject + "/")) : rows;
        rows = query.Text is { } text ? rows.Where(row => row.Detail.Contains(text) || row.Subject.Contains(text)) : rows;
        rows = query.From is { } from ? rows.Where(row => row.At >= from) : rows;
        rows = query.Until is { } until ? rows.Where(row => row.At < until) : rows;
        return query.Before is { } before ? rows.Where(row => row.Number < before) : rows;
    }

    private static string HashOf(string before, AuditEntryRow row) =>
        AuditChain.HashOf(before, row.Number, row.At, row.By, row.Action, row.Subject, row.Detail);

    /// <summary>How many entries there are, and the hash of the last.</summary>
    public async Task<(long Entries, string Hash)> Head(CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        var last = await context
            .AuditEntries.AsNoTracking()
            .OrderByDescending(row => row.Number)
            .Select(row => new { row.Number, row.Hash })
            .FirstOrDefaultAsync(cancel);
        return (last?.Number ?? 0, last?.Hash ?? "");
    }
}
