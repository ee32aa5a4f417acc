using System.Collections.Immutable;
using BrightTier.Core.Model;
using static BrightTier.Core.Documents.EntryType;

namespace BrightTier.Core.Documents;

/// <summary>
/// The properties of every document that is no layout. Reading refuses what is not here, and the schema is made of it; what layouts have is
/// the <see cref="Grammar"/>.
/// </summary>
public static class ObjectRules
{
    private static readonly ImmutableArray<string> Kinds = ["full", "short", "card", "list", "print"];

    private static EntryRule Key(string about) => new("key", EntryType.Key, about) { Required = true };

    private static EntryRule Label(string about) => new("label", EntryType.Texts, about);

    public static ObjectRule Entity { get; } =
        new(
            "entity",
            "A kind of record, with its fields.",
            Key("The entity's own name, unique in the application; it stays once published."),
            Label("What one record is called."),
            new("plural", EntryType.Texts, "What several records are called."),
            new("display", Word, "What a record is called in lists and references, with its fields in braces: \"{name} ({berth})\"."),
            new("archived", Flag, "Put away: nobody works with it, its records are kept."),
            new("attached", One, "The table of an existing database it stands over.") { Of = "attachedTable" },
            new("fields", Many, "Its fields, in the order they are offered.") { Of = "entityField" }
        )
        {
            Kind = "entity",
        };

    public static ObjectRule Field { get; } =
        new(
            "entityField",
            "A typed value of a record.",
            Key("The field's own name, unique in the entity; it stays once published."),
            Label("What stands beside the field."),
            new("help", EntryType.Texts, "What helps whoever fills it in."),
            new("type", Word, "What its values are.") { Required = true, Words = [.. FieldTypes.All] },
            new("required", Flag, "Whether a record cannot be saved without it."),
            new("advised", Flag, "Whether it is asked for, and a record can be saved without it."),
            new("unique", Flag, "Whether no two records have the same value."),
            new("target", Word, "Of a reference: the entity it points at.") { Names = NameSet.Entity },
            new("choices", Word, "Of a choice: the key of its choice list.") { Names = NameSet.ChoiceList },
            new("maxLength", Whole, "The most characters of a text.") { Min = 1, Max = 1_000_000 },
            new("min", Number, "The least value."),
            new("max", Number, "The greatest value."),
            new("scale", Whole, "Digits behind the point of a decimal number.") { Min = 0, Max = 6 },
            new("unit", Word, "What a number counts, such as m or kg."),
            new("pattern", Word, "A regular expression (RE2) that the whole text must match."),
            new("patternMessage", EntryType.Texts, "What is said where the pattern does not match."),
            new("uses", Word, "A pattern of the library, instead of one of its own.") { Names = NameSet.Pattern },
            new("samples", One, "Texts that must pass and fail.") { Of = "samples" },
            new("default", Word, "What a new record starts with."),
            new("whenHidden", Word, "What becomes of the value while the field is hidden.") { Words = ["keep", "clear"] },
            new("added", Flag, "Whether a configurator added it in the console."),
            new("retired", Flag, "Whether it is no longer offered; its values are kept."),
            new("read", Words, "The roles that see it; without it, all who read the record.") { Names = NameSet.Role },
            new("write", Words, "The roles that change it; without it, all who write the record.") { Names = NameSet.Role },
            new("attached", One, "The columns of the attached table it stands for.") { Of = "attachedColumn" }
        );

    public static ObjectRule AttachedTable { get; } =
        new(
            "attachedTable",
            "A table or view of a connected database.",
            new("database", Word, "The name of the connection.") { Required = true },
            new("schema", Word, "The schema it is in; without one, the connection's own."),
            new("table", Word, "Its name there.") { Required = true },
            new("key", Pairs, "The columns that tell its rows apart, with their types.") { Required = true },
            new("readOnly", Word, "Why its rows are only read.") { Words = [.. WriteBars.All] }
        );

    public static ObjectRule AttachedColumn { get; } =
        new(
            "attachedColumn",
            "The columns of a table a field stands for.",
            new("columns", Pairs, "The columns, with their types.") { Required = true },
            new("readOnly", Word, "Why it is only read.") { Words = [.. WriteBars.All] },
            new("fills", Flag, "Whether the database fills it where nothing is given."),
            new("words", Pairs, "From the key of a choice to what stands in the column for it.")
        );

    public static ObjectRule ChoiceList { get; } =
        new(
            "choiceList",
            "A shared, ordered set of values.",
            Key("The list's own name, unique in the application."),
            Label("What configurators call the list."),
            new("choices", Many, "Its choices, in order.") { Of = "choice" }
        )
        {
            Kind = "choice-list",
        };

    public static ObjectRule Choice { get; } =
        new(
            "choice",
            "One value of a choice list.",
            Key("What is stored; it stays once published."),
            Label("What users read."),
            new("retired", Flag, "Whether it is no longer offered; records that have it keep it.")
        );

    public static ObjectRule Pattern { get; } =
        new(
            "pattern",
            "A regular expression that fields share.",
            Key("The pattern's own name, unique in the application."),
            Label("What configurators call it."),
            new("pattern", Word, "A regular expression (RE2) that the whole text must match.") { Required = true },
            new("message", EntryType.Texts, "What is said where a text does not match."),
            new("samples", One, "Texts that must pass and fail.") { Of = "samples" }
        )
        {
            Kind = "pattern",
        };

    public static ObjectRule Samples { get; } =
        new(
            "samples",
            "Texts a pattern is held to.",
            new("pass", Words, "Texts that must match."),
            new("fail", Words, "Texts that must not match.")
        );

    public static ObjectRule Application { get; } =
        new(
            "application",
            "What the whole application has: its languages, roles, widths, styles and theme.",
            new("title", EntryType.Texts, "What the application is called."),
            new("languages", Words, "The languages its texts are in (RFC 5646), the first one for whoever has none of them."),
            new("currency", Word, "The currency of money (ISO 4217)."),
            new("timeZone", Word, "The time zone of days and times, such as Europe/Amsterdam."),
            new("approval", Flag, "Whether a second person approves drafts before they are published."),
            new("roles", Many, "Who there is, and what each may do.") { Of = "role" },
            new("widths", Many, "The widths that layouts can have variants for, the narrowest first.") { Of = "width" },
            new("styles", Many, "Styles for parts of forms.") { Of = "style" },
            new("theme", One, "The application's own colours and typeface.") { Of = "theme" }
        )
        {
            Kind = "application",
        };

    public static ObjectRule Role { get; } =
        new(
            "role",
            "What some people may do.",
            Key("The role's own name; layouts, fields and routing name it."),
            Label("What the role is called."),
            new("may", Words, "What it may do.") { Words = [.. Permissions.All] },
            new("entities", Words, "The entities it may do that with; without it, all.") { Names = NameSet.Entity }
        );

    public static ObjectRule Width { get; } =
        new(
            "width",
            "A range of widths by its name.",
            new("name", EntryType.Key, "What it is called.") { Required = true },
            new("below", Whole, "Where it ends, in rem; the last has no end.")
        );

    public static ObjectRule Style { get; } =
        new(
            "style",
            "How a part of a form stands out.",
            Key("The style's own name; layouts name it."),
            Label("What it is called."),
            new("ink", Word, "The colour of its text, as #rrggbb."),
            new("paper", Word, "The colour behind it, as #rrggbb."),
            new("strong", Flag, "Whether its text is bold.")
        );

    public static ObjectRule Theme { get; } =
        new(
            "theme",
            "The application's own colours and typeface.",
            new("ground", Word, "The finished theme it is laid over.") { Words = [.. Model.Theme.Grounds] },
            new("primary", Word, "The colour of links and of the one primary act, as #rrggbb."),
            new("accent", Word, "The colour of what is selected, as #rrggbb."),
            new("typeface", Word, "The typeface of the application.") { Words = [.. Model.Theme.Typefaces] }
        );

    public static ObjectRule Routing { get; } =
        new("routing", "Which layout who gets.", new EntryRule("rules", Many, "The rules; the first that fits decides.") { Of = "rule" })
        {
            Kind = "routing",
        };

    public static ObjectRule Rule { get; } =
        new(
            "rule",
            "Gives a layout to some.",
            new("entity", Word, "The entity whose records are opened.") { Required = true, Names = NameSet.Entity },
            new("form", Word, "The kind of layout; full where nothing is said.") { Words = Kinds },
            new("layout", Word, "The layout they get.") { Required = true, Names = NameSet.Layout },
            new("roles", Words, "The roles it is for; without them, everyone.") { Names = NameSet.Role },
            new("when", Condition, "The records it is for; without it, every one.")
        );

    public static ObjectRule Navigation { get; } =
        new("navigation", "The menu.", new EntryRule("entries", Many, "Its entries, in order.") { Of = "entry" }) { Kind = "navigation" };

    public static ObjectRule Entry { get; } =
        new(
            "entry",
            "An entry of the menu, or a heading over others.",
            Key("The entry's own name, unique in the menu."),
            new("title", EntryType.Texts, "What users read."),
            new("icon", Word, "The picture beside it.") { Names = NameSet.Icon },
            new("entity", Word, "The entity whose records it opens.") { Names = NameSet.Entity },
            new("address", Word, "An address it opens instead."),
            new("roles", Words, "The roles that see it; without them, everyone.") { Names = NameSet.Role },
            new("entries", Many, "The entries under it.") { Of = "entry" }
        );

    public static ObjectRule Template { get; } =
        new(
            "template",
            "Layouts that are made together.",
            Key("The template's own name, unique in the application."),
            new("title", EntryType.Texts, "What configurators call it."),
            new("about", EntryType.Texts, "What it is for."),
            new("layouts", Words, "The layouts it makes copies of.") { Names = NameSet.Layout }
        )
        {
            Kind = "template",
        };

    public static ImmutableArray<ObjectRule> All { get; } =
    [
        Application,
        Role,
        Width,
        Style,
        Theme,
        Entity,
        Field,
        AttachedTable,
        AttachedColumn,
        ChoiceList,
        Choice,
        Pattern,
        Samples,
        Routing,
        Rule,
        Navigation,
        Entry,
        Template,
    ];
}
