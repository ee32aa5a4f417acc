using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>A shared, ordered set of values.</summary>
public sealed record ChoiceList(string Key, Texts Label, ImmutableArray<Choice> Choices)
{
    public Choice? Find(string key) => Choices.FirstOrDefault(choice => choice.Key == key);
}

/// <summary>One value of a choice list. A retired one is shown on old records and offered on none.</summary>
public sealed record Choice(string Key, Texts Label, bool Retired);
