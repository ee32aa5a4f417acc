using BrightTier.Contracts;

namespace BrightTier.Client;

// Records.
public sealed partial class BrightTierClient
{
    /// <param name="sort">Keys of fields with commas between, a - before those that run downwards.</param>
    /// <param name="filter">A condition in CEL.</param>
    /// <param name="slow">Whether a large table may be read whole for it.</param>
    public Task<RecordPage> Records(
        string entity,
        string? search,
        string? sort,
        string? filter,
        string? after,
        int limit,
        CancellationToken cancel,
        bool slow = false
    ) =>
        Get(
            $"api/records/{Escape(entity)}?limit={Number(limit)}"
                + $"{Part("q", search)}{Part("sort", sort)}{Part("filter", filter)}{Part("after", after)}"
                + $"{Part("slow", slow ? "true" : null)}",
            WireJson.Default.RecordPage,
            cancel
        );

    public Task<RecordInfo> Record(string entity, long id, CancellationToken cancel) =>
        Get($"api/records/{Escape(entity)}/{Number(id)}", WireJson.Default.RecordInfo, cancel);

    public Task<IReadOnlyList<RecordName>> LookUp(string entity, string text, CancellationToken cancel) =>
        Get($"api/records/{Escape(entity)}/lookup?q={Escape(text)}", WireJson.Default.IReadOnlyListRecordName, cancel);

    public Task<RecordInfo> CreateRecord(string entity, RecordSave save, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/records/{Escape(entity)}",
            Body(save, WireJson.Default.RecordSave),
            WireJson.Default.RecordInfo,
            null,
            cancel
        );

    public Task<RecordInfo> ChangeRecord(string entity, long id, long version, RecordSave save, CancellationToken cancel) =>
        Send(
            HttpMethod.Patch,
            $"api/records/{Escape(entity)}/{Number(id)}",
            Body(save, WireJson.Default.RecordSave),
            WireJson.Default.RecordInfo,
            request => Precondition(request, $"\"{Number(version)}\""),
            cancel
        );

    public async Task DeleteRecord(string entity, long id, long version, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Delete,
            $"api/records/{Escape(entity)}/{Number(id)}",
            null,
            request => Precondition(request, $"\"{Number(version)}\""),
            cancel
        );
    }

    public Task<RecordInfo> RestoreRecord(string entity, long id, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/records/{Escape(entity)}/{Number(id)}/restore", null, WireJson.Default.RecordInfo, null, cancel);
}
