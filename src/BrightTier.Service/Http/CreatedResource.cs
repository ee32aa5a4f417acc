using System.Text.Json.Serialization.Metadata;

namespace BrightTier.Service.Http;

/// <summary>The answer to a call that made something: 201, and where it is (RFC 9110, 10.2.2).</summary>
public static class CreatedResource
{
    /// <param name="path">Where what was made is read from here on, from the root of the service.</param>
    public static IResult At<T>(HttpContext http, string path, T value, JsonTypeInfo<T> type)
    {
        http.Response.Headers.Location = $"{http.Request.PathBase}{path}";
        return TypedResults.Json(value, type, statusCode: 201);
    }
}
