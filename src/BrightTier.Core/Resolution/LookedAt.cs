using System.Collections.Immutable;
using BrightTier.Core.Composition;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>A width at which a layout is looked at.</summary>
public sealed record LookedAt(string Name, int Rem, Layout Layout)
{
    /// <summary>
    /// The widths of the application's scale and of the layout's own cut points, at the narrow end where a form is longest; at least 20
    /// rem.
    /// </summary>
    public static ImmutableArray<LookedAt> Of(ComposedLayout assembled, Application application)
    {
        var own = assembled
            .Source.Variants.Where(variant => variant.Number("below") is not null)
            .Select(variant => (variant.Word("variant")!, variant.Number("below")!.Value));
        return
        [
            .. application
                .Ranges(own)
                .Select(range => new LookedAt(
                    range.Name,
                    Math.Max(20, range.From),
                    assembled.Variants.FirstOrDefault(variant => variant.Range.Name == range.Name)?.Layout ?? assembled.Base
                )),
        ];
    }
}
