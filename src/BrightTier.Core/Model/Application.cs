using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// What is said once for the whole business application: its name, languages, currency, time zone, roles, widths, styles and theme.
/// </summary>
public sealed record Application(
    string Key,
    Texts Title,
    ImmutableArray<string> Languages,
    string Currency,
    string TimeZone,
    ImmutableArray<Role> Roles
)
{
    public static Application Empty { get; } = new("application", Texts.Of("Application"), ["en"], "EUR", "UTC", []);

    /// <summary>The zone its clocks hang in; UTC where this machine does not know it.</summary>
    public TimeZoneInfo Zone => TimeZoneInfo.TryFindSystemTimeZoneById(TimeZone, out var known) ? known : TimeZoneInfo.Utc;

    /// <summary>The role of those who administer, which is there before anything is published.</summary>
    public const string Administrator = "administrator";

    /// <summary>An application to begin with: who administers, who configures, and who works with records.</summary>
    public static Application First(string title, ImmutableArray<string> languages, string currency, string timeZone) =>
        new(
            "application",
            Texts.Of(title),
            languages,
            currency,
            timeZone,
            [
                new Role(Administrator, InThree("Administrator", "Beheerder", "مدير النظام"), [.. Permissions.All]),
                new Role(
                    "configurator",
                    InThree("Configurator", "Inrichter", "مُهيّئ"),
                    [Permissions.Configure, Permissions.Review, Permissions.Publish, Permissions.ReadRecords, Permissions.WriteRecords]
                ),
                new Role("user", InThree("User", "Gebruiker", "مستخدم"), [Permissions.ReadRecords, Permissions.WriteRecords]),
            ]
        );

    private static Texts InThree(string english, string dutch, string arabic) =>
        Texts.Of([new("en", english), new("nl", dutch), new("ar", arabic)]);

    /// <summary>The application's one scale of named widths, narrowest first; the last has no upper end.</summary>
    public ImmutableArray<Width> Widths { get; init; } = [new("narrow", 40), new("medium", 64), new("wide", null)];

    public ImmutableArray<Style> Styles { get; init; } = [];

    public Theme Theme { get; init; } = Theme.Supplied;

    /// <summary>Whether a draft is published only once a second person, who changed nothing in it, has approved it as it is.</summary>
    public bool Approval { get; init; }

    /// <summary>Whether any of some roles allows something on what belongs to an entity; null for what belongs to none.</summary>
    public bool Allows(IEnumerable<string> roles, string permission, string? entity) =>
        Roles.Any(role =>
            roles.Contains(role.Key)
            && role.May.Contains(permission)
            && (role.Entities.IsEmpty || (entity is not null && role.Entities.Contains(entity)))
        );

    /// <summary>
    /// The ranges of the scale with cut points of a layout's own put in, each from where the one before ends: no two can claim the same
    /// width.
    /// </summary>
    /// <param name="own">Names with the width at which their range ends, in rem.</param>
    public ImmutableArray<WidthRange> Ranges(IEnumerable<(string Name, int Below)> own)
    {
        var cuts = Widths
            .Select(width => (width.Name, width.Below))
            .Concat(own.Select(cut => (cut.Name, Below: (int?)cut.Below)))
            .DistinctBy(cut => cut.Name)
            .OrderBy(cut => cut.Below ?? int.MaxValue)
            .ThenBy(cut => cut.Name, StringComparer.Ordinal);
        var from = 0;
        var ranges = ImmutableArray.CreateBuilder<WidthRange>();
        foreach (var (name, below) in cuts)
        {
            ranges.Add(new WidthRange(name, from, below));
            from = below ?? from;
        }

        return ranges.ToImmutable();
    }
}

/// <summary>A named width: forms narrower than <paramref name="Below"/> rem, and not of a narrower name, are of it.</summary>
public sealed record Width(string Name, int? Below);

/// <summary>A named range of widths of the form's own container, in rem: from the first, below the second.</summary>
public sealed record WidthRange(string Name, int From, int? Below);

/// <summary>Colours and type chosen once under a name. Colours are #rrggbb; without one the theme's own is used.</summary>
public sealed record Style(string Key, Texts Label, string? Ink, string? Paper, bool Strong);

/// <summary>
/// The colours and the typeface of all forms and of the frame around them; null is as supplied. Colours are #rrggbb, meant for daylight; at
/// night they are lightened.
/// </summary>
/// <param name="Primary">What can be clicked: links and the chief button. Stands out 4.5 to 1 from white (WCAG 2.2, 1.4.3).</param>
/// <param name="Accent">What is current, chosen or has the focus. Stands out 3 to 1 from white (WCAG 2.2, 1.4.11).</param>
/// <param name="Typeface">One of <see cref="Typefaces"/>.</param>
/// <param name="Ground">One of <see cref="Grounds"/>: paper, ink and every colour at once; the others are said on top of it.</param>
public sealed record Theme(string? Primary, string? Accent, string? Typeface, string? Ground)
{
    public static Theme Supplied { get; } = new(null, null, null, null);

    public static IReadOnlyList<string> Grounds { get; } = ["sand", "chalk", "heather"];

    public static IReadOnlyList<string> Typefaces { get; } = ["sans", "serif", "system"];
}

/// <summary>What a user is allowed and shown by. <paramref name="May"/> lists some of <see cref="Permissions"/>.</summary>
public sealed record Role(string Key, Texts Label, ImmutableArray<string> May)
{
    /// <summary>The entities it may configure; empty for all, and for what belongs to no entity.</summary>
    public ImmutableArray<string> Entities { get; init; } = [];
}

/// <summary>What a role can be allowed, beside what fields say of reading and writing.</summary>
public static class Permissions
{
    public const string Configure = "configure";

    /// <summary>To read drafts, comment on them and approve them.</summary>
    public const string Review = "review";
    public const string Publish = "publish";

    /// <summary>To publish although checks stand against it, with a reason that is kept.</summary>
    public const string Override = "override";
    public const string Administer = "administer";
    public const string ReadRecords = "read-records";
    public const string WriteRecords = "write-records";

    public static IReadOnlyList<string> All { get; } = [Configure, Review, Publish, Override, Administer, ReadRecords, WriteRecords];
}

/// <summary>Everything layouts are checked and resolved against: the application, its entities, choice lists and patterns.</summary>
public sealed record Definitions(
    Application Application,
    ImmutableSortedDictionary<string, Entity> Entities,
    ImmutableSortedDictionary<string, ChoiceList> ChoiceLists
)
{
    public static Definitions Empty { get; } =
        new(
            Application.Empty,
            ImmutableSortedDictionary<string, Entity>.Empty.WithComparers(StringComparer.Ordinal),
            ImmutableSortedDictionary<string, ChoiceList>.Empty.WithComparers(StringComparer.Ordinal)
        );

    private Definitions(Definitions original)
    {
        (Application, Entities, ChoiceLists, Patterns) = (original.Application, original.Entities, original.ChoiceLists, original.Patterns);
        ArchivedEntities = original.ArchivedEntities;
        Remembered = new Memory();
    }

    /// <summary>What has been worked out from these definitions, kept as long as they are; a changed copy begins with nothing.</summary>
    internal Memory Remembered { get; } = new();

    /// <summary>Entities that are put away: whatever names one finds that it is not there; their records are.</summary>
    public ImmutableSortedDictionary<string, Entity> ArchivedEntities { get; init; } =
        ImmutableSortedDictionary<string, Entity>.Empty.WithComparers(StringComparer.Ordinal);

    /// <summary>Every entity there are records of, archived ones among them.</summary>
    public IEnumerable<Entity> Stored => Entities.Values.Concat(ArchivedEntities.Values);

    /// <summary>Whether an entity has this key, archived or not: no other gets it.</summary>
    public bool IsTaken(string entity) => Entities.ContainsKey(entity) || ArchivedEntities.ContainsKey(entity);

    /// <summary>With an entity put in, in the place of the one of its key.</summary>
    public Definitions With(Entity entity) =>
        entity.Archived
            ? this with
            {
                Entities = Entities.Remove(entity.Key),
                ArchivedEntities = ArchivedEntities.SetItem(entity.Key, entity),
            }
            : this with
            {
                Entities = Entities.SetItem(entity.Key, entity),
                ArchivedEntities = ArchivedEntities.Remove(entity.Key),
            };

    public ImmutableSortedDictionary<string, Pattern> Patterns { get; init; } =
        ImmutableSortedDictionary<string, Pattern>.Empty.WithComparers(StringComparer.Ordinal);

    /// <summary>What a field's texts must match and what is said when they do not: its own, or that of the pattern it uses.</summary>
    public (string Pattern, Texts? Message)? PatternOf(Field field) =>
        field.Pattern is { } own ? (own, field.PatternMessage)
        : field.Uses is { } key && Patterns.GetValueOrDefault(key) is { } shared
            ? (shared.Expression, field.PatternMessage ?? shared.Message)
        : null;

    /// <summary>The references of other entities that point at one, in the order of their keys.</summary>
    public IEnumerable<(Entity Entity, Field Through)> PointingAt(string entity) =>
        from other in Entities.Values
        where other.Key != entity
        from field in other.Current
        where field.Type is FieldType.Reference && field.Target == entity
        select (other, field);
}

/// <summary>A memory that says nothing about what it belongs to: any two are equal.</summary>
internal sealed class Memory : IEquatable<Memory>
{
    public System.Collections.Concurrent.ConcurrentDictionary<object, object> Entries { get; } = new();

    public bool Equals(Memory? other) => other is not null;

    public override bool Equals(object? obj) => obj is Memory;

    public override int GetHashCode() => 0;
}

/// <summary>A pattern of the shared library, with the message for texts that do not match and the samples it must pass and fail.</summary>
public sealed record Pattern(string Key, Texts Label, string Expression, Texts? Message, Samples Samples);

/// <summary>Texts a pattern must match, and texts it must not; checked again whenever something is published.</summary>
public sealed record Samples(ImmutableArray<string> Pass, ImmutableArray<string> Fail)
{
    public static Samples None { get; } = new([], []);
}
