using System.Collections.Frozen;
using System.Text;
using System.Text.Json;

namespace BrightTier.Core.Messages;

/// <summary>
/// The message files: a file per language, each translation by the English it stands for. Translations are ICU messages of numbered
/// places, plurals among them ({0, plural, one {…} other {…}}, # for the number); English is its own.
/// </summary>
public static class MessageTexts
{
    /// <summary>What every message is written in.</summary>
    public const string English = "en";

    /// <summary>The languages there are files for, besides English.</summary>
    public static readonly IReadOnlyList<string> Translated = ["nl", "ar"];

    private static readonly FrozenDictionary<string, Lazy<FrozenDictionary<string, MessagePattern>>> Files = Translated.ToFrozenDictionary(
        language => language,
        language => new Lazy<FrozenDictionary<string, MessagePattern>>(() => Read(language))
    );

    /// <summary>What a message file holds, by English text; nothing where there is no file.</summary>
    public static IReadOnlyDictionary<string, MessagePattern> Of(string language) =>
        Files.TryGetValue(language, out var file) ? file.Value : FrozenDictionary<string, MessagePattern>.Empty;

    internal static string Write(Message message, string language)
    {
        var key = message.Key;
        var text = new StringBuilder(key.Length + 32);
        (Of(language).GetValueOrDefault(key) ?? MessagePattern.OfKey(key)).Write(text, message.Values, language);
        return text.ToString();
    }

    private static FrozenDictionary<string, MessagePattern> Read(string language)
    {
        using var file = typeof(MessageTexts).Assembly.GetManifestResourceStream($"messages.{language}.json")!;
        using var json = JsonDocument.Parse(file);
        return json
            .RootElement.EnumerateObject()
            .ToFrozenDictionary(entry => entry.Name, entry => MessagePattern.Parse(entry.Value.GetString()!));
    }
}
