using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation;

/// <summary>How much a finding matters: an error stops publishing, a warning is worth a look, advice is a matter of taste.</summary>
public enum Severity
{
    Advice,
    Warning,
    Error,
}

/// <summary>
/// What a check reports: its code, the place (a node and perhaps one of its properties), a message in the names the configurator sees, the
/// situation in which it shows, and a fix where one exists.
/// </summary>
public sealed record Finding(string Code, Severity Severity, NodeId Node, string? Property, Message Message, Fix? Fix = null)
{
    /// <summary>A situation as evidence, in words: Propulsion 'sail', mode create.</summary>
    public Message? Evidence { get; init; }
}

/// <summary>A finding in a document that is no layout: which document, and where in it (RFC 6901).</summary>
public sealed record DocumentFinding(string Code, Severity Severity, DocumentKind Kind, string Key, string Pointer, Message Message)
{
    public Message? Evidence { get; init; }
}

/// <summary>A change that would mend a finding, and what it does in words.</summary>
public sealed record Fix(Message Label, IReadOnlyList<Edit> Edits);

/// <summary>One rule about layouts: one file, one code. Rules do not know each other.</summary>
public interface IRule
{
    /// <summary>Stable name of what this rule finds.</summary>
    string Code { get; }

    /// <summary>What it looks for and why, in a sentence or two; for the reference in docs.</summary>
    string About { get; }

    IEnumerable<Finding> Check(CheckContext subject);
}

/// <summary>One rule about documents that are no layouts: entities, patterns, routing, the menu, templates.</summary>
public interface IDocumentRule
{
    string Code { get; }

    string About { get; }

    IEnumerable<DocumentFinding> Check(Catalogue catalogue);
}
