using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>A typed value of an entity.</summary>
public sealed record Field
{
    /// <summary>Camel-case name, unique in its entity, at most 40 characters.</summary>
    public required string Key { get; init; }

    public required Texts Label { get; init; }

    public Texts? Help { get; init; }

    public required FieldType Type { get; init; }

    public bool Required { get; init; }

    /// <summary>Wanted but not insisted upon.</summary>
    public bool Advised { get; init; }

    public bool Unique { get; init; }

    /// <summary>The entity a reference points at.</summary>
    public string? Target { get; init; }

    /// <summary>The choice list of a choice or several choices.</summary>
    public string? ChoiceList { get; init; }

    /// <summary>Characters, for texts.</summary>
    public int? MaxLength { get; init; }

    /// <summary>Smallest value allowed, for numbers, money (in the currency's major unit) and ratings.</summary>
    public decimal? Min { get; init; }

    public decimal? Max { get; init; }

    /// <summary>Digits after the decimal point, 0 to 6, for decimals; money has two.</summary>
    public int Scale { get; init; } = 2;

    /// <summary>What a number counts, shown behind it: m, kg, h.</summary>
    public string? Unit { get; init; }

    /// <summary>
    /// A regular expression the whole of a text must match (no look-around, no back-references: matching takes linear time).
    /// </summary>
    public string? Pattern { get; init; }

    public Texts? PatternMessage { get; init; }

    /// <summary>The shared pattern it must match instead, by key.</summary>
    public string? Uses { get; init; }

    /// <summary>Kept with the pattern: what must pass, what must fail.</summary>
    public Samples Samples { get; init; } = Samples.None;

    /// <summary>What a new record starts with, as it would be written in JSON.</summary>
    public string? Default { get; init; }

    /// <summary>Whether the stored value is cleared when a save finds the field hidden by its condition; otherwise it is kept.</summary>
    public bool ClearWhenHidden { get; init; }

    /// <summary>Added by a configurator, as against supplied with the application.</summary>
    public bool Added { get; init; }

    /// <summary>No longer offered; its values stay.</summary>
    public bool Retired { get; init; }

    /// <summary>Roles that may read it; null means every role.</summary>
    public ImmutableArray<string>? Read { get; init; }

    /// <summary>Roles that may write it; null means every role that may read it.</summary>
    public ImmutableArray<string>? Write { get; init; }

    /// <summary>Where its value stands in an attached table; null in an entity of our own.</summary>
    public AttachedColumn? Attached { get; init; }

    public bool MayRead(IReadOnlyCollection<string> roles) => Read is not { } allowed || allowed.Any(roles.Contains);

    /// <summary>Whether some record's value may be written by these roles; of what is part of a key only that of a new one.</summary>
    public bool MayWrite(IReadOnlyCollection<string> roles) =>
        Attached?.ReadOnly is null or WriteBar.Key && MayRead(roles) && (Write is not { } allowed || allowed.Any(roles.Contains));

    /// <summary>Whether it stays as it was when its record was made.</summary>
    public bool IsFixed => Attached?.ReadOnly is WriteBar.Key;
}
