using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

/// <summary>Parts taken elsewhere: what is on the clipboard is a piece, and pasting it is edits.</summary>
public sealed class ClippingTests
{
    /// <summary>Every page, section, row and item of every form of the demo can be taken and put back beside itself.</summary>
    [Fact]
    public void Whatever_is_copied_reads_as_a_piece_and_pastes_into_its_own_form_with_every_field_and_new_ids()
    {
        foreach (var layout in Demo.Catalogue.Layouts.Values.Where(layout => layout.Kind is "full" && layout.Extends is null))
        {
            var entity = Demo.Catalogue.EntityOf(layout)!;
            foreach (
                var node in layout
                    .Body!.Walk()
                    .Where(node => node.Kind is NodeKind.Page or NodeKind.Section or NodeKind.Row or NodeKind.Cell or NodeKind.Field)
            )
            {
                var fields = node.Walk().Where(each => each.Kind is NodeKind.Field).Select(each => each.Word("field")!).ToArray();
                if (fields.Length == 0)
                {
                    continue;
                }

                var clip = Pieces.Make("clip", Texts.Of("Clip"), Clipboard.Sections(layout, [node.Id]), entity);
                Demo.ReadLayout(DocumentFile.Write(new Document.OfLayout(clip))).ShouldBe(clip, $"{layout.Key} {node.Id}");

                var pasting = Clipboard.Paste(clip, null, layout, node.Id, entity);
                pasting.Strays.ShouldBeEmpty();
                var after = layout.Apply(pasting.Edits).Layout!;
                pasting
                    .Made.SelectMany(made => made.Walk())
                    .Where(each => each.Kind is NodeKind.Field)
                    .Select(each => each.Word("field"))
                    .ShouldBe(fields, $"{layout.Key} {node.Id}");
                pasting.Made.SelectMany(made => made.Walk()).ShouldAllBe(made => !layout.Contains(made.Id));
                after.Count.ShouldBe(layout.Count + pasting.Made.Sum(made => made.Walk().Count()));
            }
        }
    }

    [Fact]
    public void Items_of_one_row_bring_the_row_when_all_are_selected_and_rows_of_their_own_otherwise()
    {
        var whole = Clipboard.Sections(Demo.VesselForm, [Demo.Id("mastHeight"), Demo.Id("sailArea")]).ShouldHaveSingleItem();
        whole.Children.ShouldHaveSingleItem().Children.Length.ShouldBe(2);
        var part = Clipboard
            .Sections(Demo.VesselForm, [Demo.Id("mastHeight"), Demo.Id("engineHours"), Demo.Id("notes")])
            .ShouldHaveSingleItem();
        part.Children.Length.ShouldBe(3);
        Clipboard.Sections(Demo.VesselForm, [Demo.Id("rig"), Demo.Id("mastHeight")]).ShouldHaveSingleItem().Id.ShouldBe(Demo.Id("rig"));
        Clipboard.Sections(Demo.VesselForm, [Demo.Id("layout")]).ShouldBeEmpty();
    }

    [Fact]
    public void What_the_other_entity_has_not_is_left_out_with_the_conditions_that_read_it()
    {
        var clip = Pieces.Make("clip", Texts.Of("Clip"), Clipboard.Sections(Demo.VesselForm, [Demo.Id("rig")]), Demo.Vessel);
        var other = Demo.Vessel with { Fields = [.. Demo.Vessel.Fields.Where(field => field.Key is not ("propulsion" or "sailArea"))] };

        var pasting = Clipboard.Paste(clip, null, Demo.VesselForm, Demo.Id("engine"), other);

        pasting.Strays.ShouldBe(["propulsion", "sailArea"], ignoreOrder: true);
        var section = pasting.Made.ShouldHaveSingleItem();
        section["visible"].ShouldBeNull();
        section.Text("title")!.ToString().ShouldBe("Rig");
        section.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")).ShouldBe(["mastHeight"]);
    }

    [Fact]
    public void Slots_bound_otherwise_are_renamed_wherever_the_piece_names_them()
    {
        var bound = new Dictionary<string, string>
        {
            ["insurer"] = "name",
            ["policy"] = "registration",
            ["until"] = "surveyDue",
        };

        var pasting = Clipboard.Paste(Demo.Catalogue.Layouts["cover"], bound, Demo.VesselForm, Demo.Id("rig"), Demo.Vessel);

        pasting.Strays.ShouldBe(["sum"]);
        var nodes = pasting.Made.SelectMany(made => made.Walk()).ToArray();
        nodes.Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")).ShouldBe(["name", "registration", "surveyDue"]);
        nodes.Single(node => node.Word("field") == "registration").Word("required").ShouldBe("has(record.name)");
        nodes.Single(node => node.Kind is NodeKind.Text).Word("visible").ShouldBe("record.surveyDue != null && record.surveyDue < today");
    }
}
