using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Records;

namespace BrightTier.Service.Tests;

// Many at once: saved side by side, one version changed by many, a table that is read page by page.
public abstract partial class RecordStoreTests
{
    /// <summary>More statements than are kept prepared, by many at once: each record has what it was given, and its history too.</summary>
    [Fact]
    public async Task Many_sets_of_fields_are_saved_side_by_side_and_none_is_mixed_up()
    {
        Field[] optional =
        [
            .. Boat.Fields.Where(field => field.Key is "notes" or "crew" or "length" or "fee" or "afloat" or "built" or "hull" or "stars"),
        ];
        object? Value(Field field, int set) =>
            field.Type switch
            {
                FieldType.Integer or FieldType.Rating => (long)(set % 5),
                FieldType.Decimal or FieldType.Money => set + 0.25m,
                FieldType.Boolean => set % 2 == 0,
                FieldType.Date => new DateOnly(2026, 1, 1).AddDays(set),
                _ => $"of {set}",
            };
        Dictionary<string, object?> Given(int set) =>
            optional.Where((_, bit) => (set >> bit & 1) == 1).ToDictionary(field => field.Key, field => Value(field, set));

        var made = await Task.WhenAll(
            Enumerable
                .Range(0, 256)
                .Select(async set =>
                    (
                        set,
                        record: (
                            await store.Create(
                                Boat,
                                new Dictionary<string, object?>(Given(set)) { ["number"] = $"set {set}" },
                                Stamp,
                                Cancel
                            )
                        )
                            .ShouldBeOfType<SaveOutcome.Success>()
                            .Record
                    )
                )
        );

        made.Select(each => each.record.Id).Distinct().Count().ShouldBe(256);
        foreach (var (set, record) in made.Where(each => each.set % 7 == 0))
        {
            var there = (await store.Find(Boat, record.Id, Cancel))!;
            var state = (await store.History(Boat, record.Id, Cancel)).ShouldHaveSingleItem();
            foreach (var field in optional)
            {
                there.Values[field.Key].ShouldBe(Given(set).GetValueOrDefault(field.Key), $"{field.Key} of set {set}");
                FieldValues.Same(state.Values[field.Key], there.Values[field.Key]).ShouldBeTrue($"{field.Key} of set {set} in its history");
            }
        }
    }

    /// <summary>
    /// What a constraint or a version refuses in the middle of several leaves nothing behind, neither records nor what stands in the way of
    /// the next.
    /// </summary>
    [Fact]
    public async Task After_what_was_refused_the_next_save_is_whole()
    {
        await Create(Boat, ("number", "7"));
        var before = (await store.List(Boat, new RecordQuery { Limit = 10 }, Cancel)).Total;
        for (var round = 0; round < 3; round++)
        {
            (
                await store.Write(
                    [new RecordWrite.Create(Boat, Values(("number", $"n{round}"))), new RecordWrite.Create(Boat, Values(("number", "7")))],
                    Stamp,
                    Cancel
                )
            )[^1]
                .ShouldBeOfType<SaveOutcome.DuplicateValue>()
                .Field.Key.ShouldBe("number");
            (
                await store.Write(
                    [new RecordWrite.Create(Boat, Values(("number", $"n{round}"))), new RecordWrite.Create(Boat, Values(("pier", 99L)))],
                    Stamp,
                    Cancel
                )
            )[^1]
                .ShouldBeOfType<SaveOutcome.ReferenceNotFound>();
            (
                await store.Write(
                    [
                        new RecordWrite.Create(Boat, Values(("number", $"n{round}"))),
                        new RecordWrite.Change(Boat, 1, 99, Values(("crew", 1L))),
                    ],
                    Stamp,
                    Cancel
                )
            )[^1]
                .ShouldBeOfType<SaveOutcome.VersionConflict>();
            (await store.List(Boat, new RecordQuery { Limit = 10 }, Cancel)).Total.ShouldBe(before + round);
            await Create(Boat, ("number", $"n{round}"));
        }
    }

    /// <summary>Of many who change one record from the same version one does; and whoever gives up waiting takes nobody's turn.</summary>
    [Fact]
    public async Task Of_many_who_change_one_version_one_does_and_who_gives_up_holds_up_nobody()
    {
        var boat = await Create(Boat, ("number", "8"), ("crew", 0L));
        using var gone = new CancellationTokenSource();
        await gone.CancelAsync();
        var outcomes = await Task.WhenAll(
            Enumerable
                .Range(1, 20)
                .Select(async crew =>
                {
                    try
                    {
                        return await store.Change(
                            Boat,
                            boat.Id,
                            1,
                            Values(("crew", (long)crew)),
                            Stamp,
                            crew % 4 == 0 ? gone.Token : Cancel
                        );
                    }
                    catch (OperationCanceledException)
                    {
                        return null;
                    }
                })
        );

        outcomes.Count(outcome => outcome is SaveOutcome.Success).ShouldBe(1);
        outcomes.Count(outcome => outcome is SaveOutcome.VersionConflict).ShouldBe(14);
        outcomes.Count(outcome => outcome is null).ShouldBe(5);
        (await store.Find(Boat, boat.Id, Cancel))!.Version.ShouldBe(2);
    }

    [Fact]
    public async Task Pages_follow_each_other_without_gap_in_every_order_with_empty_values_last()
    {
        for (var i = 0; i < 23; i++)
        {
            await Create(
                Boat,
                ("number", $"P{i}"),
                ("crew", i % 4 == 0 ? null : (long)(i % 3)),
                ("name", i % 5 == 0 ? null : $"{"bBaA"[i % 4]}{i}")
            );
        }

        foreach (
            var (sort, descending) in new[]
            {
                ("crew", false),
                ("crew", true),
                ("name", false),
                ("name", true),
                ("crew,name", true),
                ("name,crew", false),
            }
        )
        {
            var all = new List<StoredRecord>();
            string? after = null;
            do
            {
                var page = await store.List(
                    Boat,
                    new RecordQuery
                    {
                        Sort = [.. sort.Split(',').Select((key, level) => new SortBy(Boat.Find(key)!, descending == (level == 0)))],
                        After = after,
                        Limit = 4,
                    },
                    Cancel
                );
                all.AddRange(page.Records);
                after = page.Next;
            } while (after is not null);

            all.Select(record => record.Id).ShouldBeUnique();
            all.Count.ShouldBe(23);
            var first = sort.Split(',')[0];
            all.SkipWhile(record => record.Values[first] is not null).ShouldAllBe(record => record.Values[first] == null);
        }

        await Should.ThrowAsync<CursorException>(() => store.List(Boat, new RecordQuery { After = "%%%", Limit = 4 }, Cancel));
    }

    [Fact]
    public async Task What_was_done_is_told_newest_first_and_page_by_page_across_entities()
    {
        var at = Stamp.At;
        Stamp Next(string by) => new(by, at = at.AddSeconds(1));
        var pier = await Create(Pier, ("name", "North"));
        // At one moment, as an import has it.
        var boats = new List<StoredRecord>();
        for (var i = 0; i < 5; i++)
        {
            boats.Add(await Create(Boat, ("name", $"Boat {i}"), ("number", $"{i}")));
        }

        await store.Change(Boat, boats[2].Id, 1, Values(("name", "Gull")), Next("bram"), Cancel);
        await store.Delete(Pier, pier.Id, 1, Next("ada"), Cancel);
        await store.Restore(Pier, pier.Id, Next("cleo"), Cancel);
        var all = await store.Actions(new RecordActionQuery(), Cancel);
        all.Take(3)
            .ShouldBe([
                new("pier", pier.Id, 3, "restore", at, "cleo"),
                new("pier", pier.Id, 2, "delete", at.AddSeconds(-1), "ada"),
                new("boat", boats[2].Id, 2, "change", at.AddSeconds(-2), "bram"),
            ]);
        all.Skip(3).Select(each => (each.Entity, each.Record)).ShouldBe([.. boats.Select(boat => ("boat", boat.Id)), ("pier", pier.Id)]);

        var paged = new List<RecordAction>();
        for (IReadOnlyList<RecordAction> page = []; paged.Count == 0 || page.Count > 0; paged.AddRange(page))
        {
            page = await store.Actions(
                new RecordActionQuery(Limit: 2, After: paged.Count == 0 ? null : RecordAction.Read(paged[^1].Cursor)),
                Cancel
            );
        }

        paged.ShouldBe(all);
        (await store.Actions(new RecordActionQuery(By: "bram"), Cancel)).ShouldHaveSingleItem().Action.ShouldBe("change");
        (await store.Actions(new RecordActionQuery(Entity: "pier", Record: pier.Id), Cancel)).Count.ShouldBe(3);
        (
            await store.Actions(
                new RecordActionQuery(Action: "create", Entity: "boat", From: Stamp.At, Until: Stamp.At.AddMilliseconds(1)),
                Cancel
            )
        ).Count.ShouldBe(5);
        (await store.Actions(new RecordActionQuery(Until: Stamp.At), Cancel)).ShouldBeEmpty();
    }
}
