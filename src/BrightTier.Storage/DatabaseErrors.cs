using System.Data.Common;

namespace BrightTier.Storage;

/// <summary>What errors of a database mean.</summary>
public static class DatabaseErrors
{
    /// <summary>Whether an error says that a database does not answer, or not properly.</summary>
    public static bool IsOutOfReach(Exception error) => error is DbException or InvalidOperationException { InnerException: DbException };
}
