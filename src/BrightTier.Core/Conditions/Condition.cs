using System.Collections.Immutable;
using BrightTier.Core.Entities;

namespace BrightTier.Core.Conditions;

/// <summary>Parses and types a condition in one step.</summary>
public static class Condition
{
    /// <summary>The tree, or every problem there is.</summary>
    public static (Expression? Expression, IReadOnlyList<ConditionProblem> Problems) Compile(string text, Entity entity, Definitions definitions)
    {
        var (expression, problem) = Parser.Parse(text);
        if (expression is null)
        {
            return (null, [problem!]);
        }

        var problems = TypeChecker.Check(expression, entity, definitions);
        return problems.Count == 0 ? (expression, problems) : (null, problems);
    }

    /// <summary>A record's values as conditions see them; fields without a value are null, as are the entity's fields that are absent.</summary>
    public static IReadOnlyDictionary<string, object?> Values(Entity entity, IReadOnlyDictionary<string, object?> record) =>
        entity.Fields.ToDictionary(field => field.Key, field => Value(record.GetValueOrDefault(field.Key)), StringComparer.Ordinal);

    private static object? Value(object? value) => value switch
    {
        decimal number => (double)number,
        DateOnly date => new DateTimeOffset(date.ToDateTime(TimeOnly.MinValue), TimeSpan.Zero),
        TimeOnly time => time.ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture),
        ImmutableArray<string> chosen => chosen.Cast<object?>().ToArray(),
        _ => value,
    };
}
