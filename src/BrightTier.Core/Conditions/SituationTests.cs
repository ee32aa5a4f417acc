using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

/// <summary>Something that has an outcome for values of a few variables: a comparison, or what holds of every record there is.</summary>
/// <param name="Part">The comparison; null for what always holds.</param>
/// <param name="Reads">The variables it reads, by their place among all.</param>
/// <param name="Known">Outcomes that are known, by the places of the candidates; none of what reads more than two.</param>
/// <param name="Width">How many candidates the second variable has.</param>
internal sealed record SituationTest(Expression? Part, int[] Reads, Func<object?[], bool>? Always, Outcomes[] Known, int Width);

/// <summary>Works out what comparisons come to for candidates of what they read, each once.</summary>
internal sealed class SituationTests
{
    private readonly IReadOnlyList<Variable> variables;
    private readonly Dictionary<string, int> places;
    private readonly Dictionary<Expression, SituationTest> comparisons = new(ReferenceEqualityComparer.Instance);
    private readonly Dictionary<string, object?> record = new(StringComparer.Ordinal);
    private readonly Dictionary<string, object?> user = new(StringComparer.Ordinal);
    private readonly Dictionary<string, object?> names;
    private readonly EvaluationContext surroundings;

    public SituationTests(IReadOnlyList<Variable> variables, Entity entity)
    {
        this.variables = variables;
        places = Enumerable.Range(0, variables.Count).ToDictionary(i => variables[i].Name, StringComparer.Ordinal);
        names = new Dictionary<string, object?>(StringComparer.Ordinal) { ["record"] = record, ["user"] = user };
        surroundings = new EvaluationContext(names);
        Always = [.. OfReferences(entity)];
    }

    /// <summary>What holds of every record there is.</summary>
    public IReadOnlyList<SituationTest> Always { get; }

    public SituationTest Of(Expression comparison)
    {
        if (!comparisons.TryGetValue(comparison, out var test))
        {
            comparisons[comparison] = test = New(comparison, Reads(comparison), null);
        }

        return test;
    }

    private SituationTest New(Expression? part, int[] reads, Func<object?[], bool>? always)
    {
        int SizeOf(int index) => index < reads.Length ? variables[reads[index]].Candidates.Count : 1;
        return new SituationTest(part, reads, always, reads.Length > 2 ? [] : new Outcomes[SizeOf(0) * SizeOf(1)], SizeOf(1));
    }

    private int[] Reads(Expression comparison)
    {
        var reads = new List<int>(2);
        foreach (var part in comparison.Walk())
        {
            if (
                part is Expression.Select or Expression.Name
                && places.TryGetValue(Domains.NameOf(part), out var place)
                && !reads.Contains(place)
            )
            {
                reads.Add(place);
            }
        }

        return [.. reads];
    }

    /// <param name="candidates">The place among its candidates of each variable that is read.</param>
    public Outcomes Outcome(SituationTest test, params ReadOnlySpan<int> candidates)
    {
        if (candidates.Length > 2)
        {
            return Work(test, candidates);
        }

        var key = candidates.Length switch
        {
            0 => 0,
            1 => candidates[0],
            _ => (candidates[0] * test.Width) + candidates[1],
        };
        // What comes to nothing at all is asked again, which is seldom.
        return test.Known[key] is not Outcomes.None and var known ? known : test.Known[key] = Work(test, candidates);
    }

    private Outcomes Work(SituationTest test, ReadOnlySpan<int> candidates)
    {
        var values = new object?[candidates.Length];
        for (var i = 0; i < values.Length; i++)
        {
            values[i] = variables[test.Reads[i]].Candidates[candidates[i]];
        }

        if (test.Always is { } always)
        {
            return always(values) ? Outcomes.Holds : Outcomes.DoesNotHold;
        }

        for (var i = 0; i < values.Length; i++)
        {
            Set(variables[test.Reads[i]].Name, values[i]);
        }

        return Evaluator.Decide(test.Part!, surroundings) switch
        {
            true => Outcomes.Holds,
            false => Outcomes.DoesNotHold,
            Unknown => Outcomes.None,
            _ => Outcomes.Errs,
        };
    }

    private void Set(string name, object? value)
    {
        if (name.StartsWith("record.", StringComparison.Ordinal))
        {
            record[name["record.".Length..]] = value;
        }
        else if (name.StartsWith("user.", StringComparison.Ordinal))
        {
            user[name["user.".Length..]] = value;
        }
        else
        {
            names[name] = value;
        }
    }

    /// <summary>An empty reference leads to nothing; two that lead to one record find the same there.</summary>
    private IEnumerable<SituationTest> OfReferences(Entity entity)
    {
        if (places.Count < 2)
        {
            yield break;
        }

        var steps = places
            .Keys.Select(name => name.Split('.'))
            .Where(parts => parts.Length == 3 && places.ContainsKey($"{parts[0]}.{parts[1]}"))
            .Select(parts =>
                (Reference: places[$"{parts[0]}.{parts[1]}"], Step: places[string.Join('.', parts)], Own: parts[1], Field: parts[2])
            )
            .OrderBy(step => step.Step)
            .ToArray();
        foreach (var step in steps)
        {
            yield return New(null, [step.Reference, step.Step], values => values is not [null, not null]);
            foreach (
                var other in steps.Where(other =>
                    other.Step > step.Step && other.Field == step.Field && entity.Find(other.Own)?.Target == entity.Find(step.Own)?.Target
                )
            )
            {
                yield return New(null, [step.Reference, other.Reference, step.Step, other.Step], values =>
                    !Equals(values[0], values[1]) || Operations.AreEqual(values[2], values[3])
                );
            }
        }
    }
}
