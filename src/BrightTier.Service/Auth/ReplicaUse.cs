using System.Collections.Concurrent;
using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Records;
using BrightTier.Service.Snapshots;
using BrightTier.Storage;

namespace BrightTier.Service.Auth;

/// <summary>
/// Which calls are answered from a read replica: those that change nothing, of whoever has written nothing that it does not have yet. Where
/// she wrote last is kept here and goes with her, in a cookie or in the header <c>Bright-Position</c>, to whichever process she asks next.
/// </summary>
public sealed class ReplicaUse(CurrentRelease releases, TimeProvider time, ILogger<ReplicaUse> log, ReadReplica? replica = null)
    : BackgroundService
{
    /// <summary>How often it is looked how far the replica has come.</summary>
    private static readonly TimeSpan Pace = TimeSpan.FromMilliseconds(200);

    /// <summary>By then a replica that is used has come to where somebody wrote.</summary>
    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(1);

    private readonly ConcurrentDictionary<string, (ulong Position, DateTimeOffset At)> written = new(StringComparer.Ordinal);

    /// <summary>The releases whose tables the replica has once it has come to a position.</summary>
    private Tables? tables;
    private bool isAway;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (replica is null)
        {
            return;
        }

        using var timer = new PeriodicTimer(Pace, time);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await Look(replica, stoppingToken);
                await timer.WaitForNextTickAsync(stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    private async Task Look(ReadReplica replica, CancellationToken cancel)
    {
        try
        {
            var active = releases.Active;
            if (!ReferenceEquals(tables?.Of, active))
            {
                tables = new Tables(active, await replica.Written(cancel));
            }

            await replica.Look(cancel);
            foreach (var (person, last) in written)
            {
                if (time.GetUtcNow() - last.At > Remembered)
                {
                    written.TryRemove(KeyValuePair.Create(person, last));
                }
            }

            if (isAway)
            {
                log.LogInformation("The read replica answers again");
            }

            isAway = false;
        }
        catch (Exception error) when (error is InvalidOperationException || DatabaseErrors.IsOutOfReach(error))
        {
            if (!isAway)
            {
                log.LogWarning("The read replica is not used, all is read from the database: {Reason}", error.Message);
            }

            isAway = true;
        }
    }

    public static Task Middleware(HttpContext http, RequestDelegate next)
    {
        if (http.RequestServices.GetService<ReadReplica>() is { } replica && http.CallerOrNull() is { } caller)
        {
            var reading = http.RequestServices.GetRequiredService<ReplicaUse>();
            if (HttpMethods.IsGet(http.Request.Method) || HttpMethods.IsHead(http.Request.Method))
            {
                replica.IsAllowed = reading.Serves(replica, http, caller.Person.Id);
            }
            else
            {
                http.Response.OnStarting(() => reading.Note(replica, http, caller.Person.Id));
            }
        }

        return next(http);
    }

    private bool Serves(ReadReplica replica, HttpContext http, string person)
    {
        if (tables is not { } has || !ReferenceEquals(has.Of, releases.Active))
        {
            return false;
        }

        var told = http.Request.Headers[WireHeaders.Position].ToString() is { Length: > 0 } header ? header : http.Request.Cookies[Cookie];
        ulong[] needed =
        [
            has.Position,
            written.GetValueOrDefault(person).Position,
            ulong.TryParse(told, NumberStyles.None, CultureInfo.InvariantCulture, out var at) ? at : 0,
        ];
        return replica.HasCome(needed.Max());
    }

    private const string Cookie = "bright-tier-position";

    /// <summary>Keeps where somebody wrote, and tells her.</summary>
    private async Task Note(ReadReplica replica, HttpContext http, string person)
    {
        if (http.Response.StatusCode >= 400 || http.GetEndpoint()?.Metadata.GetMetadata<HarmlessCall>() is not null)
        {
            return;
        }

        ulong position;
        try
        {
            position = await replica.Written(CancellationToken.None);
        }
        catch (Exception error) when (DatabaseErrors.IsOutOfReach(error))
        {
            // What is stored is stored: she reads from the database alone until this is forgotten.
            position = ulong.MaxValue;
        }

        written[person] = (position, time.GetUtcNow());
        var text = position.ToString(CultureInfo.InvariantCulture);
        http.Response.Headers[WireHeaders.Position] = text;
        http.Response.Cookies.Append(
            Cookie,
            text,
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Lax,
                Secure = http.Request.IsHttps,
                MaxAge = Remembered,
                IsEssential = true,
            }
        );
    }

    private sealed record Tables(ActiveReleases Of, ulong Position);
}
