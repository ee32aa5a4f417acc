using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Access;

/// <summary>A new service is set up: who administers it and what the application is, with the code it printed when it began.</summary>
public static class SetupEndpoints
{
    private const int LongestName = 100;

    public static void MapSetup(this IEndpointRouteBuilder api) =>
        api.MapPost("/setup", Set)
            .WithName("setUp")
            .AllowAnonymous()
            .WithTags("session")
            .WithMetadata(new NoCompression(), new SignInTry())
            .TakesAtMost(BodySizes.Small)
            .Produces<SessionInfo>()
            .WithSummary(
                "Sets up a service in which nothing is published yet, and signs its administrator in. The code is good for this once."
            );

    private static async Task<IResult> Set(
        HttpContext http,
        SetupRequest body,
        PeopleStore people,
        Passwords passwords,
        DraftDocuments drafts,
        ReleasePublisher publisher,
        CurrentRelease releases,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        if (releases.Default.Number > 0)
        {
            throw new RefusedException(409, "set-up", $"This service is set up already; sign in, or ask its administrator.");
        }

        var code = PeopleStore.HashOf(body.Code.Trim());
        if (
            await people.Find(PeopleStore.Token, code, cancel) is not { Scopes: null, Person: var first }
            || !first.Roles.Split(' ').Contains(Application.Administrator)
        )
        {
            throw new RefusedException(
                401,
                "code-unknown",
                $"This is not the code the service printed when it began, or it is no longer valid. A new one is printed "
                    + $"at the machine by: brighttier setup --new-code",
                [Problems.Part("/code", $"is not known")]
            );
        }

        RequireValid(body);
        var person = new PersonRow
        {
            Id = body.Person,
            Name = body.Name.Trim(),
            Roles = Application.Administrator,
            Language = body.Languages[0].Split('-')[0] is "nl" or "ar" ? body.Languages[0].Split('-')[0] : "en",
        };
        Passwords.RequireFit(person, body.Password);
        // From here on only the machine can stand in the way.
        await people.Save(person, cancel);
        await passwords.SetOwn(person, body.Password, cancel);
        var application = Application.First(body.Title.Trim(), [.. body.Languages], body.Currency, body.TimeZone);
        var author = new Author(person.Id, null);
        var document = new Document.OfApplication(application);
        var draft = (await drafts.List(cancel)).FirstOrDefault(row => row.Kind == document.Kind.Name());
        var saved = await drafts.Save(document, draft?.Revision ?? 0, author, cancel);
        await publisher.Publish(new PublishRequest([new DraftReference(saved.Kind, saved.Key, saved.Revision)], "Set up"), author, cancel);
        await people.Revoke(first.Id, code, cancel);
        if (first.Id != person.Id)
        {
            await people.Remove(first.Id, cancel);
        }

        return await AccessEndpoints.Enter(http, person, "setup", people, audit, cancel);
    }

    private static void RequireValid(SetupRequest body)
    {
        var wrong = new List<ProblemPart>();
        foreach (var (text, pointer) in new[] { (body.Name, "/name"), (body.Title, "/title") })
        {
            if (text.Trim().Length is 0 or > LongestName || TextCharacters.Problem(text) is not null)
            {
                wrong.Add(Problems.Part(pointer, $"must have from 1 to {LongestName} characters"));
            }
        }

        if (!PeopleEndpoints.IsId(body.Person))
        {
            wrong.Add(
                Problems.Part("/person", $"must be a small letter followed by small letters, digits or hyphens, 60 characters at most")
            );
        }

        if (body.Languages.Count == 0 || !body.Languages.All(LanguageTags.IsTag))
        {
            wrong.Add(Problems.Part("/languages", $"must have at least one language, each such as en or nl-BE (BCP 47)"));
        }

        if (body.Currency.Length != 3 || !body.Currency.All(char.IsAsciiLetterUpper))
        {
            wrong.Add(Problems.Part("/currency", $"must be a currency such as EUR (ISO 4217)"));
        }

        if (!TimeZoneInfo.TryFindSystemTimeZoneById(body.TimeZone, out _))
        {
            wrong.Add(Problems.Part("/timeZone", $"must be a time zone such as Europe/Amsterdam"));
        }

        if (wrong.Count > 0)
        {
            throw Problems.Invalid(
                $"The service cannot be set up so: {wrong[0].Pointer[1..]} {Message.Verbatim(wrong[0].Message)}.",
                [.. wrong]
            );
        }
    }
}
