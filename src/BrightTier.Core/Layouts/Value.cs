using BrightTier.Core.Entities;

namespace BrightTier.Core.Layouts;

/// <summary>The value of one property of a node. Which sort a property takes is said by the <see cref="Grammar"/>.</summary>
public abstract record Value
{
    private Value()
    {
    }

    /// <summary>A text for people, in any number of languages.</summary>
    public sealed record Text(Texts Texts) : Value;

    /// <summary>A word for the machine: a key, a name from a list, a condition.</summary>
    public sealed record Word(string Content) : Value;

    public sealed record Number(int Amount) : Value;

    public sealed record Flag(bool On) : Value;
}
