using System.Text.Json;
using System.Text.Json.Serialization;
using BrightTier.Core.Documents;
using BrightTier.Storage;

namespace BrightTier.Service.Audit;

/// <summary>Writes down what people do. What they do to records is in the records' own history.</summary>
public sealed class AuditTrail(AuditStore store)
{
    private static readonly JsonSerializerOptions Written = new(JsonSerializerDefaults.Web) { DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull, Encoder = JsonText.Options.Encoder };

    /// <param name="act">What was done, such as draft.changed.</param>
    /// <param name="subject">To what, such as layout/vessel.</param>
    /// <param name="detail">Whatever says more; written as JSON.</param>
    public Task Note(string by, string act, string subject, object? detail, CancellationToken cancel) => store.Add(Entry(by, act, subject, detail), cancel);

    /// <summary>An entry for the transaction that does what it tells of.</summary>
    public AuditEntryRow Entry(string by, string act, string subject, object? detail) => store.Entry(by, act, subject, detail is null ? "{}" : JsonSerializer.Serialize(detail, Written));
}
