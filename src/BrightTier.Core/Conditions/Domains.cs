using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

/// <summary>One thing a condition reads, with the values that are enough to look at.</summary>
internal sealed record Variable(string Name, IReadOnlyList<object?> Candidates);

/// <summary>
/// Finds for everything a condition reads finitely many values that stand for all: if any record brings the condition to an outcome, one
/// made of
/// these does. For things that are ordered, those are the constants they are compared with, their bounds, and, in each gap between, as many
/// values
/// as there are things compared with one another; for texts and references the constants and as many fresh ones.
/// </summary>
internal sealed class Domains
{
    private readonly Entity entity;
    private readonly Definitions definitions;
    private readonly Dictionary<string, Read> reads = new(StringComparer.Ordinal);

    private Domains(Entity entity, Definitions definitions)
    {
        this.entity = entity;
        this.definitions = definitions;
    }

    public IReadOnlyList<Variable> Variables { get; private set; } = [];

    /// <summary>Whether something is read one step through a reference.</summary>
    public bool Steps => reads.Keys.Any(name => name.LastIndexOf('.') > "record.".Length);

    /// <summary>What lies outside of what can be answered for certain; null when nothing does.</summary>
    public Message? Outside { get; private set; }

    /// <summary>
    /// Something read: its field where it is one, what it is compared with, and the group of things compared with one another.
    /// </summary>
    private sealed class Read(string name, Field? of)
    {
        public string Name => name;

        public Field? Field => of;

        public int Times { get; set; }

        public List<object> Constants { get; } = [];

        public Read? Leader { get; set; }

        public Read Group
        {
            get
            {
                var at = this;
                while (at.Leader is { } above)
                {
                    at = above;
                }

                return at;
            }
        }
    }

    public static Domains Of(Expression condition, Entity entity, Definitions definitions)
    {
        var domains = new Domains(entity, definitions);
        domains.Truth(condition);
        if (domains.reads.ContainsKey("today") && domains.reads.ContainsKey("now"))
        {
            domains.Outside ??= $"today and now are not independent of one another";
        }

        var groups = domains.reads.Values.GroupBy(read => read.Group).ToDictionary(group => group.Key, group => group.ToArray());
        // Few values first: they decide most for least.
        domains.Variables =
        [
            .. domains
                .reads.Values.Select(read => new Variable(read.Name, domains.Candidates(read, groups[read.Group])))
                .OrderBy(variable => variable.Candidates.Count)
                .ThenByDescending(variable => domains.reads[variable.Name].Times),
        ];
        return domains;
    }

    private void Beyond(Message why) => Outside ??= why;

    /// <summary>A part whose value is true or false.</summary>
    private void Truth(Expression part)
    {
        switch (part)
        {
            case Expression.Literal { Value: bool }:
                return;
            case Expression.Binary { Operator: "&&" or "||" } logic:
                Truth(logic.Left);
                Truth(logic.Right);
                return;
            case Expression.Unary { Operator: "!" } not:
                Truth(not.Operand);
                return;
            case Expression.Conditional conditional:
                Truth(conditional.Test);
                Truth(conditional.Then);
                Truth(conditional.Otherwise);
                return;
            case Expression.Has has when ReadOf(has.Operand) is not null:
                return;
            case Expression.Select select when ReadOf(select) is { Field.Type: FieldType.Boolean }:
                return;
            case Expression.Binary { Operator: "==" or "!=" or "<" or "<=" or ">" or ">=" } comparison:
                Compared(comparison);
                return;
            case Expression.Binary { Operator: "in" } membership:
                Member(membership);
                return;
            default:
                Anything(
                    part,
                    part is Expression.Call call
                        ? (Message)$"{call.Function}() is outside of what can be answered for certain"
                        : $"this is outside of what can be answered for certain"
                );
                return;
        }
    }

    /// <summary>A part that is not modelled: what it reads still gets values, so that a witness may be found.</summary>
    private void Anything(Expression part, Message why)
    {
        Beyond(why);
        foreach (var each in part.Walk())
        {
            if (ReadOf(each) is { } read && each.Parts.All(below => ReadOf(below) is null))
            {
                foreach (var constant in part.Walk().Select(Constant).Where(value => value is string or long or double or Moment))
                {
                    read.Constants.Add(constant!);
                }
            }
        }
    }

    private void Compared(Expression.Binary comparison)
    {
        var ordered = comparison.Operator is not ("==" or "!=");
        var (left, right) = (ReadOf(comparison.Left), ReadOf(comparison.Right));
        var (a, b) = (Constant(comparison.Left), Constant(comparison.Right));
        switch (left, right)
        {
            case (not null, not null):
                if ((ordered && IsText(left)) || IsList(left) || IsList(right))
                {
                    Beyond($"the order of texts is outside of what can be answered for certain");
                }

                if (Sort(left) != Sort(right))
                {
                    Beyond($"things of two sorts are compared with one another");
                }

                if (left.Group != right.Group)
                {
                    left.Group.Leader = right.Group;
                }

                return;
            case (not null, null) when IsConstant(comparison.Right):
                With(left, b);
                return;
            case (null, not null) when IsConstant(comparison.Left):
                With(right, a);
                return;
            case (null, null) when IsConstant(comparison.Left) && IsConstant(comparison.Right):
                return;
            default:
                Anything(comparison, $"arithmetic and functions of what is read are outside of what can be answered for certain");
                return;
        }

        void With(Read read, object? constant)
        {
            if (constant is not null)
            {
                read.Constants.Add(constant);
            }

            if (
                (
                    ordered
                    && (IsText(read) || read.Field?.Type is FieldType.Choice || read.Field is null && read.Name is not ("today" or "now"))
                ) || (IsList(read) && constant is not null)
            )
            {
                Beyond($"the order of texts is outside of what can be answered for certain");
            }
        }
    }

    private void Member(Expression.Binary membership)
    {
        if (
            ReadOf(membership.Left) is { } read
            && !IsList(read)
            && membership.Right is Expression.ListOf list
            && list.Elements.All(IsConstant)
        )
        {
            read.Constants.AddRange(list.Elements.Select(Constant).OfType<object>());
        }
        else if (IsConstant(membership.Left) && ReadOf(membership.Right) is { } several && IsList(several))
        {
            if (Constant(membership.Left) is { } constant)
            {
                several.Constants.Add(constant);
            }
        }
        else if (!(IsConstant(membership.Left) && membership.Right is Expression.ListOf constants && constants.Elements.All(IsConstant)))
        {
            Anything(membership, $"looking in a list that is not written out is outside of what can be answered for certain");
        }
    }

    private static bool IsText(Read read) =>
        read.Field is { } field
            ? field.Type.IsShortText() || field.Type is FieldType.LongText or FieldType.Time or FieldType.Image or FieldType.File
            : read.Name is "user.id";

    private static string Sort(Read read) =>
        read.Field?.Type switch
        {
            FieldType.Boolean => "truth",
            FieldType.Integer or FieldType.Rating or FieldType.Decimal or FieldType.Money => "number",
            FieldType.Date or FieldType.DateTime => "moment",
            FieldType.Reference => "reference",
            null when read.Name is "today" or "now" => "moment",
            _ => "text",
        };

    private static bool IsList(Read read) => read.Field?.Type is FieldType.Choices || read.Name == "user.roles";

    private Read? ReadOf(Expression part)
    {
        var (name, field) = part switch
        {
            Expression.Select { Target: Expression.Name { Identifier: "record" } } select => (
                "record." + select.Field,
                FieldOf(select.Field)
            ),
            Expression.Select { Target: Expression.Name { Identifier: "user" } } select => ("user." + select.Field, null),
            Expression.Name { Identifier: "mode" or "locale" or "today" or "now" } named => (named.Identifier, null),
            _ => ("", null),
        };
        if (name.Length == 0 || (field is null && name.StartsWith("record.", StringComparison.Ordinal)))
        {
            return null;
        }

        var read = reads.TryGetValue(name, out var known) ? known : reads[name] = new Read(name, field);
        read.Times++;
        return read;
    }

    private Field? FieldOf(string key)
    {
        var own = Expression.Own(key);
        return own == key ? entity.Find(key)
            : entity.Find(own)?.Target is { } target ? definitions.Entities.GetValueOrDefault(target)?.Find(key[(own.Length + 1)..])
            : null;
    }

    private static bool IsConstant(Expression part) => part is Expression.Literal || (!part.HasNames && Constant(part) is not Failure);

    private static object? Constant(Expression part) =>
        part is Expression.Literal literal ? literal.Value
        : part.HasNames ? null
        : Evaluator.Evaluate(part, Reducer.Nothing);

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
