namespace BrightTier.Storage;

/// <summary>A key with which cookies are protected: every process of an installation has the same.</summary>
public sealed class KeyRow
{
    public required string Name { get; set; }

    public required string Xml { get; set; }
}

/// <summary>A connection to a database that is attached, as an administrator set it.</summary>
public sealed class ConnectionRow
{
    public required string Name { get; set; }

    /// <summary>Protected with the service's keys: nobody reads it but the service.</summary>
    public required string Secret { get; set; }
}

/// <summary>Something somebody did. Each row holds the hash of the one before: none can be altered or taken out unseen.</summary>
public sealed class AuditEntryRow
{
    public required long Number { get; set; }

    public required long At { get; set; }

    public required string By { get; set; }

    public required string Action { get; set; }

    /// <summary>What it was done to, such as layout/vessel or release/7.</summary>
    public required string Subject { get; set; }

    public required string Detail { get; set; }

    /// <summary>SHA-256 of the hash before and of all of this row, in lower-case hexadecimal.</summary>
    public required string Hash { get; set; }
}

/// <summary>A file that records or layouts name, by the hash of its content.</summary>
public sealed class FileRow
{
    public required string Hash { get; set; }

    public required byte[] Body { get; set; }
}
