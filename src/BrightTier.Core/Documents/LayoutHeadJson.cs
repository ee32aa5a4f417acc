using System.Text.Json;
using System.Text.Json.Serialization;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>
/// What reading the text of a layout came to, written down beside it, so that whoever starts need not read thousands to know of each what
/// it
/// is.
/// </summary>
public static partial class LayoutHeadJson
{
    /// <summary>Who reads: another build of this core believes what it read itself, and nothing else.</summary>
    public static string Reader { get; } = typeof(LayoutHeadJson).Module.ModuleVersionId.ToString("N");

    public static string Write(LayoutHead head) =>
        JsonSerializer.Serialize(
            new Line(
                head.Key,
                head.Kind,
                head.Entity,
                head.Extends,
                head.IsArchived,
                head.Title?.ByLanguage,
                [.. head.Sorted],
                [.. head.Layouts],
                [.. head.Entities],
                head.NamesApplication
            ),
            Json.Default.Line
        );

    /// <summary>What was written; null where it is something else.</summary>
    public static LayoutHead? Read(string written)
    {
        try
        {
            return JsonSerializer.Deserialize(written, Json.Default.Line) is { Key: not null } line
                ? new LayoutHead(
                    line.Key,
                    line.Kind,
                    line.Entity,
                    line.Extends,
                    line.Archived,
                    line.Title is { } title ? Texts.Of(title) : null,
                    [.. line.Sorted],
                    [.. line.Layouts],
                    [.. line.Entities],
                    line.Application
                )
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private sealed record Line(
        string Key,
        string Kind,
        string Entity,
        string? Extends,
        bool Archived,
        IReadOnlyDictionary<string, string>? Title,
        string[] Sorted,
        string[] Layouts,
        string[] Entities,
        bool Application
    );

    [JsonSourceGenerationOptions(PropertyNamingPolicy = JsonKnownNamingPolicy.CamelCase)]
    [JsonSerializable(typeof(Line))]
    private sealed partial class Json : JsonSerializerContext;
}
