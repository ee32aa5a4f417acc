using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>A shared, ordered set of values.</summary>
public sealed record ChoiceList(string Key, Texts Label, ImmutableArray<Choice> Choices)
{
    /// <summary>A list of what people call its choices, in their order; each gets a key of its own, and none is there twice.</summary>
    public static ChoiceList Of(string key, Texts label, IEnumerable<string> choices)
    {
        var made = ImmutableArray.CreateBuilder<Choice>();
        foreach (var choice in choices.Distinct())
        {
            made.Add(
                new Choice(Keys.Fresh(Keys.Of(choice, "choice"), taken => made.Any(each => each.Key == taken)), Texts.Of(choice), false)
            );
        }

        return new ChoiceList(key, label, made.ToImmutable());
    }

    public Choice? Find(string key) => Choices.FirstOrDefault(choice => choice.Key == key);
}

/// <summary>One value of a choice list. A retired one is shown on old records and offered on none.</summary>
public sealed record Choice(string Key, Texts Label, bool Retired);
