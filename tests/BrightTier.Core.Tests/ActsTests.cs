using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;

namespace BrightTier.Core.Tests;

/// <summary>What a person does in one act, and what she asks: several edits as one change, why something is there, what would notice, how long it is.</summary>
public sealed class ActsTests
{
    private static readonly Layout Form = Demo.VesselForm;

    private static int made;

    private static NodeId Fresh(string stem) => new($"{stem}-made{Interlocked.Increment(ref made)}");

    private static Layout Done(IReadOnlyList<Edit> edits, Layout? layout = null)
    {
        edits.ShouldNotBeEmpty();
        var applied = (layout ?? Form).Apply(edits);
        applied.Refusal.ShouldBeNull();
        applied.Layout!.Apply(applied.Inverse).Layout.ShouldBe(layout ?? Form);
        return applied.Layout!;
    }

    private static IEnumerable<string> Fields(Node node) => node.Walk().Where(each => each.Kind is NodeKind.Field).Select(each => each.Word("field")!);

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void Flowing_into_columns_keeps_the_reading_order_and_makes_columns_line_up(int columns)
    {
        var flowed = Done(NodeOperations.Flow(Form, Demo.Id("identity"), columns, Fresh));
        var section = flowed.Find(Demo.Id("identity"))!;

        Fields(section).ShouldBe(Fields(Form.Find(Demo.Id("identity"))!));
        section.Children.ShouldAllBe(row => row.Children.Length == columns);
        section.Children.SelectMany(row => row.Children).Select(cell => cell.Number("span") ?? 12).Distinct().ShouldBe([12 / columns]);
    }

    [Fact]
    public void Rows_are_wrapped_in_a_section_and_a_section_given_up_without_losing_a_field()
    {
        var wrapped = Done(NodeOperations.WrapInSection(Form, [Demo.Id("hullType"), Demo.Id("keeper")], Demo.Id("more")));
        Fields(wrapped.Find(Demo.Id("more"))!).ShouldBe(["hullType", "propulsion", "homePort", "keeper", "berth"]);
        var given = Done(NodeOperations.Ungroup(wrapped, Demo.Id("more")), wrapped);
        Fields(given.Find(Demo.Id("identity"))!).ShouldBe(Fields(Form.Find(Demo.Id("identity"))!));
    }

    [Fact]
    public void Splitting_a_cell_leaves_its_neighbours_alone_and_balancing_evens_a_row()
    {
        var split = Done(NodeOperations.Split(Form, Demo.Id("nameCell"), Demo.Id("beside")));
        split.Find(Demo.Id("nameRow"))!.Children.Select(cell => (cell.Id.Name, cell.Number("span"))).ShouldBe([("nameCell", 4), ("beside", 4), ("registrationCell", 4)]);
        var balanced = Done(NodeOperations.Balance(Form, Demo.Id("identity")));
        balanced.Find(Demo.Id("nameRow"))!.Children.ShouldAllBe(cell => cell["span"] == null);
    }

    [Fact]
    public void One_property_is_set_on_everything_that_has_it()
    {
        var set = Done(NodeOperations.SetOnAll(Form, [Demo.Id("name"), Demo.Id("beam"), Demo.Id("rig")], "emphasis", new Value.Flag(true)));
        new[] { "name", "beam" }.ShouldAllBe(id => set.Find(Demo.Id(id))!.Flag("emphasis"));
    }

    [Fact]
    public void Edits_are_told_in_words_a_reviewer_reads()
    {
        Edit[] edits =
        [
            new Edit.Move(Demo.Id("rig"), Demo.Id("care"), new Anchor.First()), new Edit.Set(Demo.Id("beam"), "required", new Value.Flag(true)),
            new Edit.Remove(Demo.Id("engine")), new Edit.Set(Demo.Id("measures"), "title", null),
        ];
        EditSummary.Tell(Form, edits, field => Demo.Vessel.Find(field)!.Label.ToString()).ShouldBe(
        [
            "Moves the section 'Rig' to the beginning of the page 'Condition and papers'.", "Sets the required of 'Beam' to yes.",
            "Removes the section 'Engine' with 'Engine hours' from the page 'Overview'.", "Clears the title of the section 'Measures'.",
        ]);

        // Rows and cells are how it stands; what is said is where.
        var row = new Node(Demo.Id("handRow"), NodeKind.Row, PropertyBag.Empty, [new Node(Demo.Id("handCell"), NodeKind.Cell, PropertyBag.Empty, [])]);
        Edit[] own =
        [
            new Edit.Insert(new Node(Demo.Id("hand"), NodeKind.Section, PropertyBag.Empty.Add("title", new Value.Text(Texts.Of("By hand"))), []), Demo.Id("care"), new Anchor.Last()), new Edit.Insert(row, Demo.Id("hand"), new Anchor.Last()),
            new Edit.Move(Demo.Id("beam"), Demo.Id("handCell"), new Anchor.First()), new Edit.Remove(Form.ParentOf(Demo.Id("beam"))!.Value),
        ];
        EditSummary.Tell(Form, own, field => Demo.Vessel.Find(field)!.Label.ToString()).ShouldBe(
        [
            "Adds the section 'By hand' at the end of the page 'Condition and papers'.", "Adds an empty row in the section 'By hand'.",
            "Moves 'Beam' into the section 'By hand'.", "Removes an empty cell from the section 'Measures'.",
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
