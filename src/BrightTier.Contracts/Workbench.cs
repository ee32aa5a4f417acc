using System.Text.Json;

namespace BrightTier.Contracts;

/// <summary>A condition to look into, with the record in view and through whose eyes.</summary>
public sealed record ConditionRequest(string Text, long? Record = null, string? Role = null, string? Mode = null);

/// <summary>What is known of a condition.</summary>
/// <param name="Problems">What is wrong with it, each with its place in the text; when there are any, nothing else is known.</param>
/// <param name="Tree">As it travels to the browser (docs/model.md).</param>
/// <param name="Reads">The fields it reads.</param>
/// <param name="Holds">Whether some record makes it hold.</param>
/// <param name="Fails">Whether some record makes it not hold.</param>
/// <param name="Result">For the record in view: holds, does not hold, or no answer; null without a record.</param>
public sealed record ConditionInfo(
    IReadOnlyList<ConditionPart> Problems,
    JsonElement? Tree,
    IReadOnlyList<string> Reads,
    PossibilityInfo? Holds,
    PossibilityInfo? Fails,
    string? Result
);

/// <summary>Something wrong in a condition: from where, how many characters.</summary>
public sealed record ConditionPart(int Start, int Length, string Message);

/// <summary>yes with an example, no, or unknown with the reason.</summary>
public sealed record PossibilityInfo(string Verdict, string? Example);

/// <summary>A pattern and texts to try it with.</summary>
public sealed record PatternTest(string Pattern, IReadOnlyList<string> Samples);

/// <summary>What is wrong with a pattern, or which of the texts it takes as a whole, in their order.</summary>
public sealed record PatternTestResult(string? Problem, IReadOnlyList<bool> Matches);

/// <summary>A piece: its slots, and every use of it in a draft.</summary>
public sealed record PieceInfo(
    string Key,
    string Title,
    IReadOnlyList<SlotInfo> Slots,
    IReadOnlyList<PieceUseInfo> Uses,
    DateTimeOffset ChangedAt
);

public sealed record SlotInfo(string Slot, string Label, IReadOnlyList<string> Types, bool Optional);

public sealed record PieceUseInfo(string Layout, string Node, string Title);

/// <summary>Makes a piece of nodes of a layout; without a key, it is made from the title.</summary>
public sealed record NewPiece(string Title, IReadOnlyList<string> Nodes, string? Key = null);

/// <summary>What is to be pasted: the text of a piece, or the key of one with what its slots are bound to.</summary>
/// <param name="At">The node behind which it goes; without one, the end of the form.</param>
/// <param name="Label">What the change is called, at most 200 characters.</param>
/// <param name="Width">A width whose own form it goes on, as of <see cref="EditRequest"/>.</param>
public sealed record PasteRequest(
    string? Text = null,
    string? Piece = null,
    IReadOnlyDictionary<string, string>? Slots = null,
    string? At = null,
    string? Label = null,
    string? Width = null
);

/// <summary>The use of a piece that is to be a copy of its own; the rest as of <see cref="PasteRequest"/>.</summary>
/// <param name="Use">The id of the use.</param>
public sealed record DetachRequest(string Use, string? Label = null, string? Width = null);

/// <summary>A pattern of the shared library, with the message users get, by language tag, and the samples kept with it.</summary>
public sealed record PatternInfo(
    string Key,
    string Label,
    string Pattern,
    IReadOnlyDictionary<string, string>? Message,
    IReadOnlyList<string> Passes,
    IReadOnlyList<string> Fails
);

/// <summary>A choice list as it is edited. Labels by language tag; under "" what stands for every language.</summary>
public sealed record ChoiceListInfo(
    string Key,
    string Label,
    long Revision,
    IReadOnlyList<EditedChoice> Choices,
    IReadOnlyList<string> Uses
);

/// <summary>A choice list among others.</summary>
/// <param name="Choices">What can be chosen, in the caller's language, retired ones left out.</param>
/// <param name="Uses">How many fields take their choices from it.</param>
/// <param name="Published">The revision everybody has; null where it was never published.</param>
public sealed record ChoiceListSummary(string Key, string Label, IReadOnlyList<string> Choices, int Uses, long Revision, long? Published);

/// <summary>One choice; without a key a new one, whose key comes from its label.</summary>
public sealed record EditedChoice(IReadOnlyDictionary<string, string> Labels, string? Key = null, bool Retired = false);

/// <summary>What a choice list is to hold, in order, and the revision that is changed.</summary>
public sealed record ChoiceListChange(long Revision, IReadOnlyList<EditedChoice> Choices);
