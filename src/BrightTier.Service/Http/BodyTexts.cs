using System.Collections;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using BrightTier.Core.Model;

namespace BrightTier.Service.Http;

/// <summary>
/// What the types of bodies do not say: that lists hold something in every place, and that texts are of characters a text can hold. What
/// is refused here is refused before any endpoint sees it.
/// </summary>
internal static class BodyTexts
{
    public static void RejectUnstorable(JsonTypeInfo type)
    {
        if (type.Kind is not JsonTypeInfoKind.Object)
        {
            return;
        }

        var read = type.Properties.Where(property => property.Get is not null).ToArray();
        var (texts, lists) = (
            read.Where(property => property.PropertyType == typeof(string)).ToArray(),
            read.Where(property => HoldsObjects(property.PropertyType)).ToArray()
        );
        var maps = read.Where(property => typeof(IEnumerable<KeyValuePair<string, string>>).IsAssignableFrom(property.PropertyType))
            .ToArray();
        if (texts.Length + lists.Length + maps.Length == 0)
        {
            return;
        }

        type.OnDeserialized = made =>
        {
            foreach (var property in texts)
            {
                Sound(property.Get!(made) as string, $"'{property.Name}'");
            }

            foreach (
                var (name, value) in maps.SelectMany(property =>
                    (property.Get!(made) as IEnumerable<KeyValuePair<string, string>> ?? []).Select(pair =>
                        ($"'{property.Name}/{Suggestion.Short(pair.Key)}'", pair.Value)
                    )
                )
            )
            {
                Sound(value, name);
            }

            foreach (var property in lists)
            {
                var at = 0;
                foreach (var element in property.Get!(made) as IEnumerable ?? Array.Empty<object>())
                {
                    if (element is null)
                    {
                        throw new JsonException(
                            string.Create(CultureInfo.InvariantCulture, $"'{property.Name}' has nothing in place {at}.")
                        );
                    }

                    Sound(element as string, string.Create(CultureInfo.InvariantCulture, $"'{property.Name}/{at}'"));
                    at++;
                }
            }
        };
    }

    /// <summary>
    /// The first text or name of any JSON that cannot be kept: its JSON pointer, and what is wrong in words that go behind it; null where
    /// all can.
    /// </summary>
    public static (string Pointer, Message Problem)? Problem(JsonElement json) => Problem(Core.Documents.FileNode.FromJson(json));

    private static (string Pointer, Message Problem)? Problem(Core.Documents.FileNode node) =>
        node switch
        {
            Core.Documents.FileNode.Scalar { Quoted: true } text => TextCharacters.Problem(text.Content) is { } problem
                ? (text.At.Pointer, problem)
                : null,
            Core.Documents.FileNode.List list => list.Elements.Select(Problem).FirstOrDefault(found => found is not null),
            Core.Documents.FileNode.Map map => map
                .Entries.Select(entry =>
                    TextCharacters.Problem(entry.Key) is { } problem ? (node.At.Pointer, problem) : Problem(entry.Value)
                )
                .FirstOrDefault(found => found is not null),
            _ => null,
        };

    private static void Sound(string? text, string name)
    {
        if (text is not null && TextCharacters.Problem(text) is { } problem)
        {
            throw new JsonException($"{name} {problem}.");
        }
    }

    private static bool HoldsObjects(Type type) =>
        type.IsGenericType && type.GetGenericTypeDefinition() == typeof(IReadOnlyList<>) && !type.GetGenericArguments()[0].IsValueType;
}
