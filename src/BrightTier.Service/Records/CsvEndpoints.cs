using System.Text;
using BrightTier.Contracts;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;
using BrightTier.Records;
using BrightTier.Service.Access;
using BrightTier.Service.Forms;
using BrightTier.Service.Hosting;
using BrightTier.Service.Releases;

namespace BrightTier.Service.Records;

/// <summary>Records out and in as comma-separated values (RFC 4180): the first line names the fields, an id names the record a line changes.</summary>
public static class CsvEndpoints
{
    private const int Most = 5_000;

    private const string Id = "id";

    public static void MapCsv(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/records/{entity}/csv").WithTags("records");
        group.MapGet("", Export).Produces<string>(200, "text/csv").WithSummary("The records of a list as CSV: q, sort, filter and listed as for the list.");
        group.MapPost("", Import).Accepts<string>("text/csv").Produces<ImportReport>().WithSummary("Takes records from CSV, all of them or none; dry says only what would happen. Without an id a line makes a record, with one it changes it.");
    }

    private static async Task Export(HttpContext http, string entity, RecordLists lists, CurrentRelease releases, string? q, string? sort, string? filter, bool? listed, CancellationToken cancel)
    {
        var caller = http.Caller(Acts.ReadRecords);
        var definition = releases.Entity(entity);
        var language = FormServing.LanguageOf(http, caller, releases.Snapshot.Definitions.Application);
        var fields = definition.Current.Where(field => field.MayRead(caller.Roles)).ToArray();
        string? after = null;
        var first = true;
        do
        {
            // A page at a time, so that a list of any length costs no more memory than a page.
            var query = await lists.Query(definition, new ListRequest(q, sort, filter, listed ?? false, after, 200), caller, language, cancel);
            var page = await lists.Rows(definition, query, cancel);
            if (first)
            {
                http.Response.ContentType = "text/csv; charset=utf-8; header=present";
                http.Response.Headers.ContentDisposition = $"attachment; filename=\"{definition.Key}.csv\"";
                http.Response.Headers.CacheControl = "no-store";
                await http.Response.WriteAsync(CsvText.Line([Id, .. fields.Select(field => field.Key)]), cancel);
                first = false;
            }

            var lines = new StringBuilder();
            foreach (var record in page.Records)
            {
                lines.Append(CsvText.Line([FieldValues.ToCell(record.Id), .. fields.Select(field => FieldValues.ToCell(record.Values.GetValueOrDefault(field.Key)))]));
            }

            await http.Response.WriteAsync(lines.ToString(), cancel);
            after = page.Next;
        }
        while (after is not null);
    }

    private static async Task<IResult> Import(HttpContext http, string entity, RecordSaving saving, CurrentRelease releases, IRecordStore store, TimeProvider time, bool? dry, CancellationToken cancel)
    {
        var caller = http.Caller(Acts.WriteRecords);
        var definition = releases.Entity(entity);
        var language = FormServing.LanguageOf(http, caller, releases.Snapshot.Definitions.Application);
        using var reader = new StreamReader(http.Request.Body, new UTF8Encoding(false, true));
        var (lines, problem) = CsvText.Read(await Text(reader, cancel));
        if (problem is { } wrong)
        {
            throw Problems.Invalid($"Line {wrong.Line}: {wrong.Message}.", new ProblemPart($"/{wrong.Line}", wrong.Message));
        }

        if (lines.Count is < 2 or > Most + 1)
        {
            throw Problems.Invalid(lines.Count < 2 ? "There is nothing to take: the first line names fields, the others are records." : $"At most {Most} records are taken at once; these are {lines.Count - 1}.", new ProblemPart("", $"must have from 1 to {Most} records"));
        }

        var columns = Columns(definition, lines[0].Cells, caller);
        var problems = new List<ImportProblem>();
        var writes = new List<(int Line, RecordWrite Write)>();
        foreach (var (line, cells) in lines.Skip(1))
        {
            if (await Line(line, cells) is { } write)
            {
                writes.Add((line, write));
            }
        }

        var made = writes.Count(each => each.Write is RecordWrite.Create);
        if (problems.Count == 0 && dry != true)
        {
            var outcomes = await store.Write([.. writes.Select(each => each.Write)], new Stamp(caller.Person.Id, time.GetUtcNow()), cancel);
            if (RecordEndpoints.Refusal(outcomes[^1], definition, 0, caller) is { } refused)
            {
                problems.Add(new ImportProblem(writes[outcomes.Count - 1].Line, refused.Parts is [var part, ..] ? part.Pointer : null, refused.Message));
            }
        }

        return problems.Count > 0 && dry != true
            ? throw new RefusedException(422, "import-refused", $"{problems.Count} {(problems.Count == 1 ? "value needs" : "values need")} attention. Nothing was taken.", [.. problems.Select(each => new ProblemPart($"/{each.Line}/{each.Field}", each.Message))])
            : TypedResults.Json(new ImportReport(made, writes.Count - made, dry != true, problems), WireJson.Default.ImportReport);

        async Task<RecordWrite?> Line(int line, IReadOnlyList<string> cells)
        {
            if (cells.Count > columns.Count)
            {
                problems.Add(new ImportProblem(line, null, $"The line has {cells.Count} cells; the first line names {columns.Count}."));
                return null;
            }

            var values = new Dictionary<string, object?>();
            StoredRecord? stored = null;
            var right = true;
            if (columns.IndexOf(null) is var place and >= 0 && cells.ElementAtOrDefault(place) is { Length: > 0 } number)
            {
                stored = long.TryParse(number, out var id) ? await store.Find(definition, id, cancel) : null;
                if (stored is null)
                {
                    problems.Add(new ImportProblem(line, Id, $"There is no {definition.Label.In(language).ToLowerInvariant()} '{number}'."));
                    right = false;
                }
            }

            foreach (var (field, cell) in columns.Zip(cells))
            {
                if (field is null)
                {
                    continue;
                }

                if (FieldValues.ReadCell(field, cell, out var value) is { } message)
                {
                    problems.Add(new ImportProblem(line, field.Key, $"{field.Label.In(language)} {message}; it is '{cell}'."));
                    right = false;
                }
                else if (value is not null || stored is not null)
                {
                    // An empty cell empties a record's field; of a new record the field begins as it does anywhere.
                    values[field.Key] = value;
                }
            }

            if (!right)
            {
                return null;
            }

            try
            {
                var decided = await saving.Decide(definition, values, null, stored, caller, language, cancel);
                return stored is null ? new RecordWrite.Create(definition, decided) : new RecordWrite.Change(definition, stored.Id, stored.Version, decided);
            }
            catch (RefusedException refused)
            {
                problems.AddRange((refused.Parts ?? [new ProblemPart("", refused.Message)]).Select(part => new ImportProblem(line, part.Pointer, part.Message)));
                return null;
            }
        }
    }

    private static async Task<string> Text(StreamReader reader, CancellationToken cancel)
    {
        try
        {
            return await reader.ReadToEndAsync(cancel);
        }
        catch (DecoderFallbackException)
        {
            throw Problems.Invalid("The text is not UTF-8; save the table as CSV in UTF-8.", new ProblemPart("", "must be UTF-8"));
        }
    }

    /// <summary>The fields the first line names, by key or by label; null for the record's number.</summary>
    private static List<Field?> Columns(Entity entity, IReadOnlyList<string> names, Caller caller)
    {
        var fields = entity.Current.Where(field => field.MayWrite(caller.Roles) && field.MayRead(caller.Roles)).ToArray();
        var columns = new List<Field?>();
        foreach (var (name, i) in names.Select((name, i) => (name.Trim(), i)))
        {
            var field = fields.FirstOrDefault(each => each.Key == name) ?? fields.FirstOrDefault(each => each.Label.ByLanguage.Values.Contains(name, StringComparer.OrdinalIgnoreCase));
            if (field is null && name != Id)
            {
                throw Problems.Invalid($"Line 1, cell {i + 1}: there is no field '{name}' you may write{Suggestion.For(name, [.. fields.Select(each => each.Key)])}.", new ProblemPart($"/1/{i + 1}", "must name a field"));
            }

            if (columns.Contains(field))
            {
                throw Problems.Invalid($"Line 1, cell {i + 1}: '{name}' is named twice.", new ProblemPart($"/1/{i + 1}", "is named twice"));
            }

            columns.Add(field);
        }

        return columns;
    }
}
