namespace BrightTier.Storage;

public sealed class PersonRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    /// <summary>Role keys, separated by spaces.</summary>
    public required string Roles { get; set; }

    public required string Language { get; set; }

    /// <summary>Whose dates and numbers are written (ISO 3166-1, two capital letters); null for what goes with the language.</summary>
    public string? Region { get; set; }

    /// <summary>
    /// Who vouches for her: the issuer and the subject of OpenID Connect, with a space between; null for people of this service alone.
    /// </summary>
    public string? Provider { get; set; }
}

/// <summary>A session or a personal token, known only by the SHA-256 of its secret.</summary>
public sealed class CredentialRow
{
    public required string Hash { get; set; }

    /// <summary>session or token.</summary>
    public required string Use { get; set; }

    public required string Person { get; set; }

    public required string Name { get; set; }

    public required long Expires { get; set; }

    /// <summary>The permissions a token is good for, separated by spaces; null for all its person may do.</summary>
    public string? Scopes { get; set; }
}

/// <summary>A password as its hash, and how often it was missed.</summary>
public sealed class PasswordRow
{
    public required string Person { get; set; }

    public required string Hash { get; set; }

    public required long Missed { get; set; }

    /// <summary>Until when nobody gets in by it; 0 when it is not locked.</summary>
    public required long LockedUntil { get; set; }

    /// <summary>Whether somebody else set it, so that it is to be changed first.</summary>
    public bool ToChange { get; set; }
}

/// <summary>Something a person keeps for herself, such as her views of a list.</summary>
public sealed class PreferenceRow
{
    public required string Person { get; set; }

    public required string Name { get; set; }

    /// <summary>JSON, whatever its client makes of it.</summary>
    public required string Content { get; set; }
}

/// <summary>Something somebody said about something.</summary>
public sealed class CommentRow
{
    public long Id { get; set; }

    /// <summary>What it is about: record/{entity}/{id}, or draft/{kind}/{key}.</summary>
    public required string Subject { get; set; }

    /// <summary>The item of a layout it is about; null for the whole.</summary>
    public string? Item { get; set; }

    public required string By { get; set; }

    public required long At { get; set; }

    public required string Text { get; set; }

    /// <summary>When somebody said that what it asks for is done; null while it is open.</summary>
    public long? ResolvedAt { get; set; }

    public string? ResolvedBy { get; set; }
}

/// <summary>Somebody named in a comment, and whether she has seen it.</summary>
public sealed class MentionRow
{
    public required string Person { get; set; }

    public required long Comment { get; set; }

    public bool Seen { get; set; }
}
