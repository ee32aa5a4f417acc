using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Entities;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Checks;

/// <summary>A condition found on a node's property: its text, its tree when it is right, its problems when not.</summary>
public sealed record PlacedCondition(Node Node, string Property, string Text, Expression? Expression, IReadOnlyList<ConditionProblem> Problems);

/// <summary>What rules look at: a layout with its entity, and what several rules need worked out once.</summary>
public sealed class Subject
{
    public Subject(Layout layout, Entity entity, Definitions definitions)
    {
        Layout = layout;
        Entity = entity;
        Definitions = definitions;
        Nodes = [.. layout.Walk()];
        Fields = [.. Nodes.Where(node => node.Kind is NodeKind.Field)];
        Conditions = [.. Nodes.SelectMany(Compile)];
    }

    public Layout Layout { get; }

    public Entity Entity { get; }

    public Definitions Definitions { get; }

    /// <summary>All nodes in reading order.</summary>
    public ImmutableArray<Node> Nodes { get; }

    /// <summary>The items that show a field, in reading order.</summary>
    public ImmutableArray<Node> Fields { get; }

    public ImmutableArray<PlacedCondition> Conditions { get; }

    public Field? FieldOf(Node node) => Entity.Find(node.Word("field") ?? "");

    /// <summary>What a person calls a node.</summary>
    public string NameOf(Node node) => node.Kind switch
    {
        NodeKind.Field => node.Text("label")?.ToString() ?? FieldOf(node)?.Label.ToString() ?? node.Word("field")!,
        _ => node.Text("title")?.ToString() ?? node.Text("heading")?.ToString() ?? $"{Grammar.Of(node.Kind).Name} {node.Id}",
    };

    private IEnumerable<PlacedCondition> Compile(Node node)
    {
        foreach (var rule in Grammar.Of(node).Properties)
        {
            if (rule.Type is PropertyType.Condition or PropertyType.FlagOrCondition && node.Word(rule.Name) is { } text)
            {
                var (expression, problems) = Condition.Compile(text, Entity, Definitions);
                yield return new PlacedCondition(node, rule.Name, text, expression, problems);
            }
        }
    }
}
