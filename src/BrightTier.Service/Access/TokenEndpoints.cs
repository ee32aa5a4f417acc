using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Access;

/// <summary>Personal tokens, for programs: good for a time, and for some permissions alone where that is asked for.</summary>
public static class TokenEndpoints
{
    public static void MapTokens(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/tokens").WithTags("session");
        group
            .MapGet("", List)
            .WithName("listTokens")
            .Needs()
            .WithMetadata(new NoCompression())
            .Produces<IReadOnlyList<TokenInfo>>()
            .WithSummary("One's own personal tokens.");
        group
            .MapPost("", Make)
            .WithName("createToken")
            .Needs()
            .WithMetadata(new NoCompression())
            .Produces<TokenInfo>(201)
            .WithSummary("Creates a personal token, for the permissions in scopes or for all one has; its secret is shown this once.");
        group.MapDelete("/{id}", End).WithName("revokeToken").Needs().Produces(204).WithSummary("Revokes a personal token.");
    }

    private static async Task<IResult> List(HttpContext http, PeopleStore people, CancellationToken cancel) =>
        TypedResults.Json<IReadOnlyList<TokenInfo>>(
            [.. (await people.Tokens(Manager(http).Person.Id, cancel)).Select(row => Info(row))],
            WireJson.Default.IReadOnlyListTokenInfo
        );

    /// <summary>
    /// Whoever may say which tokens she has: a session, or a token that is good for all she may. One that is good for some permissions
    /// alone is good for those.
    /// </summary>
    private static Caller Manager(HttpContext http)
    {
        var caller = http.Caller();
        return caller.Scopes is null
            ? caller
            : throw new RefusedException(
                403,
                "token-narrow",
                $"This token is good for {string.Join(", ", caller.Scopes)} alone; tokens are made and ended in a session, or "
                    + $"with one that is good for all."
            );
    }

    private static async Task<IResult> Make(
        HttpContext http,
        TokenRequest body,
        PeopleStore people,
        AuditStore audit,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var caller = Manager(http);
        if (body.Days is < 1 or > 365 || string.IsNullOrWhiteSpace(body.Name) || body.Name.Length > 100)
        {
            throw Problems.Invalid(
                $"A token needs a name of at most 100 characters and lives from 1 to 365 days.",
                Problems.Part(body.Days is < 1 or > 365 ? "/days" : "/name", $"is out of range")
            );
        }

        var scopes = body.Scopes?.Distinct().ToArray();
        foreach (var (i, scope) in scopes?.Index() ?? [])
        {
            if (!Permissions.All.Contains(scope))
            {
                throw Problems.Invalid(
                    Suggestion.Sentence($"There is no permission '{scope}'{Suggestion.For(scope, [.. Permissions.All])}"),
                    Problems.Part(
                        $"/scopes/{i.ToString(CultureInfo.InvariantCulture)}",
                        $"must be one of {string.Join(", ", Permissions.All)}"
                    )
                );
            }
        }

        if (scopes is { Length: 0 })
        {
            throw Problems.Invalid($"'scopes' names no permission; leave it out for all of yours.", Problems.Part("/scopes", $"is empty"));
        }

        var (secret, row) = await people.Issue(
            PeopleStore.Token,
            caller.Person.Id,
            body.Name,
            Lifetime(body.Days, caller, time.GetUtcNow()),
            cancel,
            scopes is null ? null : string.Join(' ', scopes)
        );
        await audit.Note(
            caller.Person.Id,
            "token.made",
            $"person/{caller.Person.Id}",
            new
            {
                name = body.Name,
                days = body.Days,
                scopes,
            },
            cancel
        );
        return CreatedResource.At(http, "/api/tokens", Info(row, secret), WireJson.Default.TokenInfo);
    }

    /// <summary>How long a token lives: no longer than the one it is made with. Less than a day more is meant as until then.</summary>
    /// <exception cref="RefusedException">400: it would outlive that by a day or more.</exception>
    private static TimeSpan Lifetime(int days, Caller caller, DateTimeOffset now)
    {
        var (asked, left) = (TimeSpan.FromDays(days), DateTimeOffset.FromUnixTimeMilliseconds(caller.Expires) - now);
        return caller.ByCookie || asked <= left ? asked
            : asked - left < TimeSpan.FromDays(1) ? left
            : throw Problems.Invalid(
                $"A token cannot create one that outlives it; sign in with a password to create one that lasts longer than "
                    + $"{Math.Max(1, (int)left.TotalDays)} days.",
                Problems.Part("/days", $"must be at most {Math.Max(1, (int)left.TotalDays)}")
            );
    }

    private static async Task<IResult> End(
        HttpContext http,
        string id,
        PeopleStore people,
        KnownCallers recognition,
        Broadcaster broadcaster,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var row = (await people.Tokens(caller.Person.Id, cancel)).FirstOrDefault(each => each.Hash[..12] == id);
        // Any token may end itself.
        caller = row?.Hash == caller.Credential ? caller : Manager(http);
        _ = row ?? throw Problems.NotFound($"token", id);
        await AccessEndpoints.End(caller.Person.Id, row.Hash, people, recognition, broadcaster, cancel);
        await audit.Note(caller.Person.Id, "token.ended", $"person/{caller.Person.Id}", new { name = row.Name }, cancel);
        return TypedResults.NoContent();
    }

    private static TokenInfo Info(CredentialRow row, string? secret = null) =>
        new(row.Hash[..12], row.Name, DateTimeOffset.FromUnixTimeMilliseconds(row.Expires), row.Scopes?.Split(' '), secret);
}
