using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>A family of layouts to start from in one act: full form, short form, card, list.</summary>
public sealed record Template(string Key, Texts Title, Texts? About, ImmutableArray<string> Layouts);
