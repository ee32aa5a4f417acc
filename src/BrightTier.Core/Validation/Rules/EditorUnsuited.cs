using BrightTier.Core.Edits;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>An editor that cannot enter values of the field's type.</summary>
public sealed class EditorUnsuited : IRule
{
    public string Code => "editor-unsuited";

    public string About => "An editor cannot enter values of the field's type.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Fields
        let field = subject.FieldOf(node)
        let editor = node.Word("editor")
        where field is not null && editor is not null && !Editors.For(field.Type).Contains(editor)
        select new Finding(
            Code,
            Severity.Error,
            node.Id,
            "editor",
            $"'{subject.NameOf(node)}' is of type {field.Type.Name()} and cannot be entered by '{editor}'; suited: "
                + $"{string.Join(", ", Editors.For(field.Type))}.",
            new Fix($"Use the default editor", [new Edit.Set(node.Id, "editor", null)])
        );
}
