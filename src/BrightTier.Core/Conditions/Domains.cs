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
internal sealed partial class Domains
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

    /// <summary>What makes no answer but a witness certain; null when nothing does.</summary>
    public Message? Outside { get; private set; }

    private readonly Dictionary<Expression, Message> outside = new(ReferenceEqualityComparer.Instance);

    /// <summary>Why a part, or something in it, is outside of what can be answered for certain; null when nothing is.</summary>
    public Message? WhyOutside(Expression part) =>
        outside.Count == 0 ? null : part.Walk().Select(each => outside.GetValueOrDefault(each)).FirstOrDefault(why => why is not null);

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

    private void Beyond(Expression comparison, Message why) => outside.TryAdd(comparison, why);

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
        Beyond(part, why);
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
                    Beyond(comparison, $"the order of texts is outside of what can be answered for certain");
                }

                if (Sort(left) != Sort(right))
                {
                    Beyond(comparison, $"things of two sorts are compared with one another");
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
                Beyond(comparison, $"the order of texts is outside of what can be answered for certain");
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
            FieldType.Integer or FieldType.Rating or FieldType.Decimal or FieldType.Money or FieldType.Reference => "number",
            FieldType.Date or FieldType.DateTime => "moment",
            null when read.Name is "today" or "now" => "moment",
            _ => "text",
        };

    private static bool IsList(Read read) => read.Field?.Type is FieldType.Choices || read.Name == "user.roles";

    /// <summary>The name of what a part reads, record.length or today; empty where it reads nothing.</summary>
    public static string NameOf(Expression part) =>
        part switch
        {
            Expression.Select { Target: Expression.Name { Identifier: "record" or "user" } of } select => $"{of.Identifier}.{select.Field}",
            Expression.Name { Identifier: "mode" or "locale" or "today" or "now" } named => named.Identifier,
            _ => "",
        };

    private Read? ReadOf(Expression part)
    {
        var name = NameOf(part);
        var ofRecord = name.StartsWith("record.", StringComparison.Ordinal);
        var field = ofRecord ? definitions.FieldRead(entity, name["record.".Length..]) : null;
        if (name.Length == 0 || (field is null && ofRecord))
        {
            return null;
        }

        var read = reads.TryGetValue(name, out var known) ? known : reads[name] = new Read(name, field);
        read.Times++;
        return read;
    }

    private static bool IsConstant(Expression part) => part is Expression.Literal || (!part.HasNames && Constant(part) is not Failure);

    private static object? Constant(Expression part) =>
        part is Expression.Literal literal ? literal.Value
        : part.HasNames ? null
        : Evaluator.Evaluate(part, Reducer.Nothing);
}
