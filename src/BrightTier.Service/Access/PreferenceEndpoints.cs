using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Access;

/// <summary>What a person keeps for herself under a name: views of lists and the like. Nobody else reads it.</summary>
public static class PreferenceEndpoints
{
    private const int Largest = 65_536;

    /// <summary>Names one keeps things under.</summary>
    private const int Most = 500;

    public static void MapPreferences(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/preferences").WithTags("session");
        group
            .MapGet("", List)
            .WithName("listPreferences")
            .Needs(Permissions.ReadRecords)
            .Produces<IReadOnlyList<string>>()
            .WithSummary("The names one keeps something under, in order; those that begin with prefix where that is given.");
        group
            .MapGet("/{name}", Get)
            .WithName("getPreference")
            .Needs(Permissions.ReadRecords)
            .Produces<JsonElement>()
            .WithSummary("A preference of one's own; null where there is none.");
        group
            .MapPut("/{name}", Put)
            .WithName("putPreference")
            .Needs(Permissions.ReadRecords)
            .Accepts<JsonElement>("application/json")
            .Produces(204)
            .WithSummary("Stores a preference of one's own, at most 64 KiB of JSON.");
    }

    private static async Task<IResult> List(HttpContext http, string? prefix, PreferenceStore preferences, CancellationToken cancel)
    {
        http.Response.Headers.CacheControl = "no-store";
        var names = await preferences.Names(http.Caller().Person.Id, cancel);
        return TypedResults.Json<IReadOnlyList<string>>(
            [.. names.Where(name => name.StartsWith(prefix ?? "", StringComparison.Ordinal)).Order(StringComparer.Ordinal)],
            WireJson.Default.IReadOnlyListString
        );
    }

    private static async Task<IResult> Get(HttpContext http, string name, PreferenceStore preferences, CancellationToken cancel)
    {
        http.Response.Headers.CacheControl = "no-store";
        return TypedResults.Text(await preferences.Find(http.Caller().Person.Id, name, cancel) ?? "null", "application/json");
    }

    private static async Task<IResult> Put(
        HttpContext http,
        string name,
        JsonElement body,
        PreferenceStore preferences,
        CancellationToken cancel
    )
    {
        var caller = http.Caller();
        var content = body.GetRawText();
        if (name.Length > 100 || content.Length > Largest)
        {
            throw Problems.Invalid($"A preference has at most {Largest} characters, and its name 100.", Problems.Part("", $"is too long"));
        }

        if (BodyTexts.Problem(body) is var (pointer, problem))
        {
            throw Problems.Invalid(
                pointer.Length == 0 ? (Message)$"The body {problem}." : $"{pointer} {problem}.",
                Problems.Part(pointer, problem)
            );
        }

        if (await preferences.Find(caller.Person.Id, name, cancel) is null && await preferences.Count(caller.Person.Id, cancel) >= Most)
        {
            throw new RefusedException(422, "too-many", $"A person has at most {Most} preferences.");
        }

        await preferences.Save(caller.Person.Id, name, content, cancel);
        return TypedResults.NoContent();
    }
}
