using System.Text;
using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Drafts;

namespace BrightTier.Service.Layouts;

/// <summary>The grammar as it is answered, and the schema of documents.</summary>
internal static class GrammarAnswer
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/schemas/document.json", () => TypedResults.Bytes(Schema, "application/schema+json"))
            .WithName("getDocumentSchema")
            .AllowAnonymous()
            .WithTags("layouts")
            .WithSummary("The JSON Schema (2020-12) of documents as files, of whatever kind.");
        api.MapGet("/grammar", () => TypedResults.Json(GrammarJson, WireJson.Default.JsonElement))
            .WithName("getGrammar")
            .AllowAnonymous()
            .WithTags("layouts")
            .Produces<JsonElement>()
            .WithSummary("Every kind of node with its properties; drives the properties panel.");
    }

    internal static readonly byte[] Schema = Encoding.UTF8.GetBytes(
        DocumentSchema.Make().ToJsonString(new JsonSerializerOptions { WriteIndented = true })
    );

    internal static readonly JsonElement GrammarJson = DraftDocuments.Element(WriteGrammar);

    internal static void WriteGrammar(Utf8JsonWriter writer)
    {
        writer.WriteStartArray();
        foreach (var rule in Grammar.Roots.Concat(Grammar.Rules).Distinct())
        {
            writer.WriteStartObject();
            writer.WriteString("name", rule.Name);
            if (rule.Root is { } root)
            {
                writer.WriteString("root", root);
            }

            writer.WriteString("about", rule.About);
            writer.WriteStartArray("children");
            foreach (var child in rule.Children)
            {
                writer.WriteStringValue(Grammar.Of(child).Name);
            }

            writer.WriteEndArray();
            writer.WriteStartArray("properties");
            foreach (var property in rule.Properties)
            {
                WriteProperty(writer, property);
            }

            writer.WriteEndArray();
            writer.WriteEndObject();
        }

        writer.WriteEndArray();
    }

    private static void WriteProperty(Utf8JsonWriter writer, PropertyRule property)
    {
        writer.WriteStartObject();
        writer.WriteString("name", property.Name);
        writer.WriteString(
            "type",
            property.Type switch
            {
                PropertyType.FlagOrCondition => "flagOrCondition",
                var type => type.ToString().ToLowerInvariant(),
            }
        );
        writer.WriteString("group", property.Group.ToString().ToLowerInvariant());
        writer.WriteString("label", property.Label);
        writer.WriteString("about", property.About);
        writer.WriteBoolean("lines", property.Lines);
        writer.WriteBoolean("required", property.Required);
        writer.WriteBoolean("inVariants", property.InVariants);
        writer.WriteBoolean("ofFields", property.OfFields);
        writer.WriteBoolean("often", property.IsOften);
        writer.WriteBoolean("inherits", property.Inherits);
        writer.WriteBoolean("allByDefault", property.AllByDefault);
        if (property.Type is PropertyType.Number or PropertyType.Decimal)
        {
            writer.WriteNumber("min", property.Min);
            writer.WriteNumber("max", property.Max);
        }

        WriteNames(writer, "types", property.Types.Select(type => type.Name()));
        WriteNames(writer, "words", property.Words);

        if (property.Default is { } standard)
        {
            writer.WriteString(
                "default",
                standard switch
                {
                    Value.Word word => word.Content,
                    Value.Flag flag => flag.On ? "true" : "false",
                    Value.Number number => number.Amount.ToString(System.Globalization.CultureInfo.InvariantCulture),
                    _ => "",
                }
            );
        }

        writer.WriteEndObject();
    }

    /// <summary>A list of names; nothing where there are none.</summary>
    private static void WriteNames(Utf8JsonWriter writer, string name, IEnumerable<string> names)
    {
        var all = names.ToArray();
        if (all.Length == 0)
        {
            return;
        }

        writer.WriteStartArray(name);
        foreach (var each in all)
        {
            writer.WriteStringValue(each);
        }

        writer.WriteEndArray();
    }
}
