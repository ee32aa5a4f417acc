using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.RegularExpressions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>
/// The grammar's own texts, as the console translates them: the English file of the console's messages is what the grammar says.
/// </summary>
public sealed partial class GrammarTextTests
{
    private static readonly JsonSerializerOptions Plain = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static string ConsoleFile =>
        Path.Combine(Demo.Folder, "..", "web", "console", "src", "shell", "configurator", "grammar", "messages", "en.json");

    /// <summary>Of each type of field too: what is set first is seen without scrolling.</summary>
    [Fact]
    public void At_most_eight_properties_of_a_node_are_set_first()
    {
        foreach (var rule in Grammar.Rules.Concat(Grammar.Roots))
        {
            // What stands in a cell has its width too.
            var width = Grammar.IsItem(rule.Kind) ? 1 : 0;
            (rule.Properties.Count(property => property.IsOften) + width).ShouldBeLessThanOrEqualTo(8, rule.Name);
        }
    }

    [Fact]
    public void The_console_has_every_text_of_the_grammar()
    {
        var texts = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var rule in Grammar.Rules)
        {
            Add("about", rule.About);
            foreach (var property in rule.Properties)
            {
                Add("label", property.Label);
                Add("about", property.About);
                foreach (var word in property.Words.IsDefault ? [] : property.Words)
                {
                    Add("word", word);
                }
            }
        }

        var written = JsonSerializer.Serialize(texts, Plain) + "\n";
        if (VectorFiles.Writes)
        {
            File.WriteAllText(ConsoleFile, written);
        }

        File.ReadAllText(ConsoleFile).ShouldBe(written, "make vectors");

        void Add(string of, string text)
        {
            // Braces are a message's own signs.
            var message = Braces().Replace(text, "'$0'");
            var key = $"{of}.{Slug(text)}";
            texts.TryGetValue(key, out var known);
            (known ?? message).ShouldBe(message, "Two texts have one key.");
            texts[key] = message;
        }
    }

    /// <summary>
    /// The key of a text: its first twelve words of letters and digits, as one; web/console/src/shell/configurator/grammar has the same.
    /// </summary>
    private static string Slug(string text) =>
        string.Concat(
            Words()
                .Matches(text)
                .Take(12)
                .Select(
                    (word, i) =>
                        i == 0
                            ? word.Value.ToLowerInvariant()
                            : $"{char.ToUpperInvariant(word.Value[0])}{word.Value[1..].ToLower(CultureInfo.InvariantCulture)}"
                )
        );

    [GeneratedRegex("[A-Za-z0-9]+")]
    private static partial Regex Words();

    [GeneratedRegex("[{}]+[^{}]*[{}]+|[{}]")]
    private static partial Regex Braces();
}
