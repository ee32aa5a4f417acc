namespace BrightTier.Cli.Invocation;

/// <summary>Something about the call itself was wrong.</summary>
public sealed class UsageException(string message) : Exception(message);

/// <summary>The user said no.</summary>
public sealed class CancelledException() : Exception("Nothing was changed.");
