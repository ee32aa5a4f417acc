using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

/// <summary>The demo application as tests use it: read from the files everyone sees.</summary>
internal static class Demo
{
    public static string Folder { get; } = Find();

    public static Catalogue Catalogue { get; } = Read();

    public static Definitions Definitions => Catalogue.Definitions;

    public static Entity Vessel => Definitions.Entities["vessel"];

    public static Layout VesselForm => ReadLayout(File.ReadAllText(Path.Combine(Folder, "layouts", "vessel.yaml")));

    public static IEnumerable<string> Files =>
        Directory
            .EnumerateFiles(Folder, "*.yaml", SearchOption.AllDirectories)
            .Where(file => Path.GetFileName(file) != "people.yaml")
            .Order(StringComparer.Ordinal);

    public static Layout ReadLayout(string text)
    {
        var (document, problems) = DocumentFile.Read(text);
        problems.ShouldBeEmpty();
        return document.ShouldBeOfType<Document.OfLayout>().Layout;
    }

    /// <summary>A layout for vessels with one page and one section holding these rows, as a file would write them.</summary>
    public static Layout VesselRows(params string[] rows) =>
        ReadLayout(
            $$"""
            kind: full
            key: trial
            entity: vessel
            body:
              pages:
                - id: page
                  title: Overview
                  sections:
                    - id: section
                      title: Identity
                      rows:
            {{string.Join('\n', rows.Select(row => "            - " + row))}}
            """
        );

    public static NodeId Id(string name) => new(name);

    private static Catalogue Read() => DocumentFile.Of(Files.Select(file => DocumentFile.Read(File.ReadAllText(file)).Document!));

    private static string Find()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(at!.FullName, "demo", "application.yaml")))
        {
            at = at.Parent;
        }

        return Path.Combine(at.FullName, "demo");
    }
}
