namespace BrightTier.Core.Model;

/// <summary>What is read of a record: a field of its own, or <c>berth.zone</c>, a field of the record that a reference leads to.</summary>
public static class FieldReads
{
    /// <summary>The field that is read in the end; null where it, or what it would be reached through, is not there.</summary>
    public static Field? FieldRead(this Definitions definitions, Entity entity, string read)
    {
        var dot = read.IndexOf('.', StringComparison.Ordinal);
        return dot < 0 ? entity.Find(read) : definitions.FieldRead(entity, read[..dot], read[(dot + 1)..]);
    }

    /// <summary>A field of the record that a reference leads to.</summary>
    public static Field? FieldRead(this Definitions definitions, Entity entity, string reference, string field) =>
        entity.Find(reference)?.Target is { } target ? definitions.Entities.GetValueOrDefault(target)?.Find(field) : null;
}
