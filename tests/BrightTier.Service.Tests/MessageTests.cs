extern alias service;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Testing;
using Mono.Cecil;
using Mono.Cecil.Cil;

namespace BrightTier.Service.Tests;

/// <summary>
/// What the service says is in its message files, whole and in every language: the texts are read from what the compiler made of them.
/// </summary>
public sealed class MessageTests
{
    /// <summary>Every message the code can make, by its key, and the words of the grammar messages are made with.</summary>
    private static readonly IReadOnlyCollection<string> Keys =
    [
        .. new[] { typeof(Message), typeof(BrightTier.Records.IRecordStore), typeof(service::BrightTier.Service.Http.RefusedException) }
            .SelectMany(type => Written(type.Assembly.Location))
            .Concat(Terms())
            .Where(key => key.Any(char.IsLetter))
            .ToHashSet(StringComparer.Ordinal)
            .Order(StringComparer.Ordinal),
    ];

    private const string Maker = "BrightTier.Core.Messages.Message";

    /// <summary>Keys that read alike in another language.</summary>
    private static readonly HashSet<string> Alike =
    [
        .. File.ReadAllLines(Path.Combine(RunningService.Checkout, "tests/BrightTier.Service.Tests/alikeMessages.txt")),
    ];

    public static TheoryData<string> Languages => [.. MessageTexts.Translated];

    [Theory]
    [MemberData(nameof(Languages))]
    public void Everything_said_is_there_in_every_language_and_nothing_else(string language)
    {
        var file = MessageTexts.Of(language);
        if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
        {
            Write(language);
        }

        Keys.Where(key => !file.ContainsKey(key)).ShouldBeEmpty("not translated");
        file.Keys.Except(Keys).ShouldBeEmpty("said nowhere");
    }

    [Theory]
    [InlineData("en", "2.5 of 3.25, 1000")]
    [InlineData("nl", "2,5 of 3,25, 1000")]
    [InlineData("ar", "2.5 of 3.25, 1000")]
    public void A_number_has_the_decimal_mark_of_the_language(string language, string expected)
    {
        Message text = $"{2.46:0.0} of {3.25m}, {1000}";

        text.In(language).ShouldBe(expected);
    }

    [Theory]
    [MemberData(nameof(Languages))]
    public void A_translation_has_the_places_of_what_it_translates_and_every_form_of_its_plurals(string language)
    {
        foreach (var (key, pattern) in MessageTexts.Of(language))
        {
            pattern.Places.ShouldBe(Places(key), key);
            foreach (var forms in pattern.Plurals)
            {
                forms.Where(form => form[0] != '=').Order().ShouldBe(PluralForms.In(language).Order(), key);
            }
        }
    }

    [Theory]
    [MemberData(nameof(Languages))]
    public void A_translation_is_not_the_English_unless_it_is_listed(string language)
    {
        var text = JsonNode.Parse(File.ReadAllText(PathOf(language)))!.AsObject();
        text.Where(entry => entry.Value!.GetValue<string>() == entry.Key && !Alike.Contains(entry.Key)).ShouldBeEmpty();
    }

    [Fact]
    public void A_message_is_read_in_the_language_of_whoever_reads_it()
    {
        Message number = $"It has {3} parts {{and}} a {Message.Term("section")}.";
        number.English.ShouldBe("It has 3 parts {and} a section.");
        number.Key.ShouldBe("It has {0} parts {{and}} a {1}.");
        var label = new Texts(Texts.Of("Ship").ByLanguage.Add("nl", "Schip"));
        ((Message)$"{label} 5").In("nl").ShouldBe("Schip 5");
        MessagePattern.Parse("{0, plural, one {één deel} other {# delen}} '{x}'").Places.ShouldBe([0]);
        foreach (var wrong in new[] { "{", "}", "{x}", "{0, plural, one {a}}", "{0, plural, other {a}", "{0, choice, other {a}}", "'{" })
        {
            Should.Throw<FormatException>(() => MessagePattern.Parse(wrong), wrong);
        }
    }

    [Theory]
    [InlineData("nl", 0, "other")]
    [InlineData("nl", 1, "one")]
    [InlineData("ar", 0, "zero")]
    [InlineData("ar", 2, "two")]
    [InlineData("ar", 103, "few")]
    [InlineData("ar", 111, "many")]
    [InlineData("ar", 100, "other")]
    [InlineData("ar", 102, "other")]
    public void Plurals_follow_each_languages_own_rules(string language, long number, string form) =>
        PluralForms.Of(language, number).ShouldBe(form);

    private static IEnumerable<string> Terms() =>
        Grammar
            .Rules.Concat(Grammar.Roots)
            .SelectMany(rule => rule.Properties.Select(property => property.Label.ToLowerInvariant()).Append(rule.Name))
            .Concat(DocumentFile.KindNames.Concat(Impact.Subjects).Select(name => name.Replace('-', ' ')));

    private static IEnumerable<int> Places(string key) =>
        System
            .Text.RegularExpressions.Regex.Matches(key.Replace("{{", "", StringComparison.Ordinal), @"\{(\d+)\}")
            .Select(match => int.Parse(match.Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture));

    /// <summary>
    /// The messages of an assembly. The compiler makes of each an object that is told how many characters and places follow, and then each
    /// part in turn; one that stands in a place of another is complete before the other goes on.
    /// </summary>
    private static IEnumerable<string> Written(string assembly)
    {
        using var module = ModuleDefinition.ReadModule(assembly);
        foreach (
            var method in module
                .GetTypes()
                .Where(type => type.FullName != Maker)
                .SelectMany(type => type.Methods)
                .Where(method => method.HasBody)
        )
        {
            var open = new Stack<(int Letters, int Places, List<string> Parts)>();
            foreach (var instruction in method.Body.Instructions)
            {
                if (instruction.Operand is not MethodReference { DeclaringType.FullName: Maker } called)
                {
                    continue;
                }

                switch (called.Name)
                {
                    case ".ctor":
                        open.Push((Constant(instruction.Previous.Previous), Constant(instruction.Previous), []));
                        break;
                    case "AppendLiteral":
                        open.Peek().Parts.Add(Escaped((string)instruction.Previous.Operand));
                        break;
                    case "AppendFormatted":
                        open.Peek().Parts.Add("");
                        break;
                    default:
                        continue;
                }

                while (open.TryPeek(out var made) && IsComplete(made))
                {
                    yield return Key(open.Pop().Parts);
                    break;
                }
            }

            open.ShouldBeEmpty(method.FullName);
        }
    }

    private static bool IsComplete((int Letters, int Places, List<string> Parts) made) =>
        made.Parts.Count(part => part.Length == 0) == made.Places
        && made.Parts.Sum(part => part.Replace("{{", "{", StringComparison.Ordinal).Replace("}}", "}", StringComparison.Ordinal).Length)
            == made.Letters;

    private static string Key(IReadOnlyList<string> parts)
    {
        var place = 0;
        return string.Concat(parts.Select(part => part.Length == 0 ? $"{{{place++}}}" : part));
    }

    private static string Escaped(string literal) =>
        literal.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal);

    private static int Constant(Instruction instruction) =>
        instruction.OpCode.Code switch
        {
            Code.Ldc_I4 => (int)instruction.Operand,
            Code.Ldc_I4_S => (sbyte)instruction.Operand,
            var code => code - Code.Ldc_I4_0,
        };

    private static string PathOf(string language) => Path.Combine(RunningService.Checkout, $"src/BrightTier.Core/Messages/{language}.json");

    /// <summary>What is said has its line in the file, empty where nobody has translated it; what is said no more has none.</summary>
    private static void Write(string language)
    {
        var old = JsonNode.Parse(File.ReadAllText(PathOf(language)))!.AsObject();
        var next = new JsonObject(Keys.Select(key => KeyValuePair.Create(key, (JsonNode?)(old[key]?.GetValue<string>() ?? ""))));
        var options = new JsonSerializerOptions { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };
        File.WriteAllText(PathOf(language), next.ToJsonString(options) + "\n");
    }
}
