using System.Net;
using BrightTier.Service.Hosting;
using Microsoft.AspNetCore.HttpOverrides;

namespace BrightTier.Service.Http;

/// <summary>
/// What reverse proxies say of a request they pass on: from which address it came, and whether over TLS. Only those named are believed.
/// </summary>
public static class BehindProxy
{
    /// <returns>What is wrong with the proxies named; null when nothing is.</returns>
    public static string? AddProxies(this WebApplicationBuilder builder)
    {
        var networks = new List<System.Net.IPNetwork>();
        foreach (
            var proxy in (
                builder.Configuration[$"{ServiceOptions.Section}:{nameof(ServiceOptions.Proxies)}"]
                ?? builder.Configuration[nameof(ServiceOptions.Proxies)]
                ?? ""
            ).Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
        )
        {
            if (IPAddress.TryParse(proxy, out var address))
            {
                networks.Add(new System.Net.IPNetwork(address, address.GetAddressBytes().Length * 8));
            }
            else if (System.Net.IPNetwork.TryParse(proxy, out var network))
            {
                networks.Add(network);
            }
            else
            {
                return $"'Proxies' names '{proxy}', which is no address and no network; they are like 127.0.0.1, 10.0.0.0/8 or fd00::/8.";
            }
        }

        if (networks.Count > 0)
        {
            builder.Services.Configure<ForwardedHeadersOptions>(options =>
            {
                options.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
                // As many in a row as are known.
                options.ForwardLimit = null;
                options.KnownProxies.Clear();
                options.KnownIPNetworks.Clear();
                networks.ForEach(options.KnownIPNetworks.Add);
            });
        }

        return null;
    }

    /// <summary>Whether a request came through a proxy, a known one or not.</summary>
    public static bool CameThroughProxy(this HttpContext http) =>
        http.Request.Headers.Keys.Any(name =>
            name.Equals("Forwarded", StringComparison.OrdinalIgnoreCase)
            || name.Equals("Via", StringComparison.OrdinalIgnoreCase)
            || name.StartsWith("X-Forwarded-", StringComparison.OrdinalIgnoreCase)
            || name.StartsWith("X-Original-", StringComparison.OrdinalIgnoreCase)
        );

    private static bool IsThisMachine(string host) =>
        host.Equals("localhost", StringComparison.OrdinalIgnoreCase)
        || (IPAddress.TryParse(host.Trim('[', ']'), out var address) && IPAddress.IsLoopback(address));

    /// <summary>
    /// Whether a request came from elsewhere or through something in between, or was made to another name than this machine's own: a page
    /// from
    /// elsewhere whose name leads here (DNS rebinding) is not somebody at this machine.
    /// </summary>
    public static bool IsFromElsewhere(this HttpContext http) =>
        !IsThisMachine(http.Request.Host.Host)
        || (http.Connection.RemoteIpAddress is { } address && !IPAddress.IsLoopback(address))
        || http.CameThroughProxy();
}
