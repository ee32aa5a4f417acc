using System.Globalization;
using Dapper;

namespace BrightTier.Records;

/// <summary>What was done to records of every entity, out of their history.</summary>
public sealed partial class SqlRecordStore
{
    public async Task<IReadOnlyList<RecordAction>> Actions(RecordActionQuery query, CancellationToken cancel)
    {
        var (conditions, parameters) = (new List<string>(), new DynamicParameters());
        conditions.Add($"action <> '{Found}'");
        That("by = @by", "by", query.By);
        That("action = @action", "action", query.Action);
        That("entity = @entity", "entity", query.Entity);
        That("record_id = @record", "record", query.Record);
        That("at >= @since", "since", query.From is { } from ? dialect.Stamp(from) : null);
        That("at < @until", "until", query.Until is { } until ? dialect.Stamp(until) : null);
        if (query.After is { } last)
        {
            That(
                "(at < @lastAt OR (at = @lastAt AND (entity, record_id, version) > (@lastEntity, @lastRecord, @lastVersion)))",
                "lastAt",
                dialect.Stamp(last.At)
            );
            parameters.AddDynamicParams(
                new
                {
                    lastEntity = last.Entity,
                    lastRecord = last.Record,
                    lastVersion = last.Version,
                }
            );
        }

        await using var connection = await dialect.Open(cancel);
        var rows = await connection.QueryAsync(
            new CommandDefinition(
                $"SELECT entity, record_id, version, action, at, by FROM {SqlNames.History}{Where(conditions)} ORDER BY at "
                    + $"DESC, entity, record_id, version LIMIT {query.Limit.ToString(CultureInfo.InvariantCulture)}",
                parameters,
                cancellationToken: cancel
            )
        );
        return
        [
            .. rows.Cast<IDictionary<string, object?>>()
                .Select(row => new RecordAction(
                    (string)row["entity"]!,
                    (long)row["record_id"]!,
                    (long)row["version"]!,
                    (string)row["action"]!,
                    dialect.Stamp(row["at"]!),
                    (string)row["by"]!
                )),
        ];

        void That(string condition, string name, object? value)
        {
            if (value is not null)
            {
                conditions.Add(condition);
                parameters.Add(name, value);
            }
        }
    }
}
