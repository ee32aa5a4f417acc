using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A reference that copies, or filters by, a field of another type.</summary>
public sealed class ReferenceUnlike : IRule
{
    public string Code => "reference-unlike";

    public string About => "A reference copies a value into a field of another type, or filters by fields that can never be equal.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        let target = subject.FieldOf(node)?.Target is { } key ? subject.Definitions.Entities.GetValueOrDefault(key) : null
        where target is not null
        from pair in Pairs(node, subject.Entity, target)
        where pair.Own is not null && pair.Theirs is not null && !Fits(pair.Own, pair.Theirs, pair.Property == "copies")
        select new Finding(Code, Severity.Error, node.Id, pair.Property, Problem(pair.Own, pair.Theirs, target, pair.Property == "copies"));

    private static Message Problem(Field own, Field theirs, Entity target, bool copied) =>
        copied
            ? (Message)(
                $"'{theirs.Label}' of '{target.Label}' is of type {theirs.Type.Name()} and cannot be copied into "
                + $"'{own.Label}', which is of type {own.Type.Name()}."
            )
            : (Message)(
                $"'{theirs.Label}' of '{target.Label}' is of type {theirs.Type.Name()} and never equals "
                + $"'{own.Label}', which is of type {own.Type.Name()}."
            );

    private static IEnumerable<(string Property, Field? Own, Field? Theirs)> Pairs(Node node, Entity entity, Entity target) =>
        node.Pairs("copies")
            .Select(pair => ("copies", entity.Find(pair.Key), target.Find(pair.Value)))
            .Concat(node.Pairs("filterBy").Select(pair => ("filterBy", entity.Find(pair.Value), target.Find(pair.Key))));

    /// <summary>Texts take texts; what is copied must be a value there too: the same target, the same choices.</summary>
    private static bool Fits(Field own, Field theirs, bool copied) =>
        own.Type == theirs.Type ? own.Target == theirs.Target && (!copied || own.ChoiceList == theirs.ChoiceList)
        : copied
            ? own.Type is FieldType.Text or FieldType.LongText && ConditionType.Of(theirs.Type) == ConditionType.String
                || own.Type is FieldType.Decimal && theirs.Type is FieldType.Integer or FieldType.Money or FieldType.Rating
        : ConditionType.Of(own.Type) is var one
            && ConditionType.Of(theirs.Type) is var other
            && (one == other || (one.IsNumber && other.IsNumber))
            && own.Target == theirs.Target;
}
