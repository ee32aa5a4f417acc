using System.Security.Cryptography;
using System.Text;
using Dapper;

namespace BrightTier.Records;

/// <summary>
/// Numbers of records whose key is no number: kept in a table of ours, given when a row is first seen, and the row's for good. Where the
/// key is one whole number it is the record's number itself.
/// </summary>
public sealed class AttachedKeys(SqlDialect dialect)
{
    public const string Table = "attached_key";

    /// <summary>From here on numbers are given where keys may be numbers themselves; below 2^53, as every client can tell.</summary>
    private const long Given = 1L << 52;

    internal static string Definition(SqlDialect dialect) =>
        $"""
            CREATE TABLE IF NOT EXISTS {Table} (
                id {dialect.Id}, entity TEXT NOT NULL, hash TEXT NOT NULL, row_key TEXT NOT NULL, UNIQUE (entity, hash))
            """;

    /// <summary>The numbers of rows by their keys; who has none yet is given one.</summary>
    /// <param name="entity">The entity's key.</param>
    /// <param name="isWhole">Whether the key is one whole number.</param>
    public async Task<IReadOnlyDictionary<string, long>> Numbers(
        string entity,
        bool isWhole,
        IReadOnlyCollection<RowKey> keys,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<string, long>(StringComparer.Ordinal);
        var kept = new List<(string Text, string Hash)>();
        foreach (var key in keys)
        {
            if (isWhole && key.Number is { } number and > 0 and < Given)
            {
                found[key.Text] = number;
            }
            else if (!found.ContainsKey(key.Text))
            {
                kept.Add((key.Text, Hash(key.Text)));
            }
        }

        if (kept.Count == 0)
        {
            return found;
        }

        await Look(entity, kept, found, isWhole, cancel);
        var unseen = kept.Where(key => !found.ContainsKey(key.Text)).DistinctBy(key => key.Hash).ToArray();
        if (unseen.Length > 0)
        {
            await using (var writer = await dialect.Write(cancel))
            {
                foreach (var (text, hash) in unseen)
                {
                    await using var command = writer.Command(
                        $"INSERT INTO {Table} (entity, hash, row_key) VALUES (@entity, @hash, @text) ON CONFLICT (entity, hash) DO NOTHING"
                    );
                    Add(command, "entity", entity);
                    Add(command, "hash", hash);
                    Add(command, "text", text);
                    await command.ExecuteNonQueryAsync(cancel);
                }

                await writer.Commit(cancel);
            }

            await Look(entity, unseen, found, isWhole, cancel);
        }

        return found;
    }

    /// <summary>The key of the row that has a number; null where none has.</summary>
    public async Task<IReadOnlyDictionary<long, RowKey>> Keys(
        string entity,
        bool isWhole,
        IReadOnlyCollection<long> numbers,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<long, RowKey>();
        var given = new List<long>();
        foreach (var number in numbers)
        {
            if (isWhole && number < Given)
            {
                found[number] = RowKey.Of(number);
            }
            else
            {
                given.Add(isWhole ? number - Given : number);
            }
        }

        if (given.Count > 0)
        {
            await using var connection = await dialect.Open(cancel);
            var rows = await connection.QueryAsync<(long Id, string Key)>(
                $"SELECT id, row_key FROM {Table} WHERE entity = @entity AND {dialect.OneOf("id", "@ids")}",
                new { entity, ids = given.ToArray() }
            );
            foreach (var (id, key) in rows)
            {
                found[isWhole ? id + Given : id] = RowKey.Read(key);
            }
        }

        return found;
    }

    private async Task Look(
        string entity,
        IReadOnlyCollection<(string Text, string Hash)> keys,
        Dictionary<string, long> found,
        bool isWhole,
        CancellationToken cancel
    )
    {
        await using var connection = await dialect.Open(cancel);
        var rows = await connection.QueryAsync<(long Id, string Key)>(
            $"SELECT id, row_key FROM {Table} WHERE entity = @entity AND {dialect.OneOf("hash", "@hashes")}",
            new { entity, hashes = keys.Select(key => key.Hash).ToArray() }
        );
        foreach (var (id, key) in rows)
        {
            found[key] = isWhole ? id + Given : id;
        }
    }

    private static string Hash(string key) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(key)));

    private static void Add(System.Data.Common.DbCommand command, string name, string value)
    {
        var parameter = command.CreateParameter();
        parameter.ParameterName = name;
        parameter.Value = value;
        command.Parameters.Add(parameter);
    }
}
