using System.Collections.Immutable;
using System.Globalization;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Documents;

/// <summary>Reads and writes what layouts rest on: the application, its choice lists and entities.</summary>
internal static class DefinitionFiles
{
    private static readonly string[] FieldKeys =
    [
        "key",
        "label",
        "help",
        "type",
        "required",
        "advised",
        "unique",
        "target",
        "choices",
        "maxLength",
        "min",
        "max",
        "scale",
        "unit",
        "pattern",
        "patternMessage",
        "uses",
        "samples",
        "default",
        "whenHidden",
        "added",
        "retired",
        "read",
        "write",
    ];

    public static Application ReadApplication(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(
            map,
            $"an application",
            "kind",
            "title",
            "languages",
            "currency",
            "timeZone",
            "approval",
            "roles",
            "widths",
            "styles",
            "theme"
        );
        var zone = reading.Word(map["timeZone"], "'timeZone'") ?? "UTC";
        if (!TimeZoneInfo.TryFindSystemTimeZoneById(zone, out _))
        {
            reading.Problem(map.PlaceOf("timeZone"), $"there is no time zone '{zone}'; write Europe/Amsterdam or UTC");
        }

        var roles = reading
            .List(map["roles"], "'roles'")
            .Select(node => reading.Map(node, $"a role"))
            .OfType<FileNode.Map>()
            .Select(role =>
            {
                reading.Only(role, $"a role", "key", "label", "may", "entities");
                var may = reading.Words(role["may"], "'may'");
                foreach (var permission in may.Where(permission => !Permissions.All.Contains(permission)))
                {
                    reading.Problem(
                        role.PlaceOf("may"),
                        $"there is no permission '{permission}'{Suggestion.For(permission, [.. Permissions.All])}"
                    );
                }

                return new Role(Key(reading, role, $"a role"), reading.Texts(role["label"], "'label'") ?? Texts.Of(""), may)
                {
                    Entities = reading.Words(role["entities"], "'entities'"),
                };
            });
        var languages = reading.Words(map["languages"], "'languages'");
        foreach (var language in languages.Where(language => language.Length == 0 || !DocumentReader.IsLanguage(language)))
        {
            reading.Problem(map.PlaceOf("languages"), $"'{Suggestion.Short(language)}' is no language tag; write en, nl, ar or pt-BR");
        }

        return new Application(
            "application",
            reading.Texts(map["title"], "'title'") ?? Texts.Of("Application"),
            languages.IsEmpty ? ["en"] : languages,
            reading.Word(map["currency"], "'currency'") ?? "EUR",
            zone,
            [.. roles]
        )
        {
            Approval = reading.Flag(map["approval"], "'approval'"),
            Widths = map["widths"] is { } widths ? ReadWidths(reading, widths) : Application.Empty.Widths,
            Styles =
            [
                .. reading
                    .List(map["styles"], "'styles'")
                    .Select(node => reading.Map(node, $"a style"))
                    .OfType<FileNode.Map>()
                    .Select(style => ReadStyle(reading, style)),
            ],
            Theme = map["theme"] is { } theme && reading.Map(theme, $"'theme'") is { } said ? ReadTheme(reading, said) : Theme.Supplied,
        };
    }

    private static Theme ReadTheme(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a theme", "primary", "accent", "typeface");
        var typeface = reading.Word(map["typeface"], "'typeface'");
        if (typeface is not null && !Theme.Typefaces.Contains(typeface))
        {
            reading.Problem(map.PlaceOf("typeface"), $"there is no typeface '{typeface}'{Suggestion.For(typeface, [.. Theme.Typefaces])}");
        }

        return new Theme(ReadableColour("primary", 4.5), ReadableColour("accent", 3), typeface);

        // Refused rather than found later: what nobody can read is no theme.
        string? ReadableColour(string name, double least)
        {
            if (Colour(reading, map, name) is not { } colour)
            {
                return null;
            }

            var contrast = Contrast.Of(colour, "#ffffff");
            if (contrast < least)
            {
                reading.Problem(
                    map.PlaceOf(name),
                    $"'{name}' must stand out {least:0.#} to 1 from white; '{colour}' does {contrast:0.0} to 1, a darker one would do"
                );
            }

            return colour;
        }
    }

    /// <summary>A colour as #rrggbb; null where there is none, or where it is malformed, which is told.</summary>
    private static string? Colour(DocumentReader reading, FileNode.Map map, string name)
    {
        if (reading.Word(map[name], $"'{name}'") is not { } colour)
        {
            return null;
        }

        if (colour.Length == 7 && colour[0] == '#' && colour[1..].All(char.IsAsciiHexDigit))
        {
            return colour;
        }

        reading.Problem(map.PlaceOf(name), $"'{name}' must be a colour such as \"#5b4a1e\"; it is '{colour}'");
        return null;
    }

    private static ImmutableArray<Width> ReadWidths(DocumentReader reading, FileNode node)
    {
        var widths = reading
            .List(node, "'widths'")
            .Select(each => reading.Map(each, $"a width"))
            .OfType<FileNode.Map>()
            .Select(width =>
            {
                reading.Only(width, $"a width", "name", "below");
                return new Width(reading.Required(width, "name", $"a width"), reading.Whole(width["below"], "'below'"));
            })
            .ToImmutableArray();
        var cuts = widths.Select(width => width.Below).ToArray();
        if (
            widths.IsEmpty
            || cuts[^1] is not null
            || cuts[..^1].Any(cut => cut is null)
            || !cuts[..^1].SequenceEqual(cuts[..^1].Distinct().Order())
            || widths.Select(width => width.Name).Distinct().Count() != widths.Length
        )
        {
            reading.Problem(
                node.At,
                $"'widths' must be named differently, the narrowest first, each but the last with 'below', in rem, larger than "
                    + $"the one before"
            );
        }

        foreach (var malformed in widths.Where(width => !NodeId.IsWellFormed(width.Name)))
        {
            reading.Problem(
                node.At,
                $"a width's name must begin with a letter and have only letters, digits, '-' and '_'; it is '{malformed.Name}'"
            );
        }

        return widths;
    }

    private static Style ReadStyle(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a style", "key", "label", "ink", "paper", "strong");
        var key = Key(reading, map, $"a style");
        return new Style(
            key,
            reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            Colour(reading, map, "ink"),
            Colour(reading, map, "paper"),
            reading.Flag(map["strong"], "'strong'")
        );
    }

    public static FileNode Write(Application application) =>
        FileNode.Of(
            ("kind", FileNode.Word("application")),
            ("title", DocumentReader.Write(application.Title)),
            ("languages", Words(application.Languages)),
            ("currency", FileNode.Word(application.Currency)),
            ("timeZone", FileNode.Word(application.TimeZone)),
            ("approval", Flag(application.Approval)),
            (
                "roles",
                new FileNode.List(
                    [
                        .. application.Roles.Select(role =>
                            FileNode.Of(
                                ("key", FileNode.Word(role.Key)),
                                ("label", DocumentReader.Write(role.Label)),
                                ("may", role.May.IsEmpty ? null : Words(role.May)),
                                ("entities", role.Entities.IsEmpty ? null : Words(role.Entities))
                            )
                        ),
                    ],
                    default
                )
            ),
            (
                "widths",
                application.Widths.SequenceEqual(Application.Empty.Widths)
                    ? null
                    : new FileNode.List(
                        [
                            .. application.Widths.Select(width =>
                                FileNode.Of(("name", FileNode.Word(width.Name)), ("below", Number(width.Below))) with
                                {
                                    Flow = true,
                                }
                            ),
                        ],
                        default
                    )
            ),
            (
                "styles",
                application.Styles.IsEmpty
                    ? null
                    : new FileNode.List(
                        [
                            .. application.Styles.Select(style =>
                                FileNode.Of(
                                    ("key", FileNode.Word(style.Key)),
                                    ("label", DocumentReader.Write(style.Label)),
                                    ("ink", Word(style.Ink)),
                                    ("paper", Word(style.Paper)),
                                    ("strong", Flag(style.Strong))
                                )
                            ),
                        ],
                        default
                    )
            ),
            (
                "theme",
                application.Theme == Theme.Supplied
                    ? null
                    : FileNode.Of(
                        ("primary", Word(application.Theme.Primary)),
                        ("accent", Word(application.Theme.Accent)),
                        ("typeface", Word(application.Theme.Typeface))
                    )
            )
        );

    public static Pattern ReadPattern(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a pattern", "kind", "key", "label", "pattern", "message", "samples");
        var key = Key(reading, map, $"a pattern");
        var expression = reading.Required(map, "pattern", $"a pattern");
        if (WholePattern.Problem(expression) is { } wrong)
        {
            reading.Problem(map["pattern"]?.At ?? map.At, $"'pattern' {wrong}");
        }

        return new Pattern(
            key,
            reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            expression,
            reading.Texts(map["message"], "'message'"),
            ReadSamples(reading, map["samples"])
        );
    }

    public static FileNode Write(Pattern pattern) =>
        FileNode.Of(
            ("kind", FileNode.Word("pattern")),
            ("key", FileNode.Word(pattern.Key)),
            ("label", DocumentReader.Write(pattern.Label)),
            ("pattern", FileNode.Word(pattern.Expression)),
            ("message", DocumentReader.Write(pattern.Message)),
            ("samples", Write(pattern.Samples))
        );

    private static Samples ReadSamples(DocumentReader reading, FileNode? node)
    {
        if (node is null || reading.Map(node, $"'samples'") is not { } map)
        {
            return Samples.None;
        }

        reading.Only(map, $"samples", "pass", "fail");
        return new Samples(reading.Words(map["pass"], "'pass'"), reading.Words(map["fail"], "'fail'"));
    }

    private static FileNode.Map? Write(Samples samples) =>
        samples.Pass.IsEmpty && samples.Fail.IsEmpty
            ? null
            : FileNode.Of(
                ("pass", samples.Pass.IsEmpty ? null : Words(samples.Pass)),
                ("fail", samples.Fail.IsEmpty ? null : Words(samples.Fail))
            );

    public static ChoiceList ReadChoiceList(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a choice list", "kind", "key", "label", "choices");
        var choices = reading
            .List(map["choices"], "'choices'")
            .Select(node => reading.Map(node, $"a choice"))
            .OfType<FileNode.Map>()
            .Select(choice =>
            {
                reading.Only(choice, $"a choice", "key", "label", "retired");
                var key = Key(reading, choice, $"a choice");
                return new Choice(
                    key,
                    reading.Texts(choice["label"], "'label'") ?? Texts.Of(key),
                    reading.Flag(choice["retired"], "'retired'")
                );
            })
            .ToImmutableArray();
        Twice(reading, map, choices.Select(choice => choice.Key), $"choice");
        var listKey = Key(reading, map, $"a choice list");
        return new ChoiceList(listKey, reading.Texts(map["label"], "'label'") ?? Texts.Of(listKey), choices);
    }

    public static FileNode Write(ChoiceList list) =>
        FileNode.Of(
            ("kind", FileNode.Word("choice-list")),
            ("key", FileNode.Word(list.Key)),
            ("label", DocumentReader.Write(list.Label)),
            (
                "choices",
                new FileNode.List(
                    [
                        .. list.Choices.Select(choice =>
                            FileNode.Of(
                                ("key", FileNode.Word(choice.Key)),
                                ("label", DocumentReader.Write(choice.Label)),
                                ("retired", Flag(choice.Retired))
                            )
                        ),
                    ],
                    default
                )
            )
        );

    public static Entity ReadEntity(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"an entity", "kind", "key", "label", "plural", "display", "fields");
        var key = Key(reading, map, $"an entity");
        var fields = reading
            .List(map["fields"], "'fields'", Limits.Fields)
            .Select(node => reading.Map(node, $"a field"))
            .OfType<FileNode.Map>()
            .Select(field => ReadField(reading, field))
            .ToImmutableArray();
        Twice(reading, map, fields.Select(field => field.Key), $"field");
        var display = reading.Word(map["display"], "'display'")
            ?? (fields.FirstOrDefault(field => field.Type.IsShortText()) is { } first ? $"{{{first.Key}}}" : "");
        // What is made of a key that is none is told once, at the key.
        foreach (
            var unknown in map["display"] is null ? [] : Placeholders.In(display).Where(name => fields.All(field => field.Key != name))
        )
        {
            reading.Problem(
                map.PlaceOf("display"),
                $"there is no field '{unknown}'{Suggestion.For(unknown, [.. fields.Select(field => field.Key)])}"
            );
        }

        return new Entity
        {
            Key = key,
            Label = reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            Plural = reading.Texts(map["plural"], "'plural'") ?? reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            Display = display,
            Fields = fields,
        };
    }

    private static Field ReadField(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a field", FieldKeys);
        var key = Key(reading, map, $"a field");
        if (ServiceFields.Contains(key))
        {
            reading.Problem(map.PlaceOf("key"), $"'{key}' is filled by the service for every record; give the field another key");
        }

        var typeName = reading.Required(map, "type", $"a field");
        if (!FieldTypes.TryParse(typeName, out var type) && typeName.Length > 0)
        {
            reading.Problem(map.PlaceOf("type"), $"there is no type '{typeName}'{Suggestion.For(typeName, [.. FieldTypes.All])}");
        }

        var field = new Field
        {
            Key = key,
            Label = reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            Help = reading.Texts(map["help"], "'help'"),
            Type = type,
            Required = reading.Flag(map["required"], "'required'"),
            Advised = reading.Flag(map["advised"], "'advised'"),
            Unique = reading.Flag(map["unique"], "'unique'"),
            Target = reading.Word(map["target"], "'target'"),
            ChoiceList = reading.Word(map["choices"], "'choices'"),
            MaxLength = reading.Whole(map["maxLength"], "'maxLength'"),
            Min = reading.Number(map["min"], "'min'"),
            Max = reading.Number(map["max"], "'max'"),
            Scale = reading.Whole(map["scale"], "'scale'") ?? 2,
            Unit = reading.Word(map["unit"], "'unit'"),
            Pattern = reading.Word(map["pattern"], "'pattern'"),
            PatternMessage = reading.Texts(map["patternMessage"], "'patternMessage'"),
            Uses = reading.Word(map["uses"], "'uses'"),
            Samples = ReadSamples(reading, map["samples"]),
            Default = reading.Word(map["default"], "'default'"),
            ClearWhenHidden = reading.Word(map["whenHidden"], "'whenHidden'") == "clear",
            Added = reading.Flag(map["added"], "'added'"),
            Retired = reading.Flag(map["retired"], "'retired'"),
            Read = map["read"] is { } read ? reading.Words(read, "'read'") : null,
            Write = map["write"] is { } write ? reading.Words(write, "'write'") : null,
        };

        Require(type is not FieldType.Reference || field.Target is not null, $"a reference needs 'target', the entity it points at");
        Require(
            type is not (FieldType.Choice or FieldType.Choices) || field.ChoiceList is not null,
            $"a choice needs 'choices', the key of its choice list"
        );
        Require(field.Scale is >= 0 and <= 6, $"'scale' must be from 0 to 6");
        Require(field.MaxLength is null or > 0 and <= 1_000_000, $"'maxLength' must be from 1 to 1000000");
        Require(field.Min is null || field.Max is null || field.Min <= field.Max, $"'min' is larger than 'max'");
        Require((reading.Word(map["whenHidden"], "'whenHidden'") ?? "keep") is "keep" or "clear", $"'whenHidden' must be keep or clear");
        if (field.Pattern is { } pattern && WholePattern.Problem(pattern) is { } wrong)
        {
            reading.Problem(map.PlaceOf("pattern"), $"'pattern' {wrong}");
        }

        return field;

        void Require(bool holds, Message message)
        {
            if (!holds)
            {
                reading.Problem(map.At, message);
            }
        }
    }

    public static FileNode Write(Entity entity) =>
        FileNode.Of(
            ("kind", FileNode.Word("entity")),
            ("key", FileNode.Word(entity.Key)),
            ("label", DocumentReader.Write(entity.Label)),
            ("plural", DocumentReader.Write(entity.Plural)),
            ("display", FileNode.Word(entity.Display)),
            ("fields", new FileNode.List([.. entity.Fields.Select(Write)], default))
        );

    private static FileNode Write(Field field) =>
        FileNode.Of(
            ("key", FileNode.Word(field.Key)),
            ("label", DocumentReader.Write(field.Label)),
            ("help", DocumentReader.Write(field.Help)),
            ("type", FileNode.Word(field.Type.Name())),
            ("required", Flag(field.Required)),
            ("advised", Flag(field.Advised)),
            ("unique", Flag(field.Unique)),
            ("target", Word(field.Target)),
            ("choices", Word(field.ChoiceList)),
            ("maxLength", Number(field.MaxLength)),
            ("min", Number(field.Min)),
            ("max", Number(field.Max)),
            ("scale", field.Scale == 2 ? null : Number(field.Scale)),
            ("unit", Word(field.Unit)),
            ("pattern", Word(field.Pattern)),
            ("patternMessage", DocumentReader.Write(field.PatternMessage)),
            ("uses", Word(field.Uses)),
            ("samples", Write(field.Samples)),
            ("default", Word(field.Default)),
            ("whenHidden", field.ClearWhenHidden ? FileNode.Word("clear") : null),
            ("added", Flag(field.Added)),
            ("retired", Flag(field.Retired)),
            ("read", field.Read is { } read ? Words(read) : null),
            ("write", field.Write is { } write ? Words(write) : null)
        );

    private static FileNode? Flag(bool on) => on ? FileNode.Bare("true") : null;

    private static FileNode? Word(string? word) => word is null ? null : FileNode.Word(word);

    private static FileNode? Number(decimal? number) =>
        number is { } given ? FileNode.Bare(given.ToString("0.############################", CultureInfo.InvariantCulture)) : null;

    private static FileNode.List Words(IEnumerable<string> words) => new([.. words.Select(FileNode.Word)], default, Flow: true);

    private static string Key(DocumentReader reading, FileNode.Map map, Message what)
    {
        var key = reading.Required(map, "key", what);
        if (key.Length > 0 && !NodeId.IsWellFormed(key))
        {
            reading.Problem(
                map.PlaceOf("key"),
                $"a key must begin with a letter and have only letters, digits, '-' and '_', at most {Limits.IdLength}; it is '{key}'"
            );
        }

        return key;
    }

    private static void Twice(DocumentReader reading, FileNode.Map map, IEnumerable<string> keys, Message what)
    {
        foreach (var twice in keys.GroupBy(key => key.ToLowerInvariant()).Where(group => group.Count() > 1))
        {
            reading.Problem(map.At, $"the {what} '{twice.First()}' is given twice");
        }
    }
}
