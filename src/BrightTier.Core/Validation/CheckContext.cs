using System.Collections.Immutable;
using BrightTier.Core.Composition;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation;

/// <summary>A condition found on a node's property: its text, its tree when it is right, its problems when not.</summary>
public sealed record PlacedCondition(
    Node Node,
    string Property,
    string Text,
    Expression? Expression,
    IReadOnlyList<ConditionProblem> Problems
)
{
    private ImmutableArray<Answer> answers;

    /// <summary>Whether some record brings it to an outcome; worked out once for all rules. The condition must be right.</summary>
    public Answer Can(Outcome outcome, CheckContext subject)
    {
        if (answers.IsDefault)
        {
            answers = Analysis.All(Expression!, subject.Entity, subject.Definitions);
        }

        return answers[(int)outcome];
    }
}

/// <summary>A text with record values in it: the node, the property, and the fields it names.</summary>
public sealed record PlacedText(Node Node, string Property, ImmutableArray<string> Fields);

/// <summary>What rules look at: a layout put together, with its entity, and what several rules need worked out once.</summary>
public sealed class CheckContext
{
    private readonly Dictionary<NodeId, ImmutableArray<PlacedCondition>> conditionsOf;
    private readonly Dictionary<NodeId, Layout.NodePosition> standings;

    public CheckContext(ComposedLayout assembled, Entity entity, Catalogue catalogue)
    {
        Assembled = assembled;
        Entity = entity;
        Catalogue = catalogue;
        standings = Layout.Standings;
        Nodes = [.. Layout.Walk()];
        Fields = [.. Nodes.Where(node => node.Kind is NodeKind.Field)];
        Conditions = [.. Nodes.SelectMany(Compile)];
        conditionsOf = Conditions
            .GroupBy(condition => condition.Node.Id)
            .ToDictionary(group => group.Key, group => group.ToImmutableArray());
        Texts = [.. Nodes.SelectMany(TextsIn)];
    }

    public ComposedLayout Assembled { get; }

    /// <summary>What users get where no variant is for the width: what it extends laid under it, pieces expanded.</summary>
    public Layout Layout => Assembled.Base;

    public Entity Entity { get; }

    public Catalogue Catalogue { get; }

    public Definitions Definitions => Catalogue.Definitions;

    /// <summary>All nodes in reading order.</summary>
    public ImmutableArray<Node> Nodes { get; }

    /// <summary>The items that show a field, in reading order.</summary>
    public ImmutableArray<Node> Fields { get; }

    public ImmutableArray<PlacedCondition> Conditions { get; }

    /// <summary>Texts and addresses that name fields in braces.</summary>
    public ImmutableArray<PlacedText> Texts { get; }

    /// <summary>The base and every variant, with the variant's name behind it.</summary>
    public IEnumerable<(Layout Layout, string Where)> Widths =>
        Assembled.Variants.Select(variant => (variant.Layout, $" at width '{variant.Range.Name}'")).Prepend((Layout, ""));

    public IEnumerable<Role> Readers => Definitions.Application.Roles.Where(role => role.May.Contains(Permissions.ReadRecords));

    public Field? FieldOf(Node node) => Entity.Find(node.Word("field") ?? "");

    public PlacedCondition? ConditionOn(Node node, string property) =>
        conditionsOf.TryGetValue(node.Id, out var conditions)
            ? conditions.FirstOrDefault(condition => condition.Property == property)
            : null;

    /// <summary>What stands beside a field or over anything else; null where nothing does.</summary>
    public Texts? LabelOf(Node node) =>
        node.Kind is NodeKind.Field
            ? node.Text("label") ?? FieldOf(node)?.Label
            : node.Text("title") ?? node.Text("heading") ?? node.Text("label");

    /// <summary>What a person calls a node.</summary>
    public Message NameOf(Node node) =>
        LabelOf(node) is { } label ? $"{label}"
        : node.Kind is NodeKind.Field ? Message.Verbatim(node.Word("field")!)
        : $"{Grammar.Of(node.Kind).Noun} {node.Id}";

    /// <summary>The node and all around it, innermost first.</summary>
    public IEnumerable<Node> Path(Node node)
    {
        yield return node;
        for (var parent = standings.GetValueOrDefault(node.Id).Parent; parent is { } at; )
        {
            var around = standings[at];
            yield return around.Node;
            parent = around.Parent;
        }
    }

    /// <summary>What a node stands in directly; null for the root.</summary>
    public Node? Holder(Node node) => Path(node).Skip(1).FirstOrDefault();

    /// <summary>How a body or panel shows its pages: stack, tabs, steps or accordion.</summary>
    public static string ArrangementOf(Node? panel) => panel?.Word("arrangement") ?? panel?.Word("panel") ?? "stack";

    /// <summary>The pages of the body and of every panel, with what holds them.</summary>
    public IEnumerable<(Node Panel, ImmutableArray<Node> Pages)> Panels =>
        from node in Nodes
        where node.Kind is NodeKind.Body or NodeKind.Panel
        select (node, node.Children.Where(child => child.Kind is NodeKind.Page).ToImmutableArray());

    /// <summary>
    /// What must hold for a node to be seen: its own visibility and that of everything around it, in one condition; null where one of them
    /// is
    /// ill-formed. Nodes never shown, or not in a mode, count as conditions too.
    /// </summary>
    public Expression? WhenSeen(Node node)
    {
        Expression seen = new Expression.Literal(true, default);
        foreach (var each in Path(node))
        {
            if (each.Flag("hidden"))
            {
                return new Expression.Literal(false, default);
            }

            if (each["visible"] is not null)
            {
                if (ConditionOn(each, "visible")?.Expression is not { } visible)
                {
                    return null;
                }

                seen = And(seen, visible);
            }

            if (each.Words("modes") is { IsEmpty: false } modes)
            {
                var listed = new Expression.ListOf([.. modes.Select(mode => new Expression.Literal(mode, default))], default);
                seen = And(seen, new Expression.Binary("in", new Expression.Name("mode", default), listed, default, default));
            }
        }

        return seen;
    }

    public static Expression And(Expression left, Expression right) =>
        left is Expression.Literal { Value: true } ? right
        : right is Expression.Literal { Value: true } ? left
        : new Expression.Binary("&&", left, right, default, default);

    public static Expression Or(Expression left, Expression right) => new Expression.Binary("||", left, right, default, default);

    public static Expression Not(Expression condition) => new Expression.Unary("!", condition, default);

    private IEnumerable<PlacedCondition> Compile(Node node)
    {
        foreach (var (name, text, _) in Grammar.Expressions(node).Where(each => each.IsCondition))
        {
            var (expression, problems) = Condition.Compile(text, Entity, Definitions);
            yield return new PlacedCondition(node, name, text, expression, problems);
        }
    }

    private static IEnumerable<PlacedText> TextsIn(Node node)
    {
        foreach (var (name, value) in node.Properties)
        {
            var fields = value switch
            {
                Value.Text text when name is "text" && node.Kind is NodeKind.Top or NodeKind.Bottom or NodeKind.Text =>
                    text.Texts.ByLanguage.Values.SelectMany(Placeholders.In),
                Value.Word address when Grammar.Of(node).Find(name)?.Type is PropertyType.Address => Placeholders.In(address.Content),
                _ => [],
            };
            if (fields.Distinct().ToImmutableArray() is { IsEmpty: false } named)
            {
                yield return new PlacedText(node, name, named);
            }
        }
    }
}
