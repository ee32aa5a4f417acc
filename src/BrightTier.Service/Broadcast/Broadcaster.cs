using System.Collections.Concurrent;
using System.Globalization;
using System.IO.Pipelines;
using System.Text;
using System.Text.Json;
using BrightTier.Contracts;

namespace BrightTier.Service.Broadcast;

/// <summary>
/// Something that happened: its type, its data as JSON, whether only those who read drafts are told, whose streams end with it, and whom
/// it is
/// for; null for all.
/// </summary>
public sealed record ServerEvent(
    long Number,
    string Type,
    string Data,
    bool ForConfigurators,
    string? Ending = null,
    Func<Subscriber, bool>? For = null
)
{
    /// <summary>As it goes over the wire (server-sent events, WHATWG HTML 9.2): made once for all streams.</summary>
    public ReadOnlyMemory<byte> Wire { get; init; }
}

/// <summary>Who listens: a person, the session or token she is known by, her roles, and whether she may look at drafts.</summary>
public sealed record Subscriber(string Person, string Credential, IReadOnlyList<string> Roles, bool ReadsDrafts);

/// <summary>
/// Tells every open stream what happens. The last thousand events are kept, so that a stream that was cut resumes where it was
/// (Last-Event-ID); one that was away longer is told to look again.
/// </summary>
public sealed class Broadcaster
{
    private const int Remembered = 1_000;

    // Names this run of the service in event ids, since numbers begin anew with it.
    private readonly string run = Guid.NewGuid().ToString("N")[..8];
    private readonly ConcurrentDictionary<string, EventStream> streams = new();
    private readonly Queue<ServerEvent> past = new();
    private readonly Lock gate = new();
    private long number;

    public int Open => streams.Count;

    /// <summary>So many clients may ask for something anew at the same moment, and so many in each second that follows.</summary>
    private const int AtOnce = 500;
    private const int ASecond = 2_000;

    /// <summary>So many streams are written to before anything else has its turn.</summary>
    private const int InARow = 500;

    /// <summary>
    /// Within how many milliseconds all who listen here ask for something anew, each at a moment of her own: people who work meanwhile
    /// are not kept waiting by ten thousand forms. 0 where they are few.
    /// </summary>
    public int Within => Open <= AtOnce ? 0 : (int)(1_000L * Open / ASecond);

    /// <summary>The id of the last event: this run's name and the event's number, which grows.</summary>
    public string LastEventId => string.Create(CultureInfo.InvariantCulture, $"{run}-{Interlocked.Read(ref number)}");

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
    public Dictionary<long, int> Drawn() =>
        streams
            .Values.Where(listener => listener.Drawn > 0)
            .GroupBy(listener => listener.Drawn)
            .ToDictionary(group => group.Key, group => group.Count());

    /// <summary>Is told of what happened in this process, for whoever passes it on to the others.</summary>
    public Action<ServerEvent>? PassOn { get; set; }

    /// <param name="ending">A person whose streams end with this: they come back with the rights she has then.</param>
    public void Publish(string type, string data, bool forConfigurators = false, string? ending = null)
    {
        PassOn?.Invoke(new ServerEvent(0, type, data, forConfigurators, ending));
        PublishHere(type, data, forConfigurators, ending);
    }

    /// <summary>What other processes are told of a session or token that is over; never an event for clients.</summary>
    public const string Forget = "forget";

    /// <summary>What is told to whoever listens now, and to nobody later.</summary>
    public const string Passing = "selection";

    /// <summary>Ends the streams that began with a session or token which is over, here and in the other processes.</summary>
    public void EndCredential(string hash)
    {
        PassOn?.Invoke(new ServerEvent(0, Forget, hash, false));
        EndHere(who => who.Credential == hash);
    }

    /// <summary>Ends streams of this process; their clients come back with the rights they have then, or not at all.</summary>
    public void EndHere(Func<Subscriber, bool> which)
    {
        foreach (var listener in streams.Values.Where(listener => which(listener.Who)))
        {
            listener.End();
        }
    }

    /// <summary>Tells the streams of this process alone what happened here or elsewhere.</summary>
    public void PublishHere(
        string type,
        string data,
        bool forConfigurators = false,
        string? ending = null,
        Func<Subscriber, bool>? whom = null
    )
    {
        lock (gate)
        {
            number++;
            var happening = new ServerEvent(number, type, data, forConfigurators, ending, whom) { Wire = Written(type, data, number) };
            if (type != Passing)
            {
                past.Enqueue(happening);
            }

            if (past.Count > Remembered)
            {
                past.Dequeue();
            }

            var idle = streams.Values.Where(listener => listener.Hears(happening) && listener.Enqueue(happening)).ToList();
            if (idle.Count > 0)
            {
                // Whoever did it is answered meanwhile.
                _ = Task.Run(() => Tell(idle));
            }
        }
    }

    /// <summary>
    /// Writes to streams, some hundreds at a time: all at once, what people ask for meanwhile would stand in line behind ten thousand
    /// writes.
    /// </summary>
    private static async Task Tell(List<EventStream> idle)
    {
        foreach (var some in idle.Chunk(InARow))
        {
            foreach (var listener in some)
            {
                _ = listener.Write();
            }

            await Task.Delay(1);
        }
    }

    /// <summary>Writes to a client what it missed since <paramref name="last"/>, then what happens, until it goes.</summary>
    public async Task Follow(string? last, Subscriber who, long release, PipeWriter target, CancellationToken gone)
    {
        var name = Guid.NewGuid().ToString("N");
        var listener = new EventStream(who, target, gone);
        lock (gate)
        {
            var complete = Since(last, out var since);
            var missed = complete ? past.Where(happening => happening.Number > since && listener.Hears(happening)).ToList() : [];
            var from = missed is [var first, ..] ? first.Number - 1 : number;
            var hello = new ServerEvent(
                from,
                last is null || complete ? "hello" : "resync",
                JsonSerializer.Serialize(new HelloEvent(release, name), WireJson.Default.HelloEvent),
                false
            );
            listener.Start([hello with { Wire = Written(hello.Type, hello.Data, from, Retry()) }, .. missed]);
            streams[name] = listener;
        }

        await using var left = gone.Register(listener.End);
        try
        {
            await listener.Write();
            await listener.Ended;
        }
        finally
        {
            streams.TryRemove(name, out _);
        }
    }

    private bool Since(string? last, out long since)
    {
        since = number;
        return last is not null
            && last.Split('-') is [var theirs, var count]
            && theirs == run
            && long.TryParse(count, NumberStyles.None, CultureInfo.InvariantCulture, out since)
            && (past.Count == 0 || since >= past.Peek().Number - 1);
    }

    /// <summary>When a client comes back that was cut off: with many, each at a moment of her own.</summary>
    private string Retry() =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"retry: {1_000 + System.Security.Cryptography.RandomNumberGenerator.GetInt32(Within + 1)}\n"
        );

    /// <summary>Data is JSON on one line.</summary>
    private byte[] Written(string type, string data, long at, string more = "") =>
        Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"event: {type}\ndata: {data}\nid: {run}-{at}\n{more}\n"));
}
