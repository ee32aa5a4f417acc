using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A template of layouts that are not there.</summary>
public sealed class TemplateUnknown : IDocumentRule
{
    public string Code => "template-unknown";

    public string About => "A template names a layout that is not there.";

    public IEnumerable<DocumentFinding> Check(Catalogue catalogue) =>
        from template in catalogue.Templates.Values
        from key in template.Layouts
        where catalogue.Layouts.GetValueOrDefault(key) is not { Kind: not "piece" }
        select new DocumentFinding(
            Code,
            Severity.Error,
            DocumentKind.Template,
            template.Key,
            "/layouts",
            Suggestion.Sentence($"There is no layout '{key}'{catalogue.Suggest(key, catalogue.Layouts.Keys)}")
        );
}
