using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Cli;

/// <summary>The service signed in to and its token, kept in the user's configuration folder and readable by that user only.</summary>
public sealed record Credentials(string Server, string Token)
{
    private static string File => Path.Combine(
        Environment.GetEnvironmentVariable("BRIGHTTIER_CONFIG") ?? Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.ApplicationData, Environment.SpecialFolderOption.Create), "brighttier"), "credentials.json");

    public static Credentials? Read()
    {
        try
        {
            return System.IO.File.Exists(File) ? JsonSerializer.Deserialize(System.IO.File.ReadAllText(File), CredentialsJson.Default.Credentials) : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    public void Keep()
    {
        Directory.CreateDirectory(Path.GetDirectoryName(File)!);
        System.IO.File.WriteAllText(File, JsonSerializer.Serialize(this, CredentialsJson.Default.Credentials));
        if (!OperatingSystem.IsWindows())
        {
            System.IO.File.SetUnixFileMode(File, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }
    }
}

[JsonSerializable(typeof(Credentials))]
internal sealed partial class CredentialsJson : JsonSerializerContext;
