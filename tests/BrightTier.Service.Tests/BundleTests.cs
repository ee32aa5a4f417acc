using System.IO.Compression;
using System.Net.Http.Headers;
using System.Text;
using System.Text.RegularExpressions;
using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Documents taken from files and bundles into drafts: all or none, told before, merged where that is asked for.</summary>
public sealed class BundleTests(OwnService own) : IClassFixture<OwnService>, IAsyncLifetime
{
    private readonly RunningService service = own.Running;
    private BrightTierClient ada = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync() => ada = await service.As("greta");

    public ValueTask DisposeAsync()
    {
        ada.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task Files_are_taken_over_what_they_were_made_from_all_or_none_and_a_dry_run_says_all_before()
    {
        var (vessel, zone) = ((await ada.File("layout", "vessel", Cancel)).Text, (await ada.File("choice-list", "zone", Cancel)).Text);
        var (other, more) = (vessel.Replace("en: Rig", "en: Canvas"), zone.Replace("key: outer", "key: seaward"));
        var request = new ImportRequest([new(other, vessel), new(more, zone)]);

        var dry = await ada.ImportDocuments(request with { DryRun = true }, Cancel);
        dry.Imported.ShouldBeFalse();
        dry.Documents.Select(taken => (taken.Key, taken.Change)).ShouldBe([("vessel", "changed"), ("zone", "changed")]);
        dry.Documents[1].Summary.ShouldContain("Adds the choice ‘seaward’.");
        dry.Documents[1].Impact.ShouldNotBeEmpty("what is taken away is used somewhere");
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldBe(vessel);

        var broken = await Wire.Refused(() =>
            ada.ImportDocuments(request with { Documents = [new(other, vessel), new("kind: layuot", null)] }, Cancel)
        );
        broken.Problems![0].Pointer.ShouldStartWith("/documents/1");
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldBe(vessel, "none, if not all");

        (await ada.ImportDocuments(request, Cancel)).Imported.ShouldBeTrue();
        (await ada.File("layout", "vessel", Cancel)).Text.ShouldContain("en: Canvas");
        (await ada.Changes("vessel", 0, Cancel))[^1].Label.ShouldBe("Imported from files");
    }

    [Fact]
    public async Task Where_the_draft_moved_on_files_are_refused_or_merged_and_conflicts_have_a_side()
    {
        var from = (await ada.File("entity", "berth", Cancel)).Text;
        var there = from.TrimEnd() + "\n  - key: lockerNumber\n    label: Locker\n    type: integer\n    added: true\n";
        await ada.ImportDocuments(new ImportRequest([new(there, from)]), Cancel);
        var mine = from.TrimEnd() + "\n  - key: waterMeter\n    label: Water meter\n    type: integer\n    added: true\n";

        var refused = await Wire.Refused(() => ada.ImportDocuments(new ImportRequest([new(mine, from)]), Cancel));
        (refused.Status, refused.Code).ShouldBe((409, "conflict"));
        (await ada.ImportDocuments(new ImportRequest([new(mine, from)], Merge: true), Cancel)).Documents.Single().Change.ShouldBe("merged");
        var merged = (await ada.File("entity", "berth", Cancel)).Text;
        merged.ShouldContain("lockerNumber");
        merged.ShouldContain("waterMeter");

        var (one, two) = (merged.Replace("label: Locker", "label: Cupboard"), merged.Replace("label: Locker", "label: Chest"));
        await ada.ImportDocuments(new ImportRequest([new(one, merged)]), Cancel);
        (await Wire.Refused(() => ada.ImportDocuments(new ImportRequest([new(two, merged)], Merge: true), Cancel))).Detail!.ShouldContain(
            "Both changed /fields/lockerNumber/label"
        );
        await ada.ImportDocuments(new ImportRequest([new(two, merged)], Merge: true, ConflictResolution: "mine"), Cancel);
        (await ada.File("entity", "berth", Cancel)).Text.ShouldContain("label: Chest");
        (await ada.ImportDocuments(new ImportRequest([new(merged, merged)]), Cancel))
            .Documents.Single()
            .Change.ShouldBe("unchanged", "only here was it changed since");
    }

    [Fact]
    public async Task A_file_retitled_by_hand_again_and_again_is_the_same_form_each_time()
    {
        var text =
            "kind: full\nkey: plain\nentity: vessel\nbody:\n  pages:\n    - title: All\n      sections:\n"
            + "        - title: Measures\n          rows:\n            - [length, beam]\n"
            + "        - title: Identity\n          rows:\n            - [name, registration]\n";
        await ada.ImportDocuments(new ImportRequest([new(text, null)]), Cancel);
        foreach (var (from, to) in new[] { ("Measures", "Size"), ("Size", "Identity"), ("All", "Everything"), ("Identity", "Dimensions") })
        {
            var next = new System.Text.RegularExpressions.Regex($"title: {from}").Replace(text, $"title: {to}", 1);
            var report = await ada.ImportDocuments(new ImportRequest([new(next, text)]), Cancel);
            report.Documents.Single().Summary.ShouldHaveSingleItem().ShouldContain(to);
            (await ada.ImportDocuments(new ImportRequest([new(next, next)]), Cancel)).Documents.Single().Change.ShouldBe("unchanged");
            text = next;
        }

        (await ada.File("layout", "plain", Cancel)).Text.ShouldContain("id: measures\n          title: Dimensions");
    }

    [Fact]
    public async Task A_bundle_has_what_its_documents_rest_on_and_is_taken_elsewhere_in_part_or_under_other_names()
    {
        var bundle = await ada.ExportBundle(["layout/berth"], draft: false, withoutDependencies: false, Cancel);
        using (var archive = new ZipArchive(new MemoryStream(bundle)))
        {
            archive
                .Entries.Select(entry => entry.FullName)
                .ShouldBe(
                    ["choice-lists/zone.yaml", "patterns/berthCode.yaml", "entities/berth.yaml", "layouts/berth.yaml", "manifest.json"],
                    ignoreOrder: true,
                    customMessage: "and nothing else"
                );
        }

        (await ada.ImportBundle(bundle, ["layout/berth"], [], dryRun: true, false, null, Cancel))
            .Bundle!.Documents.Select(named => named.Key)
            .ShouldBe(["zone", "berthCode", "berth", "berth"], ignoreOrder: true, customMessage: "what else is in it can be asked for");

        var folder = RunningService.NewFolder();
        await File.WriteAllTextAsync(
            Path.Combine(folder, "application.yaml"),
            "kind: application\ntitle: Elsewhere\nroles:\n  - key: administrator\n    may: [administer, configure, publish, "
                + "read-records]\n",
            Cancel
        );
        await File.WriteAllTextAsync(
            Path.Combine(folder, "people.yaml"),
            "- { id: greta, name: Greta Root, roles: [administrator] }\n",
            Cancel
        );
        await using var elsewhere = await HostedService.Of(folder);
        using var greta = await elsewhere.As("greta");

        var missing = await Wire.Refused(() => greta.ImportBundle(bundle, ["layout/berth"], [], false, false, null, Cancel));
        (missing.Code, missing.Problems!.Single().Message).ShouldBe(
            ("dependency-missing", "depends on entity 'berth', which is neither in the bundle nor here")
        );
        (
            await greta.ImportBundle(bundle, [], ["entity/berth:place", "layout/berth:place"], dryRun: true, false, null, Cancel)
        ).Documents.ShouldAllBe(taken => taken.Change == "made");
        (await greta.Documents(Cancel)).Count.ShouldBe(1, "a dry run writes nothing");

        (
            await greta.ImportBundle(bundle, [], ["entity/berth:place", "layout/berth:place"], false, false, null, Cancel)
        ).Imported.ShouldBeTrue();
        (await greta.File("layout", "place", Cancel)).Text.ShouldContain("entity: place");
        var references = (await greta.Documents(Cancel))
            .Where(document => document.Kind != "application")
            .Select(document => new DraftReference(document.Kind, document.Key, document.Revision))
            .ToArray();
        (await greta.Publish(new PublishRequest(references), Cancel)).Release.Number.ShouldBe(2);
        (
            await greta.ImportBundle(bundle, [], ["entity/berth:place", "layout/berth:place"], false, false, null, Cancel)
        ).Documents.ShouldAllBe(taken => taken.Change == "unchanged", "taken twice is taken once");
    }

    /// <summary>What both sides come from is known by its hash: of what only one changed nothing is asked.</summary>
    [Theory]
    [InlineData("vessel")]
    [InlineData("boat")]
    public async Task Bundles_are_merged_over_what_both_sides_come_from_one_after_another(string key)
    {
        await using var here = await HostedService.WithDemo();
        await using var there = await HostedService.WithDemo();
        using var one = await here.As("greta");
        using var other = await there.As("greta");
        string[] rename = key == "vessel" ? [] : [$"layout/vessel:{key}"];
        var said = "Rig";
        async Task<byte[]> Out(string label)
        {
            var now = await one.File("layout", "vessel", Cancel);
            await one.ImportDocuments(new ImportRequest([new(now.Text.Replace($"en: {said}", $"en: {said = label}"), now.Text)]), Cancel);
            await one.Publish(new PublishRequest([new("layout", "vessel", (await one.Layout("vessel", Cancel)).Revision)]), Cancel);
            return await one.ExportBundle(["layout/vessel"], draft: false, withoutDependencies: true, Cancel);
        }

        await other.ImportBundle(
            await one.ExportBundle(["layout/vessel"], draft: false, withoutDependencies: true, Cancel),
            [],
            rename,
            false,
            false,
            null,
            Cancel
        );
        var before = (await other.File("layout", key, Cancel)).Text;
        before.ShouldContain("en: Measures");
        await other.ImportDocuments(new ImportRequest([new(before.Replace("en: Measures", "en: Dimensions"), before)]), Cancel);

        (await other.ImportBundle(await Out("Canvas"), [], rename, false, merge: true, null, Cancel))
            .Documents.Single()
            .Change.ShouldBe("merged");
        (await other.ImportBundle(await Out("Sails"), [], rename, false, merge: true, null, Cancel))
            .Documents.Single()
            .Change.ShouldBe("merged", "the bundle before is what both come from");
        var merged = (await other.File("layout", key, Cancel)).Text;
        (
            merged.Contains("en: Sails", StringComparison.Ordinal),
            merged.Contains("en: Dimensions", StringComparison.Ordinal),
            merged.Contains("en: Canvas", StringComparison.Ordinal)
        ).ShouldBe((true, true, false));

        // Going back is a change like any other, though what it goes back to was here before.
        var back = await Out("Canvas");
        (await other.ImportBundle(back, [], rename, false, merge: true, null, Cancel))
            .Documents.Single()
            .ShouldSatisfyAllConditions(
                taken => taken.Change.ShouldBe("merged"),
                taken => taken.Base.ShouldBe("Both come from what a bundle brought after release 1."),
                taken =>
                    (
                        taken.Text.Contains("en: Canvas", StringComparison.Ordinal),
                        taken.Text.Contains("en: Dimensions", StringComparison.Ordinal)
                    ).ShouldBe((true, true))
            );
        (await other.ImportBundle(back, [], rename, false, merge: true, null, Cancel))
            .Documents.Single()
            .Change.ShouldBe("unchanged", "it was taken already");

        var again = (await other.File("layout", key, Cancel)).Text;
        await other.ImportDocuments(new ImportRequest([new(again.Replace("en: Canvas", "en: Sails"), again)]), Cancel);
        (await other.ImportBundle(back, [], rename, false, merge: true, null, Cancel))
            .Documents.Single()
            .Change.ShouldBe("unchanged", "what was changed here since stands");
        (
            await Wire.Refused(async () => await other.ImportBundle(await Out("Rigging"), [], rename, false, merge: true, null, Cancel))
        ).Code.ShouldBe("conflict", "both changed the same since");
    }

    [Theory]
    [InlineData("climbing", "where such a document does not stand")]
    [InlineData("altered", "it was altered")]
    [InlineData("missing", "is missing")]
    [InlineData("bomb", "is longer than")]
    [InlineData("latin", "not UTF-8")]
    [InlineData("cut", "no archive (ZIP), or not a whole one")]
    [InlineData("words", "no archive (ZIP), or not a whole one")]
    public async Task A_bundle_that_is_not_what_it_says_is_refused_and_nothing_is_written(string how, string expected)
    {
        var bundle = await ada.ExportBundle(["choice-list/zone"], draft: false, withoutDependencies: true, Cancel);
        var bytes = how switch
        {
            "words" => Encoding.UTF8.GetBytes("a bundle, upon my word"),
            "cut" => bundle[..(bundle.Length / 2)],
            _ => Rewritten(bundle, how),
        };
        using var http = await service.Http("greta");
        using var content = new ByteArrayContent(bytes) { Headers = { ContentType = new MediaTypeHeaderValue("application/zip") } };

        using var answer = await http.PostAsync("api/bundle", content, Cancel);

        ((int)answer.StatusCode).ShouldBe(400);
        (await answer.Problem()).ShouldSatisfyAllConditions(
            problem => problem.Code.ShouldBe("bundle-invalid"),
            problem => problem.Detail!.ShouldContain(expected)
        );
        Directory.EnumerateFiles(Path.GetDirectoryName(service.Data)!, "evil*").ShouldBeEmpty();
    }

    /// <summary>What somebody changed since is not written over: refused, merged, or replaced by somebody who says so.</summary>
    [Fact]
    public async Task A_bundle_takes_nothing_back_that_was_changed_here_since()
    {
        var bundle = await ada.ExportBundle(["layout/keeper"], draft: true, withoutDependencies: true, Cancel);
        (await ada.ImportBundle(bundle, [], [], false, false, null, Cancel)).Documents.Single().Change.ShouldBe("unchanged");
        var changed = await Titled("Somebody");
        // The bundle brings what was here before: nothing of it is new, and what was done since stays.
        (await ada.ImportBundle(bundle, [], [], false, false, null, Cancel)).Documents.Single().Change.ShouldBe("unchanged");

        await Titled("Whoever");
        var theirs = await ada.ExportBundle(["layout/keeper"], draft: true, withoutDependencies: true, Cancel);
        await Titled("Somebody");
        (await Wire.Refused(() => ada.ImportBundle(theirs, [], [], false, false, null, Cancel))).Detail!.ShouldContain("moved on since");
        (await ada.File("layout", "keeper", Cancel)).Text.ShouldBe(changed);

        (await ada.ImportBundle(theirs, [], [], false, false, "theirs", Cancel)).Documents.Single().Change.ShouldBe("unchanged");
        (await ada.ImportBundle(theirs, [], [], false, false, "mine", Cancel)).Documents.Single().Change.ShouldBe("changed");
        (await ada.File("layout", "keeper", Cancel)).Text.ShouldContain("en: Whoever,");

        async Task<string> Titled(string title)
        {
            var (text, tag) = await ada.File("layout", "keeper", Cancel);
            var other = Regex.Replace(text, "en: (Person|Somebody|Whoever),", $"en: {title},");
            other.ShouldNotBe(text);
            await ada.PutFile("layout", "keeper", other, tag, Cancel);
            return (await ada.File("layout", "keeper", Cancel)).Text;
        }
    }

    [Fact]
    public async Task What_a_newer_version_says_more_in_a_bundle_is_passed_over() =>
        (
            await ada.ImportBundle(
                Rewritten(await ada.ExportBundle(["choice-list/zone"], draft: false, withoutDependencies: true, Cancel), "newer"),
                [],
                [],
                dryRun: true,
                false,
                null,
                Cancel
            )
        )
            .Bundle!.Documents.Single()
            .Key.ShouldBe("zone");

    private static byte[] Rewritten(byte[] bundle, string how)
    {
        using var old = new ZipArchive(new MemoryStream(bundle));
        var target = new MemoryStream();
        using (var archive = new ZipArchive(target, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var entry in old.Entries.Where(entry => how != "missing" || entry.Name == "manifest.json"))
            {
                using var reader = new StreamReader(entry.Open());
                var text = reader.ReadToEnd();
                var (name, content) = (entry.FullName, Encoding.UTF8.GetBytes(text));
                if (how == "climbing")
                {
                    (name, content) = (
                        name.Replace("choice-lists/zone", "../../evil"),
                        Encoding.UTF8.GetBytes(text.Replace("choice-lists/zone", "../../evil"))
                    );
                }
                else if (how == "altered" && entry.Name != "manifest.json")
                {
                    content = Encoding.UTF8.GetBytes(text.Replace("outer", "inner"));
                }
                else if (how == "newer" && entry.Name == "manifest.json")
                {
                    content = Encoding.UTF8.GetBytes("{\"signedBy\":\"quay\"," + text[1..]);
                }
                else if (how == "bomb" && entry.Name != "manifest.json")
                {
                    content = new byte[6_000_000];
                }
                else if (how == "latin" && entry.Name != "manifest.json")
                {
                    content = [0xFF, 0xFE, 0xE9];
                }

                using var stream = archive.CreateEntry(name).Open();
                stream.Write(content);
            }
        }

        return target.ToArray();
    }
}
