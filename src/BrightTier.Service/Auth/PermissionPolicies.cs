using System.Collections.Immutable;
using BrightTier.Core.Model;
using Microsoft.AspNetCore.Authorization;

namespace BrightTier.Service.Auth;

/// <summary>
/// What an endpoint asks of whoever calls it: a policy in its metadata, which holds however its path is spelt. Beyond it handlers ask for
/// rights to
/// the one document or field that a call is about.
/// </summary>
/// <param name="AnyOf">Permissions of which the caller has at least one; empty where being signed in is enough.</param>
public sealed record PermissionRequirement(ImmutableArray<string> AnyOf) : IAuthorizationRequirement;

/// <summary>How endpoints say what they ask for.</summary>
public static class PermissionPolicies
{
    /// <summary>The caller has one of these permissions; without any named, they are signed in.</summary>
    public static TBuilder Needs<TBuilder>(this TBuilder endpoint, params string[] anyOf)
        where TBuilder : IEndpointConventionBuilder => endpoint.RequireAuthorization(Policy(anyOf));

    /// <summary>The caller may look at drafts: to change, review or publish them.</summary>
    public static TBuilder NeedsReader<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.Needs(Permissions.Configure, Permissions.Review, Permissions.Publish);

    /// <summary>An endpoint of this group that says nothing is closed: it takes somebody who may administer.</summary>
    public static RouteGroupBuilder ClosedUnlessSaid(this RouteGroupBuilder group)
    {
        ((IEndpointConventionBuilder)group).Finally(endpoint =>
        {
            if (!endpoint.Metadata.Any(StatesAccess))
            {
                endpoint.Metadata.Add(Policy([Permissions.Administer]));
            }
        });
        return group;
    }

    /// <summary>Whether a piece of metadata says who may call an endpoint.</summary>
    public static bool StatesAccess(object metadata) => metadata is IAuthorizeData or AuthorizationPolicy or IAllowAnonymous;

    private static AuthorizationPolicy Policy(string[] anyOf) => new([new PermissionRequirement([.. anyOf])], []);
}

/// <summary>Marks the endpoint at which one signs in: tries are counted by address.</summary>
public sealed record SignInTry;
