using System.Globalization;

namespace BrightTier.Core.Model;

/// <summary>How far two colours stand out from each other (WCAG 2.2, definitions of contrast ratio and relative luminance).</summary>
public static class Contrast
{
    /// <summary>From 1 to 21; both are written #rrggbb.</summary>
    public static double Of(string one, string other)
    {
        var (a, b) = (Luminance(one), Luminance(other));
        return (Math.Max(a, b) + 0.05) / (Math.Min(a, b) + 0.05);
    }

    private static double Luminance(string colour)
    {
        return (0.2126 * Part(1)) + (0.7152 * Part(3)) + (0.0722 * Part(5));

        double Part(int at)
        {
            var value = int.Parse(colour.AsSpan(at, 2), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture) / 255.0;
            return value <= 0.04045 ? value / 12.92 : Math.Pow((value + 0.055) / 1.055, 2.4);
        }
    }
}
