namespace BrightTier.Contracts;

/// <summary>A table that is to become an entity, and what somebody knows better about it than its cells tell.</summary>
/// <param name="Name">What it is called: its file's name.</param>
/// <param name="Text">Comma-separated values (RFC 4180), the first line the headings.</param>
/// <param name="Label">What one record is called; null to make it of the name, as are the next two.</param>
/// <param name="Display">The text that names a record, with fields in braces.</param>
/// <param name="DecimalSeparator">. or , or null to find out.</param>
/// <param name="DateOrder">ymd, dmy or mdy, or null to find out.</param>
/// <param name="Columns">For each column what it is; null to find out for all.</param>
/// <param name="EmptyDoubtful">Whether cells that do not fit their column stay empty; without it they stand against the whole.</param>
/// <param name="Publish">Whether it is published and its records are imported; otherwise it is there as drafts.</param>
public sealed record TableRequest(
    string Name,
    string Text,
    string? Label = null,
    string? Plural = null,
    string? Display = null,
    string? DecimalSeparator = null,
    string? DateOrder = null,
    IReadOnlyList<TableColumnRequest>? Columns = null,
    bool EmptyDoubtful = false,
    bool Publish = true
);

/// <summary>What a column is; what is null is found out.</summary>
/// <param name="Left">Whether it is left out.</param>
/// <param name="Type">A type of field.</param>
/// <param name="Target">Of a reference, the entity it points at.</param>
/// <param name="Choices">Of a choice, what it offers beside what stands in the column.</param>
public sealed record TableColumnRequest(
    bool Left = false,
    string? Label = null,
    string? Type = null,
    bool? Required = null,
    bool? Unique = null,
    string? Target = null,
    IReadOnlyList<string>? Choices = null
);

/// <summary>The entity a table suggests.</summary>
/// <param name="Records">Lines beside the first.</param>
/// <param name="Doubtful">Cells that do not fit their column, all columns together.</param>
public sealed record TableSketch(
    string Key,
    string Label,
    string Plural,
    string Display,
    int Records,
    string DecimalSeparator,
    string DateOrder,
    int Doubtful,
    IReadOnlyList<TableSketchColumn> Columns
);

/// <summary>The field a column suggests.</summary>
/// <param name="Examples">The first few cells that are not empty.</param>
/// <param name="Choices">What it would offer; empty where it offers nothing of its own.</param>
/// <param name="Filled">Lines that have something in it.</param>
/// <param name="Distinct">Different things that stand in it.</param>
/// <param name="Reason">What speaks for its type.</param>
/// <param name="Doubts">The first few cells that do not fit it.</param>
/// <param name="Doubtful">How many do not.</param>
public sealed record TableSketchColumn(
    string Heading,
    bool Left,
    string Key,
    string Label,
    string Type,
    bool Required,
    bool Unique,
    string? Target,
    string? Unit,
    IReadOnlyList<string> Examples,
    IReadOnlyList<string> Choices,
    int Filled,
    int Distinct,
    string Reason,
    IReadOnlyList<ImportProblem> Doubts,
    int Doubtful
);

/// <summary>What became of a table.</summary>
/// <param name="Entity">The entity's key.</param>
/// <param name="Layouts">The layouts made for it.</param>
/// <param name="Records">The records made.</param>
/// <param name="Release">The release everybody has it by; null where it is there as drafts.</param>
public sealed record TableOutcome(string Entity, IReadOnlyList<string> Layouts, int Records, long? Release);

/// <summary>What came of opening the example.</summary>
public sealed record ExampleOutcome(int Entities, int Records, long Release);
