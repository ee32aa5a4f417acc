using System.Text.Json;

namespace BrightTier.Contracts;

/// <summary>A record with the values its reader may read, by field; references come with the text that names their record.</summary>
public sealed record RecordInfo(
    string Entity, long Id, long Version, string Title, JsonElement Values, IReadOnlyDictionary<string, RecordName> References,
    DateTimeOffset CreatedAt, string CreatedBy, DateTimeOffset ChangedAt, string ChangedBy);

public sealed record RecordName(long Id, string Title);

/// <summary>One page; <see cref="Next"/> is the cursor of the following one, null on the last. There are <see cref="Total"/> in all, or more where it is not exact.</summary>
public sealed record RecordPage(IReadOnlyList<RecordInfo> Records, string? Next, long Total, bool Exact = true);

/// <summary>
/// Values to save, by field; fields left out stay as they are. <see cref="Form"/> names the layout they were entered in; without it only the
/// entity's rules are applied.
/// </summary>
public sealed record RecordSave(JsonElement Values, FormReference? Form = null);

/// <param name="Kind">full or short.</param>
public sealed record FormReference(long Release, string Mode, string Kind = "full");

/// <summary>A stored file: its name in field values is <see cref="Value"/>.</summary>
public sealed record StoredFile(string Value, string Type, long Size);
