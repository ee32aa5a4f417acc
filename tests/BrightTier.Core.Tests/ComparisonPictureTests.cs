using System.Globalization;
using System.Xml.Linq;
using BrightTier.Core.Composition;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Pictures;
using BrightTier.Testing;

namespace BrightTier.Core.Tests;

/// <summary>A picture of two states marks what differs, and nothing else, whatever it is that differs.</summary>
public sealed class ComparisonPictureTests
{
    private static readonly Layout Form = Assembled(Demo.VesselForm);

    private static Layout Assembled(Layout layout) => LayoutComposer.Assemble(layout, Demo.Catalogue).Base;

    private static string? Label(Node node) => Demo.Vessel.Find(node.Word("field") ?? "")?.Label.In("en");

    private static ItemChanges Marked(Layout old, Layout next) => ItemChanges.Between(old, next, Label, Label);

    private static Layout Applied(params Edit[] edits) => Form.Apply(edits).Layout.ShouldNotBeNull();

    private static Dictionary<string, ItemChange> Of(IReadOnlyDictionary<NodeId, ItemChange> marks) =>
        marks.Where(pair => pair.Value is not ItemChange.None).ToDictionary(pair => pair.Key.Name, pair => pair.Value);

    private static XElement Drawn(Layout old, Layout next, string language = "en") =>
        XDocument
            .Parse(
                ComparisonPicture.Of(
                    [
                        (
                            new PicturedSide("before", old, Assembled(old), Demo.Vessel),
                            new PicturedSide("after", next, Assembled(next), Demo.Vessel)
                        ),
                    ],
                    language
                )
            )
            .Root!;

    [Fact]
    public void What_is_alike_bears_no_mark()
    {
        foreach (var layout in Demo.Catalogue.Layouts.Values)
        {
            var form = Assembled(layout);
            var marked = Marked(form, form);
            Of(marked.Before).ShouldBeEmpty(layout.Key);
            Of(marked.After).ShouldBeEmpty(layout.Key);
        }
    }

    [Fact]
    public void Each_change_is_marked_on_the_side_where_it_is_seen()
    {
        var beam = Demo.Id("beam");
        var changed = Marked(Form, Applied(new Edit.Set(beam, "emphasis", new Value.Flag(true))));
        Of(changed.After).ShouldBe(new Dictionary<string, ItemChange> { ["beam"] = ItemChange.Changed });
        Of(changed.Before).ShouldBe(Of(changed.After));

        var gone = Marked(Form, Applied(new Edit.Remove(beam)));
        Of(gone.Before).ShouldBe(new Dictionary<string, ItemChange> { ["beam"] = ItemChange.Removed });
        Of(gone.After).ShouldBeEmpty();

        var back = Marked(Applied(new Edit.Remove(beam)), Form);
        Of(back.After).ShouldBe(new Dictionary<string, ItemChange> { ["beam"] = ItemChange.Added });
        Of(back.Before).ShouldBeEmpty();
    }

    /// <summary>Moving a field makes a row here and leaves one empty there; who reads the form sees one field elsewhere.</summary>
    [Fact]
    public void A_field_that_moves_to_a_row_of_its_own_is_one_mark()
    {
        var section = Form.Walk().First(node => node.Kind is NodeKind.Section && node.Id.Name == "identity").Id;
        var cell = Node.Of(NodeKind.Cell, Demo.Id("there"), []);
        var next = Applied(
            new Edit.Insert(Node.Of(NodeKind.Row, Demo.Id("row"), cell), section, new Anchor.Last()),
            new Edit.Move(Demo.Id("beam"), Demo.Id("there"), new Anchor.Last())
        );
        Of(Marked(Form, next).After).ShouldBe(new Dictionary<string, ItemChange> { ["beam"] = ItemChange.Moved });
        Of(Marked(Form, next).Before).ShouldBe(new Dictionary<string, ItemChange> { ["beam"] = ItemChange.Moved });
    }

    [Fact]
    public void What_is_new_as_a_whole_is_marked_once()
    {
        var page = Form.Body!.Children[^1];
        var without = Applied(new Edit.Remove(page.Id));
        Of(Marked(without, Form).After).ShouldBe(new Dictionary<string, ItemChange> { [page.Id.Name] = ItemChange.Added });
        Of(Marked(Form, without).Before).ShouldBe(new Dictionary<string, ItemChange> { [page.Id.Name] = ItemChange.Removed });
    }

    [Fact]
    public void A_field_renamed_in_its_entity_is_changed_where_it_stands()
    {
        var marked = ItemChanges.Between(Form, Form, Label, node => node.Word("field") == "beam" ? "Breadth" : Label(node));
        Of(marked.After).ShouldBe(new Dictionary<string, ItemChange> { ["beam"] = ItemChange.Changed });
    }

    /// <summary>Any two forms there are, of whatever kind, in either direction of writing.</summary>
    [Fact]
    public void Any_two_layouts_give_a_picture_in_which_nothing_lies_outside()
    {
        var forms = Demo.Catalogue.Layouts.Values.Where(layout => layout.Kind != "piece" && layout.Extends is null).ToArray();
        foreach (var (one, other) in forms.SelectMany(one => forms.Where(each => each.Kind == one.Kind).Select(each => (one, each))))
        {
            foreach (var language in new[] { "en", "ar" })
            {
                var picture = Drawn(one, other, language);
                var wide = Number(picture, "width");
                foreach (var box in picture.Descendants().Where(each => each.Name.LocalName == "rect" && each.Attribute("x") is not null))
                {
                    var moved = box.Ancestors().Sum(around => Across(around.Attribute("transform")?.Value));
                    (moved + Number(box, "x")).ShouldBeGreaterThanOrEqualTo(0);
                    (moved + Number(box, "x") + Number(box, "width")).ShouldBeLessThanOrEqualTo(wide);
                }
            }
        }

        static double Number(XElement element, string name) => double.Parse(element.Attribute(name)!.Value, CultureInfo.InvariantCulture);

        static double Across(string? transform) =>
            transform is null ? 0 : double.Parse(transform["translate(".Length..].Split(' ')[0], CultureInfo.InvariantCulture);
    }

    [Fact]
    public void Every_page_is_there_and_the_changes_are_told_in_words()
    {
        var next = Applied(new Edit.Set(Demo.Id("beam"), "label", new Value.Text(Texts.Of("Greatest breadth"))));
        var words = Drawn(Form, next).Descendants().Where(each => each.Name.LocalName == "text").Select(text => text.Value).ToArray();
        foreach (var title in Form.Body!.Children.Select(page => page.Text("title")!.In("en")))
        {
            words.Count(word => word == title).ShouldBe(2, title);
        }

        words.ShouldContain("changed");
        words.ShouldNotContain("added");
        words.ShouldContain(word => word.StartsWith("Sets the label of 'Beam", StringComparison.Ordinal));
    }

    [Fact]
    public void Any_text_gives_a_picture_that_can_be_read()
    {
        foreach (var text in HostileTexts.All.Where(text => TextCharacters.Problem(text) is null))
        {
            if (Form.Apply(new Edit.Set(Demo.Id("beam"), "label", new Value.Text(Texts.Of(text)))).Layout is { } next)
            {
                Drawn(Form, next).Name.LocalName.ShouldBe("svg");
            }
        }
    }

    [Fact]
    public void What_is_new_or_gone_has_one_side_only()
    {
        var there = new PicturedSide("after", Form, Form, Demo.Vessel);
        var none = new PicturedSide("before", null, null, null);
        var added = XDocument.Parse(ComparisonPicture.Of([(none, there)], "en")).Root!;
        var removed = XDocument.Parse(ComparisonPicture.Of([(there, none)], "en")).Root!;
        added.Descendants().Where(each => each.Name.LocalName == "text").Select(text => text.Value).ShouldContain("added");
        removed.Descendants().Where(each => each.Name.LocalName == "text").Select(text => text.Value).ShouldContain("removed");
    }
}
