using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// One entry of the business application's menu: a heading with entries below it, a list of an entity's records, or an address.
/// </summary>
public sealed record MenuEntry(
    string Key,
    Texts Title,
    string? Icon,
    string? Entity,
    string? Address,
    ImmutableArray<string> Roles,
    ImmutableArray<MenuEntry> Entries
)
{
    public IEnumerable<MenuEntry> Walk() => Entries.SelectMany(entry => entry.Walk()).Prepend(this);
}

/// <summary>The business application's menu, a tree of any depth; published like everything else.</summary>
public sealed record Navigation(ImmutableArray<MenuEntry> Entries)
{
    public static Navigation None { get; } = new([]);

    /// <summary>What a viewer with these roles sees of it; headings left without entries go.</summary>
    public Navigation For(IReadOnlyCollection<string> roles) => new(Visible(Entries, roles));

    /// <summary>The entries that lead to the records of an entity, from the outermost heading on; null where none does.</summary>
    public IReadOnlyList<MenuEntry>? WayTo(string entity) => WayTo(Entries, entity);

    /// <summary>With an entry for an entity's records at its end; as it is where one leads there already.</summary>
    public Navigation WithEntry(Entity entity)
    {
        if (WayTo(entity.Key) is not null)
        {
            return this;
        }

        var taken = Entries.SelectMany(entry => entry.Walk()).Select(entry => entry.Key).ToHashSet(StringComparer.Ordinal);
        return new Navigation([
            .. Entries,
            new MenuEntry(Keys.Fresh(entity.Key, taken.Contains), entity.Plural, null, entity.Key, null, [], []),
        ]);
    }

    /// <summary>Without the entries that lead to an entity's records; what stands below one moves up to its place.</summary>
    public Navigation Without(string entity) => new(Without(Entries, entity));

    private static ImmutableArray<MenuEntry> Without(ImmutableArray<MenuEntry> entries, string entity) =>
        [
            .. entries
                .Select(entry => entry with { Entries = Without(entry.Entries, entity) })
                .SelectMany(entry => entry.Entity == entity ? entry.Entries : (IEnumerable<MenuEntry>)[entry]),
        ];

    private static IReadOnlyList<MenuEntry>? WayTo(ImmutableArray<MenuEntry> entries, string entity) =>
        entries
            .Select(entry =>
                entry.Entity == entity ? [entry]
                : WayTo(entry.Entries, entity) is { } below ? [entry, .. below]
                : (IReadOnlyList<MenuEntry>?)null
            )
            .FirstOrDefault(way => way is not null);

    private static ImmutableArray<MenuEntry> Visible(ImmutableArray<MenuEntry> entries, IReadOnlyCollection<string> roles) =>
        [
            .. entries
                .Where(entry => entry.Roles.IsEmpty || entry.Roles.Any(roles.Contains))
                .Select(entry => entry with { Entries = Visible(entry.Entries, roles) })
                .Where(entry => entry.Entity is not null || entry.Address is not null || !entry.Entries.IsEmpty),
        ];
}
