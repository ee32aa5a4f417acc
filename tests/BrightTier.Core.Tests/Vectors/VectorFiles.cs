using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>
/// The files in tests/vectors that hold the core and web/layout to the same. Each side makes some of them from a generator of its own and
/// keeps those of the
/// other: <c>make vectors</c> makes them anew. What comes out is kept as a digest of its canonical text.
/// </summary>
internal static class VectorFiles
{
    public static bool Writes => Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1";

    private static readonly JsonSerializerOptions Relaxed = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static string PathOf(string name) => Path.Combine(Demo.Folder, "..", "tests", "vectors", name);

    public static JsonObject Read(string name) => JsonNode.Parse(File.ReadAllText(PathOf(name)))!.AsObject();

    /// <param name="fields">The fields that the trees show, where what they are counts.</param>
    public static void Write(string name, JsonObject trees, IEnumerable<JsonNode> cases, JsonObject? fields = null) =>
        File.WriteAllText(
            PathOf(name),
            (fields is null ? "{" : $"{{\"fields\":{fields.ToJsonString(Relaxed)},\n")
                + "\"trees\":{\n"
                + string.Join(",\n", trees.Select(each => $"\"{each.Key}\":{each.Value!.ToJsonString(Relaxed)}"))
                + "\n},\"cases\":[\n"
                + string.Join(",\n", cases.Select(each => each.ToJsonString(Relaxed)))
                + "\n]}\n"
        );

    public static JsonNode Json(Node node) => Written(writer => TreeJson.Write(writer, node));

    public static JsonArray Json(IEnumerable<Edit> edits) => Written(writer => TreeJson.Write(writer, edits)).AsArray();

    /// <summary>A whole layout; its root, which no edit inserts, is read property by property.</summary>
    public static Layout ReadTree(JsonNode tree)
    {
        var given = tree["properties"]!.AsObject();
        var root = Node.Of(NodeKind.Layout, new NodeId(tree["id"]!.GetValue<string>()))
            .With("kind", given["kind"] is { } kind ? new Value.Word(kind.GetValue<string>()) : null);
        var sets = new JsonArray([
            .. given.Select(each => new JsonObject
            {
                ["op"] = "set",
                ["node"] = root.Id.Name,
                ["property"] = each.Key,
                ["value"] = each.Value!.DeepClone(),
            }),
        ]);
        var inserts = new JsonArray([
            .. tree["children"]!
                .AsArray()
                .Select(each => new JsonObject
                {
                    ["op"] = "insert",
                    ["node"] = each!.DeepClone(),
                    ["parent"] = root.Id.Name,
                    ["at"] = "last",
                }),
        ]);
        root = ReadEdits(sets, Layout.Of(root)).Cast<Edit.Set>().Aggregate(root, (node, set) => node.With(set.Property, set.Value));
        return Layout.Of(root with { Children = [.. ReadEdits(inserts).Cast<Edit.Insert>().Select(insert => insert.Node)] });
    }

    /// <param name="layouts">Where the nodes stand that edits are about, which say of what type a value is.</param>
    public static IReadOnlyList<Edit> ReadEdits(JsonNode edits, params Layout?[] layouts)
    {
        using var json = JsonDocument.Parse(edits.ToJsonString());
        var (read, problems) = TreeJson.ReadEdits(json.RootElement, id =>
            layouts.Select(layout => layout?.Find(id)).FirstOrDefault(node => node is not null)
        );
        problems.ShouldBeEmpty();
        return read;
    }

    private static JsonNode Written(Action<Utf8JsonWriter> write)
    {
        using var buffer = new MemoryStream();
        using (var writer = new Utf8JsonWriter(buffer))
        {
            write(writer);
        }

        return JsonNode.Parse(buffer.ToArray())!;
    }

    /// <summary>The first of what SHA-256 makes of JSON whose names are in order: enough to tell one from another.</summary>
    public static string Digest(JsonNode? json)
    {
        var text = new StringBuilder();
        Canonical(json, text);
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())))[..12];
    }

    private static void Canonical(JsonNode? json, StringBuilder text)
    {
        switch (json)
        {
            case JsonObject map:
                text.Append('{');
                foreach (
                    var (name, value) in map.Where(each => each.Value is not JsonObject { Count: 0 } and not JsonArray { Count: 0 })
                        .OrderBy(each => each.Key, StringComparer.Ordinal)
                )
                {
                    text.Append(name).Append(':');
                    Canonical(value, text);
                    text.Append(',');
                }

                text.Append('}');
                break;
            case JsonArray list:
                text.Append('[');
                foreach (var each in list)
                {
                    Canonical(each, text);
                    text.Append(',');
                }

                text.Append(']');
                break;
            case JsonValue value when value.GetValueKind() is JsonValueKind.Number:
                text.Append(value.GetValue<JsonElement>().GetDecimal().ToString("0.############", CultureInfo.InvariantCulture));
                break;
            case JsonValue value when value.GetValueKind() is JsonValueKind.String:
                text.Append('"').Append(value.GetValue<string>()).Append('"');
                break;
            default:
                text.Append(json is null ? "null" : json.ToJsonString());
                break;
        }
    }
}
