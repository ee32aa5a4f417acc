using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Tests.Vectors;

/// <summary>What web/layout needs of the grammar to apply edits as the service does, as TypeScript.</summary>
internal static class BrowserGrammar
{
    public static string Write()
    {
        var rules = Grammar
            .Roots.Select(rule => (Name: $"'layout {rule.Root}'", Rule: rule))
            .Concat(Grammar.Rules.Where(rule => rule.Kind is not NodeKind.Layout).Select(rule => (rule.Name, Rule: rule)))
            .ToArray();
        var text = new StringBuilder("// Made from the core's grammar by `make vectors`; not written by hand.\n\n");
        text.Append(
            $"export const limits = {{ nodes: {Limits.Nodes}, depth: {Limits.Depth}, idLength: {Limits.IdLength}, units: "
                + $"{Limits.Units}, edits: {Limits.Edits} }};\n\n"
        );
        text.Append("/** Kinds of nodes, in the order of a layout's parts. */\n");
        text.Append(
            $"export const order: readonly string[] = "
                + $"{Json(new JsonArray([.. Enum.GetValues<NodeKind>().Select(kind => (JsonNode)Grammar.Of(kind).Name)]))};\n\n"
        );
        text.Append(
            "/** Which kinds each kind of node holds; a layout has a rule for each of its own kinds. */\nexport const holds: "
                + "Record<string, readonly string[]> = {\n"
        );
        foreach (var (name, rule) in rules)
        {
            text.Append($"  {name}: {Json(new JsonArray([.. rule.Children.Select(kind => (JsonNode)Grammar.Of(kind).Name)]))},\n");
        }

        text.Append("};\n\n/** What a layout has only one of. */\nexport const single: Record<string, readonly string[]> = {\n");
        foreach (var rule in Grammar.Roots)
        {
            var single = rule.Holds.Where(child => child.Shape is ChildShape.One).SelectMany(child => child.Kinds);
            text.Append($"  'layout {rule.Root}': {Json(new JsonArray([.. single.Select(kind => (JsonNode)Grammar.Of(kind).Name)]))},\n");
        }

        text.Append(
            "};\n\nexport interface PropertyRule {\n  required?: true;\n  /** What it is where nothing is written; never "
                + "written. */\n  default?: string | number | boolean;\n}\n\n"
        );
        text.Append(
            "/** The properties of each kind of node. */\nexport const properties: Record<string, Record<string, PropertyRule>> = {\n"
        );
        foreach (var (name, rule) in rules)
        {
            text.Append($"  {name}: {{\n");
            foreach (var property in rule.Properties)
            {
                text.Append($"    {property.Name}: {Json(Rule(property))},\n");
            }

            text.Append("  },\n");
        }

        text.Append("};\n\n/** The first editor of each type of field: the one it has unless a layout names another. */\n");
        text.Append(Map("firstEditors", "string", FieldTypes.All, type => Json(Editors.Default(FieldType(type)))));
        text.Append("\n/** Units of a row that each editor needs, and those it takes naturally. */\n");
        text.Append(Map("editorRooms", Pair, Rooms.OfEditors.Keys.Order(), editor => Json(Rooms.OfEditors[editor])));
        text.Append("\n/** The same of items that show no field, by kind. */\n");
        text.Append(
            Map("itemRooms", Pair, Rooms.OfItems.Keys.Order().Select(kind => Grammar.Of(kind).Name), kind =>
                Json(Rooms.OfItems[Grammar.Named(kind)!.Kind])
            )
        );
        text.Append("\n/** Letters of texts that are short and middling; the width of a letter of a label, of a unit and of a gap. */\n");
        text.Append(
            $"export const letters = {{ few: {Rooms.FewLetters}, some: {Rooms.SomeLetters}, width: {Rooms.LetterWidth}, "
                + $"unit: {Rooms.UnitWidth}, gap: {Rooms.Gap} }};\n"
        );
        return text.ToString();
    }

    private static JsonObject Rule(PropertyRule property)
    {
        var entries = new JsonObject();
        if (property.Required)
        {
            entries["required"] = true;
        }

        if (property.Default is { } standard)
        {
            entries["default"] = VectorFiles.Json(Node.Of(NodeKind.Field, new NodeId("x")).With(property.Name, standard))["properties"]![
                property.Name
            ]!.DeepClone();
        }

        return entries;
    }

    private const string Pair = "readonly [number, number]";

    private static FieldType FieldType(string name) => FieldTypes.TryParse(name, out var type) ? type : default;

    private static string Json(Room room) => $"[{room.Needed}, {room.Natural}]";

    private static string Map(string name, string type, IEnumerable<string> keys, Func<string, string> value)
    {
        var text = new StringBuilder($"export const {name}: Readonly<Record<string, {type}>> = {{\n");
        foreach (var key in keys)
        {
            text.Append($"  {(key.Contains('-') ? $"'{key}'" : key)}: {value(key)},\n");
        }

        return text.Append("};\n").ToString();
    }

    private static string Json(JsonNode node) =>
        node.ToJsonString(new JsonSerializerOptions { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping });
}
