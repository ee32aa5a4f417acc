using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>Reads and writes routing rules, the menu and templates.</summary>
internal static class RoutingFiles
{
    private static readonly string[] Kinds = ["full", "short", "card", "list", "print"];

    public static RoutingRules ReadRouting(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"routing", ObjectRules.Routing);
        return new RoutingRules([
            .. reading
                .List(map["rules"], "'rules'")
                .Select(node => reading.Map(node, $"a rule"))
                .OfType<FileNode.Map>()
                .Select(rule =>
                {
                    reading.Only(rule, $"a rule", ObjectRules.Rule);
                    var kind = reading.Word(rule["form"], "'form'") ?? "full";
                    if (!Kinds.Contains(kind))
                    {
                        reading.Problem(rule.PlaceOf("form"), $"there is no kind '{kind}'{Suggestion.For(kind, Kinds)}");
                    }

                    return new RoutingRule(
                        reading.Required(rule, "entity", $"a rule"),
                        kind,
                        reading.Required(rule, "layout", $"a rule"),
                        reading.Words(rule["roles"], "'roles'"),
                        reading.Word(rule["when"], "'when'")
                    );
                }),
        ]);
    }

    public static FileNode Write(RoutingRules routing) =>
        FileNode.Of(
            ("kind", FileNode.Word("routing")),
            (
                "rules",
                new FileNode.List(
                    [
                        .. routing.Rules.Select(rule =>
                            FileNode.Of(
                                ("entity", FileNode.Word(rule.Entity)),
                                ("form", rule.Kind == "full" ? null : FileNode.Word(rule.Kind)),
                                ("layout", FileNode.Word(rule.Layout)),
                                ("roles", Words(rule.Roles)),
                                ("when", rule.When is { } when ? FileNode.Word(when) : null)
                            )
                        ),
                    ],
                    default
                )
            )
        );

    public static Navigation ReadNavigation(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"navigation", ObjectRules.Navigation);
        var entries = ReadEntries(reading, map["entries"], 0);
        foreach (var twice in entries.SelectMany(entry => entry.Walk()).GroupBy(entry => entry.Key).Where(group => group.Count() > 1))
        {
            reading.Problem(map.At, $"the key '{twice.Key}' is given to two entries");
        }

        return new Navigation(entries);
    }

    private static ImmutableArray<MenuEntry> ReadEntries(DocumentReader reading, FileNode? node, int depth)
    {
        if (depth > 20)
        {
            reading.Problem(node!.At, $"a menu nests at most 20 levels");
            return [];
        }

        return
        [
            .. reading
                .List(node, "'entries'")
                .Select(each => reading.Map(each, $"an entry"))
                .OfType<FileNode.Map>()
                .Select(entry =>
                {
                    reading.Only(entry, $"an entry", ObjectRules.Entry);
                    var key = reading.Required(entry, "key", $"an entry");
                    if (key.Length > 0 && !NodeId.IsWellFormed(key))
                    {
                        reading.Problem(
                            entry.PlaceOf("key"),
                            $"a key must begin with a letter and have only letters, digits, '-' and '_'; it is '{key}'"
                        );
                    }

                    var address = reading.Word(entry["address"], "'address'");
                    if (address is not null && Grammar.Problem(Grammar.Property("address")!, new Value.Word(address)) is { } wrong)
                    {
                        reading.Problem(entry.PlaceOf("address"), $"'address' {wrong}");
                    }

                    return new MenuEntry(
                        key,
                        reading.Texts(entry["title"], "'title'") ?? Texts.Of(key),
                        reading.Word(entry["icon"], "'icon'"),
                        reading.Word(entry["entity"], "'entity'"),
                        address,
                        reading.Words(entry["roles"], "'roles'"),
                        ReadEntries(reading, entry["entries"], depth + 1)
                    );
                }),
        ];
    }

    public static FileNode Write(Navigation navigation) =>
        FileNode.Of(("kind", FileNode.Word("navigation")), ("entries", Entries(navigation.Entries)));

    private static FileNode.List? Entries(ImmutableArray<MenuEntry> entries) =>
        entries.IsEmpty
            ? null
            : new FileNode.List(
                [
                    .. entries.Select(entry =>
                        FileNode.Of(
                            ("key", FileNode.Word(entry.Key)),
                            ("title", DocumentReader.Write(entry.Title)),
                            ("icon", entry.Icon is { } icon ? FileNode.Word(icon) : null),
                            ("entity", entry.Entity is { } entity ? FileNode.Word(entity) : null),
                            ("address", entry.Address is { } address ? FileNode.Word(address) : null),
                            ("roles", Words(entry.Roles)),
                            ("entries", Entries(entry.Entries))
                        )
                    ),
                ],
                default
            );

    public static Template ReadTemplate(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a template", ObjectRules.Template);
        var key = reading.Required(map, "key", $"a template");
        if (key.Length > 0 && !NodeId.IsWellFormed(key))
        {
            reading.Problem(
                map.PlaceOf("key"),
                $"a key must begin with a letter and have only letters, digits, '-' and '_'; it is '{Suggestion.Short(key)}'"
            );
        }

        return new Template(
            key,
            reading.Texts(map["title"], "'title'") ?? Texts.Of(key),
            reading.Texts(map["about"], "'about'"),
            reading.Words(map["layouts"], "'layouts'")
        );
    }

    public static FileNode Write(Template template) =>
        FileNode.Of(
            ("kind", FileNode.Word("template")),
            ("key", FileNode.Word(template.Key)),
            ("title", DocumentReader.Write(template.Title)),
            ("about", DocumentReader.Write(template.About)),
            ("layouts", Words(template.Layouts))
        );

    private static FileNode.List? Words(ImmutableArray<string> words) =>
        words.IsEmpty ? null : new FileNode.List([.. words.Select(FileNode.Word)], default, Flow: true);
}
