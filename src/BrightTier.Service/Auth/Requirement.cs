using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Service.Hosting;
using Microsoft.AspNetCore.Antiforgery;

namespace BrightTier.Service.Auth;

/// <summary>
/// What an endpoint asks of whoever calls it, in its metadata: that is the one place that says so, and holds however its path is spelt. Beyond
/// it handlers ask for rights to the one document or field that a call is about.
/// </summary>
/// <param name="AnyOf">Acts of which the caller may do at least one; empty where being signed in is enough.</param>
public sealed record Requirement(ImmutableArray<string> AnyOf)
{
    /// <summary>Nobody need be signed in.</summary>
    public static Requirement None { get; } = new([]);

    public bool IsOpen => ReferenceEquals(this, None);
}

/// <summary>Marks an endpoint whose answers hold a secret, or are compressed already, or are told bit by bit: they are not compressed (BREACH).</summary>
public sealed record Uncompressed;

/// <summary>Marks the endpoint at which one signs in: tries are counted by address.</summary>
public sealed record SignInTry;

/// <summary>How endpoints say what they ask for, and what sees that they get it.</summary>
public static class Requirements
{
    /// <summary>The caller may do one of these acts; without any, she is signed in.</summary>
    public static TBuilder Needs<TBuilder>(this TBuilder endpoint, params string[] anyOf)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new Requirement([.. anyOf]));

    /// <summary>The caller may look at drafts: to change, review or publish them.</summary>
    public static TBuilder NeedsReader<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.Needs(Acts.Configure, Acts.Review, Acts.Publish);

    /// <summary>Anybody may call it.</summary>
    public static TBuilder IsOpen<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(Requirement.None);

    /// <summary>Bodies longer than this are refused before they are read.</summary>
    public static TBuilder TakesAtMost<TBuilder>(this TBuilder endpoint, long bytes)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(bytes));

    /// <summary>Refuses, before a body is read, whoever may not call what was matched; and calls that another page could have made with somebody's cookie.</summary>
    public static async Task Middleware(HttpContext http, RequestDelegate next)
    {
        // What routing itself answers with (405, 415) is no route.
        if (http.GetEndpoint() is RouteEndpoint endpoint)
        {
            // An endpoint that says nothing is closed: it needs somebody who may administer.
            var requirement = endpoint.Metadata.GetMetadata<Requirement>() ?? Closed;
            if (!requirement.IsOpen)
            {
                var caller = http.Caller();
                if (!requirement.AnyOf.IsEmpty && http.May(caller) is var may && !requirement.AnyOf.Any(may.Contains))
                {
                    throw Callers.Refuse(caller, requirement.AnyOf[0]);
                }
            }

            if (Changes(http.Request.Method) && http.CallerOrNull() is { ByCookie: true } && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http))
            {
                throw new RefusedException(403, "antiforgery", "This call changes something and was made with a cookie: send the antiforgery value of GET /api/session in the header X-Antiforgery.");
            }
        }

        await next(http);
    }

    private static readonly Requirement Closed = new([Acts.Administer]);

    private static bool Changes(string method) => !HttpMethods.IsGet(method) && !HttpMethods.IsHead(method) && !HttpMethods.IsOptions(method);
}
