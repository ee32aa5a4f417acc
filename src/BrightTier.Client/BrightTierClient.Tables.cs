using BrightTier.Contracts;

namespace BrightTier.Client;

// Tables of somebody's that become entities.
public sealed partial class BrightTierClient
{
    public Task<TableSketch> SketchTable(TableRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            "api/tables/sketch",
            Body(request, WireJson.Default.TableRequest),
            WireJson.Default.TableSketch,
            null,
            cancel
        );

    /// <exception cref="RefusedException">422 import-refused: cells do not fit; its parts say which.</exception>
    public Task<TableOutcome> CreateEntity(TableRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            "api/tables/entity",
            Body(request, WireJson.Default.TableRequest),
            WireJson.Default.TableOutcome,
            null,
            cancel
        );

    /// <summary>Makes the example's entities, forms and records in a service that has no entities.</summary>
    /// <exception cref="RefusedException">409 example-taken: it has some.</exception>
    public Task<ExampleOutcome> OpenExample(CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/example", null, WireJson.Default.ExampleOutcome, null, cancel);
}
