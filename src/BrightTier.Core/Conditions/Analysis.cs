using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

/// <summary>What a condition can come to.</summary>
public enum Outcome
{
    Holds,
    DoesNotHold,

    /// <summary>It ends in an error, as a comparison with an empty value does.</summary>
    Errs,
}

/// <summary>Yes with a witness, no for every record there can be, or an honest third answer.</summary>
public enum Verdict
{
    Yes,
    No,
    CannotTell,
}

/// <summary>An answer of the analysis; <paramref name="Why"/> tells what stood in the way of an answer.</summary>
public sealed record Answer(Verdict Verdict, Witness? Witness = null, Message? Why = null);

/// <summary>A situation as evidence: values by name (record.length, user.roles, mode, …); names that do not matter are left out.</summary>
public sealed record Witness(ImmutableSortedDictionary<string, object?> Values)
{
    /// <summary>As names for the evaluator, everything else of the record empty.</summary>
    public EvaluationContext Surroundings(Entity entity, IEnumerable<string> reads)
    {
        var record = entity
            .Fields.Select(field => field.Key)
            .Concat(reads)
            .Distinct()
            .ToDictionary(key => key, key => Values.GetValueOrDefault("record." + key), StringComparer.Ordinal);
        var moment = Values.GetValueOrDefault("today") ?? Values.GetValueOrDefault("now") ?? new Moment(0);
        return new EvaluationContext(
            new Dictionary<string, object?>(StringComparer.Ordinal)
            {
                ["record"] = record,
                ["user"] = new Dictionary<string, object?>(StringComparer.Ordinal)
                {
                    ["roles"] = Values.GetValueOrDefault("user.roles") ?? Array.Empty<object?>(),
                    ["id"] = Values.GetValueOrDefault("user.id") ?? "",
                },
                ["mode"] = Values.GetValueOrDefault("mode") ?? "edit",
                ["locale"] = Values.GetValueOrDefault("locale") ?? "en",
                ["today"] = moment,
                ["now"] = Values.GetValueOrDefault("now") ?? moment,
            }
        );
    }

    /// <summary>In words a configurator knows: Length 9.5, Propulsion sail, mode create.</summary>
    public Message Describe(Entity entity) =>
        Values.Count == 0
            ? $"any record"
            : Message.Join(", ", Values.Select(Message (pair) => $"{Name(pair.Key, entity)} {Word(pair.Value)}"));

    private static Message Name(string key, Entity entity) =>
        key.StartsWith("record.", StringComparison.Ordinal)
            ? entity.Find(Expression.Own(key["record.".Length..]))?.Label is { } label
                ? key.Count(c => c == '.') > 1
                    ? (Message)$"{label} → {key[(key.LastIndexOf('.') + 1)..]}"
                    : $"{label}"
                : Message.Verbatim(key)
            : key switch
            {
                "user.roles" => $"roles",
                "user.id" => $"user",
                _ => Message.Verbatim(key),
            };

    private static Message Word(object? value) =>
        value switch
        {
            null => (Message)$"empty",
            true => $"yes",
            false => $"no",
            string text => $"'{text}'",
            Moment moment => moment.ToString() is var text && text.EndsWith("T00:00:00Z", StringComparison.Ordinal)
                ? Message.Verbatim(text[..10])
                : Message.Verbatim(text),
            IReadOnlyList<object?> list => list.Count == 0 ? $"none" : Message.Verbatim(string.Join(" + ", list)),
            IFormattable number => $"{number}",
            _ => $"{value}",
        };
}

/// <summary>
/// Answers whether a condition can hold, can fail to, or can err, over all records the entity allows: choices, truth values, numbers within
/// their
/// bounds, dates, references, equality of texts, emptiness, roles and modes, compared with constants and with one another. Inside that the
/// answer
/// is always yes or no. Other functions are outside: there a witness is still looked for, and without one the answer is that one cannot
/// tell.
/// </summary>
public static class Analysis
{
    /// <summary>Whether some record brings a condition to an outcome.</summary>
    public static Answer Can(Outcome outcome, Expression condition, Entity entity, Definitions definitions) =>
        Find([outcome], condition, entity, definitions)[0];

    /// <summary>The answers for all three outcomes at once, by <see cref="Outcome"/>.</summary>
    public static ImmutableArray<Answer> All(Expression condition, Entity entity, Definitions definitions) =>
        Find(Enum.GetValues<Outcome>(), condition, entity, definitions);

    /// <summary>Whether two conditions can hold of one record at once.</summary>
    public static Answer Together(Expression one, Expression other, Entity entity, Definitions definitions) =>
        Can(Outcome.Holds, new Expression.Binary("&&", one, other, one.At, one.At), entity, definitions);

    private static ImmutableArray<Answer> Find(Outcome[] wanted, Expression condition, Entity entity, Definitions definitions)
    {
        var domains = Domains.Of(condition, entity, definitions);
        var search = new SituationSearch(domains, entity);
        return
        [
            .. wanted.Select(outcome =>
                search.Find(condition, Within(outcome)) is { } values
                    ? new Answer(Verdict.Yes, new Witness(values.ToImmutableSortedDictionary(StringComparer.Ordinal)))
                : (search.Doubt ?? domains.Outside) is { } why ? new Answer(Verdict.CannotTell, Why: why)
                : new Answer(Verdict.No)
            ),
        ];
    }

    private static Outcomes Within(Outcome outcome) =>
        outcome switch
        {
            Outcome.Holds => Outcomes.Holds,
            Outcome.DoesNotHold => Outcomes.DoesNotHold,
            _ => Outcomes.Errs,
        };
}
