using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Behind a reverse proxy that speaks TLS: what it says is believed where it is named, and not where it is not.</summary>
public sealed class ProxyTests(ProxyTests.ProxyFixture proxied) : IClassFixture<ProxyTests.ProxyFixture>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public sealed class ProxyFixture : IAsyncLifetime
    {
        public IdentityProvider Provider { get; private set; } = null!;

        /// <summary>Knows this machine as its proxy.</summary>
        public RunningService Behind { get; private set; } = null!;

        /// <summary>Knows another network's.</summary>
        public RunningService Apart { get; private set; } = null!;

        public async ValueTask InitializeAsync()
        {
            Provider = await IdentityProvider.Begin();
            string[] common =
            [
                "--SignInsPerMinute",
                "4",
                "--OpenId:Authority",
                Provider.Address.ToString(),
                "--OpenId:Client",
                IdentityProvider.Client,
                "--OpenId:Secret",
                IdentityProvider.Secret,
            ];
            Behind = await HostedService.WithDemo(null, [.. common, "--Proxies", "127.0.0.1, fd00::/8"]);
            Apart = await HostedService.WithDemo(null, [.. common, "--Proxies", "10.0.0.0/8"]);
        }

        public async ValueTask DisposeAsync()
        {
            await Behind.DisposeAsync();
            await Apart.DisposeAsync();
            await Provider.DisposeAsync();
        }
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task Cookies_and_the_way_back_are_of_the_address_people_see(bool known)
    {
        using var http = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false, UseCookies = false })
        {
            BaseAddress = (known ? proxied.Behind : proxied.Apart).Address,
        };
        using var asked = Passed(HttpMethod.Get, "sign-in", "198.51.100.7");
        using var sent = await http.SendAsync(asked, Cancel);

        Uri.UnescapeDataString(sent.Headers.Location!.Query)
            .ShouldContain($"redirect_uri={(known ? "https" : "http")}://forms.example.org/sign-in/back");
        sent.Headers.GetValues("Set-Cookie").ShouldAllBe(cookie => cookie.Contains("; secure") == known);

        using var looked = Passed(HttpMethod.Get, "api/session", "198.51.100.7");
        using var answer = await http.SendAsync(looked, Cancel);
        (await answer.Content.ReadFromJsonAsync(WireJson.Default.SessionInfo, Cancel))!.PeopleCanBePicked.ShouldBeFalse(
            "nobody picks people through a proxy"
        );

        using var ada = await (known ? proxied.Behind : proxied.Apart).Http("ada");
        using var entering = Passed(HttpMethod.Post, "api/session", "198.51.100.7");
        entering.Content = JsonContent.Create(
            new SignIn(Token: ada.DefaultRequestHeaders.Authorization!.Parameter),
            WireJson.Default.SignIn
        );
        using var entered = await http.SendAsync(entering, Cancel);
        entered.StatusCode.ShouldBe(HttpStatusCode.OK);
        entered.Headers.GetValues("Set-Cookie").ShouldAllBe(cookie => cookie.Contains("; secure") == known);
    }

    [Fact]
    public async Task Who_tries_too_often_is_known_by_her_own_address_and_not_by_one_she_makes_up()
    {
        using var http = new HttpClient { BaseAddress = proxied.Behind.Address };
        async Task<HttpStatusCode> Try(string from)
        {
            using var request = Passed(HttpMethod.Post, "api/session", from);
            request.Content = JsonContent.Create(new SignIn("bram", Password: "not the right one"), WireJson.Default.SignIn);
            using var answer = await http.SendAsync(request, Cancel);
            return answer.StatusCode;
        }

        for (var i = 0; i < 4; i++)
        {
            // What she sends herself stands before what the proxy adds.
            (await Try(string.Create(CultureInfo.InvariantCulture, $"203.0.113.{i}, 198.51.100.8"))).ShouldBe(HttpStatusCode.Unauthorized);
        }

        (await Try("203.0.113.99, 198.51.100.8")).ShouldBe(HttpStatusCode.TooManyRequests);
        (await Try("198.51.100.9")).ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_proxy_that_is_no_address_ends_the_service_with_what_would_be_one()
    {
        var refused = await Should.ThrowAsync<InvalidOperationException>(() => HostedService.Empty("--Proxies", "forms.example.org"));
        refused.Message.ShouldContain(
            "'Proxies' names 'forms.example.org', which is no address and no network; they are like 127.0.0.1, 10.0.0.0/8 or fd00::/8."
        );
    }

    private static HttpRequestMessage Passed(HttpMethod method, string path, string from) =>
        new(method, path)
        {
            Headers =
            {
                { "Host", "forms.example.org" },
                { "X-Forwarded-For", from },
                { "X-Forwarded-Proto", "https" },
            },
        };
}
