namespace BrightTier.Contracts;

public sealed record EntitySummary(string Key, string Label, string Plural, int Fields, string? Layout, long? Release);

/// <summary>An entity as this viewer may know it: fields one may not read are not there.</summary>
public sealed record EntityInfo(
    string Key,
    string Label,
    string Plural,
    string Display,
    IReadOnlyList<string> ListColumns,
    IReadOnlyList<FieldInfo> Fields,
    string Revision,
    IReadOnlyList<RelatedInfo>? Related = null
);

/// <summary>A layout to learn from, made of the fields of the entity that was asked about.</summary>
public sealed record ExampleInfo(string Key, string Title);

/// <summary>
/// Records of another entity that point at this one, through one of its references. The label is the entity's plural, with the reference's
/// label where there are several.
/// </summary>
public sealed record RelatedInfo(string Entity, string Through, string Label);

/// <summary>A field of an entity.</summary>
/// <param name="LongestWord">The letters of the longest word of its label, in the language in which that is longest: what a cell must
/// have room for.</param>
public sealed record FieldInfo(
    string Key,
    string Label,
    string Type,
    bool Required,
    bool Advised,
    bool Unique,
    bool Added,
    bool Retired,
    bool Writable,
    string? Target = null,
    string? ChoiceList = null,
    IReadOnlyList<ChoiceInfo>? Choices = null,
    int? MaxLength = null,
    string? Unit = null,
    int? Scale = null,
    IReadOnlyList<string>? Editors = null,
    IReadOnlyList<string>? Read = null,
    IReadOnlyList<string>? Write = null,
    int LongestWord = 0
);

/// <summary>A field to add. For choices either their labels or a list there is, for references the entity pointed at.</summary>
public sealed record NewField(
    string Label,
    string Type,
    bool Required = false,
    string? Target = null,
    string? ChoiceList = null,
    IReadOnlyList<string>? Choices = null
);

/// <summary>The key a field was given, and the choice list that was made for it or that it uses.</summary>
public sealed record AddedField(string Key, string? ChoiceList);

public sealed record ChoiceInfo(string Key, string Label, bool Retired);

/// <summary>The revision of a document's draft after a change to it.</summary>
/// <param name="Comments">How many comments the text had, which stay in files: a draft has none.</param>
public sealed record SaveResult(string Kind, string Key, long Revision, bool Changed, int Comments = 0);

/// <summary>A draft of any kind of document. <paramref name="Published"/> is the revision that is published, or null;
/// <paramref name="Damaged"/> why it cannot be read, or null;
/// <paramref name="Archived"/> whether it is put away, as layouts and entities can be;
/// <paramref name="ReleaseDamaged"/> why what is published of it cannot be read and what is served instead, or null.</summary>
public sealed record DocumentSummary(
    string Kind,
    string Key,
    long Revision,
    long? Published,
    string? Damaged = null,
    string? ReleaseDamaged = null,
    bool Archived = false
);

/// <summary>
/// A draft that could not be read and can again; <paramref name="From"/> is <c>release N</c> or <c>revision N</c>, where its text is from.
/// </summary>
public sealed record RecoveredDraft(string Kind, string Key, long Revision, string From);

/// <summary>What happened to the draft of a document.</summary>
/// <param name="Since">How it differs from what everybody has, in words; null where nobody has it, or it cannot be read.</param>
/// <param name="Changes">Newest first.</param>
/// <param name="Earlier">Whether there are changes before these.</param>
public sealed record DocumentHistory(
    long Revision,
    long? Published,
    IReadOnlyList<string>? Since,
    IReadOnlyList<DocumentChange> Changes,
    bool Earlier
);

/// <summary>A change to a document.</summary>
/// <param name="Words">What became another, in words; null where what it held before is not kept, as of the first.</param>
public sealed record DocumentChange(long Revision, string By, DateTimeOffset At, string Label, IReadOnlyList<string>? Words);

/// <summary>The revision a draft is to be again.</summary>
public sealed record RevisionRequest(long Revision);

/// <summary>An entity with the references by which it points at others.</summary>
/// <param name="Fields">How many fields it has in use.</param>
/// <param name="Attached">Whether its records are in a database that is attached, to which no field is added.</param>
public sealed record EntityRelations(
    string Key,
    string Label,
    string Plural,
    int Fields,
    bool Attached,
    IReadOnlyList<RelationInfo> References
);

/// <summary>A reference: the field's key and label, and the key of the entity it points at.</summary>
public sealed record RelationInfo(string Field, string Label, string Target, bool Required);

/// <summary>A unit, and the fields counted in it.</summary>
public sealed record UnitInfo(string Unit, IReadOnlyList<UnitField> Fields);

/// <summary>A field of an entity, with what both are called.</summary>
public sealed record UnitField(string Entity, string Field, string EntityLabel, string Label);

/// <summary>Writes a unit in another way.</summary>
/// <param name="Fields">Those it is for, such as vessel.length; null for all that have it.</param>
public sealed record UnitRename(string From, string To, IReadOnlyList<string>? Fields = null);

/// <summary>The entities whose drafts are other ones, and how many fields.</summary>
public sealed record UnitReach(IReadOnlyList<string> Entities, int Fields);
