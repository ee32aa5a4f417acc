namespace BrightTier.Contracts;

/// <summary>A comment on a record or on a draft; <see cref="Mentions"/> are the ids of the people named in it.</summary>
/// <param name="Entity">Of a record's: its entity, with <paramref name="Record"/>.</param>
/// <param name="Draft">Of a draft's: which.</param>
/// <param name="Item">The item of a layout it is about; null for the whole.</param>
/// <param name="ResolvedBy">Who said that what it asks for is done; null while it is open.</param>
public sealed record CommentInfo(
    long Id,
    string? Entity,
    long? Record,
    DocumentName? Draft,
    string? Item,
    string By,
    string ByName,
    DateTimeOffset At,
    string Text,
    IReadOnlyList<string> Mentions,
    DateTimeOffset? ResolvedAt,
    string? ResolvedBy
);

/// <summary>Told to open clients when something is said about a record or a draft.</summary>
public sealed record CommentEvent(string? Entity = null, long? Record = null, DocumentName? Draft = null);

/// <summary>A comment to make: at most 4,000 characters; <c>@id</c> names a person, who is told.</summary>
/// <param name="Item">The id of the item of a layout it is about.</param>
public sealed record CommentRequest(string Text, string? Item = null);

/// <summary>Says whether what a comment asks for is done.</summary>
public sealed record ResolveRequest(bool Resolved);
