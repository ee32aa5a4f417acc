using System.Collections;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace BrightTier.Service.Hosting;

/// <summary>Insists that lists in bodies hold something in every place: what the types say of nulls reaches no further than properties.</summary>
internal static class NoNulls
{
    public static void Insist(JsonTypeInfo type)
    {
        if (type.Kind is not JsonTypeInfoKind.Object)
        {
            return;
        }

        var lists = type.Properties.Where(property => property.Get is not null && HoldsObjects(property.PropertyType)).ToArray();
        if (lists.Length == 0)
        {
            return;
        }

        type.OnDeserialized = made =>
        {
            foreach (var property in lists)
            {
                var at = 0;
                foreach (var element in property.Get!(made) as IEnumerable ?? Array.Empty<object>())
                {
                    if (element is null)
                    {
                        throw new JsonException(string.Create(CultureInfo.InvariantCulture, $"'{property.Name}' has nothing in place {at}."));
                    }

                    at++;
                }
            }
        };
    }

    private static bool HoldsObjects(Type type) => type.IsGenericType && type.GetGenericTypeDefinition() == typeof(IReadOnlyList<>) && !type.GetGenericArguments()[0].IsValueType;
}
