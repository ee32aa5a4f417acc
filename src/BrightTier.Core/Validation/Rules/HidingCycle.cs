using BrightTier.Core.Conditions;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Fields whose visibility depends on each other in a circle: once all are hidden, nobody can bring them back.</summary>
public sealed class HidingCycle : IRule
{
    public string Code => "hiding-cycle";

    public string About =>
        "Fields are shown depending on each other in a circle, and some record hides them all: nobody can bring them back.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var reads = new Dictionary<string, HashSet<string>>(StringComparer.Ordinal);
        var seen = new Dictionary<string, Expression>(StringComparer.Ordinal);
        foreach (var same in subject.Fields.GroupBy(node => node.Word("field")!))
        {
            var places = same.Select(subject.WhenSeen).ToArray();
            if (places.All(place => place is not (null or Expression.Literal)))
            {
                seen[same.Key] = places.Aggregate((one, other) => CheckContext.Or(one!, other!))!;
                reads[same.Key] = [.. seen[same.Key].FieldsRead()];
            }
        }

        foreach (var node in subject.Fields)
        {
            var key = node.Word("field")!;
            if (
                reads.ContainsKey(key)
                && Reaches(key, key, reads, []) is { } path
                && AllHidden(path, seen, subject) is { Verdict: not Verdict.No } answer
            )
            {
                yield return new Finding(
                    Code,
                    Severity.Error,
                    node.Id,
                    "visible",
                    $"'{subject.NameOf(node)}' is shown depending on itself ({string.Join(" → ", path.Prepend(key))}); once "
                        + $"hidden it could never come back."
                )
                {
                    Evidence = answer.Witness?.Describe(subject.Entity),
                };
            }
        }
    }

    private static Answer AllHidden(IEnumerable<string> circle, Dictionary<string, Expression> seen, CheckContext subject)
    {
        var hidden = circle.Select(key => CheckContext.Not(seen[key])).Aggregate(CheckContext.And);
        var answer = Analysis.Can(Outcome.Holds, hidden, subject.Entity, subject.Definitions);
        // A condition that errs hides as well.
        return answer.Verdict is Verdict.No ? Analysis.Can(Outcome.Errs, hidden, subject.Entity, subject.Definitions) : answer;
    }

    private static List<string>? Reaches(string from, string goal, Dictionary<string, HashSet<string>> reads, HashSet<string> visited)
    {
        foreach (var next in reads.TryGetValue(from, out var set) ? set.Order(StringComparer.Ordinal) : Enumerable.Empty<string>())
        {
            if (next == goal)
            {
                return [goal];
            }

            if (visited.Add(next) && Reaches(next, goal, reads, visited) is { } rest)
            {
                return [next, .. rest];
            }
        }

        return null;
    }
}
