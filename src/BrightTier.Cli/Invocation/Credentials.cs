using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Cli.Invocation;

/// <summary>A service that was signed in to, and its token.</summary>
/// <param name="Production">Whether its users are at work: what changes something there asks first.</param>
public sealed record Profile(string Server, string Token, bool Production = false);

/// <summary>
/// The services signed in to, each under the name of its environment, kept in the user's configuration folder and readable by that user
/// only. The
/// one named <see cref="Current"/> is meant where none is named.
/// </summary>
public sealed record Credentials(string Current, Dictionary<string, Profile> Profiles)
{
    /// <summary>The name of a profile nobody named.</summary>
    public const string Unnamed = "default";

    private static string File =>
        Path.Combine(
            Environment.GetEnvironmentVariable("BRIGHTTIER_CONFIG")
                ?? Path.Combine(
                    Environment.GetFolderPath(Environment.SpecialFolder.ApplicationData, Environment.SpecialFolderOption.Create),
                    "brighttier"
                ),
            "credentials.json"
        );

    public static Credentials Read()
    {
        try
        {
            return
                (
                    System.IO.File.Exists(File)
                        ? JsonSerializer.Deserialize(System.IO.File.ReadAllText(File), CredentialsJson.Default.Credentials)
                        : null
                )
                    is { Profiles: not null } kept
                ? kept
                : new Credentials(Unnamed, []);
        }
        catch (JsonException)
        {
            return new Credentials(Unnamed, []);
        }
    }

    /// <summary>The profile of a name, or the current one.</summary>
    /// <exception cref="UsageException">There is none of that name.</exception>
    public Profile? Find(string? name) =>
        name is null
            ? Profiles.GetValueOrDefault(Current)
            : Profiles.GetValueOrDefault(name)
                ?? throw new UsageException(
                    $"There is no profile '{name}'; 'brighttier sign-in --profile {name}' makes one. There are: "
                        + $"{(Profiles.Count == 0 ? "none" : string.Join(", ", Profiles.Keys.Order(StringComparer.Ordinal)))}."
                );

    /// <summary>The same with a profile more, or another one of its name; the first there is becomes the current one.</summary>
    public Credentials With(string name, Profile profile) => new(Profiles.Count == 0 ? name : Current, new(Profiles) { [name] = profile });

    /// <summary>The same without a profile.</summary>
    public Credentials Without(string name)
    {
        var left = new Dictionary<string, Profile>(Profiles);
        left.Remove(name);
        return new Credentials(name == Current ? left.Keys.Order(StringComparer.Ordinal).FirstOrDefault() ?? Unnamed : Current, left);
    }

    /// <summary>Writes all of it where only the user can read it.</summary>
    public void Save()
    {
        Directory.CreateDirectory(Path.GetDirectoryName(File)!);
        if (!System.IO.File.Exists(File))
        {
            System.IO.File.WriteAllText(File, "");
        }

        // Before anything secret is in it.
        if (!OperatingSystem.IsWindows())
        {
            System.IO.File.SetUnixFileMode(File, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }

        System.IO.File.WriteAllText(File, JsonSerializer.Serialize(this, CredentialsJson.Default.Credentials));
    }
}

[JsonSerializable(typeof(Credentials))]
internal sealed partial class CredentialsJson : JsonSerializerContext;
