using BrightTier.Contracts;
using BrightTier.Core.Icons;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Forms;

/// <summary>The business application's menu, and the icons there are.</summary>
public static class NavigationEndpoints
{
    public static void MapNavigation(this IEndpointRouteBuilder api)
    {
        api.MapGet("/navigation", Menu)
            .WithName("getNavigation")
            .Needs(Permissions.ReadRecords)
            .WithTags("definitions")
            .Produces<IReadOnlyList<MenuEntryInfo>>()
            .WithSummary("The business application's menu as the caller sees it.");
        api.MapGet("/icons", Icons)
            .WithName("listIcons")
            .NeedsReader()
            .WithTags("definitions")
            .Produces<IReadOnlyDictionary<string, string>>()
            .WithSummary("The icons there are by name, each as one SVG path on a raster of 24 by 24.");
    }

    private static IResult Icons() =>
        TypedResults.Json<IReadOnlyDictionary<string, string>>(
            Icon.Names.ToDictionary(name => name, Icon.Path),
            WireJson.Default.IReadOnlyDictionaryStringString
        );

    private static IResult Menu(HttpContext http, CurrentRelease releases)
    {
        var caller = http.Caller();
        var language = http.LanguageOf(caller, releases.Snapshot.Definitions.Application);
        return TypedResults.Json<IReadOnlyList<MenuEntryInfo>>(
            [.. releases.Snapshot.Catalogue.Navigation.For(caller.Roles).Entries.Select(entry => Info(entry, language))],
            WireJson.Default.IReadOnlyListMenuEntryInfo
        );
    }

    private static MenuEntryInfo Info(MenuEntry entry, string language) =>
        new(
            entry.Key,
            entry.Title.In(language),
            Icon.Path(entry.Icon),
            entry.Entity,
            entry.Address,
            [.. entry.Entries.Select(each => Info(each, language))]
        );
}
