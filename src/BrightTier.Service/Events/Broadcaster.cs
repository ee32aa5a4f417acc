using System.Collections.Concurrent;
using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using System.Threading.Channels;

namespace BrightTier.Service.Events;

/// <summary>Something that happened: its type, its data as JSON, whether only those who read drafts are told, whose streams end with it, and the roles it is for; null for all.</summary>
public sealed record Happening(long Number, string Type, string Data, bool ForConfigurators, string? Ending = null, IReadOnlyList<string>? Roles = null)
{
    /// <summary>As it goes over the wire (server-sent events, WHATWG HTML 9.2): made once for all streams.</summary>
    public ReadOnlyMemory<byte> Wire { get; init; }
}

/// <summary>Who listens: a person, with her roles, and whether she may look at drafts.</summary>
public sealed record Listening(string Person, IReadOnlyList<string> Roles, bool ReadsDrafts);

/// <summary>
/// Tells every open stream what happens. The last thousand happenings are kept, so that a stream that was cut resumes where it was
/// (Last-Event-ID); one that was away longer is told to look again.
/// </summary>
public sealed class Broadcaster
{
    private const int Remembered = 1_000;

    // Names this run of the service in event ids, since numbers begin anew with it.
    private readonly string run = Guid.NewGuid().ToString("N")[..8];
    private readonly ConcurrentDictionary<string, Listener> streams = new();
    private readonly Queue<Happening> past = new();
    private readonly Lock gate = new();
    private long number;

    public int Open => streams.Count;

    /// <summary>One open stream.</summary>
    private sealed class Listener(Listening who)
    {
        public Listening Who => who;

        public Channel<Happening> Channel { get; } = System.Threading.Channels.Channel.CreateBounded<Happening>(256);

        /// <summary>The release this client said it drew last.</summary>
        public long Drawn { get; set; }

        public bool Hears(Happening happening) => (who.ReadsDrafts || !happening.ForConfigurators) && (happening.Roles is null || who.Roles.Any(happening.Roles.Contains));
    }

    /// <summary>Takes down that a client has drawn a release; false when its stream is not of this process.</summary>
    public bool HasDrawn(string stream, string person, long release)
    {
        if (streams.TryGetValue(stream, out var listener) && listener.Who.Person == person)
        {
            listener.Drawn = release;
            return true;
        }

        return false;
    }

    /// <summary>How many clients of this process have drawn which release last.</summary>
    public Dictionary<long, int> Drawn() => streams.Values.Where(listener => listener.Drawn > 0).GroupBy(listener => listener.Drawn).ToDictionary(group => group.Key, group => group.Count());

    /// <summary>Is told of what happened in this process, for whoever passes it on to the others.</summary>
    public Action<Happening>? PassOn { get; set; }

    /// <param name="ending">A person whose streams end with this: they come back with the rights she has then.</param>
    public void Tell(string type, string data, bool forConfigurators = false, string? ending = null)
    {
        PassOn?.Invoke(new Happening(0, type, data, forConfigurators, ending));
        TellHere(type, data, forConfigurators, ending);
    }

    /// <summary>Tells the streams of this process alone what happened here or elsewhere.</summary>
    public void TellHere(string type, string data, bool forConfigurators = false, string? ending = null, IReadOnlyList<string>? roles = null)
    {
        lock (gate)
        {
            number++;
            var happening = new Happening(number, type, data, forConfigurators, ending, roles) { Wire = Written(type, data, number) };
            past.Enqueue(happening);
            if (past.Count > Remembered)
            {
                past.Dequeue();
            }

            foreach (var (_, listener) in streams)
            {
                // A stream too slow to follow is ended; it comes back and catches up.
                if (listener.Hears(happening) && !listener.Channel.Writer.TryWrite(happening))
                {
                    listener.Channel.Writer.TryComplete();
                }
            }
        }
    }

    /// <summary>A stream for one client: what it missed since <paramref name="last"/>, then what happens, until it goes.</summary>
    public async IAsyncEnumerable<ReadOnlyMemory<byte>> Follow(string? last, Listening who, long release, [EnumeratorCancellation] CancellationToken cancel)
    {
        var name = Guid.NewGuid().ToString("N");
        var listener = new Listener(who);
        var stream = listener.Channel;
        List<Happening> missed = [];
        bool complete;
        long from;
        lock (gate)
        {
            streams[name] = listener;
            from = number;
            complete = Since(last, out var since);
            if (complete)
            {
                missed.AddRange(past.Where(happening => happening.Number > since && listener.Hears(happening)));
            }
        }

        try
        {
            yield return Written(last is null || complete ? "hello" : "look-again", $"{{\"release\":{release.ToString(CultureInfo.InvariantCulture)},\"stream\":\"{name}\"}}", missed.Count > 0 ? missed[0].Number - 1 : from, "retry: 1000\n");
            foreach (var happening in missed)
            {
                yield return happening.Wire;
            }

            while (await Wait(stream, cancel))
            {
                while (stream.Reader.TryRead(out var happening))
                {
                    yield return happening.Wire;
                    if (happening.Ending == who.Person)
                    {
                        yield break;
                    }
                }
            }
        }
        finally
        {
            streams.TryRemove(name, out _);
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

    /// <summary>Data is JSON on one line.</summary>
    private byte[] Written(string type, string data, long at, string more = "") => Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"event: {type}\ndata: {data}\nid: {run}-{at}\n{more}\n"));
}
