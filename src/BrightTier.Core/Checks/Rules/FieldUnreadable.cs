using BrightTier.Core.Entities;

namespace BrightTier.Core.Checks.Rules;

/// <summary>
/// A condition or band that reads a field which some role of the application may not read: its outcome would tell what the value is
/// ("Who may see what" in docs/model.md). Roles that may not read records at all do not count.
/// </summary>
public sealed class FieldUnreadable : IRule
{
    public string Code => "field-unreadable";

    public IEnumerable<Finding> Check(Subject subject)
    {
        var readers = subject.Definitions.Application.Roles.Where(role => role.May.Contains(Acts.ReadRecords)).ToArray();
        foreach (var (node, property, key) in Reads(subject))
        {
            if (subject.Entity.Find(key) is { } field && readers.FirstOrDefault(role => !field.MayRead([role.Key])) is { } role)
            {
                yield return new Finding(Code, Severity.Error, node.Id, property,
                    $"This reads '{field.Label}', which a {role.Label.ToString().ToLowerInvariant()} may not read; what is shown would give it away.");
            }
        }
    }

    private static IEnumerable<(Layouts.Node Node, string Property, string Key)> Reads(Subject subject)
    {
        foreach (var condition in subject.Conditions)
        {
            foreach (var key in condition.Expression?.FieldsRead() ?? [])
            {
                yield return (condition.Node, condition.Property, key);
            }
        }

        foreach (var band in subject.Layout.Root.Children)
        {
            foreach (var key in band.Text("text")?.ByLanguage.Values.SelectMany(Placeholders.In).Distinct() ?? [])
            {
                yield return (band, "text", key);
            }
        }
    }
}
