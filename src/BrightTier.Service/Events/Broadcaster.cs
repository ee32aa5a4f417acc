using System.Collections.Concurrent;
using System.Globalization;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Threading.Channels;

namespace BrightTier.Service.Events;

/// <summary>Something that happened: its type, its data as JSON, whether only configurators are told, and whose streams end with it.</summary>
public sealed record Happening(long Number, string Type, string Data, bool ForConfigurators, string? Ending = null);

/// <summary>
/// Tells every open stream what happens. The last thousand happenings are kept, so that a stream that was cut resumes where it was
/// (Last-Event-ID); one that was away longer is told to look again.
/// </summary>
public sealed class Broadcaster
{
    private const int Remembered = 1_000;

    // Names this run of the service in event ids, since numbers begin anew with it.
    private readonly string run = Guid.NewGuid().ToString("N")[..8];
    private readonly ConcurrentDictionary<Channel<Happening>, bool> streams = new();
    private readonly Queue<Happening> past = new();
    private readonly Lock gate = new();
    private long number;

    public int Open => streams.Count;

    /// <summary>Is told of what happened in this process, for whoever passes it on to the others.</summary>
    public Action<Happening>? PassOn { get; set; }

    /// <param name="ending">A person whose streams end with this: they come back with the rights she has then.</param>
    public void Tell(string type, string data, bool forConfigurators = false, string? ending = null)
    {
        PassOn?.Invoke(new Happening(0, type, data, forConfigurators, ending));
        TellHere(type, data, forConfigurators, ending);
    }

    /// <summary>Tells the streams of this process alone what happened here or elsewhere.</summary>
    public void TellHere(string type, string data, bool forConfigurators, string? ending)
    {
        lock (gate)
        {
            var happening = new Happening(++number, type, data, forConfigurators, ending);
            past.Enqueue(happening);
            if (past.Count > Remembered)
            {
                past.Dequeue();
            }

            foreach (var (stream, configurator) in streams)
            {
                if (configurator || !forConfigurators)
                {
                    // A stream too slow to follow is ended; it comes back and catches up.
                    if (!stream.Writer.TryWrite(happening))
                    {
                        stream.Writer.TryComplete();
                    }
                }
            }
        }
    }

    /// <summary>A stream for one client: what it missed since <paramref name="last"/>, then what happens, until it goes.</summary>
    public async IAsyncEnumerable<SseItem<string>> Follow(string? last, string person, bool configurator, string hello, [EnumeratorCancellation] CancellationToken cancel)
    {
        var stream = Channel.CreateBounded<Happening>(256);
        List<Happening> missed = [];
        bool complete;
        long from;
        lock (gate)
        {
            streams[stream] = configurator;
            from = number;
            complete = Since(last, out var since);
            if (complete)
            {
                missed.AddRange(past.Where(happening => happening.Number > since && (configurator || !happening.ForConfigurators)));
            }
        }

        try
        {
            yield return new SseItem<string>(hello, last is null || complete ? "hello" : "look-again")
            {
                EventId = Id(missed.Count > 0 ? missed[0].Number - 1 : from),
                ReconnectionInterval = TimeSpan.FromSeconds(1),
            };
            foreach (var happening in missed)
            {
                yield return Item(happening);
            }

            while (await Wait(stream, cancel))
            {
                while (stream.Reader.TryRead(out var happening))
                {
                    yield return Item(happening);
                    if (happening.Ending == person)
                    {
                        yield break;
                    }
                }
            }
        }
        finally
        {
            streams.TryRemove(stream, out _);
        }
    }

    private static async Task<bool> Wait(Channel<Happening> stream, CancellationToken cancel)
    {
        try
        {
            return await stream.Reader.WaitToReadAsync(cancel);
        }
        catch (OperationCanceledException)
        {
            return false;
        }
    }

    private bool Since(string? last, out long since)
    {
        since = number;
        return last is not null
            && last.Split('-') is [var theirs, var count] && theirs == run
            && long.TryParse(count, NumberStyles.None, CultureInfo.InvariantCulture, out since)
            && (past.Count == 0 || since >= past.Peek().Number - 1);
    }

    private string Id(long at) => string.Create(CultureInfo.InvariantCulture, $"{run}-{at}");

    private SseItem<string> Item(Happening happening) => new(happening.Data, happening.Type) { EventId = Id(happening.Number) };
}
