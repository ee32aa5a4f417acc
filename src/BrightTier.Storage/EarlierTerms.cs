using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace BrightTier.Storage;

/// <summary>Backups of before 2026-12 name the roles a release went to first and a time for everyone; both are terms of a rollout
/// now.</summary>
internal static class EarlierTerms
{
    /// <summary>Where they are kept.</summary>
    public const string Column = nameof(RolloutRow.Terms);

    /// <summary>The terms of a row of a backup of before; null where it names no roles.</summary>
    public static string? OfEarlier(JsonElement row)
    {
        if (!row.TryGetProperty("Roles", out var roles) || roles.GetString() is not { } names)
        {
            return null;
        }

        var terms = new JsonObject { ["roles"] = new JsonArray([.. names.Split(' ').Select(name => JsonValue.Create(name))]) };
        if (row.TryGetProperty("EveryoneAt", out var at) && at.ValueKind == JsonValueKind.Number)
        {
            terms["steps"] = new JsonArray(
                new JsonObject
                {
                    ["at"] = DateTimeOffset
                        .FromUnixTimeMilliseconds(at.GetInt64())
                        .ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture),
                    ["share"] = 100,
                }
            );
        }

        return terms.ToJsonString();
    }
}
