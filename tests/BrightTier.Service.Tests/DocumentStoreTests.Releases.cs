using BrightTier.Storage;

namespace BrightTier.Service.Tests;

public abstract partial class DocumentStoreTests
{
    /// <summary>
    /// Releases that keep what they changed alone, some of them called off, some without what their base had: each has all its documents
    /// still.
    /// </summary>
    [Fact]
    public async Task A_release_keeps_what_it_changed_and_has_all_documents_still()
    {
        var random = new Random(17);
        var current = 0L;
        var held = new Dictionary<long, Dictionary<string, string>> { [0] = [] };
        for (var number = 1L; number <= 40; number++)
        {
            var now = new Dictionary<string, string>(held[current]);
            var changed = new Dictionary<string, string>();
            foreach (var key in Enumerable.Range(0, number == 1 ? 12 : random.Next(1, 4)).Select(_ => $"form{random.Next(12)}").Distinct())
            {
                var text = now.ContainsKey(key) && random.Next(4) == 0 ? "" : $"text {random.Next(6)}";
                changed[key] = text;
                now[key] = text;
                if (text.Length == 0)
                {
                    now.Remove(key);
                }
            }

            var ahead = current > 0 && random.Next(3) == 0;
            (await Publish(number, current, changed, ahead)).ShouldBeTrue();
            held[number] = now;
            if (ahead)
            {
                var everyone = random.Next(2) == 0;
                (
                    await releases.End(
                        number,
                        everyone ? RolloutRow.Promoted : RolloutRow.Cancelled,
                        null,
                        Told("release.ended"),
                        () => { },
                        Cancel
                    )
                ).ShouldBeTrue();
                current = everyone ? number : current;
            }
            else
            {
                current = number;
            }
        }

        foreach (var (number, texts) in held.Where(each => each.Key > 0))
        {
            (await releases.Texts(number, Cancel)).ToDictionary(text => text.Key, text => text.Text).ShouldBe(texts, ignoreOrder: true);
            (await releases.HashIn(number, "layout", "form3", Cancel)).ShouldBe(
                texts.TryGetValue("form3", out var text) ? ReleaseStore.HashOf(text) : null
            );
        }
    }

    private async Task<bool> Publish(long number, long from, Dictionary<string, string> changed, bool ahead)
    {
        await releases.StoreContents(changed.Values, Cancel);
        var release = new ReleaseRow
        {
            Number = number,
            At = 1,
            By = "ada",
            Note = "",
            Base = from,
            Partial = from > 0,
        };
        release.Documents.AddRange(
            changed.Select(each => new ReleaseDocumentRow
            {
                Release = number,
                Kind = "layout",
                Key = each.Key,
                Hash = ReleaseStore.HashOf(each.Value),
            })
        );
        return await Publish(release, ahead ? "quay-hand" : null);
    }

    [Fact]
    public async Task What_reading_a_text_came_to_is_given_to_who_read_it_and_to_nobody_else()
    {
        await Publish(1, 0, "one", 1);
        var hash = ReleaseStore.HashOf("one");
        (await releases.Texts(1, Cancel, "this")).Single().Head.ShouldBeNull();

        await releases.KeepHeads(
            [
                new LayoutHeadRow
                {
                    Hash = hash,
                    Reader = "this",
                    Head = "first",
                },
            ],
            Cancel
        );
        (await releases.Texts(1, Cancel, "this")).Single().ShouldBe(new ReleasedText("layout", "vessel", hash, "one", "first"));
        (await releases.Texts(1, Cancel, "that")).Single().Head.ShouldBeNull();
        (await releases.Texts(1, Cancel)).Single().Head.ShouldBeNull();

        await releases.StoreContents(
            ["one", "one"],
            Cancel,
            new LayoutHeadRow
            {
                Hash = hash,
                Reader = "that",
                Head = "second",
            },
            new LayoutHeadRow
            {
                Hash = hash,
                Reader = "that",
                Head = "second",
            }
        );
        (await releases.Texts(1, Cancel, "that")).Single().Head.ShouldBe("second");
        (await releases.Texts(1, Cancel, "this")).Single().Head.ShouldBeNull("one head is kept of a text");
    }
}
