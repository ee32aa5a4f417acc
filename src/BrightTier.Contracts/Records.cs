using System.Text.Json;

namespace BrightTier.Contracts;

/// <summary>A record with the values its reader may read, by field; references come with the text that names their record.</summary>
public sealed record RecordInfo(
    string Entity,
    long Id,
    long Version,
    string Title,
    JsonElement Values,
    IReadOnlyDictionary<string, RecordName> References,
    DateTimeOffset? CreatedAt,
    string? CreatedBy,
    DateTimeOffset? ChangedAt,
    string? ChangedBy
);

public sealed record RecordName(long Id, string Title);

/// <summary>What a search found of one entity.</summary>
public sealed record FoundRecords(string Entity, string Plural, IReadOnlyList<RecordName> Records);

/// <summary>
/// One page; <see cref="Next"/> is the cursor of the following one, null on the last. There are <see cref="Total"/> in all, or more where
/// it is not exact.
/// </summary>
public sealed record RecordPage(IReadOnlyList<RecordInfo> Records, string? Next, long Total, bool Exact = true);

/// <summary>
/// Values to save, by field; fields left out stay as they are. <see cref="Form"/> names the layout they were entered in; without it only
/// the
/// entity's rules are applied. <see cref="Related"/> are records that point at this one, saved with it in one transaction.
/// </summary>
public sealed record RecordSave(JsonElement Values, FormReference? Form = null, IReadOnlyList<RelatedSave>? Related = null);

/// <summary>
/// What became of the records of <paramref name="Entity"/> that point at the one saved by their field <paramref name="Through"/>.
/// </summary>
public sealed record RelatedSave(
    string Entity,
    string Through,
    IReadOnlyList<JsonElement>? Created = null,
    IReadOnlyList<RelatedChange>? Changed = null,
    IReadOnlyList<RelatedRemoval>? Removed = null
);

public sealed record RelatedChange(long Id, long Version, JsonElement Values);

public sealed record RelatedRemoval(long Id, long Version);

/// <summary>The same values for several records, each at the version that was seen; all are changed or none.</summary>
public sealed record BulkChange(IReadOnlyList<RecordVersion> Records, JsonElement Values);

public sealed record RecordVersion(long Id, long Version);

/// <summary>How many records were changed.</summary>
public sealed record BulkResult(int Changed);

/// <summary>
/// Something that happened to a record: create, change, delete or restore, and what it did to the values its reader may read.
/// </summary>
public sealed record HistoryEntry(long Version, string Action, DateTimeOffset At, string By, IReadOnlyList<FieldChange> Changes);

/// <summary>A field's value before and after, null where it was empty; references come with the names of their records.</summary>
public sealed record FieldChange(
    string Field,
    JsonElement? Before,
    JsonElement? After,
    string? BeforeTitle = null,
    string? AfterTitle = null
);

/// <param name="Kind">full or short.</param>
public sealed record FormReference(long Release, string Mode, string Kind = "full");

/// <summary>A stored file: its name in field values is <see cref="Value"/>.</summary>
public sealed record StoredFile(string Value, string Type, long Size);

/// <summary>
/// What a table in CSV seems to be: how many records, what parts its cells (comma, semicolon or tab), the sign before fractions, the order
/// of a day's parts (ymd, dmy, mdy), its columns, and the fields they may go to.
/// </summary>
public sealed record TableInfo(
    int Records,
    string Separator,
    string DecimalSeparator,
    string DateOrder,
    IReadOnlyList<TableColumn> Columns,
    IReadOnlyList<TableTarget> Targets
);

/// <param name="Examples">The first few cells that are not empty.</param>
/// <param name="Field">The key of the field it seems to be, id for a record's number, null where nothing is like it.</param>
public sealed record TableColumn(string Heading, IReadOnlyList<string> Examples, string? Field);

/// <summary>A field a column may go to. By one that is unique, lines can name the records they change.</summary>
public sealed record TableTarget(string Key, string Label, string Type, bool Required, bool Unique);

/// <summary>
/// What an import of records did, or would do: how many it creates and changes, and what is wrong in which line. Done only where
/// <paramref name="Imported"/>.
/// </summary>
public sealed record TableImportReport(int Created, int Changed, bool Imported, IReadOnlyList<ImportProblem> Problems);

/// <param name="Line">Counted from 1, the line that names the fields.</param>
public sealed record ImportProblem(int Line, string? Field, string Message);
