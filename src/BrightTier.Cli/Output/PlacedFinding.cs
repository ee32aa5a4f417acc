using BrightTier.Core.Validation;

namespace BrightTier.Cli.Output;

/// <summary>One finding with its place in a file: line and column from 1, 0 where there is none.</summary>
public sealed record PlacedFinding(
    string File,
    int Line,
    int Column,
    string Pointer,
    Severity Severity,
    string Code,
    string Message,
    string? Evidence,
    string? Fix
)
{
    /// <summary>The message with the situation it shows in, and what would mend it.</summary>
    public string Sentence =>
        $"{Message}{(Evidence is null ? "" : $" For example: {Evidence}.")}{(Fix is null ? "" : $" To mend it: {Fix}.")}";
}
