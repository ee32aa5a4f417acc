using System.Collections.Immutable;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Attachment;

/// <summary>A column that becomes no field, and why.</summary>
public sealed record LeftColumn(string Column, Message Reason);

/// <summary>An entity made of a table, with the choice lists it needs.</summary>
/// <param name="Table">The table, as the catalogue has it.</param>
public sealed record AttachedSketch(Entity Entity, IReadOnlyList<ChoiceList> Choices, IReadOnlyList<LeftColumn> Left, DatabaseTable Table);

/// <summary>
/// Entities over the tables of an existing database: labels from names, types and rules from the catalogue. Nothing is asked for that the
/// database does not ask for; what it fills itself is not asked for at all.
/// </summary>
public static class AttachedEntities
{
    /// <param name="database">The connection's name.</param>
    /// <param name="tables">All tables of it.</param>
    /// <param name="chosen">Those that become entities, by their paths.</param>
    /// <param name="definitions">What is there already; tables attached before are known by it.</param>
    public static IReadOnlyList<AttachedSketch> Of(
        string database,
        IReadOnlyList<DatabaseTable> tables,
        IReadOnlyCollection<string> chosen,
        Definitions definitions
    )
    {
        var keys = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var entity in definitions.Entities.Values.Where(entity => entity.Attached?.Database == database))
        {
            keys[PathOf(entity.Attached!)] = entity.Key;
        }

        var wanted = tables.Where(table => chosen.Contains(table.Path)).ToArray();
        var prefix = Prefix(wanted);
        foreach (var table in wanted)
        {
            var stem = Keys.Of(EntitySketch.Names(table.Name[prefix..]).One, "entity");
            keys[table.Path] = Keys.Fresh(stem, key => definitions.IsTaken(key) || keys.ContainsValue(key));
        }

        var taken = new TakenNames(
            definitions.ChoiceLists.Keys.ToHashSet(StringComparer.Ordinal),
            definitions
                .Entities.Values.Where(entity => entity.Attached?.Database != database)
                .Select(entity => entity.Label.ToString())
                .ToHashSet(StringComparer.OrdinalIgnoreCase)
        );
        return [.. wanted.Select(table => new TableSketch(database, table, tables, prefix, keys, taken).Make())];
    }

    public static string PathOf(AttachedTable table) => table.Schema is null ? table.Name : $"{table.Schema}.{table.Name}";

    /// <summary>Why no row of a table can be written; null where rows can.</summary>
    public static WriteBar? BarOf(DatabaseTable table) =>
        table.IsView ? WriteBar.View
        : table.Key.IsEmpty ? WriteBar.NoKey
        : table.MayWrite ? null
        : WriteBar.Rights;

    /// <summary>The length of what all names begin with, up to a stroke: it tells whose tables they are, not what is in them.</summary>
    private static int Prefix(IReadOnlyList<DatabaseTable> tables)
    {
        if (tables.Count < 3)
        {
            return 0;
        }

        var first = tables[0].Name;
        var end = first.IndexOf('_', StringComparison.Ordinal) + 1;
        return end > 1 && tables.All(table => table.Name.Length > end && table.Name.StartsWith(first[..end], StringComparison.Ordinal))
            ? end
            : 0;
    }

    /// <summary>What is there already: keys of choice lists, and what entities elsewhere are called.</summary>
    private sealed record TakenNames(HashSet<string> Lists, HashSet<string> Labels);

    /// <summary>One table on its way to an entity.</summary>
    /// <param name="keys">The entities' keys by the paths of their tables.</param>
    private sealed class TableSketch(
        string database,
        DatabaseTable table,
        IReadOnlyList<DatabaseTable> tables,
        int prefix,
        Dictionary<string, string> keys,
        TakenNames taken
    )
    {
        private readonly List<Field> fields = [];
        private readonly List<ChoiceList> choices = [];
        private readonly List<LeftColumn> left = [];
        private readonly HashSet<string> labels = new(StringComparer.OrdinalIgnoreCase);

        public AttachedSketch Make()
        {
            var (one, many) = EntitySketch.Names(table.Name[prefix..]);
            // Two of one name in the menu cannot be told apart.
            var of = taken.Labels.Contains(one) ? $" ({database})" : "";
            var bar = BarOf(table);
            // Without a key a row is told apart by all that is in it.
            var key = table.Key.IsEmpty ? table.Columns.Where(column => column.Kind is not ColumnKind.Bytes) : table.Key.Select(Column);
            // One a set of columns: a second over the same says nothing new.
            var references = table.References.Where(PointsAtKey).DistinctBy(each => string.Join('\n', each.Columns)).ToArray();
            foreach (var column in table.Columns)
            {
                // Several may share a column, as all do that name whose rows these are.
                fields.AddRange(references.Where(each => each.Columns[^1] == column.Name).Select(each => Reference(each, bar)));

                if (references.All(each => !each.Columns.Contains(column.Name)))
                {
                    Add(column, bar);
                }
            }

            if (fields.Count == 0 && key.FirstOrDefault() is { } only)
            {
                // Of a table of nothing but numbers, these are what there is to see.
                left.RemoveAll(each => each.Column == only.Name);
                fields.Add(Field(only, bar));
            }

            var entity = new Entity
            {
                Key = keys[table.Path],
                Label = Texts.Of(one + of),
                Plural = Texts.Of(EntitySketch.Many(one, many) + of),
                Display = Display(),
                Fields = [.. fields],
                Attached = new AttachedTable(
                    database,
                    table.Schema,
                    table.Name,
                    [.. key.Select(column => new TypedColumn(column.Name, column.Type))],
                    bar
                ),
            };
            return new AttachedSketch(entity, choices, left, table);
        }

        private DatabaseColumn Column(string name) => table.Find(name)!;

        /// <summary>What tells records apart: as of any table a name or a code; of what only joins others, what it joins.</summary>
        private string Display()
        {
            var telling = fields
                .Where(field => field.Type.IsShortText() && field.Attached!.ReadOnly is not (WriteBar.Type or WriteBar.Generated))
                .ToArray();
            var joined = fields.Where(field => field is { Type: FieldType.Reference, Attached.ReadOnly: WriteBar.Key }).ToArray();
            return telling.Length == 0 && joined.Length > 0
                ? string.Join(", ", joined.Select(field => $"{{{field.Key}}}"))
                : EntitySketch.Display(telling.Length > 0 ? telling : [.. fields.Where(field => field.Type is not FieldType.LongText)]);
        }

        /// <summary>Whether a foreign key leads to a record: to the key of a table that is an entity.</summary>
        private bool PointsAtKey(DatabaseReference reference) =>
            tables.FirstOrDefault(each => each.Schema == reference.Schema && each.Name == reference.Table) is { } target
            && keys.ContainsKey(target.Path)
            && target.Key.Length == reference.To.Length
            && target.Key.All(reference.To.Contains);

        private Field Reference(DatabaseReference reference, WriteBar? bar)
        {
            var target = tables.First(each => each.Schema == reference.Schema && each.Name == reference.Table);
            // In the order of the target's key.
            var columns = target.Key.Select(key => Column(reference.Columns[reference.To.IndexOf(key)])).ToArray();
            var called = EntitySketch.Names(target.Name[Math.Min(prefix, target.Name.Length)..]).One;
            var name = columns is [var only] ? EntitySketch.Label(Bare(only.Name)) : called;
            // "part_code" leads to the part.
            var label = Unused(name.StartsWith(called + " ", StringComparison.OrdinalIgnoreCase) ? called : name);
            return new Field
            {
                Key = KeyFor(label),
                Label = Texts.Of(label),
                Help = columns is [{ Comment: { } comment }] ? Texts.Of(comment) : null,
                Type = FieldType.Reference,
                Target = keys[target.Path],
                Required = bar is null && columns.All(column => column is { NotNull: true, HasDefault: false, IsFilled: false }),
                Unique = IsUnique(columns.Select(column => column.Name)),
                Attached = new AttachedColumn(
                    // With the types of what they are held against, by which both have the same numbers.
                    [.. columns.Zip(target.Key, (column, to) => new TypedColumn(column.Name, target.Find(to)!.Type))],
                    bar
                        ?? (
                            columns.Any(column => column.IsFilled) ? WriteBar.Generated
                            : columns.Any(column => table.Key.Contains(column.Name)) ? WriteBar.Key
                            : null
                        ),
                    columns.Any(column => column.NotNull && column.HasDefault),
                    AttachedColumn.NoWords
                ),
            };
        }

        private void Add(DatabaseColumn column, WriteBar? bar)
        {
            if (column.Kind is ColumnKind.Bytes)
            {
                left.Add(
                    new LeftColumn(
                        column.Name,
                        column is { NotNull: true, HasDefault: false, IsFilled: false } && bar is null
                            ? (Message)$"It holds bytes ({column.Type}) and must not be empty: rows can be changed here, and not made."
                            : $"It holds bytes ({column.Type}), of which there is nothing to show."
                    )
                );
                return;
            }

            if (column.IsFilled && table.Key is [var only] && only == column.Name && new TypedColumn(only, column.Type).IsWhole)
            {
                left.Add(new LeftColumn(column.Name, $"The database numbers it; it is the record's number."));
                return;
            }

            fields.Add(Field(column, bar));
        }

        private Field Field(DatabaseColumn column, WriteBar? bar)
        {
            var label = Unused(EntitySketch.Label(column.Name));
            var key = KeyFor(label);
            var list = column is { Kind: ColumnKind.Text or ColumnKind.LongText, Choices: { IsEmpty: false } values }
                ? ChoiceList.Of(Keys.Fresh(key, taken.Lists.Contains), Texts.Of(label), values)
                : null;
            if (list is not null)
            {
                taken.Lists.Add(list.Key);
                choices.Add(
                    list with
                    {
                        Choices = [.. list.Choices.Select(each => each with { Label = Texts.Of(Said(each.Label.ToString())) })],
                    }
                );
            }

            var type = list is not null ? FieldType.Choice : TypeOf(column);
            bar ??=
                column.IsFilled ? WriteBar.Generated
                : column.Kind is ColumnKind.Other ? WriteBar.Type
                : table.Key.Contains(column.Name) ? WriteBar.Key
                : null;
            var asked = bar is null or WriteBar.Key;
            return new Field
            {
                Key = key,
                Label = Texts.Of(label),
                Help = column.Comment is { Length: > 0 } comment ? Texts.Of(comment) : null,
                Type = type,
                Required =
                    asked && column.NotNull && (!column.HasDefault || (column.Default is { Length: > 0 } && type is not FieldType.Boolean)),
                Unique = bar is null or WriteBar.Key && IsUnique([column.Name]),
                ChoiceList = list?.Key,
                MaxLength = type.IsShortText() || type is FieldType.LongText ? column.MaxLength : null,
                Min = type.IsNumber() ? column.Min : null,
                Max = type.IsNumber() ? column.Max : null,
                Scale = Math.Min(column.Scale ?? 2, 6),
                Default = asked ? DefaultOf(column, type, list) : null,
                Attached = new AttachedColumn(
                    [new TypedColumn(column.Name, column.Type)],
                    bar,
                    column is { NotNull: true, HasDefault: true },
                    list is null
                        ? AttachedColumn.NoWords
                        : list
                            .Choices.Where(each => each.Key != each.Label.ToString())
                            .ToImmutableSortedDictionary(each => each.Key, each => each.Label.ToString(), StringComparer.Ordinal)
                ),
            };
        }

        private static FieldType TypeOf(DatabaseColumn column) =>
            column.Kind switch
            {
                ColumnKind.Whole => FieldType.Integer,
                ColumnKind.Decimal => FieldType.Decimal,
                ColumnKind.Boolean => FieldType.Boolean,
                ColumnKind.Date => FieldType.Date,
                ColumnKind.Time => FieldType.Time,
                ColumnKind.DateTime => FieldType.DateTime,
                ColumnKind.LongText => FieldType.LongText,
                _ => FieldType.Text,
            };

        private static string? DefaultOf(DatabaseColumn column, FieldType type, ChoiceList? list) =>
            column.Default is not { Length: > 0 } given || type is FieldType.Date or FieldType.Time or FieldType.DateTime ? null
            : list is not null ? list.Choices.FirstOrDefault(choice => choice.Label.ToString() == given)?.Key
            : type is FieldType.Boolean
                ? (given is "1" or "t" || given.Equals("true", StringComparison.OrdinalIgnoreCase) ? "true" : "false")
            : type.IsNumber() && !decimal.TryParse(given, System.Globalization.CultureInfo.InvariantCulture, out _) ? null
            : given;

        private bool IsUnique(IEnumerable<string> columns) => table.Unique.Any(set => set.ToHashSet().SetEquals(columns));

        /// <summary>A choice as people read it: "in_progress" is "In progress", "NEW" stays.</summary>
        private static string Said(string value) =>
            value.Length > 3 && value.All(c => !char.IsUpper(c)) ? EntitySketch.Label(value) : value;

        /// <summary>"customer_id" is the customer.</summary>
        private static string Bare(string column)
        {
            foreach (var end in (string[])["_id", "Id", "_ID", "_fk"])
            {
                if (column.Length > end.Length && column.EndsWith(end, StringComparison.Ordinal))
                {
                    return column[..^end.Length];
                }
            }

            return column;
        }

        private string Unused(string label)
        {
            label = label.Length > 0 ? label : "Column";
            var made = label;
            for (var number = 2; !labels.Add(made); number++)
            {
                made = $"{label} {number}";
            }

            return made;
        }

        private string KeyFor(string label) =>
            Keys.Fresh(Keys.Of(ServiceFields.Contains(Keys.Of(label, "field")) ? $"{keys[table.Path]} {label}" : label, "field"), key =>
                ServiceFields.Contains(key) || fields.Any(field => Same(field.Key, key))
            );

        private static bool Same(string one, string other) => string.Equals(one, other, StringComparison.OrdinalIgnoreCase);
    }
}
