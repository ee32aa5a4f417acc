using System.Collections.Immutable;

namespace BrightTier.Core.Model;

/// <summary>
/// Which users get which layout of an entity: the first rule that fits decides. No roles means every role, no condition every record.
/// </summary>
/// <param name="When">A condition on the record, the viewer and the mode.</param>
public sealed record RoutingRule(string Entity, string Kind, string Layout, ImmutableArray<string> Roles, string? When)
{
    public bool FitsRoles(IReadOnlyCollection<string> roles) => Roles.IsEmpty || Roles.Any(roles.Contains);
}

/// <summary>All routing rules of the application, in their order.</summary>
public sealed record RoutingRules(ImmutableArray<RoutingRule> Rules)
{
    public static RoutingRules None { get; } = new([]);
}
