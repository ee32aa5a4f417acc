using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Resolution;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <summary>The records the cells of a table mean.</summary>
internal sealed class TableRecords(CurrentRelease releases, IRecordStore store, RecordContext around)
{
    /// <summary>The records that hold one of these values of a unique field.</summary>
    internal async Task<Dictionary<object, StoredRecord>> Holders(
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
    internal async Task<Dictionary<string, (long? Id, Message? Problem)>> References(
        Field field,
        string[] cells,
        Caller caller,
        string language,
        CancellationToken cancel
    )
    {
        var means = new Dictionary<string, (long? Id, Message? Problem)>(StringComparer.Ordinal);
        var target = releases.Entity(field.Target!);
        var label = target.Label.In(language).ToLowerInvariant();
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
                means[cell] = await Called(target, shown, cell, caller, language, cancel);
            }
        }

        return means;
    }

    /// <summary>The record whose naming text, or one of whose naming fields, is this.</summary>
    private async Task<(long? Id, Message? Problem)> Called(
        Entity target,
        Field[] shown,
        string cell,
        Caller caller,
        string language,
        CancellationToken cancel
    )
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
        return called switch
        {
            [var only] => (only.Id, null),
            [] => (null, $"must be the number or the name of a {target.Label.In(language).ToLowerInvariant()}"),
            _ => (
                null,
                $"is what {called.Length} of {target.Plural.In(language).ToLowerInvariant()} are called; give the "
                    + $"number of the one that is meant"
            ),
        };
    }
}
