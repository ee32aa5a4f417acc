using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>Every text for people in a document, under a name that stays while the document changes around it.</summary>
public static class DocumentTexts
{
    public static IEnumerable<(string Id, Texts Texts)> Of(Document document)
    {
        var found = new List<(string, Texts)>();
        With(document, (id, texts) =>
        {
            found.Add((id, texts));
            return texts;
        });
        return found;
    }

    /// <summary>The document with each text replaced. Notes are left alone: no user sees them.</summary>
    public static Document With(Document document, Func<string, Texts, Texts> change) =>
        document switch
        {
            Document.OfLayout layout => new Document.OfLayout(Layout.Of(InNode(layout.Layout.Root, change))),
            Document.OfEntity { Entity: var entity } => new Document.OfEntity(
                entity with
                {
                    Label = change("label", entity.Label),
                    Plural = change("plural", entity.Plural),
                    Fields =
                    [
                        .. entity.Fields.Select(field =>
                            field with
                            {
                                Label = change($"fields.{field.Key}.label", field.Label),
                                Help = field.Help is { } help ? change($"fields.{field.Key}.help", help) : null,
                                PatternMessage = field.PatternMessage is { } message
                                    ? change($"fields.{field.Key}.patternMessage", message)
                                    : null,
                            }
                        ),
                    ],
                }
            ),
            Document.OfChoiceList { ChoiceList: var list } => new Document.OfChoiceList(
                list with
                {
                    Label = change("label", list.Label),
                    Choices = [.. list.Choices.Select(choice => choice with { Label = change($"choices.{choice.Key}", choice.Label) })],
                }
            ),
            Document.OfPattern { Pattern: var pattern } => new Document.OfPattern(
                pattern with
                {
                    Label = change("label", pattern.Label),
                    Message = pattern.Message is { } message ? change("message", message) : null,
                }
            ),
            Document.OfApplication { Application: var application } => new Document.OfApplication(
                application with
                {
                    Title = change("title", application.Title),
                    Roles = [.. application.Roles.Select(role => role with { Label = change($"roles.{role.Key}", role.Label) })],
                    Styles = [.. application.Styles.Select(style => style with { Label = change($"styles.{style.Key}", style.Label) })],
                }
            ),
            Document.OfTemplate { Template: var template } => new Document.OfTemplate(
                template with
                {
                    Title = change("title", template.Title),
                    About = template.About is { } about ? change("about", about) : null,
                }
            ),
            Document.OfNavigation { Navigation: var navigation } => new Document.OfNavigation(
                new Navigation(InEntries(navigation.Entries, change))
            ),
            _ => document,
        };

    /// <summary>What a translator should know of texts, by their ids: where each stands, and what was noted there.</summary>
    public static IReadOnlyDictionary<string, IReadOnlyList<string>> Notes(Document document, string language)
    {
        var notes = new Dictionary<string, IReadOnlyList<string>>(StringComparer.Ordinal);
        switch (document)
        {
            case Document.OfLayout { Layout: var layout }:
                Below(layout.Root, "");
                break;
            case Document.OfEntity { Entity: var entity }:
                foreach (var (field, property) in entity.Fields.SelectMany(field => FieldTexts.Select(property => (field, property))))
                {
                    notes[$"fields.{field.Key}.{property}"] =
                    [
                        $"{property} of the field '{field.Key}' ({field.Type.Name()}) of {entity.Label.In(language)}",
                    ];
                }

                break;
            case Document.OfChoiceList { ChoiceList: var list }:
                foreach (var choice in list.Choices)
                {
                    notes[$"choices.{choice.Key}"] = [$"a choice of {list.Label.In(language)}"];
                }

                break;
        }

        return notes;

        void Below(Node node, string around)
        {
            var called = node.Text("title") ?? node.Text("heading") ?? node.Text("label");
            var noun = Grammar.Of(node).Name;
            foreach (var (name, value) in node.Properties.Where(pair => pair.Value is Value.Text && pair.Key != "note"))
            {
                var of = node.Word(Grammar.Of(node).Main ?? "") is { } main ? $"{noun} '{main}'" : noun;
                notes[$"{node.Id}.{name}"] =
                [
                    $"{name} of the {of}{around}",
                    .. node.Text("note") is { } note ? [note.In(language)] : Array.Empty<string>(),
                ];
            }

            var inside = called is null || node.Kind is NodeKind.Layout ? around : $", in '{called.In(language)}'{around}";
            foreach (var child in node.Children)
            {
                Below(child, inside);
            }
        }
    }

    private static readonly string[] FieldTexts = ["label", "help", "patternMessage"];

    private static Node InNode(Node node, Func<string, Texts, Texts> change)
    {
        var properties = node.Properties;
        foreach (var (name, value) in node.Properties)
        {
            if (value is Value.Text text && name != "note")
            {
                properties = properties.SetItem(name, new Value.Text(change($"{node.Id}.{name}", text.Texts)));
            }
        }

        return node with
        {
            Properties = properties,
            Children = [.. node.Children.Select(child => InNode(child, change))],
        };
    }

    private static ImmutableArray<MenuEntry> InEntries(ImmutableArray<MenuEntry> entries, Func<string, Texts, Texts> change) =>
        [
            .. entries.Select(entry =>
                entry with
                {
                    Title = change($"entries.{entry.Key}", entry.Title),
                    Entries = InEntries(entry.Entries, change),
                }
            ),
        ];
}
