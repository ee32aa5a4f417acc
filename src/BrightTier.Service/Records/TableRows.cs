using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Records;

namespace BrightTier.Service.Records;

/// <summary>The lines of a table on their way to becoming records, and what is wrong with them.</summary>
/// <param name="columns">What each column is: a field, <c>id</c>, or nothing.</param>
internal sealed class TableRows(Entity entity, IReadOnlyList<string?> columns, string language)
{
    private readonly List<Row> rows = [];
    private readonly List<ImportProblem> problems = [];

    internal sealed class Row(int line)
    {
        public int Line => line;

        public Dictionary<string, string> Cells { get; } = [];

        public Dictionary<string, object?> Values { get; } = [];

        public StoredRecord? Stored { get; set; }

        public bool Wrong { get; set; }

        /// <summary>An empty cell empties a record's field; of a new record the field begins as it does anywhere.</summary>
        public Dictionary<string, object?> Given =>
            Values.Where(pair => pair.Value is not null || Stored is not null).ToDictionary(pair => pair.Key, pair => pair.Value);
    }

    /// <summary>What is wrong, in the order of the lines.</summary>
    public IReadOnlyList<ImportProblem> Problems => [.. problems.OrderBy(problem => problem.Line)];

    /// <summary>The lines nothing is wrong with so far.</summary>
    public IEnumerable<Row> Right => rows.Where(row => !row.Wrong);

    private IEnumerable<Field> Fields => columns.OfType<string>().Select(entity.Find).OfType<Field>();

    public void Place(IEnumerable<(int Line, IReadOnlyList<string> Cells)> lines)
    {
        foreach (var (line, cells) in lines)
        {
            var row = new Row(line);
            rows.Add(row);
            if (cells.Count > columns.Count)
            {
                Refuse(row, column: null, $"The line has {cells.Count} cells; the first line has {columns.Count}.");
                continue;
            }

            foreach (var (column, cell) in columns.Zip(cells).Where(pair => pair.First is not null))
            {
                row.Cells[column!] = cell;
            }
        }
    }

    /// <summary>Reads the cells.</summary>
    /// <param name="references">The records the cells of a reference's column mean.</param>
    public async Task Read(
        CsvFormat format,
        Definitions definitions,
        Func<Field, string[], Task<Dictionary<string, (long? Id, Message? Problem)>>> references
    )
    {
        foreach (var field in Fields)
        {
            var meant = field.Type is FieldType.Reference ? await references(field, Texts(field)) : null;
            foreach (var row in rows.Where(row => row.Cells.ContainsKey(field.Key)))
            {
                var cell = row.Cells[field.Key];
                if (meant?.TryGetValue(cell.Trim(), out var record) == true)
                {
                    Assign(row, field, record.Id, record.Problem);
                }
                else
                {
                    var message = format.Read(field, definitions, cell, out var value);
                    Assign(row, field, value, message);
                }
            }
        }
    }

    private string[] Texts(Field field) =>
        [.. rows.Select(row => row.Cells.GetValueOrDefault(field.Key)?.Trim()).OfType<string>().Where(cell => cell.Length > 0).Distinct()];

    /// <summary>Which records the lines change that name them by number.</summary>
    public async Task FindById(Func<IReadOnlyList<long>, Task<IReadOnlyList<StoredRecord>>> find)
    {
        if (!columns.Contains(ColumnGuess.Id))
        {
            return;
        }

        var numbers = rows.Select(row => long.TryParse(row.Cells.GetValueOrDefault(ColumnGuess.Id), out var number) ? number : 0)
            .Where(number => number > 0)
            .Distinct()
            .ToArray();
        var stored = (await find(numbers)).ToDictionary(record => record.Id);
        foreach (var row in rows.Where(row => row.Cells.GetValueOrDefault(ColumnGuess.Id)?.Trim() is { Length: > 0 }))
        {
            var text = row.Cells[ColumnGuess.Id];
            row.Stored = long.TryParse(text, out var number) ? stored.GetValueOrDefault(number) : null;
            if (row.Stored is null)
            {
                Refuse(row, ColumnGuess.Id, $"There is no {Label} '{text}'.");
            }
        }
    }

    /// <summary>Which records the lines change that name them by a unique field; no value of one may be there twice.</summary>
    public async Task FindByUnique(Field? match, Func<Field, IReadOnlyCollection<object>, Task<Dictionary<object, StoredRecord>>> holding)
    {
        foreach (var field in Fields.Where(field => field.Unique).OrderByDescending(field => field == match))
        {
            var given = rows.Where(row => row.Values.GetValueOrDefault(field.Key) is not null).ToArray();
            var holders = await holding(field, [.. given.Select(row => row.Values[field.Key]!).Distinct()]);
            var first = new Dictionary<object, int>();
            foreach (var row in given)
            {
                var value = row.Values[field.Key]!;
                if (!first.TryAdd(value, row.Line))
                {
                    RefuseField(row, field, $"'{FieldValues.ToCell(value)}' stands in line {first[value]} already");
                }
                else if (field == match)
                {
                    row.Stored = holders.GetValueOrDefault(value);
                }
                else if (holders.GetValueOrDefault(value) is { } holder && holder.Id != row.Stored?.Id)
                {
                    RefuseField(row, field, $"'{FieldValues.ToCell(value)}' is taken: another {Label} has it");
                }
            }
        }
    }

    /// <summary>No two lines change one record.</summary>
    public void RequireOnce()
    {
        var changed = new Dictionary<long, int>();
        foreach (var row in rows.Where(row => row.Stored is not null && !changed.TryAdd(row.Stored.Id, row.Line)))
        {
            Refuse(row, column: null, $"Line {changed[row.Stored!.Id]} changes this {Label} already.");
        }
    }

    private string Label => entity.Label.In(language).ToLowerInvariant();

    private void Assign(Row row, Field field, object? value, Message? problem)
    {
        row.Values[field.Key] = value;
        if (problem is not null)
        {
            RefuseField(row, field, problem.English.EndsWith('?') ? problem : (Message)$"{problem}; it is '{row.Cells[field.Key]}'");
        }
    }

    private void RefuseField(Row row, Field field, Message message) =>
        Refuse(row, field.Key, Suggestion.Sentence($"{field.Label.In(language)} {message}"));

    /// <summary>Says what is wrong with a line, and where in it.</summary>
    public void Refuse(Row row, string? column, Message message)
    {
        row.Wrong = true;
        problems.Add(new ImportProblem(row.Line, column, message.ToString()));
    }
}
