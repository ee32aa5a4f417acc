using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Contracts;

/// <param name="Published">The revision that is published, or null when none ever was.</param>
/// <param name="Damaged">Why the draft cannot be read, with the place; null where it can.</param>
/// <param name="Uses">How many rules, templates and layouts name it.</param>
public sealed record LayoutSummary(
    string Key,
    string Entity,
    string Title,
    long Revision,
    long? Published,
    int Errors,
    int Warnings,
    DateTimeOffset ChangedAt,
    string ChangedBy,
    string Kind,
    int Comments,
    string? Damaged = null,
    int Uses = 0
);

/// <summary>Layouts that were sought: the first of them.</summary>
/// <param name="Found">How many there are.</param>
/// <param name="All">How many there are in all, sought or not.</param>
public sealed record FoundLayouts(IReadOnlyList<LayoutSummary> Layouts, int Found, int All);

/// <summary>A draft: its tree of nodes as docs/api.md describes, and what the checks find.</summary>
public sealed record LayoutDraft(
    string Key,
    string Entity,
    long Revision,
    long? Published,
    [property: JsonConverter(typeof(WholeElement))] JsonElement Tree,
    IReadOnlyList<FindingInfo> Findings
);

public sealed record FindingInfo(
    string Code,
    string Severity,
    string Node,
    string? Property,
    string Message,
    FixInfo? Fix,
    string? Evidence = null
);

public sealed record FixInfo(string Label, JsonElement Edits);

/// <summary>
/// Makes a draft for an entity: <c>generated</c>, <c>empty</c> (only what is required), <c>blank</c> (nothing), or a copy of another
/// layout's draft, by key; with more of the same family, all or none.
/// </summary>
/// <param name="Title">What the layout is called, in the language of whoever makes it; without one as what it begins from, or as its
/// entity.</param>
/// <param name="Also">Other kinds that are generated with it, under its key with the kind behind it.</param>
/// <param name="MenuEntry">Whether the menu gets an entry for the entity's records, where it has none.</param>
public sealed record LayoutRequest(
    string Entity,
    string? Key = null,
    string From = "generated",
    string Kind = "full",
    string? Title = null,
    IReadOnlyList<string>? Also = null,
    bool MenuEntry = false
);

/// <summary>
/// Edits made against revision <paramref name="Base"/>, applied all or none. Over a layout that extends another they may be about what it
/// extends: they become its own changes.
/// </summary>
/// <param name="ConflictResolution">Which side has its way where somebody else changed the same since: mine or theirs. Without it such a
/// conflict is answered with 409, and nothing is changed.</param>
/// <param name="Name">What the sender calls it, at most 64 characters, such as a UUID: sent again because no answer came, it is not applied
/// again, and answered as it was.</param>
/// <param name="Width">A width whose own form the edits are made on, as it is seen there: they become changes of that width, and the base
/// stays as it is.</param>
public sealed record EditRequest(
    long Base,
    JsonElement Edits,
    string? Label = null,
    string? ConflictResolution = null,
    string? Name = null,
    string? Width = null
);

/// <summary>
/// What is to be placed, and where. Exactly one of field, node, part and piece is given. Without an edge it comes after the target;
/// without a target at the end of the page.
/// </summary>
/// <param name="Field">A field that is not on the layout, by key.</param>
/// <param name="Node">What stands on the layout already, by id.</param>
/// <param name="Part">A new part by its kind: section, page, heading, text, divider, spacer, image, link, action, panel, top, bottom,
/// start, end.</param>
/// <param name="Title">The text a new part begins with.</param>
/// <param name="Piece">A piece, by key.</param>
/// <param name="Target">The node it is placed at, by id.</param>
/// <param name="Edge">above, below, left, right or inside.</param>
/// <param name="Page">The page at whose end it comes where no target is named, by id; without one, the first.</param>
/// <param name="Width">A width whose own form is changed.</param>
public sealed record PlaceRequest(
    string? Field = null,
    string? Node = null,
    string? Part = null,
    string? Title = null,
    string? Piece = null,
    string? Target = null,
    string? Edge = null,
    string? Page = null,
    string? Label = null,
    string? Width = null
);

/// <summary>Tells the others at a draft what one has selected of it: seen by them, kept nowhere.</summary>
/// <param name="Nodes">By id; none when one leaves.</param>
public sealed record SelectionRequest(IReadOnlyList<string> Nodes);

/// <summary>What somebody has selected of a draft.</summary>
public sealed record SelectionEvent(string Layout, string Person, IReadOnlyList<string> Nodes);

/// <summary>Asks what would make a form better.</summary>
/// <param name="Aim">shorter, or tidier.</param>
/// <param name="Within">What may be touched, with all below it, by id; without one, the whole form.</param>
/// <param name="Without">Proposals that are not taken, by key.</param>
public sealed record ProposalRequest(string Aim, IReadOnlyList<string>? Within = null, IReadOnlyList<string>? Without = null);

/// <summary>One change that would make a form better.</summary>
/// <param name="Key">The same whatever else is taken.</param>
/// <param name="Nodes">What it is about, by id.</param>
/// <param name="Taken">Whether its edits are among those of the answer.</param>
public sealed record ProposalInfo(string Key, string Reason, IReadOnlyList<string> Nodes, bool Taken);

/// <summary>What would make a form better, with the edits of all that is taken as one change.</summary>
/// <param name="Revision">The revision the edits are made for.</param>
/// <param name="Before">How long the form is at each width, the widest first.</param>
/// <param name="After">How long it would be.</param>
public sealed record ProposedChanges(
    long Revision,
    IReadOnlyList<ProposalInfo> Offered,
    JsonElement Edits,
    IReadOnlyList<LengthInfo> Before,
    IReadOnlyList<LengthInfo> After
);

/// <summary>
/// What became of edits: the new revision, the edits as applied with all ids, and what would undo them. Where the revision follows the one
/// they were made against, these edits applied to that give the draft; else somebody was in between. What it looks like and what the checks
/// find is asked for by itself.
/// </summary>
/// <param name="Unmatched">Of what was pasted, the fields for which there was none here.</param>
/// <param name="RowFull">Of what was placed: there was no room left in the row it was meant for, and it got a row of its own.</param>
public sealed record EditResult(
    long Revision,
    JsonElement Edits,
    JsonElement Inverse,
    IReadOnlyList<string>? Unmatched = null,
    bool RowFull = false
);

/// <summary>A draft as it is looked at, at a revision.</summary>
/// <param name="Form">As <c>/api/layouts/{key}/preview</c> answers it.</param>
/// <param name="Lengths">How long it is at each width, the widest first.</param>
public sealed record LayoutView(
    long Revision,
    IReadOnlyList<FindingInfo> Findings,
    [property: JsonConverter(typeof(WholeElement))] JsonElement Form,
    IReadOnlyList<LengthInfo> Lengths
);

public sealed record ChangeInfo(long Revision, string By, DateTimeOffset At, string Label, JsonElement Edits);

/// <summary>What happened between two states of a layout: the edits, and each in words.</summary>
public sealed record Comparison(string From, string To, JsonElement Edits, IReadOnlyList<string> Summary);

/// <summary>Why a node is, or is not, there; <see cref="Shown"/> is null where that depends on a record that was not given.</summary>
public sealed record ExplanationInfo(string Node, bool? Shown, IReadOnlyList<ReasonInfo> Reasons);

public sealed record ReasonInfo(string Node, string? Property, bool Shows, string Message);

/// <summary>How long a form is at one width: rows of cells one under another, and screens of 720 pixels.</summary>
public sealed record LengthInfo(string Width, int FromRem, int Rows, double Screens);

/// <summary>One place that uses something, and so would notice if it changed.</summary>
public sealed record UseInfo(string Kind, string Key, string Place, string As, string Message);

/// <summary>A finding in a document that is no layout.</summary>
public sealed record DocumentFindingInfo(
    string Code,
    string Severity,
    string Kind,
    string Key,
    string Pointer,
    string Message,
    string? Evidence
);

/// <summary>Makes the layouts of a template for an entity, under keys that begin with <paramref name="Key"/>, all or none.</summary>
/// <param name="Without">Kinds of the template's layouts that are not wanted.</param>
/// <param name="Title">What the first of them is called; without one, as in the template.</param>
public sealed record TemplateRequest(string Entity, string? Key = null, IReadOnlyList<string>? Without = null, string? Title = null);

/// <summary>A template to begin with: what it is for, the kinds of layouts it makes, in order, and what it makes them of.</summary>
public sealed record TemplateInfo(
    string Key,
    string Title,
    string? About,
    IReadOnlyList<string> Kinds,
    IReadOnlyList<string>? Layouts = null
);

/// <summary>A layout made from a template, and the fields of the original that found no match.</summary>
public sealed record TemplateLayoutInfo(string Key, IReadOnlyList<string> Unmatched);

/// <summary>
/// An entry of the business application's menu as its viewer sees it; the icon as an SVG path on a raster of 24, or empty.
/// </summary>
public sealed record MenuEntryInfo(
    string Key,
    string Title,
    string Icon,
    string? Entity,
    string? Address,
    IReadOnlyList<MenuEntryInfo> Entries
);

/// <summary>
/// Which layout somebody gets: its key and title, whether it is generated because there is none, and what each routing rule of the entity
/// and kind says, in order.
/// </summary>
public sealed record RoutedInfo(string Layout, string Title, bool Generated, IReadOnlyList<RuleVerdictInfo> Rules);

/// <param name="Rule">Its place among all rules, from 0.</param>
/// <param name="Verdict">decides, too-late, other-roles, condition-fails or no-layout.</param>
public sealed record RuleVerdictInfo(int Rule, string Verdict);

/// <summary>Documents to take into the drafts, all or none.</summary>
/// <param name="DryRun">Says what would come of it and changes nothing.</param>
/// <param name="Merge">Where a draft moved on, puts both together instead of refusing.</param>
/// <param name="ConflictResolution">Which side has its way in conflicts: mine (what is sent) or theirs (what the draft holds); without it
/// they are refused. Without merging it is the side that counts whole where somebody changed the draft since.</param>
/// <param name="Folder">Every document there is where these come from, sent or not: what was imported before and is not among them is gone.
/// Null where that is not known.</param>
/// <param name="Pulled">Documents that were there once for another reason, because they were pulled; with the folder.</param>
/// <param name="ArchiveMissing">Archives what is gone; refused while something names it.</param>
public sealed record ImportRequest(
    IReadOnlyList<ImportDocument> Documents,
    bool DryRun = false,
    bool Merge = false,
    string? ConflictResolution = null,
    IReadOnlyList<DocumentName>? Folder = null,
    bool ArchiveMissing = false,
    IReadOnlyList<DocumentName>? Pulled = null
);

/// <param name="Text">The document, as YAML or JSON.</param>
/// <param name="Before">The text it was made from; null where that is not known: then it is what was imported last, or the revision of the
/// draft that is most like it.</param>
public sealed record ImportDocument(string Text, string? Before = null);

/// <summary>What came, or would come, of taking documents.</summary>
/// <param name="Documents">Each that was sent, in the order it was sent; of a bundle in that of its manifest.</param>
/// <param name="Findings">What checks find in all documents then and did not find before.</param>
/// <param name="Bundle">What the bundle says of itself, whole even where some of it was taken; null for files.</param>
/// <param name="Missing">What was imported before and is gone where these come from.</param>
public sealed record ImportReport(
    bool Imported,
    IReadOnlyList<ImportedDocument> Documents,
    IReadOnlyList<NewFinding> Findings,
    BundleManifest? Bundle = null,
    IReadOnlyList<MissingDocument>? Missing = null
);

/// <summary>A document that was imported before and is gone where the others come from.</summary>
/// <param name="State">archived; used, where something names it, so that it was not; missing, where that was not asked for; kept, where
/// documents of its kind are not archived.</param>
/// <param name="Became">The key of the new document that says much the same: it was renamed.</param>
/// <param name="Uses">What names it, a sentence each.</param>
/// <param name="Revision">The draft's revision then.</param>
public sealed record MissingDocument(string Kind, string Key, string State, string? Became, IReadOnlyList<string> Uses, long Revision);

/// <param name="Change">made, changed, merged, unchanged or conflict.</param>
/// <param name="Summary">What is done to the draft, a sentence each.</param>
/// <param name="Impact">Every place that would notice what is taken away.</param>
/// <param name="Conflicts">Where both sides changed the same.</param>
/// <param name="Revision">The draft's revision then; of a dry run the one it has.</param>
/// <param name="Text">The draft's text then.</param>
/// <param name="Base">A sentence: what a document was merged over; null where nothing was merged, or the sender said what it was made
/// from.</param>
/// <param name="Ahead">Whether the draft was left alone because it was changed here since, and nothing of the document is new.</param>
public sealed record ImportedDocument(
    string Kind,
    string Key,
    string Change,
    IReadOnlyList<string> Summary,
    IReadOnlyList<string> Impact,
    IReadOnlyList<string> Conflicts,
    long Revision,
    string Text,
    string? Base = null,
    bool Ahead = false
);

/// <summary>Something checks find in a document.</summary>
public sealed record NewFinding(string Kind, string Key, string Place, string Severity, string Code, string Message);
