using System.Globalization;
using System.Text;
using BrightTier.Core.Model;

namespace BrightTier.Core.Pictures;

/// <summary>The few things pictures are drawn of. What is called left is right where one reads from the right.</summary>
/// <param name="width">In user units.</param>
internal sealed class SvgText(int width, bool fromTheRight)
{
    /// <summary>Width of a letter as a part of the size of its text.</summary>
    private const double Letter = 0.53;

    public const double SignSize = 17;

    public static bool IsFromTheRight(string language) => language.Split('-')[0] is "ar" or "fa" or "he" or "ur";

    /// <summary>How many letters of a size have room.</summary>
    public static int Letters(double room, int size) => (int)Math.Max(0, room / (size * Letter));

    private static readonly Dictionary<string, int> Sizes = new()
    {
        ["band"] = 20,
        ["title"] = 15,
        ["open"] = 14,
        ["tab"] = 14,
        ["label"] = 13,
        ["said"] = 13,
    };

    private const string Style =
        "text{font-family:'Source Sans 3 Variable',sans-serif;fill:#3b3a36}.band,.title,.open{font-weight:600;fill:#1d1c19}"
        + ".tab,.label{fill:#5f5c54}.box{fill:#fff;stroke:#b9b3a5}.rule{fill:#ddd7c9}.line{fill:#cfc8b8}.mark{fill:#c97a00}"
        + ".sheet{fill:#fffefb}.faint{opacity:.45}.added,.removed,.changed,.moved{fill-opacity:.1;stroke-width:2}"
        + ".added{fill:#27693b;stroke:#27693b}.removed{fill:#a8271b;stroke:#a8271b}"
        + ".changed{fill:#c97a00;stroke:#c97a00;stroke-dasharray:2 4;stroke-linecap:round}"
        + ".moved{fill:#1c5f7d;stroke:#1c5f7d;stroke-dasharray:8 5}.solid{fill-opacity:1!important;stroke:none!important}"
        + ".sign{fill:#fff;font-weight:700}"
        + "@media (prefers-color-scheme:dark){text{fill:#d8d5cc}.band,.title,.open{fill:#f2efe6}.tab,.label{fill:#aaa79e}"
        + ".box{fill:#23262c;stroke:#565b64}.rule{fill:#3a3e46}.line{fill:#4a4f58}.mark{fill:#f0a840}.sheet{fill:#1d2026}"
        + ".added{fill:#8fd0a1;stroke:#8fd0a1}.removed{fill:#f3978c;stroke:#f3978c}.changed{fill:#f0a840;stroke:#f0a840}"
        + ".moved{fill:#84c3df;stroke:#84c3df}.sign{fill:#1d2026}}";

    private readonly StringBuilder text = new();

    public void Write(string style, double x, double y, double room, string words)
    {
        var size = Sizes[style];
        var letters = Letters(room, size);
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

    public void Box(double x, double y, double wide, double high) => Rectangle("box", x, y, wide, high, 4);

    public void Rule(double x, double y, double wide) => Bar("rule", x, y, wide, 1);

    public void Mark(double x, double y, double wide) => Bar("mark", x, y, wide, 3);

    /// <summary>A value that is not told.</summary>
    public void Line(double x, double y, double wide) => Bar("line", x, y, wide, 6);

    /// <summary>A frame that tells what became of what is in it, with its sign: by line and sign as much as by colour.</summary>
    public void Around(ItemChange change, double x, double y, double wide, double high)
    {
        Rectangle(ClassOf(change), x, y, wide, high, 6);
        Sign(change, x + wide - SignSize, y);
    }

    /// <summary>The sign alone.</summary>
    public void Sign(ItemChange change, double x, double y)
    {
        Rectangle($"{ClassOf(change)} solid", x, y, SignSize, SignSize, 4);
        var sign = change switch
        {
            ItemChange.Added => "+",
            ItemChange.Removed => "−",
            ItemChange.Moved => "↕",
            _ => "≠",
        };
        Append(
            $"<text class=\"sign\" x=\"{Number(fromTheRight ? width - x - (SignSize / 2) : x + (SignSize / 2))}\" "
                + $"y=\"{Number(y + 12.5)}\" font-size=\"13\" text-anchor=\"middle\">{sign}</text>"
        );
    }

    public void BeginFaint() => Append("<g class=\"faint\">");

    public void EndFaint() => Append("</g>");

    /// <summary>The whole picture, so high.</summary>
    public string Close(double height) =>
        $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width} {Number(height)}\" width=\"{width}\" height=\"{Number(height)}\">"
        + $"<style>{Style}</style><rect class=\"sheet\" width=\"{width}\" height=\"{Number(height)}\"/>{text}</svg>";

    /// <summary>Another picture as a part of this one.</summary>
    public void Place(SvgText part, double x, double y)
    {
        Append($"<g transform=\"translate({Number(x)} {Number(y)})\">");
        text.Append(part.text);
        Append("</g>");
    }

    private void Bar(string style, double x, double y, double wide, int high) =>
        Append($"<rect class=\"{style}\" x=\"{Across(x, wide)}\" y=\"{Number(y)}\" width=\"{Number(wide)}\" height=\"{high}\"/>");

    private void Rectangle(string style, double x, double y, double wide, double high, int corner) =>
        Append(
            $"<rect class=\"{style}\" x=\"{Across(x, wide)}\" y=\"{Number(y)}\" width=\"{Number(wide)}\" height=\"{Number(high)}\" "
                + $"rx=\"{corner}\"/>"
        );

    private static string ClassOf(ItemChange change) =>
        change switch
        {
            ItemChange.Added => "added",
            ItemChange.Removed => "removed",
            ItemChange.Moved => "moved",
            _ => "changed",
        };

    private string Across(double x, double wide) => Number(fromTheRight ? width - x - wide : x);

    private void Append(string element) => text.Append(element);

    private static string Number(double number) => Math.Round(number, 1).ToString(CultureInfo.InvariantCulture);

    /// <summary>Words as the text of an element, on one line.</summary>
    private static string Escaped(string words) =>
        XmlCharacters
            .Sound(words)
            .Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal)
            .ReplaceLineEndings(" ")
            .Replace('\t', ' ');
}
