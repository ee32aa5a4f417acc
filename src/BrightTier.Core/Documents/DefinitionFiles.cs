using System.Collections.Immutable;
using System.Globalization;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Documents;

/// <summary>Reads and writes what layouts rest on: the application, its choice lists and entities.</summary>
internal static partial class DefinitionFiles
{
    public static Pattern ReadPattern(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a pattern", ObjectRules.Pattern);
        var key = Key(reading, map, $"a pattern");
        var expression = reading.Required(map, "pattern", $"a pattern");
        if (WholePattern.Problem(expression) is { } wrong)
        {
            reading.Problem(map["pattern"]?.At ?? map.At, $"'pattern' {wrong}");
        }

        return new Pattern(
            key,
            reading.Texts(map["label"], "'label'") ?? Texts.Of(key),
            expression,
            reading.Texts(map["message"], "'message'"),
            ReadSamples(reading, map["samples"])
        );
    }

    public static FileNode Write(Pattern pattern) =>
        FileNode.Of(
            ("kind", FileNode.Word("pattern")),
            ("key", FileNode.Word(pattern.Key)),
            ("label", DocumentReader.Write(pattern.Label)),
            ("pattern", FileNode.Word(pattern.Expression)),
            ("message", DocumentReader.Write(pattern.Message)),
            ("samples", Write(pattern.Samples))
        );

    private static Samples ReadSamples(DocumentReader reading, FileNode? node)
    {
        if (node is null || reading.Map(node, $"'samples'") is not { } map)
        {
            return Samples.None;
        }

        reading.Only(map, $"samples", ObjectRules.Samples);
        return new Samples(reading.Words(map["pass"], "'pass'"), reading.Words(map["fail"], "'fail'"));
    }

    private static FileNode.Map? Write(Samples samples) =>
        samples.Pass.IsEmpty && samples.Fail.IsEmpty
            ? null
            : FileNode.Of(
                ("pass", samples.Pass.IsEmpty ? null : Words(samples.Pass)),
                ("fail", samples.Fail.IsEmpty ? null : Words(samples.Fail))
            );

    public static ChoiceList ReadChoiceList(DocumentReader reading, FileNode.Map map)
    {
        reading.Only(map, $"a choice list", ObjectRules.ChoiceList);
        var choices = reading
            .List(map["choices"], "'choices'")
            .Select(node => reading.Map(node, $"a choice"))
            .OfType<FileNode.Map>()
            .Select(choice =>
            {
                reading.Only(choice, $"a choice", ObjectRules.Choice);
                var key = Key(reading, choice, $"a choice");
                return new Choice(
                    key,
                    reading.Texts(choice["label"], "'label'") ?? Texts.Of(key),
                    reading.Flag(choice["retired"], "'retired'")
                );
            })
            .ToImmutableArray();
        Twice(reading, map, choices.Select(choice => choice.Key), $"choice");
        var listKey = Key(reading, map, $"a choice list");
        return new ChoiceList(listKey, reading.Texts(map["label"], "'label'") ?? Texts.Of(listKey), choices);
    }

    public static FileNode Write(ChoiceList list) =>
        FileNode.Of(
            ("kind", FileNode.Word("choice-list")),
            ("key", FileNode.Word(list.Key)),
            ("label", DocumentReader.Write(list.Label)),
            (
                "choices",
                new FileNode.List(
                    [
                        .. list.Choices.Select(choice =>
                            FileNode.Of(
                                ("key", FileNode.Word(choice.Key)),
                                ("label", DocumentReader.Write(choice.Label)),
                                ("retired", Flag(choice.Retired))
                            )
                        ),
                    ],
                    default
                )
            )
        );

    private static FileNode? Flag(bool on) => on ? FileNode.Bare("true") : null;

    private static FileNode? Word(string? word) => word is null ? null : FileNode.Word(word);

    private static FileNode? Number(decimal? number) =>
        number is { } given ? FileNode.Bare(given.ToString("0.############################", CultureInfo.InvariantCulture)) : null;

    private static FileNode.List Words(IEnumerable<string> words) => new([.. words.Select(FileNode.Word)], default, Flow: true);

    private static string Key(DocumentReader reading, FileNode.Map map, Message what)
    {
        var key = reading.Required(map, "key", what);
        if (key.Length > 0 && !NodeId.IsWellFormed(key))
        {
            reading.Problem(
                map.PlaceOf("key"),
                $"a key must begin with a letter and have only letters, digits, '-' and '_', at most {Limits.IdLength}; it is '{key}'"
            );
        }

        return key;
    }

    private static void Twice(DocumentReader reading, FileNode.Map map, IEnumerable<string> keys, Message what)
    {
        foreach (var twice in keys.GroupBy(key => key.ToLowerInvariant()).Where(group => group.Count() > 1))
        {
            reading.Problem(map.At, $"the {what} '{twice.First()}' is given twice");
        }
    }
}
