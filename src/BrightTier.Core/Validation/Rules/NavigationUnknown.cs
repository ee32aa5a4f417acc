using BrightTier.Core.Documents;
using BrightTier.Core.Icons;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A menu entry that leads nowhere, or an entity no entry leads to.</summary>
public sealed class NavigationUnknown : IDocumentRule
{
    public string Code => "navigation-unknown";

    public string About =>
        "A menu entry names an entity, role or icon that does not exist or leads nowhere; or no entry leads to an entity that "
        + "has a layout.";

    public IEnumerable<DocumentFinding> Check(Catalogue catalogue)
    {
        var entities = catalogue.Definitions.Entities;
        var roles = catalogue.Definitions.Application.Roles.Select(role => role.Key).ToArray();
        if (catalogue.Navigation.Entries.IsEmpty)
        {
            yield break;
        }

        foreach (var (entry, at) in Placed(catalogue.Navigation.Entries, "/entries"))
        {
            if (entry.Entity is { } key && !entities.ContainsKey(key))
            {
                yield return Found(
                    Severity.Error,
                    at + "/entity",
                    Suggestion.Sentence(
                        $"The entry '{entry.Title}' leads to '{key}', which is no entity{Suggestion.For(key, [.. entities.Keys])}"
                    )
                );
            }

            if (entry.Entity is null && entry.Address is null && entry.Entries.IsEmpty)
            {
                yield return Found(Severity.Warning, at, $"The entry '{entry.Title}' leads nowhere and has nothing below it.");
            }

            if (entry.Icon is { } icon && !Icon.Exists(icon))
            {
                yield return Found(
                    Severity.Warning,
                    at + "/icon",
                    Suggestion.Sentence(
                        $"The entry '{entry.Title}' has the icon '{icon}', which is not there{Suggestion.For(icon, [.. Icon.Names])}"
                    )
                );
            }

            foreach (var (i, role) in entry.Roles.Index().Where(each => roles.Length > 0 && !roles.Contains(each.Item)))
            {
                yield return Found(
                    Severity.Error,
                    $"{at}/roles/{i}",
                    Suggestion.Sentence(
                        $"The entry '{entry.Title}' is for the role '{role}', which is not there{Suggestion.For(role, roles)}"
                    )
                );
            }
        }

        var reached = catalogue.Navigation.Entries.SelectMany(each => each.Walk()).Select(entry => entry.Entity).ToHashSet();
        foreach (
            var entity in entities.Values.Where(entity => !reached.Contains(entity.Key) && catalogue.First(entity.Key, "full") is not null)
        )
        {
            yield return Found(Severity.Advice, "/entries", $"No entry of the menu leads to '{entity.Plural}', which has a form.");
        }
    }

    /// <summary>Every entry with the JSON pointer that leads to it.</summary>
    private static IEnumerable<(MenuEntry Entry, string At)> Placed(IEnumerable<MenuEntry> entries, string at) =>
        entries
            .Index()
            .SelectMany(each => Placed(each.Item.Entries, $"{at}/{each.Index}/entries").Prepend((each.Item, $"{at}/{each.Index}")));

    private DocumentFinding Found(Severity severity, string at, Message message) =>
        new(Code, severity, DocumentKind.Navigation, "navigation", at, message);
}
