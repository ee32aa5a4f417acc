using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Access;

/// <summary>An administrator sees the application as another person does, and comes back to herself.</summary>
public static class PersonViewEndpoints
{
    public static void MapPersonView(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/session/view").WithTags("session");
        group
            .MapPut("", Begin)
            .WithName("viewAs")
            .Needs(Permissions.Administer)
            .Produces(204)
            .WithSummary("Sees the application as another person does: for an hour at most, changing nothing meanwhile.");
        group
            .MapDelete("", End)
            .WithName("viewAsOneself")
            .Needs()
            .WithMetadata(new HarmlessCall())
            .Produces(204)
            .WithSummary("Comes back to oneself.");
    }

    private static async Task<IResult> Begin(
        HttpContext http,
        ViewRequest body,
        PeopleStore people,
        PersonView view,
        PersonChanges changes,
        AuditStore audit,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        if (!caller.ByCookie)
        {
            throw Problems.Forbidden($"The application is seen as somebody else in a session, not with a token.");
        }

        var person = await people.Find(body.Person, cancel)
            ?? throw Problems.NotFound($"person", body.Person, (await people.List(cancel)).Select(each => each.Id));
        view.Begin(http, caller, person);
        await audit.Note(caller.Person.Id, "session.viewed", $"person/{person.Id}", null, cancel);
        changes.Announce(caller.Person.Id);
        return TypedResults.NoContent();
    }

    private static IResult End(HttpContext http, PersonChanges changes)
    {
        PersonView.End(http);
        if (http.Caller() is { Viewer: { } } caller)
        {
            changes.Announce(caller.Person.Id);
        }

        return TypedResults.NoContent();
    }
}
