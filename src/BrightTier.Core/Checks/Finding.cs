using BrightTier.Core.Edits;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Checks;

/// <summary>How much a finding matters: an error stops publishing, a warning is worth a look, advice is a matter of taste.</summary>
public enum Severity
{
    Advice,
    Warning,
    Error,
}

/// <summary>What a check reports: its code, the place (a node and perhaps one of its properties), a message in the names the configurator sees, and a fix where one exists.</summary>
public sealed record Finding(string Code, Severity Severity, NodeId Node, string? Property, string Message, Fix? Fix = null);

/// <summary>A change that would mend a finding, and what it does in words.</summary>
public sealed record Fix(string Label, IReadOnlyList<Edit> Edits);

/// <summary>One rule: one file, one code. Rules do not know each other.</summary>
public interface IRule
{
    /// <summary>Stable name of what this rule finds.</summary>
    string Code { get; }

    IEnumerable<Finding> Check(Subject subject);
}
