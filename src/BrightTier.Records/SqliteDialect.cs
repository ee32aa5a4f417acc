using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using BrightTier.Core.Entities;

namespace BrightTier.Records;

/// <summary>How values live in SQLite: decimals with numeric affinity (exact to 15 digits), money in minor units, moments as text of ISO 8601, several choices as a JSON list.</summary>
internal static class SqliteDialect
{
    public static string ColumnType(Field field) => field.Type switch
    {
        FieldType.Integer or FieldType.Rating or FieldType.Money => "INTEGER",
        FieldType.Decimal => string.Create(CultureInfo.InvariantCulture, $"DECIMAL(15,{field.Scale})"),
        FieldType.Boolean => "BOOLEAN",
        FieldType.Reference => $"INTEGER REFERENCES {SqlNames.Quote(SqlNames.Table(field.Target!))} (id)",
        FieldType.Choices => "TEXT",
        FieldType.Date => "DATE",
        FieldType.Time => "TIME",
        FieldType.DateTime => "TIMESTAMP",
        _ => "TEXT",
    };

    public static object? ToDatabase(Field field, object? value) => value switch
    {
        decimal number when field.Type is FieldType.Money => (long)(number * 100m),
        decimal number => (double)number,
        bool flag => flag ? 1L : 0L,
        DateOnly date => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        TimeOnly time => time.ToString("HH:mm:ss", CultureInfo.InvariantCulture),
        DateTimeOffset moment => Moment(moment),
        ImmutableArray<string> chosen => JsonSerializer.Serialize(chosen.AsEnumerable()),
        _ => value,
    };

    public static object? FromDatabase(Field field, object? value) => value is null or DBNull ? null : field.Type switch
    {
        FieldType.Money => Convert.ToInt64(value, CultureInfo.InvariantCulture) / 100m,
        FieldType.Decimal => decimal.Round(Convert.ToDecimal(value, CultureInfo.InvariantCulture), field.Scale),
        FieldType.Boolean => Convert.ToInt64(value, CultureInfo.InvariantCulture) != 0,
        FieldType.Integer or FieldType.Rating or FieldType.Reference => Convert.ToInt64(value, CultureInfo.InvariantCulture),
        FieldType.Date => DateOnly.Parse((string)value, CultureInfo.InvariantCulture),
        FieldType.Time => TimeOnly.Parse((string)value, CultureInfo.InvariantCulture),
        FieldType.DateTime => Moment((string)value),
        FieldType.Choices => JsonSerializer.Deserialize<string[]>((string)value)!.ToImmutableArray(),
        _ => Convert.ToString(value, CultureInfo.InvariantCulture),
    };

    public static string Moment(DateTimeOffset moment) => moment.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture);

    public static DateTimeOffset Moment(string text) => DateTimeOffset.Parse(text, CultureInfo.InvariantCulture, DateTimeStyles.AdjustToUniversal);
}
