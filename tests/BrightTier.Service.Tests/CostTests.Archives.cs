using System.IO.Compression;
using System.Text;

namespace BrightTier.Service.Tests;

// Bodies that are larger inside than outside.
public sealed partial class CostTests
{
    [Fact]
    public async Task Pieces_within_pieces_expand_no_further_than_a_layout_may()
    {
        using var greta = await service.As("greta");
        using var http = await service.Http("greta");
        for (var level = 4; level >= 0; level--)
        {
            var rows = string.Concat(
                Enumerable
                    .Range(0, 30)
                    .Select(i =>
                        level == 4
                            ? $"          - [a/6, {{ heading: H{i}, id: h{i} }}]\n"
                            : $"          - - piece: fan{level + 1}\n              id: u{i}\n              slots: {{ a: a }}\n"
                    )
            );
            var saved = await greta.PutFile(
                "layout",
                $"fan{level}",
                $"kind: piece\nkey: fan{level}\ntitle: Fan {level}\nslots:\n  - {{ slot: a, label: A, types: [text] "
                    + $"}}\nsections:\n  - id: s\n    rows:\n{rows}",
                null,
                Cancel
            );
            saved.Changed.ShouldBeTrue();
        }

        await greta.PutFile(
            "layout",
            "fanned",
            "kind: full\nkey: fanned\nentity: vessel\ntitle: Fanned\nbody:\n  pages:\n    - id: page\n      title: P\n      "
                + "sections:\n        - id: s\n          title: S\n          rows:\n            - - piece: fan0\n               "
                + " id: u\n                slots: { a: name }\n",
            null,
            Cancel
        );
        foreach (
            var path in new[]
            {
                "api/layouts",
                "api/layouts/fanned",
                "api/layouts/fanned/findings",
                "api/layouts/fanned/preview",
                "api/layouts/fanned/view",
                "api/layouts/fanned/length",
                "api/layouts/fanned/explain?node=u",
                "api/layouts/fan0/preview",
                "api/pieces",
                "api/impact?subject=piece&name=fan4",
            }
        )
        {
            await Send(http, "get", path, null, path);
        }

        (await http.GetStringAsync("api/layouts/fanned/findings", Cancel)).ShouldContain("too-many-nodes");
        Told();
    }

    [Fact]
    public async Task Bundles_and_tables_that_unfold_are_refused_before_they_do()
    {
        using var http = await service.Http("greta");
        foreach (var (what, bundle) in Bundles())
        {
            var status = await Send(
                http,
                "post",
                "api/bundle?dryRun=true",
                new ByteArrayContent(bundle) { Headers = { ContentType = new("application/zip") } },
                what
            );
            status.ShouldBeInRange(400, 499, what);
        }

        foreach (
            var table in new[]
            {
                Times(",", 3_000_000),
                "name\r\n" + Times("a\r\n", 400_000),
                "\"" + new string('a', 5_000_000),
                Times("\"\"", 2_000_000),
                "name" + Times(",name", 100_000) + "\r\n",
            }
        )
        {
            await Send(
                http,
                "post",
                "api/records/vessel/csv?dryRun=true",
                new StringContent(table, Encoding.UTF8, "text/csv"),
                $"table {table[..8].Replace('\r', ' ').Replace('\n', ' ')}"
            );
            await Send(
                http,
                "post",
                "api/records/vessel/csv/columns",
                new StringContent(table, Encoding.UTF8, "text/csv"),
                $"columns {table[..8].Replace('\r', ' ').Replace('\n', ' ')}"
            );
        }

        Told();
    }

    private static IEnumerable<(string What, byte[] Bundle)> Bundles()
    {
        var text = "kind: pattern\nkey: berthCode\nlabel: a\npattern: a\n" + "# " + new string(' ', 3_500_000);
        var hash = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(Encoding.UTF8.GetBytes(text)));
        var named = $$"""{"kind":"pattern","key":"berthCode","path":"patterns/berthCode.yaml","hash":"{{hash}}","restsOn":[]}""";
        yield return ("one entry named 1,900 times", Zip(string.Join(',', Enumerable.Repeat(named, 1_900)), text));
        yield return ("an entry that unfolds", Zip(named, new string(' ', 400_000_000)));
        yield return ("a manifest that unfolds", Zip(new string(' ', 200_000_000), text));

        static byte[] Zip(string documents, string text)
        {
            var target = new MemoryStream();
            using (var archive = new ZipArchive(target, ZipArchiveMode.Create, leaveOpen: true))
            {
                Add("patterns/berthCode.yaml", text);
                Add(
                    "manifest.json",
                    $$"""
                    {"format":"bright-tier-bundle","version":1,"at":"2026-11-01T00:00:00Z","from":"x","release":1,
                    "documents":[{{documents}}]}
                    """
                );

                void Add(string name, string content)
                {
                    using var stream = archive.CreateEntry(name, CompressionLevel.Fastest).Open();
                    stream.Write(Encoding.UTF8.GetBytes(content));
                }
            }

            return target.ToArray();
        }
    }
}
