using System.Net;
using System.Net.Http.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Signing in through an identity provider, with the roles it says.</summary>
public sealed class OpenIdTests(OpenIdTests.ProviderFixture provided) : IClassFixture<OpenIdTests.ProviderFixture>
{
    private readonly IdentityProvider provider = provided.Provider;
    private readonly RunningService service = provided.Service;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>A service with an identity provider.</summary>
    public sealed class ProviderFixture : IAsyncLifetime
    {
        public IdentityProvider Provider { get; private set; } = null!;

        public RunningService Service { get; private set; } = null!;

        public async ValueTask InitializeAsync()
        {
            Provider = await IdentityProvider.Begin();
            Service = await HostedService.WithDemo(
                null,
                "--OpenId:Authority",
                Provider.Address.ToString(),
                "--OpenId:Client",
                IdentityProvider.Client,
                "--OpenId:Secret",
                IdentityProvider.Secret,
                "--OpenId:Name",
                "the port's directory",
                "--OpenId:Roles:port-office",
                "harbour-office"
            );
        }

        public async ValueTask DisposeAsync()
        {
            await Service.DisposeAsync();
            await Provider.DisposeAsync();
        }
    }

    [Fact]
    public async Task Whom_the_provider_vouches_for_is_in_with_its_roles_taken_anew_each_time()
    {
        provider.Person =
        [
            ("sub", "4711"),
            ("name", "Joris Tiller"),
            ("preferred_username", "Joris.Tiller@port.example"),
            ("locale", "nl-NL"),
            ("roles", "port-office"),
            ("roles", "unheard-of"),
        ];
        using var browser = Browser();
        (await Session(browser)).Provider.ShouldBe("the port's directory");

        var (authorize, page) = await SignIn(browser, "sign-in?back=/layouts");

        authorize.ShouldContain("code_challenge_method=S256");
        page.ShouldContain("url=/layouts");
        var session = await Session(browser);
        session
            .Person.ShouldNotBeNull()
            .ShouldSatisfyAllConditions(
                person => person.Id.ShouldBe("joris-tiller"),
                person => person.Name.ShouldBe("Joris Tiller"),
                person => person.Roles.ShouldBe(["harbour-office"]),
                person => person.Language.ShouldBe("nl")
            );
        session.Permissions.ShouldContain("publish");

        provider.Person = [("sub", "4711"), ("name", "Joris Tiller"), ("preferred_username", "joris"), ("roles", "quay-hand")];
        using var later = Browser();
        await SignIn(later, "sign-in");
        (await Session(later)).Person!.ShouldSatisfyAllConditions(
            person => person.Id.ShouldBe("joris-tiller", "she is who she was"),
            person => person.Roles.ShouldBe(["quay-hand"])
        );
        (await Session(browser)).Permissions.ShouldNotContain("publish", "and so she is everywhere");

        using var greta = await service.As("greta");
        (
            await Wire.Refused(() => greta.PutPerson("joris-tiller", new PersonRequest("Joris Tiller", ["administrator"], "nl"), Cancel))
        ).Code.ShouldBe("provider-roles");
        (await Known("greta"))
            .Where(person => person.Vouched)
            .Select(person => person.Id)
            .ShouldSatisfyAllConditions(vouched => vouched.ShouldContain("joris-tiller"), vouched => vouched.ShouldNotContain("greta"));
        (await Known("ada")).ShouldAllBe(person => !person.Vouched && person.Roles.Count == 0, "that is for administrators");

        async Task<IReadOnlyList<Person>> Known(string to)
        {
            using var http = await service.Http(to);
            return (await http.GetFromJsonAsync("api/people", WireJson.Default.IReadOnlyListPerson, Cancel))!;
        }
    }

    [Fact]
    public async Task A_name_that_is_taken_here_is_not_taken_over()
    {
        provider.Person = [("sub", "4712"), ("name", "Another Greta"), ("preferred_username", "greta"), ("roles", "quay-hand")];
        using var browser = Browser();
        await SignIn(browser, "sign-in");

        (await Session(browser)).Person!.Id.ShouldBe("greta-2");
        using var greta = await service.As("greta");
        (await greta.Session(Cancel)).Person!.Roles.ShouldBe(["administrator"]);
    }

    [Theory]
    [InlineData("sign-in?back=https://elsewhere.example/", "url=/\"")]
    [InlineData("sign-in?back=//elsewhere.example/", "url=/\"")]
    [InlineData("sign-in?back=/records/vessel", "url=/records/vessel\"")]
    public async Task The_way_back_leads_nowhere_else(string from, string expected)
    {
        provider.Person = [("sub", "4713"), ("preferred_username", "iris")];
        using var browser = Browser();
        (await SignIn(browser, from)).Page.ShouldContain(expected);
    }

    [Theory]
    [InlineData("sign-in/back?code=forged&state=forged")]
    [InlineData("sign-in/back?error=access_denied&state=forged")]
    [InlineData("sign-in/back")]
    public async Task An_answer_nobody_asked_for_lets_nobody_in(string address)
    {
        using var browser = Browser();
        using var answer = await browser.GetAsync(address, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await Session(browser)).Person.ShouldBeNull();
    }

    private HttpClient Browser() =>
        new(new SocketsHttpHandler { AllowAutoRedirect = false, CookieContainer = new CookieContainer() })
        {
            BaseAddress = service.Address,
            // As browsers do: a page is wanted, and what answers here is no place of the console.
            DefaultRequestHeaders = { { "Accept", "text/html,*/*;q=0.8" } },
        };

    private async Task<(string Authorize, string Page)> SignIn(HttpClient browser, string from)
    {
        using var begun = await browser.GetAsync(from, Cancel);
        begun.StatusCode.ShouldBe(HttpStatusCode.Redirect, await begun.Content.ReadAsStringAsync(Cancel) + service.Output);
        using var asked = await browser.GetAsync(begun.Headers.Location, Cancel);
        asked.StatusCode.ShouldBe(HttpStatusCode.Redirect, await asked.Content.ReadAsStringAsync(Cancel));
        using var back = await browser.GetAsync(asked.Headers.Location, Cancel);
        back.StatusCode.ShouldBe(HttpStatusCode.OK, await back.Content.ReadAsStringAsync(Cancel) + service.Output);
        return (begun.Headers.Location!.ToString(), await back.Content.ReadAsStringAsync(Cancel));
    }

    private static async Task<SessionInfo> Session(HttpClient browser) =>
        (await browser.GetFromJsonAsync("api/session", WireJson.Default.SessionInfo, Cancel))!;
}
