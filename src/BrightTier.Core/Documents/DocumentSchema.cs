using System.Text.Json.Nodes;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>
/// The JSON Schema (2020-12) of every kind of document, so that any editor completes and checks them: made from the <see cref="Grammar"/>
/// and from <see cref="ObjectRules"/>. Made for a folder it knows the names there, and of each layout the fields of its entity.
/// </summary>
public static class DocumentSchema
{
    public const string Id = "https://brighttier.example/schema/document.json";

    /// <param name="folder">The documents whose names it knows; null for a schema that holds anywhere.</param>
    public static JsonObject Make(Catalogue? folder = null)
    {
        var names = new SchemaNames(folder);
        var layouts = new LayoutSchema(names);
        var roots = layouts.Roots().ToArray();
        var definitions = layouts.Definitions();
        foreach (var (name, schema) in names.Definitions().Concat(ObjectRules.All.Select(rule => (rule.Name, Object(rule, names)))))
        {
            definitions.Add(name, schema);
        }

        var kinds = new JsonArray();
        foreach (var (kind, schema) in roots)
        {
            definitions.Add($"{kind}Layout", schema);
            kinds.Add(When("kind", kind, $"{kind}Layout"));
        }

        foreach (var rule in ObjectRules.All.Where(rule => rule.Kind is not null))
        {
            kinds.Add(When("kind", rule.Kind!, rule.Name));
        }

        foreach (var entity in names.Entities)
        {
            Fields(definitions, entity);
            kinds.Add(When("entity", entity.Key, Within(entity)));
        }

        return new JsonObject
        {
            ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
            ["$id"] = Id,
            ["title"] = "Bright Tier document",
            ["type"] = "object",
            ["required"] = new JsonArray("kind"),
            ["properties"] = new JsonObject
            {
                ["kind"] = new JsonObject
                {
                    ["description"] = "What the document is.",
                    ["enum"] = new JsonArray([
                        .. roots
                            .Select(root => root.Kind)
                            .Concat(ObjectRules.All.Select(rule => rule.Kind).OfType<string>())
                            .Select(kind => JsonValue.Create(kind)),
                    ]),
                },
            },
            ["allOf"] = kinds,
            ["$defs"] = definitions,
        };
    }

    private static JsonObject When(string property, string value, string then) =>
        new()
        {
            ["if"] = new JsonObject
            {
                ["properties"] = new JsonObject { [property] = new JsonObject { ["const"] = value } },
                ["required"] = new JsonArray(property),
            },
            ["then"] = Reference(then),
        };

    private static JsonObject Reference(string name) => new() { ["$ref"] = $"#/$defs/{name}" };

    private static JsonObject Object(ObjectRule rule, SchemaNames names)
    {
        var properties = new JsonObject();
        if (rule.Kind is { } kind)
        {
            properties["kind"] = new JsonObject { ["const"] = kind };
            properties["$schema"] = new JsonObject { ["type"] = "string" };
        }

        foreach (var entry in rule.Entries)
        {
            var schema = Value(entry, names);
            schema["description"] = entry.About;
            properties[entry.Key] = schema;
        }

        return new JsonObject
        {
            ["type"] = "object",
            ["description"] = rule.About,
            ["properties"] = properties,
            ["required"] = new JsonArray([
                .. rule
                    .Entries.Where(entry => entry.Required)
                    .Select(entry => (JsonNode)entry.Key)
                    .Prepend("kind")
                    .Skip(rule.Kind is null ? 1 : 0),
            ]),
            ["additionalProperties"] = false,
        };
    }

    private static JsonObject Value(EntryRule entry, SchemaNames names) =>
        entry.Type switch
        {
            EntryType.Texts => Reference("texts"),
            EntryType.Key => Reference("id"),
            EntryType.Flag => new JsonObject { ["type"] = "boolean" },
            EntryType.Condition => Reference("condition"),
            EntryType.Pairs => Reference("pairs"),
            EntryType.One => Reference(entry.Of!),
            EntryType.Many => new JsonObject { ["type"] = "array", ["items"] = Reference(entry.Of!) },
            EntryType.Words => new JsonObject { ["type"] = "array", ["items"] = Word(entry, names) },
            EntryType.Whole or EntryType.Number => Number(entry),
            _ => Word(entry, names),
        };

    private static JsonObject Word(EntryRule entry, SchemaNames names) =>
        entry.Words.IsEmpty
            ? names.Reference(entry.Names) ?? new JsonObject { ["type"] = new JsonArray("string", "number", "boolean") }
            : new JsonObject { ["enum"] = new JsonArray([.. entry.Words.Select(word => JsonValue.Create(word))]) };

    private static JsonObject Number(EntryRule entry)
    {
        var schema = new JsonObject { ["type"] = entry.Type is EntryType.Whole ? "integer" : "number" };
        if (entry.Min is { } min)
        {
            schema["minimum"] = min;
        }

        if (entry.Max is { } max)
        {
            schema["maximum"] = max;
        }

        return schema;
    }

    private static string Within(Entity entity) => $"within-{entity.Key}";

    /// <summary>
    /// Which fields a layout of an entity may name: everything that can hold others is followed down to where fields stand, whole or as a
    /// word in a row.
    /// </summary>
    private static void Fields(JsonObject definitions, Entity entity)
    {
        var keys = entity.Fields.Select(field => field.Key).Concat(ServiceFields.All).ToArray();
        var (within, placed) = (Within(entity), $"placed-{entity.Key}");
        var properties = new JsonObject
        {
            ["field"] = Names(keys),
            ["column"] = Names(keys),
            ["picture"] = Names(keys),
            ["insert"] = Reference(placed),
            ["variants"] = new JsonObject { ["additionalProperties"] = Reference(within) },
        };
        foreach (var holds in Grammar.Rules.Concat(Grammar.Roots).SelectMany(rule => rule.Holds).DistinctBy(holds => holds.Word))
        {
            properties[holds.Word] ??= Reference(holds.Kinds.Any(IsWord) ? placed : within);
        }

        definitions[within] = new JsonObject { ["properties"] = properties, ["items"] = Reference(within) };
        definitions[placed] = new JsonObject
        {
            ["if"] = new JsonObject { ["type"] = "string" },
            ["then"] = new JsonObject
            {
                ["anyOf"] = new JsonArray(Names(keys), new JsonObject { ["pattern"] = $"^({string.Join('|', keys)})/([1-9]|1[0-2])$" }),
            },
            ["else"] = new JsonObject { ["properties"] = properties.DeepClone(), ["items"] = Reference(placed) },
        };

        static bool IsWord(NodeKind kind) => kind is NodeKind.Row or NodeKind.Cell or NodeKind.Column || Grammar.IsItem(kind);
    }

    private static JsonObject Names(IEnumerable<string> keys) =>
        new() { ["enum"] = new JsonArray([.. keys.Select(key => JsonValue.Create(key))]) };
}
