using System.Text.Json.Nodes;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>The part of the schema that is about layouts, made from the <see cref="Grammar"/>.</summary>
/// <param name="names">What there is to be named, as far as that is known.</param>
internal sealed class LayoutSchema(SchemaNames names)
{
    /// <summary>A layout of each kind, by the word its file begins with.</summary>
    public IEnumerable<(string Kind, JsonObject Schema)> Roots() => Grammar.Roots.Select(rule => (rule.Root!, Object(rule)));

    /// <summary>What they refer to.</summary>
    public JsonObject Definitions()
    {
        var definitions = Values();
        foreach (var rule in Grammar.Rules.Where(rule => rule.Kind is not (NodeKind.Layout or NodeKind.Change or NodeKind.Variant)))
        {
            definitions[rule.Name] = Object(rule);
        }

        ShortForms(definitions);
        Changes(definitions);
        return definitions;
    }

    /// <summary>What properties hold.</summary>
    private static JsonObject Values() =>
        new()
        {
            ["id"] = new JsonObject
            {
                ["type"] = "string",
                ["pattern"] = "^[A-Za-z][A-Za-z0-9_-]*$",
                ["maxLength"] = Limits.IdLength,
            },
            ["texts"] = new JsonObject
            {
                ["anyOf"] = new JsonArray(
                    new JsonObject { ["type"] = "string", ["maxLength"] = Limits.TextLength },
                    new JsonObject
                    {
                        ["type"] = "object",
                        ["description"] = "From language tag (RFC 5646) to text.",
                        ["additionalProperties"] = new JsonObject { ["type"] = "string" },
                    }
                ),
            },
            ["condition"] = new JsonObject
            {
                ["type"] = "string",
                ["maxLength"] = Limits.ConditionLength,
                ["description"] = "A CEL expression of type bool.",
            },
            ["words"] = new JsonObject
            {
                ["type"] = "array",
                ["items"] = new JsonObject { ["type"] = "string" },
                ["maxItems"] = Limits.Entries,
            },
            ["pairs"] = new JsonObject
            {
                ["type"] = "object",
                ["additionalProperties"] = new JsonObject { ["type"] = new JsonArray("string", "number", "boolean") },
                ["maxProperties"] = Limits.Entries,
            },
            ["item"] = Any([
                new JsonObject { ["type"] = "string", ["description"] = "A field's key." },
                .. Items.Select(rule => Reference(rule.Name)),
            ]),
        };

    /// <summary>Nodes that have a shorter form than an object.</summary>
    private void ShortForms(JsonObject definitions)
    {
        definitions["row"] = Any([
            new JsonObject { ["type"] = "string", ["description"] = "A field's key, alone in its row." },
            new JsonObject { ["type"] = "array", ["items"] = Reference("cell") },
            Object(Grammar.Of(NodeKind.Row)),
        ]);
        definitions["cell"] = Any([
            new JsonObject
            {
                ["type"] = "string",
                ["pattern"] = "^[A-Za-z][A-Za-z0-9_-]*(/([1-9]|1[0-2]))?$",
                ["description"] = "A field's key, perhaps with its span: name/8.",
            },
            Object(Grammar.Of(NodeKind.Cell)),
            .. Items.Select(rule => Object(rule, placed: true)),
        ]);
        definitions["column"] = Any([
            new JsonObject { ["type"] = "string", ["description"] = "A field's key." },
            Object(Grammar.Of(NodeKind.Column)),
        ]);
    }

    private void Changes(JsonObject definitions)
    {
        definitions["change"] = Any([Set(), Placed("move", Target()), Placed("insert", Inserted()), Plain("remove", Target())]);
        var changes = new JsonObject { ["type"] = "array", ["items"] = Reference("change") };
        definitions["variant"] = Any([
            changes,
            new JsonObject
            {
                ["type"] = "object",
                ["properties"] = new JsonObject
                {
                    ["below"] = Property(Grammar.Of(NodeKind.Variant).Find("below")!),
                    ["note"] = Reference("texts"),
                    ["id"] = Reference("id"),
                    ["changes"] = changes.DeepClone(),
                },
                ["additionalProperties"] = false,
            },
        ]);
    }

    private static IEnumerable<NodeRule> Items => Grammar.Rules.Where(rule => Grammar.IsItem(rule.Kind));

    private static JsonObject Any(IEnumerable<JsonNode> alternatives) => new() { ["anyOf"] = new JsonArray([.. alternatives]) };

    private static JsonObject Target() =>
        new() { ["type"] = "string", ["description"] = "The id of a node; use/node for one inside a piece." };

    private JsonObject Set()
    {
        var properties = new JsonObject();
        foreach (
            var rule in Grammar
                .Rules.SelectMany(rule => rule.Properties)
                .Where(rule => rule.Type is not PropertyType.Any)
                .DistinctBy(rule => rule.Name)
                .OrderBy(rule => rule.Name, StringComparer.Ordinal)
        )
        {
            // Which node it is on is not known here, so neither are the limits that differ.
            properties[rule.Name] = Any([
                Property(rule),
                new JsonObject { ["type"] = "null" },
                .. rule.Type is PropertyType.Word ? [new JsonObject { ["type"] = "string" }] : Array.Empty<JsonNode>(),
            ]);
        }

        return Plain(
            "set",
            new JsonObject
            {
                ["type"] = "object",
                ["description"] = "From node to its properties.",
                ["additionalProperties"] = new JsonObject
                {
                    ["type"] = "object",
                    ["properties"] = properties,
                    ["additionalProperties"] = false,
                },
            }
        );
    }

    private static JsonObject Inserted() =>
        Any([
            Reference("item"),
            .. Grammar
                .Of(NodeKind.Change)
                .Holds[0]
                .Kinds.Where(kind => !Grammar.IsItem(kind))
                .Select(kind => new JsonObject
                {
                    ["type"] = "object",
                    ["properties"] = new JsonObject { [Grammar.Of(kind).Name] = Reference(Grammar.Of(kind).Name) },
                    ["required"] = new JsonArray(Grammar.Of(kind).Name),
                    ["additionalProperties"] = false,
                }),
        ]);

    private static JsonObject Plain(string op, JsonObject what, params IEnumerable<(string Name, JsonObject Schema)> more)
    {
        var properties = new JsonObject
        {
            [op] = what,
            ["id"] = Reference("id"),
            ["note"] = Reference("texts"),
        };
        foreach (var (name, schema) in more)
        {
            properties[name] = schema;
        }

        return new JsonObject
        {
            ["type"] = "object",
            ["properties"] = properties,
            ["required"] = new JsonArray([op]),
            ["additionalProperties"] = false,
        };
    }

    private static JsonObject Placed(string op, JsonObject what) =>
        Plain(op, what, ("into", Target()), ("first", new JsonObject { ["const"] = true }), ("before", Target()), ("after", Target()));

    private static JsonObject Reference(string name) => new() { ["$ref"] = $"#/$defs/{name}" };

    /// <param name="placed">Whether the item stands alone in its cell and so may carry the cell's placement.</param>
    private JsonObject Object(NodeRule rule, bool placed = false)
    {
        var properties = new JsonObject();
        foreach (var property in rule.Properties)
        {
            properties[property.Name] =
                property.Name == "kind" && rule.Root is { } root
                    ? new JsonObject { ["const"] = root, ["description"] = property.About }
                    : Property(property);
        }

        foreach (var name in placed ? ["span", "align"] : Array.Empty<string>())
        {
            properties[name] = Property(Grammar.Of(NodeKind.Cell).Find(name)!);
        }

        foreach (var holds in rule.Holds)
        {
            var child = Reference(holds.Kinds.Any(Grammar.IsItem) && holds.Kinds.Length > 3 ? "item" : Grammar.Of(holds.Kinds[0]).Name);
            var each = holds.Kinds.Length is 2 or 3 ? Any(holds.Kinds.Select(kind => Reference(Grammar.Of(kind).Name))) : child;
            properties[holds.Word] = holds.Shape switch
            {
                ChildShape.One => each,
                ChildShape.Named => new JsonObject { ["type"] = "object", ["additionalProperties"] = each },
                _ => new JsonObject { ["type"] = "array", ["items"] = each },
            };
        }

        if (rule.Kind is NodeKind.Layout)
        {
            properties["$schema"] = new JsonObject { ["type"] = "string" };
        }
        else
        {
            properties[Grammar.Id] = Reference("id");
        }

        return new JsonObject
        {
            ["type"] = "object",
            ["description"] = rule.About,
            ["properties"] = properties,
            ["required"] = new JsonArray([
                .. rule.Properties.Where(property => property.Required).Select(property => (JsonNode)property.Name),
            ]),
            ["additionalProperties"] = false,
        };
    }

    private JsonObject Property(PropertyRule rule)
    {
        var schema = rule.Type switch
        {
            PropertyType.Text => Reference("texts"),
            PropertyType.Word => new JsonObject { ["enum"] = new JsonArray([.. rule.Words.Select(word => (JsonNode)word)]) },
            PropertyType.Words => rule.Words.IsEmpty
                ? Reference("words")
                : new JsonObject
                {
                    ["type"] = "array",
                    ["items"] = new JsonObject { ["enum"] = new JsonArray([.. rule.Words.Select(word => (JsonNode)word)]) },
                    ["uniqueItems"] = true,
                },
            PropertyType.Samples => new JsonObject
            {
                ["type"] = "array",
                ["items"] = new JsonObject { ["type"] = "string" },
            },
            PropertyType.Pairs => Reference("pairs"),
            PropertyType.Address or PropertyType.Pattern or PropertyType.Target => new JsonObject { ["type"] = "string" },
            PropertyType.Decimal => new JsonObject { ["type"] = "number" },
            PropertyType.Key => names.Reference(NamesOf(rule.Name)) ?? Reference("id"),
            PropertyType.Condition => Reference("condition"),
            PropertyType.FlagOrCondition => new JsonObject
            {
                ["anyOf"] = new JsonArray(new JsonObject { ["type"] = "boolean" }, Reference("condition")),
            },
            PropertyType.Flag => new JsonObject { ["type"] = "boolean" },
            PropertyType.Number => new JsonObject
            {
                ["type"] = "integer",
                ["minimum"] = rule.Min,
                ["maximum"] = rule.Max,
            },
            _ => throw new ArgumentOutOfRangeException(nameof(rule)),
        };
        schema["description"] = rule.About;
        if (LayoutFile.WriteValue(rule.Default) is FileNode.Scalar standard)
        {
            schema["default"] = JsonNode.Parse(standard.Quoted ? $"\"{standard.Content}\"" : standard.Content);
        }

        return schema;
    }

    private static NameSet NamesOf(string property) =>
        property switch
        {
            "icon" => NameSet.Icon,
            "style" => NameSet.Style,
            "piece" => NameSet.Piece,
            "extends" => NameSet.Layout,
            "entity" or "related" or "begins" => NameSet.Entity,
            _ => NameSet.None,
        };
}
