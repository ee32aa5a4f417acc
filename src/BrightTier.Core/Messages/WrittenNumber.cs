using System.Globalization;

namespace BrightTier.Core.Messages;

/// <summary>A number as texts have it: its digits, with the decimal mark of the language, as CLDR has it.</summary>
/// <param name="Value">The number.</param>
/// <param name="Format">How it is written, as .NET has it; nothing for all its digits.</param>
internal sealed record WrittenNumber(IFormattable Value, string? Format) : ITranslation
{
    /// <inheritdoc/>
    public string In(string language)
    {
        var written = Value.ToString(Format, CultureInfo.InvariantCulture);
        return language == "nl" ? written.Replace('.', ',') : written;
    }
}
