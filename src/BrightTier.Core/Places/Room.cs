namespace BrightTier.Core.Places;

/// <summary>
/// Units of a row's 12 that an item needs to be read and used at the base width, and those it takes where there is room; needed is never
/// more than natural.
/// </summary>
public readonly record struct Room(int Needed, int Natural);
