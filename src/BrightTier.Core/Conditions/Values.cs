using System.Globalization;

namespace BrightTier.Core.Conditions;

/// <summary>
/// A point in time as conditions have it: nanoseconds since 1970-01-01T00:00:00Z, from year 1 to year 9999
/// (the range of the language definition's timestamps).
/// </summary>
public readonly record struct Moment(Int128 Nanoseconds) : IComparable<Moment>
{
    internal const long PerSecond = 1_000_000_000;

    /// <summary>The beginning of year 1.</summary>
    public static readonly Moment First = new((Int128)(DateTime.MinValue - DateTime.UnixEpoch).Ticks * 100);

    /// <summary>The end of year 9999.</summary>
    public static readonly Moment Last = new(((Int128)(DateTime.MaxValue - DateTime.UnixEpoch).Ticks * 100) + 99);

    public static Moment Of(DateTimeOffset moment) => new((Int128)(moment.UtcDateTime - DateTime.UnixEpoch).Ticks * 100);

    /// <summary>Midnight UTC of a day.</summary>
    public static Moment Of(DateOnly day) => Of(new DateTimeOffset(day.ToDateTime(TimeOnly.MinValue), TimeSpan.Zero));

    /// <summary>Whether it is from year 1 to year 9999.</summary>
    public bool InRange => this >= First && this <= Last;

    /// <summary>The day and time to the tick of 100 nanoseconds, rounded down.</summary>
    public DateTimeOffset ToDateTimeOffset() => new(DateTime.UnixEpoch.AddTicks((long)FloorDivide(Nanoseconds, 100)), TimeSpan.Zero);

    public long Seconds => (long)FloorDivide(Nanoseconds, PerSecond);

    /// <summary>Nanoseconds within the second, 0 to 999,999,999.</summary>
    public int Fraction => (int)(Nanoseconds - ((Int128)Seconds * PerSecond));

    public int CompareTo(Moment other) => Nanoseconds.CompareTo(other.Nanoseconds);

    public static bool operator <(Moment left, Moment right) => left.CompareTo(right) < 0;

    public static bool operator >(Moment left, Moment right) => left.CompareTo(right) > 0;

    public static bool operator <=(Moment left, Moment right) => left.CompareTo(right) <= 0;

    public static bool operator >=(Moment left, Moment right) => left.CompareTo(right) >= 0;

    /// <summary>RFC 3339, at most nine digits of a second.</summary>
    public static bool TryParse(string text, out Moment moment)
    {
        moment = default;
        if (text.Length < 20 || text[10] != 'T')
        {
            return false;
        }

        var zoneAt = text[^1] == 'Z' ? text.Length - 1 : text.Length - 6;
        if (
            zoneAt < 19
            || !DateTime.TryParseExact(text[..19], "yyyy-MM-dd'T'HH:mm:ss", CultureInfo.InvariantCulture, DateTimeStyles.None, out var wall)
            || !Offset(text[zoneAt..], out var offset)
        )
        {
            return false;
        }

        var fraction = text[19..zoneAt];
        if (fraction.Length > 0 && (fraction[0] != '.' || fraction.Length is < 2 or > 10 || !fraction[1..].All(char.IsAsciiDigit)))
        {
            return false;
        }

        var nanoseconds = fraction.Length == 0 ? 0 : int.Parse(fraction[1..].PadRight(9, '0'), CultureInfo.InvariantCulture);
        moment = new Moment(((Int128)((wall - DateTime.UnixEpoch).Ticks - offset.Ticks) * 100) + nanoseconds);
        return moment.InRange;
    }

    /// <summary>Z, or hours and minutes with or without a sign: +11:00, -02:30, 02:00.</summary>
    internal static bool Offset(string text, out TimeSpan offset)
    {
        offset = default;
        if (text == "Z")
        {
            return true;
        }

        var negative = text.StartsWith('-');
        return TimeSpan.TryParseExact(text.TrimStart('+', '-'), @"hh\:mm", CultureInfo.InvariantCulture, out offset)
            && text.Length - text.TrimStart('+', '-').Length <= 1
            && (offset = negative ? -offset : offset) == offset;
    }

    /// <summary>RFC 3339 in UTC, with as many groups of three digits of a second as it takes.</summary>
    public override string ToString()
    {
        var fraction = Fraction;
        var digits =
            fraction == 0 ? ""
            : fraction % 1_000_000 == 0 ? $".{fraction / 1_000_000:000}"
            : fraction % 1_000 == 0 ? $".{fraction / 1_000:000000}"
            : $".{fraction:000000000}";
        return string.Create(CultureInfo.InvariantCulture, $"{ToDateTimeOffset().UtcDateTime:yyyy-MM-dd'T'HH:mm:ss}{digits}Z");
    }

    private static Int128 FloorDivide(Int128 value, long by) => value >= 0 ? value / by : -((-value + by - 1) / by);
}

/// <summary>A length of time in nanoseconds, some 292 years either way.</summary>
public readonly record struct Duration(long Nanoseconds)
{
    private static readonly (string Unit, decimal Nanoseconds)[] Units =
    [
        ("ns", 1),
        ("us", 1_000),
        ("µs", 1_000),
        ("ms", 1_000_000),
        ("h", 3_600_000_000_000),
        ("m", 60_000_000_000),
        ("s", 1_000_000_000),
    ];

    /// <summary>A sequence of decimal numbers with units, such as 1h30m or -1.5s; a sign stands before the whole.</summary>
    public static bool TryParse(string text, out Duration duration)
    {
        duration = default;
        var rest = text.AsSpan();
        var negative = rest.StartsWith("-");
        if (negative || rest.StartsWith("+"))
        {
            rest = rest[1..];
        }

        if (rest is "0")
        {
            return true;
        }

        if (rest.IsEmpty || rest.Length > 60)
        {
            return false;
        }

        var total = 0m;
        while (!rest.IsEmpty)
        {
            var end = 0;
            while (end < rest.Length && (char.IsAsciiDigit(rest[end]) || rest[end] == '.'))
            {
                end++;
            }

            if (!decimal.TryParse(rest[..end], NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number))
            {
                return false;
            }

            rest = rest[end..];
            var found = false;
            foreach (var (unit, size) in Units)
            {
                if (rest.StartsWith(unit, StringComparison.Ordinal))
                {
                    if (number > long.MaxValue / size)
                    {
                        return false;
                    }

                    total += decimal.Truncate(number * size);
                    rest = rest[unit.Length..];
                    found = true;
                    break;
                }
            }

            if (!found || total > long.MaxValue)
            {
                return false;
            }
        }

        duration = new Duration((long)(negative ? -total : total));
        return true;
    }

    /// <summary>Seconds with a fraction where there is one: 5400s, 1.5s.</summary>
    public override string ToString() =>
        ((decimal)Nanoseconds / Moment.PerSecond).ToString("0.#########", CultureInfo.InvariantCulture) + "s";
}

/// <summary>
/// A map made in a condition: keys are whole numbers, texts or truth values; entries keep their order. Records are not these.
/// </summary>
public sealed class MapValue
{
    private readonly Dictionary<object, object?> entries = new(Keys.Instance);

    public int Count => entries.Count;

    public IEnumerable<object> AllKeys => entries.Keys;

    /// <summary>False when the key is there already or is none of the types a key may have.</summary>
    public bool TryAdd(object? key, object? value) => key is long or string or bool && entries.TryAdd(key, value);

    /// <summary>A double that is a whole number finds the entry of that number.</summary>
    public bool TryGet(object? key, out object? value)
    {
        value = null;
        var sought =
            key is double number && number == Math.Truncate(number) && Math.Abs(number) < 9.2233720368547758E18 ? (long)number : key;
        return sought is not null && entries.TryGetValue(sought, out value);
    }

    private sealed class Keys : IEqualityComparer<object>
    {
        public static readonly Keys Instance = new();

        public new bool Equals(object? x, object? y) => object.Equals(x, y);

        public int GetHashCode(object obj) => obj.GetHashCode();
    }
}
