using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;

namespace BrightTier.Service.Publication;

/// <summary>What a release is to be, beside its documents.</summary>
/// <param name="Roles">The roles it goes to first; null for everyone.</param>
/// <param name="EveryoneAt">When those that went to some first go to everyone by themselves, in Unix milliseconds.</param>
/// <param name="OverrideReason">Why it goes out although checks stand against it; null where none may.</param>
/// <param name="Restores">The release brought back whole.</param>
/// <param name="Scheduled">The scheduled release it makes; null where it is made at once.</param>
public sealed record ReleaseTerms(
    string Note,
    Author Author,
    IReadOnlyList<string>? Roles = null,
    long? EveryoneAt = null,
    string? OverrideReason = null,
    long? Restores = null,
    long? Scheduled = null
)
{
    public string By => Author.Id;

    /// <summary>What a request asks for, once it is fit.</summary>
    /// <param name="after">When the release will be made: it goes to everyone later than that.</param>
    /// <exception cref="RefusedException">400, with what is not fit.</exception>
    public static ReleaseTerms Of(
        string note,
        Author author,
        IReadOnlyList<string>? roles,
        DateTimeOffset? everyoneAt,
        string? overrideReason,
        DateTimeOffset after,
        Application application
    ) => new(note, author, Known(roles, application), Later(everyoneAt, roles, after), Reason(overrideReason));

    private static IReadOnlyList<string>? Known(IReadOnlyList<string>? roles, Application application)
    {
        if (roles is null)
        {
            return null;
        }

        var known = application.Roles.Select(role => role.Key).ToArray();
        if (roles.Count == 0 || roles.FirstOrDefault(role => !known.Contains(role)) is not null)
        {
            var wrong = roles.FirstOrDefault(role => !known.Contains(role));
            throw Problems.Invalid(
                wrong is null
                    ? $"Name the roles it goes to first, or leave 'roles' out for everyone."
                    : Suggestion.Sentence($"There is no role '{wrong}'{Suggestion.For(wrong, known)}"),
                Problems.Part("/roles", wrong is null ? (Message)$"is empty" : $"names '{wrong}'")
            );
        }

        return [.. roles.Distinct()];
    }

    private static long? Later(DateTimeOffset? everyoneAt, IReadOnlyList<string>? roles, DateTimeOffset after) =>
        everyoneAt is not { } at ? null
        : roles is null
            ? throw Problems.Invalid(
                $"'everyoneAt' is for a release that goes to some roles first; name them in 'roles'.",
                Problems.Part("/everyoneAt", $"needs 'roles'")
            )
        : at <= after
            ? throw Problems.Invalid($"'everyoneAt' must be later than the release itself.", Problems.Part("/everyoneAt", $"must be later"))
        : at.ToUnixTimeMilliseconds();

    private static string? Reason(string? overrideReason) =>
        overrideReason is null ? null
        : overrideReason.Trim().Length is < 1 or > 500
            ? throw Problems.Invalid(
                $"'overrideReason' says in 1 to 500 characters why it is published in spite of errors.",
                Problems.Part("/overrideReason", $"must have from 1 to 500 characters")
            )
        : overrideReason.Trim();
}
