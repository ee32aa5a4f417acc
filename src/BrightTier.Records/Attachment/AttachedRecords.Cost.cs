using System.Collections.Concurrent;
using System.Data.Common;
using BrightTier.Core.Attachment;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Records.Attachment;

// What a list would cost, before it is asked for.
public sealed partial class AttachedRecords
{
    /// <summary>A table of more rows is not read whole without a word.</summary>
    public const long Large = 100_000;

    /// <summary>How long what a catalogue said is believed.</summary>
    private static readonly TimeSpan Believed = TimeSpan.FromMinutes(10);

    private readonly ConcurrentDictionary<string, (DateTime At, IReadOnlyList<DatabaseTable> Tables)> catalogues = new(
        StringComparer.Ordinal
    );

    /// <summary>
    /// Whether a list reads a large table whole: what is searched for has no index; an order has one where its first column has; conditions
    /// that must all hold have one where one of them has.
    /// </summary>
    public async Task<SlowQuery?> Foresee(Entity entity, RecordQuery query, CancellationToken cancel)
    {
        var place = entity.Attached!;
        DatabaseTable? table;
        try
        {
            table = (await Catalogue(place.Database, cancel)).FirstOrDefault(each =>
                each.Schema == place.Schema && each.Name == place.Name
            );
        }
        catch (DbException)
        {
            // What is wrong with it, the list itself tells.
            return null;
        }

        if (table is null || table.Rows <= Large)
        {
            return null;
        }

        bool IsLed(Field field) => table.Indexed.Contains(field.Attached!.Name);
        var whole = new List<Field>();
        if (!string.IsNullOrWhiteSpace(query.Search))
        {
            whole.AddRange(query.SearchIn);
        }

        foreach (var filter in query.Filters)
        {
            var read = filter.Condition.FieldsRead().Select(key => entity.Find(Expression.Own(key))).OfType<Field>().ToArray();
            if (!Conjuncts(filter.Condition).Any(part => part.FieldsRead().Select(entity.Find).OfType<Field>().Any(IsLed)))
            {
                whole.AddRange(read);
            }
        }

        if (query.Sort is [var first, ..] && !IsLed(first.Field))
        {
            whole.Add(first.Field);
        }

        return whole.Count == 0 ? null : new SlowQuery(table.Rows, [.. whole.Distinct()]);
    }

    /// <summary>The parts that must all hold, of those an index can lead by: comparisons.</summary>
    private static IEnumerable<Expression> Conjuncts(Expression condition) =>
        condition switch
        {
            Expression.Binary { Operator: "&&" } both => Conjuncts(both.Left).Concat(Conjuncts(both.Right)),
            Expression.Binary { Operator: "==" or "<" or "<=" or ">" or ">=" or "in" } => [condition],
            _ => [],
        };

    private async Task<IReadOnlyList<DatabaseTable>> Catalogue(string name, CancellationToken cancel)
    {
        if (catalogues.TryGetValue(name, out var known) && DateTime.UtcNow - known.At < Believed)
        {
            return known.Tables;
        }

        var tables = await databases.Get(name).Tables(cancel);
        catalogues[name] = (DateTime.UtcNow, tables);
        return tables;
    }
}
