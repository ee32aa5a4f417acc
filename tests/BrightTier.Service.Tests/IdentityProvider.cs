using System.Net;
using System.Net.Sockets;
using System.Security.Claims;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using OpenIddict.Abstractions;
using static OpenIddict.Server.OpenIddictServerEvents;

namespace BrightTier.Service.Tests;

/// <summary>
/// A small identity provider on loopback (OpenID Connect, authorisation code with PKCE), which vouches for whoever the test says.
/// </summary>
public sealed class IdentityProvider : IAsyncDisposable
{
    public const string Client = "bright-tier";
    public const string Secret = "between us";

    private readonly WebApplication running;

    private IdentityProvider(WebApplication app, Uri address)
    {
        running = app;
        Address = address;
    }

    public Uri Address { get; }

    /// <summary>The claims of whoever signs in next; several of one type are a list.</summary>
    public IReadOnlyList<(string Type, string Value)> Person { get; set; } = [];

    public static async Task<IdentityProvider> Begin()
    {
        var address = Free();
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls(address.ToString());
        IdentityProvider? provider = null;
        builder
            .Services.AddOpenIddict()
            .AddServer(server =>
            {
                server
                    .SetAuthorizationEndpointUris("authorize")
                    .SetTokenEndpointUris("token")
                    .AllowAuthorizationCodeFlow()
                    .RequireProofKeyForCodeExchange();
                server.RegisterScopes(OpenIddictConstants.Scopes.Profile);
                server.AddEphemeralEncryptionKey().AddEphemeralSigningKey().DisableAccessTokenEncryption();
                // Without a store: clients are judged here.
                server.EnableDegradedMode();
                server.UseAspNetCore().DisableTransportSecurityRequirement();
                server.AddEventHandler<ValidateAuthorizationRequestContext>(handler =>
                    handler.UseInlineHandler(context =>
                    {
                        if (context.ClientId != Client)
                        {
                            context.Reject(OpenIddictConstants.Errors.InvalidClient, "This client is not known.");
                        }

                        return default;
                    })
                );
                server.AddEventHandler<ValidateTokenRequestContext>(handler =>
                    handler.UseInlineHandler(context =>
                    {
                        if (context.ClientId != Client || context.ClientSecret != Secret)
                        {
                            context.Reject(OpenIddictConstants.Errors.InvalidClient, "This client is not known.");
                        }

                        return default;
                    })
                );
                server.AddEventHandler<HandleAuthorizationRequestContext>(handler =>
                    handler.UseInlineHandler(context =>
                    {
                        var identity = new ClaimsIdentity("provider", OpenIddictConstants.Claims.Name, OpenIddictConstants.Claims.Role);
                        foreach (var (type, value) in provider!.Person)
                        {
                            identity.AddClaim(new Claim(type, value));
                        }

                        identity.SetDestinations(_ => [OpenIddictConstants.Destinations.IdentityToken]);
                        var principal = new ClaimsPrincipal(identity);
                        principal.SetScopes(context.Request.GetScopes());
                        context.SignIn(principal);
                        return default;
                    })
                );
            });
        var app = builder.Build();
        provider = new IdentityProvider(app, address);
        app.UseAuthentication();
        await app.StartAsync();
        return provider;
    }

    public async ValueTask DisposeAsync() => await running.DisposeAsync();

    private static Uri Free()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return new Uri($"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}/");
    }
}
