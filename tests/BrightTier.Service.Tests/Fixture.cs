using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Testing;

[assembly: AssemblyFixture(typeof(BrightTier.Service.Tests.DemoService))]
[assembly: AssemblyFixture(typeof(BrightTier.Service.Tests.Postgres))]

namespace BrightTier.Service.Tests;

/// <summary>One running service that most tests share; each works on records and layouts of its own.</summary>
public sealed class DemoService : IAsyncLifetime
{
    public RunningService Running { get; private set; } = null!;

    public async ValueTask InitializeAsync() => Running = await HostedService.WithDemo();

    public ValueTask DisposeAsync() => Running.DisposeAsync();

    public Task<BrightTierClient> As(string person) => Running.As(person);

    public Task<HttpClient> Http(string? person = null) => Running.Http(person);

    private int made;

    /// <summary>A layout for vessels that no other test touches.</summary>
    public async Task<LayoutDraft> NewLayout(BrightTierClient ada) =>
        await ada.CreateLayout(
            new LayoutRequest("vessel", $"trial-{Interlocked.Increment(ref made)}-{Guid.NewGuid():N}"[..20]),
            CancellationToken.None
        );
}

/// <summary>A running service for the tests of one class, which may publish and change what they like.</summary>
public sealed class OwnService : IAsyncLifetime
{
    public RunningService Running { get; private set; } = null!;

    public async ValueTask InitializeAsync() => Running = await HostedService.WithDemo();

    public ValueTask DisposeAsync() => Running.DisposeAsync();
}

/// <summary>A running service that has a hundred megabytes for what it is asked beside the thirty it starts with.</summary>
public sealed class ConfinedService : IAsyncLifetime
{
    public ServiceProcess Running { get; private set; } = null!;

    public async ValueTask InitializeAsync() => Running = await ServiceProcess.WithHeapOf(130_000_000);

    public ValueTask DisposeAsync() => Running.DisposeAsync();
}

/// <summary>One PostgreSQL that tests share, each with databases of its own; started by the first that asks for it.</summary>
public sealed class Postgres : IAsyncDisposable
{
    private readonly Lazy<Task<PostgresServer>> server = new(PostgresServer.Begin);

    public Task<PostgresServer> Server => server.Value;

    public async ValueTask DisposeAsync()
    {
        if (server.IsValueCreated)
        {
            await (await server.Value).DisposeAsync();
        }
    }
}

internal static class Wire
{
    public static System.Text.Json.JsonElement Json(string text) => System.Text.Json.JsonDocument.Parse(text).RootElement;

    public static async Task<Problem> Problem(this HttpResponseMessage answer)
    {
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        return System.Text.Json.JsonSerializer.Deserialize(await answer.Content.ReadAsStringAsync(), WireJson.Default.Problem)!;
    }

    public static async Task<Problem> Refused(Func<Task> act) => (await Should.ThrowAsync<RefusedException>(act)).Problem;
}
