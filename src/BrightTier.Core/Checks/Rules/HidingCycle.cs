using BrightTier.Core.Layouts;

namespace BrightTier.Core.Checks.Rules;

/// <summary>Fields whose visibility depends on each other in a circle: once all are hidden, nobody can bring them back.</summary>
public sealed class HidingCycle : IRule
{
    public string Code => "hiding-cycle";

    public IEnumerable<Finding> Check(Subject subject)
    {
        var reads = new Dictionary<string, HashSet<string>>();
        foreach (var condition in subject.Conditions.Where(condition => condition.Property == "visible" && condition.Expression is not null))
        {
            foreach (var key in condition.Node.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")!))
            {
                (reads.TryGetValue(key, out var set) ? set : reads[key] = []).UnionWith(condition.Expression!.FieldsRead());
            }
        }

        foreach (var node in subject.Fields)
        {
            var key = node.Word("field")!;
            if (Reaches(key, key, reads, []) is { } path)
            {
                yield return new Finding(Code, Severity.Error, node.Id, "visible",
                    $"'{subject.NameOf(node)}' is shown depending on itself ({string.Join(" → ", path.Prepend(key))}); once hidden it could never come back.");
            }
        }
    }

    private static List<string>? Reaches(string from, string goal, Dictionary<string, HashSet<string>> reads, HashSet<string> seen)
    {
        foreach (var next in reads.TryGetValue(from, out var set) ? set.Order(StringComparer.Ordinal) : Enumerable.Empty<string>())
        {
            if (next == goal)
            {
                return [goal];
            }

            if (seen.Add(next) && Reaches(next, goal, reads, seen) is { } rest)
            {
                return [next, .. rest];
            }
        }

        return null;
    }
}
