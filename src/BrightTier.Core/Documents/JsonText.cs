using System.Buffers;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace BrightTier.Core.Documents;

/// <summary><see cref="FileNode"/> as JSON text.</summary>
public static class JsonText
{
    public static JsonWriterOptions Options { get; } = new() { Indented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static string Write(FileNode node) => Text(node, Options) + "\n";

    /// <summary>On one line, without an end of line: for JSON texts that stand one behind another.</summary>
    public static string WriteLine(FileNode node) => Text(node, Options with { Indented = false });

    private static string Text(FileNode node, JsonWriterOptions options)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var writer = new Utf8JsonWriter(buffer, options))
        {
            Write(writer, node);
        }

        return Encoding.UTF8.GetString(buffer.WrittenSpan);
    }

    public static void Write(Utf8JsonWriter writer, FileNode node)
    {
        switch (node)
        {
            case FileNode.Scalar { Quoted: true } text:
                writer.WriteStringValue(text.Content);
                break;
            case FileNode.Scalar bare:
                writer.WriteRawValue(bare.Content);
                break;
            case FileNode.List list:
                writer.WriteStartArray();
                foreach (var element in list.Elements)
                {
                    Write(writer, element);
                }

                writer.WriteEndArray();
                break;
            case FileNode.Map map:
                writer.WriteStartObject();
                foreach (var entry in map.Entries)
                {
                    writer.WritePropertyName(entry.Key);
                    Write(writer, entry.Value);
                }

                writer.WriteEndObject();
                break;
        }
    }
}
