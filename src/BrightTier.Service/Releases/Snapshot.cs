using System.Collections.Concurrent;
using System.Collections.Immutable;
using BrightTier.Core.Entities;
using BrightTier.Core.Files;
using BrightTier.Core.Generate;
using BrightTier.Core.Layouts;
using BrightTier.Service.Forms;
using BrightTier.Storage;

namespace BrightTier.Service.Releases;

/// <summary>One release in memory, whole: its documents parsed, and the forms resolved from them so far. Never changes but for being filled.</summary>
public sealed class Snapshot
{
    private readonly ConcurrentDictionary<string, Layout> byEntity = new();

    public Snapshot(long number, IEnumerable<Document> documents)
    {
        Number = number;
        Name = number.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var all = documents.ToArray();
        Definitions = DefinitionsOf(all);
        Layouts = all.OfType<Document.OfLayout>().Select(document => document.Layout).ToImmutableSortedDictionary(layout => layout.Key, layout => layout, StringComparer.Ordinal);
    }

    public long Number { get; }

    public Definitions Definitions { get; }

    public ImmutableSortedDictionary<string, Layout> Layouts { get; }

    /// <summary>The number as the header Bright-Release has it.</summary>
    public string Name { get; }

    internal ConcurrentDictionary<FormKey, FormBytes> Forms { get; } = new();

    /// <summary>Answers by what was asked, to the letter, and by whom: the shortest way to the bytes.</summary>
    internal ConcurrentDictionary<(string Path, string Query, string Kind), FormBytes> Answers { get; } = new();

    /// <summary>The layout users get: the one named like the entity, else the first for it, else the generated one.</summary>
    public Layout LayoutFor(Entity entity) => byEntity.GetOrAdd(entity.Key, _ =>
        Layouts.GetValueOrDefault(entity.Key) is { } same && same.Entity == entity.Key
            ? same
            : Layouts.Values.FirstOrDefault(layout => layout.Entity == entity.Key) ?? GeneratedLayout.Full(entity));

    public static Definitions DefinitionsOf(IEnumerable<Document> documents)
    {
        var definitions = Definitions.Empty;
        foreach (var document in documents)
        {
            definitions = document switch
            {
                Document.OfApplication application => definitions with { Application = application.Application },
                Document.OfEntity entity => definitions with { Entities = definitions.Entities.SetItem(entity.Key, entity.Entity) },
                Document.OfChoiceList list => definitions with { ChoiceLists = definitions.ChoiceLists.SetItem(list.Key, list.ChoiceList) },
                _ => definitions,
            };
        }

        return definitions;
    }

    /// <summary>Parses stored texts; what was stored was checked, so a problem here means a damaged database.</summary>
    public static Document Parse(string text) =>
        Documents.Read(text) is { Document: { } document } ? document : throw new InvalidDataException("A stored document cannot be read.");

    public static Snapshot Of(long number, IEnumerable<ReleasedText> texts) => new(number, texts.Select(text => Parse(text.Text)));
}

/// <summary>Which release everyone gets.</summary>
public sealed class CurrentRelease(ReleaseStore store)
{
    private Snapshot snapshot = new(0, []);

    public Snapshot Snapshot => Volatile.Read(ref snapshot);

    public void Become(Snapshot next) => Volatile.Write(ref snapshot, next);

    public async Task Load(CancellationToken cancel)
    {
        var number = await store.CurrentNumber(cancel);
        if (number != Snapshot.Number)
        {
            Become(Snapshot.Of(number, await store.Texts(number, cancel)));
        }
    }

    /// <summary>An entity of the current release.</summary>
    public Entity Entity(string key) =>
        Snapshot.Definitions.Entities.GetValueOrDefault(key) ?? throw Hosting.Problems.NotFound("entity", key, Snapshot.Definitions.Entities.Keys);
}
