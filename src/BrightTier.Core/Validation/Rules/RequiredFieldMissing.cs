using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A field the entity requires, without a default, that is not on the layout: nobody could create a record with it.</summary>
public sealed class RequiredFieldMissing : IRule
{
    public string Code => "required-field-missing";

    public string About => "The entity requires a field that is not on the form; no record could be created with it.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        var placed = subject.Fields.Where(node => !node.Flag("hidden")).Select(node => node.Word("field")).ToHashSet();
        var section = subject.Nodes.FirstOrDefault(node => node.Kind is NodeKind.Section);
        return from field in subject.Entity.Current
            where subject.Layout.Kind is "full" or "short" && field.Required && field.Default is null && !placed.Contains(field.Key)
            select new Finding(
                Code,
                Severity.Error,
                subject.Layout.Root.Id,
                null,
                $"'{field.Label}' is required by the {subject.Entity.Label.ToString().ToLowerInvariant()} itself and has no "
                    + $"default, but is not on the layout; no record could be created with it.",
                section is null
                    ? null
                    : new Fix(
                        $"Add it at the end of '{subject.NameOf(section)}'",
                        [new Edit.Insert(NewNodes.RowOf(field.Key), section.Id, new Anchor.Last())]
                    )
            );
    }
}
