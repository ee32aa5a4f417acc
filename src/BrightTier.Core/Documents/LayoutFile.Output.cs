using System.Collections.Immutable;
using System.Globalization;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

// Writing a layout.
public static partial class LayoutFile
{
    internal static FileNode? WriteValue(Value? value) =>
        value switch
        {
            null => null,
            Value.Text text => DocumentReader.Write(text.Texts),
            Value.Word word => FileNode.Word(word.Content),
            Value.Number number => FileNode.Bare(number.Amount.ToString("0.############################", CultureInfo.InvariantCulture)),
            Value.Words words => new FileNode.List([.. words.Contents.Select(FileNode.Word)], default, Flow: true),
            Value.Pairs pairs => FileNode.Of(pairs.Entries.Select(pair => (pair.Key, (FileNode?)FileNode.Word(pair.Value)))) with
            {
                Flow = true,
            },
            Value.Flag flag => FileNode.Bare(flag.On ? "true" : "false"),
            _ => throw new ArgumentOutOfRangeException(nameof(value)),
        };

    /// <summary>
    /// The canonical form: defaults left out, ids only where reading would not derive them, rows as short as they can be.
    /// </summary>
    public static FileNode Write(Layout layout) => WriteNode(layout.Root, DerivedIds.MustBeWritten(layout.Root).Remove(layout.Root.Id));

    private static FileNode WriteNode(Node node, ImmutableHashSet<NodeId> written)
    {
        if (node.Kind is NodeKind.Row && !written.Contains(node.Id) && node.Properties.IsEmpty)
        {
            var cells = node.Children.Select(cell => WriteNode(cell, written)).ToImmutableArray();
            return new FileNode.List(cells, default, Flow: cells.All(cell => cell is FileNode.Scalar));
        }

        if (node.Kind is NodeKind.Cell && !written.Contains(node.Id) && node.Children is [var only] && node["note"] is null)
        {
            return WritePlaced(node, WriteNode(only, written));
        }

        var rule = Grammar.Of(node);
        if (node.Kind is NodeKind.Field or NodeKind.Column && node.Properties.Count == 1 && !written.Contains(node.Id))
        {
            return FileNode.Word(node.Word(rule.Main!)!);
        }

        var entries = rule.Properties.Select(property => (property.Name, WriteValue(node[property.Name]))).ToList();
        // The main property says which kind an item is and so comes first; an id follows it, or leads where there is none.
        entries.Insert(rule.Main is null ? 0 : 1, (Grammar.Id, written.Contains(node.Id) ? FileNode.Word(node.Id.Name) : null));
        foreach (var holds in rule.Holds)
        {
            var children = node.Children.Where(child => holds.Kinds.Contains(child.Kind)).ToArray();
            switch (holds.Shape)
            {
                case ChildShape.One:
                    entries.AddRange(children.Select(child => (holds.Word, (FileNode?)WriteNode(child, written))));
                    break;
                case ChildShape.Named when children.Length > 0:
                    entries.Add(
                        (
                            holds.Word,
                            FileNode.Of(children.Select(child => (child.Word("variant")!, (FileNode?)WriteVariant(child, written))))
                        )
                    );
                    break;
                case ChildShape.Many when children.Length > 0 || node.Kind is NodeKind.Cell:
                    entries.Add(
                        (
                            holds.Word,
                            new FileNode.List(
                                holds.Kinds[0] is NodeKind.Change
                                    ? [.. WriteChanges(children, written)]
                                    : [.. children.Select(child => WriteNode(child, written))],
                                default
                            )
                        )
                    );
                    break;
            }
        }

        return FileNode.Of(entries);
    }

    /// <summary>What stands alone in a cell, with where and how wide the cell is.</summary>
    private static FileNode WritePlaced(Node node, FileNode item)
    {
        var placement = new[] { "span", "align" }
            .Where(name => node[name] is not null)
            .Select(name => new FileNode.Entry(name, default, WriteValue(node[name])!))
            .ToArray();
        return (item, placement) switch
        {
            (_, []) => item,
            (FileNode.Scalar scalar, [{ Key: "span", Value: FileNode.Scalar units }]) => scalar with
            {
                Content = $"{scalar.Content}/{units.Content}",
            },
            (FileNode.Scalar scalar, _) => new FileNode.Map([new FileNode.Entry("field", default, scalar), .. placement], default),
            (FileNode.Map map, _) => map with { Entries = map.Entries.InsertRange(1, placement) },
            _ => throw new InvalidOperationException(),
        };
    }
}
