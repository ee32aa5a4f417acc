namespace BrightTier.Core.Conditions;

/// <summary>Lists and maps, their elements and the macros that go over them.</summary>
public sealed partial class TypeChecker
{
    private ConditionType Mapped(Expression.MapOf map)
    {
        var keys = map.Entries.Select(entry => TypeOf(entry.Key)).Where(type => type != ConditionType.Unknown).Distinct().ToArray();
        var values = map
            .Entries.Select(entry => TypeOf(entry.Value))
            .Where(type => type != ConditionType.Unknown && type != ConditionType.Null)
            .Distinct()
            .ToArray();
        return keys.Any(type => type.Name is not ("int" or "string" or "bool"))
                ? Problem(
                    map.At,
                    $"a map's keys are texts, whole numbers or truth values, not "
                        + $"{keys.First(type => type.Name is not ("int" or "string" or "bool"))}"
                )
            : values.Length > 1 && !values.All(type => type.IsNumber)
                ? Problem(
                    map.At,
                    $"a map's values are of one type; these are {string.Join(" and ", values.Select(type => type.ToString()))}"
                )
            : ConditionType.MapOf(keys.FirstOrDefault() ?? ConditionType.Unknown, values.FirstOrDefault() ?? ConditionType.Unknown);
    }

    private ConditionType Went(Expression.Over over)
    {
        var target = TypeOf(over.Target);
        if (target != ConditionType.Unknown && target.Name is not ("list" or "map"))
        {
            return Problem(over.Target.At, $"{over.Macro}() goes over a list or a map; this is of type {target}");
        }

        var element = target.Key ?? target.Element ?? ConditionType.Unknown;
        locals.Add((over.Variable, element));
        foreach (
            var test in over.Macro == "map"
                ? over.Only is { } only
                    ? [only]
                    : Array.Empty<Expression>()
                : [over.Body]
        )
        {
            var type = TypeOf(test);
            if (type != ConditionType.Bool && type != ConditionType.Unknown)
            {
                Problem(test.At, $"{over.Macro}() tests each element; this is of type {type}");
            }
        }

        var mapped = over.Macro == "map" ? TypeOf(over.Body) : ConditionType.Unknown;
        locals.RemoveAt(locals.Count - 1);
        return over.Macro switch
        {
            "map" => ConditionType.ListOf(mapped),
            "filter" => ConditionType.ListOf(element),
            _ => ConditionType.Bool,
        };
    }

    private ConditionType Indexed(Expression.Index index)
    {
        var target = TypeOf(index.Target);
        var key = TypeOf(index.Key);
        if (target == ConditionType.Unknown || key == ConditionType.Unknown)
        {
            return ConditionType.Unknown;
        }

        if (target.Name == "map")
        {
            return key == target.Key || target.Key == ConditionType.Unknown
                ? target.Element!
                : Problem(index.Key.At, $"this map is asked by a {target.Key}, not by {key.One}");
        }

        if (target.Name != "list")
        {
            return Problem(index.At, $"only lists and maps have elements; this is of type {target}");
        }

        return key == ConditionType.Int
            ? target.Element!
            : Problem(index.Key.At, $"an element is named by a whole number, not by {key.One}");
    }

    private ConditionType Listed(Expression.ListOf list)
    {
        var types = list
            .Elements.Select(TypeOf)
            .Where(type => type != ConditionType.Unknown && type != ConditionType.Null)
            .Distinct()
            .ToArray();
        return types.Length > 1 && !types.All(type => type.IsNumber)
            ? Problem(
                list.At,
                $"a list's elements are of one type; these are {string.Join(" and ", types.Select(type => type.ToString()))}"
            )
            : ConditionType.ListOf(types.FirstOrDefault() ?? ConditionType.Unknown);
    }
}
