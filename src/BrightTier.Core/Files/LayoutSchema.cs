using System.Text.Json.Nodes;
using BrightTier.Core.Layouts;

namespace BrightTier.Core.Files;

/// <summary>The JSON Schema (2020-12) of layout files, made from the <see cref="Grammar"/>, so that any editor completes and checks them.</summary>
public static class LayoutSchema
{
    public const string Id = "https://brighttier.example/schema/layout.json";

    public static JsonObject Make()
    {
        var definitions = new JsonObject
        {
            ["id"] = new JsonObject { ["type"] = "string", ["pattern"] = "^[A-Za-z][A-Za-z0-9_-]*$", ["maxLength"] = Limits.IdLength },
            ["text"] = new JsonObject
            {
                ["anyOf"] = new JsonArray(
                    new JsonObject { ["type"] = "string", ["maxLength"] = Limits.TextLength },
                    new JsonObject { ["type"] = "object", ["description"] = "From language tag (RFC 5646) to text.", ["additionalProperties"] = new JsonObject { ["type"] = "string" } }),
            },
            ["condition"] = new JsonObject { ["type"] = "string", ["maxLength"] = Limits.ConditionLength, ["description"] = "A CEL expression of type bool." },
            ["item"] = new JsonObject
            {
                ["anyOf"] = new JsonArray([
                    new JsonObject { ["type"] = "string", ["description"] = "A field's key." },
                    .. Grammar.Rules.Where(rule => Grammar.IsItem(rule.Kind)).Select(rule => Reference(rule.Name)),
                ]),
            },
        };
        foreach (var rule in Grammar.Rules.Where(rule => rule.Kind is not NodeKind.Layout))
        {
            definitions[rule.Name] = Object(rule);
        }

        definitions["row"] = new JsonObject
        {
            ["anyOf"] = new JsonArray(
                new JsonObject { ["type"] = "string", ["description"] = "A field's key, alone in its row." },
                new JsonObject { ["type"] = "array", ["items"] = Reference("cell") },
                Object(Grammar.Of(NodeKind.Row))),
        };
        definitions["cell"] = new JsonObject
        {
            ["anyOf"] = new JsonArray([
                new JsonObject { ["type"] = "string", ["pattern"] = "^[A-Za-z][A-Za-z0-9_-]*(/([1-9]|1[0-2]))?$", ["description"] = "A field's key, perhaps with its span: name/8." },
                Object(Grammar.Of(NodeKind.Cell)),
                .. Grammar.Rules.Where(rule => Grammar.IsItem(rule.Kind)).Select(rule => Object(rule, withSpan: true)),
            ]),
        };
        var schema = Object(Grammar.Of(NodeKind.Layout));
        schema.Insert(0, "$schema", "https://json-schema.org/draft/2020-12/schema");
        schema.Insert(1, "$id", Id);
        schema.Insert(2, "title", "Bright Tier layout");
        schema["$defs"] = definitions;
        return schema;
    }

    private static JsonObject Reference(string name) => new() { ["$ref"] = $"#/$defs/{name}" };

    private static JsonObject Object(NodeRule rule, bool withSpan = false)
    {
        var properties = new JsonObject();
        foreach (var property in rule.Properties)
        {
            properties[property.Name] = Property(property);
        }

        if (withSpan)
        {
            properties["span"] = Property(Grammar.Of(NodeKind.Cell).Find("span")!);
        }

        if (rule.Kind is NodeKind.Layout)
        {
            foreach (var child in rule.Children)
            {
                properties[Grammar.Of(child).Name] = Reference(Grammar.Of(child).Name);
            }
        }
        else
        {
            properties[Grammar.Id] = Reference("id");
        }

        if (rule.ChildWord is { } word)
        {
            properties[word] = new JsonObject { ["type"] = "array", ["items"] = Reference(Grammar.IsItem(rule.Children[0]) ? "item" : Grammar.Of(rule.Children[0]).Name) };
        }

        var required = rule.Properties.Where(property => property.Required).Select(property => property.Name).Concat(rule.Kind is NodeKind.Layout ? ["body"] : []);
        return new JsonObject
        {
            ["type"] = "object",
            ["description"] = rule.About,
            ["properties"] = properties,
            ["required"] = new JsonArray([.. required.Select(name => (JsonNode)name)]),
            ["additionalProperties"] = false,
        };
    }

    private static JsonObject Property(PropertyRule rule)
    {
        var schema = rule.Type switch
        {
            PropertyType.Text => Reference("text"),
            PropertyType.Word => new JsonObject { ["enum"] = new JsonArray([.. rule.Words.Select(word => (JsonNode)word)]) },
            PropertyType.Key => Reference("id"),
            PropertyType.Condition => Reference("condition"),
            PropertyType.FlagOrCondition => new JsonObject { ["anyOf"] = new JsonArray(new JsonObject { ["type"] = "boolean" }, Reference("condition")) },
            PropertyType.Flag => new JsonObject { ["type"] = "boolean" },
            PropertyType.Number => new JsonObject { ["type"] = "integer", ["minimum"] = rule.Min, ["maximum"] = rule.Max },
            _ => throw new ArgumentOutOfRangeException(nameof(rule)),
        };
        schema["description"] = rule.About;
        if (LayoutFile.WriteValue(rule.Default) is FileNode.Scalar standard)
        {
            schema["default"] = JsonNode.Parse(standard.Quoted ? $"\"{standard.Content}\"" : standard.Content);
        }

        return schema;
    }
}
