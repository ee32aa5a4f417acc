using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;

namespace BrightTier.Service.Publication;

/// <summary>How endpoints ask for somebody who publishes.</summary>
internal static class Publishers
{
    /// <summary>The caller, if what goes with a release is fit and theirs to say.</summary>
    /// <exception cref="RefusedException">400: the note is too long; 403: errors may not be overridden.</exception>
    public static Caller Publisher(this HttpContext http, string note, string? overrideReason)
    {
        var caller = http.Caller();
        if (note.Length > 2_000)
        {
            throw Problems.Invalid($"A note has at most 2000 characters.", Problems.Part("/note", $"is too long"));
        }

        return overrideReason is null ? caller : http.Caller(Permissions.Override);
    }
}
