using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Tests;

/// <summary>What is told of a layout: edits in words a reviewer reads, and how long it is.</summary>
public sealed class LayoutSummaryTests
{
    private static readonly Layout Form = Demo.VesselForm;

    [Fact]
    public void Edits_are_told_in_words_a_reviewer_reads()
    {
        Edit[] edits =
        [
            new Edit.Move(Demo.Id("rig"), Demo.Id("care"), new Anchor.First()),
            new Edit.Set(Demo.Id("beam"), "required", new Value.Flag(true)),
            new Edit.Remove(Demo.Id("engine")),
            new Edit.Set(Demo.Id("measures"), "title", null),
        ];
        EditSummary
            .Describe(Form, edits, field => Demo.Vessel.Find(field)!.Label)
            .Texts()
            .ShouldBe([
                "Moves the section 'Rig' to the beginning of the page 'Condition and papers'.",
                "Sets the required of 'Beam' to yes.",
                "Removes the section 'Engine' with 'Engine hours' from the page 'Overview'.",
                "Clears the title of the section 'Measures'.",
            ]);

        // Rows and cells are how it stands; what is said is where.
        var row = new Node(
            Demo.Id("handRow"),
            NodeKind.Row,
            PropertyBag.Empty,
            [new Node(Demo.Id("handCell"), NodeKind.Cell, PropertyBag.Empty, [])]
        );
        Edit[] own =
        [
            new Edit.Insert(
                new Node(Demo.Id("hand"), NodeKind.Section, PropertyBag.Empty.Add("title", new Value.Text(Texts.Of("By hand"))), []),
                Demo.Id("care"),
                new Anchor.Last()
            ),
            new Edit.Insert(row, Demo.Id("hand"), new Anchor.Last()),
            new Edit.Move(Demo.Id("beam"), Demo.Id("handCell"), new Anchor.First()),
            new Edit.Remove(Form.ParentOf(Demo.Id("beam"))!.Value),
        ];
        EditSummary
            .Describe(Form, own, field => Demo.Vessel.Find(field)!.Label)
            .Texts()
            .ShouldBe([
                "Adds the section 'By hand' at the end of the page 'Condition and papers'.",
                "Adds an empty row in the section 'By hand'.",
                "Moves 'Beam' into the section 'By hand'.",
                "Removes an empty cell from the section 'Measures'.",
            ]);
    }

    [Fact]
    public void A_form_is_longer_where_it_is_narrower_and_hiding_makes_it_shorter()
    {
        var wide = Length.Measure(Form, Demo.Vessel, Demo.Definitions, 64);
        Length.Measure(Form, Demo.Vessel, Demo.Definitions, 25).Rem.ShouldBeGreaterThan(wide.Rem);
        var hidden = Form.Apply(new Edit.Set(Demo.Id("notesSection"), "hidden", new Value.Flag(true))).Layout!;
        Length.Measure(hidden, Demo.Vessel, Demo.Definitions, 64).Rem.ShouldBeLessThan(wide.Rem);
    }
}
