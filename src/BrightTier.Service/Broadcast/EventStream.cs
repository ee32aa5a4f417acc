using System.IO.Pipelines;

namespace BrightTier.Service.Broadcast;

/// <summary>
/// One open stream. Whoever tells it something writes to it there and then where nothing is being written, since waking ten thousand
/// readers takes
/// longer than writing to ten thousand sockets; while a write waits for a slow client, what happens stands in line.
/// </summary>
internal sealed class EventStream(Subscriber who, PipeWriter target, CancellationToken gone)
{
    /// <summary>A stream so far behind is ended; it comes back and catches up. More than one that comes back can have missed.</summary>
    private const int Longest = 2_000;

    private readonly Lock gate = new();
    private readonly Queue<ServerEvent> line = new(0);
    private readonly TaskCompletionSource ended = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private bool writing;
    private bool over;

    public Subscriber Who => who;

    /// <summary>The release this client said it drew last.</summary>
    public long Drawn { get; set; }

    /// <summary>When the stream is over and nothing is written to it any more.</summary>
    public Task Ended => ended.Task;

    public bool Hears(ServerEvent happening) =>
        (who.ReadsDrafts || !happening.ForConfigurators) && (happening.For is null || happening.For(who));

    /// <summary>Puts in line what the stream begins with, however much; it is to be written by the caller.</summary>
    public void Start(IReadOnlyList<ServerEvent> first)
    {
        foreach (var happening in first)
        {
            line.Enqueue(happening);
        }

        writing = true;
    }

    /// <summary>Puts something in line; true where the caller is to <see cref="Write"/>, since nobody else does.</summary>
    public bool Enqueue(ServerEvent happening)
    {
        lock (gate)
        {
            if (line.Count >= Longest)
            {
                over = true;
            }

            if (over)
            {
                return false;
            }

            line.Enqueue(happening);
            return !writing && (writing = true);
        }
    }

    /// <summary>Writes what is in line, in order.</summary>
    public async Task Write()
    {
        while (Next() is { } happening)
        {
            try
            {
                await target.WriteAsync(happening.Wire, gone);
            }
            catch (Exception error) when (error is OperationCanceledException or IOException or InvalidOperationException)
            {
                End();
            }

            if (happening.Ending == who.Person)
            {
                End();
            }
        }
    }

    /// <summary>Nothing more is written after what is being written now.</summary>
    public void End()
    {
        lock (gate)
        {
            over = true;
            if (!writing)
            {
                ended.TrySetResult();
            }
        }
    }

    private ServerEvent? Next()
    {
        lock (gate)
        {
            if (!over && line.TryDequeue(out var happening))
            {
                return happening;
            }

            writing = false;
            if (over)
            {
                ended.TrySetResult();
            }

            return null;
        }
    }
}
