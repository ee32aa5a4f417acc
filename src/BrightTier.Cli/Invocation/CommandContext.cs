using BrightTier.Cli.Output;
using BrightTier.Client;

namespace BrightTier.Cli.Invocation;

/// <summary>What a command works with: the service's address, who is asking, where words go, and what the environment is called.</summary>
/// <param name="IsProduction">Whether the profile is marked as one whose users are at work.</param>
/// <param name="Yes">Whether every question is answered with yes.</param>
public sealed record CommandContext(Uri Address, string? Token, Printer Printer, string Profile, bool IsProduction, bool Yes)
{
    public BrightTierClient Client() => new(Address, Token);

    /// <summary>The same in another environment.</summary>
    /// <exception cref="UsageException">There is no profile of that name.</exception>
    public CommandContext In(string profile)
    {
        var kept = Credentials.Read().Find(profile)!;
        return this with { Address = new Uri(kept.Server + "/"), Token = kept.Token, Profile = profile, IsProduction = kept.Production };
    }

    /// <summary>Asks whether something is to be done that has no simple way back.</summary>
    /// <param name="what">A sentence that says what will happen.</param>
    /// <exception cref="CancelledException">The answer was no.</exception>
    /// <exception cref="UsageException">There is nobody to ask, and --yes was not given.</exception>
    public void Confirm(string what)
    {
        if (Yes)
        {
            return;
        }

        if (Console.IsInputRedirected)
        {
            throw new UsageException($"{what} Give --yes to do it.");
        }

        Console.Error.Write($"{what} Continue? [y/N] ");
        if (Console.ReadLine()?.Trim().ToLowerInvariant() is not ("y" or "yes"))
        {
            throw new CancelledException();
        }
    }
}
