namespace BrightTier.Contracts;

/// <summary>Problem details (RFC 9457) with a stable code and, where there are several things to mend, each with its place.</summary>
public sealed record Problem(
    string? Type,
    string Title,
    int Status,
    string? Detail,
    string Code,
    IReadOnlyList<ProblemPart>? Problems = null
);

/// <param name="Pointer">JSON pointer (RFC 6901) into the body, a field's key, or a line and column of a file.</param>
public sealed record ProblemPart(string Pointer, string Message, string? Code = null, int? Line = null, int? Column = null);
