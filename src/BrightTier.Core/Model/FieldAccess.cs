using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// What somebody may read, through every step: a field of an entity, and a field of the record that a reference leads to.
/// </summary>
public static class FieldAccess
{
    /// <summary>Whether roles may read what a condition reads: a field, or <c>berth.zone</c>, which takes the right to both.</summary>
    public static bool MayRead(this Entity entity, string read, Definitions definitions, IReadOnlyCollection<string> roles)
    {
        var dot = read.IndexOf('.', StringComparison.Ordinal);
        return entity.Find(dot < 0 ? read : read[..dot])?.MayRead(roles) == true
            && (dot < 0 || definitions.FieldRead(entity, read)?.MayRead(roles) == true);
    }

    /// <summary>
    /// The definitions as somebody may know them: fields she may not read are not there, so that no message and no suggestion names them.
    /// </summary>
    public static Definitions ReadableBy(this Definitions definitions, IReadOnlyCollection<string> roles)
    {
        var narrowed = definitions
            .Entities.Values.Where(entity => entity.Fields.Any(field => !field.MayRead(roles)))
            .Select(entity =>
                KeyValuePair.Create(entity.Key, entity with { Fields = [.. entity.Fields.Where(field => field.MayRead(roles))] })
            )
            .ToImmutableArray();
        return narrowed.IsEmpty ? definitions : definitions with { Entities = definitions.Entities.SetItems(narrowed) };
    }

    /// <summary>Values of a record that roles may read; the others are not there.</summary>
    public static IReadOnlyDictionary<string, object?> ReadableBy(
        this Entity entity,
        IReadOnlyDictionary<string, object?> values,
        IReadOnlyCollection<string> roles
    ) =>
        entity.Fields.All(field => field.MayRead(roles))
            ? values
            : values.Where(pair => entity.Find(pair.Key)?.MayRead(roles) == true).ToDictionary(StringComparer.Ordinal);
}
