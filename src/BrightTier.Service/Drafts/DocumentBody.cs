using System.Text;
using BrightTier.Core.Documents;
using BrightTier.Service.Http;

namespace BrightTier.Service.Drafts;

/// <summary>A document as a call brings it.</summary>
internal static class DocumentBody
{
    /// <summary>A document from the body, YAML or JSON, which must be of the kind and key the address names.</summary>
    /// <returns>With it how many comments the text has, which drafts do not keep.</returns>
    public static async Task<(Document Document, int Comments)> Read(
        HttpContext http,
        DocumentKind kind,
        string key,
        CancellationToken cancel
    )
    {
        using var reader = new StreamReader(http.Request.Body, Encoding.UTF8);
        var text = await reader.ReadToEndAsync(cancel);
        var (document, problems) = DocumentFile.Read(text);
        if (document is null)
        {
            throw Problems.Document(problems);
        }

        return document.Kind == kind && document.Key == key
            ? (document, FileComments.Count(text))
            : throw Problems.Invalid(
                $"The body is the {document.Kind.Noun()} '{document.Key}', the address names the {kind.Noun()} '{key}'.",
                Problems.Part("/key", $"must be '{key}'")
            );
    }
}
