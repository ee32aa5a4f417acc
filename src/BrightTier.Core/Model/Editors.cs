namespace BrightTier.Core.Model;

/// <summary>Which editors suit which type. The first of each list is the one used unless a layout names another.</summary>
public static class Editors
{
    private static readonly Dictionary<FieldType, string[]> ByType = new()
    {
        [FieldType.Text] = ["line", "lines"],
        [FieldType.LongText] = ["lines", "line"],
        [FieldType.Integer] = ["number", "slider"],
        [FieldType.Decimal] = ["number", "slider"],
        [FieldType.Money] = ["money"],
        [FieldType.Boolean] = ["check", "switch", "yes-no"],
        [FieldType.Date] = ["date"],
        [FieldType.Time] = ["time"],
        [FieldType.DateTime] = ["date-time"],
        [FieldType.Choice] = ["select", "radio", "search"],
        [FieldType.Choices] = ["checks"],
        [FieldType.Reference] = ["look-up"],
        [FieldType.Email] = ["e-mail"],
        [FieldType.Phone] = ["phone"],
        [FieldType.Url] = ["web-address"],
        [FieldType.Image] = ["image"],
        [FieldType.File] = ["file"],
        [FieldType.Rating] = ["stars", "number", "slider"],
    };

    public static IReadOnlyList<string> For(FieldType type) => ByType[type];

    public static string Default(FieldType type) => ByType[type][0];

    /// <summary>Every editor there is, each once.</summary>
    public static IReadOnlyList<string> All { get; } = [.. ByType.Values.SelectMany(names => names).Distinct()];
}
