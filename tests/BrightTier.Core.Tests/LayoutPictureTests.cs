using System.Globalization;
using System.Xml.Linq;
using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Pictures;
using BrightTier.Testing;

namespace BrightTier.Core.Tests;

/// <summary>Pictures of layouts are well-formed whatever stands in them, stay within their frame, and show what the form shows.</summary>
public sealed class LayoutPictureTests
{
    private static XElement Drawn(Layout layout, Entity entity, string language = "en") =>
        XDocument.Parse(LayoutPicture.Of(layout, entity, language)).Root!;

    private static IEnumerable<string> Words(XElement picture) =>
        picture.Elements().Where(each => each.Name.LocalName == "text").Select(text => text.Value);

    public static TheoryData<string> Kinds => ["full", "short", "card", "list", "print"];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Every_kind_of_every_trade_is_within_its_frame(string kind)
    {
        foreach (var trade in TradeTests.Trades.Select(row => row.Data))
        {
            var entity = TradeTests.EntityOf(trade);
            foreach (var language in new[] { "en", "ar" })
            {
                var picture = Drawn(GeneratedLayout.Of(entity, kind, TradeTests.Catalogue.Definitions), entity, language);
                Words(picture).ShouldNotBeEmpty();
                foreach (var box in picture.Elements().Where(each => each.Name.LocalName == "rect"))
                {
                    (Number(box, "x") ?? 0).ShouldBeGreaterThanOrEqualTo(0);
                    ((Number(box, "x") ?? 0) + Number(box, "width")).ShouldNotBeNull().ShouldBeLessThanOrEqualTo(LayoutPicture.Width);
                }
            }
        }

        static double? Number(XElement element, string name) =>
            element.Attribute(name) is { } value ? double.Parse(value.Value, CultureInfo.InvariantCulture) : null;
    }

    [Fact]
    public void What_stands_on_the_first_tab_is_there_by_its_name()
    {
        var first = Demo.VesselForm.Body!.Children[0];
        var words = Words(Drawn(Demo.VesselForm, Demo.Vessel, "nl")).ToArray();
        foreach (var field in first.Walk().Where(node => node.Kind is NodeKind.Field))
        {
            words.ShouldContain(Demo.Vessel.Find(field.Word("field")!)!.Label.In("nl"));
        }

        words.ShouldContain("Overzicht");
        words.ShouldNotContain("Foto");
    }

    [Fact]
    public void Any_text_gives_a_picture_that_can_be_read()
    {
        foreach (var text in HostileTexts.All.Where(text => TextCharacters.Problem(text) is null))
        {
            var form = Demo.VesselRows("[name]", "[notes]");
            var section = form.Walk().First(node => node.Kind is NodeKind.Section).Id;
            var titled = form.Apply(new Edit.Set(section, "title", new Value.Text(Texts.Of(text)))).Layout ?? form;
            Drawn(titled, Demo.Vessel).Name.LocalName.ShouldBe("svg");
        }
    }
}
