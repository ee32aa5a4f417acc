using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;

namespace BrightTier.Service.Audit;

/// <summary>
/// What was done to records, for administrators: out of their history, to which every save adds a line in its own transaction and which
/// nothing changes.
/// </summary>
public static class RecordAuditEndpoints
{
    /// <summary>How many are read at once for whoever takes it away.</summary>
    private const int AtOnce = 500;

    public static void MapRecordAudit(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/audit/record-entries").WithTags("audit");
        group
            .MapGet("", Search)
            .WithName("listRecordAuditEntries")
            .Needs(Permissions.Administer)
            .Produces<RecordAuditPage>()
            .WithSummary(
                "What was done to records, newest first: by whom, which action (create, change, delete, restore), of which "
                    + "entity and record, from and until when; after is the cursor of the page before, limit up to 500."
            );
        group
            .MapGet("/export", Export)
            .WithName("exportRecordAuditEntries")
            .Needs(Permissions.Administer)
            .Produces<string>(200, "text/csv")
            .WithSummary("All entries that match, newest first, as CSV (RFC 4180).")
            .DisableRequestTimeout();
    }

    private static async Task<IResult> Search(
        HttpContext http,
        IRecordStore records,
        string? by,
        string? action,
        string? entity,
        long? record,
        DateTimeOffset? from,
        DateTimeOffset? until,
        string? after,
        int? limit,
        CancellationToken cancel
    )
    {
        if (limit is < 1 or > AtOnce)
        {
            throw Problems.Invalid($"A page has from 1 to {AtOnce} entries.", Problems.Part("limit", $"is out of range"));
        }

        var size = limit ?? 100;
        var found = await records.Actions(
            Query(by, action, entity, record, from, until) with
            {
                After = Last(after),
                Limit = size + 1,
            },
            cancel
        );
        return TypedResults.Json(
            new RecordAuditPage(
                [
                    .. found
                        .Take(size)
                        .Select(each => new RecordAuditEntry(each.At, each.By, each.Action, each.Entity, each.Record, each.Version)),
                ],
                found.Count > size ? found[size - 1].Cursor : null
            ),
            WireJson.Default.RecordAuditPage
        );
    }

    private static IResult Export(
        HttpContext http,
        IRecordStore records,
        string? by,
        string? action,
        string? entity,
        long? record,
        DateTimeOffset? from,
        DateTimeOffset? until,
        CancellationToken cancel
    )
    {
        var query = Query(by, action, entity, record, from, until) with { Limit = AtOnce };
        return TypedResults.Stream(
            async target =>
            {
                await using var writer = new StreamWriter(target);
                await writer.WriteAsync(CsvText.Line(["at", "by", "action", "entity", "record", "version"]));
                IReadOnlyList<RecordAction> page;
                do
                {
                    page = await records.Actions(query, cancel);
                    foreach (var each in page)
                    {
                        await writer.WriteAsync(
                            CsvText.Line([
                                each.At.ToString("O", CultureInfo.InvariantCulture),
                                each.By,
                                each.Action,
                                each.Entity,
                                each.Record.ToString(CultureInfo.InvariantCulture),
                                each.Version.ToString(CultureInfo.InvariantCulture),
                            ])
                        );
                    }

                    query = query with { After = page is [.., var last] ? last : null };
                } while (page.Count == AtOnce);
            },
            "text/csv; charset=utf-8",
            "records-audit.csv"
        );
    }

    private static RecordAction? Last(string? after)
    {
        try
        {
            return after is null ? null : RecordAction.Read(after);
        }
        catch (CursorException)
        {
            throw Problems.Invalid($"The cursor is not one this list gave out.", Problems.Part("after", $"is no cursor"));
        }
    }

    private static RecordActionQuery Query(
        string? by,
        string? action,
        string? entity,
        long? record,
        DateTimeOffset? from,
        DateTimeOffset? until
    )
    {
        string[] actions = ["create", "change", "delete", "restore"];
        return action is null || actions.Contains(action)
            ? new RecordActionQuery(by, action, entity, record, from, until)
            : throw Problems.Invalid(
                $"There is no action '{action}' on records; there are: {string.Join(", ", actions)}.",
                Problems.Part("action", $"must be one of them")
            );
    }
}
