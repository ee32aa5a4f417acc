using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field that is shown only to roles which may not read it.</summary>
public sealed class FieldForNobody : IRule
{
    public string Code => "field-for-nobody";

    public string About => "A field is placed for roles that may not read it; those who may never see it here.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var readers = subject.Readers.Select(role => role.Key).ToArray();
        foreach (var node in subject.Fields)
        {
            if (
                subject.FieldOf(node) is { Read: not null } field
                && readers.Length > 0
                && subject.WhenSeen(node) is { } seen
                && readers.Where(role => field.MayRead([role])).All(role => Never(seen, role))
            )
            {
                yield return new Finding(
                    Code,
                    Severity.Error,
                    node.Id,
                    "visible",
                    $"'{subject.NameOf(node)}' is shown only to roles that may not read it ({Named(subject, field)} may)."
                );
            }
        }
    }

    private static bool Never(Expression seen, string role) =>
        new[] { "create", "edit", "view" }.All(mode =>
            Reducer.Reduce(seen, Reducer.Viewer([role], mode, "en")) is Expression.Literal { Value: false }
        );

    private static string Named(CheckContext subject, Field field) =>
        string.Join(", ", subject.Readers.Where(role => field.MayRead([role.Key])).Select(role => role.Label.ToString()));
}
