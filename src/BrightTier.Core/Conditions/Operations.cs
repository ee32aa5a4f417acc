using System.Globalization;

namespace BrightTier.Core.Conditions;

/// <summary>Operators and functions over values. Every one yields a value or a <see cref="Failure"/>; none throws.</summary>
internal static class Operations
{
    public static object? Negate(string op, object? operand) => (op, operand) switch
    {
        (_, Failure) => operand,
        ("!", bool flag) => !flag,
        ("-", long.MinValue) => new Failure("overflow"),
        ("-", long whole) => -whole,
        ("-", double number) => -number,
        _ => new Failure($"no such operation: {op}"),
    };

    public static object? Combine(string op, object? left, object? right)
    {
        if (left is Failure || right is Failure)
        {
            return left as Failure ?? right;
        }

        return op switch
        {
            "==" => AreEqual(left, right),
            "!=" => !AreEqual(left, right),
            "<" or "<=" or ">" or ">=" => Compare(left, right) is { } order
                ? order.HasValue && op switch { "<" => order < 0, "<=" => order <= 0, ">" => order > 0, _ => order >= 0 }
                : new Failure($"no such operation: {op}"),
            "in" => right is IReadOnlyList<object?> list ? list.Any(element => AreEqual(left, element)) : new Failure("'in' looks in a list"),
            _ => Arithmetic(op, left, right),
        };
    }

    public static bool AreEqual(object? left, object? right) => (left, right) switch
    {
        (null, null) => true,
        (bool a, bool b) => a == b,
        (string a, string b) => string.Equals(a, b, StringComparison.Ordinal),
        (DateTimeOffset a, DateTimeOffset b) => a.UtcTicks == b.UtcTicks,
        (IReadOnlyList<object?> a, IReadOnlyList<object?> b) => a.Count == b.Count && a.Zip(b).All(pair => AreEqual(pair.First, pair.Second)),
        (long or double, long or double) => Compare(left, right) is { HasValue: true, Order: 0 },
        _ => false,
    };

    /// <summary>An order, or none where one side is not a number (NaN).</summary>
    private readonly record struct Ordering(bool HasValue, int Order)
    {
        public static bool operator <(Ordering a, int b) => a.Order < b;

        public static bool operator >(Ordering a, int b) => a.Order > b;

        public static bool operator <=(Ordering a, int b) => a.Order <= b;

        public static bool operator >=(Ordering a, int b) => a.Order >= b;
    }

    private static Ordering? Compare(object? left, object? right) => (left, right) switch
    {
        (long a, long b) => new Ordering(true, a.CompareTo(b)),
        (double a, double b) => double.IsNaN(a) || double.IsNaN(b) ? new Ordering(false, 0) : new Ordering(true, a.CompareTo(b)),
        (long a, double b) => CompareMixed(a, b),
        (double a, long b) => CompareMixed(b, a) is var order ? order with { Order = -order.Order } : null,
        (bool a, bool b) => new Ordering(true, a.CompareTo(b)),
        (string a, string b) => new Ordering(true, string.CompareOrdinal(a, b)),
        (DateTimeOffset a, DateTimeOffset b) => new Ordering(true, a.UtcTicks.CompareTo(b.UtcTicks)),
        _ => null,
    };

    private static Ordering CompareMixed(long whole, double number) => number switch
    {
        double.NaN => new Ordering(false, 0),
        >= 9.2233720368547758E18 => new Ordering(true, -1),
        < -9.2233720368547758E18 => new Ordering(true, 1),
        _ => new Ordering(true, whole.CompareTo((long)Math.Truncate(number)) is var order && order != 0 ? order : -number.CompareTo(Math.Truncate(number))),
    };

    private static object? Arithmetic(string op, object? left, object? right)
    {
        switch (left, right)
        {
            case (long a, long b):
                if (op is "/" or "%" && b == 0)
                {
                    return new Failure(op == "/" ? "divide by zero" : "modulus by zero");
                }

                try
                {
                    return op switch
                    {
                        "+" => checked(a + b),
                        "-" => checked(a - b),
                        "*" => checked(a * b),
                        "/" => checked(a / b),
                        "%" => b == -1 ? 0L : a % b,
                        _ => new Failure($"no such operation: {op}"),
                    };
                }
                catch (OverflowException)
                {
                    return new Failure("overflow");
                }

            case (double a, double b) when op != "%":
                return op switch { "+" => a + b, "-" => a - b, "*" => a * b, _ => a / b };
            case (string a, string b) when op == "+":
                return a + b;
            case (IReadOnlyList<object?> a, IReadOnlyList<object?> b) when op == "+":
                return a.Concat(b).ToArray();
            default:
                return new Failure($"no such operation: {op}");
        }
    }

    public static object? Call(string function, object?[] arguments) => (function, arguments) switch
    {
        ("size", [string text]) => text.EnumerateRunes().LongCount(),
        ("size", [IReadOnlyList<object?> list]) => (long)list.Count,
        ("contains", [string text, string part]) => text.Contains(part, StringComparison.Ordinal),
        ("startsWith", [string text, string part]) => text.StartsWith(part, StringComparison.Ordinal),
        ("endsWith", [string text, string part]) => text.EndsWith(part, StringComparison.Ordinal),
        ("timestamp", [string text]) => Evaluator.TryTimestamp(text, out var moment) ? moment : new Failure("no point in time"),
        ("timestamp", [DateTimeOffset moment]) => moment,
        ("int", [long whole]) => whole,
        ("int", [double number]) => number is > -9.2233720368547758E18 and < 9.2233720368547758E18 ? (long)number : new Failure("range"),
        ("int", [string text]) => long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var parsed) ? parsed : new Failure("no whole number"),
        ("double", [long whole]) => (double)whole,
        ("double", [double number]) => number,
        ("double", [string text]) => double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var parsed) ? parsed : new Failure("no number"),
        ("string", [string text]) => text,
        ("string", [long whole]) => whole.ToString(CultureInfo.InvariantCulture),
        ("string", [bool flag]) => flag ? "true" : "false",
        _ => new Failure($"no such operation: {function}"),
    };
}
