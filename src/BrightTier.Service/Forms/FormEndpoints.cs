using BrightTier.Core.Composition;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Resolution;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Forms;

/// <summary>
/// The hot path: a published form for whoever asks. The first request of a class of viewers resolves it; from then on it is bytes in
/// memory,
/// and a request checks who asks, compares the tag and writes. It stands before the rest of the pipeline because it needs none of it.
/// </summary>
public static class FormEndpoints
{
    public const string Prefix = "/api/forms/";

    public static async Task Middleware(HttpContext http, RequestDelegate next)
    {
        var path = http.Request.Path.Value!;
        if (!path.StartsWith(Prefix, StringComparison.Ordinal) || !HttpMethods.IsGet(http.Request.Method))
        {
            await next(http);
            return;
        }

        try
        {
            await Serve(http, path);
        }
        catch (RefusedException refused)
        {
            await Problems.Write(http, refused.Status, refused.Code, refused.Detail, refused.Parts);
        }
        catch (Exception error) when (DatabaseErrors.IsOutOfReach(error) && !http.Response.HasStarted)
        {
            await Problems.Write(
                http,
                503,
                "unavailable",
                $"The database does not answer, and you were not here lately; please try again."
            );
        }
    }

    private static async Task Serve(HttpContext http, string path)
    {
        if (await http.RequestServices.GetRequiredService<KnownCallers>().Recognise(http) is not { } caller)
        {
            await Problems.Write(
                http,
                401,
                "not-signed-in",
                $"Sign in first: by a session, or with a personal token as 'Authorization: Bearer …'."
            );
            return;
        }

        var snapshot = http.RequestServices.GetRequiredService<CurrentRelease>().Active.For(caller.Person.Id, caller.Roles);
        var asking = (path, http.Request.QueryString.Value ?? "", caller.Kind);
        if (snapshot.Answers.TryGetValue(asking, out var answer))
        {
            await Write(http, snapshot, answer);
            return;
        }

        Entity entity;
        string mode,
            kind;
        try
        {
            (entity, mode, kind) = Asked(http, path[Prefix.Length..], snapshot, caller);
        }
        catch (RefusedException refused)
        {
            await Problems.Write(http, refused.Status, refused.Code, refused.Detail, refused.Parts);
            return;
        }

        var language = http.LanguageOf(caller, snapshot.Definitions.Application);
        var surroundings = await http
            .RequestServices.GetRequiredService<RecordContext>()
            .Of(http.Request.Query["record"].ToString(), snapshot, entity, kind, caller, mode, language, http.RequestAborted);
        var bytes = ResolvedForms.Bytes(snapshot, entity, kind, caller.Roles, mode, language, surroundings);
        // Which layout a record gets is asked anew each time: the record changes.
        if (LayoutSelector.DependsOnRecord(snapshot.Catalogue, entity, kind))
        {
            await Write(http, snapshot, bytes);
            return;
        }

        // Anything may stand in a query; what is remembered of them is bounded.
        if (snapshot.Answers.Count < 10_000 && asking.Item2.Length < 200)
        {
            snapshot.Answers[asking] = bytes;
        }

        await Write(http, snapshot, bytes);
    }

    /// <summary>What is asked for, of what there is.</summary>
    /// <exception cref="RefusedException">400, 403 or 404.</exception>
    private static (Entity Entity, string Mode, string Kind) Asked(HttpContext http, string key, Snapshot snapshot, Caller caller)
    {
        var entity = snapshot.Definitions.Entities.GetValueOrDefault(key)
            ?? throw Problems.NotFound($"entity", key, snapshot.Definitions.Entities.Keys);
        var mode = http.Request.Query["mode"].ToString() is { Length: > 0 } asked ? asked : Modes.Edit;
        if (!Modes.All.Contains(mode))
        {
            throw Problems.Invalid(
                $"There is no mode '{mode}'; there are: {string.Join(", ", Modes.All)}.",
                Problems.Part("mode", $"must be create, edit or view")
            );
        }

        var kind = http.Request.Query["kind"].ToString() is { Length: > 0 } named ? named : "full";
        if (kind == "piece" || Grammar.Root(kind) is null)
        {
            throw Problems.Invalid(
                Suggestion.Sentence($"There is no kind '{kind}' of form{Suggestion.For(kind, Kinds)}"),
                Problems.Part("kind", $"must be one of {string.Join(", ", Kinds)}")
            );
        }

        return caller.PermissionsIn(snapshot.Definitions.Application, snapshot.Number).Contains(Permissions.ReadRecords)
            ? (entity, mode, kind)
            : throw new RefusedException(
                403,
                "forbidden",
                $"Your roles ({string.Join(", ", caller.Roles)}) do not allow '{Permissions.ReadRecords}'."
            );
    }

    private static readonly string[] Kinds = [.. Grammar.Roots.Select(rule => rule.Root!).Where(kind => kind != "piece")];

    private static Task Write(HttpContext http, Snapshot release, FormBytes form)
    {
        var headers = http.Response.Headers;
        headers.ETag = form.Tag;
        headers.CacheControl = "private, no-cache";
        headers.Vary = "Accept-Encoding, Cookie, Authorization";
        headers["Bright-Release"] = release.Name;
        headers.XContentTypeOptions = "nosniff";
        if (ETags.IsKnown(http, form.Tag))
        {
            http.Response.StatusCode = 304;
            return Task.CompletedTask;
        }

        var accepted = http.Request.Headers.AcceptEncoding.ToString();
        var (body, encoding) =
            accepted.Contains("br", StringComparison.Ordinal) ? (form.Brotli, "br")
            : accepted.Contains("gzip", StringComparison.Ordinal) ? (form.Gzip, "gzip")
            : (form.Plain, null);
        if (encoding is not null)
        {
            headers.ContentEncoding = encoding;
        }

        headers.ContentType = "application/json; charset=utf-8";
        headers.ContentLength = body.Length;
        return http.Response.Body.WriteAsync(body, 0, body.Length, http.RequestAborted);
    }

    /// <summary>
    /// The same by routing: for paths spelt in another way than the one that is looked for first, and for the OpenAPI document.
    /// </summary>
    public static void MapForms(this IEndpointRouteBuilder api) =>
        api.MapGet("/forms/{entity}", (HttpContext http, string entity, string? mode, string? language, string? kind, string? record) =>
                Serve(http, Prefix + entity)
            )
            .WithName("getForm")
            .Needs(Permissions.ReadRecords)
            .WithMetadata(new NoCompression())
            .WithTags("forms")
            .Produces<Contracts.ResolvedForm>()
            .Produces(304)
            .WithSummary(
                "The published form of an entity, resolved for whoever asks, with an entity tag; kind is full, short, card, "
                    + "list or print, record the one whose values routing rules may look at; the header Bright-Release tells "
                    + "which release it is of."
            );
}
