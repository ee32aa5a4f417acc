using System.Globalization;
using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

// The values worth trying.
internal sealed partial class Domains
{
    private IReadOnlyList<object?> Candidates(Read read, Read[] group)
    {
        var constants = group
            .SelectMany(each => each.Constants)
            .Concat(
                group.Length == 1
                    ? []
                    : group
                        .Select(each => each.Field)
                        .OfType<Field>()
                        .SelectMany(field => ChoicesOf(field) is { } choices ? choices.Select(choice => (object)choice.Key) : [])
            )
            .Distinct()
            .ToArray();
        return read switch
        {
            { Name: "mode" } => ["edit", "create", "view"],
            { Name: "locale" } => [.. definitions.Application.Languages.Concat(constants.OfType<string>()).Distinct()],
            { Name: "user.roles" } =>
            [
                .. Subsets([
                    .. constants
                        .OfType<string>()
                        .Where(key => definitions.Application.Roles.IsEmpty || definitions.Application.Roles.Any(role => role.Key == key)),
                ]),
            ],
            { Name: "today" or "now" } => [.. Moments(read, group, constants)],
            { Field: { } field } => [.. Candidates(field, read, group, constants), null],
            _ => [.. Texts(group, constants)],
        };
    }

    private IEnumerable<object?> Candidates(Field field, Read read, Read[] group, object[] constants)
    {
        switch (field.Type)
        {
            case FieldType.Boolean:
                return [true, false];
            case FieldType.Choice:
                return ChoicesOf(field) is { } choices ? choices.Select(choice => (object?)choice.Key) : Texts(group, constants);
            case FieldType.Choices:
                var mentioned = constants.OfType<string>().ToArray();
                var others = ChoicesOf(field)?.Select(choice => choice.Key).Except(mentioned).Take(1).ToArray() ?? ["other"];
                // None of those mentioned needs another that is chosen; with none at all the field is empty.
                return Subsets(mentioned)
                    .Where(subset => ((IReadOnlyList<object?>)subset!).Count > 0)
                    .Concat(others.Select(key => (object?)new object?[] { key }));
            case FieldType.Integer or FieldType.Rating or FieldType.Reference:
                return Ordered(read, group, constants).Select(value => (object?)(long)value);
            case FieldType.Decimal or FieldType.Money:
                return Ordered(read, group, constants).Select(value => (object?)(double)value);
            case FieldType.Date or FieldType.DateTime:
                return Moments(read, group, constants);
            default:
                return Texts(group, constants);
        }
    }

    private System.Collections.Immutable.ImmutableArray<Choice>? ChoicesOf(Field field) =>
        field.ChoiceList is { } key && definitions.ChoiceLists.GetValueOrDefault(key) is { } list ? list.Choices : null;

    /// <summary>The ends an entity sets to the values of a field.</summary>
    private static (decimal? Least, decimal? Most) Bounds(Field field) =>
        field.Type switch
        {
            FieldType.Rating => (field.Min ?? 1, field.Max ?? 5),
            FieldType.Reference => (1, null),
            FieldType.Integer or FieldType.Decimal or FieldType.Money => (field.Min, field.Max),
            _ => (null, null),
        };

    /// <summary>The largest value there can be of a type, either way; moments count in nanoseconds.</summary>
    private static (decimal Least, decimal Most) Ends(Read read) =>
        read.Field is { } field && (field.Type.IsNumber() || field.Type is FieldType.Reference)
            ? (-FieldValues.Most(field), FieldValues.Most(field))
            : ((decimal)Moment.First.Nanoseconds, (decimal)Moment.Last.Nanoseconds);

    private static IEnumerable<object?> Moments(Read read, Read[] group, object[] constants) =>
        Ordered(read, group, constants).Select(value => (object?)new Moment((Int128)value));

    private static IEnumerable<object?> Texts(Read[] group, object[] constants)
    {
        var taken = constants.OfType<string>().Where(text => text.Length > 0).ToArray();
        return taken.Concat(
            Enumerable
                .Range(0, taken.Length + group.Length)
                .Select(i => i < 26 ? ((char)('a' + i)).ToString() : "a" + i.ToString(CultureInfo.InvariantCulture))
                .Except(taken)
                .Take(group.Length)
        );
    }

    private IEnumerable<object?> Subsets(string[] keys)
    {
        if (keys.Length > 8)
        {
            Outside ??= $"it looks for more than eight things in one list";
            keys = keys[..8];
        }

        return Enumerable
            .Range(0, 1 << keys.Length)
            .Select(bits => (object?)keys.Where((_, i) => (bits & (1 << i)) != 0).Cast<object?>().ToArray());
    }

    private const decimal Day = 86_400_000_000_000m;

    /// <summary>The distance between neighbouring values; moments count in nanoseconds.</summary>
    private static decimal Grid(Read read) =>
        read.Field switch
        {
            { Type: FieldType.Decimal } field => Step(field.Scale),
            { Type: FieldType.Money } => Step(2),
            { Type: FieldType.Date } => Day,
            { Type: FieldType.DateTime } => 1_000_000_000m,
            null when read.Name == "today" => Day,
            null => 1_000_000_000m,
            _ => 1,
        };

    private static decimal Step(int scale) => new(1, 0, 0, false, (byte)scale);

    /// <summary>Values of one grid, within bounds, that stand for all as far as the group can tell them apart.</summary>
    private static IEnumerable<decimal> Ordered(Read read, Read[] group, object[] constants)
    {
        var own = Grid(read);
        var points = new SortedSet<decimal>();
        foreach (var constant in constants)
        {
            switch (constant)
            {
                case long whole:
                    points.Add(whole);
                    break;
                // One that is larger is larger than every value there can be.
                case double number when Math.Abs(number) < 1e18:
                    points.Add(
                        decimal.Parse(number.ToString("R", CultureInfo.InvariantCulture), NumberStyles.Float, CultureInfo.InvariantCulture)
                    );
                    break;
                case Moment moment:
                    points.Add((decimal)moment.Nanoseconds);
                    break;
            }
        }

        foreach (
            var bound in group
                .Select(each => each.Field)
                .OfType<Field>()
                .Select(Bounds)
                .SelectMany(bounds => new[] { bounds.Least, bounds.Most })
                .OfType<decimal>()
        )
        {
            points.Add(bound);
        }

        if (points.Count == 0)
        {
            points.Add(
                group.Any(each => each.Name is "today" or "now" || each.Field?.Type is FieldType.Date or FieldType.DateTime)
                    ? 20_000 * Day
                    : 0
            );
        }

        foreach (var grid in group.Select(Grid).Append(own).Distinct().OrderDescending())
        {
            Fill(points, grid, group.Length);
        }

        var (least, most) = read.Field is { } field ? Bounds(field) : (null, null);
        var ends = Ends(read);
        return points.Where(value =>
            decimal.Remainder(value, own) == 0 && value >= ends.Least && value <= ends.Most && !(value < least) && !(value > most)
        );
    }

    /// <summary>Puts up to so many values of a grid into every gap, before the first and behind the last.</summary>
    private static void Fill(SortedSet<decimal> points, decimal grid, int count)
    {
        var sorted = points.ToArray();
        for (var i = 0; i <= sorted.Length; i++)
        {
            var from = i == 0 ? decimal.Floor(sorted[0] / grid) * grid - ((count + 1) * grid) : decimal.Floor(sorted[i - 1] / grid) * grid;
            for (var added = 0; added < count; added++)
            {
                from += grid;
                if (i < sorted.Length && from >= sorted[i])
                {
                    break;
                }

                points.Add(from);
            }
        }
    }
}
