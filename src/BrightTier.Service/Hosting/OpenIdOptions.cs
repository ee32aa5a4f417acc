namespace BrightTier.Service.Hosting;

/// <summary>How to reach an identity provider.</summary>
public sealed class OpenIdOptions
{
    /// <summary>The issuer's address, where its configuration is found (OpenID Connect Discovery 1.0); null for none.</summary>
    public string? Authority { get; set; }

    /// <summary>What this service is called there.</summary>
    public string Client { get; set; } = "";

    /// <summary>The client's secret; null for a public client.</summary>
    public string? Secret { get; set; }

    /// <summary>The claim that holds a person's roles.</summary>
    public string RolesClaim { get; set; } = "roles";

    /// <summary>Which role a value of that claim stands for; a value not named here stands for the role of its name.</summary>
    public Dictionary<string, string> Roles { get; } = [];

    /// <summary>What it is called where one signs in.</summary>
    public string Name { get; set; } = "your organisation";

    /// <summary>More scopes to ask for, with spaces between.</summary>
    public string Scopes { get; set; } = "profile";

    public bool IsSet => !string.IsNullOrEmpty(Authority);
}
