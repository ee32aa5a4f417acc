namespace BrightTier.Storage;

/// <summary>The working copy of a document. A revision counts its changes.</summary>
public sealed class DraftRow
{
    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required long Revision { get; set; }

    /// <summary>The revision last published; null when none was.</summary>
    public long? Published { get; set; }

    /// <summary>Canonical YAML.</summary>
    public required string Content { get; set; }

    public required long ChangedAt { get; set; }

    public required string ChangedBy { get; set; }
}

/// <summary>One change in a draft's history, with its inverse; both as edits on the wire are.</summary>
public sealed class ChangeRow
{
    public required string Kind { get; set; }

    public required string Key { get; set; }

    /// <summary>The revision this change led to.</summary>
    public required long Revision { get; set; }

    public required string Label { get; set; }

    public required string Edits { get; set; }

    public required string Inverse { get; set; }

    /// <summary>
    /// What whoever sent it calls it, so that it is applied once however often it is sent; null where she calls it nothing.
    /// </summary>
    public string? IdempotencyKey { get; set; }

    public required long At { get; set; }

    public required string By { get; set; }
}

/// <summary>A released document's text under its SHA-256, in lower-case hexadecimal. Never changed, never removed.</summary>
public sealed class ContentRow
{
    public required string Hash { get; set; }

    public required string Text { get; set; }
}

/// <summary>
/// What reading a text came to, by the build that read it: thrown away and made again at any time, and in no backup.
/// </summary>
public sealed class LayoutHeadRow
{
    /// <summary>The SHA-256 of the text, as that of a released one.</summary>
    public required string Hash { get; set; }

    public required string Reader { get; set; }

    public required string Head { get; set; }
}

/// <summary>A text that came from elsewhere: in a bundle, or as a file of a folder.</summary>
public sealed class ImportedVersionRow
{
    public long Id { get; set; }

    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required string Hash { get; set; }

    /// <summary>The release everyone had then.</summary>
    public required long After { get; set; }

    /// <summary>Whether it was a file of a folder.</summary>
    public bool FromFiles { get; set; }
}

/// <summary>Somebody's word that a draft is fit to be published as it is at a revision.</summary>
public sealed class ApprovalRow
{
    public required string Kind { get; set; }

    public required string Key { get; set; }

    public required long Revision { get; set; }

    public required string By { get; set; }

    public required long At { get; set; }
}
