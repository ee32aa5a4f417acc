using BrightTier.Core.Composition;
using BrightTier.Core.Documents;

namespace BrightTier.Core.Tests;

public sealed class RestingOnTests
{
    private static readonly Dictionary<(DocumentKind, string), Document> All = Demo
        .Files.Select(file => DocumentFile.Read(File.ReadAllText(file)).Document!)
        .ToDictionary(document => (document.Kind, document.Key));

    private static Func<DocumentKind, string, Document?> Changed(params (DocumentKind, string)[] changed) =>
        (kind, key) => changed.Contains((kind, key)) ? All[(kind, key)] : null;

    [Fact]
    public void What_was_changed_goes_along_near_and_far_and_what_is_published_stops_the_way()
    {
        var form = (DocumentKind.Layout, "vessel");
        var list = (DocumentKind.ChoiceList, "propulsion");

        // The list belongs to the entity: where that was not changed, the published one has the published list.
        DocumentDependencies.Along([form], Changed(form, list)).ShouldBeEmpty();
        DocumentDependencies
            .Along([form], Changed(form, list, (DocumentKind.Entity, "vessel")))
            .ShouldBe([
                new Dependency(DocumentKind.ChoiceList, "propulsion", DocumentKind.Entity, "vessel"),
                new Dependency(DocumentKind.Entity, "vessel", DocumentKind.Layout, "vessel"),
            ]);
        DocumentDependencies.Along([form], Changed(form, (DocumentKind.Layout, "cover"))).Single().Key.ShouldBe("cover");
    }

    [Fact]
    public void Every_document_rests_only_on_what_is_there()
    {
        var names = All
            .Values.SelectMany(document => DocumentDependencies.Directly(document).Select(each => (From: document, each.Kind, each.Key)))
            .ToArray();
        names.Length.ShouldBeGreaterThan(40);
        names.Where(each => !All.ContainsKey((each.Kind, each.Key))).ShouldBeEmpty();
        All.Values.OfType<Document.OfRouting>()
            .SelectMany(DocumentDependencies.Directly)
            .ShouldContain((DocumentKind.Layout, "vessel-foreman"));
        All.Values.OfType<Document.OfNavigation>().SelectMany(DocumentDependencies.Directly).ShouldContain((DocumentKind.Entity, "vessel"));
    }
}
