using BrightTier.Contracts;

namespace BrightTier.Client;

// The audit trail, and the whole of what a service keeps.
public sealed partial class BrightTierClient
{
    /// <summary>A page of the audit log, newest first.</summary>
    public Task<AuditPage> Audit(
        string? by,
        string? action,
        string? subject,
        string? words,
        DateTimeOffset? from,
        DateTimeOffset? until,
        int limit,
        string? after,
        CancellationToken cancel
    ) =>
        Get(
            $"api/audit/entries?limit={Number(limit)}{Part("by", by)}{Part("action", action)}{Part("subject", subject)}"
                + $"{Part("q", words)}{Part("from", from?.ToString("O"))}{Part("until", until?.ToString("O"))}"
                + $"{Part("after", after)}",
            WireJson.Default.AuditPage,
            cancel
        );

    /// <summary>What was done to records, newest first.</summary>
    public Task<RecordAuditPage> RecordAudit(
        string? by,
        string? action,
        string? entity,
        long? record,
        DateTimeOffset? from,
        DateTimeOffset? until,
        int limit,
        string? after,
        CancellationToken cancel
    ) =>
        Get(
            $"api/audit/record-entries?limit={Number(limit)}{Part("by", by)}{Part("action", action)}"
                + $"{Part("entity", entity)}{Part("record", record is { } id ? Number(id) : null)}"
                + $"{Part("from", from?.ToString("O"))}{Part("until", until?.ToString("O"))}{Part("after", after)}",
            WireJson.Default.RecordAuditPage,
            cancel
        );

    /// <summary>How long the audit log is, signed.</summary>
    public Task<AuditHead> AuditHead(CancellationToken cancel) => Get("api/audit/head", WireJson.Default.AuditHead, cancel);

    /// <summary>The whole audit log, oldest first, as lines of JSON.</summary>
    public async Task AuditExport(Func<Stream, Task> read, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Get,
            "api/audit/entries/export?format=jsonl",
            null,
            null,
            cancel,
            HttpCompletionOption.ResponseHeadersRead
        );
        await using var stream = await answer.Content.ReadAsStreamAsync(cancel);
        await read(stream);
    }

    public Task<AuditProof> AuditProof(CancellationToken cancel) => Get("api/audit/proof", WireJson.Default.AuditProof, cancel);

    /// <summary>Everything the service holds, as an archive, into a stream. For whoever may administer.</summary>
    public async Task Backup(Stream target, CancellationToken cancel)
    {
        using var answer = await Ask(HttpMethod.Get, "api/backup", null, null, cancel, HttpCompletionOption.ResponseHeadersRead);
        await answer.Content.CopyToAsync(target, cancel);
    }
}
