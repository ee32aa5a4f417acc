using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace BrightTier.Bench;

/// <summary>Plain HTTP/1.1 over kept connections, one request after another on each: the same load for whatever is measured.</summary>
internal static class Load
{
    private const int Connections = 16;

    /// <summary>That an answer comes in chunks, and its length is not known before it ends (RFC 9112, 7.1).</summary>
    private const int Chunked = int.MaxValue - 1;

    /// <summary>Requests answered a second.</summary>
    public static async Task<double> Measure(Uri address, string request, TimeSpan length)
    {
        var bytes = Encoding.UTF8.GetBytes(request);
        using var stop = new CancellationTokenSource();
        var clock = Stopwatch.StartNew();
        var counts = Enumerable.Range(0, Connections).Select(_ => Task.Run(() => Connection(address, bytes, stop.Token))).ToArray();
        await Task.Delay(length);
        await stop.CancelAsync();
        var total = (await Task.WhenAll(counts)).Sum();
        return total / clock.Elapsed.TotalSeconds;
    }

    private static async Task<long> Connection(Uri address, byte[] request, CancellationToken stop)
    {
        using var socket = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        await socket.ConnectAsync(IPAddress.Loopback, address.Port, CancellationToken.None);
        var buffer = new byte[64 * 1024];
        long answered = 0;
        while (!stop.IsCancellationRequested)
        {
            await socket.SendAsync(request, CancellationToken.None);
            var have = 0;
            var wanted = int.MaxValue;
            while (have < wanted)
            {
                var read = await socket.ReceiveAsync(buffer.AsMemory(have), CancellationToken.None);
                if (read == 0)
                {
                    throw new InvalidOperationException(
                        "The connection was closed: " + Encoding.ASCII.GetString(buffer, 0, Math.Min(have, 300))
                    );
                }

                have += read;
                if (wanted == Chunked)
                {
                    // The last chunk is empty, and nothing follows it before the next request.
                    wanted = buffer.AsSpan(0, have).EndsWith("\r\n0\r\n\r\n"u8) ? have : Chunked;
                }
                else if (wanted == int.MaxValue && buffer.AsSpan(0, have).IndexOf("\r\n\r\n"u8) is var head and >= 0)
                {
                    var length = Length(buffer.AsSpan(0, head));
                    wanted =
                        length < 0
                            ? buffer.AsSpan(0, have).EndsWith("\r\n0\r\n\r\n"u8)
                                ? have
                                : Chunked
                            : head + 4 + length;
                }
            }

            answered++;
        }

        return answered;
    }

    private static int Length(ReadOnlySpan<byte> head)
    {
        if (!head.StartsWith("HTTP/1.1 200"u8) && !head.StartsWith("HTTP/1.1 201"u8) && !head.StartsWith("HTTP/1.1 304"u8))
        {
            throw new InvalidOperationException(
                "Not the answer to be measured: " + Encoding.ASCII.GetString(head[..Math.Min(head.Length, 200)])
            );
        }

        var at = head.IndexOf("Content-Length: "u8);
        if (at < 0)
        {
            return head.IndexOf("Transfer-Encoding: chunked"u8) >= 0 ? -1 : 0;
        }

        var rest = head[(at + 16)..];
        var end = rest.IndexOf((byte)'\r');
        return int.Parse(Encoding.ASCII.GetString(end < 0 ? rest : rest[..end]), System.Globalization.CultureInfo.InvariantCulture);
    }
}
