using System.Text.Encodings.Web;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authorization;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Auth;

/// <summary>Authenticates by session cookie or bearer token (RFC 6750, 2.1).</summary>
public sealed class CallerAuthentication(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory log,
    UrlEncoder encoder,
    KnownCallers known
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, log, encoder)
{
    public const string Name = "opaque";

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        if (await known.Recognise(Context) is not { } caller)
        {
            return AuthenticateResult.NoResult();
        }

        Callers.Set(Context, caller);
        return AuthenticateResult.Success(new AuthenticationTicket(KnownCallers.Principal(caller), Name));
    }

    /// <summary>
    /// Says who is calling, for what counts calls and for which release they are served; what they may is for the policies to ask.
    /// </summary>
    public static async Task Middleware(HttpContext http, RequestDelegate next)
    {
        if ((await http.AuthenticateAsync()).Succeeded)
        {
            // Here and not where callers are recognised: what is set in an awaited call does not reach whoever awaits it.
            var by = http.Caller();
            http.RequestServices.GetRequiredService<CurrentRelease>().Serve(by.Person.Id, by.Roles);
            AuditStore.Token.Value = by.Token;
        }

        RequestLanguage.Set(http, http.CallerOrNull() is { ByCookie: true } caller ? caller.Person.Language : null);

        await next(http);
    }
}

/// <summary>Puts who is calling, and what they may, into the framework's hands.</summary>
public static class Authentication
{
    public static void AddCallers(this IServiceCollection services)
    {
        services.AddSingleton<PersonView>().AddSingleton<KnownCallers>();
        services
            .AddAuthentication(CallerAuthentication.Name)
            .AddScheme<AuthenticationSchemeOptions, CallerAuthentication>(CallerAuthentication.Name, null);
        services.AddAuthorization();
        services
            .AddSingleton<IAuthorizationHandler, PermissionHandler>()
            .AddSingleton<IAuthorizationMiddlewareResultHandler, PermissionRefusal>();
    }
}
