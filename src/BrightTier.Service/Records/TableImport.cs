using BrightTier.Contracts;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
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
    /// <summary>Records taken at once at most.</summary>
    public const int Most = 5_000;

    private const string Id = ColumnGuess.Id;

    private static readonly Dictionary<string, DayOrder> Orders = new(StringComparer.Ordinal)
    {
        ["ymd"] = DayOrder.YearMonthDay,
        ["dmy"] = DayOrder.DayMonthYear,
        ["mdy"] = DayOrder.MonthDayYear,
    };

    /// <summary>What the table seems to be.</summary>
    /// <exception cref="RefusedException">400, it is no table.</exception>
    public TableInfo Describe(Entity entity, string text, Caller caller, string language)
    {
        var lines = Lines(text);
        var headings = lines[0].Cells;
        var fields = Fields(entity, caller);
        var guesses = ColumnGuess.Of(headings, fields);
        var (point, days) = CsvFormat.Guess(
            guesses.SelectMany(
                (key, i) => lines.Skip(1).Select(line => (key is null ? null : entity.Find(key), line.Cells.ElementAtOrDefault(i) ?? ""))
            )
        );
        return new TableInfo(
            lines.Count - 1,
            CsvText.Separator(text).ToString(),
            point.ToString(),
            Orders.First(order => order.Value == days).Key,
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
        var lines = Lines(text);
        var columns = meaning.Columns is null
            ? Named(entity, lines[0].Cells, caller)
            : Said(entity, meaning.Columns, lines[0].Cells.Count, caller);
        var match = Match(entity, meaning.Match, columns);
        var reading = Format(meaning);
        var problems = new List<ImportProblem>();
        var rows = lines.Skip(1).Select(line => new Row(line.Line)).ToArray();
        foreach (var (row, cells) in rows.Zip(lines.Skip(1).Select(line => line.Cells)))
        {
            if (cells.Count > columns.Count)
            {
                row.Wrong = true;
                problems.Add(new ImportProblem(row.Line, null, $"The line has {cells.Count} cells; the first line has {columns.Count}."));
                continue;
            }

            foreach (var (column, cell) in columns.Zip(cells).Where(pair => pair.First is not null))
            {
                row.Cells[column!] = cell;
            }
        }

        foreach (var field in columns.OfType<string>().Select(entity.Find).OfType<Field>())
        {
            var meant = field.Type is FieldType.Reference ? await References(field, rows, caller, language, cancel) : null;
            foreach (var row in rows.Where(row => row.Cells.ContainsKey(field.Key)))
            {
                var cell = row.Cells[field.Key];
                if (meant?.TryGetValue(cell.Trim(), out var record) == true)
                {
                    Assign(row, field, record.Id, record.Problem);
                }
                else
                {
                    var message = reading.Read(field, releases.Snapshot.Definitions, cell, out var value);
                    Assign(row, field, value, message);
                }
            }
        }

        await Find();
        var writes = new List<(int, RecordWrite)>();
        foreach (var row in rows.Where(row => !row.Wrong))
        {
            // An empty cell empties a record's field; of a new record the field begins as it does anywhere.
            var values = row
                .Values.Where(pair => pair.Value is not null || row.Stored is not null)
                .ToDictionary(pair => pair.Key, pair => pair.Value);
            try
            {
                var decided = await saving.Decide(entity, values, null, row.Stored, caller, language, cancel);
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
                problems.AddRange(
                    (refused.Parts ?? [Problems.Part("", refused.Detail)]).Select(part => new ImportProblem(
                        row.Line,
                        part.Pointer,
                        part.Message
                    ))
                );
            }
        }

        return (writes, [.. problems.OrderBy(problem => problem.Line)]);

        void Assign(Row row, Field field, object? value, Message? problem)
        {
            row.Values[field.Key] = value;
            if (problem is not null)
            {
                Wrong(row, field, problem.English.EndsWith('?') ? problem : (Message)$"{problem}; it is '{row.Cells[field.Key]}'");
            }
        }

        void Wrong(Row row, Field field, Message message)
        {
            row.Wrong = true;
            problems.Add(new ImportProblem(row.Line, field.Key, Suggestion.Sentence($"{field.Label.In(language)} {message}").ToString()));
        }

        // Which records the lines change, and that no value of a unique field would be there twice.
        async Task Find()
        {
            var changed = new Dictionary<long, int>();
            if (columns.Contains(Id))
            {
                var numbers = rows.Select(row => long.TryParse(row.Cells.GetValueOrDefault(Id), out var number) ? number : 0)
                    .Where(number => number > 0)
                    .Distinct()
                    .ToArray();
                var stored = (await store.FindMany(entity, numbers, cancel)).ToDictionary(record => record.Id);
                foreach (var row in rows.Where(row => row.Cells.GetValueOrDefault(Id)?.Trim() is { Length: > 0 }))
                {
                    row.Stored = long.TryParse(row.Cells[Id], out var number) ? stored.GetValueOrDefault(number) : null;
                    if (row.Stored is null)
                    {
                        row.Wrong = true;
                        problems.Add(
                            new ImportProblem(
                                row.Line,
                                Id,
                                $"There is no {entity.Label.In(language).ToLowerInvariant()} '{row.Cells[Id]}'."
                            )
                        );
                    }
                }
            }

            foreach (
                var field in columns
                    .OfType<string>()
                    .Select(entity.Find)
                    .OfType<Field>()
                    .Where(field => field.Unique)
                    .OrderByDescending(field => field == match)
            )
            {
                var first = new Dictionary<object, int>();
                var holders = await Holders(
                    entity,
                    field,
                    [.. rows.Select(row => row.Values.GetValueOrDefault(field.Key)).OfType<object>().Distinct()],
                    caller,
                    language,
                    cancel
                );
                foreach (var row in rows.Where(row => row.Values.GetValueOrDefault(field.Key) is not null))
                {
                    var value = row.Values[field.Key]!;
                    if (!first.TryAdd(value, row.Line))
                    {
                        Wrong(row, field, $"'{FieldValues.ToCell(value)}' stands in line {first[value]} already");
                    }
                    else if (field == match)
                    {
                        row.Stored = holders.GetValueOrDefault(value);
                    }
                    else if (holders.GetValueOrDefault(value) is { } holder && holder.Id != row.Stored?.Id)
                    {
                        Wrong(
                            row,
                            field,
                            $"'{FieldValues.ToCell(value)}' is taken: another {entity.Label.In(language).ToLowerInvariant()} has it"
                        );
                    }
                }
            }

            foreach (var row in rows.Where(row => row.Stored is not null && !changed.TryAdd(row.Stored.Id, row.Line)))
            {
                row.Wrong = true;
                problems.Add(
                    new ImportProblem(
                        row.Line,
                        null,
                        $"Line {changed[row.Stored!.Id]} changes this {entity.Label.In(language).ToLowerInvariant()} already."
                    )
                );
            }
        }
    }

    /// <summary>A line of the table on its way to becoming a record.</summary>
    private sealed class Row(int line)
    {
        public int Line => line;

        public Dictionary<string, string> Cells { get; } = [];

        public Dictionary<string, object?> Values { get; } = [];

        public StoredRecord? Stored { get; set; }

        public bool Wrong { get; set; }
    }

    private static IReadOnlyList<(int Line, IReadOnlyList<string> Cells)> Lines(string text)
    {
        var (lines, problem) = CsvText.Read(text);
        if (problem is { } wrong)
        {
            throw Problems.Invalid($"Line {wrong.Line}: {wrong.Message}.", Problems.Part($"/{wrong.Line}", wrong.Message));
        }

        return lines.Count switch
        {
            < 2 => throw Problems.Invalid(
                $"There is nothing to import: the first line names fields, the others are records.",
                Problems.Part("", $"must have from 1 to {Most} records")
            ),
            > Most + 1 => throw Problems.Invalid(
                $"At most {Most} records are imported at once; these are {lines.Count - 1}.",
                Problems.Part("", $"must have from 1 to {Most} records")
            ),
            _ => lines,
        };
    }

    private static Field[] Fields(Entity entity, Caller caller) =>
        [.. entity.Current.Where(field => field.MayWrite(caller.Roles) && field.MayRead(caller.Roles))];

    /// <summary>The fields the first line names, by key or by label; all must be known.</summary>
    private static List<string?> Named(Entity entity, IReadOnlyList<string> names, Caller caller)
    {
        var fields = Fields(entity, caller);
        return Distinct([
            .. names.Select(
                (name, i) =>
                    name.Trim() is var bare && bare == Id
                        ? Id
                        : (
                            fields.FirstOrDefault(each => each.Key == bare)
                            ?? fields.FirstOrDefault(each => each.Label.ByLanguage.Values.Contains(bare, StringComparer.OrdinalIgnoreCase))
                        )?.Key
                            ?? throw Problems.Invalid(
                                Suggestion.Sentence(
                                    $"Line 1, cell {i + 1}: there is no field '{bare}' you may "
                                        + $"write{Suggestion.For(bare, [.. fields.Select(each => each.Key)])}"
                                ),
                                Problems.Part($"/1/{i + 1}", $"must name a field")
                            )
            ),
        ]);
    }

    private static List<string?> Said(Entity entity, string said, int count, Caller caller)
    {
        var fields = Fields(entity, caller);
        var columns = said.Split(',').Select(each => each.Trim()).ToArray();
        if (columns.Length != count)
        {
            throw Problems.Invalid(
                $"'columns' says what {columns.Length} columns are; the table has {count}.",
                Problems.Part("columns", $"must have {count} parts with commas between")
            );
        }

        return Distinct([
            .. columns.Select(key =>
                key.Length == 0 ? null
                : key == Id || fields.Any(field => field.Key == key) ? key
                : throw Problems.NotFound($"field you may write", key, fields.Select(field => field.Key))
            ),
        ]);
    }

    private static List<string?> Distinct(List<string?> columns)
    {
        var twice = columns.OfType<string>().GroupBy(key => key).FirstOrDefault(group => group.Count() > 1)?.Key;
        if (twice is not null)
        {
            var place = columns.LastIndexOf(twice) + 1;
            throw Problems.Invalid($"Line 1, cell {place}: '{twice}' is named twice.", Problems.Part($"/1/{place}", $"is named twice"));
        }

        return columns.Any(column => column is not null and not Id)
            ? columns
            : throw Problems.Invalid(
                $"No column goes to a field; there is nothing to import.",
                Problems.Part("columns", $"must name a field")
            );
    }

    private static Field? Match(Entity entity, string? asked, List<string?> columns)
    {
        if (string.IsNullOrEmpty(asked))
        {
            return null;
        }

        var possible = columns.OfType<string>().Where(key => entity.Find(key)?.Unique == true).ToArray();
        return columns.Contains(Id)
                ? throw Problems.Invalid(
                    $"Lines name their records by id; leave 'match' out.",
                    Problems.Part("match", $"must be left out beside an id")
                )
            : possible.Contains(asked) ? entity.Find(asked)
            : throw Problems.Invalid(
                Suggestion.Sentence($"'match' must be a unique field that has a column{Suggestion.For(asked, possible)}"),
                Problems.Part("match", $"must be a unique field that has a column")
            );
    }

    private CsvFormat Format(TableParameters meaning)
    {
        var point =
            meaning.DecimalSeparator is null ? '.'
            : meaning.DecimalSeparator is "." or "," ? meaning.DecimalSeparator[0]
            : throw Problems.Invalid($"'decimalSeparator' must be '.' or ','.", Problems.Part("decimalSeparator", $"must be . or ,"));
        var days =
            meaning.DateOrder is null ? DayOrder.YearMonthDay
            : Orders.TryGetValue(meaning.DateOrder, out var order) ? order
            : throw Problems.Invalid($"'dateOrder' must be ymd, dmy or mdy.", Problems.Part("dateOrder", $"must be ymd, dmy or mdy"));
        var zone = TimeZoneInfo.TryFindSystemTimeZoneById(releases.Snapshot.Definitions.Application.TimeZone, out var known)
            ? known
            : TimeZoneInfo.Utc;
        return new CsvFormat(point, days, zone);
    }

    /// <summary>The records that hold one of these values of a unique field.</summary>
    private async Task<Dictionary<object, StoredRecord>> Holders(
        Entity entity,
        Field field,
        IReadOnlyCollection<object> values,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<object, StoredRecord>();
        var definitions = releases.Snapshot.Definitions;
        var surroundings = await around.Around(
            entity,
            new Dictionary<string, object?>(),
            [],
            definitions,
            caller,
            Modes.View,
            language,
            cancel
        );
        var column = new Expression.Select(new Expression.Name("record", default), field.Key, default, default);

        // A database takes a long list apart into an expression too deep for it.
        foreach (var some in values.Where(value => value is string or long).Chunk(200))
        {
            var among = new Expression.Binary(
                "in",
                column,
                new Expression.ListOf([.. some.Select(value => new Expression.Literal(value, default))], default),
                default,
                default
            );
            foreach (
                var record in (
                    await store.List(
                        entity,
                        new RecordQuery { Filters = [new RecordFilter(among, surroundings, definitions)], Limit = some.Length },
                        cancel
                    )
                ).Records
            )
            {
                found[record.Values[field.Key]!] = record;
            }
        }

        return found;
    }

    /// <summary>
    /// The record each cell of a reference's column means: by its number, by a unique value of it, or by the whole text that names it.
    /// </summary>
    private async Task<Dictionary<string, (long? Id, Message? Problem)>> References(
        Field field,
        Row[] rows,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        var means = new Dictionary<string, (long? Id, Message? Problem)>(StringComparer.Ordinal);
        var target = releases.Entity(field.Target!);
        var label = target.Label.In(language).ToLowerInvariant();
        var cells = rows.Select(row => row.Cells.GetValueOrDefault(field.Key)?.Trim())
            .OfType<string>()
            .Where(cell => cell.Length > 0)
            .Distinct()
            .ToArray();
        var numbers = cells.Select(cell => long.TryParse(cell, out var id) ? id : 0).Where(id => id > 0).ToArray();
        var known = (await store.FindMany(target, numbers, cancel)).Select(record => record.Id).ToHashSet();
        var shown = target.DisplayFields.Where(each => each.MayRead(caller.Roles)).ToArray();
        var texts = cells.Where(cell => !long.TryParse(cell, out _)).ToArray();
        var unique = new List<Dictionary<object, StoredRecord>>();
        foreach (var own in target.Current.Where(each => each.Unique && each.Type.IsShortText() && each.MayRead(caller.Roles)))
        {
            unique.Add(await Holders(target, own, texts, caller, language, cancel));
        }

        foreach (var cell in cells)
        {
            if (long.TryParse(cell, out var id))
            {
                means[cell] = known.Contains(id) ? (id, null) : (null, $"points at a {label} that is not there");
            }
            else if (unique.Select(holders => holders.GetValueOrDefault(cell)).FirstOrDefault(holder => holder is not null) is { } one)
            {
                means[cell] = (one.Id, null);
            }
            else
            {
                var query = new RecordQuery
                {
                    Search = cell.Replace(',', ' '),
                    SearchIn = [.. shown.Where(each => each.Type.IsShortText())],
                    Limit = 50,
                };
                var records = (await store.List(target, query, cancel)).Records;
                var names = await RecordNames.Of(
                    [.. shown.Where(each => each.Type is FieldType.Reference)],
                    records,
                    caller,
                    releases,
                    store,
                    cancel
                );
                var called = records
                    .Where(record =>
                        string.Equals(RecordNames.Title(target, record, caller, names), cell, StringComparison.OrdinalIgnoreCase)
                        || shown.Any(each =>
                            string.Equals(record.Values.GetValueOrDefault(each.Key) as string, cell, StringComparison.OrdinalIgnoreCase)
                        )
                    )
                    .ToArray();
                means[cell] = called switch
                {
                    [var only] => (only.Id, null),
                    [] => (null, $"must be the number or the name of a {label}"),
                    _ => (
                        null,
                        $"is what {called.Length} of {target.Plural.In(language).ToLowerInvariant()} are called; give the "
                            + $"number of the one that is meant"
                    ),
                };
            }
        }

        return means;
    }
}
