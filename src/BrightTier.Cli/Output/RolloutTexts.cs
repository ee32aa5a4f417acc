using BrightTier.Contracts;

namespace BrightTier.Cli.Output;

/// <summary>Rollouts in words.</summary>
internal static class RolloutTexts
{
    /// <summary>Whom it reaches: roles, people, a share.</summary>
    public static string Audience(Rollout? rollout) =>
        string.Join(
            ", ",
            [
                .. rollout?.Roles ?? [],
                .. rollout?.People ?? [],
                .. rollout is { Share: > 0 } ? new[] { $"{rollout.Share} of 100 people" } : [],
            ]
        );

    /// <summary>A release's state; of one that some have, who they are.</summary>
    public static string State(ReleaseInfo release) =>
        release.State == "staged" ? $"staged for {Audience(release.Rollout)}" : release.State;

    /// <summary>How a rollout goes on, a line for each step that is still to come.</summary>
    public static IEnumerable<string> Steps(Rollout? rollout) =>
        (rollout?.Steps ?? [])
            .Where(step => step.Share > rollout!.Share)
            .Select(step => $"{step.At:yyyy-MM-dd HH:mm} UTC: {(step.Share == 100 ? "everyone" : $"{step.Share} of 100 people")}");
}
