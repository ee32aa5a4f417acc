namespace BrightTier.Service.Hosting;

/// <summary>Whether everything is in place for calls to be answered.</summary>
public sealed class Readiness
{
    private volatile bool ready;

    public bool IsReady
    {
        get => ready;
        set => ready = value;
    }
}
