namespace BrightTier.Contracts;

/// <summary>Headers of this service's own.</summary>
public static class WireHeaders
{
    /// <summary>
    /// How far the database had come when a call had changed something; who sends it along is answered from no copy that has not come so
    /// far.
    /// </summary>
    public const string Position = "Bright-Position";
}
