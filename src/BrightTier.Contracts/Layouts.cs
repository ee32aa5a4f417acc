using System.Text.Json;

namespace BrightTier.Contracts;

/// <param name="Published">The revision that is published, or null when none ever was.</param>
public sealed record LayoutSummary(string Key, string Entity, string Title, long Revision, long? Published, int Errors, int Warnings, DateTimeOffset ChangedAt, string ChangedBy);

/// <summary>A draft: its tree of nodes as docs/api.md describes, and what the checks find.</summary>
public sealed record LayoutDraft(string Key, string Entity, long Revision, long? Published, JsonElement Tree, IReadOnlyList<FindingInfo> Findings);

public sealed record FindingInfo(string Code, string Severity, string Node, string? Property, string Message, FixInfo? Fix);

public sealed record FixInfo(string Label, JsonElement Edits);

/// <summary>Makes a draft for an entity: <c>generated</c>, <c>empty</c> (only what is required) or a copy of another layout's draft, by key.</summary>
public sealed record LayoutRequest(string Entity, string? Key = null, string From = "generated", string Kind = "full");

/// <summary>Edits made against revision <paramref name="Base"/>, applied all or none.</summary>
public sealed record EditRequest(long Base, JsonElement Edits, string? Label = null);

/// <summary>What became of edits: the new revision, the edits as applied with all ids, and what would undo them.</summary>
public sealed record EditsApplied(long Revision, JsonElement Edits, JsonElement Inverse, LayoutDraft Draft);

public sealed record ChangeInfo(long Revision, string By, DateTimeOffset At, string Label, JsonElement Edits);
