namespace BrightTier.Core.Conditions;

/// <summary>The functions conditions can call, with the types they take: the standard's string, conversion and time functions.</summary>
internal static class Library
{
    /// <param name="Member">Whether it is called on a value, record.name.contains('x'), rather than with it, size(record.name).</param>
    public sealed record Signature(string Name, bool Member, string[] Takes, ConditionType Gives);

    private static readonly string[] Parts =
    [
        "getFullYear",
        "getMonth",
        "getDate",
        "getDayOfMonth",
        "getDayOfWeek",
        "getDayOfYear",
        "getHours",
        "getMinutes",
        "getSeconds",
        "getMilliseconds",
    ];

    private static readonly ILookup<string, Signature> ByName = Make().ToLookup(signature => signature.Name);

    /// <summary>Every name that can be called, macros and has() included.</summary>
    public static IReadOnlyList<string> Names { get; } =
    [.. ByName.Select(group => group.Key), "has", "all", "exists", "exists_one", "filter", "map"];

    /// <summary>What a call gives, or null when nothing of that name takes these.</summary>
    public static ConditionType? Find(string name, bool member, IReadOnlyList<ConditionType> types) =>
        ByName[name]
            .FirstOrDefault(signature =>
                signature.Member == member
                && signature.Takes.Length == types.Count
                && signature.Takes.Zip(types).All(pair => pair.First == pair.Second.Name)
            )
            ?.Gives;

    /// <summary>How a function is written, for somebody who got it wrong.</summary>
    public static Message Usage(string name) =>
        name switch
        {
            "size" => (Message)$"; it takes a text, a list or a map",
            "contains" or "startsWith" or "endsWith" or "matches" => $"; write record.name.{name}('text')",
            "timestamp" => $"; write timestamp('2026-05-31T00:00:00Z')",
            "duration" => $"; write duration('36h')",
            _ when Parts.Contains(name) => $"; write today.{name}()",
            "all" or "exists" or "exists_one" or "filter" or "map" => $"; write record.services.{name}(each, each == 'x')",
            _ => $"",
        };

    private static IEnumerable<Signature> Make()
    {
        foreach (var type in new[] { "string", "list", "map" })
        {
            yield return new("size", false, [type], ConditionType.Int);
            yield return new("size", true, [type], ConditionType.Int);
        }

        foreach (var name in new[] { "contains", "startsWith", "endsWith", "matches" })
        {
            yield return new(name, true, ["string", "string"], ConditionType.Bool);
        }

        yield return new("matches", false, ["string", "string"], ConditionType.Bool);
        foreach (
            var (name, gives, takes) in new[]
            {
                ("timestamp", ConditionType.Timestamp, "string int timestamp"),
                ("duration", ConditionType.Duration, "string duration"),
                ("int", ConditionType.Int, "int double string timestamp"),
                ("double", ConditionType.Double, "int double string"),
                ("bool", ConditionType.Bool, "bool string"),
                ("string", ConditionType.String, "int double string bool timestamp duration"),
            }
        )
        {
            foreach (var type in takes.Split(' '))
            {
                yield return new(name, false, [type], gives);
            }
        }

        foreach (var part in Parts)
        {
            yield return new(part, true, ["timestamp"], ConditionType.Int);
            yield return new(part, true, ["timestamp", "string"], ConditionType.Int);
            if (part is "getHours" or "getMinutes" or "getSeconds" or "getMilliseconds")
            {
                yield return new(part, true, ["duration"], ConditionType.Int);
            }
        }
    }
}
