using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

/// <summary>
/// The static type of part of a condition. <see cref="Name"/> is the language's own: null, bool, int, double, string, timestamp, duration,
/// list, map; and record and user, which only have fields.
/// </summary>
public sealed record ConditionType(string Name, ConditionType? Element = null)
{
    public static readonly ConditionType Null = new("null");
    public static readonly ConditionType Bool = new("bool");
    public static readonly ConditionType Int = new("int");
    public static readonly ConditionType Double = new("double");
    public static readonly ConditionType String = new("string");
    public static readonly ConditionType Timestamp = new("timestamp");
    public static readonly ConditionType Duration = new("duration");
    public static readonly ConditionType Record = new("record");
    public static readonly ConditionType User = new("user");

    /// <summary>Of what is wrong already, so that one mistake gives one message.</summary>
    public static readonly ConditionType Unknown = new("unknown");

    public static ConditionType ListOf(ConditionType element) => new("list", element);

    /// <summary><see cref="Element"/> is the type of its values, <see cref="Key"/> that of its keys.</summary>
    public static ConditionType MapOf(ConditionType key, ConditionType value) => new("map", value) { Key = key };

    public ConditionType? Key { get; init; }

    /// <summary>
    /// How a field's values appear in conditions. Decimals and money are doubles, the nearest to the stored value; a reference is the
    /// number of
    /// the record it points at; dates are timestamps at midnight UTC; times, images and files are texts.
    /// </summary>
    public static ConditionType Of(FieldType type) =>
        type switch
        {
            FieldType.Integer or FieldType.Rating or FieldType.Reference => Int,
            FieldType.Decimal or FieldType.Money => Double,
            FieldType.Boolean => Bool,
            FieldType.Date or FieldType.DateTime => Timestamp,
            FieldType.Choices => ListOf(String),
            _ => String,
        };

    public bool IsNumber => this == Int || this == Double;

    /// <summary>With its article, for messages.</summary>
    public Message One => Name[0] is 'a' or 'i' or 'u' && Name != User.Name ? (Message)$"an {this}" : $"a {this}";

    public override string ToString() =>
        Element is null ? Name
        : Key is null ? $"{Name} of {Element}"
        : $"{Name} from {Key} to {Element}";
}
