using System.Reflection;

namespace BrightTier.Cli.Output;

/// <summary>The version of this program, as <c>--version</c> says it (SemVer 2.0.0).</summary>
public static class ProgramVersion
{
    public static string Written { get; } =
        typeof(ProgramVersion).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion ?? "0.0.0";
}
