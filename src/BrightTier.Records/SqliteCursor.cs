using System.Text.Json;

namespace BrightTier.Records;

/// <summary>Where a page of a list ended: the values its last row is sorted by, and its number. Clients take it as it is.</summary>
internal static class SqliteCursor
{
    public static string Write(IEnumerable<object?> values, long id) => Convert.ToBase64String(JsonSerializer.SerializeToUtf8Bytes(values.Append(id).ToArray()));

    /// <exception cref="CursorException">It was not written here, or for an order of another number of fields.</exception>
    public static (IReadOnlyList<object?> Values, long Id) Read(string cursor, int levels)
    {
        try
        {
            using var json = JsonDocument.Parse(Convert.FromBase64String(cursor));
            var parts = json.RootElement.EnumerateArray().ToArray();
            return parts.Length == levels + 1 ? ([.. parts[..^1].Select(Value)], parts[^1].GetInt64()) : throw new CursorException();
        }
        catch (Exception error) when (error is FormatException or JsonException or InvalidOperationException)
        {
            throw new CursorException();
        }
    }

    private static object? Value(JsonElement json) => json.ValueKind switch
    {
        JsonValueKind.Null => null,
        JsonValueKind.String => json.GetString(),
        _ => json.TryGetInt64(out var whole) ? whole : json.GetDouble(),
    };
}
