namespace BrightTier.Core.Model;

/// <summary>
/// What differs between two states of the definitions in who may do what: the acts of roles, the entities they reach, who may read and
/// write fields,
/// whether a second person approves. Such a change is an administrator's, by whatever way it comes.
/// </summary>
public static class RightsChange
{
    /// <summary>Each difference as a sentence; none where nobody may do more or less than before.</summary>
    public static IReadOnlyList<Message> Between(Definitions before, Definitions after)
    {
        var told = new List<Message>();
        var (old, next) = (before.Application, after.Application);
        if (old.Approval != next.Approval)
        {
            told.Add(
                next.Approval
                    ? (Message)$"A second person would have to approve what is published."
                    : $"No second person would have to approve what is published any more."
            );
        }

        var (were, are) = (old.Roles.ToDictionary(role => role.Key), next.Roles.ToDictionary(role => role.Key));
        foreach (var key in were.Keys.Union(are.Keys).Order(StringComparer.Ordinal))
        {
            var (was, now) = (were.GetValueOrDefault(key), are.GetValueOrDefault(key));
            if (!Same(was?.May, now?.May))
            {
                told.Add($"The role '{key}' may {List(was?.May)} and would be allowed {List(now?.May)}.");
            }

            if (!Same(was?.Entities, now?.Entities) && was?.May.IsEmpty is false && now?.May.IsEmpty is false)
            {
                told.Add($"The role '{key}' would configure {Entities(now.Entities)}, where it does {Entities(was.Entities)} now.");
            }
        }

        foreach (var (entity, field) in before.Entities.Values.SelectMany(entity => entity.Fields.Select(field => (entity, field))))
        {
            if (
                after.Entities.GetValueOrDefault(entity.Key)?.Find(field.Key) is { } now
                && (!SameRoles(field.Read, now.Read) || !SameRoles(field.Write, now.Write))
            )
            {
                told.Add(
                    $"'{entity.Key}.{field.Key}' would be read by {Roles(now.Read)} and written by "
                        + $"{Roles(now.Write ?? now.Read)}, where it is read by {Roles(field.Read)} and written by "
                        + $"{Roles(field.Write ?? field.Read)} now."
                );
            }
        }

        return told;
    }

    private static bool Same(IEnumerable<string>? one, IEnumerable<string>? other) =>
        (one ?? []).ToHashSet(StringComparer.Ordinal).SetEquals(other ?? []);

    /// <summary>Nobody at all is another thing than everybody.</summary>
    private static bool SameRoles(IEnumerable<string>? one, IEnumerable<string>? other) => one is null == other is null && Same(one, other);

    private static Message Entities(IReadOnlyCollection<string> entities) =>
        entities.Count == 0 ? $"all entities" : Message.Verbatim(string.Join(", ", entities));

    private static Message List(IReadOnlyCollection<string>? acts) =>
        acts is null or { Count: 0 } ? $"nothing" : Message.Verbatim(string.Join(", ", acts));

    private static Message Roles(IReadOnlyCollection<string>? roles) =>
        roles is null ? $"everybody"
        : roles.Count == 0 ? $"nobody"
        : Message.Verbatim(string.Join(", ", roles));
}
