using System.Globalization;
using System.Text.Json;

namespace BrightTier.Records;

/// <summary>What tells a row apart: the texts of its key's columns, in their order; an empty one only where there is no key.</summary>
public sealed record RowKey(IReadOnlyList<string?> Parts, string Text)
{
    public static RowKey Of(IReadOnlyList<string?> parts) => new(parts, Written(parts));

    public static RowKey Of(long number) => Of([number.ToString(CultureInfo.InvariantCulture)]);

    /// <summary>The key of one whole number; null where it is another.</summary>
    public long? Number =>
        Parts is [{ } only] && long.TryParse(only, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number)
            ? number
            : null;

    public static RowKey Read(string text)
    {
        using var json = JsonDocument.Parse(text);
        return new RowKey([.. json.RootElement.EnumerateArray().Select(part => part.GetString())], text);
    }

    private static string Written(IReadOnlyList<string?> parts)
    {
        var bytes = new System.Buffers.ArrayBufferWriter<byte>();
        using (var writer = new Utf8JsonWriter(bytes))
        {
            writer.WriteStartArray();
            foreach (var part in parts)
            {
                writer.WriteStringValue(part);
            }

            writer.WriteEndArray();
        }

        return System.Text.Encoding.UTF8.GetString(bytes.WrittenSpan);
    }
}
