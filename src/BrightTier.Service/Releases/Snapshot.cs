using System.Collections.Concurrent;
using BrightTier.Core.Conditions;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;
using BrightTier.Core.Resolve;
using BrightTier.Core.Routing;
using BrightTier.Service.Forms;
using BrightTier.Storage;

namespace BrightTier.Service.Releases;

/// <summary>One release in memory, whole: its documents parsed, and the forms resolved from them so far. Never changes but for being filled.</summary>
public sealed class Snapshot
{
    private readonly ConcurrentDictionary<(string Key, string Kind), Assembled> assembled = new();

    public Snapshot(long number, IEnumerable<Document> documents)
    {
        Number = number;
        Name = number.ToString(System.Globalization.CultureInfo.InvariantCulture);
        Catalogue = Documents.Of(documents);
    }

    public long Number { get; }

    public Catalogue Catalogue { get; }

    public Definitions Definitions => Catalogue.Definitions;

    /// <summary>The number as the header Bright-Release has it.</summary>
    public string Name { get; }

    internal ConcurrentDictionary<FormKey, FormBytes> Forms { get; } = new();

    /// <summary>Answers by what was asked, to the letter, and by whom: the shortest way to the bytes.</summary>
    internal ConcurrentDictionary<(string Path, string Query, string Kind), FormBytes> Answers { get; } = new();

    /// <summary>The layout somebody gets by the routing rules, put together.</summary>
    public Assembled LayoutFor(Entity entity, string kind, IReadOnlyCollection<string> roles, Surroundings surroundings)
    {
        var layout = Choosing.LayoutFor(Catalogue, entity, kind, roles, surroundings);
        return assembled.GetOrAdd((layout.Key, kind), static (_, given) => Assembling.Assemble(given.layout, given.Catalogue), (layout, Catalogue));
    }

    /// <summary>Parses stored texts; what was stored was checked, so a problem here means a damaged database.</summary>
    public static Document Parse(string text) => Whole(Documents.Read(text).Document);

    /// <summary>Parses them side by side: a service that starts waits for this.</summary>
    public static Snapshot Of(long number, IEnumerable<ReleasedText> texts) => new(number, texts.AsParallel().AsOrdered().Select(text => Documents.Read(text.Text).Document).AsEnumerable().Select(Whole));

    private static Document Whole(Document? document) => document ?? throw new InvalidDataException("A stored document cannot be read.");
}
