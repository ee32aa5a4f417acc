using System.Globalization;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Audit;

/// <summary>The audit log, for administrators: to search, to take away, to prove. There is no way to change it.</summary>
public static class AuditEndpoints
{
    public static void MapAudit(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/audit").WithTags("audit");
        group
            .MapGet("/entries", Search)
            .WithName("listAuditEntries")
            .Needs(Permissions.Administer)
            .Produces<AuditPage>()
            .WithSummary(
                "The audit log, newest first: by whom, which action, on what (subject, with all below it), with which words "
                    + "(q), from and until when; after is the cursor of the page before, limit up to 500."
            );
        group
            .MapGet("/entries/export", Export)
            .WithName("exportAuditEntries")
            .Needs(Permissions.Administer)
            .Produces<string>(200, "text/csv")
            .WithSummary("All entries that match, oldest first, as CSV (RFC 4180) or with format=jsonl as lines of JSON.")
            .DisableRequestTimeout();
        group
            .MapGet("/head", async (AuditSigner signer, CancellationToken cancel) =>
                TypedResults.Json(await signer.Head(cancel), WireJson.Default.AuditHead)
            )
            .WithName("getAuditHead")
            .Needs(Permissions.Administer)
            .Produces<AuditHead>()
            .WithSummary(
                "How long the log is now and the hash of its last entry, signed: to be kept elsewhere, where whoever holds "
                    + "the database cannot reach it."
            );
        group
            .MapGet("/proof", Prove)
            .WithName("proveAudit")
            .Needs(Permissions.Administer)
            .Produces<AuditProof>()
            .WithSummary("Reads the whole log and says whether every entry holds the hash of the one before.")
            .DisableRequestTimeout();
    }

    private static async Task<IResult> Search(
        HttpContext http,
        AuditStore store,
        string? by,
        string? action,
        string? subject,
        string? q,
        DateTimeOffset? from,
        DateTimeOffset? until,
        string? after,
        int? limit,
        CancellationToken cancel
    )
    {
        if (limit is < 1 or > 500)
        {
            throw Problems.Invalid($"A page has from 1 to 500 entries.", Problems.Part("limit", $"is out of range"));
        }

        long? before = null;
        if (after is not null)
        {
            before = long.TryParse(after, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
                ? number
                : throw Problems.Invalid($"'after' is no cursor of this log.", Problems.Part("after", $"is no cursor"));
        }

        var rows = await store.Search(
            Query(by, action, subject, q, from, until) with
            {
                Before = before,
                Limit = (limit ?? 100) + 1,
            },
            cancel
        );
        var page = rows.Take(limit ?? 100).Select(Info).ToArray();
        return TypedResults.Json(
            new AuditPage(page, rows.Count > page.Length ? page[^1].Number.ToString(CultureInfo.InvariantCulture) : null),
            WireJson.Default.AuditPage
        );
    }

    private static IResult Export(
        HttpContext http,
        AuditStore store,
        string? by,
        string? action,
        string? subject,
        string? q,
        DateTimeOffset? from,
        DateTimeOffset? until,
        string? format,
        CancellationToken cancel
    )
    {
        if (format is not (null or "csv" or "jsonl"))
        {
            throw Problems.Invalid(
                $"There is no format '{format}'; there are: csv, jsonl.",
                Problems.Part("format", $"must be csv or jsonl")
            );
        }

        var query = Query(by, action, subject, q, from, until);
        return TypedResults.Stream(
            async target =>
            {
                await using var writer = new StreamWriter(target);
                if (format != "jsonl")
                {
                    await writer.WriteAsync(CsvText.Line(["number", "at", "by", "action", "subject", "detail", "hash"]));
                }

                await foreach (var row in store.Export(query, cancel))
                {
                    var info = Info(row) with { Text = row.Detail };
                    await writer.WriteAsync(
                        format == "jsonl"
                            ? JsonSerializer.Serialize(info, WireJson.Default.AuditEntry) + "\n"
                            : CsvText.Line([
                                info.Number.ToString(CultureInfo.InvariantCulture),
                                info.At.ToString("O", CultureInfo.InvariantCulture),
                                info.By,
                                info.Action,
                                info.Subject,
                                row.Detail,
                                info.Hash,
                            ])
                    );
                }
            },
            format == "jsonl" ? "application/jsonl" : "text/csv; charset=utf-8",
            $"audit.{format ?? "csv"}"
        );
    }

    private static async Task<IResult> Prove(HttpContext http, AuditStore store, CancellationToken cancel)
    {
        var (rows, hash, broken) = await store.Prove(cancel);
        return TypedResults.Json(new AuditProof(broken is null, rows, hash, broken), WireJson.Default.AuditProof);
    }

    private static AuditQuery Query(string? by, string? action, string? subject, string? q, DateTimeOffset? from, DateTimeOffset? until) =>
        new(Said(by), Said(action), Said(subject), Said(q), from?.ToUnixTimeMilliseconds(), until?.ToUnixTimeMilliseconds());

    private static string? Said(string? word) => string.IsNullOrWhiteSpace(word) ? null : word.Trim();

    private static AuditEntry Info(AuditEntryRow row)
    {
        using var detail = JsonDocument.Parse(row.Detail);
        return new AuditEntry(
            row.Number,
            DateTimeOffset.FromUnixTimeMilliseconds(row.At),
            row.By,
            row.Action,
            row.Subject,
            detail.RootElement.Clone(),
            row.Hash
        );
    }
}
