using System.Data.Common;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

/// <summary>A row as it was selected: what each column has.</summary>
internal sealed record AttachedRow(IReadOnlyList<object?> Values);

/// <summary>How the rows of one entity are selected, and what they say.</summary>
internal sealed class AttachedRows
{
    private readonly AttachedDatabase database;
    private readonly AttachedTable table;
    private readonly string[] columns;
    private readonly Dictionary<string, int> places;

    public AttachedRows(AttachedDatabase database, Entity entity)
    {
        this.database = database;
        table = entity.Attached!;
        columns =
        [
            .. table
                .Key.Select(part => part.Column)
                .Concat(entity.Current.SelectMany(field => field.Attached!.Columns).Select(each => each.Column))
                .Distinct(StringComparer.Ordinal),
        ];
        places = columns.Index().ToDictionary(each => each.Item, each => each.Index, StringComparer.Ordinal);
    }

    /// <summary>What stands between SELECT and FROM, or behind RETURNING.</summary>
    public string Columns => string.Join(", ", columns.Select(column => database.Selected(AttachedDatabase.Quote(column))));

    public string Select => $"SELECT {Columns} FROM {AttachedDatabase.Table(table)}";

    public async Task<List<AttachedRow>> Read(DbCommand command, CancellationToken cancel)
    {
        var rows = new List<AttachedRow>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var values = new object?[columns.Length];
            for (var i = 0; i < values.Length; i++)
            {
                values[i] = reader.IsDBNull(i) ? null : reader.GetValue(i);
            }

            rows.Add(new AttachedRow(values));
        }

        return rows;
    }

    public object? Value(AttachedRow row, string column) => row.Values[places[column]];

    public RowKey Key(AttachedRow row) => RowKey.Of([.. table.Key.Select(part => database.Text(Value(row, part.Column)))]);

    /// <summary>The key of the record a reference points at; null where it points at none.</summary>
    public RowKey? Target(AttachedRow row, Field reference)
    {
        var parts = reference.Attached!.Columns.Select(each => database.Text(Value(row, each.Column))).ToArray();
        return parts.Any(part => part is null) ? null : RowKey.Of(parts);
    }

    /// <summary>A number made of all that is in a row, from 1 to 2^52: another one as soon as something of it is another.</summary>
    public long Version(AttachedRow row)
    {
        var text = new StringBuilder();
        foreach (var value in row.Values)
        {
            var said = database.Text(value);
            text.Append(said is null ? "-" : said.Length.ToString(CultureInfo.InvariantCulture)).Append(':').Append(said);
        }

        var hash = SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString()));
        return (long)(BitConverter.ToUInt64(hash) >> 12) + 1;
    }

    /// <summary>A condition that only the row with a key fulfils, with its parameters.</summary>
    public string Where(RowKey key, DbCommand command, string prefix = "k")
    {
        var parts = new List<string>();
        for (var i = 0; i < table.Key.Length; i++)
        {
            var (column, type) = (AttachedDatabase.Quote(table.Key[i].Column), table.Key[i].Type);
            if (key.Parts[i] is not { } text)
            {
                parts.Add($"{column} IS NULL");
                continue;
            }

            var name = string.Create(CultureInfo.InvariantCulture, $"{prefix}{i}");
            command.Add(name, database.KeyPart(text, type));
            // What is told apart by all that is in it may be of types that cannot be compared.
            parts.Add(
                table.ReadOnly is WriteBar.NoKey or WriteBar.View
                    ? $"{database.Selected(column)} = @{name}"
                    : $"{column} = {database.Placed("@" + name, type)}"
            );
        }

        return string.Join(" AND ", parts);
    }
}

/// <summary>Commands with parameters by name.</summary>
internal static class Commands
{
    public static DbCommand Command(this DbConnection connection, string sql, DbTransaction? within = null)
    {
        var command = connection.CreateCommand();
        command.CommandText = sql;
        command.Transaction = within;
        return command;
    }

    public static void Add(this DbCommand command, string name, object? value)
    {
        var parameter = command.CreateParameter();
        parameter.ParameterName = name;
        parameter.Value = value ?? DBNull.Value;
        command.Parameters.Add(parameter);
    }
}
