using System.Text.Json;
using BrightTier.Contracts;

namespace BrightTier.Service.Publication;

/// <summary>
/// What saving came to with a staged release and with the one everyone else has, and whether it fails markedly more often with the new one:
/// the rule by which a release is taken back by itself.
/// </summary>
public sealed record FailedSaves(SaveCount With, SaveCount Before)
{
    /// <summary>Of fewer saves nothing is concluded.</summary>
    public const int Least = 20;

    /// <summary>How many more of a hundred must fail.</summary>
    public const int Points = 5;

    /// <summary>Chance must explain it no more often than once in so many times.</summary>
    public const int Times = 10_000;

    /// <summary>What is taken for a release with fewer saves than <see cref="Least"/>: one in twenty fails.</summary>
    private static readonly SaveCount Usual = new(19, 1);

    /// <summary>The rule, in words.</summary>
    public static Message Rule =>
        $"It is taken back by itself when at least {Least} saves were tried with it, at least {Points} more of a hundred failed "
        + $"than with the release before, and chance would explain that less than once in {Times} times. A release before with "
        + $"fewer than {Least} saves is taken to fail once in twenty.";

    /// <summary>What was found, in words.</summary>
    public Message Told => $"{With.Failed} of {Tried(With)} saves failed; with the release before {Before.Failed} of {Tried(Before)}.";

    /// <summary>Whether the new release is to be taken back.</summary>
    public bool AreMarked
    {
        get
        {
            var compared = Tried(Before) < Least ? Usual : Before;
            return Tried(With) >= Least
                && Rate(With) - Rate(compared) >= Points / 100.0
                && ByChance(With.Failed, Tried(With), compared.Failed, Tried(compared)) < 1.0 / Times;
        }
    }

    public string Written() => JsonSerializer.Serialize([With, Before], WireJson.Default.IReadOnlyListSaveCount);

    public static FailedSaves Read(string written) =>
        JsonSerializer.Deserialize(written, WireJson.Default.IReadOnlyListSaveCount) is [var with, var before]
            ? new FailedSaves(with, before)
            : throw new FormatException("Two counts are kept of a release that was stopped.");

    /// <summary>
    /// How probable it is that so many of the failures there were, or more, fall to the new release by chance alone (Fisher's exact test,
    /// one
    /// sided).
    /// </summary>
    public static double ByChance(long failed, long tried, long failedBefore, long triedBefore)
    {
        var failures = failed + failedBefore;
        var all = tried + triedBefore;
        var sum = 0.0;
        for (var k = failed; k <= Math.Min(tried, failures); k++)
        {
            var probability = Math.Exp(Ways(tried, k) + Ways(all - tried, failures - k) - Ways(all, failures));
            sum += probability;
            if (probability < sum * 1e-12)
            {
                break;
            }
        }

        return Math.Min(1, sum);
    }

    private static long Tried(SaveCount count) => count.Saved + count.Failed;

    private static double Rate(SaveCount count) => (double)count.Failed / Tried(count);

    /// <summary>The logarithm of how many ways there are to choose <paramref name="k"/> of <paramref name="n"/>.</summary>
    private static double Ways(long n, long k) =>
        k < 0 || k > n ? double.NegativeInfinity : LogFactorial(n) - LogFactorial(k) - LogFactorial(n - k);

    /// <summary>Exact to twelve digits: summed while small, by Stirling's series from there.</summary>
    private static double LogFactorial(long n)
    {
        if (n < 20)
        {
            var product = 1.0;
            for (var i = 2; i <= n; i++)
            {
                product *= i;
            }

            return Math.Log(product);
        }

        double x = n + 1;
        return ((x - 0.5) * Math.Log(x))
            - x
            + (0.5 * Math.Log(2 * Math.PI))
            + (1 / (12 * x))
            - (1 / (360 * x * x * x))
            + (1 / (1260 * Math.Pow(x, 5)));
    }
}
