using System.Collections.Immutable;
using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

/// <summary>Outcomes a part may come to.</summary>
[Flags]
internal enum Outcomes
{
    None = 0,
    Holds = 1,
    DoesNotHold = 2,
    Errs = 4,
    Any = Holds | DoesNotHold | Errs,
}

/// <summary>
/// Looks for a situation in which a condition comes to an outcome. What is asked of the whole is asked of its parts, where there is a
/// choice one way after another; what is left in the end are single comparisons, and values for what they read are looked for that fit
/// them all. Ways that contradict themselves are left as soon as they do.
/// </summary>
internal sealed class SituationSearch
{
    /// <summary>How many ways and values are looked at before giving up on a very large condition.</summary>
    private const int Patience = 20_000;

    private readonly Domains domains;
    private readonly SituationTests tests;
    private int looked;

    public SituationSearch(Domains domains, Entity entity)
    {
        this.domains = domains;
        tests = new SituationTests(domains.Variables, entity);
    }

    /// <summary>Why the last answer, where it was none, is not for certain; null where it is.</summary>
    public Message? Doubt { get; private set; }

    /// <summary>A part, and what it is to come to.</summary>
    private sealed record Goal(Expression Part, Outcomes Within);

    /// <summary>Goals of which one set must be reached.</summary>
    private sealed record Choice(ImmutableArray<ImmutableArray<Goal>> Ways);

    /// <summary>A test with the outcomes it may have.</summary>
    private sealed record Bond(SituationTest Test, Outcomes Within);

    /// <summary>A way taken so far: what is left open, what binds, and which candidates are left of each variable.</summary>
    private sealed record Way(ImmutableStack<Choice> Open, ImmutableList<Bond> Bonds, CandidateSets Left);

    /// <summary>Values by name that bring the condition to one of these outcomes; null when none were found.</summary>
    public IReadOnlyDictionary<string, object?>? Find(Expression condition, Outcomes within)
    {
        (looked, Doubt) = (0, null);
        var start = new Way(
            [],
            [.. tests.Always.Select(test => new Bond(test, Outcomes.Holds))],
            new CandidateSets(domains.Variables.Select(variable => variable.Candidates.Count))
        );
        return Reach(start, [new Goal(condition, within)]) is { } left
            ? Enumerable
                .Range(0, domains.Variables.Count)
                .Where(left.IsTouched)
                .ToDictionary(i => domains.Variables[i].Name, i => domains.Variables[i].Candidates[left.First(i)], StringComparer.Ordinal)
            : null;
    }

    /// <summary>Goes on towards goals; answers with one candidate of everything that matters, or null where no way leads there.</summary>
    private CandidateSets? Reach(Way way, IEnumerable<Goal> towards)
    {
        if (++looked > Patience)
        {
            Doubt = $"there are too many cases to look at";
            return null;
        }

        var left = new CandidateSets(way.Left);
        var (open, bonds) = (way.Open, way.Bonds);
        var goals = new Stack<Goal>(towards.Reverse());
        while (goals.TryPop(out var goal))
        {
            if (goal.Within is Outcomes.Any)
            {
                continue;
            }

            // What reads one thing alone is decided by that thing, however it is put together.
            if (tests.Of(goal.Part).Reads.Length <= 1 || Parted(goal) is not { } ways)
            {
                if (!Bind(goal, left, ref bonds))
                {
                    return Closed(bonds);
                }
            }
            else if (ways.Length == 1)
            {
                foreach (var each in ways[0].Reverse())
                {
                    goals.Push(each);
                }
            }
            else
            {
                open = open.Push(new Choice(ways));
            }
        }

        if (!Agree(bonds, left))
        {
            return Closed(bonds);
        }

        if (open.IsEmpty)
        {
            return Settle(bonds, left) ?? Closed(bonds);
        }

        var next = new Way(open.Pop(out var choice), bonds, left);
        return choice.Ways.Select(each => Reach(next, each)).FirstOrDefault(found => found is not null);
    }

    /// <summary>What a goal asks of the parts below: sets of goals one of which is enough; null where it is a single comparison.</summary>
    private static ImmutableArray<ImmutableArray<Goal>>? Parted(Goal goal)
    {
        var within = goal.Within;
        switch (goal.Part)
        {
            case Expression.Unary { Operator: "!" } not:
                return
                [
                    [new Goal(not.Operand, Turned(within))],
                ];
            case Expression.Binary { Operator: "&&" } and:
                return All(and.Left, and.Right, within, Outcomes.Holds, Outcomes.DoesNotHold);
            case Expression.Binary { Operator: "||" } or:
                return All(or.Left, or.Right, within, Outcomes.DoesNotHold, Outcomes.Holds);
            case Expression.Conditional conditional:
                ImmutableArray<ImmutableArray<Goal>> ways =
                [
                    [new(conditional.Test, Outcomes.Holds), new(conditional.Then, within)],
                    [new(conditional.Test, Outcomes.DoesNotHold), new(conditional.Otherwise, within)],
                ];
                return (within & Outcomes.Errs) != Outcomes.None ? ways.Add([new(conditional.Test, Outcomes.Errs)]) : ways;
            default:
                return null;
        }
    }

    /// <summary>
    /// Of two sides joined: <paramref name="both"/> comes of both being so, <paramref name="either"/> of one of them, whatever becomes of
    /// the other; an error of the rest.
    /// </summary>
    private static ImmutableArray<ImmutableArray<Goal>> All(Expression a, Expression b, Outcomes within, Outcomes both, Outcomes either)
    {
        var notEither = both | Outcomes.Errs;
        return (within & both, within & either, within & Outcomes.Errs) switch
        {
            (Outcomes.None, Outcomes.None, _) =>
            [
                [new(a, Outcomes.Errs), new(b, notEither)],
                [new(a, both), new(b, Outcomes.Errs)],
            ],
            (_, Outcomes.None, Outcomes.None) =>
            [
                [new(a, both), new(b, both)],
            ],
            (Outcomes.None, _, Outcomes.None) =>
            [
                [new(a, either)],
                [new(b, either)],
            ],
            (_, Outcomes.None, _) =>
            [
                [new(a, notEither), new(b, notEither)],
            ],
            (_, _, Outcomes.None) =>
            [
                [new(a, either)],
                [new(b, either)],
                [new(a, both), new(b, both)],
            ],
            // Anything but both: a side that is not.
            _ =>
            [
                [new(a, either | Outcomes.Errs)],
                [new(b, either | Outcomes.Errs)],
            ],
        };
    }

    private static Outcomes Turned(Outcomes within) =>
        (within & Outcomes.Errs)
        | ((within & Outcomes.Holds) != Outcomes.None ? Outcomes.DoesNotHold : Outcomes.None)
        | ((within & Outcomes.DoesNotHold) != Outcomes.None ? Outcomes.Holds : Outcomes.None);

    /// <summary>Takes in what a comparison asks; false where nothing is left that could do it.</summary>
    private bool Bind(Goal goal, CandidateSets left, ref ImmutableList<Bond> bonds)
    {
        var test = tests.Of(goal.Part);
        foreach (var read in test.Reads)
        {
            left.Touch(read);
        }

        if (test.Reads.Length > 1 || domains.WhyOutside(goal.Part) is not null)
        {
            bonds = bonds.Add(new Bond(test, goal.Within));
        }

        return test.Reads.Length switch
        {
            0 => (tests.Outcome(test) & goal.Within) != Outcomes.None,
            1 => left.Keep(test.Reads[0], candidate => (tests.Outcome(test, candidate) & goal.Within) != Outcomes.None),
            _ => true,
        };
    }

    /// <summary>Leaves of every two things that are compared only what has a partner; false where nothing is left of one.</summary>
    private bool Agree(ImmutableList<Bond> bonds, CandidateSets left)
    {
        for (var changed = true; changed; )
        {
            changed = false;
            foreach (var (test, within) in bonds.Where(bond => bond.Test.Reads.Length == 2))
            {
                var (a, b) = (test.Reads[0], test.Reads[1]);
                var before = left.Count(a) + left.Count(b);
                if (
                    !left.Keep(a, one => left.Any(b, other => (tests.Outcome(test, one, other) & within) != Outcomes.None))
                    || !left.Keep(b, other => left.Any(a, one => (tests.Outcome(test, one, other) & within) != Outcomes.None))
                )
                {
                    return false;
                }

                changed |= left.Count(a) + left.Count(b) != before;
            }
        }

        return true;
    }

    /// <summary>Chooses one candidate after another, the variable with fewest first, until all that binds is decided.</summary>
    private CandidateSets? Settle(ImmutableList<Bond> bonds, CandidateSets left)
    {
        if (bonds.Any(bond => bond.Test.Reads.Length > 2 && !Holds(bond, left)))
        {
            return null;
        }

        var chosen = bonds.SelectMany(bond => bond.Test.Reads).Where(read => left.IsTouched(read) && left.Count(read) > 1).ToArray();
        if (chosen.Length == 0)
        {
            return left;
        }

        var variable = chosen.MinBy(left.Count);
        for (var candidate = 0; candidate < domains.Variables[variable].Candidates.Count; candidate++)
        {
            if (!left.Has(variable, candidate))
            {
                continue;
            }

            if (++looked > Patience)
            {
                Doubt = $"there are too many cases to look at";
                return null;
            }

            var tried = new CandidateSets(left);
            tried.Keep(variable, each => each == candidate);
            if (Agree(bonds, tried) && Settle(bonds, tried) is { } settled)
            {
                return settled;
            }
        }

        return null;
    }

    /// <summary>What binds things that do not matter, or are not decided, binds nothing yet.</summary>
    private bool Holds(Bond bond, CandidateSets left) =>
        !bond.Test.Reads.All(read => left.IsTouched(read) && left.Count(read) == 1)
        || (tests.Outcome(bond.Test, [.. bond.Test.Reads.Select(left.First)]) & bond.Within) != Outcomes.None;

    /// <summary>A way that leads nowhere: for certain, unless something on it cannot be answered for certain.</summary>
    private CandidateSets? Closed(ImmutableList<Bond> bonds)
    {
        Doubt ??= bonds.Select(bond => bond.Test.Part is { } part ? domains.WhyOutside(part) : null).FirstOrDefault(why => why is not null);
        return null;
    }
}
