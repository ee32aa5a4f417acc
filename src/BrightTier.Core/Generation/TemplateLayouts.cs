using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Generation;

/// <summary>
/// A layout taken over for another entity: the layout, and the fields of the old one that found no match and were left out.
/// </summary>
public sealed record TemplateCopy(Layout Layout, ImmutableArray<string> Strays);

/// <summary>Starts from templates, and takes layouts over for other entities: matched by field, strays reported.</summary>
public static class TemplateLayouts
{
    /// <summary>Every layout of a template, taken over for an entity, in one act.</summary>
    public static IReadOnlyList<TemplateCopy> Make(Template template, Catalogue catalogue, Entity entity, string key) =>
        [
            .. template
                .Layouts.Select(name => catalogue.Layouts.GetValueOrDefault(name))
                .OfType<Layout>()
                .Select(layout => TakeOver(layout, entity, layout.Kind == "full" ? key : $"{key}-{layout.Kind}")),
        ];

    /// <summary>
    /// The layout with the same structure for another entity. Items of fields the entity has, by key, stay; the others go, with rows and
    /// cells left
    /// empty by it, and conditions and texts that name them.
    /// </summary>
    public static TemplateCopy TakeOver(Layout layout, Entity entity, string key)
    {
        var strays = new SortedSet<string>(StringComparer.Ordinal);
        var root = Kept(layout.Root, entity, strays)!
            .With("key", new Value.Word(key))
            .With("entity", new Value.Word(entity.Key))
            .With("title", new Value.Text(layout.Kind == "list" ? entity.Plural : entity.Label))
            .With("extends", null);
        return new TemplateCopy(Layout.Of(root), [.. strays]);
    }

    private static Node? Kept(Node node, Entity entity, SortedSet<string> strays)
    {
        if (
            node.Kind is NodeKind.Field or NodeKind.Column
            && node.Word(Grammar.Of(node.Kind).Main!) is { } field
            && entity.Find(field) is null
        )
        {
            strays.Add(field);
            return null;
        }

        if (node.Kind is NodeKind.Related or NodeKind.Piece or NodeKind.Change)
        {
            return null;
        }

        var children = node.Children.Select(child => Kept(child, entity, strays)).OfType<Node>().ToImmutableArray();
        if (children.IsEmpty && !node.Children.IsEmpty && node.Kind is NodeKind.Row or NodeKind.Cell)
        {
            return null;
        }

        var properties = node.Properties;
        foreach (var (name, text, _) in Grammar.Expressions(node))
        {
            properties =
                Parser.Parse(text).Expression?.OfRecord().Any(read => entity.Find(read.Field) is null) == true
                    ? properties.Remove(name)
                    : properties;
        }

        foreach (var (name, value) in node.Properties)
        {
            var read = value switch
            {
                Value.Text text when name is "text" => text.Texts.ByLanguage.Values.SelectMany(Placeholders.In),
                Value.Word word when name is "picture" => [word.Content],
                _ => [],
            };
            properties = read.Any(each => entity.Find(each) is null) ? properties.Remove(name) : properties;
            // Fields a list is sorted or filtered by; a leading - sorts downwards.
            if (value is Value.Words words && name is "sort" or "filters")
            {
                var kept = words.Contents.Where(word => entity.Find(word.TrimStart('-')) is not null).ToImmutableArray();
                properties = kept.IsEmpty ? properties.Remove(name) : properties.SetItem(name, new Value.Words(kept));
            }
        }

        return node with
        {
            Properties = properties,
            Children = children,
        };
    }
}
