namespace BrightTier.Records.Attachment;

/// <summary>Which columns of texts hold several lines, as far as names and types tell.</summary>
internal static class LongTexts
{
    /// <summary>From here on a text is one of several lines.</summary>
    public const int Length = 200;

    private static readonly string[] Names =
    [
        "description",
        "notes",
        "note",
        "comment",
        "comments",
        "remark",
        "remarks",
        "body",
        "content",
        "message",
        "details",
        "summary",
        "text",
    ];

    public static bool IsCalled(string column, string type) =>
        type is "clob" or "longtext" or "mediumtext" || Names.Any(name => column.EndsWith(name, StringComparison.OrdinalIgnoreCase));
}
