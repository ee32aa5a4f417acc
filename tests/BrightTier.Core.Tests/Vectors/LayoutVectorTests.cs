using System.Text.Json.Nodes;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>
/// Edits, changes laid over, ids and spans as tests/vectors say they come out: the browser's package (web/layout) is held to the same
/// files, and makes half of them.
/// </summary>
public sealed class LayoutVectorTests
{
    /// <summary>What is wrong with a property's value only the service says: those cases are no contract.</summary>
    private static bool IsOfValues(Refusal? refusal) =>
        refusal?.Code == "value-invalid"
        || (
            refusal is { Code: "node-malformed" or "change-malformed", Message.English: var message }
            && (message.StartsWith('\'') || message.StartsWith("No node has a property", StringComparison.Ordinal))
        );

    private static JsonObject Outcome(EditOutcome outcome) =>
        IsOfValues(outcome.Refusal) ? throw new NotAContractException(outcome.Refusal!.Message.English)
        : outcome.Refusal is { } refusal ? new JsonObject { ["refused"] = refusal.Code, ["index"] = refusal.Index }
        : new JsonObject
        {
            ["after"] = VectorFiles.Digest(VectorFiles.Json(outcome.Layout!.Root)),
            ["done"] = VectorFiles.Digest(VectorFiles.Json(outcome.Edits)),
            ["inverse"] = VectorFiles.Digest(VectorFiles.Json(outcome.Inverse)),
        };

    private static void Hold(string file, Func<JsonObject, Func<string, Layout>, JsonObject> outcome)
    {
        var vectors = VectorFiles.Read(file);
        var trees = vectors["trees"]!.AsObject().ToDictionary(each => each.Key, each => VectorFiles.ReadTree(each.Value!));
        var cases = vectors["cases"]!.AsArray();
        cases.Count.ShouldBeGreaterThan(400, file);
        foreach (var each in cases.Select(each => each!.AsObject()))
        {
            var came = outcome(each, name => trees[name]);
            JsonNode.DeepEquals(came, each["gives"]).ShouldBeTrue($"{file}: {each.ToJsonString()} came out as {came.ToJsonString()}");
        }
    }

    private static JsonObject Applied(JsonObject each, Func<string, Layout> tree)
    {
        var layout = tree(each["tree"]!.GetValue<string>());
        return Outcome(layout.Apply(VectorFiles.ReadEdits(each["edits"]!, layout)));
    }

    private static JsonObject AppliedOver(JsonObject each, Func<string, Layout> tree)
    {
        var layout = tree(each["tree"]!.GetValue<string>());
        var under = each["under"] is { } named ? tree(named.GetValue<string>()) : null;
        var width = each["width"]?.GetValue<string>();
        var outcome = layout.ApplyOver(VectorFiles.ReadEdits(each["edits"]!, layout.At(width, under), layout), width, under);
        var came = Outcome(outcome);
        if (outcome.Layout is { } next)
        {
            came["seen"] = VectorFiles.Digest(VectorFiles.Json(next.At(width, under).Root));
        }

        return came;
    }

    private static JsonObject Filled(JsonObject each, Func<string, Layout> tree)
    {
        var insert = (Edit.Insert)VectorFiles.ReadEdits(new JsonArray(each["insert"]!.DeepClone()))[0];
        return new JsonObject
        {
            ["ids"] = string.Join(
                ' ',
                DerivedIds
                    .Fill(insert.Node, tree(each["tree"]!.GetValue<string>()).Walk().Select(node => node.Id))
                    .Walk()
                    .Select(node => node.Id.Name)
            ),
        };
    }

    [Theory]
    [InlineData("edits.json")]
    [InlineData("edits-web.json")]
    public void Edits_come_out_as_the_vectors_say(string file)
    {
        if (VectorFiles.Writes && file == "edits.json")
        {
            Make(file, 2_000, any => (any.Layout(), null), (any, layout, _) => new JsonObject { ["edits"] = Edits(any, layout) }, Applied);
        }

        Hold(file, Applied);
    }

    [Theory]
    [InlineData("overrides.json")]
    [InlineData("overrides-web.json")]
    public void Plain_edits_at_a_width_and_over_what_is_extended_come_out_as_the_vectors_say(string file)
    {
        if (VectorFiles.Writes && file == "overrides.json")
        {
            Make(file, 1_500, Begun, Over, AppliedOver, ofEach: 10);
        }

        Hold(file, AppliedOver);
    }

    [Fact]
    public void Ids_are_given_as_the_vectors_say()
    {
        const string File = "ids.json";
        if (VectorFiles.Writes)
        {
            Make(
                File,
                600,
                any => (any.Layout(), null),
                (any, _, _) =>
                    new JsonObject
                    {
                        ["insert"] = VectorFiles.Json([
                            new Edit.Insert(
                                any.Any((NodeKind)(1 + any.Next((int)NodeKind.Change)), 4, any.Next(2) == 0),
                                new NodeId("layout"),
                                new Anchor.Last()
                            ),
                        ])[0]!.DeepClone(),
                    },
                Filled
            );
        }

        Hold(File, Filled);
    }

    [Fact]
    public void Units_are_shared_as_the_vectors_say()
    {
        const string File = "spans.json";
        static JsonObject Shared(JsonObject each, Func<string, Layout> tree) =>
            new()
            {
                ["units"] = new JsonArray([
                    .. Spans.Share([.. each["written"]!.AsArray().Select(span => span?.GetValue<int>())]).Select(units => (JsonNode)units),
                ]),
            };
        if (VectorFiles.Writes)
        {
            Make(
                File,
                600,
                any => (any.Layout(), null),
                (any, _, _) =>
                    new JsonObject
                    {
                        ["written"] = new JsonArray([
                            .. Enumerable.Range(0, 1 + any.Next(12)).Select(_ => any.Next(3) == 0 ? null : (JsonNode)(1 + any.Next(8))),
                        ]),
                    },
                Shared
            );
        }

        Hold(File, Shared);
    }

    /// <summary>The grammar's part that the browser's package applies edits by, as a file of it; and the limits.</summary>
    [Fact]
    public void The_browser_has_the_grammar_as_it_is()
    {
        var file = Path.Combine(Demo.Folder, "..", "web", "layout", "src", "grammar.gen.ts");
        var text = BrowserGrammar.Write();
        if (VectorFiles.Writes)
        {
            File.WriteAllText(file, text);
        }

        File.ReadAllText(file).ShouldBe(text, "make vectors");
    }

    /// <summary>Some edits of a layout, each of what the ones before made of it.</summary>
    private static JsonArray Edits(AnyTree any, Layout layout)
    {
        var edits = new List<Edit>();
        for (var more = any.Next(3); more >= 0; more--)
        {
            edits.Add(any.Edit(layout));
            if (layout.Apply(edits[^1]).Layout is not { } next)
            {
                break;
            }

            layout = next;
        }

        return VectorFiles.Json(edits);
    }

    /// <summary>
    /// A layout with widths that have forms of their own, or one that extends another; with changes made as one makes them.
    /// </summary>
    private static (Layout Layout, Layout? Under) Begun(AnyTree any)
    {
        var layout = any.Layout();
        Layout? under = null;
        if (layout.Kind != "piece" && any.Next(2) == 0)
        {
            under = layout;
            layout = Layout.Of(
                Node.Of(NodeKind.Layout, new NodeId("layout")) with
                {
                    Properties = under.Root.Properties.SetItem("key", new Value.Word("boat")).SetItem("extends", new Value.Word("vessel")),
                }
            );
        }

        for (var i = any.Next(12); i > 0; i--)
        {
            var width = any.Next(2) == 0 ? "narrow" : null;
            layout = layout.ApplyOver([any.Edit(layout.At(width, under))], width, under).Layout ?? layout;
        }

        // What they hold on to may be gone since, or stand elsewhere; and what one says of a property another may have said before.
        foreach (
            var sibling in layout
                .Walk()
                .Select(change => change.Word("sibling"))
                .OfType<string>()
                .Where(_ => any.Next(2) == 0)
                .Select(name => new NodeId(name))
                .ToArray()
        )
        {
            var whole = under ?? layout;
            var parent = whole.ParentOf(sibling) is { } stood ? whole.Find(stood) : null;
            var elsewhere = whole.Walk().Where(node => node.Kind == parent?.Kind && node.Id != parent.Id).ToArray();
            Edit gone =
                elsewhere.Length > 0 && any.Next(2) == 0
                    ? new Edit.Move(sibling, elsewhere[any.Next(elsewhere.Length)].Id, new Anchor.Last())
                    : new Edit.Remove(sibling);
            under = under?.Apply(gone).Layout ?? under;
            layout = under is null ? layout.Apply(gone).Layout ?? layout : layout;
        }

        foreach (var holder in layout.Walk().Where(node => node.Kind is NodeKind.Variant or NodeKind.Layout).ToArray())
        {
            if (
                any.Next(2) == 0
                && holder.Children.FirstOrDefault(child => child.Word("op") == "set" && child["value"] is Value.Flag) is { } said
            )
            {
                layout = layout
                    .Apply(
                        new Edit.Insert(
                            said.With("value", new Value.Flag(!said.Flag("value"))) with
                            {
                                Id = default,
                            },
                            holder.Id,
                            new Anchor.Last()
                        )
                    )
                    .Layout
                    ?? layout;
            }
        }

        return (layout, under);
    }

    private static JsonObject Over(AnyTree any, Layout layout, Layout? under)
    {
        var width =
            under is null || any.Next(2) == 0
                ? any.Next(3) == 0
                    ? "wide"
                    : "narrow"
                : null;
        var said = layout
            .Walk()
            .Where(change =>
                change.Word("op") == "set"
                && change["value"] is Value.Flag
                && (under ?? layout).Find(new NodeId(change.Word("target")!)) is { } node
                && Grammar.Of(node).Find(change.Word("property")!) is not null
            )
            .ToArray();
        var edits =
            said.Length > 0 && any.Next(3) == 0 && said[any.Next(said.Length)] is var change
                ? VectorFiles.Json([
                    new Edit.Set(
                        new NodeId(change.Word("target")!),
                        change.Word("property")!,
                        any.Next(3) == 0 ? null : new Value.Flag(any.Next(2) == 0)
                    ),
                ])
                : Edits(any, layout.At(width, under));
        return new JsonObject { ["edits"] = edits, ["width"] = width };
    }

    private static void Make(
        string file,
        int count,
        Func<AnyTree, (Layout Layout, Layout? Under)> begin,
        Func<AnyTree, Layout, Layout?, JsonObject> make,
        Func<JsonObject, Func<string, Layout>, JsonObject> outcome,
        int ofEach = 40
    )
    {
        var trees = new JsonObject();
        var cases = new List<JsonNode>();
        for (var seed = 0; cases.Count < count; seed++)
        {
            var any = new AnyTree(seed);
            var (layout, under) = begin(any);
            for (var i = 0; i < ofEach && cases.Count < count; i++)
            {
                var each = make(any, layout, under);
                each["tree"] = $"t{seed}";
                if (under is not null)
                {
                    each["under"] = $"u{seed}";
                }

                try
                {
                    each["gives"] = outcome(each, name => name[0] == 'u' ? under! : layout);
                    cases.Add(each);
                }
                catch (NotAContractException)
                {
                    // What only the service decides.
                }
            }

            trees[$"t{seed}"] = VectorFiles.Json(layout.Root);
            if (under is not null)
            {
                trees[$"u{seed}"] = VectorFiles.Json(under.Root);
            }
        }

        VectorFiles.Write(file, trees, cases);
    }

    private sealed class NotAContractException(string message) : Exception(message);
}
