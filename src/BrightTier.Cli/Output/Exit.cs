namespace BrightTier.Cli.Output;

/// <summary>Exit codes: done, findings or refused, wrong usage, not reachable.</summary>
public static class Exit
{
    public const int Done = 0;
    public const int Refused = 1;
    public const int Usage = 2;
    public const int Unreachable = 3;
}
