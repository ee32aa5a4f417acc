using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Pictures;

/// <summary>
/// A layout drawn small, as SVG 1.1: where what stands, how wide and how high, under its own names; of tabs and steps the first. It is what
/// one chooses a layout by, not what one reads. Light or dark is as the reader has it.
/// </summary>
public static class LayoutPicture
{
    /// <summary>Width of a picture, in its own units: a rem of the form is ten.</summary>
    public const int Width = 10 * Rooms.Form;

    /// <summary>A short form has room below, so that pictures beside each other are of one measure.</summary>
    public const int Lowest = Width * 3 / 4;

    /// <summary>What of a long form is left out below.</summary>
    public const int Highest = 640;

    /// <summary>The picture of a layout in a language.</summary>
    public static string Of(Layout layout, Entity? entity, string language)
    {
        var svg = new SvgText(Width, SvgText.IsFromTheRight(language));
        var height = LayoutFigure.Small(svg, layout, entity, language);
        return svg.Close(Math.Clamp(height, Lowest, Highest));
    }
}
