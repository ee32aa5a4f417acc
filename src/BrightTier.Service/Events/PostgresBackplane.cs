using System.Text.Json;
using System.Threading.Channels;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Hosting;
using BrightTier.Service.Publication;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;
using Npgsql;

namespace BrightTier.Service.Events;

/// <summary>
/// What several processes on one PostgreSQL tell each other (LISTEN and NOTIFY): releases, changes of drafts, of people, comments. A
/// process that was
/// cut off says it is stale, and catches up by the number of the release; whatever else it missed, its clients are told to look again.
/// </summary>
public sealed class PostgresBackplane(
    NpgsqlDataSource source,
    Broadcaster broadcaster,
    CurrentRelease releases,
    ReleaseAnnouncer announcer,
    KnownCallers recognition,
    Readiness readiness,
    ILogger<PostgresBackplane> log
) : BackgroundService
{
    /// <summary>The longest a message of PostgreSQL may be, less what is around ours.</summary>
    private const int Longest = 7_900;

    /// <summary>How often the number of the release is asked for, so that nobody depends on a message that was lost.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromMilliseconds(500);

    private readonly string own = Guid.NewGuid().ToString("N")[..12];
    private readonly Channel<string> leaving = Channel.CreateBounded<string>(
        new BoundedChannelOptions(10_000) { FullMode = BoundedChannelFullMode.DropOldest }
    );
    private volatile bool cutOff;

    /// <summary>Whether the database cannot be reached: what is served may be older than what others have.</summary>
    public bool IsStale => cutOff;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!readiness.IsReady)
        {
            await Task.Delay(50, stoppingToken);
        }

        broadcaster.PassOn = happening => leaving.Writer.TryWrite(Written(happening));
        await Task.WhenAll(Speak(stoppingToken), Listen(stoppingToken));
    }

    private async Task Speak(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                await using var connection = await source.OpenConnectionAsync(stop);
                while (await leaving.Reader.WaitToReadAsync(stop))
                {
                    // Taken off only once it is sent: after a cut it goes first.
                    while (leaving.Reader.TryPeek(out var message))
                    {
                        await using var command = new NpgsqlCommand("SELECT pg_notify($1, $2)", connection)
                        {
                            Parameters =
                            {
                                new() { Value = ReleaseStore.Announcements },
                                new() { Value = message },
                            },
                        };
                        await command.ExecuteNonQueryAsync(stop);
                        leaving.Reader.TryRead(out _);
                    }
                }
            }
            catch (Exception error) when (error is NpgsqlException or IOException or TimeoutException)
            {
                await Wait(stop);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    private async Task Listen(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                await using var connection = await source.OpenConnectionAsync(stop);
                connection.Notification += (_, said) => Hear(said.Payload);
                await using (var command = new NpgsqlCommand($"LISTEN {ReleaseStore.Announcements}", connection))
                {
                    await command.ExecuteNonQueryAsync(stop);
                }

                await CatchUp(stop);
                if (cutOff)
                {
                    cutOff = false;
                    log.LogInformation("The database is there again; release {Release} is current.", releases.Default.Number);
                    broadcaster.PublishHere("resync", "{}");
                }

                while (true)
                {
                    await connection.WaitAsync(Patience, stop);
                    await CatchUp(stop);
                }
            }
            catch (Exception error) when (error is NpgsqlException or IOException or TimeoutException or InvalidOperationException)
            {
                if (!cutOff)
                {
                    cutOff = true;
                    log.LogWarning("The database cannot be reached; what is served may be stale: {Reason}", error.Message);
                }

                await Wait(stop);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    /// <summary>Takes the newest release, if it is not the one at hand, and tells the clients here.</summary>
    private async Task CatchUp(CancellationToken cancel) => announcer.Announce(await releases.Load(cancel));

    private void Hear(string message)
    {
        using var json = JsonDocument.Parse(message);
        var said = json.RootElement;
        // A release is announced by its number in the transaction that makes it current; the loop that waits for messages takes it.
        if (said.ValueKind is not JsonValueKind.Object || said.GetProperty("from").GetString() == own)
        {
            return;
        }

        var (type, ending) = (said.GetProperty("type").GetString()!, said.GetProperty("ending").GetString());
        if (type == Broadcaster.Forget)
        {
            var hash = said.GetProperty("data").GetString()!;
            recognition.Forget(hash);
            broadcaster.EndHere(who => who.Credential == hash);
            return;
        }

        if (ending is not null)
        {
            recognition.ForgetPerson(ending);
        }

        broadcaster.PublishHere(type, said.GetProperty("data").GetString()!, said.GetProperty("forConfigurators").GetBoolean(), ending);
    }

    private string Written(ServerEvent happening)
    {
        // Every process finds releases by their number.
        var message = JsonSerializer.Serialize(
            new
            {
                from = own,
                type = happening.Type,
                data = happening.Data,
                forConfigurators = happening.ForConfigurators,
                ending = happening.Ending,
            }
        );
        return System.Text.Encoding.UTF8.GetByteCount(message) <= Longest
            ? message
            : JsonSerializer.Serialize(
                new
                {
                    from = own,
                    type = "resync",
                    data = "{}",
                    forConfigurators = happening.ForConfigurators,
                    ending = happening.Ending,
                }
            );
    }

    private static Task Wait(CancellationToken stop) =>
        Task.Delay(Patience, stop).ContinueWith(_ => { }, CancellationToken.None, TaskContinuationOptions.None, TaskScheduler.Default);
}
