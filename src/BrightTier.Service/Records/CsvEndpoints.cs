using System.Text;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>
/// Records out and in as comma-separated values (RFC 4180): the first line names the fields, an id names the record a line changes.
/// </summary>
public static class CsvEndpoints
{
    public static void MapCsv(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/records/{entity}/csv").WithTags("records");
        group
            .MapGet("", Export)
            .WithName("exportRecords")
            .Needs(Permissions.ReadRecords)
            .Produces<string>(200, "text/csv")
            .WithSummary("The records of a list as CSV: q, sort, filter and listed as for the list.");
        group
            .MapPost("", Import)
            .WithName("importRecords")
            .Needs(Permissions.WriteRecords)
            .TakesAtMost(BodySizes.Largest)
            .Accepts<string>("text/csv")
            .Produces<TableImportReport>()
            .WithSummary("Imports records from CSV, all of them or none; with dryRun=true it only says what would happen.")
            .WithDescription(
                "columns says what each column is, with commas between: a field, id for the record's number, or nothing to "
                    + "leave it out; without it the first line says so. A line whose id, or whose value of the unique field "
                    + "match, is that of a record changes it; any other creates one. decimalSeparator is . or , and "
                    + "dateOrder is ymd, dmy or mdy; without them values are read as the export writes them."
            );
        group
            .MapPost("/columns", Describe)
            .WithName("describeTable")
            .Needs(Permissions.WriteRecords)
            .TakesAtMost(BodySizes.Largest)
            .Accepts<string>("text/csv")
            .Produces<TableInfo>()
            .WithSummary("What the columns of a table seem to be, and what they may be; nothing is imported.");
    }

    private static async Task Export(
        HttpContext http,
        string entity,
        RecordLists lists,
        CurrentRelease releases,
        string? q,
        string? sort,
        string? filter,
        bool? listed,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        var fields = definition.Current.Where(field => field.MayRead(caller.Roles)).ToArray();
        string? after = null;
        var first = true;
        do
        {
            // A page at a time, so that a list of any length costs no more memory than a page.
            var query = await lists.Query(
                definition,
                new ListRequest(q, sort, filter, listed ?? false, after, 200),
                caller,
                language,
                cancel
            );
            var page = await lists.Rows(definition, query, cancel);
            if (first)
            {
                http.Response.ContentType = "text/csv; charset=utf-8; header=present";
                http.Response.Headers.ContentDisposition = $"attachment; filename=\"{definition.Key}.csv\"";
                http.Response.Headers.CacheControl = "no-store";
                await http.Response.WriteAsync(CsvText.Line([ColumnGuess.Id, .. fields.Select(field => field.Key)]), cancel);
                first = false;
            }

            var lines = new StringBuilder();
            foreach (var record in page.Records)
            {
                lines.Append(
                    CsvText.Line([
                        FieldValues.ToCell(record.Id),
                        .. fields.Select(field => FieldValues.ToCell(record.Values.GetValueOrDefault(field.Key))),
                    ])
                );
            }

            await http.Response.WriteAsync(lines.ToString(), cancel);
            after = page.Next;
        } while (after is not null);
    }

    private static async Task<IResult> Describe(
        HttpContext http,
        string entity,
        TableImport import,
        CurrentRelease releases,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        return TypedResults.Json(import.Describe(definition, await Text(http, cancel), caller, language), WireJson.Default.TableInfo);
    }

    private static async Task<IResult> Import(
        HttpContext http,
        string entity,
        TableImport import,
        CurrentRelease releases,
        IRecordStore store,
        TimeProvider time,
        string? columns,
        string? match,
        string? decimalSeparator,
        string? dateOrder,
        bool? dryRun,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var definition = releases.Entity(entity);
        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        var (writes, problems) = await import.Decide(
            definition,
            await Text(http, cancel),
            new TableParameters(columns, match, decimalSeparator, dateOrder),
            caller,
            language,
            cancel
        );
        if (problems.Count == 0 && dryRun is not true)
        {
            var outcomes = await store.Write([.. writes.Select(each => each.Write)], new Stamp(caller.Person.Id, time.GetUtcNow()), cancel);
            if (RecordRefusals.Refusal(outcomes[^1], definition, 0, caller) is { } refused)
            {
                problems =
                [
                    new ImportProblem(
                        writes[outcomes.Count - 1].Line,
                        refused.Parts is [var part, ..] ? part.Pointer : null,
                        refused.Message
                    ),
                ];
            }
        }

        var made = writes.Count(each => each.Write is RecordWrite.Create);
        return problems.Count > 0 && dryRun is not true
            ? throw new RefusedException(
                422,
                "import-refused",
                problems.Count == 1
                    ? (Message)$"{problems.Count} value needs attention. Nothing was imported."
                    : $"{problems.Count} values need attention. Nothing was imported.",
                [.. problems.Select(each => new ProblemPart($"/{each.Line}/{each.Field}", each.Message))]
            )
            : TypedResults.Json(
                new TableImportReport(made, writes.Count - made, dryRun is not true, problems),
                WireJson.Default.TableImportReport
            );
    }

    private static async Task<string> Text(HttpContext http, CancellationToken cancel)
    {
        using var reader = new StreamReader(http.Request.Body, new UTF8Encoding(false, true));
        try
        {
            return await reader.ReadToEndAsync(cancel);
        }
        catch (DecoderFallbackException)
        {
            throw Problems.Invalid($"The text is not UTF-8; save the table as CSV in UTF-8.", Problems.Part("", $"must be UTF-8"));
        }
    }
}
