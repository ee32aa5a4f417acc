namespace BrightTier.Core.Model;

/// <summary>
/// The types a field can have. How each is kept in a table is the business database's affair; how it is drawn is said by
/// <see cref="Editors"/>.
/// </summary>
public enum FieldType
{
    Text,
    LongText,
    Integer,
    Decimal,
    Money,
    Boolean,
    Date,
    Time,
    DateTime,
    Choice,
    Choices,
    Reference,
    Email,
    Phone,
    Url,
    Image,
    File,
    Rating,
}

/// <summary>The names of field types as files and the wire spell them.</summary>
public static class FieldTypes
{
    private static readonly Dictionary<FieldType, string> Names = Enum.GetValues<FieldType>()
        .ToDictionary(type => type, type => char.ToLowerInvariant(type.ToString()[0]) + type.ToString()[1..]);

    private static readonly Dictionary<string, FieldType> Types = Names.ToDictionary(pair => pair.Value, pair => pair.Key);

    public static IReadOnlyCollection<string> All => Types.Keys;

    public static string Name(this FieldType type) => Names[type];

    public static bool TryParse(string name, out FieldType type) => Types.TryGetValue(name, out type);

    /// <summary>Whether values are text a person types on one line.</summary>
    public static bool IsShortText(this FieldType type) => type is FieldType.Text or FieldType.Email or FieldType.Phone or FieldType.Url;

    public static bool IsNumber(this FieldType type) =>
        type is FieldType.Integer or FieldType.Decimal or FieldType.Money or FieldType.Rating;
}
