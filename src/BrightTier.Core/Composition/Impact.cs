using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Composition;

/// <summary>One place that uses something: the document, where in it (a node's id, or a JSON pointer), what for, and a sentence.</summary>
public sealed record Use(DocumentKind Kind, string Key, string Place, string As, Message Message);

/// <summary>Where things are used, and so what would notice if they changed.</summary>
public static partial class Impact
{
    /// <summary>What can be asked about.</summary>
    public static IReadOnlyList<string> Subjects { get; } =
    ["field", "choice", "choice-list", "entity", "piece", "role", "pattern", "layout", "style"];

    /// <param name="subject">field and choice are named with what they belong to: vessel.length, propulsion.sail.</param>
    public static IReadOnlyList<Use> Of(string subject, string name, Catalogue catalogue) =>
        subject switch
        {
            "field" => [.. Fields(name, catalogue)],
            "choice" => [.. Choices(name, catalogue)],
            "choice-list" => [.. FieldsWith(catalogue, field => field.ChoiceList == name, "choices")],
            "entity" => [.. Entities(name, catalogue)],
            "piece" =>
            [
                .. Pieces
                    .Uses(name, catalogue)
                    .Select(use => InLayout(use.Layout, use.Node, "piece", $"'{use.Layout}' uses it at '{use.Node}'.")),
            ],
            "role" => [.. Roles(name, catalogue)],
            "pattern" => [.. FieldsWith(catalogue, field => field.Uses == name, "pattern")],
            "layout" => [.. Layouts(name, catalogue)],
            "style" =>
            [
                .. from layout in catalogue.Layouts.Values
                where layout.MayName(name)
                from node in layout.Walk()
                where node.Word("style") == name
                select InLayout(layout.Key, node.Id, "style", $"'{node.Id}' of '{layout.Key}' has it."),
            ],
            _ => [],
        };

    /// <summary>The names there are of a kind of thing one can ask about.</summary>
    public static IReadOnlyCollection<string> Names(string subject, Catalogue catalogue) =>
        subject switch
        {
            "field" =>
            [
                .. from entity in catalogue.Definitions.Entities.Values from field in entity.Fields select $"{entity.Key}.{field.Key}",
            ],
            "choice" =>
            [
                .. from list in catalogue.Definitions.ChoiceLists.Values from choice in list.Choices select $"{list.Key}.{choice.Key}",
            ],
            "choice-list" => [.. catalogue.Definitions.ChoiceLists.Keys],
            "entity" => [.. catalogue.Definitions.Entities.Keys],
            "piece" => [.. catalogue.Pieces.Select(piece => piece.Key)],
            "role" => [.. catalogue.Definitions.Application.Roles.Select(role => role.Key)],
            "pattern" => [.. catalogue.Definitions.Patterns.Keys],
            "layout" => [.. catalogue.Layouts.Keys],
            "style" => [.. catalogue.Definitions.Application.Styles.Select(style => style.Key)],
            _ => [],
        };

    private static Use InLayout(string layout, NodeId node, string use, Message message) =>
        new(DocumentKind.Layout, layout, node.Name, use, message);

    private static IEnumerable<Use> FieldsWith(Catalogue catalogue, Func<Field, bool> uses, string use) =>
        from entity in catalogue.Definitions.Entities.Values
        from each in entity.Fields.Select((field, i) => (field, i))
        where uses(each.field)
        select new Use(
            DocumentKind.Entity,
            entity.Key,
            $"/fields/{each.i}",
            use,
            use == "reference"
                ? (Message)$"'{each.field.Label}' of '{entity.Label}' points at its records."
                : $"'{each.field.Label}' of '{entity.Label}' has it."
        );

    private static IEnumerable<Use> Fields(string name, Catalogue catalogue)
    {
        if (name.Split('.') is not [var entityKey, var key])
        {
            yield break;
        }

        foreach (
            var entity in catalogue.Definitions.Entities.Values.Where(each =>
                each.Key == entityKey && Placeholders.In(each.Display).Contains(key)
            )
        )
        {
            yield return new Use(DocumentKind.Entity, entityKey, "/display", "display", $"Records of '{entity.Label}' are named by it.");
        }

        foreach (var layout in catalogue.Layouts.Values.Where(layout => layout.MayName(key)))
        {
            foreach (var node in layout.Walk())
            {
                foreach (var (property, message) in Mentions(node, layout, entityKey, key, catalogue))
                {
                    yield return InLayout(layout.Key, node.Id, property, message);
                }
            }
        }

        foreach (var (expression, entity, use) in Expressions(catalogue, key))
        {
            if (FieldsRead(expression, entity, catalogue).Any(read => read.Entity == entityKey && read.Field.Key == key))
            {
                yield return use("reads it");
            }
        }
    }

    private static IEnumerable<(string Property, Message Message)> Mentions(
        Node node,
        Layout layout,
        string entityKey,
        string key,
        Catalogue catalogue
    )
    {
        var own = layout.Entity == entityKey;
        var entity = catalogue.Definitions.Entities.GetValueOrDefault(layout.Entity);
        var where = $"'{node.Id}' of '{layout.Key}'";
        if (own && (node.Word("field") == key || node.Word("column") == key || node.Word("picture") == key))
        {
            yield return ("field", $"{where} shows it.");
        }

        if (own && new[] { "sort", "filters" }.Any(property => node.Words(property).Any(word => word.TrimStart('-') == key)))
        {
            yield return ("sort", $"The list '{layout.Key}' is sorted or filtered by it.");
        }

        if (own && node.Kind is NodeKind.Piece && node.Pairs("slots").Values.Contains(key))
        {
            yield return ("slots", $"{where} binds it to a slot of '{node.Word("piece")}'.");
        }

        if (
            node.Word("related") == entityKey
            && (
                node.Word("through") == key
                || new[] { "shows", "totals", "sort" }.Any(property => node.Words(property).Any(word => word.TrimStart('-') == key))
            )
        )
        {
            yield return ("related", $"{where} shows related records with it.");
        }

        if (
            node.Kind is NodeKind.Field
            && entity?.Find(node.Word("field")!)?.Target == entityKey
            && (
                node.Pairs("copies").Values.Contains(key)
                || node.Pairs("filterBy").ContainsKey(key)
                || Placeholders.In(node.Text("display")?.ToString() ?? "").Contains(key)
            )
        )
        {
            yield return ("reference", $"{where} looks it up, copies it or filters by it.");
        }

        if (
            own
            && (
                node.Pairs("copies").ContainsKey(key)
                || node.Pairs("filterBy").Values.Contains(key)
                || (node.Kind is NodeKind.Action && node.Pairs("values").ContainsKey(key))
            )
        )
        {
            yield return ("values", $"{where} fills it or filters by it.");
        }

        foreach (var name in own ? TextsNaming(node, key) : [])
        {
            yield return (name, $"The text of {where} names it.");
        }
    }

    /// <summary>The properties of a node whose text has a field in it.</summary>
    private static IEnumerable<string> TextsNaming(Node node, string key) =>
        node
            .Properties.Where(property =>
                property.Value switch
                {
                    Value.Text text => property.Key is "text" && text.Texts.ByLanguage.Values.SelectMany(Placeholders.In).Contains(key),
                    Value.Word address => Grammar.Of(node).Find(property.Key)?.Type is PropertyType.Address
                        && Placeholders.In(address.Content).Contains(key),
                    _ => false,
                }
            )
            .Select(property => property.Key);

    private static IEnumerable<Use> Choices(string name, Catalogue catalogue)
    {
        if (name.Split('.') is not [var list, var choice])
        {
            yield break;
        }

        foreach (var (expression, entity, use) in Expressions(catalogue, choice))
        {
            if (Mentions(expression, choice) && FieldsRead(expression, entity, catalogue).Any(read => read.Field.ChoiceList == list))
            {
                yield return use("asks for it");
            }
        }

        foreach (var use in FieldsWith(catalogue, field => field.ChoiceList == list && field.Default == choice, "default"))
        {
            yield return use;
        }
    }

    private static IEnumerable<Use> Roles(string name, Catalogue catalogue)
    {
        foreach (
            var use in FieldsWith(catalogue, field => field.Read?.Contains(name) == true || field.Write?.Contains(name) == true, "right")
        )
        {
            yield return use;
        }

        foreach (var (expression, _, use) in Expressions(catalogue, name))
        {
            if (Mentions(expression, name) && expression.Walk().Any(part => part is Expression.Select { Field: "roles" }))
            {
                yield return use("asks for it");
            }
        }

        for (var i = 0; i < catalogue.Routing.Rules.Length; i++)
        {
            if (catalogue.Routing.Rules[i].Roles.Contains(name))
            {
                yield return new Use(DocumentKind.Routing, "routing", $"/rules/{i}/roles", "role", $"Routing rule {i + 1} is for it.");
            }
        }

        foreach (var entry in catalogue.Navigation.Entries.SelectMany(each => each.Walk()).Where(entry => entry.Roles.Contains(name)))
        {
            yield return new Use(DocumentKind.Navigation, "navigation", entry.Key, "role", $"The entry '{entry.Title}' is for it.");
        }
    }

    private static IEnumerable<Use> Entities(string name, Catalogue catalogue)
    {
        foreach (var use in FieldsWith(catalogue, field => field.Target == name, "reference"))
        {
            yield return use;
        }

        foreach (var layout in catalogue.Layouts.Values)
        {
            if (layout.Entity == name)
            {
                yield return InLayout(layout.Key, layout.Root.Id, "entity", $"'{layout.Key}' arranges its fields.");
            }

            if (!layout.Head.Entities.Contains(name))
            {
                continue;
            }

            foreach (var node in layout.Walk().Where(node => node.Word("related") == name || node.Word("begins") == name))
            {
                yield return InLayout(layout.Key, node.Id, "related", $"'{node.Id}' of '{layout.Key}' shows or begins its records.");
            }
        }

        foreach (var use in Rules(catalogue, rule => rule.Entity == name))
        {
            yield return use;
        }

        foreach (var entry in catalogue.Navigation.Entries.SelectMany(each => each.Walk()).Where(entry => entry.Entity == name))
        {
            yield return new Use(DocumentKind.Navigation, "navigation", entry.Key, "entity", $"The entry '{entry.Title}' leads to it.");
        }
    }

    private static IEnumerable<Use> Rules(Catalogue catalogue, Func<RoutingRule, bool> uses) =>
        catalogue
            .Routing.Rules.Select((rule, i) => (rule, i))
            .Where(each => uses(each.rule))
            .Select(each => new Use(
                DocumentKind.Routing,
                "routing",
                $"/rules/{each.i}",
                "rule",
                $"Routing rule {each.i + 1} is about it."
            ));

    /// <summary>How many places name each layout, counted in one go; layouts nobody names are not there.</summary>
    public static IReadOnlyDictionary<string, int> LayoutUses(Catalogue catalogue) =>
        catalogue
            .Layouts.Values.Select(layout => layout.Extends)
            .Concat(catalogue.Routing.Rules.Select(rule => rule.Layout))
            .Concat(catalogue.Templates.Values.SelectMany(template => template.Layouts))
            .OfType<string>()
            .CountBy(name => name)
            .ToDictionary();

    private static IEnumerable<Use> Layouts(string name, Catalogue catalogue)
    {
        foreach (var layout in catalogue.Layouts.Values.Where(layout => layout.Extends == name))
        {
            yield return InLayout(layout.Key, layout.Root.Id, "extends", $"'{layout.Key}' extends it.");
        }

        foreach (var use in Rules(catalogue, rule => rule.Layout == name))
        {
            yield return use;
        }

        foreach (var template in catalogue.Templates.Values.Where(template => template.Layouts.Contains(name)))
        {
            yield return new Use(
                DocumentKind.Template,
                template.Key,
                "/layouts",
                "template",
                $"The template '{template.Title}' starts from it."
            );
        }
    }
}
