using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;

namespace BrightTier.Storage;

/// <summary>The reads a start needs, in plain SQL: preparing the first query any other way takes longer than the rest of a start.</summary>
internal static class RowReader
{
    /// <param name="given">Values for what the statement names as @name.</param>
    public static async Task<IReadOnlyList<T>> Read<T>(
        this IDbContextFactory<StorageContext> contexts,
        string sql,
        Func<DbDataReader, T> read,
        CancellationToken cancel,
        params (string Name, object Value)[] given
    )
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Database.OpenConnectionAsync(cancel);
        await using var command = context.Database.GetDbConnection().CreateCommand();
        command.CommandText = sql;
        foreach (var (name, value) in given)
        {
            var parameter = command.CreateParameter();
            (parameter.ParameterName, parameter.Value) = (name, value);
            command.Parameters.Add(parameter);
        }

        await using var reader = await command.ExecuteReaderAsync(cancel);
        var rows = new List<T>();
        while (await reader.ReadAsync(cancel))
        {
            rows.Add(read(reader));
        }

        return rows;
    }

    /// <summary>One statement for many rows, in the transaction of the context: prepared once.</summary>
    /// <param name="rows">Of each the values of @p0, @p1 and so on.</param>
    public static async Task Run(this StorageContext context, string sql, IEnumerable<object[]> rows, CancellationToken cancel)
    {
        await context.Database.OpenConnectionAsync(cancel);
        await using var command = context.Database.GetDbConnection().CreateCommand();
        command.CommandText = sql;
        command.Transaction = context.Database.CurrentTransaction?.GetDbTransaction();
        foreach (var row in rows)
        {
            for (var i = 0; i < row.Length; i++)
            {
                if (command.Parameters.Count == i)
                {
                    var parameter = command.CreateParameter();
                    parameter.ParameterName = $"p{i.ToString(System.Globalization.CultureInfo.InvariantCulture)}";
                    command.Parameters.Add(parameter);
                }

                command.Parameters[i].Value = row[i];
            }

            await command.ExecuteNonQueryAsync(cancel);
        }
    }
}
