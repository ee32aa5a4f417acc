using System.Text.RegularExpressions;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Access;

/// <summary>The people of the application. Everyone may know who there is; administrators say what they may.</summary>
public static partial class PeopleEndpoints
{
    private const int LongestName = 100;

    public static void MapPeople(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/people").WithTags("people");
        group
            .MapGet("", List)
            .WithName("listPeople")
            .Needs(Permissions.ReadRecords)
            .Produces<IReadOnlyList<Person>>()
            .WithSummary("Who there is; with their roles for administrators.");
        group
            .MapPut("/{id}", Put)
            .WithName("putPerson")
            .Needs(Permissions.Administer)
            .Produces<Person>()
            .WithSummary(
                "Creates a person, or changes their name, roles, language and region; their open pages follow at once. If-None-Match: "
                    + "* only creates."
            );
        group
            .MapPut("/{id}/password", SetPassword)
            .WithName("setPassword")
            .Needs(Permissions.Administer)
            .Produces(204)
            .WithSummary("Sets a person's password, to be changed at the next sign-in; their sessions and tokens end.");
    }

    private static async Task<IResult> List(HttpContext http, PeopleStore people, CurrentRelease releases, CancellationToken cancel)
    {
        var caller = http.Caller();
        var everything = caller
            .PermissionsIn(releases.Snapshot.Definitions.Application, releases.Snapshot.Number)
            .Contains(Permissions.Administer);
        return TypedResults.Json<IReadOnlyList<Person>>(
            [
                .. (await people.List(cancel))
                    .Select(PersonAnswer.Of)
                    .Select(person => everything ? person : person with { Roles = [], Vouched = false }),
            ],
            WireJson.Default.IReadOnlyListPerson
        );
    }

    private static async Task<IResult> Put(
        HttpContext http,
        string id,
        PersonRequest body,
        PeopleStore people,
        CurrentRelease releases,
        PersonChanges changes,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var application = releases.Snapshot.Definitions.Application;
        RequireValid(id, body, application);
        var everyone = await people.List(cancel);
        if (
            !everyone
                .Where(row => row.Id != id)
                .Select(PersonAnswer.Of)
                .Select(person => person.Roles)
                .Append(body.Roles)
                .Any(roles => Administers(roles, application))
        )
        {
            throw new RefusedException(
                409,
                "last-administrator",
                $"'{id}' is the last administrator; give that role to somebody else first.",
                [Problems.Part("/roles", $"leaves no administrator")]
            );
        }

        var known = everyone.FirstOrDefault(person => person.Id == id);
        if (known is not null && http.Request.Headers.IfNoneMatch.ToString() == "*")
        {
            throw new RefusedException(
                409,
                "person-there",
                $"{known.Name} signs in as '{id}' already; choose another name to sign in by.",
                [Problems.Part("id", $"is taken")]
            );
        }

        var row = new PersonRow
        {
            Id = id,
            Name = body.Name.Trim(),
            Roles = string.Join(' ', body.Roles.Distinct()),
            Language = body.Language,
            Region = body.Region,
            Provider = known?.Provider,
        };
        if (known is { Provider: not null } && known.Roles != row.Roles)
        {
            throw new RefusedException(
                409,
                "provider-roles",
                $"The roles of '{id}' come from the identity provider at each sign-in; change them there.",
                [Problems.Part("/roles", $"come from the identity provider")]
            );
        }

        await people.Save(row, cancel);
        await audit.Note(
            caller.Person.Id,
            known is null ? "person.made" : "person.changed",
            $"person/{id}",
            new
            {
                name = row.Name,
                roles = body.Roles,
                before = known?.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries),
            },
            cancel
        );
        changes.Announce(id);
        return TypedResults.Json(PersonAnswer.Of(row), WireJson.Default.Person);
    }

    private static async Task<IResult> SetPassword(
        HttpContext http,
        string id,
        PasswordRequest body,
        PeopleStore people,
        Passwords passwords,
        PersonChanges changes,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var everyone = await people.List(cancel);
        var person = everyone.FirstOrDefault(each => each.Id == id)
            ?? throw Problems.NotFound($"person", id, everyone.Select(each => each.Id));
        await passwords.Set(person, body.Password, cancel);
        await people.RevokeOthers(id, null, tokens: true, cancel);
        changes.Announce(id);
        await audit.Note(caller.Person.Id, "password.set", $"person/{id}", null, cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Whether somebody can sign in by this.</summary>
    internal static bool IsId(string id) => Key().IsMatch(id);

    private static void RequireValid(string id, PersonRequest body, Application application)
    {
        var wrong = new List<ProblemPart>();
        if (!IsId(id))
        {
            wrong.Add(Problems.Part("id", $"must be a small letter followed by small letters, digits or hyphens, 60 characters at most"));
        }

        if (body.Name.Trim().Length is 0 or > LongestName)
        {
            wrong.Add(Problems.Part("/name", $"must have from 1 to {LongestName} characters"));
        }

        wrong.AddRange(Localizations.Problems(new Localization(body.Language, body.Region), application));
        wrong.AddRange(
            body.Roles.Index()
                .Where(each => application.Roles.All(role => role.Key != each.Item))
                .Select(each =>
                    Problems.Part(
                        $"/roles/{each.Index}",
                        $"is no role of the application: "
                            + $"'{each.Item}'{Suggestion.For(each.Item, [.. application.Roles.Select(role => role.Key)])}"
                    )
                )
        );
        if (wrong.Count > 0)
        {
            throw Problems.Invalid(
                wrong.Count == 1
                    ? (Message)$"{wrong[0].Pointer} {wrong[0].Message}."
                    : $"{wrong.Count} things are wrong with this person; nothing was changed.",
                [.. wrong]
            );
        }
    }

    private static bool Administers(IReadOnlyList<string> roles, Application application) =>
        application.Roles.Any(role => roles.Contains(role.Key) && role.May.Contains(Permissions.Administer));

    [GeneratedRegex("^[a-z][a-z0-9-]{0,59}$")]
    private static partial Regex Key();
}
