using System.Globalization;

namespace BrightTier.Service.Layouts;

/// <summary>
/// Titles in the order people count in, whatever their case: "Trial 9" before "Trial 10". A culture's own numeric order is not there on a
/// machine without its data.
/// </summary>
internal sealed class TitleOrder(CultureInfo culture) : IComparer<string>
{
    public int Compare(string? x, string? y)
    {
        var one = x.AsSpan();
        var other = y.AsSpan();
        while (!one.IsEmpty && !other.IsEmpty)
        {
            var numbers = char.IsAsciiDigit(one[0]) && char.IsAsciiDigit(other[0]);
            var mine = Take(ref one, numbers);
            var theirs = Take(ref other, numbers);
            var order = numbers
                ? OfNumbers(mine.TrimStart('0'), theirs.TrimStart('0'))
                : culture.CompareInfo.Compare(mine, theirs, CompareOptions.IgnoreCase);
            if (order != 0)
            {
                return order;
            }
        }

        return one.Length.CompareTo(other.Length);
    }

    private static int OfNumbers(ReadOnlySpan<char> one, ReadOnlySpan<char> other) =>
        one.Length != other.Length ? one.Length.CompareTo(other.Length) : one.SequenceCompareTo(other);

    /// <summary>Takes what comes first: digits, or all that is before the next of them.</summary>
    private static ReadOnlySpan<char> Take(ref ReadOnlySpan<char> text, bool digits)
    {
        var length = digits ? text.IndexOfAnyExceptInRange('0', '9') : text[1..].IndexOfAnyInRange('0', '9') + 1;
        length = length <= 0 ? text.Length : length;
        var head = text[..length];
        text = text[length..];
        return head;
    }
}
