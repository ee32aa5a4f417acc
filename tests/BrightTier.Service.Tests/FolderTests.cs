using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Files of a folder that nobody pulled, as a fresh clone has them: applied again and again.</summary>
public sealed class FolderTests(OwnService own) : IClassFixture<OwnService>, IAsyncLifetime
{
    private readonly RunningService service = own.Running;
    private BrightTierClient greta = null!;
    private BrightTierClient ada = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync() => (greta, ada) = (await service.As("greta"), await service.As("ada"));

    public ValueTask DisposeAsync()
    {
        greta.Dispose();
        ada.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task Whatever_is_done_by_hand_commit_by_commit_comes_to_the_last_or_is_refused_for_what_somebody_else_did()
    {
        var random = new Random(2026);
        var (applied, refused) = (0, 0);
        for (var sequence = 0; sequence < 25; sequence++)
        {
            var key = $"hand{sequence}";
            var form = Unnamed(await Read("vessel"), key);
            var last = form;
            for (var commit = 0; commit < 6; commit++)
            {
                var text = Written(form);
                if (commit > 0 && random.Next(5) == 0)
                {
                    // Somebody else has her own go at it meanwhile.
                    var there = await Read(key);
                    var retitled = there.Apply([new Edit.Set(there.Root.Id, "title", new Value.Text(Texts.Of($"Greta's {commit}")))]);
                    await greta.PutFile("layout", key, Written(retitled.Layout!), (await greta.File("layout", key, Cancel)).Tag, Cancel);
                    var told = await Wire.Refused(() => Apply(text));
                    (told.Status, told.Code).ShouldBe((409, "conflict"), told.Detail);
                    told.Detail!.ShouldContain("changed by greta");
                    await greta.ImportDocuments(new ImportRequest([new(text)], Merge: true, ConflictResolution: "mine"), Cancel);
                    // What came of it is in the files from then on, as after a pull.
                    form = Unnamed(await Read(key), key);
                    (await Apply(Written(form))).Documents.Single().Change.ShouldBe("unchanged");
                    refused++;
                }
                else
                {
                    var change = (await Apply(text)).Documents.Single().Change;
                    change.ShouldBe(
                        commit == 0 ? "made"
                            : Shape(last.Root) == Shape(form.Root) ? "unchanged"
                            : "changed",
                        text
                    );
                    Shape((await Read(key)).Root).ShouldBe(Shape(form.Root));
                    applied++;
                }

                last = form;
                form = Enumerable.Range(0, 1 + random.Next(3)).Aggregate(form, (next, _) => ByHand(next, random));
            }
        }

        applied.ShouldBeGreaterThan(60);
        refused.ShouldBeGreaterThan(10);

        async Task<ImportReport> Apply(string text) => await ada.ImportDocuments(new ImportRequest([new(text)]), Cancel);
    }

    [Fact]
    public async Task What_nobody_ever_applied_is_taken_over_the_draft_it_is_most_like()
    {
        var old = (await ada.File("layout", "berth", Cancel)).Text;
        var newer = old.Replace("en: ", "en: The ", StringComparison.Ordinal);
        await greta.PutFile("layout", "berth", newer, (await greta.File("layout", "berth", Cancel)).Tag, Cancel);

        (await ada.ImportDocuments(new ImportRequest([new(old)]), Cancel))
            .Documents.Single()
            .Change.ShouldBe("unchanged", "it says nothing of its own");
        (await ada.File("layout", "berth", Cancel)).Text.ShouldContain("en: The ");
        var mine = old.Replace("en: Berth,", "en: Mooring,", StringComparison.Ordinal);
        var told = await Wire.Refused(() => ada.ImportDocuments(new ImportRequest([new(mine)]), Cancel));
        told.Code.ShouldBe("conflict", told.Detail);
    }

    [Fact]
    public async Task What_is_gone_from_the_folder_is_told_and_archived_where_that_is_asked_for_and_comes_back_with_its_file()
    {
        var (one, other) = (Form("slipOld", "Slipway"), Form("slipNew", "Slipway"));
        await ada.ImportDocuments(await Folder([one]), Cancel);

        var renamed = await Folder([other], "slipOld");
        var told = (await ada.ImportDocuments(renamed with { DryRun = true, ArchiveMissing = true }, Cancel)).Missing!.Single();
        (told.Key, told.State, told.Became).ShouldBe(("slipOld", "archived", "slipNew"));
        (await ada.ImportDocuments(renamed, Cancel)).Missing!.Single().State.ShouldBe("missing");
        (await ada.File("layout", "slipOld", Cancel)).Text.ShouldNotContain("archived");

        var report = await ada.ImportDocuments((await Folder([], "slipOld")) with { ArchiveMissing = true }, Cancel);
        report.Missing!.Single().Revision.ShouldBe(2);
        (await ada.File("layout", "slipOld", Cancel)).Text.ShouldContain("archived: true");
        (await ada.ImportDocuments((await Folder([], "slipOld")) with { ArchiveMissing = true }, Cancel)).Missing.ShouldBeNull(
            "once is enough"
        );

        (await ada.ImportDocuments(await Folder([one]), Cancel)).Documents.Single().Change.ShouldBe("changed");
        (await ada.File("layout", "slipOld", Cancel)).Text.ShouldNotContain("archived");
    }

    [Fact]
    public async Task What_something_else_names_is_not_archived_and_then_nothing_is()
    {
        var piece =
            "kind: piece\nkey: mooringLine\ntitle: Mooring line\nslots:\n  - slot: line\n    label: Line\n    types: [text]\n"
            + "sections:\n  - title: Line\n    rows:\n      - [line]\n";
        var form = Form("lines", "Lines").Replace("- [length, beam]", "- [{ piece: mooringLine, slots: { line: name } }]");
        (await ada.ImportDocuments(await Folder([piece, form]), Cancel)).Imported.ShouldBeTrue();

        var gone = (await Folder([form.Replace("title: Lines", "title: Ropes")], "mooringLine")) with { ArchiveMissing = true };
        var told = await Wire.Refused(() => ada.ImportDocuments(gone, Cancel));
        (told.Status, told.Code).ShouldBe((409, "document-used"));
        told.Problems!.Single().Pointer.ShouldStartWith("layout/lines");
        (await ada.File("layout", "lines", Cancel)).Text.ShouldContain("title: Lines");

        // With what names it, it goes.
        var all = (await Folder([], "mooringLine", "lines")) with { ArchiveMissing = true };
        (await ada.ImportDocuments(all, Cancel)).Missing!.ShouldAllBe(missing => missing.State == "archived");
        (await ada.File("layout", "mooringLine", Cancel)).Text.ShouldContain("archived: true");
    }

    [Fact]
    public async Task What_only_goes_with_something_archived_is_not_brought_back_by_its_own_file()
    {
        var menu = (await greta.File("navigation", "navigation", Cancel)).Text + "  - { key: cranes, title: Cranes, entity: crane }\n";
        var crane =
            "kind: entity\nkey: crane\nlabel: Crane\nplural: Cranes\ndisplay: \"{code}\"\nfields:\n"
            + "  - key: code\n    label: Code\n    type: text\n    added: true\n";
        await greta.ImportDocuments(await Folder([menu, crane]), Cancel);

        var all = await Folder([]);
        var without = all with { Folder = [.. all.Folder!.Where(name => name.Key != "crane")], ArchiveMissing = true };
        (await greta.ImportDocuments(without, Cancel)).Missing!.Single().State.ShouldBe("archived");
        (await greta.File("navigation", "navigation", Cancel)).Text.ShouldNotContain("crane");
        var again = (await greta.ImportDocuments(new ImportRequest([new(menu)]), Cancel)).Documents.Single();
        (again.Change, again.Ahead).ShouldBe(("unchanged", true));
    }

    /// <summary>A folder that has every document there is, some of them with another text, but not some layouts.</summary>
    private async Task<ImportRequest> Folder(string[] texts, params string[] gone) =>
        new(
            [.. texts.Select(text => new ImportDocument(text))],
            Folder:
            [
                .. (await ada.Documents(Cancel))
                    .Select(each => new DocumentName(each.Kind, each.Key))
                    .Where(name => name.Kind != "layout" || !gone.Contains(name.Key)),
            ]
        );

    private static string Form(string key, string title) =>
        $"kind: full\nkey: {key}\nentity: vessel\nbody:\n  pages:\n    - title: All\n      sections:\n        - title: {title}\n"
        + "          rows:\n            - [length, beam]\n            - [name, registration]\n";

    private async Task<Layout> Read(string key) =>
        ((Document.OfLayout)DocumentFile.Read((await ada.File("layout", key, Cancel)).Text).Document!).Layout;

    private static string Written(Layout layout) => DocumentFile.Write(new Document.OfLayout(layout));

    /// <summary>The layout as a text says it that leaves out every id, as it is read.</summary>
    private static Layout Unnamed(Layout layout, string key) =>
        DerivedIds.Anew(Layout.Of(layout.Root.With("key", new Value.Word(key))), layout.Walk().Select(node => node.Id).ToHashSet());

    private static string Shape(Node node) =>
        $"{node.Kind}({string.Join(";", node.Properties)})[{string.Join(",", node.Children.Select(Shape))}]";

    /// <summary>A title written anew, a section or a row put elsewhere, a row taken out: as the text is then read.</summary>
    private static Layout ByHand(Layout layout, Random random)
    {
        var titled = layout.Walk().Where(node => node.Kind is NodeKind.Page or NodeKind.Section && node.Children.Length > 0).ToArray();
        var node = titled[random.Next(titled.Length)];
        Edit edit = random.Next(4) switch
        {
            0 => new Edit.Set(node.Id, "title", new Value.Text(Texts.Of($"Measures {random.Next(100)}"))),
            1 => new Edit.Move(node.Id, layout.ParentOf(node.Id)!.Value, new Anchor.First()),
            2 => new Edit.Move(node.Children[0].Id, node.Id, new Anchor.Last()),
            _ => new Edit.Remove(node.Children[^1].Id),
        };
        return layout.Apply([edit]).Layout is { } next ? Unnamed(next, next.Key) : layout;
    }
}
