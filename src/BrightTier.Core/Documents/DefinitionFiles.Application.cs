using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

// The application: its languages, widths, theme and styles.
internal static partial class DefinitionFiles
{
    public static Application ReadApplication(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"an application", ObjectRules.Application);
        var zone = reading.Word(map["timeZone"], "'timeZone'") ?? "UTC";
        if (!TimeZoneInfo.TryFindSystemTimeZoneById(zone, out _))
        {
            reading.Problem(map.PlaceOf("timeZone"), $"there is no time zone '{zone}'; write Europe/Amsterdam or UTC");
        }

        var roles = reading
            .List(map["roles"], "'roles'")
            .Select(node => reading.Map(node, $"a role"))
            .OfType<FileNode.Map>()
            .Select(role => ReadRole(reading, role));
        var languages = reading.Words(map["languages"], "'languages'");
        foreach (var language in languages.Where(language => !LanguageTags.IsTag(language)))
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

    private static Role ReadRole(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a role", ObjectRules.Role);
        var may = reading.Words(map["may"], "'may'");
        foreach (var permission in may.Where(permission => !Permissions.All.Contains(permission)))
        {
            reading.Problem(map.PlaceOf("may"), $"there is no permission '{permission}'{Suggestion.For(permission, [.. Permissions.All])}");
        }

        return new Role(Key(reading, map, $"a role"), reading.Texts(map["label"], "'label'") ?? Texts.Of(""), may)
        {
            Entities = reading.Words(map["entities"], "'entities'"),
        };
    }

    private static Theme ReadTheme(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a theme", ObjectRules.Theme);
        var typeface = reading.Word(map["typeface"], "'typeface'");
        if (typeface is not null && !Theme.Typefaces.Contains(typeface))
        {
            reading.Problem(map.PlaceOf("typeface"), $"there is no typeface '{typeface}'{Suggestion.For(typeface, [.. Theme.Typefaces])}");
        }

        var ground = reading.Word(map["ground"], "'ground'");
        if (ground is not null && !Theme.Grounds.Contains(ground))
        {
            reading.Problem(map.PlaceOf("ground"), $"there is no ground '{ground}'{Suggestion.For(ground, [.. Theme.Grounds])}");
        }

        return new Theme(ReadableColour("primary", 4.5), ReadableColour("accent", 3), typeface, ground);

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
                reading.Only(width, $"a width", ObjectRules.Width);
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
        reading.Only(map, $"a style", ObjectRules.Style);
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
            ("roles", new FileNode.List([.. application.Roles.Select(Write)], default)),
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
            ("styles", application.Styles.IsEmpty ? null : new FileNode.List([.. application.Styles.Select(Write)], default)),
            (
                "theme",
                application.Theme == Theme.Supplied
                    ? null
                    : FileNode.Of(
                        ("ground", Word(application.Theme.Ground)),
                        ("primary", Word(application.Theme.Primary)),
                        ("accent", Word(application.Theme.Accent)),
                        ("typeface", Word(application.Theme.Typeface))
                    )
            )
        );

    private static FileNode Write(Role role) =>
        FileNode.Of(
            ("key", FileNode.Word(role.Key)),
            ("label", DocumentReader.Write(role.Label)),
            ("may", role.May.IsEmpty ? null : Words(role.May)),
            ("entities", role.Entities.IsEmpty ? null : Words(role.Entities))
        );

    private static FileNode Write(Style style) =>
        FileNode.Of(
            ("key", FileNode.Word(style.Key)),
            ("label", DocumentReader.Write(style.Label)),
            ("ink", Word(style.Ink)),
            ("paper", Word(style.Paper)),
            ("strong", Flag(style.Strong))
        );
}
