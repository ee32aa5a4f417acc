using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Resolution;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>What somebody says a table's columns are; null leaves it to the first line and to the forms an export has.</summary>
/// <param name="Columns">A field, id or nothing for each column, with commas between.</param>
/// <param name="Match">The unique field by which lines name the records they change.</param>
/// <param name="DecimalSeparator">. or ,</param>
/// <param name="DateOrder">ymd, dmy or mdy.</param>
public sealed record TableParameters(string? Columns, string? Match, string? DecimalSeparator, string? DateOrder);

/// <summary>Makes records, and changes to records, of the lines of a table; or says of every line what is wrong with it.</summary>
public sealed class TableImport(RecordWriter saving, CurrentRelease releases, IRecordStore store, RecordContext around)
{
    private readonly TableRecords records = new(releases, store, around);

    /// <summary>Records taken at once at most.</summary>
    public const int Most = 5_000;

    private const string Id = ColumnGuess.Id;

    /// <summary>The record each cell of a reference's column means, or why it means none.</summary>
    public Task<Dictionary<string, (long? Id, Message? Problem)>> References(
        Field field,
        string[] cells,
        Caller caller,
        string language,
        CancellationToken cancel
    ) => records.References(field, cells, caller, language, cancel);

    /// <summary>What the table seems to be.</summary>
    /// <exception cref="RefusedException">400, it is no table.</exception>
    public TableInfo Describe(Entity entity, string text, Caller caller, string language)
    {
        var lines = TableColumns.Lines(text);
        var headings = lines[0].Cells;
        var fields = TableColumns.Fields(entity, caller);
        var guesses = ColumnGuess.Of(headings, fields);
        var (point, days) = CsvFormat.Guess(
            guesses.SelectMany(
                (key, i) => lines.Skip(1).Select(line => (key is null ? null : entity.Find(key), line.Cells.ElementAtOrDefault(i) ?? ""))
            ),
            CsvFormat.WritesMonthFirst(caller.Person.Language, caller.Person.Region)
        );
        return new TableInfo(
            lines.Count - 1,
            CsvText.Separator(text).ToString(),
            point.ToString(),
            TableColumns.Orders.First(order => order.Value == days).Key,
            [
                .. headings.Select(
                    (heading, i) =>
                        new TableColumn(
                            heading,
                            [
                                .. lines
                                    .Skip(1)
                                    .Select(line => line.Cells.ElementAtOrDefault(i))
                                    .OfType<string>()
                                    .Where(cell => cell.Length > 0)
                                    .Distinct()
                                    .Take(3),
                            ],
                            guesses[i]
                        )
                ),
            ],
            [
                .. fields.Select(field => new TableTarget(
                    field.Key,
                    field.Label.In(language),
                    field.Type.Name(),
                    field.Required,
                    field.Unique
                )),
            ]
        );
    }

    /// <summary>What is to be written, line by line, or what stands against it.</summary>
    /// <exception cref="RefusedException">400 or 404, it is no table or it is not said rightly what it means.</exception>
    public async Task<(IReadOnlyList<(int Line, RecordWrite Write)> Writes, IReadOnlyList<ImportProblem> Problems)> Decide(
        Entity entity,
        string text,
        TableParameters meaning,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        var lines = TableColumns.Lines(text);
        var columns = meaning.Columns is null
            ? TableColumns.Named(entity, lines[0].Cells, caller)
            : TableColumns.Said(entity, meaning.Columns, lines[0].Cells.Count, caller);
        var match = TableColumns.Match(entity, meaning.Match, columns);
        var definitions = releases.Snapshot.Definitions;
        var rows = new TableRows(entity, columns, language);
        rows.Place(lines.Skip(1));
        await rows.Read(TableColumns.Format(meaning, definitions.Application), definitions, (field, cells) =>
            records.References(field, cells, caller, language, cancel)
        );
        await rows.FindById(numbers => store.FindMany(entity, numbers, cancel));
        await rows.FindByUnique(match, (field, values) => records.Holders(entity, field, values, caller, language, cancel));
        rows.RequireOnce();
        return (await Writes(rows, entity, caller, language, cancel), rows.Problems);
    }

    private async Task<IReadOnlyList<(int Line, RecordWrite Write)>> Writes(
        TableRows rows,
        Entity entity,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        var writes = new List<(int, RecordWrite)>();
        foreach (var row in rows.Right)
        {
            try
            {
                var decided = await saving.Decide(entity, row.Given, null, row.Stored, caller, language, cancel);
                writes.Add(
                    (
                        row.Line,
                        row.Stored is { } stored
                            ? new RecordWrite.Change(entity, stored.Id, stored.Version, decided)
                            : new RecordWrite.Create(entity, decided)
                    )
                );
            }
            catch (RefusedException refused)
            {
                foreach (var part in refused.Parts ?? [Problems.Part("", refused.Detail)])
                {
                    rows.Refuse(row, part.Pointer, Message.Verbatim(part.Message));
                }
            }
        }

        return writes;
    }
}
