using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>One document of a set that is compared with another set.</summary>
/// <param name="Mark">Equal where two documents are alike to the letter: a text, or its hash.</param>
/// <param name="Document">Reads it, once it is known to differ; null where it cannot be read.</param>
public sealed record ComparedDocument(string Mark, Func<Document?> Document);

/// <summary>What became of one document between two sets.</summary>
/// <param name="Change">added, changed or removed.</param>
/// <param name="Summary">What was done to it, a sentence each; of what was added or removed nothing.</param>
public sealed record ComparedChange(DocumentKind Kind, string Key, string Change, IReadOnlyList<Message> Summary);

/// <summary>Compares two sets of documents, such as two releases, a folder and the drafts, or two environments.</summary>
public static class DocumentComparison
{
    /// <summary>What differs, by kind and key. What is only written in another way does not.</summary>
    public static IEnumerable<ComparedChange> Between(
        IReadOnlyDictionary<(DocumentKind Kind, string Key), ComparedDocument> old,
        IReadOnlyDictionary<(DocumentKind Kind, string Key), ComparedDocument> next
    )
    {
        foreach (var name in old.Keys.Union(next.Keys).OrderBy(name => name.Kind).ThenBy(name => name.Key, StringComparer.Ordinal))
        {
            if (Between(name, old.GetValueOrDefault(name), next.GetValueOrDefault(name), Label) is { } change)
            {
                yield return change;
            }
        }

        Texts? Label(string entity, string field)
        {
            var name = (DocumentKind.Entity, entity);
            var defined = (next.GetValueOrDefault(name) ?? old.GetValueOrDefault(name))?.Document();
            return (defined as Document.OfEntity)?.Entity.Find(field)?.Label;
        }
    }

    private static ComparedChange? Between(
        (DocumentKind Kind, string Key) name,
        ComparedDocument? old,
        ComparedDocument? next,
        Func<string, string, Texts?> label
    )
    {
        if (old is null || next is null)
        {
            // What was put away before anybody had it was never there.
            return next?.Document() is Document.OfLayout { Layout.IsArchived: true } or Document.OfEntity { Entity.Archived: true }
                ? null
                : new ComparedChange(name.Kind, name.Key, old is null ? "added" : "removed", []);
        }

        if (old.Mark == next.Mark)
        {
            return null;
        }

        IReadOnlyList<Message> words = (old.Document(), next.Document()) switch
        {
            (null, _) => [$"Cannot be read as it was."],
            (_, null) => [$"Cannot be read as it is."],
            var (one, other) => DocumentMerge.Describe(one, other, label),
        };
        return words.Count == 0 ? null : new ComparedChange(name.Kind, name.Key, "changed", words);
    }
}
