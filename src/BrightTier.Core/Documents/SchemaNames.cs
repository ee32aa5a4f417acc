using System.Text.Json.Nodes;
using BrightTier.Core.Icons;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>What there is to be named in files: icons always, the rest where the documents of a folder are known.</summary>
/// <param name="folder">Those documents; null where they are not known.</param>
internal sealed class SchemaNames(Catalogue? folder)
{
    public IEnumerable<Entity> Entities => folder?.Definitions.Entities.Values ?? [];

    /// <summary>A reference to the names of some things; null where they are not known, and any will do.</summary>
    public JsonObject? Reference(NameSet things) =>
        Of(things) is { Count: > 0 } ? new JsonObject { ["$ref"] = $"#/$defs/{Name(things)}" } : null;

    /// <summary>The names themselves, to be referred to.</summary>
    public IEnumerable<(string Name, JsonObject Schema)> Definitions() =>
        Enum.GetValues<NameSet>()
            .Where(things => Of(things).Count > 0)
            .Select(things =>
                (Name(things), new JsonObject { ["enum"] = new JsonArray([.. Of(things).Select(name => JsonValue.Create(name))]) })
            );

    private static string Name(NameSet things) => $"nameOf{things}";

    private IReadOnlyList<string> Of(NameSet things) =>
        things is NameSet.Icon ? [.. Icon.Names]
        : folder is null ? []
        : things switch
        {
            NameSet.Entity => [.. folder.Definitions.Entities.Keys.Order(StringComparer.Ordinal)],
            NameSet.Role => [.. folder.Definitions.Application.Roles.Select(role => role.Key)],
            NameSet.ChoiceList => [.. folder.Definitions.ChoiceLists.Keys.Order(StringComparer.Ordinal)],
            NameSet.Pattern => [.. folder.Definitions.Patterns.Keys.Order(StringComparer.Ordinal)],
            NameSet.Style => [.. folder.Definitions.Application.Styles.Select(style => style.Key)],
            NameSet.Layout => Layouts(isPiece: false),
            NameSet.Piece => Layouts(isPiece: true),
            _ => [],
        };

    private string[] Layouts(bool isPiece) =>
        [
            .. folder!
                .Layouts.Values.Where(layout => layout.Kind == "piece" == isPiece)
                .Select(layout => layout.Key)
                .Order(StringComparer.Ordinal),
        ];
}
