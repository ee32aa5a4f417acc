using System.Reflection;
using BrightTier.Core.Model;
using BrightTier.Records.Attachment;

namespace BrightTier.Service.Hosting;

/// <summary>
/// What the service is told on its command line and in its environment, looked through before anything is begun: a wrong setting is one
/// line and exit code 2.
/// </summary>
public static class Settings
{
    /// <summary>Settings of the framework that are used too, by their first part.</summary>
    private static readonly string[] OfFramework =
    [
        "urls",
        "http_ports",
        "https_ports",
        "environment",
        "contentRoot",
        "applicationName",
        "Kestrel",
        "Logging",
        "AllowedHosts",
        "OTEL_EXPORTER_OTLP_ENDPOINT",
        ServiceOptions.Section,
    ];

    /// <summary>What is wrong, as a sentence; null when nothing is.</summary>
    public static string? Problem(string[] args, IConfiguration configuration)
    {
        string[] known = [.. Own, .. OfFramework];
        for (var i = 0; i < args.Length; i++)
        {
            if (!args[i].StartsWith("--", StringComparison.Ordinal))
            {
                return $"'{Suggestion.Short(args[i])}' is no setting; settings are written as --Data folder or --Data=folder.";
            }

            var name = args[i][2..].Split('=')[0];
            if (!known.Contains(name.Split(':')[0], StringComparer.OrdinalIgnoreCase))
            {
                return Suggestion.Sentence($"There is no setting '{Suggestion.Short(name)}'{Suggestion.For(name, known)}").English;
            }

            if (!args[i].Contains('=', StringComparison.Ordinal) && ++i == args.Length)
            {
                return $"'--{name}' needs a value.";
            }
        }

        return Unknown(configuration)
            ?? Urls(configuration["urls"])
            ?? Values(configuration)
            ?? Values(configuration.GetSection(ServiceOptions.Section));
    }

    private static readonly string[] Own = Names(typeof(ServiceOptions));

    private static string[] Names(Type options) =>
        [
            .. options
                .GetProperties(BindingFlags.Public | BindingFlags.Instance)
                .Where(each => each.CanRead)
                .Select(property => property.Name),
        ];

    /// <summary>
    /// Names in the environment and in appsettings.json that no setting has: under 'BrightTier' any, in the environment those that are much
    /// like one.
    /// </summary>
    private static string? Unknown(IConfiguration configuration)
    {
        var misspelt = UnknownInEnvironment()
            .Select(name => (Name: $"{Prefix}{name}", Like: Suggestion.Nearest(name, Own)))
            .Where(each => each.Like is not null)
            .Select(each => $"There is no setting '{each.Name}'; did you mean '{Prefix}{each.Like!.ToUpperInvariant()}'?")
            .FirstOrDefault();
        if (misspelt is not null)
        {
            return misspelt;
        }

        var section = configuration.GetSection(ServiceOptions.Section);
        var under = section
            .GetChildren()
            .Select(each => (each.Path, each.Key, Known: Own))
            .Concat(
                new[] { section.GetSection("OpenId"), configuration.GetSection("OpenId") }
                    .SelectMany(provider => provider.GetChildren())
                    .Select(each => (each.Path, each.Key, Known: Names(typeof(OpenIdOptions))))
            );
        var wrong = under.FirstOrDefault(each => !each.Known.Contains(each.Key, StringComparer.OrdinalIgnoreCase));
        return wrong.Key is null
            ? null
            : Suggestion.Sentence($"There is no setting '{Suggestion.Short(wrong.Path)}'{Suggestion.For(wrong.Key, wrong.Known)}").English;
    }

    /// <summary>What the environment names as if it were a setting, and is none.</summary>
    public static IEnumerable<string> UnknownInEnvironment() =>
        Environment
            .GetEnvironmentVariables()
            .Keys.OfType<string>()
            .Where(name => name.StartsWith(Prefix, StringComparison.OrdinalIgnoreCase))
            .Select(name => name[Prefix.Length..].Split("__")[0])
            .Where(name =>
                !Own.Contains(name, StringComparer.OrdinalIgnoreCase) && !OfFramework.Contains(name, StringComparer.OrdinalIgnoreCase)
            )
            .Except(OfClient, StringComparer.OrdinalIgnoreCase);

    /// <summary>With what the environment's names begin.</summary>
    private const string Prefix = "BRIGHTTIER_";

    /// <summary>What the client reads from the environment, and not the service.</summary>
    private static readonly string[] OfClient = ["SERVER", "CONFIG", "TOKEN", "PROFILE", "SERVICE"];

    private static string? Values(IConfiguration configuration)
    {
        foreach (var property in typeof(ServiceOptions).GetProperties(BindingFlags.Public | BindingFlags.Instance))
        {
            if (configuration[property.Name] is not { } given)
            {
                continue;
            }

            if (property.PropertyType == typeof(bool) && !bool.TryParse(given, out _))
            {
                return $"'{property.Name}' must be true or false; it is '{Suggestion.Short(given)}'.";
            }

            if (property.PropertyType == typeof(int) && !int.TryParse(given, System.Globalization.CultureInfo.InvariantCulture, out _))
            {
                return $"'{property.Name}' must be a whole number; it is '{Suggestion.Short(given)}'.";
            }
        }

        return configuration
            .GetSection(nameof(ServiceOptions.Databases))
            .GetChildren()
            .Select(Connection)
            .FirstOrDefault(wrong => wrong is not null);
    }

    private static string? Connection(IConfigurationSection database)
    {
        try
        {
            using var opened = AttachedDatabases.Open(database.Key, database.Value ?? "");
            return null;
        }
        catch (FormatException error)
        {
            return $"'Databases:{database.Key}' is no connection string. {error.Message}";
        }
    }

    private static string? Urls(string? urls)
    {
        foreach (var url in (urls ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries))
        {
            try
            {
                var address = BindingAddress.Parse(url);
                if (address.Scheme is not ("http" or "https") || address.Port is < 0 or > 65535)
                {
                    return $"'urls' must be addresses such as http://127.0.0.1:5080; it is '{Suggestion.Short(url)}'.";
                }
            }
            catch (FormatException)
            {
                return $"'urls' must be addresses such as http://127.0.0.1:5080; it is '{Suggestion.Short(url)}'.";
            }
        }

        return null;
    }
}
