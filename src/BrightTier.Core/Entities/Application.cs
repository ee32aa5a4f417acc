using System.Collections.Immutable;

namespace BrightTier.Core.Entities;

/// <summary>What is said once for the whole business application: its name, languages, currency, time zone and roles.</summary>
public sealed record Application(
    string Key,
    Texts Title,
    ImmutableArray<string> Languages,
    string Currency,
    string TimeZone,
    ImmutableArray<Role> Roles)
{
    public static Application Empty { get; } = new("application", Texts.Of("Application"), ["en"], "EUR", "UTC", []);
}

/// <summary>What a user is allowed and shown by. <paramref name="May"/> lists acts of <see cref="Acts"/>.</summary>
public sealed record Role(string Key, Texts Label, ImmutableArray<string> May);

/// <summary>The acts a role can be allowed, beside what fields say of reading and writing.</summary>
public static class Acts
{
    public const string Configure = "configure";
    public const string Publish = "publish";
    public const string Administer = "administer";
    public const string ReadRecords = "read-records";
    public const string WriteRecords = "write-records";

    public static IReadOnlyList<string> All { get; } = [Configure, Publish, Administer, ReadRecords, WriteRecords];
}

/// <summary>Everything layouts are checked and resolved against: the application, its entities and choice lists.</summary>
public sealed record Definitions(
    Application Application,
    ImmutableSortedDictionary<string, Entity> Entities,
    ImmutableSortedDictionary<string, ChoiceList> ChoiceLists)
{
    public static Definitions Empty { get; } = new(
        Application.Empty,
        ImmutableSortedDictionary<string, Entity>.Empty.WithComparers(StringComparer.Ordinal),
        ImmutableSortedDictionary<string, ChoiceList>.Empty.WithComparers(StringComparer.Ordinal));
}
