using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>
/// What stood in the way of putting the layout together: changes whose node is gone, pieces and layouts that are not there or go in
/// circles, slots unbound.
/// </summary>
public sealed class CompositionProblems : IRule
{
    /// <summary>Every code this rule reports under, with what it means.</summary>
    public static IReadOnlyDictionary<string, string> Codes { get; } =
        new Dictionary<string, string>
        {
            ["override-orphaned"] =
                "A change of a variant, of a layout that extends another, or of a piece's use concerns a node that no longer "
                + "exists. The other changes apply.",
            ["piece-unknown"] = "A piece is used that is not there.",
            ["piece-circle"] = "A piece is used inside itself.",
            ["too-many-nodes"] = "Pieces within pieces bring more nodes than a layout can have; those beyond are left out.",
            ["slot-unbound"] = "A piece's slot is bound to no field at a use, or a field to a slot the piece does not have.",
            ["extends-unknown"] = "A layout extends one that is not there, or is for something else.",
            ["extends-own-part"] = "A layout that extends another has a part of its own beside its changes; it is not shown.",
            ["extends-circle"] = "A layout extends itself by way of others.",
            ["variant-unknown"] = "A variant is for a width that is neither on the application's scale nor has a cut point of its own.",
        };

    public string Code => "override-orphaned";

    public string About => Codes[Code];

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from problem in subject.Assembled.Problems
        let orphaned = problem.Code == "override-orphaned" && subject.Assembled.Source.Find(problem.Node) is { Kind: NodeKind.Change }
        select new Finding(
            problem.Code,
            orphaned ? Severity.Warning : Severity.Error,
            problem.Node,
            null,
            problem.Message,
            orphaned ? new Fix($"Remove the change", [new Edit.Remove(problem.Node)]) : null
        );
}
