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
public sealed class Analysis
{
    /// <summary>How many situations are looked at before giving up on a very large condition.</summary>
    private const int Patience = 20_000;

    private readonly Expression condition;
    private readonly Domains domains;
    private readonly Dictionary<string, object?> record = new(StringComparer.Ordinal);
    private readonly Dictionary<string, object?> user = new(StringComparer.Ordinal);
    private readonly Dictionary<string, object?> names;
    private readonly EvaluationContext known;
    private int looked;

    private Analysis(Expression condition, Entity entity, Definitions definitions)
    {
        this.condition = condition;
        domains = Domains.Of(condition, entity, definitions);
        names = new Dictionary<string, object?>(StringComparer.Ordinal) { ["record"] = record, ["user"] = user };
        known = new EvaluationContext(names);
    }

    /// <summary>Whether some record brings a condition to an outcome.</summary>
    public static Answer Can(Outcome outcome, Expression condition, Entity entity, Definitions definitions) =>
        new Analysis(condition, entity, definitions).Find([outcome])[(int)outcome];

    /// <summary>The answers for all three outcomes at once, by <see cref="Outcome"/>.</summary>
    public static ImmutableArray<Answer> All(Expression condition, Entity entity, Definitions definitions) =>
        new Analysis(condition, entity, definitions).Find(Enum.GetValues<Outcome>());

    /// <summary>Whether two conditions can hold of one record at once.</summary>
    public static Answer Together(Expression one, Expression other, Entity entity, Definitions definitions) =>
        Can(Outcome.Holds, new Expression.Binary("&&", one, other, one.At, one.At), entity, definitions);

    private readonly Witness?[] found = new Witness?[3];

    private ImmutableArray<Answer> Find(IReadOnlyCollection<Outcome> wanted)
    {
        Search(0, wanted);
        return
        [
            .. Enum.GetValues<Outcome>()
                .Select(outcome =>
                    found[(int)outcome] is { } witness ? new Answer(Verdict.Yes, witness)
                    : looked > Patience ? new Answer(Verdict.CannotTell, Why: $"there are too many cases to look at")
                    : domains.Outside is { } outside ? new Answer(Verdict.CannotTell, Why: outside)
                    : new Answer(Verdict.No)
                ),
        ];
    }

    /// <summary>
    /// Gives what is read its values, one thing after another, as long as that decides nothing; true when everything wanted is found.
    /// </summary>
    private bool Search(int at, IReadOnlyCollection<Outcome> wanted)
    {
        if (++looked > Patience)
        {
            return true;
        }

        var value = Evaluator.Decide(condition, known);
        if (value is not Unknown)
        {
            found[(int)OutcomeOf(value)] ??= Found();
            return wanted.All(outcome => found[(int)outcome] is not null);
        }

        if (at == domains.Variables.Count)
        {
            return false;
        }

        var variable = domains.Variables[at];
        var (holder, key) =
            variable.Name.StartsWith("record.", StringComparison.Ordinal) ? (record, variable.Name["record.".Length..])
            : variable.Name.StartsWith("user.", StringComparison.Ordinal) ? (user, variable.Name["user.".Length..])
            : (names, variable.Name);
        foreach (var candidate in variable.Candidates)
        {
            holder[key] = candidate;
            if (Consistent() && Search(at + 1, wanted))
            {
                return true;
            }
        }

        holder.Remove(key);
        return false;
    }

    private static Outcome OutcomeOf(object? value) =>
        value switch
        {
            true => Outcome.Holds,
            false => Outcome.DoesNotHold,
            _ => Outcome.Errs,
        };

    /// <summary>An empty reference leads to nothing.</summary>
    private bool Consistent() =>
        !domains.Steps
        || record.All(pair =>
            pair.Value is null
            || !pair.Key.Contains('.', StringComparison.Ordinal)
            || !record.TryGetValue(Expression.Own(pair.Key), out var reference)
            || reference is not null
        );

    private Witness Found()
    {
        var values = ImmutableSortedDictionary.CreateBuilder<string, object?>(StringComparer.Ordinal);
        foreach (var (key, value) in record)
        {
            values["record." + key] = value;
        }

        foreach (var (key, value) in user)
        {
            values["user." + key] = value;
        }

        foreach (var (key, value) in names.Where(pair => pair.Key is not ("record" or "user")))
        {
            values[key] = value;
        }

        return new Witness(values.ToImmutable());
    }
}
