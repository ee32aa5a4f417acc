using System.Globalization;
using System.Text;
using System.Xml;

namespace BrightTier.Core.Pictures;

/// <summary>The few things pictures are drawn of. What is called left is right where one reads from the right.</summary>
/// <param name="width">In user units.</param>
internal sealed class SvgText(int width, bool fromTheRight)
{
    /// <summary>Width of a letter as a part of the size of its text.</summary>
    private const double Letter = 0.53;

    private static readonly Dictionary<string, int> Sizes = new()
    {
        ["band"] = 20,
        ["title"] = 15,
        ["open"] = 14,
        ["tab"] = 14,
        ["label"] = 13,
    };

    private const string Style =
        "text{font-family:'Source Sans 3 Variable',sans-serif;fill:#3b3a36}.band,.title,.open{font-weight:600;fill:#1d1c19}"
        + ".tab,.label{fill:#5f5c54}.box{fill:#fff;stroke:#b9b3a5}.rule{fill:#ddd7c9}.line{fill:#cfc8b8}.mark{fill:#c97a00}"
        + ".sheet{fill:#fffefb}"
        + "@media (prefers-color-scheme:dark){text{fill:#d8d5cc}.band,.title,.open{fill:#f2efe6}.tab,.label{fill:#aaa79e}"
        + ".box{fill:#23262c;stroke:#565b64}.rule{fill:#3a3e46}.line{fill:#4a4f58}.mark{fill:#f0a840}.sheet{fill:#1d2026}}";

    private readonly StringBuilder text = new();

    public void Write(string style, double x, double y, double room, string words)
    {
        var size = Sizes[style];
        var letters = (int)Math.Max(0, room / (size * Letter));
        var shown =
            words.Length <= letters ? words
            : letters < 2 ? ""
            : words[..(letters - 1)].TrimEnd() + "…";
        if (shown.Length > 0)
        {
            var anchor = fromTheRight ? " text-anchor=\"start\" direction=\"rtl\"" : "";
            Append($"<text class=\"{style}\" x=\"{Across(x, 0)}\" y=\"{Number(y)}\" font-size=\"{size}\"{anchor}>{Escaped(shown)}</text>");
        }
    }

    public void Box(double x, double y, double wide, double high) =>
        Append(
            $"<rect class=\"box\" x=\"{Across(x, wide)}\" y=\"{Number(y)}\" width=\"{Number(wide)}\" height=\"{Number(high)}\" rx=\"4\"/>"
        );

    public void Rule(double x, double y, double wide) => Bar("rule", x, y, wide, 1);

    public void Mark(double x, double y, double wide) => Bar("mark", x, y, wide, 3);

    /// <summary>A value that is not told.</summary>
    public void Line(double x, double y, double wide) => Bar("line", x, y, wide, 6);

    /// <summary>The whole picture, so high.</summary>
    public string Close(double height) =>
        $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width} {Number(height)}\" width=\"{width}\" height=\"{Number(height)}\">"
        + $"<style>{Style}</style><rect class=\"sheet\" width=\"{width}\" height=\"{Number(height)}\"/>{text}</svg>";

    private void Bar(string style, double x, double y, double wide, int high) =>
        Append($"<rect class=\"{style}\" x=\"{Across(x, wide)}\" y=\"{Number(y)}\" width=\"{Number(wide)}\" height=\"{high}\"/>");

    private string Across(double x, double wide) => Number(fromTheRight ? width - x - wide : x);

    private void Append(string element) => text.Append(element);

    private static string Number(double number) => Math.Round(number, 1).ToString(CultureInfo.InvariantCulture);

    /// <summary>A text as XML 1.0 holds it; characters it cannot hold are left out.</summary>
    private static string Escaped(string words)
    {
        var escaped = new StringBuilder(words.Length);
        for (var i = 0; i < words.Length; i++)
        {
            var pair = i + 1 < words.Length && XmlConvert.IsXmlSurrogatePair(words[i + 1], words[i]);
            _ = words[i] switch
            {
                '&' => escaped.Append("&amp;"),
                '<' => escaped.Append("&lt;"),
                '>' => escaped.Append("&gt;"),
                '\n' or '\t' or '\r' => escaped.Append(' '),
                var letter when pair => escaped.Append(letter).Append(words[++i]),
                var letter when XmlConvert.IsXmlChar(letter) => escaped.Append(letter),
                _ => escaped,
            };
        }

        return escaped.ToString();
    }
}
