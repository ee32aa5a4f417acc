using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using Npgsql;

namespace BrightTier.Testing;

/// <summary>
/// Debian's PostgreSQL in a temporary folder, on loopback, for one run of tests. It refuses to run as root, so that root runs it as its own
/// user.
/// </summary>
public sealed class PostgresServer : IAsyncDisposable
{
    private const string User = "quay";

    private static readonly string Programs = Directory.Exists("/usr/lib/postgresql")
        ? Path.Combine(Directory.GetDirectories("/usr/lib/postgresql").Order(StringComparer.Ordinal).Last(), "bin")
        : "";

    private readonly string folder = Directory.CreateTempSubdirectory("bright-tier-postgres-").FullName;
    private string options = "";
    private readonly int port = FreePort();
    private int made;

    private readonly Lazy<Task<string>> demo;

    private PostgresServer() => demo = new(Filled);

    public static async Task<PostgresServer> Begin()
    {
        var server = new PostgresServer();
        if (Environment.UserName == "root")
        {
            await Run("chown", "postgres", server.folder);
        }

        await server.Tool("initdb", "-D", server.Files, "-U", User, "--auth=trust", "-E", "UTF8", "--locale=C.UTF-8");
        await server.Start();
        return server;
    }

    public int Port => port;

    /// <summary>Another server that follows this one, so much behind; it answers nothing but questions.</summary>
    public async Task<PostgresServer> Follow(TimeSpan delay)
    {
        var copy = new PostgresServer
        {
            options = string.Create(
                CultureInfo.InvariantCulture,
                $" -c recovery_min_apply_delay={delay.TotalMilliseconds:0} -c hot_standby_feedback=on"
            ),
        };
        if (Environment.UserName == "root")
        {
            await Run("chown", "postgres", copy.folder);
        }

        await Tool(
            "pg_basebackup",
            "-h",
            "127.0.0.1",
            "-p",
            port.ToString(CultureInfo.InvariantCulture),
            "-U",
            User,
            "-D",
            copy.Files,
            "-R",
            "-X",
            "stream",
            "-c",
            "fast"
        );
        await copy.Start();
        return copy;
    }

    /// <summary>The connection string of its copy of another server's database.</summary>
    public string Of(string database) => new NpgsqlConnectionStringBuilder(database) { Port = port }.ConnectionString;

    /// <summary>
    /// A connection string of a new, empty database: a copy of the one that nobody can connect to. A template that somebody is connected
    /// to, as `createdb` and the server's own clean-up are to template1, is refused.
    /// </summary>
    public Task<string> NewDatabase() => NewDatabase("template0");

    /// <summary>A connection string of a new database with the demo application in it: a copy of one that was filled once.</summary>
    public async Task<string> NewDemoDatabase() => await NewDatabase(await demo.Value);

    private async Task<string> NewDatabase(string template)
    {
        var name = $"quay{Interlocked.Increment(ref made).ToString(CultureInfo.InvariantCulture)}";
        for (var tries = 1; ; tries++)
        {
            try
            {
                await Tool(
                    "createdb",
                    "-h",
                    "127.0.0.1",
                    "-p",
                    port.ToString(CultureInfo.InvariantCulture),
                    "-U",
                    User,
                    "-T",
                    template,
                    name
                );
                break;
            }
            catch (InvalidOperationException) when (tries < 4)
            {
                // The server's own clean-up may be in what is copied: it is out in a moment.
                await Task.Delay(TimeSpan.FromSeconds(tries));
            }
        }

        return $"Host=127.0.0.1;Port={port.ToString(CultureInfo.InvariantCulture)};Username={User};Database={name}";
    }

    /// <summary>A connection string of a new database in which a script has run, as far as it runs.</summary>
    public async Task<string> DatabaseOf(string script)
    {
        var database = await NewDatabase();
        var file = Path.Combine(folder, Path.GetFileName(script));
        File.Copy(script, file, overwrite: true);
        await Run("chmod", "644", file);
        await Tool("psql", [.. At(database), "-q", "-f", file]);
        return database;
    }

    /// <summary>What a database's schema is, as its own program writes it.</summary>
    public async Task<string> Schema(string database)
    {
        var file = Path.Combine(folder, Guid.NewGuid().ToString("N"));
        await Tool("pg_dump", [.. At(database), "--schema-only", "-f", file]);
        // Newer ones guard what they write by a word that is another one each time.
        return string.Join(
            '\n',
            (await File.ReadAllLinesAsync(file)).Where(line =>
                !line.StartsWith("\\restrict", StringComparison.Ordinal) && !line.StartsWith("\\unrestrict", StringComparison.Ordinal)
            )
        );
    }

    private string[] At(string database) =>
        [
            "-h",
            "127.0.0.1",
            "-p",
            port.ToString(CultureInfo.InvariantCulture),
            "-U",
            User,
            "-d",
            new NpgsqlConnectionStringBuilder(database).Database!,
        ];

    /// <summary>The name of a database that a service has filled, which has ended: nobody is connected to what is copied.</summary>
    private async Task<string> Filled()
    {
        var database = await NewDatabase();
        await using var service = await ServiceProcess.On(database);
        return new NpgsqlConnectionStringBuilder(database).Database!;
    }

    public Task Start() =>
        Tool(
            "pg_ctl",
            "-D",
            Files,
            "-w",
            "-l",
            Path.Combine(folder, "log"),
            "-o",
            $"-p {port.ToString(CultureInfo.InvariantCulture)} -k {folder} -c listen_addresses=127.0.0.1 -c max_connections=200{options}",
            "start"
        );

    /// <summary>As if it had lost its power.</summary>
    public Task Stop() => Tool("pg_ctl", "-D", Files, "-w", "-m", "immediate", "stop");

    public async ValueTask DisposeAsync()
    {
        await Stop();
        Directory.Delete(folder, recursive: true);
    }

    private string Files => Path.Combine(folder, "data");

    private Task Tool(string name, params string[] arguments) =>
        Environment.UserName == "root"
            ? Run("runuser", ["-u", "postgres", "--", Path.Combine(Programs, name), .. arguments])
            : Run(Path.Combine(Programs, name), arguments);

    private static async Task Run(string program, params string[] arguments)
    {
        // What it says is not read through a pipe: the server it starts would hold on to that.
        var start = new ProcessStartInfo("sh") { UseShellExecute = false, WorkingDirectory = "/" };
        foreach (var argument in (string[])["-c", "exec \"$0\" \"$@\" >/dev/null 2>&1 </dev/null", program, .. arguments])
        {
            start.ArgumentList.Add(argument);
        }

        using var process = Process.Start(start)!;
        await process.WaitForExitAsync();
        if (process.ExitCode != 0)
        {
            throw new InvalidOperationException(
                $"{program} {string.Join(' ', arguments)} ended with {process.ExitCode.ToString(CultureInfo.InvariantCulture)}."
            );
        }
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
