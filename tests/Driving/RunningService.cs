using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text;
using BrightTier.Client;

namespace BrightTier.Testing;

/// <summary>The real service on loopback, with a data folder of its own.</summary>
public abstract class RunningService : IAsyncDisposable
{
    private readonly string[] settings;

    /// <param name="settings">Its settings, as on the command line, besides its address and data folder.</param>
    /// <param name="data">Its data folder; null for a new one.</param>
    /// <param name="address">Where it listens; null for a port that is free.</param>
    protected RunningService(string[] settings, string? data, Uri? address = null)
    {
        this.settings = settings;
        Data = data ?? NewFolder();
        Address = address ?? FreeAddress();
    }

    public static string Checkout { get; } = FindCheckout();

    public string Data { get; }

    public Uri Address { get; }

    /// <summary>What it has said so far.</summary>
    public abstract string Output { get; }

    public static string NewFolder() => Directory.CreateTempSubdirectory("bright-tier-test-").FullName;

    /// <summary>The settings of a service that begins with a folder of documents: the demo's, where none is named.</summary>
    protected static string[] From(string? seed, string[] more) =>
        ["--Seed", seed ?? Path.Combine(Checkout, "demo"), "--PickPeople", "true", "--SignInsPerMinute", "0", .. more];

    /// <summary>Ends it at once, with whatever it is at.</summary>
    public abstract Task Kill();

    /// <summary>Starts the service again on its data after it has ended.</summary>
    public Task Restart(params string[] more) => Begin(more);

    /// <summary>Starts it, and waits until it answers.</summary>
    /// <exception cref="InvalidOperationException">It ended instead, with what it said.</exception>
    protected Task Begin(params string[] more) => Launch(["--urls", Address.ToString().TrimEnd('/'), "--Data", Data, .. settings, .. more]);

    protected abstract Task Launch(string[] arguments);

    /// <summary>A client signed in as one of the demo's people, by a token.</summary>
    public async Task<BrightTierClient> As(string person)
    {
        var client = new BrightTierClient(Address, null);
        await client.PickPerson(person, "test", CancellationToken.None);
        return client;
    }

    /// <summary>Plain HTTP with a person's token, or nobody's.</summary>
    public async Task<HttpClient> Http(string? person = null)
    {
        var http = new HttpClient { BaseAddress = Address };
        if (person is not null)
        {
            using var client = new BrightTierClient(Address, null);
            http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue(
                "Bearer",
                (await client.PickPerson(person, "test", CancellationToken.None)).Secret
            );
        }

        return http;
    }

    public static StringContent Json(string text) => new(text, Encoding.UTF8, "application/json");

    public async ValueTask DisposeAsync()
    {
        await Kill();
        GC.SuppressFinalize(this);
        try
        {
            Directory.Delete(Data, recursive: true);
        }
        catch (IOException)
        {
            // A file still being let go of; the temporary folder is cleaned by the system.
        }
    }

    /// <summary>
    /// A data folder with the demo application in it, copied from one that was filled once: taking the demo in takes longer than most
    /// tests.
    /// </summary>
    protected static async Task<string> CopyOf(Task<string> filled)
    {
        var data = NewFolder();
        foreach (var file in Directory.EnumerateFiles(await filled))
        {
            File.Copy(file, Path.Combine(data, Path.GetFileName(file)));
        }

        return data;
    }

    private static Uri FreeAddress()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return new Uri($"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}/");
    }

    private static string FindCheckout()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(at!.FullName, "BrightTier.slnx")))
        {
            at = at.Parent;
        }

        return at.FullName;
    }
}
