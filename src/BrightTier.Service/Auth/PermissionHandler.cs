using BrightTier.Service.Http;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Authorization.Policy;

namespace BrightTier.Service.Auth;

/// <summary>Whether the caller has what a policy asks for.</summary>
public sealed class PermissionHandler : AuthorizationHandler<PermissionRequirement>
{
    protected override Task HandleRequirementAsync(AuthorizationHandlerContext context, PermissionRequirement requirement)
    {
        if (
            context.Resource is HttpContext http
            && http.CallerOrNull() is { } caller
            && (requirement.AnyOf.IsEmpty || http.PermissionsOf(caller) is var may && requirement.AnyOf.Any(may.Contains))
        )
        {
            context.Succeed(requirement);
        }

        return Task.CompletedTask;
    }
}

/// <summary>Refuses, before a body is read, whoever may not call what was matched.</summary>
public sealed class PermissionRefusal : IAuthorizationMiddlewareResultHandler
{
    /// <exception cref="RefusedException">401 or 403.</exception>
    public Task HandleAsync(
        RequestDelegate next,
        HttpContext context,
        AuthorizationPolicy policy,
        PolicyAuthorizationResult authorizeResult
    ) =>
        authorizeResult.Succeeded
            ? next(context)
            : throw Callers.Refuse(context.Caller(), policy.Requirements.OfType<PermissionRequirement>().First().AnyOf[0]);
}
