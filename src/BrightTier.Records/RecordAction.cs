using System.Globalization;
using System.Text;

namespace BrightTier.Records;

/// <summary>Something that was done to a record.</summary>
/// <param name="Version">The record's version after it.</param>
/// <param name="Action">create, change, delete or restore.</param>
public sealed record RecordAction(string Entity, long Record, long Version, string Action, DateTimeOffset At, string By)
{
    /// <summary>Where a page ends that ends with this.</summary>
    public string Cursor =>
        Convert.ToBase64String(
            Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{At.UtcTicks}/{Entity}/{Record}/{Version}"))
        );

    /// <exception cref="CursorException">It is not one.</exception>
    public static RecordAction Read(string cursor)
    {
        var bytes = new byte[cursor.Length];
        return
            Convert.TryFromBase64String(cursor, bytes, out var length)
            && Encoding.UTF8.GetString(bytes, 0, length).Split('/') is [var at, var entity, var record, var version]
            && long.TryParse(at, NumberStyles.None, CultureInfo.InvariantCulture, out var ticks)
            && ticks <= DateTimeOffset.MaxValue.UtcTicks
            && long.TryParse(record, NumberStyles.None, CultureInfo.InvariantCulture, out var id)
            && long.TryParse(version, NumberStyles.None, CultureInfo.InvariantCulture, out var of)
            ? new RecordAction(entity, id, of, "", new DateTimeOffset(ticks, TimeSpan.Zero), "")
            : throw new CursorException();
    }
}

/// <summary>What to look for among what was done to records, newest first; null is anything.</summary>
/// <param name="After">The last of the page before.</param>
public sealed record RecordActionQuery(
    string? By = null,
    string? Action = null,
    string? Entity = null,
    long? Record = null,
    DateTimeOffset? From = null,
    DateTimeOffset? Until = null,
    RecordAction? After = null,
    int Limit = 100
);
