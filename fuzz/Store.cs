using BrightTier.Client;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Testing;

namespace BrightTier.Fuzz;

/// <summary>A service that takes files: what it takes it gives back, what it does not take it says why.</summary>
internal sealed class Store : IAsyncDisposable
{
    private readonly HostedService service;
    private readonly BrightTierClient client;

    private Store(HostedService service, BrightTierClient client) => (this.service, this.client) = (service, client);

    public static async Task<Store> Open()
    {
        var begun = await HostedService.WithDemo();
        return new Store(begun, await begun.As("ada"));
    }

    /// <summary>How many files it took.</summary>
    public int Taken { get; private set; }

    public async Task TakeAndReadBack(string text)
    {
        try
        {
            var report = await client.ImportDocuments(
                new ImportRequest([new ImportDocument(text, null)], ConflictResolution: "mine"),
                CancellationToken.None
            );
            var taken = report.Documents.Single();
            var there = DocumentFile.Read((await client.File(taken.Kind, taken.Key, CancellationToken.None)).Text).Document!;
            var sent = DocumentFile.Read(text).Document!.CarriedFrom(there);
            Taken++;
            if (DocumentFile.Write(sent) != DocumentFile.Write(there))
            {
                throw new InvalidOperationException("what was stored is not what was sent");
            }
        }
        catch (RefusedException refused) when (refused.Problem.Status is >= 400 and < 500)
        {
            if (string.IsNullOrWhiteSpace(refused.Problem.Detail))
            {
                throw new InvalidOperationException("refused without saying why", refused);
            }
        }
    }

    public async ValueTask DisposeAsync()
    {
        client.Dispose();
        await service.DisposeAsync();
    }
}
