using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Resolution;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Records;

/// <param name="Sort">Keys of fields with commas between, a - before those that run downwards.</param>
/// <param name="Filter">A condition in CEL.</param>
/// <param name="Listed">Whether the published list's own filter, and its order where none is asked for, are in force.</param>
public sealed record ListRequest(string? Search, string? Sort, string? Filter, bool Listed, string? After, int Limit);

/// <summary>Lists of records as somebody asks for them: what she may not read can neither be sorted nor filtered by.</summary>
public sealed class RecordLists(CurrentRelease releases, IRecordStore store, RecordContext around)
{
    /// <exception cref="RefusedException">400 or 404, with what is wrong and where.</exception>
    public async Task<RecordQuery> Query(Entity entity, ListRequest asked, Caller caller, string language, CancellationToken cancel)
    {
        var snapshot = releases.Snapshot;
        var readable = entity.Fields.Where(field => field.MayRead(caller.Roles)).ToArray();
        if (asked.Limit is < 1 or > 200)
        {
            throw Problems.Invalid($"'limit' must be from 1 to 200.", Problems.Part("limit", $"is out of range"));
        }

        var surroundings = await around.Around(
            entity,
            new Dictionary<string, object?>(),
            [],
            snapshot.Definitions,
            caller,
            Modes.View,
            language,
            cancel
        );
        var filters = new List<RecordFilter>();
        var sort = asked.Sort;
        if (asked.Listed)
        {
            var list = snapshot.LayoutFor(entity, "list", caller.Roles, surroundings).Base.Root;
            if (list.Word("filter") is { } own && Condition.Compile(own, entity, snapshot.Definitions).Expression is { } condition)
            {
                // Which records are listed would tell what the viewer may not read: for her it is empty.
                filters.Add(
                    new RecordFilter(
                        condition.WithoutHidden(read => entity.MayRead(read, snapshot.Definitions, caller.Roles)),
                        surroundings,
                        snapshot.Definitions
                    )
                );
            }

            sort = string.IsNullOrEmpty(sort)
                ? string.Join(',', list.Words("sort").Where(key => readable.Any(field => field.Key == key.TrimStart('-'))))
                : sort;
        }

        if (!string.IsNullOrWhiteSpace(asked.Filter))
        {
            filters.Add(
                new RecordFilter(Filter(asked.Filter, entity, snapshot.ReadableBy(caller.Roles)), surroundings, snapshot.Definitions)
            );
        }

        return new RecordQuery
        {
            Search = asked.Search,
            SearchIn = [.. readable.Where(field => field.Type.IsShortText() || field.Type is FieldType.LongText)],
            Filters = filters,
            Sort =
            [
                .. (sort ?? "")
                    .Split(',', StringSplitOptions.RemoveEmptyEntries)
                    .DistinctBy(key => key.TrimStart('-'))
                    .Select(key => new SortBy(
                        readable.FirstOrDefault(field => field.Key == key.TrimStart('-'))
                            ?? throw Problems.NotFound($"field", key.TrimStart('-'), readable.Select(field => field.Key)),
                        key.StartsWith('-')
                    )),
            ],
            After = asked.After,
            Limit = asked.Limit,
        };
    }

    /// <summary>Says that a list would take long, and why, before it does.</summary>
    /// <exception cref="RefusedException">409 slow: it reads a large table whole.</exception>
    public async Task RequireQuick(Entity entity, RecordQuery query, string language, CancellationToken cancel)
    {
        if (await store.Foresee(entity, query, cancel) is { } slow)
        {
            var fields = string.Join(", ", slow.Fields.Select(field => field.Label.In(language)));
            throw new RefusedException(
                409,
                "slow",
                $"This may take long: about {slow.Rows} rows are read, since no index of the database leads to {fields}.",
                [Problems.Part("slow", $"must be true to have it anyway", "slow")]
            );
        }
    }

    /// <summary>The records; what the store cannot do is told as the asker's.</summary>
    public async Task<RecordRows> Rows(Entity entity, RecordQuery query, CancellationToken cancel)
    {
        try
        {
            return await store.List(entity, query, cancel);
        }
        catch (CursorException)
        {
            throw Problems.Invalid(
                $"The cursor is not one this list gave out.",
                Problems.Part("after", $"must be the 'next' of the page before, in the same order")
            );
        }
        catch (NotForDatabaseException error)
        {
            throw Problems.Invalid(
                $"The filter, at character {error.At.Start + 1}: {error.Reason}.",
                Problems.Part("filter", error.Reason)
            );
        }
    }

    /// <summary>
    /// A filter as somebody writes it. It knows only of what she may read, so that no message names anything else; and it is forgotten,
    /// since anything can be written.
    /// </summary>
    private static Expression Filter(string text, Entity entity, Definitions readable)
    {
        var (condition, problems) = Condition.CompileAnew(text, readable.Entities[entity.Key], readable);
        return condition
            ?? throw Problems.Invalid(
                $"The filter, at character {problems[0].At.Start + 1}: {problems[0].Message}.",
                [.. problems.Select(each => Problems.Part("filter", each.Message))]
            );
    }
}
