using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Records;

/// <summary>
/// A record as it is stored: values by field as <see cref="FieldValues"/> describes them, and what the service filled. Of a row of an
/// attached table only what was done through the service is known; the rest of who and when is null.
/// </summary>
public sealed record StoredRecord(
    long Id,
    long Version,
    IReadOnlyDictionary<string, object?> Values,
    DateTimeOffset? CreatedAt,
    string? CreatedBy,
    DateTimeOffset? ChangedAt,
    string? ChangedBy
);

/// <summary>One level of an order.</summary>
public sealed record SortBy(Field Field, bool Descending);

/// <summary>A condition that the records asked for fulfil, with what it is to know beside the record.</summary>
public sealed record RecordFilter(Expression Condition, EvaluationContext Surroundings, Definitions Definitions);

/// <summary>Which records, in what order.</summary>
public sealed record RecordQuery
{
    /// <summary>The most that are counted: beyond, a count costs more than it tells.</summary>
    public const int Counted = 10_000;

    /// <summary>Words, each of which is found in one of <see cref="SearchIn"/>.</summary>
    public string? Search { get; init; }

    public IReadOnlyList<Field> SearchIn { get; init; } = [];

    public IReadOnlyList<RecordFilter> Filters { get; init; } = [];

    /// <summary>Empty for the order of creation.</summary>
    public IReadOnlyList<SortBy> Sort { get; init; } = [];

    /// <summary>The cursor of the page before, as <see cref="RecordRows.Next"/> gave it.</summary>
    public string? After { get; init; }

    public int Limit { get; init; } = 50;
}

/// <summary>Why a list would take long: so many rows are read, since no index leads to what is asked for of these fields.</summary>
public sealed record SlowQuery(long Rows, IReadOnlyList<Field> Fields);

/// <param name="Total">How many there are, at most one more than <see cref="RecordQuery.Counted"/>.</param>
public sealed record RecordRows(IReadOnlyList<StoredRecord> Records, string? Next, long Total);

/// <summary>What became of a change to a record.</summary>
public abstract record SaveOutcome
{
    private SaveOutcome() { }

    /// <param name="Before">How it was, where others than the service write it too and so nobody else knows.</param>
    public sealed record Success(StoredRecord Record, StoredRecord? Before = null) : SaveOutcome;

    public sealed record NotFound : SaveOutcome;

    /// <summary>Somebody saved it since; this is how it is now.</summary>
    public sealed record VersionConflict(StoredRecord Current) : SaveOutcome;

    /// <summary>Another record has this value of a unique field.</summary>
    public sealed record DuplicateValue(Field Field) : SaveOutcome;

    /// <summary>A reference to a record that is not there.</summary>
    public sealed record ReferenceNotFound(Field Field) : SaveOutcome;

    /// <summary>A database that is not ours stands against it, in its own words.</summary>
    /// <param name="Field">What it is about, where that is told.</param>
    /// <param name="Empty">Whether something must stand there.</param>
    public sealed record Objection(Field? Field, string Words, bool Empty = false) : SaveOutcome;

    /// <summary>It is only read, and why: a field of it, or all of it.</summary>
    public sealed record ReadOnly(Field? Field, WriteBar Why) : SaveOutcome;

    /// <summary>Other records refer to the one to be deleted.</summary>
    public sealed record InUse : SaveOutcome;
}

/// <summary>One of several changes that are made together or not at all.</summary>
public abstract record RecordWrite(Entity Entity)
{
    /// <param name="Parent">The field that points at the first record written, where this one hangs on it.</param>
    public sealed record Create(Entity Entity, IReadOnlyDictionary<string, object?> Values, Field? Parent = null) : RecordWrite(Entity);

    public sealed record Change(Entity Entity, long Id, long Version, IReadOnlyDictionary<string, object?> Values) : RecordWrite(Entity);

    public sealed record Delete(Entity Entity, long Id, long Version) : RecordWrite(Entity);
}

/// <summary>A state a record was in: what was done to it, when, by whom, and the values it had from then on.</summary>
public sealed record RecordState(long Version, string Action, DateTimeOffset At, string By, IReadOnlyDictionary<string, object?> Values);

/// <summary>Who changes a record, and when.</summary>
public sealed record Stamp(string By, DateTimeOffset At);

/// <summary>A cursor that this store did not give out.</summary>
public sealed class CursorException() : Exception("The cursor is not one this list gave out.");

/// <summary>
/// The business database: one ordinary table an entity, one typed column a field. One implementation a kind of database; one suite of tests
/// for all.
/// </summary>
public interface IRecordStore
{
    /// <summary>
    /// Creates the tables of entities, and the columns and indexes they lack. Never removes; doing it again does nothing.
    /// </summary>
    /// <param name="sorted">Fields that lists are sorted or filtered by; each gets an index.</param>
    Task Define(Definitions definitions, IReadOnlySet<(string Entity, string Field)> sorted, CancellationToken cancel);

    /// <summary>Whether there is anything of records here: false of a database that was never defined, or was lost.</summary>
    Task<bool> IsThere(CancellationToken cancel);

    Task<StoredRecord?> Find(Entity entity, long id, CancellationToken cancel);

    /// <summary>Those of the records that are there, in no particular order.</summary>
    Task<IReadOnlyList<StoredRecord>> FindMany(Entity entity, IReadOnlyCollection<long> ids, CancellationToken cancel);

    /// <exception cref="CursorException">The query's cursor is malformed, or of another order.</exception>
    /// <exception cref="NotForDatabaseException">A filter cannot be decided by a database.</exception>
    Task<RecordRows> List(Entity entity, RecordQuery query, CancellationToken cancel);

    /// <summary>Whether a list would take long, and why; null where it would not, or nobody can tell.</summary>
    Task<SlowQuery?> Foresee(Entity entity, RecordQuery query, CancellationToken cancel);

    async Task<SaveOutcome> Create(Entity entity, IReadOnlyDictionary<string, object?> values, Stamp stamp, CancellationToken cancel) =>
        (await Write([new RecordWrite.Create(entity, values)], stamp, cancel))[0];

    /// <summary>Changes the fields given; the others stay.</summary>
    async Task<SaveOutcome> Change(
        Entity entity,
        long id,
        long version,
        IReadOnlyDictionary<string, object?> values,
        Stamp stamp,
        CancellationToken cancel
    ) => (await Write([new RecordWrite.Change(entity, id, version, values)], stamp, cancel))[0];

    /// <summary>Deletes a record; its last state stays in the history.</summary>
    async Task<SaveOutcome> Delete(Entity entity, long id, long version, Stamp stamp, CancellationToken cancel) =>
        (await Write([new RecordWrite.Delete(entity, id, version)], stamp, cancel))[0];

    /// <summary>Brings a deleted record back as it last was, under its number.</summary>
    Task<SaveOutcome> Restore(Entity entity, long id, Stamp stamp, CancellationToken cancel);

    /// <summary>
    /// Makes several changes in one transaction. What became of each, in order; the first that is not Saved is the last, and then nothing
    /// was done.
    /// </summary>
    Task<IReadOnlyList<SaveOutcome>> Write(IReadOnlyList<RecordWrite> writes, Stamp stamp, CancellationToken cancel);

    /// <summary>Everything that happened to a record, newest first, at most 200; a deleted record has a history too.</summary>
    Task<IReadOnlyList<RecordState>> History(Entity entity, long id, CancellationToken cancel);

    /// <summary>What was done to records of every entity, newest first, as far as it is asked for.</summary>
    Task<IReadOnlyList<RecordAction>> Actions(RecordActionQuery query, CancellationToken cancel);

    /// <summary>
    /// Writes everything as it is at one moment, as lines of JSON: the records of each entity under its key, in the order of their numbers,
    /// then the history under null.
    /// </summary>
    Task Dump(Definitions definitions, Func<string?, Stream> open, CancellationToken cancel);

    /// <summary>
    /// Puts what <see cref="Dump"/> wrote into empty tables, all of it or nothing; numbers that were given once are not given again.
    /// </summary>
    /// <param name="open">The lines of an entity, or with null of the history; null where there are none.</param>
    Task Load(Definitions definitions, Func<string?, Stream?> open, CancellationToken cancel);
}
