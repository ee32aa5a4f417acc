using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Attachment;

/// <summary>How an attached table is another one than its entity says.</summary>
public enum DifferenceKind
{
    TableGone,
    ColumnNew,
    ColumnGone,
    TypeChanged,
    RuleChanged,
}

/// <summary>One difference between an entity and the table it is over.</summary>
/// <param name="Column">The column it is about; null where it is about the table.</param>
/// <param name="Field">The field it is about, where there is one.</param>
/// <param name="Mended">Whether bringing the entity in line does away with it.</param>
public sealed record AttachedDifference(DifferenceKind Kind, string? Column, string? Field, Message Message, bool Mended);

/// <summary>What has become of the tables entities are over, and the entities brought in line with them.</summary>
public static class AttachedDifferences
{
    /// <param name="fresh">What would be made of the table now, with the entity's own key; null where the table is gone.</param>
    /// <returns>The differences, and the entity as it would be: what is new as fields, what is gone retired.</returns>
    public static (IReadOnlyList<AttachedDifference> Differences, Entity Entity) Of(Entity entity, Entity? fresh)
    {
        if (fresh is null)
        {
            return (
                [
                    new AttachedDifference(
                        DifferenceKind.TableGone,
                        null,
                        null,
                        $"The table '{AttachedEntities.PathOf(entity.Attached!)}' is not there any more, or the connection may not "
                            + $"read it.",
                        false
                    ),
                ],
                entity
            );
        }

        var found = new List<AttachedDifference>();
        var fields = ImmutableArray.CreateBuilder<Field>();
        var now = fresh.Fields.ToDictionary(Columns, StringComparer.Ordinal);
        foreach (var field in entity.Fields)
        {
            fields.Add(Compared(field, now.GetValueOrDefault(Columns(field)), found));
        }

        var before = entity.Fields.Select(Columns).ToHashSet(StringComparer.Ordinal);
        foreach (var added in fresh.Fields.Where(field => !before.Contains(Columns(field))))
        {
            var key = Keys.Fresh(added.Key, taken =>
                fields.Any(field => string.Equals(field.Key, taken, StringComparison.OrdinalIgnoreCase))
            );
            found.Add(
                new AttachedDifference(
                    DifferenceKind.ColumnNew,
                    Columns(added),
                    key,
                    $"The column '{Columns(added)}' is new; it becomes the field '{added.Label}', on no form yet.",
                    true
                )
            );
            fields.Add(added with { Key = key });
        }

        return (found, entity with { Fields = fields.ToImmutable(), Attached = fresh.Attached });
    }

    private static Field Compared(Field field, Field? now, List<AttachedDifference> found)
    {
        var (column, label) = (Columns(field), field.Label);
        if (now is null)
        {
            if (!field.Retired)
            {
                found.Add(
                    new AttachedDifference(
                        DifferenceKind.ColumnGone,
                        column,
                        field.Key,
                        $"The column '{column}' of '{label}' is gone; the field is retired.",
                        true
                    )
                );
            }

            return field with
            {
                Retired = true,
            };
        }

        if (now.Type != field.Type && !IsKin(field.Type, now.Type))
        {
            found.Add(
                new AttachedDifference(
                    DifferenceKind.TypeChanged,
                    column,
                    field.Key,
                    $"'{label}' is {field.Type.Name()}, and its column '{column}' holds {now.Type.Name()} now ({now.Attached!.Type}). "
                        + $"Change the field's type, and look at the forms that show it.",
                    false
                )
            );
        }
        else if (!field.Attached!.Equals(now.Attached!) || field.Required != now.Required || field.MaxLength > now.MaxLength)
        {
            found.Add(
                new AttachedDifference(
                    DifferenceKind.RuleChanged,
                    column,
                    field.Key,
                    $"The rules of '{label}' are other ones in the database now ({now.Attached!.Type}); the field takes them on.",
                    true
                )
            );
        }

        return field with
        {
            Attached = now.Attached,
            Required = now.Required,
            MaxLength = field.MaxLength > now.MaxLength ? now.MaxLength : field.MaxLength,
            Retired = false,
        };
    }

    /// <summary>Types a configurator may have chosen one for the other: all kept as texts, or as whole numbers.</summary>
    private static bool IsKin(FieldType one, FieldType other) => Family(one) == Family(other);

    private static int Family(FieldType type) =>
        type switch
        {
            FieldType.Text or FieldType.LongText or FieldType.Email or FieldType.Phone or FieldType.Url => 1,
            FieldType.Integer or FieldType.Rating => 2,
            FieldType.Decimal or FieldType.Money => 3,
            _ => 10 + (int)type,
        };

    private static string Columns(Field field) => string.Join(", ", field.Attached!.Columns.Select(each => each.Column));
}
