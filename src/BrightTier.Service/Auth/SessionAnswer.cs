using BrightTier.Contracts;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Snapshots;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.Extensions.Options;

namespace BrightTier.Service.Auth;

/// <summary>What is answered about a session: who one is, what one may, and the application one works in.</summary>
internal static class SessionAnswer
{
    /// <summary>The session as the page of somebody who works here carries it.</summary>
    public static byte[] Json(HttpContext http, Caller caller) =>
        System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(Of(http, caller), WireJson.Default.SessionInfo);

    /// <param name="caller">Null where nobody is signed in.</param>
    public static SessionInfo Of(HttpContext http, Caller? caller)
    {
        var services = http.RequestServices;
        // Before anything is read: what happens from here on is heard.
        var lastEvent = services.GetRequiredService<Broadcaster>().LastEventId;
        var (release, options) = (
            services.GetRequiredService<CurrentRelease>().Snapshot,
            services.GetRequiredService<IOptions<ServiceOptions>>().Value
        );
        var application = release.Definitions.Application;
        var language = caller?.Person.Language ?? Preferred(http, application);
        return new SessionInfo(
            caller is null ? null : PersonAnswer.Of(caller.Person),
            caller is null ? [] : [.. caller.PermissionsIn(application, release.Number).Order(StringComparer.Ordinal)],
            caller is null ? "" : services.GetRequiredService<IAntiforgery>().GetAndStoreTokens(http).RequestToken ?? "",
            new ApplicationInfo(
                application.Title.In(language),
                application.Languages,
                application.Currency,
                application.TimeZone,
                [.. application.Roles.Select(role => new RoleInfo(role.Key, role.Label.In(language), role.May, role.Entities))],
                [.. application.Ranges([]).Select(range => new WidthInfo(range.Name, range.From, range.Below))],
                new ThemeInfo(application.Theme.Primary, application.Theme.Accent, application.Theme.Typeface, application.Theme.Ground),
                application.Approval
            ),
            options.PickPeople && !http.IsFromElsewhere(),
            release.Number,
            language,
            options.OpenId.IsSet ? options.OpenId.Name : null,
            lastEvent,
            caller is null && release.Number == 0 && !options.PickPeople,
            caller?.Viewer is { } viewer ? PersonAnswer.Of(viewer) : null
        );
    }

    /// <summary>The language of the application that a browser asks for first (RFC 9110, 12.5.4).</summary>
    private static string Preferred(HttpContext http, Core.Model.Application application) =>
        http.Request.GetTypedHeaders()
            .AcceptLanguage.OrderByDescending(each => each.Quality ?? 1)
            .Select(each =>
                application.Languages.FirstOrDefault(language =>
                    language.Equals(each.Value.Value?.Split('-')[0], StringComparison.OrdinalIgnoreCase)
                )
            )
            .FirstOrDefault(language => language is not null)
        ?? application.Languages[0];
}
