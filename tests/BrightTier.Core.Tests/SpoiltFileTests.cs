using BrightTier.Core.Documents;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>
/// R3: a file of the demo with lines left out and words spoilt is read, or refused with a place: whatever comes together.
/// </summary>
public sealed class SpoiltFileTests
{
    private static readonly string[][] Files = [.. Demo.Files.Select(File.ReadAllLines)];

    private static readonly string[] Spoils = ["}", "{", "\"", ": ", "null", "~", "[]", "{}", "-", "\u0000", " x"];

    /// <summary>A file, and up to four lines of it with what is done to each: left out, or something put in at a place.</summary>
    private static readonly Gen<(int File, (int Line, int How, int At)[] Done)> Spoilt = Gen.Select(
        Gen.Int[0, Files.Length - 1],
        Gen.Select(Gen.Int[0, 999], Gen.Int[-4, Spoils.Length - 1], Gen.Int[0, 60]).Array[1, 4]
    );

    [Fact]
    public void Is_read_or_refused_with_a_place() =>
        Spoilt.Sample(
            spoilt =>
            {
                var lines = Files[spoilt.File].ToArray();
                foreach (var (line, how, at) in spoilt.Done)
                {
                    ref var text = ref lines[line % lines.Length];
                    text = how < 0 ? "" : text.Insert(Math.Min(at, text.Length), Spoils[how]);
                }

                var (document, problems) = DocumentFile.Read(string.Join('\n', lines));
                (document is null).ShouldBe(problems.Count > 0);
                problems.EachShould(problem => problem.Message.English.Length > 0);
            },
            iter: 20_000
        );

    [Fact]
    public void A_field_whose_key_is_none_is_told_at_its_key_although_the_display_text_is_made_of_it()
    {
        var (_, problems) = DocumentFile.Read("kind: entity\nkey: call\nfields:\n  - key: boatNam}\n    type: text\n");
        problems
            .Single()
            .ShouldSatisfyAllConditions(
                only => only.At.Line.ShouldBe(4),
                only => only.Message.English.ShouldContain("a key must begin with a letter")
            );
    }
}
