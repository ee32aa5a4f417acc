using System.Net.Http.Headers;
using BrightTier.Contracts;

namespace BrightTier.Client;

// People, sign-ins and tokens.
public sealed partial class BrightTierClient
{
    public Task<SessionInfo> Session(CancellationToken cancel) => Get("api/session", WireJson.Default.SessionInfo, cancel);

    public Task<IReadOnlyList<Person>> People(CancellationToken cancel) =>
        Get("api/session/people", WireJson.Default.IReadOnlyListPerson, cancel);

    /// <summary>Signs in as a person where the service lets one pick, and asks for a token, which from then on is the client's.</summary>
    public Task<TokenInfo> PickPerson(string person, string tokenName, CancellationToken cancel) =>
        SignIn(new SignIn(person), new TokenRequest(tokenName), cancel);

    /// <summary>Sets up a new service.</summary>
    public Task<SessionInfo> SetUp(SetupRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/setup", Body(request, WireJson.Default.SetupRequest), WireJson.Default.SessionInfo, null, cancel);

    /// <summary>Signs in, by a password or by picking, and asks for a token, which from then on is the client's.</summary>
    public async Task<TokenInfo> SignIn(SignIn who, TokenRequest asked, CancellationToken cancel)
    {
        // The handler keeps the session's cookie for the two calls.
        var session = await Send(
            HttpMethod.Post,
            "api/session",
            Body(who, WireJson.Default.SignIn),
            WireJson.Default.SessionInfo,
            null,
            cancel
        );
        var token = await Send(
            HttpMethod.Post,
            "api/tokens",
            Body(asked, WireJson.Default.TokenRequest),
            WireJson.Default.TokenInfo,
            request => request.Headers.Add("X-Antiforgery", session.Antiforgery),
            cancel
        );
        http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token.Secret);
        return token;
    }

    public Task<IReadOnlyList<TokenInfo>> Tokens(CancellationToken cancel) =>
        Get("api/tokens", WireJson.Default.IReadOnlyListTokenInfo, cancel);

    public Task<TokenInfo> CreateToken(TokenRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/tokens", Body(request, WireJson.Default.TokenRequest), WireJson.Default.TokenInfo, null, cancel);

    public Task RevokeToken(string id, CancellationToken cancel) => Do(HttpMethod.Delete, $"api/tokens/{Escape(id)}", null, cancel);

    /// <summary>Ends the session or token that calls are made with.</summary>
    public Task SignOut(CancellationToken cancel) => Do(HttpMethod.Delete, "api/session", null, cancel);

    /// <summary>Everybody there is; with roles for administrators.</summary>
    public Task<IReadOnlyList<Person>> Everybody(CancellationToken cancel) =>
        Get("api/people", WireJson.Default.IReadOnlyListPerson, cancel);

    public Task<Person> PutPerson(string id, PersonRequest person, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            $"api/people/{Escape(id)}",
            Body(person, WireJson.Default.PersonRequest),
            WireJson.Default.Person,
            null,
            cancel
        );

    public Task SetPassword(string person, string password, CancellationToken cancel) =>
        Do(
            HttpMethod.Put,
            $"api/people/{Escape(person)}/password",
            Body(new PasswordRequest(password), WireJson.Default.PasswordRequest),
            cancel
        );
}
