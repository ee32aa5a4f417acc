namespace BrightTier.Service.Http;

/// <summary>How many bytes the body of a call may have, by what it carries; longer ones are refused before they are read.</summary>
public static class BodySizes
{
    /// <summary>Where an endpoint says nothing else: any list of names.</summary>
    public const long Usual = 2_000_000;

    /// <summary>A name and a password.</summary>
    public const long Small = 20_000;

    /// <summary>One document, or one record with what hangs on it.</summary>
    public const long Document = 12_000_000;

    /// <summary>A file, a table, or many documents.</summary>
    public const long Largest = 24_000_000;

    /// <summary>Bodies longer than this are refused before they are read.</summary>
    public static TBuilder TakesAtMost<TBuilder>(this TBuilder endpoint, long bytes)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(bytes));
}
