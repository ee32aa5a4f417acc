namespace BrightTier.Core.Conditions;

/// <summary>
/// What people write who come from a spreadsheet, a database or another language, and what is written here instead. Every hint goes behind
/// a sentence about what is wrong.
/// </summary>
internal static class Habits
{
    /// <summary>Words between two values.</summary>
    private static readonly Dictionary<string, string> Joins = new(StringComparer.OrdinalIgnoreCase)
    {
        ["and"] = "a && b",
        ["or"] = "a || b",
        ["not"] = "!(a)",
        ["is"] = "a == null",
        ["eq"] = "a == b",
        ["ne"] = "a != b",
        ["like"] = "a.matches('text')",
        ["contains"] = "a.contains('text')",
        ["between"] = "a >= 1 && a <= 5",
        ["then"] = "a ? b : c",
        ["mod"] = "a % b",
        ["IN"] = "a in ['b', 'c']",
    };

    /// <summary>Signs of other languages.</summary>
    private static readonly Dictionary<string, string> Signs = new(StringComparer.Ordinal)
    {
        ["<>"] = "a != b",
        ["==="] = "a == b",
        ["!=="] = "a != b",
        ["=<"] = "a <= b",
        ["=>"] = "a >= b",
        [":="] = "a == b",
        ["~="] = "a != b",
        ["??"] = "a == null ? b : a",
        ["**"] = "a * a",
        ["^"] = "a * a",
        ["≠"] = "a != b",
        ["≤"] = "a <= b",
        ["≥"] = "a >= b",
        ["×"] = "a * b",
        ["÷"] = "a / b",
        ["−"] = "a - b",
        ["~"] = "!(a)",
        [";"] = "a && b",
        ["$"] = "record.name",
        ["#"] = "record.name",
        ["@"] = "record.name",
    };

    /// <summary>Functions that are not there, with or without something before the dot.</summary>
    private static readonly Dictionary<string, string> Functions = new(StringComparer.OrdinalIgnoreCase)
    {
        ["today"] = "today",
        ["now"] = "now",
        ["date"] = "timestamp('2026-05-31T00:00:00Z')",
        ["datetime"] = "timestamp('2026-05-31T00:00:00Z')",
        ["toLower"] = "a.matches('(?i)text')",
        ["toLowerCase"] = "a.matches('(?i)text')",
        ["lower"] = "a.matches('(?i)text')",
        ["lowerAscii"] = "a.matches('(?i)text')",
        ["toUpper"] = "a.matches('(?i)text')",
        ["toUpperCase"] = "a.matches('(?i)text')",
        ["upper"] = "a.matches('(?i)text')",
        ["upperAscii"] = "a.matches('(?i)text')",
        ["includes"] = "a.contains('text')",
        ["indexOf"] = "a.contains('text')",
        ["match"] = "a.matches('text')",
        ["test"] = "a.matches('text')",
        ["like"] = "a.matches('text')",
        ["equals"] = "a == b",
        ["len"] = "size(a)",
        ["length"] = "size(a)",
        ["count"] = "size(a)",
        ["isEmpty"] = "a == null",
        ["isBlank"] = "a == null",
        ["isNull"] = "a == null",
        ["empty"] = "a == null",
        ["exists_any"] = "a.exists(each, each == 'b')",
        ["any"] = "a.exists(each, each == 'b')",
        ["some"] = "a.exists(each, each == 'b')",
        ["every"] = "a.all(each, each == 'b')",
        ["if"] = "a ? b : c",
        ["iif"] = "a ? b : c",
        ["and"] = "a && b",
        ["or"] = "a || b",
        ["not"] = "!(a)",
        ["abs"] = "a < 0 ? -a : a",
        ["min"] = "a < b ? a : b",
        ["max"] = "a > b ? a : b",
        ["year"] = "a.getFullYear()",
        ["month"] = "a.getMonth() + 1",
        ["day"] = "a.getDate()",
        ["weekday"] = "a.getDayOfWeek()",
        ["hour"] = "a.getHours()",
        ["minute"] = "a.getMinutes()",
        ["getYear"] = "a.getFullYear()",
        ["getDay"] = "a.getDayOfWeek()",
        ["hasRole"] = "'role' in user.roles",
        ["inRole"] = "'role' in user.roles",
    };

    /// <summary>Behind a dot, by the type before it: no fields, but calls.</summary>
    private static readonly Dictionary<(string Type, string Name), string> Members = new()
    {
        [("timestamp", "year")] = "getFullYear()",
        [("timestamp", "month")] = "getMonth() + 1",
        [("timestamp", "day")] = "getDate()",
        [("timestamp", "date")] = "getDate()",
        [("timestamp", "weekday")] = "getDayOfWeek()",
        [("timestamp", "hour")] = "getHours()",
        [("timestamp", "hours")] = "getHours()",
        [("timestamp", "minute")] = "getMinutes()",
        [("timestamp", "minutes")] = "getMinutes()",
        [("timestamp", "second")] = "getSeconds()",
        [("duration", "hours")] = "getHours()",
        [("duration", "minutes")] = "getMinutes()",
        [("duration", "seconds")] = "getSeconds()",
        [("string", "length")] = "size()",
        [("string", "count")] = "size()",
        [("list", "length")] = "size()",
        [("list", "count")] = "size()",
        [("list", "size")] = "size()",
        [("string", "size")] = "size()",
    };

    private static readonly Dictionary<string, string> Names = new(StringComparer.OrdinalIgnoreCase)
    {
        ["roles"] = "user.roles",
        ["role"] = "'role' in user.roles",
        ["me"] = "user.id",
        ["currentUser"] = "user.id",
        ["self"] = "record",
        ["this"] = "record",
        ["row"] = "record",
        ["entity"] = "record",
        ["language"] = "locale",
        ["undefined"] = "a == null",
        ["none"] = "a == null",
        ["nil"] = "a == null",
        ["yes"] = "true",
        ["no"] = "false",
        ["action"] = "mode",
    };

    public static Message Instead(string code) => $"; write {Message.Verbatim(code)}";

    /// <summary>A word where an operator or the end is expected; nothing where it is none that people write there.</summary>
    public static Message Join(string word) => In(Joins, word);

    /// <summary>The sign of another language that begins at a place; null where none does.</summary>
    public static (string Sign, Message Hint)? Sign(string text, int at)
    {
        var sign = Signs.Keys.Where(each => string.CompareOrdinal(text, at, each, 0, each.Length) == 0).MaxBy(each => each.Length);
        return sign is null ? null : (sign, Instead(Signs[sign]));
    }

    public static string? Function(string name) => Functions.GetValueOrDefault(name);

    /// <summary>What stands behind a dot, and is called rather than read; null where nothing is like it.</summary>
    public static string? Member(string type, string name) => Members.GetValueOrDefault((type, name));

    public static string? Name(string name) => Names.GetValueOrDefault(name);

    private static Message In(Dictionary<string, string> habits, string word) =>
        habits.TryGetValue(word, out var code) ? Instead(code) : (Message)$"";
}
