using System.Text.Json;

namespace BrightTier.Core.Model;

/// <summary>Reading parsed JSON whose texts may not be texts: an escape can stand for half a character (RFC 8259, section 8.2).</summary>
public static class JsonStrings
{
    /// <summary>Runs what reads texts and names out of parsed JSON.</summary>
    /// <exception cref="JsonException">A text or a name holds half of a surrogate pair.</exception>
    public static T Reading<T>(Func<T> read)
    {
        try
        {
            return read();
        }
        catch (InvalidOperationException error) when (error.Message.Contains("UTF-16", StringComparison.Ordinal))
        {
            throw new JsonException("A text holds half a character: escapes from \\uD800 to \\uDFFF come in pairs.", error);
        }
    }
}
