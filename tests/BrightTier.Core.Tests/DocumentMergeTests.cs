using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>Documents of every kind compared in words, merged, and taken over under other names.</summary>
public sealed class DocumentMergingTests
{
    private static readonly string Berth = File.ReadAllText(Path.Combine(Demo.Folder, "entities", "berth.yaml"));

    [Fact]
    public void What_differs_is_told_place_by_place()
    {
        var next =
            Berth
                .Replace("maxLength: 30", "maxLength: 40")
                .Replace("unit: m\n    scale: 1\n    min: 2\n    max: 60", "unit: m\n    scale: 3\n    min: 2")
            + "  - key: lockerNumber\n    type: integer\n";
        DocumentMerge
            .Describe(Read(Berth), Read(next))
            .Texts()
            .ShouldBe([
                "Changes maxLength of the field ‘Pontoon’ from ‘30’ to ‘40’.",
                "Removes max of the field ‘Longest vessel’.",
                "Changes scale of the field ‘Longest vessel’ from ‘1’ to ‘3’.",
                "Adds the field ‘lockerNumber’.",
            ]);
        DocumentMerge.Describe(Read(Berth), Read(Berth)).ShouldBeEmpty();
    }

    [Fact]
    public void What_two_sides_did_to_different_places_combines_and_each_language_is_a_place()
    {
        var mine = Berth.Replace("en: Code, nl: Code", "en: Berth code, nl: Code");
        var theirs = Berth.Replace("en: Code, nl: Code", "en: Code, nl: Ligplaatscode") + "  - key: lockerNumber\n    type: integer\n";

        var merged = DocumentMerge.Merge(Read(Berth), Read(mine), Read(theirs), Side.Mine);

        merged.Conflicts.ShouldBeEmpty();
        var text = DocumentFile.Write(merged.Document!);
        text.ShouldContain("en: Berth code");
        text.ShouldContain("nl: Ligplaatscode");
        text.ShouldContain("lockerNumber");
    }

    [Theory]
    [InlineData(Side.Mine, "maxLength: 40")]
    [InlineData(Side.Theirs, "maxLength: 50")]
    public void Where_both_did_something_to_one_place_it_is_told_and_one_side_stands(Side side, string expected)
    {
        var merged = DocumentMerge.Merge(
            Read(Berth),
            Read(Berth.Replace("maxLength: 30", "maxLength: 40")),
            Read(Berth.Replace("maxLength: 30", "maxLength: 50")),
            side
        );
        merged
            .Conflicts.Select(conflict => conflict.Message)
            .Texts()
            .ShouldBe(["Both changed /fields/pontoon/maxLength of the entity 'berth'."]);
        DocumentFile.Write(merged.Document!).ShouldContain(expected);
    }

    /// <summary>
    /// Fields taken away, added and changed at random on both sides: with no conflict both orders give the same fields; one side alone
    /// gives that side.
    /// </summary>
    [Fact]
    public void Merging_is_the_same_from_either_side_and_nothing_from_one_alone()
    {
        var change = Gen.Select(Gen.Int[0, 2], Gen.Int[0, 7]);
        Gen.Select(change.List[0, 4], change.List[0, 4])
            .Sample(
                (one, two) =>
                {
                    var from = Read(Berth);
                    var (mine, theirs) = (Read(Changed(one, "a")), Read(Changed(two, "b")));
                    DocumentFile.Write(DocumentMerge.Merge(from, mine, from, Side.Mine).Document!).ShouldBe(DocumentFile.Write(mine));
                    DocumentFile.Write(DocumentMerge.Merge(from, from, theirs, Side.Mine).Document!).ShouldBe(DocumentFile.Write(theirs));
                    var (here, there) = (
                        DocumentMerge.Merge(from, mine, theirs, Side.Mine),
                        DocumentMerge.Merge(from, theirs, mine, Side.Theirs)
                    );
                    here.Conflicts.Count.ShouldBe(there.Conflicts.Count);
                    Fields(here.Document).ShouldBe(Fields(there.Document));
                },
                iter: 200
            );

        static string Changed(IReadOnlyList<(int What, int Which)> changes, string side)
        {
            var fields = Berth.Split("  - key: ")[1..].ToList();
            foreach (var (i, (what, which)) in changes.Index())
            {
                var at = which % fields.Count;
                switch (what)
                {
                    // The two fields records are named by stay.
                    case 0 when at > 1:
                        fields.RemoveAt(at);
                        break;
                    case 1:
                        fields.Add($"{side}{i}\n    type: text\n");
                        break;
                    default:
                        fields[at] = System.Text.RegularExpressions.Regex.Replace(fields[at], "en: [^,]*", $"en: Changed {side}");
                        break;
                }
            }

            return Berth.Split("  - key: ")[0] + string.Concat(fields.Select(field => "  - key: " + field));
        }

        static string Fields(Document? document) =>
            string.Join(
                '\n',
                ((Document.OfEntity)document!)
                    .Entity.Fields.OrderBy(field => field.Key, StringComparer.Ordinal)
                    .Select(field => $"{field.Key} {field.Label}")
            );
    }

    [Fact]
    public void A_document_taken_under_another_name_takes_what_names_it_along()
    {
        var names = new Dictionary<(DocumentKind, string), string>
        {
            [(DocumentKind.Entity, "vessel")] = "boat",
            [(DocumentKind.Layout, "cover")] = "policy",
            [(DocumentKind.ChoiceList, "propulsion")] = "drive",
        };
        foreach (
            var (file, expected) in new[]
            {
                ("entities/vessel.yaml", "key: boat"),
                ("layouts/vessel.yaml", "entity: boat"),
                ("layouts/vessel.yaml", "piece: policy"),
                ("layouts/cover.yaml", "key: policy"),
                ("choice-lists/propulsion.yaml", "key: drive"),
                ("entities/vessel.yaml", "choices: drive"),
                ("navigation.yaml", "entity: boat"),
                ("entities/agreement.yaml", "target: boat"),
            }
        )
        {
            var (document, problems) = KeyRename.Apply(Read(File.ReadAllText(Path.Combine(Demo.Folder, file))), names);
            problems.ShouldBeEmpty();
            DocumentFile.Write(document!).ShouldContain(expected, customMessage: file);
        }

        DocumentFile
            .Write(KeyRename.Apply(Read(Berth), names).Document!)
            .ShouldBe(DocumentFile.Write(Read(Berth)), "what names none of them is as it was");
    }

    private static Document Read(string text) =>
        DocumentFile
            .Read(text)
            .Document.ShouldNotBeNull(string.Join("; ", DocumentFile.Read(text).Problems.Select(problem => problem.Message)));
}
