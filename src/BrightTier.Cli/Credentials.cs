using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Cli;

/// <summary>A service that was signed in to, and its token.</summary>
public sealed record Profile(string Server, string Token);

/// <summary>
/// The services signed in to, each under the name of its environment, kept in the user's configuration folder and readable by that user only. The
/// one named <see cref="Current"/> is meant where none is named.
/// </summary>
public sealed record Credentials(string Current, Dictionary<string, Profile> Profiles)
{
    /// <summary>The name of a profile nobody named.</summary>
    public const string Unnamed = "default";

    private static string File => Path.Combine(
        Environment.GetEnvironmentVariable("BRIGHTTIER_CONFIG") ?? Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.ApplicationData, Environment.SpecialFolderOption.Create), "brighttier"), "credentials.json");

    public static Credentials Read()
    {
        try
        {
            return (System.IO.File.Exists(File) ? JsonSerializer.Deserialize(System.IO.File.ReadAllText(File), CredentialsJson.Default.Credentials) : null) is { Profiles: not null } kept ? kept : new Credentials(Unnamed, []);
        }
        catch (JsonException)
        {
            return new Credentials(Unnamed, []);
        }
    }

    /// <summary>The profile of a name, or the current one.</summary>
    /// <exception cref="UsageException">There is none of that name.</exception>
    public Profile? Find(string? name) =>
        name is null ? Profiles.GetValueOrDefault(Current)
        : Profiles.GetValueOrDefault(name) ?? throw new UsageException($"There is no profile '{name}'; 'brighttier sign-in --profile {name}' makes one. There are: {(Profiles.Count == 0 ? "none" : string.Join(", ", Profiles.Keys.Order(StringComparer.Ordinal)))}.");

    /// <summary>Keeps a profile, which is the current one from then on.</summary>
    public void Keep(string name, Profile profile)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(File)!);
        System.IO.File.WriteAllText(File, JsonSerializer.Serialize(new Credentials(name, new Dictionary<string, Profile>(Profiles) { [name] = profile }), CredentialsJson.Default.Credentials));
        if (!OperatingSystem.IsWindows())
        {
            System.IO.File.SetUnixFileMode(File, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }
    }
}

[JsonSerializable(typeof(Credentials))]
internal sealed partial class CredentialsJson : JsonSerializerContext;
