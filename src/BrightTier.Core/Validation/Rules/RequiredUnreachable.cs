using BrightTier.Core.Conditions;

namespace BrightTier.Core.Validation.Rules;

/// <summary>
/// A field that a new record needs, and that some record hides wherever it stands: the save would ask for what nobody can enter.
/// </summary>
public sealed class RequiredUnreachable : IRule
{
    public string Code => "required-unreachable";

    public string About =>
        "The entity requires a field, and there are records for which the form hides it everywhere while they are created. "
        + "With such a record as evidence.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        if (subject.Layout.Kind is not ("full" or "short"))
        {
            yield break;
        }

        foreach (var same in subject.Fields.GroupBy(node => node.Word("field")!))
        {
            if (subject.Entity.Find(same.Key) is not { Required: true, Default: null, Retired: false } field)
            {
                continue;
            }

            var name = subject.NameOf(same.First());
            if (Unseen(same.Select(subject.WhenSeen), field.Key) is { } hidden)
            {
                var answer = Analysis.Can(Outcome.Holds, hidden, subject.Entity, subject.Definitions);
                if (answer.Witness is { } witness)
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        same.First().Id,
                        "visible",
                        $"'{name}' must be given, but there are records that cannot be created because it is hidden then."
                    )
                    {
                        Evidence = witness.Describe(subject.Entity),
                    };
                    continue;
                }
            }

            foreach (var (layout, where) in subject.Widths.Skip(1))
            {
                if (
                    same.All(node =>
                        layout.Find(node.Id) is not { } there || layout.Ancestors(there.Id).Prepend(there).Any(each => each.Flag("hidden"))
                    )
                )
                {
                    yield return new Finding(
                        Code,
                        Severity.Error,
                        same.First().Id,
                        "hidden",
                        $"'{name}' must be given, but is hidden{where}; no record could be created there."
                    );
                }
            }
        }
    }

    /// <summary>
    /// In mode create, with the field itself empty, none of its places is seen; null where one is always seen or cannot be told.
    /// </summary>
    private static Expression? Unseen(IEnumerable<Expression?> places, string field)
    {
        Expression none = new Expression.Binary(
            "==",
            new Expression.Name("mode", default),
            new Expression.Literal("create", default),
            default,
            default
        );
        foreach (var seen in places)
        {
            if (seen is null or Expression.Literal { Value: true })
            {
                return null;
            }

            none = CheckContext.And(none, CheckContext.Not(seen));
        }

        var itself = new Expression.Select(new Expression.Name("record", default), field, default, default);
        return CheckContext.And(none, new Expression.Binary("==", itself, new Expression.Literal(null, default), default, default));
    }
}
