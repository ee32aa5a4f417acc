using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

public sealed class EditTests
{
    private static readonly Layout Form = Demo.VesselForm;

    [Fact]
    public void Applying_a_change_and_then_its_inverse_is_where_one_began() =>
        CsCheck.Check.Sample(
            Random(8),
            seeds =>
            {
                var layout = Form;
                var edits = new List<Edit>();
                foreach (var seed in seeds)
                {
                    var edit = AnyEdit(layout, seed);
                    var applied = layout.Apply(edit);
                    if (applied.Refusal is null)
                    {
                        edits.Add(applied.Edits[0]);
                        layout = applied.Layout!;
                    }
                }

                var whole = Form.Apply(edits);
                whole.Refusal.ShouldBeNull();
                whole.Layout.ShouldBe(layout);
                whole.Layout!.Apply(whole.Inverse).Layout.ShouldBe(Form);
            },
            iter: 600
        );

    [Fact]
    public void The_index_of_parents_stays_true_to_the_tree() =>
        CsCheck.Check.Sample(
            Random(12),
            seeds =>
            {
                var layout = seeds.Aggregate(Form, (form, seed) => form.Apply(AnyEdit(form, seed)).Layout ?? form);
                layout.Count.ShouldBe(layout.Walk().Count());
                foreach (var node in layout.Walk())
                {
                    layout.Find(node.Id).ShouldBeSameAs(node);
                    node.Children.EachShould(child => layout.ParentOf(child.Id) == node.Id);
                }
            },
            iter: 500
        );

    [Fact]
    public void What_edits_make_can_be_written_and_read_back() =>
        CsCheck.Check.Sample(
            Random(10),
            seeds =>
            {
                var layout = seeds.Aggregate(Form, (form, seed) => form.Apply(AnyEdit(form, seed)).Layout ?? form);
                var again = Demo.ReadLayout(DocumentFile.Write(new Document.OfLayout(layout)));
                foreach (var (written, read) in layout.Walk().Zip(again.Walk()))
                {
                    (read.Id, read.Kind, string.Join("; ", read.Properties)).ShouldBe(
                        (written.Id, written.Kind, string.Join("; ", written.Properties))
                    );
                }

                again.ShouldBe(layout);
            },
            iter: 500
        );

    [Fact]
    public void Read_back_by_what_is_another_one_is_as_good_as_read_back_whole()
    {
        var refused = 0;
        CsCheck.Check.Sample(
            Random(6),
            seeds =>
            {
                var layout = Form;
                foreach (var seed in seeds)
                {
                    // Some of it what no text can hold, put where nothing looks at it before it is written.
                    Edit[] edits =
                        seed % 3 == 0 && layout.Walk().Where(node => node.Kind is NodeKind.Field).ToArray() is { Length: > 0 } fields
                            ? [new Edit.Set(fields[seed % fields.Length].Id, "label", new Value.Text(Texts.Of(Odd[seed % Odd.Length])))]
                            : [AnyEdit(layout, seed), AnyEdit(layout, seed / 2)];
                    var next = edits.Aggregate(layout, (form, edit) => form.Apply(edit).Layout ?? form);
                    var (text, problems) = DocumentFile.WriteAndReadBack(new Document.OfLayout(next), new Document.OfLayout(layout));
                    var whole = DocumentFile.WriteAndReadBack(new Document.OfLayout(next));
                    text.ShouldBe(whole.Text);
                    problems.ShouldBe(whole.Problems);
                    Interlocked.Add(ref refused, problems.Count);
                    layout = problems.Count == 0 ? next : layout;
                }
            },
            iter: 300
        );
        refused.ShouldBeGreaterThan(0);
    }

    private static readonly string[] Odd = ["a\u0000b", "a: b # c", "\ud800", "\"", " x ", "\ufffe", "\u2028", "- a", "~", "1"];

    [Fact]
    public void Edits_travel_as_json_and_stay_the_same() =>
        CsCheck.Check.Sample(
            Random(1),
            seeds =>
            {
                var edit = Form.Apply(AnyEdit(Form, seeds[0])).Edits;
                var buffer = new MemoryStream();
                using (var writer = new System.Text.Json.Utf8JsonWriter(buffer))
                {
                    TreeJson.Write(writer, edit);
                }

                using var json = System.Text.Json.JsonDocument.Parse(buffer.ToArray());
                var (again, problems) = TreeJson.ReadEdits(json.RootElement, Form.Find);
                problems.ShouldBeEmpty();
                again.ShouldBe(edit);
            },
            iter: 1_000
        );

    [Fact]
    public void A_change_is_applied_whole_or_not_at_all()
    {
        var applied = Form.Apply([new Edit.Remove(Demo.Id("rig")), new Edit.Remove(Demo.Id("rig"))]);

        applied.Layout.ShouldBeNull();
        applied.Refusal!.Index.ShouldBe(1);
        applied.Refusal.Message.English.ShouldContain("no node 'rig'");
    }

    public static TheoryData<string, Edit, string> Refused =>
        new()
        {
            { "node-missing", new Edit.Set(Demo.Id("mast"), "title", null), "no node 'mast'" },
            { "property-unknown", new Edit.Set(Demo.Id("rig"), "titel", null), "did you mean 'title'?" },
            { "value-invalid", new Edit.Set(Demo.Id("nameCell"), "span", new Value.Number(13)), "from 1 to 12; it is 13" },
            { "value-invalid", new Edit.Set(Demo.Id("rig"), "frame", new Value.Word("box")), "none, rule, outline" },
            {
                "not-allowed-there",
                new Edit.Move(Demo.Id("name"), Demo.Id("rig"), new Anchor.Last()),
                "A field cannot stand in a section; it holds row"
            },
            { "cannot-remove", new Edit.Remove(Demo.Id("body")), "cannot be removed" },
            { "cycle", new Edit.Move(Demo.Id("rig"), Demo.Id("rig"), new Anchor.Last()), "into itself" },
            {
                "anchor-missing",
                new Edit.Move(Demo.Id("rig"), Demo.Id("care"), new Anchor.Before(Demo.Id("identity"))),
                "'identity' is not in 'care'"
            },
            { "anchor-itself", new Edit.Move(Demo.Id("rig"), Demo.Id("overview"), new Anchor.After(Demo.Id("rig"))), "beside itself" },
            { "id-taken", new Edit.Insert(Node.Of(NodeKind.Section, Demo.Id("rig")), Demo.Id("care"), new Anchor.Last()), "already" },
            {
                "id-malformed",
                new Edit.Insert(Node.Of(NodeKind.Section, Demo.Id("9 lives")), Demo.Id("care"), new Anchor.Last()),
                "must begin with a letter"
            },
            {
                "node-malformed",
                new Edit.Insert(Node.Of(NodeKind.Field, Demo.Id("x")), Demo.Id("nameCell"), new Anchor.Last()),
                "needs 'field'"
            },
            { "only-one", new Edit.Insert(Node.Of(NodeKind.Top, Demo.Id("top2")), Demo.Id("layout"), new Anchor.First()), "only one top" },
            { "property-required", new Edit.Set(Demo.Id("name"), "field", null), "cannot be cleared" },
        };

    [Theory]
    [MemberData(nameof(Refused))]
    public void An_edit_that_cannot_be_is_refused_with_the_reason(string code, Edit edit, string message)
    {
        var refusal = Form.Apply(edit).Refusal.ShouldNotBeNull();

        refusal.Code.ShouldBe(code);
        refusal.Message.English.ShouldContain(message);
    }

    /// <summary>Found by make fuzz.</summary>
    [Theory]
    [InlineData("""[{"op":"set","node":"name","value":true}]""", "needs 'property'")]
    [InlineData("""[{"op":"insert","parent":"rig"}]""", "needs 'node'")]
    [InlineData("""[{"op":"mvoe"}]""", "did you mean 'move'?")]
    [InlineData("""[{"op":"set","node":"rig","property":"title","value":{"en":"Rig","en":"Sails"}}]""", "'en' is given twice")]
    [InlineData("""[{"op":"remove","node":"rig","node":"name"}]""", "'node' is given twice")]
    public void An_edit_that_lacks_something_is_answered_with_what(string text, string message)
    {
        using var json = System.Text.Json.JsonDocument.Parse(text);
        TreeJson
            .ReadEdits(json.RootElement, Form.Find)
            .Problems.ShouldContain(problem => problem.Message.English.Contains(message, StringComparison.Ordinal));
    }

    [Fact]
    public void A_layout_does_not_grow_beyond_its_limit()
    {
        var rows = Enumerable
            .Range(0, Limits.Nodes / 3)
            .Select(i =>
                Node.Of(
                    NodeKind.Row,
                    new NodeId($"r{i}"),
                    Node.Of(NodeKind.Cell, new NodeId($"c{i}"), NewNodes.Field("name") with { Id = new NodeId($"f{i}") })
                )
            );

        var refusal = Form.Apply(
            new Edit.Insert(Node.Of(NodeKind.Section, Demo.Id("huge"), rows), Demo.Id("care"), new Anchor.Last())
        ).Refusal;

        refusal!.Code.ShouldBe("layout-too-large");
    }

    [Fact]
    public void Setting_a_default_is_the_same_as_saying_nothing() =>
        Form.Apply(new Edit.Set(Demo.Id("rig"), "frame", new Value.Word("none"))).Layout.ShouldBe(Form);

    [Fact]
    public void Replacing_a_whole_layout_is_a_change_like_any_other()
    {
        var next = GeneratedLayout.Full(Demo.Vessel);

        var applied = Form.Apply(LayoutDiff.Edits(Form, next));

        applied.Refusal.ShouldBeNull();
        DocumentFile.Write(new Document.OfLayout(applied.Layout!)).ShouldBe(DocumentFile.Write(new Document.OfLayout(next)));
        applied.Layout!.Apply(applied.Inverse).Layout.ShouldBe(Form);
    }

    internal static CsCheck.Gen<int[]> Random(int count) => new CsCheck.GenArray<int>(CsCheck.Gen.Int[0, int.MaxValue - 1])[1, count];

    /// <summary>Some edit of a layout, decided by a number; often sensible, sometimes refused.</summary>
    internal static Edit AnyEdit(Layout layout, int seed)
    {
        var random = new Random(seed);
        var nodes = layout.Walk().ToArray();
        var node = nodes[random.Next(nodes.Length)];
        var other = nodes[random.Next(nodes.Length)];
        Anchor at = random.Next(4) switch
        {
            0 => new Anchor.First(),
            1 => new Anchor.Last(),
            var n => other.Children.IsEmpty ? new Anchor.Last()
            : n == 2 ? new Anchor.Before(other.Children[^1].Id)
            : new Anchor.After(other.Children[0].Id),
        };
        return random.Next(5) switch
        {
            0 => new Edit.Remove(node.Id),
            1 => new Edit.Insert(
                random.Next(3) switch
                {
                    0 => NewNodes.RowOf("name", "beam"),
                    1 => NewNodes.Field("draught"),
                    _ => NewNodes.Titled(NodeKind.Section, Texts.Of("Under way"), NewNodes.RowOf("length")),
                },
                other.Id,
                at
            ),
            2 => new Edit.Set(node.Id, "title", new Value.Text(Texts.Of("Title " + random.Next(9)))),
            3 => new Edit.Set(node.Id, "span", random.Next(3) == 0 ? null : new Value.Number(random.Next(1, 13))),
            _ => new Edit.Move(node.Id, other.Id, at),
        };
    }
}
