using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

/// <summary>What is changed by hand in a file that leaves out ids is the same node still.</summary>
public sealed class CarriedIdsTests
{
    private static readonly Layout Form = Demo.VesselForm;

    /// <summary>The layout as a text says it that leaves out every id, as it is read.</summary>
    private static Document.OfLayout Unnamed(Layout layout)
    {
        var anew = DerivedIds.Anew(layout, layout.Walk().Select(node => node.Id).ToHashSet());
        return new Document.OfLayout(anew) { Derived = anew.Walk().Select(node => node.Id).ToHashSet() };
    }

    private static Layout Carried(Layout before, Layout next) =>
        ((Document.OfLayout)Unnamed(next).CarriedFrom(new Document.OfLayout(before))).Layout;

    private static string Shape(Node node) =>
        $"{node.Kind}({string.Join(";", node.Properties)})[{string.Join(",", node.Children.Select(Shape))}]";

    [Fact]
    public void Whatever_is_done_nothing_is_lost_and_no_id_stands_twice() =>
        EditTests
            .Random(8)
            .Sample(
                seeds =>
                {
                    var next = seeds.Aggregate(Form, (form, seed) => form.Apply(EditTests.AnyEdit(form, seed)).Layout ?? form);
                    var carried = Carried(Form, next);

                    Shape(carried.Root).ShouldBe(Shape(Unnamed(next).Layout.Root));
                    carried.Walk().Select(node => node.Id).ShouldBeUnique();
                    Form.Apply(LayoutDiff.Edits(Form, carried)).Layout.ShouldBe(carried);
                    // Once carried, it is carried.
                    new Document.OfLayout(carried) { Derived = carried.Walk().Select(node => node.Id).ToHashSet() }
                        .CarriedFrom(new Document.OfLayout(Form))
                        .ShouldBeOfType<Document.OfLayout>()
                        .Layout.ShouldBe(carried);
                },
                iter: 1_500
            );

    [Fact]
    public void What_is_only_renamed_or_put_elsewhere_keeps_every_id() =>
        Gen.Int[0, int.MaxValue - 1]
            .Array[1, 6]
            .Sample(
                seeds =>
                {
                    var next = seeds.Aggregate(Form, (form, seed) => form.Apply(ByHand(form, seed)).Layout ?? form);
                    Carried(Form, next).Walk().Select(node => node.Id).ShouldBe(next.Walk().Select(node => node.Id));
                },
                iter: 1_500
            );

    /// <summary>A title written anew, or a section or a row put at the other end of where it stands.</summary>
    private static Edit ByHand(Layout layout, int seed)
    {
        var titled = layout.Walk().Where(node => node.Kind is NodeKind.Page or NodeKind.Section && node.Children.Length > 0).ToArray();
        var node = titled[seed % titled.Length];
        return (seed / titled.Length % 3) switch
        {
            0 => new Edit.Set(node.Id, "title", new Value.Text(Texts.Of("Measures"))),
            1 => new Edit.Move(node.Id, layout.ParentOf(node.Id)!.Value, new Anchor.First()),
            _ => new Edit.Move(node.Children[0].Id, node.Id, new Anchor.Last()),
        };
    }

    [Fact]
    public void Another_of_its_name_in_front_takes_nothing_from_it()
    {
        var before = Demo.VesselRows("[name, registration]", "[name]", "[name]");
        var next = Demo.VesselRows("[length, name]", "[name, registration]", "[name]", "[name]");

        var carried = Carried(before, next);

        var edits = LayoutDiff.Edits(before, carried);
        edits.ShouldAllBe(edit => edit is Edit.Insert);
    }

    [Fact]
    public void Two_sides_who_retitle_one_section_and_change_it_combine()
    {
        static Document Read(string section) =>
            DocumentFile
                .Read($"kind: full\nkey: vessel\nentity: vessel\nbody:\n  pages:\n    - title: All\n      sections:\n{section}")
                .Document!;

        var from = Read("        - title: Measures\n          rows:\n            - [length, beam]\n");
        var mine = Read("        - title: Size\n          rows:\n            - [length, beam]\n");
        var theirs = Read("        - title: Measures\n          columns: 3\n          rows:\n            - [beam, length, draught]\n");

        var merged = DocumentMerge.Merge(from, mine, theirs, Side.Mine);

        merged.Conflicts.ShouldBeEmpty();
        var section = merged.Document.ShouldBeOfType<Document.OfLayout>().Layout.Walk().Single(node => node.Kind is NodeKind.Section);
        section.Text("title")!.ToString().ShouldBe("Size");
        section.Number("columns").ShouldBe(3);
        section
            .Walk()
            .Where(node => node.Kind is NodeKind.Field)
            .Select(node => node.Word("field"))
            .ShouldBe(["beam", "length", "draught"]);
        DocumentMerge.Describe(from, mine).Select(sentence => sentence.English).ShouldHaveSingleItem().ShouldContain("Size");
    }
}
