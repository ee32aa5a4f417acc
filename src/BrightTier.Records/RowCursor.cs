using System.Text.Json;
using BrightTier.Core.Model;

namespace BrightTier.Records;

/// <summary>Where a page of a list ended: the values its last row is sorted by, and its number. Clients take it as it is.</summary>
internal static class RowCursor
{
    public static string Write(IEnumerable<(Field Field, object? Value)> values, long id)
    {
        var bytes = new System.Buffers.ArrayBufferWriter<byte>();
        using (var writer = new Utf8JsonWriter(bytes))
        {
            writer.WriteStartArray();
            foreach (var (_, value) in values)
            {
                FieldValues.Write(writer, value);
            }

            writer.WriteNumberValue(id);
            writer.WriteEndArray();
        }

        return Convert.ToBase64String(bytes.WrittenSpan);
    }

    /// <exception cref="CursorException">It was not written here, or for another order.</exception>
    public static (IReadOnlyList<object?> Values, long Id) Read(string cursor, IReadOnlyList<SortBy> sort)
    {
        try
        {
            using var json = JsonDocument.Parse(Convert.FromBase64String(cursor));
            var parts = json.RootElement.EnumerateArray().ToArray();
            return parts.Length == sort.Count + 1
                ? (
                    [
                        .. sort.Select(
                            (by, i) => FieldValues.Read(by.Field, parts[i], out var value) is null ? value : throw new CursorException()
                        ),
                    ],
                    parts[^1].GetInt64()
                )
                : throw new CursorException();
        }
        catch (Exception error) when (error is FormatException or JsonException or InvalidOperationException)
        {
            throw new CursorException();
        }
    }
}
