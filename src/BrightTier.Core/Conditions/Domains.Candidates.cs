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
            { Name: "today" } => [.. Ordered(group, constants, Grid(read), null, null).Select(value => (object?)new Moment((Int128)value))],
            { Name: "now" } => [.. Ordered(group, constants, Grid(read), null, null).Select(value => (object?)new Moment((Int128)value))],
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
            case FieldType.Integer or FieldType.Rating:
                var (least, most) = Bounds(field);
                return Ordered(group, constants, 1, least, most).Select(value => (object?)(long)value);
            case FieldType.Decimal or FieldType.Money:
                return Ordered(group, constants, Grid(read), field.Min, field.Max).Select(value => (object?)(double)value);
            case FieldType.Date or FieldType.DateTime:
                return Ordered(group, constants, Grid(read), null, null).Select(value => (object?)new Moment((Int128)value));
            case FieldType.Reference:
                var taken = constants.OfType<long>().ToHashSet();
                return taken
                    .Where(id => id > 0)
                    .Cast<object?>()
                    .Concat(
                        Enumerable
                            .Range(1, taken.Count + group.Length)
                            .Select(id => (long)id)
                            .Where(id => !taken.Contains(id))
                            .Take(group.Length)
                            .Cast<object?>()
                    );
            default:
                return Texts(group, constants);
        }
    }

    private System.Collections.Immutable.ImmutableArray<Choice>? ChoicesOf(Field field) =>
        field.ChoiceList is { } key && definitions.ChoiceLists.GetValueOrDefault(key) is { } list ? list.Choices : null;

    private static (decimal? Least, decimal? Most) Bounds(Field field) =>
        field.Type is FieldType.Rating ? (field.Min ?? 1, field.Max ?? 5) : (field.Min, field.Max);

    private static IEnumerable<object?> Texts(Read[] group, object[] constants)
    {
        var taken = constants.OfType<string>().Where(text => text.Length > 0).ToArray();
        return taken.Concat(
            Enumerable
                .Range(0, taken.Length + group.Length)
                .Select(i => i < 26 ? ((char)('a' + i)).ToString() : "a" + i.ToString(System.Globalization.CultureInfo.InvariantCulture))
                .Except(taken)
                .Take(group.Length)
        );
    }

    private IEnumerable<object?> Subsets(string[] keys)
    {
        if (keys.Length > 8)
        {
            Beyond($"it looks for more than eight things in one list");
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
    private IEnumerable<decimal> Ordered(Read[] group, object[] constants, decimal own, decimal? least, decimal? most)
    {
        var points = new SortedSet<decimal>();
        foreach (var constant in constants)
        {
            switch (constant)
            {
                case long whole:
                    points.Add(whole);
                    break;
                case double number when Math.Abs(number) < 1e15:
                    points.Add((decimal)number);
                    break;
                case double:
                    Beyond($"a number is too large");
                    break;
                case Moment moment:
                    points.Add((decimal)moment.Nanoseconds);
                    break;
            }
        }

        foreach (
            var bound in group
                .Select(read => read.Field)
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
                group.Any(read => read.Name is "today" or "now" || read.Field?.Type is FieldType.Date or FieldType.DateTime)
                    ? 20_000 * Day
                    : 0
            );
        }

        foreach (var grid in group.Select(Grid).Append(own).Distinct().OrderDescending())
        {
            Fill(points, grid, group.Length);
        }

        return points.Where(value => decimal.Remainder(value, own) == 0 && !(value < least) && !(value > most));
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
