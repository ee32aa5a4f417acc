using System.Text.Json.Nodes;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>Rooms, sharing and placing as tests/vectors say they come out: web/layout is held to the same files.</summary>
public sealed class PlacementVectorTests
{
    /// <summary>Fields as vectors have them: the type, the most characters, and the letters of the longest word of the label.</summary>
    private static readonly Dictionary<string, Field> Fields = new Field[]
    {
        Of("name", FieldType.Text, null, 4),
        Of("length", FieldType.Decimal, null, 6),
        Of("a-rather-long-key-that-goes-on-and-on-until-it-is-sixty-long-x", FieldType.Reference, null, 24),
        Of("berth", FieldType.Reference, null, 5),
        Of("notes", FieldType.LongText, null, 5),
        Of("code", FieldType.Text, 12, 4),
        Of("paid", FieldType.Boolean, null, 31),
    }.ToDictionary(field => field.Key);

    private static Field Of(string key, FieldType type, int? maxLength, int longestWord) =>
        new()
        {
            Key = key,
            Label = Texts.Of(new string('m', longestWord)),
            Type = type,
            MaxLength = maxLength,
        };

    private static JsonObject Facts() =>
        new([
            .. Fields.Select(each =>
                KeyValuePair.Create(
                    each.Key,
                    (JsonNode?)
                        new JsonObject
                        {
                            ["type"] = each.Value.Type.Name(),
                            ["maxLength"] = each.Value.MaxLength,
                            ["longestWord"] = Rooms.LongestWord(each.Value.Label),
                        }
                )
            ),
        ]);

    private static void Hold(string file, int count, Func<AnyTree, JsonObject> make, Func<JsonObject, JsonObject> outcome)
    {
        if (VectorFiles.Writes)
        {
            var cases = Enumerable.Range(0, count).Select(seed => make(new AnyTree(seed))).ToArray();
            foreach (var each in cases)
            {
                each["gives"] = outcome(each);
            }

            VectorFiles.Write(file, [], cases);
        }

        foreach (var each in VectorFiles.Read(file)["cases"]!.AsArray().Select(each => each!.AsObject()))
        {
            var came = outcome(each);
            JsonNode.DeepEquals(came, each["gives"]).ShouldBeTrue($"{file}: {each.ToJsonString()} came out as {came.ToJsonString()}");
        }
    }

    private static JsonObject Json(Room room) => new() { ["needed"] = room.Needed, ["natural"] = room.Natural };

    private static Room ReadRoom(JsonNode room) => new(room["needed"]!.GetValue<int>(), room["natural"]!.GetValue<int>());

    private static Room AnyRoom(AnyTree any)
    {
        var needed = 1 + any.Next(6);
        return new Room(needed, needed + any.Next(7));
    }

    [Fact]
    public void Rooms_are_as_the_vectors_say() =>
        Hold(
            "rooms.json",
            600,
            any => new JsonObject
            {
                ["type"] = FieldTypes.All.ElementAt(any.Next(FieldTypes.All.Count)),
                ["editor"] = any.Next(2) == 0 ? null : Editors.All[any.Next(Editors.All.Count)],
                ["maxLength"] = any.Next(2) == 0 ? null : 1 + any.Next(60),
                ["label"] =
                    any.Next(3) == 0
                        ? null
                        : string.Join(
                            any.Next(2) == 0 ? ' ' : '-',
                            Enumerable.Range(0, any.Next(4)).Select(_ => new string('w', any.Next(40)))
                        ),
                ["longestWord"] = any.Next(90),
            },
            each =>
            {
                FieldTypes.TryParse(each["type"]!.GetValue<string>(), out var type).ShouldBeTrue();
                var field = Of("field", type, each["maxLength"]?.GetValue<int>(), each["longestWord"]!.GetValue<int>());
                var item = NewNodes
                    .Field("field")
                    .With("editor", each["editor"] is { } editor ? new Value.Word(editor.GetValue<string>()) : null)
                    .With("label", each["label"] is { } label ? new Value.Text(Texts.Of(label.GetValue<string>())) : null);
                return Json(Rooms.Of(item, _ => field));
            }
        );

    [Fact]
    public void Rows_make_room_as_the_vectors_say() =>
        Hold(
            "sharing.json",
            1_500,
            any =>
            {
                var left = Limits.Units + (any.Next(8) == 0 ? 3 : 0);
                var sharing = any.Next(3) == 0;
                var cells = new JsonArray();
                for (var more = any.Next(6); more > 0 && left > 0; more--)
                {
                    var span = 1 + any.Next(left);
                    left -= span;
                    cells.Add(
                        (JsonNode)new JsonObject { ["span"] = sharing && any.Next(2) == 0 ? null : span, ["room"] = Json(AnyRoom(any)) }
                    );
                }

                return new JsonObject
                {
                    ["cells"] = cells,
                    ["at"] = any.Next(cells.Count + 1),
                    ["newcomer"] = Json(AnyRoom(any)),
                };
            },
            each =>
            {
                var spans = RowRoom.Admit(
                    [.. each["cells"]!.AsArray().Select(cell => new SharingCell(cell!["span"]?.GetValue<int>(), ReadRoom(cell["room"]!)))],
                    each["at"]!.GetValue<int>(),
                    ReadRoom(each["newcomer"]!)
                );
                return new JsonObject
                {
                    ["spans"] = spans is { } found ? new JsonArray([.. found.Select(span => (JsonNode?)span)]) : "full",
                };
            }
        );

    [Fact]
    public void Things_go_where_the_vectors_say()
    {
        const string File = "places.json";
        if (VectorFiles.Writes)
        {
            Make(File);
        }

        var vectors = VectorFiles.Read(File);
        var trees = vectors["trees"]!.AsObject().ToDictionary(each => each.Key, each => VectorFiles.ReadTree(each.Value!));
        var cases = vectors["cases"]!.AsArray().Select(each => each!.AsObject()).ToArray();
        cases.Length.ShouldBeGreaterThan(1_000);
        foreach (var each in cases)
        {
            var came = Placed(each, trees[each["tree"]!.GetValue<string>()]);
            JsonNode.DeepEquals(came, each["gives"]).ShouldBeTrue($"{each.ToJsonString()} came out as {came.ToJsonString()}");
        }
    }

    private static void Make(string file)
    {
        var trees = new JsonObject();
        var cases = new List<JsonNode>();
        for (var seed = 0; cases.Count < 2_000; seed++)
        {
            var any = new AnyTree(seed);
            var layout = any.Layout();
            var nodes = layout.Walk().Where(node => node.Kind is not (NodeKind.Variant or NodeKind.Change)).ToArray();
            for (var tries = 0; tries < 80; tries++)
            {
                var each = new JsonObject
                {
                    ["subject"] = AnySubject(any, nodes),
                    ["target"] = nodes[any.Next(nodes.Length)].Id.Name,
                    ["edge"] = Edges.Name((Edge)any.Next(5)),
                    ["tree"] = $"t{seed}",
                };
                if (any.Next(4) == 0)
                {
                    // Chosen, not pointed at a place: after what is selected, or at the end of a page.
                    each.Remove("edge");
                    each[any.Next(2) == 0 ? "after" : "page"] = each["target"]!.DeepClone();
                    each.Remove("target");
                }

                each["gives"] = Placed(each, layout);
                // Most spots are no place for most things: one of those in ten is enough.
                if (each["gives"]!["none"] is null || any.Next(10) == 0)
                {
                    cases.Add(each);
                }
            }

            trees[$"t{seed}"] = VectorFiles.Json(layout.Root);
        }

        VectorFiles.Write(file, trees, cases, Facts());
    }

    private static JsonObject AnySubject(AnyTree any, Node[] nodes) =>
        any.Next(5) switch
        {
            0 or 1 => new JsonObject { ["node"] = nodes[any.Next(nodes.Length)].Id.Name },
            2 or 3 => new JsonObject { ["field"] = Fields.Keys.ElementAt(any.Next(Fields.Count)) },
            _ => any.Next(6) == 0
                ? new JsonObject { ["piece"] = "cover" }
                : new JsonObject
                {
                    ["part"] = Grammar
                        .Of(
                            (
                                (NodeKind[])
                                    [
                                        NodeKind.Heading,
                                        NodeKind.Text,
                                        NodeKind.Divider,
                                        NodeKind.Spacer,
                                        NodeKind.Image,
                                        NodeKind.Link,
                                        NodeKind.Action,
                                        NodeKind.Panel,
                                        NodeKind.Section,
                                        NodeKind.Page,
                                        NodeKind.Top,
                                        NodeKind.End,
                                    ]
                            )[any.Next(12)]
                        )
                        .Name,
                    ["title"] = any.Next(2) == 0 ? null : "Papers",
                },
        };

    private static JsonObject Placed(JsonObject each, Layout layout)
    {
        var given = each["subject"]!.AsObject();
        Subject subject =
            given["node"] is { } node ? new Subject.OfNode(new NodeId(node.GetValue<string>()))
            : given["field"] is { } field ? new Subject.OfField(field.GetValue<string>())
            : given["piece"] is { } piece ? new Subject.OfPiece(piece.GetValue<string>())
            : new Subject.OfPart(Grammar.Named(given["part"]!.GetValue<string>())!.Kind, given["title"]?.GetValue<string>());
        NodeId? Named(string name) => each[name] is { } id ? new NodeId(id.GetValue<string>()) : null;
        var places = new LayoutPlaces(layout, Fields.GetValueOrDefault);
        var place = each["edge"] is { } edge
            ? places.At(subject, Named("target")!.Value, Edges.Parse(edge.GetValue<string>())!.Value)
            : places.Next(subject, Named("after"), Named("page"));
        return place is null ? new JsonObject { ["none"] = true }
            : place.Full ? new JsonObject { ["edits"] = VectorFiles.Digest(VectorFiles.Json(place.Edits)), ["full"] = true }
            : new JsonObject { ["edits"] = VectorFiles.Digest(VectorFiles.Json(place.Edits)) };
    }
}
