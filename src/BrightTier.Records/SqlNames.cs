using System.Text;
using BrightTier.Core.Model;

namespace BrightTier.Records;

/// <summary>Names of tables and columns: keys in snake case. Money says in its name that it counts minor units (ISO 4217: cents).</summary>
public static class SqlNames
{
    public const string History = "record_history";

    public static string Table(string entity) => Snake(entity);

    public static string Column(Field field) => Snake(field.Key) + (field.Type is FieldType.Money ? "_minor" : "");

    public static string Quote(string name) => $"\"{name.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";

    private static string Snake(string key)
    {
        var name = new StringBuilder(key.Length + 4);
        foreach (var c in key)
        {
            if (char.IsAsciiLetterUpper(c) && name.Length > 0)
            {
                name.Append('_');
            }

            name.Append(c == '-' ? '_' : char.ToLowerInvariant(c));
        }

        return name.ToString();
    }
}
