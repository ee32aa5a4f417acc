using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using BrightTier.Contracts;

namespace BrightTier.Service.Snapshots;

/// <summary>Whom a staged release is for by now.</summary>
/// <param name="terms">The terms it went out on, as they are stored.</param>
/// <param name="share">How many of a hundred have it by now.</param>
public sealed class Audience(long release, string terms, int share)
{
    /// <summary>What a person has a release by.</summary>
    public const string Everyone = "everyone";
    public const string Role = "role";
    public const string Person = "person";
    public const string Part = "share";

    /// <summary>The terms, with the share it has come to.</summary>
    public Rollout Terms { get; } = Read(terms) with { Share = share };

    /// <summary>What a person has the release by; null where she does not have it.</summary>
    public string? Because(string person, IReadOnlyList<string> roles) =>
        Terms.Roles is { } some && roles.Any(some.Contains) ? Role
        : Terms.People is { } named && named.Contains(person) ? Person
        : PlaceOf(release, person) < Terms.Share ? Part
        : null;

    /// <summary>
    /// Where a person stands among a hundred, from 0 on: always at the same place of one release, and at another of the next, so that it
    /// is not
    /// always the same who try what is new.
    /// </summary>
    public static int PlaceOf(long release, string person)
    {
        var hash = SHA256.HashData(Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{release}/{person}")));
        return (int)(BitConverter.ToUInt64(hash) % 100);
    }

    /// <summary>Whether it is for the same people.</summary>
    public bool IsAs(Audience other) => Terms.Share == other.Terms.Share;

    public static string Write(Rollout terms) => JsonSerializer.Serialize(terms, WireJson.Default.Rollout);

    public static Rollout Read(string terms) => JsonSerializer.Deserialize(terms, WireJson.Default.Rollout)!;
}
