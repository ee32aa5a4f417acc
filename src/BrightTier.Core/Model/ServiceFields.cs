namespace BrightTier.Core.Model;

/// <summary>What the service fills on every record, beside the entity's own fields; nobody writes these.</summary>
public static class ServiceFields
{
    public const string Id = "id";
    public const string Version = "version";
    public const string CreatedAt = "createdAt";
    public const string CreatedBy = "createdBy";
    public const string ChangedAt = "changedAt";
    public const string ChangedBy = "changedBy";

    public static IReadOnlyList<string> All { get; } = [Id, Version, CreatedAt, CreatedBy, ChangedAt, ChangedBy];

    public static bool Contains(string key) => All.Contains(key, StringComparer.OrdinalIgnoreCase);
}
