using System.Globalization;
using BrightTier.Contracts;
using BrightTier.Core.Model;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;

namespace BrightTier.Service.Publication;

/// <summary>What a release is to be, beside its documents.</summary>
/// <param name="Rollout">Whom it reaches first; null for everyone.</param>
/// <param name="OverrideReason">Why it goes out although checks stand against it; null where none may.</param>
/// <param name="Restores">The release brought back whole.</param>
/// <param name="Scheduled">The scheduled release it makes; null where it is made at once.</param>
public sealed record ReleaseTerms(
    string Note,
    Author Author,
    Rollout? Rollout = null,
    string? OverrideReason = null,
    long? Restores = null,
    long? Scheduled = null
)
{
    public string By => Author.Id;

    /// <summary>The most steps a rollout has.</summary>
    private const int MostSteps = 20;

    /// <summary>What a request asks for, once it is fit.</summary>
    /// <param name="people">The ids of those there are.</param>
    /// <param name="after">When the release will be made: it spreads later than that.</param>
    /// <exception cref="RefusedException">400, with what is not fit.</exception>
    public static ReleaseTerms Of(
        string note,
        Author author,
        Rollout? rollout,
        string? overrideReason,
        IReadOnlyCollection<string> people,
        DateTimeOffset after,
        Application application
    ) => new(note, author, rollout is null ? null : Fit(rollout, people, after, application), Reason(overrideReason));

    private static Rollout Fit(Rollout rollout, IReadOnlyCollection<string> people, DateTimeOffset after, Application application)
    {
        var roles = Known(rollout.Roles, [.. application.Roles.Select(role => role.Key)], $"role", "/rollout/roles");
        var named = Known(rollout.People, people, $"person", "/rollout/people");
        if (rollout.Share is < 0 or > 99)
        {
            throw Problems.Invalid(
                $"A share is how many of a hundred people have it first, from 0 to 99; for everyone leave 'rollout' out.",
                Problems.Part("/rollout/share", $"must be from 0 to 99")
            );
        }

        if (roles is null && named is null && rollout.Share == 0)
        {
            throw Problems.Invalid(
                $"Name whom it reaches first, by 'roles', 'people' or a 'share' above 0, or leave 'rollout' out for everyone.",
                Problems.Part("/rollout", $"reaches nobody")
            );
        }

        return rollout with
        {
            Roles = roles,
            People = named,
            Steps = rollout.Steps is { Count: > 0 } steps ? Rising(steps, rollout.Share, after) : null,
        };
    }

    private static IReadOnlyList<string>? Known(
        IReadOnlyList<string>? names,
        IReadOnlyCollection<string> known,
        Message what,
        string pointer
    )
    {
        for (var i = 0; i < (names?.Count ?? 0); i++)
        {
            if (!known.Contains(names![i]))
            {
                throw Problems.Invalid(
                    Suggestion.Sentence($"There is no {what} '{names[i]}'{Suggestion.For(names[i], [.. known])}"),
                    Problems.Part($"{pointer}/{i.ToString(CultureInfo.InvariantCulture)}", $"names '{names[i]}'")
                );
            }
        }

        return names is { Count: > 0 } ? [.. names.Distinct()] : null;
    }

    /// <summary>Steps, each later and larger than what is before it.</summary>
    private static IReadOnlyList<RolloutStep> Rising(IReadOnlyList<RolloutStep> steps, int share, DateTimeOffset after)
    {
        if (steps.Count > MostSteps)
        {
            throw Problems.Invalid(
                $"A rollout has at most {MostSteps} steps.",
                Problems.Part("/rollout/steps", $"has more than {MostSteps} entries")
            );
        }

        for (var i = 0; i < steps.Count; i++)
        {
            var (at, next) = steps[i];
            var pointer = $"/rollout/steps/{i.ToString(CultureInfo.InvariantCulture)}";
            var (last, before) = i == 0 ? (after, share) : (steps[i - 1].At, steps[i - 1].Share);
            if (at <= last)
            {
                throw Problems.Invalid(
                    i == 0
                        ? (Message)$"The first step must be later than the release itself."
                        : $"Each step must be later than the one before it.",
                    Problems.Part(pointer + "/at", $"must be later")
                );
            }

            if (next <= before || next > 100)
            {
                throw Problems.Invalid(
                    $"Each step reaches more people than what is before it, of a hundred: here from {before + 1} to 100.",
                    Problems.Part(pointer + "/share", $"must be from {before + 1} to 100")
                );
            }
        }

        return [.. steps];
    }

    private static string? Reason(string? overrideReason) =>
        overrideReason is null ? null
        : overrideReason.Trim().Length is < 1 or > 500
            ? throw Problems.Invalid(
                $"'overrideReason' says in 1 to 500 characters why it is published in spite of errors.",
                Problems.Part("/overrideReason", $"must have from 1 to 500 characters")
            )
        : overrideReason.Trim();
}
