using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Proposals;

/// <summary>What one wants of a form.</summary>
public enum Aim
{
    /// <summary>Less to scroll.</summary>
    Shorter,

    /// <summary>What belongs together stands together, in even rows.</summary>
    Tidier,
}

/// <summary>Aims as the wire and the command line spell them.</summary>
public static class Aims
{
    public static IReadOnlyList<string> All { get; } = [.. Enum.GetValues<Aim>().Select(Name)];

    public static string Name(Aim aim) => aim is Aim.Shorter ? "shorter" : "tidier";

    public static Aim? Parse(string name) =>
        Enum.GetValues<Aim>().Where(aim => Name(aim) == name).Select(aim => (Aim?)aim).FirstOrDefault();
}

/// <summary>One change that makes a form better, with the reason, as edits to the form as the proposals before it leave it.</summary>
/// <param name="Key">The same for the same proposal whatever else is taken: its rule and the node it is about.</param>
/// <param name="Nodes">What it is about, to be shown on the form.</param>
public sealed record Proposal(string Key, Message Reason, ImmutableArray<NodeId> Nodes, ImmutableArray<Edit> Edits);

/// <summary>A form with the proposals that were taken.</summary>
/// <param name="Offered">Every proposal in its order; those that were left out have no edits.</param>
/// <param name="Edits">What makes the form of the one it was, in one change.</param>
public sealed record ProposedForm(Layout Layout, ImmutableArray<Proposal> Offered, ImmutableArray<Edit> Edits);

/// <summary>A way in which forms get better.</summary>
internal interface IProposalRule
{
    /// <summary>Whether what it proposes of a form can be done one after another: none of it touches what another does.</summary>
    bool IsApart { get; }

    /// <summary>What it would do to a form, in the form's order; each by itself, not one after another.</summary>
    IEnumerable<Proposal> Find(FormInQuestion form);
}
