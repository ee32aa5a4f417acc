using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Generation;

/// <summary>Fields that are about one thing, in the order of the entity, with what that is called.</summary>
/// <param name="Word">The word they share, of which ids are made.</param>
public sealed record Topic(string Word, Texts Title, ImmutableArray<Field> Fields)
{
    /// <summary>Fewer are kept beside each other and get no heading.</summary>
    public const int Several = 3;

    /// <summary>An entity of fewer fields says too little about which of its words are in everything.</summary>
    private const int EnoughToCount = 8;

    /// <summary>
    /// The topics of fields, at least two fields each and each field in one at most, in the order of their first. What labels have before a
    /// colon counts most, then the first word of keys, then any telling word that is shared, by how many share it.
    /// </summary>
    /// <param name="entity">Whose own name tells nothing.</param>
    public static ImmutableArray<Topic> Of(IReadOnlyList<Field> fields, Entity entity)
    {
        var left = fields.ToList();
        var places = fields.Select((field, i) => (field.Key, i)).ToDictionary(pair => pair.Key, pair => pair.i);
        var found = new List<Topic>();
        Take(field => FieldWords.Before(field, "en")?.ToLowerInvariant());
        var own = FieldWords.InText(entity.Label.In("en")).Concat(FieldWords.InText(entity.Key)).ToHashSet();
        var words = fields.ToDictionary(field => field.Key, field => FieldWords.Of(field).Where(word => !own.Contains(word)).ToArray());
        var counts = words.Values.SelectMany(each => each).CountBy(word => word).ToDictionary();
        Take(field => FieldWords.First(field) is { } word && !own.Contains(word) && !IsEverywhere(word) ? word : null, Several);
        while (Shared() is { } word)
        {
            Take(field => words[field.Key].Contains(word) ? word : null);
        }

        // A word that stands last in several, as of people who design this and that, makes no subject of them.
        found.RemoveAll(topic =>
            topic.Fields.Length >= Several
            && !topic.Fields.All(field => FieldWords.Before(field, "en") is not null)
            && topic.Fields.Count(field => words[field.Key].FirstOrDefault() == topic.Word) * 2 < topic.Fields.Length
        );
        return [.. Joined(found, fields).OrderBy(topic => Place(topic.Fields[0]))];

        bool IsEverywhere(string word) => fields.Count >= EnoughToCount && counts.GetValueOrDefault(word) * 5 > fields.Count * 2;

        int Place(Field field) => places[field.Key];

        void Take(Func<Field, string?> word, int least = 2)
        {
            var groups = left.GroupBy(field => word(field)).Where(group => group.Key is not null && group.Count() >= least).ToArray();
            foreach (var group in groups)
            {
                found.Add(new Topic(group.Key!, TopicTitle.Of(group.Key!, [.. group]), [.. group]));
                left.RemoveAll(group.Contains);
            }
        }

        string? Shared() =>
            left.SelectMany(field => words[field.Key].Select(word => (word, field)))
                .GroupBy(pair => pair.word)
                .Where(group => group.Count() > 1 && !IsEverywhere(group.Key))
                .OrderByDescending(group => group.Count())
                .ThenBy(group => Place(group.First().field))
                .Select(group => group.Key)
                .FirstOrDefault();
    }

    /// <summary>A field that stands between two of one topic, and is of none, is of that one.</summary>
    private static IEnumerable<Topic> Joined(List<Topic> topics, IReadOnlyList<Field> fields)
    {
        var of = topics
            .SelectMany(topic => topic.Fields.Select(field => (field.Key, topic)))
            .ToDictionary(pair => pair.Key, pair => pair.topic);
        for (var i = 1; i + 1 < fields.Count; i++)
        {
            if (
                !of.ContainsKey(fields[i].Key)
                && of.TryGetValue(fields[i - 1].Key, out var before)
                && of.TryGetValue(fields[i + 1].Key, out var after)
                && before.Word == after.Word
                && before.Fields.Length >= Several
            )
            {
                of[fields[i].Key] = before;
            }
        }

        return topics.Select(topic =>
            topic with
            {
                Fields = [.. fields.Where(field => of.GetValueOrDefault(field.Key)?.Word == topic.Word)],
            }
        );
    }
}
