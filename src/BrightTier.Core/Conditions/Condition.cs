using System.Collections.Immutable;
using System.Globalization;
using System.Runtime.CompilerServices;
using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

/// <summary>A condition's tree, or every problem there is with its text.</summary>
public sealed record Compilation(Expression? Expression, IReadOnlyList<ConditionProblem> Problems)
{
    /// <summary>The type of what it comes to; of a condition always bool.</summary>
    public ConditionType Type { get; init; } = ConditionType.Bool;
}

/// <summary>Parses and types a condition in one step.</summary>
public static class Condition
{
    private readonly record struct Key(Entity Entity, string Text)
    {
        public bool Equals(Key other) => ReferenceEquals(Entity, other.Entity) && Text == other.Text;

        public override int GetHashCode() => HashCode.Combine(RuntimeHelpers.GetHashCode(Entity), Text);
    }

    /// <summary>
    /// The tree, or every problem there is. A step through a reference reads as one name, <c>berth.zone</c>, of the record. The same text
    /// is compiled once against the same definitions.
    /// </summary>
    public static Compilation Compile(string text, Entity entity, Definitions definitions) =>
        (Compilation)
            definitions.Remembered.Entries.GetOrAdd(
                new Key(entity, text),
                static (key, all) => CompileNew(((Key)key).Text, ((Key)key).Entity, all),
                definitions
            );

    /// <summary>The same for a text that is still being written, and so is not worth remembering.</summary>
    public static Compilation CompileAnew(string text, Entity entity, Definitions definitions) => CompileNew(text, entity, definitions);

    /// <summary>Compiles an expression of any type: what an action sets a field to.</summary>
    public static Compilation CompileValue(string text, Entity entity, Definitions definitions) =>
        CompileNew(text, entity, definitions, anyType: true);

    private static Compilation CompileNew(string text, Entity entity, Definitions definitions, bool anyType = false)
    {
        var (expression, problem) = Parser.Parse(text);
        if (expression is null)
        {
            return new Compilation(null, [problem!]);
        }

        var problems = TypeChecker.Check(text, expression, entity, definitions, anyType, out var type);
        return new Compilation(problems.Count == 0 ? Flat(expression, entity) : null, problems) { Type = type };
    }

    /// <summary>record.berth.zone as the one read it is.</summary>
    private static Expression Flat(Expression expression, Entity entity) =>
        expression.Rewrite(part =>
            part is Expression.Select { Target: Expression.Select { Target: Expression.Name { Identifier: "record" } record } step } select
            && entity.Find(step.Field)?.Type is FieldType.Reference
                ? new Expression.Select(record, $"{step.Field}.{select.Field}", select.FieldAt, select.At)
                : null
        );

    /// <summary>
    /// A record's values as conditions see them; fields without a value are null, as are the entity's fields that are absent. Of records
    /// pointed
    /// at, their values come as <paramref name="related"/>, by the reference's key; a reference that is empty leads to nothing but nulls.
    /// </summary>
    public static IReadOnlyDictionary<string, object?> Values(
        Entity entity,
        IReadOnlyDictionary<string, object?> record,
        IReadOnlyDictionary<string, IReadOnlyDictionary<string, object?>>? related = null,
        IEnumerable<string>? steps = null
    )
    {
        var values = entity.Fields.ToDictionary(
            field => field.Key,
            field => Value(record.GetValueOrDefault(field.Key)),
            StringComparer.Ordinal
        );
        foreach (var step in steps ?? [])
        {
            var own = Expression.Own(step);
            if (own != step && (record.GetValueOrDefault(own) is null || related?.ContainsKey(own) == true))
            {
                values[step] = related?.GetValueOrDefault(own) is { } target
                    ? Value(target.GetValueOrDefault(step[(own.Length + 1)..]))
                    : null;
            }
        }

        return values;
    }

    /// <summary>A value as it is where it was sent to: a moment in whole seconds, a number as the double nearest to its digits.</summary>
    private static object? Value(object? value) =>
        value switch
        {
            decimal number => Nearest(number),
            DateOnly date => Moment.Of(date),
            DateTimeOffset moment => Moment.Of(moment.AddTicks(-(moment.Ticks % TimeSpan.TicksPerSecond))),
            TimeOnly time => time.ToString("HH:mm", CultureInfo.InvariantCulture),
            ImmutableArray<string> chosen => chosen.Cast<object?>().ToArray(),
            _ => value,
        };

    /// <summary>The cast alone is one off now and then beyond 53 bits.</summary>
    private static double Nearest(decimal number) =>
        double.Parse(number.ToString(CultureInfo.InvariantCulture), NumberStyles.Float, CultureInfo.InvariantCulture);
}
