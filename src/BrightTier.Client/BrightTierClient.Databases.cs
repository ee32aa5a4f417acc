using BrightTier.Contracts;

namespace BrightTier.Client;

// Databases that are attached.
public sealed partial class BrightTierClient
{
    public Task<IReadOnlyList<DatabaseInfo>> Databases(CancellationToken cancel) =>
        Get("api/databases", WireJson.Default.IReadOnlyListDatabaseInfo, cancel);

    /// <exception cref="RefusedException">400 or 422: it is no connection string, or the database does not answer.</exception>
    public Task<DatabaseInfo> SetDatabase(string name, string connection, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            $"api/databases/{Escape(name)}",
            Body(new ConnectionRequest(connection), WireJson.Default.ConnectionRequest),
            WireJson.Default.DatabaseInfo,
            null,
            cancel
        );

    /// <exception cref="RefusedException">409: an entity is attached by it, or the configuration says it.</exception>
    public Task RemoveDatabase(string name, CancellationToken cancel) =>
        Do(HttpMethod.Delete, $"api/databases/{Escape(name)}", null, cancel);

    public Task<IReadOnlyList<DatabaseTableInfo>> DatabaseTables(string name, CancellationToken cancel) =>
        Get($"api/databases/{Escape(name)}/tables", WireJson.Default.IReadOnlyListDatabaseTableInfo, cancel);

    public Task<IReadOnlyList<AttachSketch>> SketchAttachedTables(string name, AttachRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/databases/{Escape(name)}/sketch",
            Body(request, WireJson.Default.AttachRequest),
            WireJson.Default.IReadOnlyListAttachSketch,
            null,
            cancel
        );

    /// <exception cref="RefusedException">400, 404 or 422: a table is not there or taken, or something stands against it.</exception>
    public Task<AttachOutcome> AttachTables(string name, AttachRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/databases/{Escape(name)}/attach",
            Body(request, WireJson.Default.AttachRequest),
            WireJson.Default.AttachOutcome,
            null,
            cancel
        );

    public Task<IReadOnlyList<DatabaseDifference>> DatabaseDifferences(string name, CancellationToken cancel) =>
        Get($"api/databases/{Escape(name)}/differences", WireJson.Default.IReadOnlyListDatabaseDifference, cancel);

    public Task<RefreshOutcome> RefreshDatabase(string name, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/databases/{Escape(name)}/refresh", null, WireJson.Default.RefreshOutcome, null, cancel);
}
