using System.Text.Json.Serialization;

namespace BrightTier.Contracts;

// What the data of each event of the stream is; the stream itself is text/event-stream (WHATWG HTML, 9.2).

/// <summary>The stream is open, and what is missing comes; or, as resync, too much was missed: read everything again.</summary>
/// <param name="Release">The release that is current for whoever listens.</param>
/// <param name="Stream">The stream's name, for acknowledgements; absent where an open stream is told to read everything again.</param>
public sealed record HelloEvent(long? Release = null, string? Stream = null);

/// <summary>Another release is current for whoever listens.</summary>
/// <param name="Within">Within how many milliseconds it is to be read, at a moment the client draws; absent where few listen.</param>
public sealed record ReleaseEvent(long Release, [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] int Within = 0);

/// <summary>A draft was changed, or an approval of it was given or taken back.</summary>
/// <param name="Revision">The draft's, now.</param>
/// <param name="By">Who did it, by id.</param>
public sealed record DraftEvent(string Kind, string Key, long Revision, string By);

/// <summary>A scheduled release was made, published, cancelled or has failed.</summary>
public sealed record ScheduledReleaseEvent(long Id, string State);

/// <summary>A staged release was begun, widened, given to everyone or taken back.</summary>
public sealed record RolloutEvent(long Release);
