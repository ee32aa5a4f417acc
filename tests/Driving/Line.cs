using System.Net;
using System.Net.Sockets;

namespace BrightTier.Testing;

/// <summary>A line to a server on loopback that can be cut and mended, as a network is.</summary>
public sealed class Line : IAsyncDisposable
{
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);
    private readonly int to;
    private readonly HashSet<TcpClient> open = [];
    private readonly Task accepting;
    private volatile bool cut;

    public Line(int to)
    {
        this.to = to;
        listener.Start();
        Port = ((IPEndPoint)listener.LocalEndpoint).Port;
        accepting = Accept();
    }

    public int Port { get; }

    /// <summary>Ends what is open and refuses what comes, until it is mended.</summary>
    public void Cut()
    {
        cut = true;
        lock (open)
        {
            foreach (var client in open)
            {
                client.Close();
            }

            open.Clear();
        }
    }

    public void Mend() => cut = false;

    public async ValueTask DisposeAsync()
    {
        listener.Stop();
        Cut();
        await accepting;
    }

    private async Task Accept()
    {
        try
        {
            while (true)
            {
                _ = Carry(await listener.AcceptTcpClientAsync());
            }
        }
        catch (Exception error) when (error is SocketException or ObjectDisposedException)
        {
            // It is over.
        }
    }

    private async Task Carry(TcpClient here)
    {
        using var there = new TcpClient();
        try
        {
            if (cut)
            {
                return;
            }

            await there.ConnectAsync(IPAddress.Loopback, to);
            lock (open)
            {
                open.Add(here);
                open.Add(there);
            }

            await Task.WhenAny(here.GetStream().CopyToAsync(there.GetStream()), there.GetStream().CopyToAsync(here.GetStream()));
        }
        catch (Exception error) when (error is SocketException or IOException or ObjectDisposedException or InvalidOperationException)
        {
            // Cut while it was being opened.
        }
        finally
        {
            here.Close();
        }
    }
}
