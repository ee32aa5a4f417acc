using BrightTier.Contracts;
using BrightTier.Core.Composition;
using BrightTier.Core.Model;
using BrightTier.Core.Places;
using BrightTier.Core.Resolution;
using BrightTier.Service.Drafts;
using BrightTier.Service.Http;

namespace BrightTier.Service.Layouts;

/// <summary>A draft as it would be drawn: its form, resolved by what resolves published ones, and how long it is at each width.</summary>
internal static class DraftPreview
{
    /// <summary>Through whose eyes a draft is resolved.</summary>
    internal sealed record View(Viewer Viewer, string Mode, bool ShowHidden);

    /// <param name="role">Without one, all roles together.</param>
    /// <param name="mode">Without one, edit.</param>
    /// <param name="language">Without one, the application's first.</param>
    /// <param name="showHidden">Whether what is never shown is there too, marked as hidden.</param>
    /// <exception cref="RefusedException">404: there is no such role. 422: there is no such mode.</exception>
    public static View ViewOf(string? role, string? mode, string? language, bool? showHidden, Definitions definitions)
    {
        var roles = definitions.Application.Roles.Select(each => each.Key).ToArray();
        if (role is not null && !roles.Contains(role))
        {
            throw Problems.NotFound($"role", role, roles);
        }

        if (mode is not null && !Modes.All.Contains(mode))
        {
            throw Problems.Invalid(
                $"There is no mode '{mode}'; there are: {string.Join(", ", Modes.All)}.",
                Problems.Part("mode", $"must be create, edit or view")
            );
        }

        var viewer = new Viewer([.. role is null ? roles : [role]], language ?? definitions.Application.Languages[0]);
        return new View(viewer, mode ?? Modes.Edit, showHidden ?? false);
    }

    /// <summary>The form as JSON, as <c>/api/forms</c> answers one.</summary>
    public static byte[] Form(Layout layout, Catalogue catalogue, View view) =>
        ResolvedFormJson.Write(
            Resolver.Resolve(
                LayoutComposer.Assemble(Pieces.AsForm(layout), catalogue),
                DraftDocuments.EntityOf(layout, catalogue),
                catalogue.Definitions,
                view.Viewer,
                view.Mode,
                view.ShowHidden
            ),
            catalogue.Definitions
        );

    /// <summary>How long the form is, the widest first.</summary>
    public static IReadOnlyList<LengthInfo> Lengths(Layout layout, Catalogue catalogue)
    {
        var entity = DraftDocuments.EntityOf(layout, catalogue);
        return
        [
            .. LookedAt
                .Of(LayoutComposer.Assemble(Pieces.AsForm(layout), catalogue), catalogue.Definitions.Application)
                .Select(width =>
                {
                    var length = Length.Measure(width.Layout, entity, catalogue.Definitions, width.Rem);
                    return new LengthInfo(width.Name, width.Rem, length.Rows, Math.Round(length.Screens, 2));
                }),
        ];
    }
}
