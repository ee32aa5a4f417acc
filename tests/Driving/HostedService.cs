extern alias service;

using System.Collections.Concurrent;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Npgsql;
using service::BrightTier.Service.Hosting;
using service::BrightTier.Service.Startup;

namespace BrightTier.Testing;

/// <summary>
/// The service held by the process of the tests: put together by its own start, listening on loopback and spoken to over HTTP, as it would
/// be alone. Its
/// code is compiled once for all of them, and not anew for each, which takes a process of its own longer than what most tests ask of it.
/// </summary>
public sealed class HostedService : RunningService
{
    private readonly ConcurrentQueue<string> output = [];
    private ServiceApplication? application;

    /// <summary>The service's clock, which can be set forward.</summary>
    public SetClock Clock { get; } = new();

    private HostedService(string[] settings, string? data)
        : base(settings, data) { }

    public override string Output => string.Join('\n', output);

    /// <summary>With the demo application, ready to answer.</summary>
    public static async Task<HostedService> WithDemo(string? data = null, params string[] more) =>
        await Begun(From(null, more), data ?? (more.Contains("--Database") ? null : await CopyOf(Filled.Value)));

    /// <summary>On a database of PostgreSQL, with the demo application if the database is empty; several may share one.</summary>
    public static Task<HostedService> On(string database, params string[] more) => WithDemo(null, ["--Database", database, .. more]);

    /// <summary>With nothing in it.</summary>
    public static Task<HostedService> Empty(params string[] more) => Begun(more, null);

    /// <summary>Beginning with a folder of documents.</summary>
    public static Task<HostedService> Of(string seed, params string[] more) => Begun(From(seed, more), null);

    /// <summary>The data folder of a service that has taken the demo application in.</summary>
    private static readonly Lazy<Task<string>> Filled = new(async () =>
    {
        var folder = NewFolder();
        await (await Begun(From(null, []), folder)).Kill();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(folder, recursive: true);
        return folder;
    });

    private static async Task<HostedService> Begun(string[] settings, string? data)
    {
        var service = new HostedService(settings, data);
        await service.Begin();
        return service;
    }

    public override async Task Kill()
    {
        if (application is { } running)
        {
            application = null;
            await running.DisposeAsync();
            // A process that ends lets go of its connections; the next ones would find a database that takes no more.
            NpgsqlConnection.ClearAllPools();
        }
    }

    protected override async Task Launch(string[] arguments)
    {
        var (built, problem) = ServiceApplication.Build(arguments, further: services =>
            services
                .AddSingleton<ILoggerFactory>(new Lines(output))
                .AddSingleton<CodeScreen>(new Screen(output))
                .AddSingleton<TimeProvider>(Clock)
        );
        application = built;
        if (built is null || !await built.Begin())
        {
            await Kill();
            throw new InvalidOperationException($"The service ended before it was ready:\n{problem}{Output}");
        }
    }

    /// <summary>A clock that goes as clocks do, and later where it was set forward; its timers wait as ever.</summary>
    public sealed class SetClock : TimeProvider
    {
        private long ahead;

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow().AddTicks(Interlocked.Read(ref ahead));

        public void Forward(TimeSpan by) => Interlocked.Add(ref ahead, by.Ticks);
    }

    private sealed class Screen(ConcurrentQueue<string> output) : CodeScreen
    {
        public override void Show(string line) => output.Enqueue(line);
    }

    /// <summary>Keeps what the service says, as one would read it.</summary>
    private sealed class Lines(ConcurrentQueue<string> output) : ILoggerFactory, ILogger
    {
        public ILogger CreateLogger(string categoryName) =>
            categoryName.StartsWith("Microsoft", StringComparison.Ordinal)
                ? Microsoft.Extensions.Logging.Abstractions.NullLogger.Instance
                : this;

        public void AddProvider(ILoggerProvider provider) { }

        public void Dispose() { }

        public IDisposable? BeginScope<TState>(TState state)
            where TState : notnull => null;

        public bool IsEnabled(LogLevel logLevel) => logLevel >= LogLevel.Information;

        public void Log<TState>(
            LogLevel logLevel,
            EventId eventId,
            TState state,
            Exception? exception,
            Func<TState, Exception?, string> formatter
        ) => output.Enqueue($"{formatter(state, exception)} {exception}");
    }
}
