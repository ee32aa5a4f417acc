namespace BrightTier.Contracts;

/// <summary>A connection to a database that is not ours.</summary>
/// <param name="Kind">postgresql or sqlite.</param>
/// <param name="Address">Where it is; never with a user or a password.</param>
/// <param name="IsFixed">Whether the configuration says it, so that it cannot be changed here.</param>
/// <param name="Entities">The entities attached by it.</param>
/// <param name="Problem">Why it does not answer, in its own words; null where it does.</param>
public sealed record DatabaseInfo(
    string Name,
    string Kind,
    string Address,
    bool IsFixed,
    IReadOnlyList<string> Entities,
    string? Problem = null
);

/// <param name="Connection">A connection string of PostgreSQL (Host=…) or SQLite (Data Source=…). It is kept as a secret and never shown
/// again.</param>
public sealed record ConnectionRequest(string Connection);

/// <summary>A table or view of a database.</summary>
/// <param name="Path">What it is chosen by: with its schema, where there are schemas.</param>
/// <param name="Columns">How many columns it has.</param>
/// <param name="Key">The columns that tell rows apart; empty where none do.</param>
/// <param name="Rows">About how many rows it has.</param>
/// <param name="Entity">The entity that is over it already.</param>
/// <param name="ReadOnly">Why its rows are only read, as a sentence; null where they can be written.</param>
/// <param name="References">The tables its foreign keys lead to.</param>
public sealed record DatabaseTableInfo(
    string Path,
    bool IsView,
    string? Comment,
    int Columns,
    IReadOnlyList<string> Key,
    long Rows,
    string? Entity,
    string? ReadOnly,
    IReadOnlyList<string> References
);

/// <summary>Tables that become entities.</summary>
/// <param name="Tables">Their paths.</param>
/// <param name="Publish">Whether they are published at once; otherwise they are there as drafts.</param>
public sealed record AttachRequest(IReadOnlyList<string> Tables, bool Publish = true);

/// <summary>An entity as a table suggests it.</summary>
/// <param name="Left">Columns that become no field, with the reason.</param>
public sealed record AttachSketch(
    string Table,
    string Key,
    string Label,
    string Plural,
    string? ReadOnly,
    IReadOnlyList<AttachSketchField> Fields,
    IReadOnlyList<AttachLeft> Left
);

/// <summary>The field a column suggests.</summary>
/// <param name="DatabaseType">The type the database has it as.</param>
/// <param name="ReadOnly">Why it is only read, as a sentence; null where it can be written.</param>
public sealed record AttachSketchField(
    string Columns,
    string DatabaseType,
    string Key,
    string Label,
    string Type,
    bool Required,
    string? Target,
    IReadOnlyList<string> Choices,
    string? ReadOnly
);

public sealed record AttachLeft(string Column, string Reason);

/// <summary>What came of attaching tables.</summary>
/// <param name="Release">The release everybody has them by; null where they are there as drafts.</param>
public sealed record AttachOutcome(IReadOnlyList<string> Entities, IReadOnlyList<string> Layouts, long? Release);

/// <summary>A difference between an entity and the table it is over.</summary>
/// <param name="Kind">table-gone, column-new, column-gone, type-changed or rule-changed.</param>
/// <param name="Mended">Whether bringing the entity in line does away with it.</param>
public sealed record DatabaseDifference(string Entity, string Kind, string? Column, string? Field, string Message, bool Mended);

/// <summary>What bringing entities in line changed.</summary>
/// <param name="Changed">The entities whose drafts are other ones now.</param>
public sealed record RefreshOutcome(IReadOnlyList<string> Changed, IReadOnlyList<DatabaseDifference> Differences);
