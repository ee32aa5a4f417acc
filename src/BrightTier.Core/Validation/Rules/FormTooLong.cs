using BrightTier.Core.Places;
using BrightTier.Core.Resolution;

namespace BrightTier.Core.Validation.Rules;

/// <summary>A form one has to scroll through for long.</summary>
public sealed class FormTooLong : IRule
{
    private const double Screens = 6;

    public string Code => "form-too-long";

    public string About => "A page of the form is longer than six screens at some width; split it into tabs or steps, or fold sections.";

    public IEnumerable<Finding> Check(CheckContext subject)
    {
        if (subject.Layout.Kind is not ("full" or "short"))
        {
            yield break;
        }

        foreach (var width in LookedAt.Of(subject.Assembled, subject.Definitions.Application))
        {
            var longest = Length.Measure(width.Layout, subject.Entity, subject.Definitions, width.Rem);
            if (longest.Screens > Screens)
            {
                yield return new Finding(
                    Code,
                    Severity.Advice,
                    subject.Layout.Root.Id,
                    null,
                    $"At width '{width.Name}' the form is {longest.Screens:0.#} screens long; users scroll a lot. Split "
                        + $"it into tabs or steps, or fold sections."
                );
                yield break;
            }
        }
    }
}
