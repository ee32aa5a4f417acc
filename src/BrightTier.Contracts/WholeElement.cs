using System.Runtime.InteropServices;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Contracts;

/// <summary>An element written as the text it was made of, not token by token: for what is long and was written by ourselves.</summary>
internal sealed class WholeElement : JsonConverter<JsonElement>
{
    public override JsonElement Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        JsonElement.ParseValue(ref reader);

    public override void Write(Utf8JsonWriter writer, JsonElement value, JsonSerializerOptions options) =>
        writer.WriteRawValue(JsonMarshal.GetRawUtf8Value(value), skipInputValidation: true);
}
