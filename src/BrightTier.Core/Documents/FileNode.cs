using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>Where something stands: line and column from 1 in a file (0 when it came as a body), and its JSON pointer (RFC 6901).</summary>
public readonly record struct Place(int Line, int Column, string Pointer)
{
    public Place Under(string step) =>
        this with
        {
            Pointer = $"{Pointer}/{step.Replace("~", "~0", StringComparison.Ordinal).Replace("/", "~1", StringComparison.Ordinal)}",
        };

    /// <summary>In words, for messages.</summary>
    public Message Words =>
        Line > 0 ? $"line {Line}, column {Column}"
        : string.IsNullOrEmpty(Pointer) ? (Message)$"the document"
        : Message.Verbatim(Pointer);

    public override string ToString() => Words.English;
}

/// <summary>What is wrong with a document, and where.</summary>
public sealed record FileProblem(Place At, Message Message);

/// <summary>A document's text as a tree, however it was written (YAML or JSON): what all readers read and all writers make.</summary>
public abstract record FileNode(Place At)
{
    /// <summary>A scalar; <paramref name="Quoted"/> tells that it is a text even if it looks like a number or a truth value.</summary>
    public sealed record Scalar(string Content, bool Quoted, Place At) : FileNode(At);

    /// <summary>A map; <paramref name="Flow"/> asks the writer to put it on one line.</summary>
    public sealed record Map(ImmutableArray<Entry> Entries, Place At, bool Flow = false) : FileNode(At)
    {
        public FileNode? this[string key] => Entries.FirstOrDefault(entry => entry.Key == key)?.Value;

        /// <summary>Where the value of a key stands; where there is none, and something else was put in its place, the map.</summary>
        public Place PlaceOf(string key) => (this[key] ?? this).At;
    }

    /// <summary>A list; <paramref name="Flow"/> asks the writer to put it on one line.</summary>
    public sealed record List(ImmutableArray<FileNode> Elements, Place At, bool Flow = false) : FileNode(At);

    public sealed record Entry(string Key, Place KeyAt, FileNode Value);

    /// <summary>What this is, for messages.</summary>
    public Message Kind =>
        this switch
        {
            Map => (Message)$"a map",
            List => $"a list",
            Scalar { Quoted: false, Content: "" or "null" or "~" } => $"nothing",
            Scalar scalar => $"'{Suggestion.Short(scalar.Content)}'",
            _ => $"something else",
        };

    public bool IsNull => this is Scalar { Quoted: false, Content: "" or "null" or "~" };

    /// <summary>The JSON pointer of the first place at which two trees differ in what they say; null where they say the same.</summary>
    public static string? Difference(FileNode? one, FileNode? other, string at = "")
    {
        switch (one, other)
        {
            case (Scalar a, Scalar b):
                return a.Quoted == b.Quoted && a.Content == b.Content ? null : at;
            case (List a, List b):
                return Enumerable
                    .Range(0, Math.Max(a.Elements.Length, b.Elements.Length))
                    .Select(i =>
                        Difference(
                            a.Elements.ElementAtOrDefault(i),
                            b.Elements.ElementAtOrDefault(i),
                            new Place(0, 0, at).Under(i.ToString(CultureInfo.InvariantCulture)).Pointer
                        )
                    )
                    .FirstOrDefault(place => place is not null);
            case (Map a, Map b):
                return Enumerable
                    .Range(0, Math.Max(a.Entries.Length, b.Entries.Length))
                    .Select(i => (One: a.Entries.ElementAtOrDefault(i), Other: b.Entries.ElementAtOrDefault(i)))
                    .Select(pair =>
                        pair.One?.Key == pair.Other?.Key
                            ? Difference(pair.One!.Value, pair.Other!.Value, new Place(0, 0, at).Under(pair.One.Key).Pointer)
                            : new Place(0, 0, at).Under((pair.One ?? pair.Other)!.Key).Pointer
                    )
                    .FirstOrDefault(place => place is not null);
            default:
                return one is null && other is null ? null : at;
        }
    }

    /// <exception cref="JsonException">A text or a name holds half of a surrogate pair.</exception>
    public static FileNode FromJson(JsonElement json, Place at = default) => JsonStrings.Reading(() => Parsed(json, at));

    private static FileNode Parsed(JsonElement json, Place at) =>
        json.ValueKind switch
        {
            JsonValueKind.Object => new Map(
                [
                    .. json.EnumerateObject()
                        .Select(property => new Entry(
                            property.Name,
                            at.Under(property.Name),
                            Parsed(property.Value, at.Under(property.Name))
                        )),
                ],
                at with
                {
                    Pointer = at.Pointer ?? "",
                }
            ),
            JsonValueKind.Array => new List(
                [
                    .. json.EnumerateArray()
                        .Select((element, index) => Parsed(element, at.Under(index.ToString(CultureInfo.InvariantCulture)))),
                ],
                at with
                {
                    Pointer = at.Pointer ?? "",
                }
            ),
            JsonValueKind.String => new Scalar(json.GetString()!, true, at with { Pointer = at.Pointer ?? "" }),
            JsonValueKind.Undefined => new Scalar("null", false, at with { Pointer = at.Pointer ?? "" }),
            _ => new Scalar(json.GetRawText(), false, at with { Pointer = at.Pointer ?? "" }),
        };

    /// <summary>Writes it as JSON; an unquoted scalar that is no number, truth value or null in JSON becomes a text.</summary>
    public void WriteTo(Utf8JsonWriter writer)
    {
        switch (this)
        {
            case Map map:
                writer.WriteStartObject();
                foreach (var entry in map.Entries)
                {
                    writer.WritePropertyName(entry.Key);
                    entry.Value.WriteTo(writer);
                }

                writer.WriteEndObject();
                break;
            case List list:
                writer.WriteStartArray();
                foreach (var element in list.Elements)
                {
                    element.WriteTo(writer);
                }

                writer.WriteEndArray();
                break;
            case Scalar { Quoted: false, Content: "true" or "false" } flag:
                writer.WriteBooleanValue(flag.Content == "true");
                break;
            case Scalar { Quoted: false } number
                when decimal.TryParse(number.Content, NumberStyles.Float, CultureInfo.InvariantCulture, out var amount):
                writer.WriteNumberValue(amount);
                break;
            case Scalar when IsNull:
                writer.WriteNullValue();
                break;
            case Scalar text:
                writer.WriteStringValue(text.Content);
                break;
        }
    }

    public static Scalar Word(string content) => new(content, true, default);

    public static Scalar Bare(string content) => new(content, false, default);

    public static Map Of(params IEnumerable<(string Key, FileNode? Value)> entries) =>
        new([.. entries.Where(entry => entry.Value is not null).Select(entry => new Entry(entry.Key, default, entry.Value!))], default);
}
