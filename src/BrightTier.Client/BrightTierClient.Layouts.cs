using System.Text.Json;
using BrightTier.Contracts;

namespace BrightTier.Client;

// Layouts: their drafts, edits and parts, and the forms they make.
public sealed partial class BrightTierClient
{
    /// <summary>Those in use.</summary>
    public Task<IReadOnlyList<LayoutSummary>> Layouts(CancellationToken cancel) =>
        Get("api/layouts", WireJson.Default.IReadOnlyListLayoutSummary, cancel);

    public Task<IReadOnlyList<LayoutSummary>> ArchivedLayouts(CancellationToken cancel) =>
        Get("api/layouts?archived=true", WireJson.Default.IReadOnlyListLayoutSummary, cancel);

    public Task<LayoutDraft> Layout(string key, CancellationToken cancel) =>
        Get($"api/layouts/{Escape(key)}", WireJson.Default.LayoutDraft, cancel);

    public Task<LayoutDraft> CreateLayout(LayoutRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/layouts", Body(request, WireJson.Default.LayoutRequest), WireJson.Default.LayoutDraft, null, cancel);

    public Task<SaveResult> GenerateLayout(string key, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/layouts/{Escape(key)}/generate", null, WireJson.Default.SaveResult, null, cancel);

    /// <exception cref="RefusedException">409 layout-used: something names it; its parts say what.</exception>
    public Task<SaveResult> ArchiveLayout(string key, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/layouts/{Escape(key)}/archive", null, WireJson.Default.SaveResult, null, cancel);

    public Task<SaveResult> BringBackLayout(string key, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/layouts/{Escape(key)}/bring-back", null, WireJson.Default.SaveResult, null, cancel);

    public Task<EditResult> Edit(string key, EditRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/layouts/{Escape(key)}/edits",
            Body(request, WireJson.Default.EditRequest),
            WireJson.Default.EditResult,
            null,
            cancel
        );

    public Task<IReadOnlyList<ChangeInfo>> Changes(string key, long after, CancellationToken cancel) =>
        Get(
            string.Create(System.Globalization.CultureInfo.InvariantCulture, $"api/layouts/{Escape(key)}/changes?after={after}"),
            WireJson.Default.IReadOnlyListChangeInfo,
            cancel
        );

    /// <summary>What happened to a draft since <paramref name="from"/>: released, revision:N, or another layout's key.</summary>
    public Task<Comparison> Diff(string key, string from, CancellationToken cancel) =>
        Get($"api/layouts/{Escape(key)}/diff?from={Escape(from)}", WireJson.Default.Comparison, cancel);

    public Task<ExplanationInfo> Explain(
        string key,
        string node,
        string? role,
        string mode,
        string? width,
        long? record,
        CancellationToken cancel
    ) =>
        Get(
            $"api/layouts/{Escape(key)}/explain?node={Escape(node)}&mode={Escape(mode)}{Part("role", role)}"
                + $"{Part("width", width)}{Part("record", record is { } id ? Number(id) : null)}",
            WireJson.Default.ExplanationInfo,
            cancel
        );

    public Task<IReadOnlyList<LengthInfo>> Length(string key, CancellationToken cancel) =>
        Get($"api/layouts/{Escape(key)}/length", WireJson.Default.IReadOnlyListLengthInfo, cancel);

    public Task<IReadOnlyList<PieceInfo>> Pieces(CancellationToken cancel) =>
        Get("api/pieces", WireJson.Default.IReadOnlyListPieceInfo, cancel);

    public Task<PieceInfo> CreatePiece(string key, NewPiece piece, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/layouts/{Escape(key)}/pieces",
            Body(piece, WireJson.Default.NewPiece),
            WireJson.Default.PieceInfo,
            null,
            cancel
        );

    public Task<EditResult> Detach(string key, DetachRequest use, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/layouts/{Escape(key)}/detach",
            Body(use, WireJson.Default.DetachRequest),
            WireJson.Default.EditResult,
            null,
            cancel
        );

    /// <summary>Places something where it has room, and nothing else moves.</summary>
    public Task<EditResult> Place(string key, PlaceRequest place, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/layouts/{Escape(key)}/place",
            Body(place, WireJson.Default.PlaceRequest),
            WireJson.Default.EditResult,
            null,
            cancel
        );

    /// <summary>What would make a form better, and why; nothing is changed.</summary>
    public Task<ProposedChanges> Propose(string key, ProposalRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/layouts/{Escape(key)}/proposals",
            Body(request, WireJson.Default.ProposalRequest),
            WireJson.Default.ProposedChanges,
            null,
            cancel
        );

    /// <summary>Nodes of a draft as the text of a piece.</summary>
    public async Task<string> Copy(string key, IEnumerable<string> nodes, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Get,
            $"api/layouts/{Escape(key)}/clipboard?nodes={Escape(string.Join(',', nodes))}",
            null,
            null,
            cancel
        );
        return await answer.Content.ReadAsStringAsync(cancel);
    }

    /// <summary>What a layout shows: its entity, or a piece's slots.</summary>
    public Task<EntityInfo> LayoutEntity(string key, CancellationToken cancel) =>
        Get($"api/layouts/{Escape(key)}/entity", WireJson.Default.EntityInfo, cancel);

    public Task<EditResult> Paste(string key, PasteRequest paste, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/layouts/{Escape(key)}/paste",
            Body(paste, WireJson.Default.PasteRequest),
            WireJson.Default.EditResult,
            null,
            cancel
        );

    public Task<ConditionInfo> Condition(string key, ConditionRequest condition, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/layouts/{Escape(key)}/conditions/check",
            Body(condition, WireJson.Default.ConditionRequest),
            WireJson.Default.ConditionInfo,
            null,
            cancel
        );

    public Task<IReadOnlyList<TemplateLayoutInfo>> CreateFromTemplate(string template, TemplateRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/templates/{Escape(template)}/layouts",
            Body(request, WireJson.Default.TemplateRequest),
            WireJson.Default.IReadOnlyListTemplateLayoutInfo,
            null,
            cancel
        );

    public Task<JsonElement> Form(string entity, string mode, CancellationToken cancel) =>
        Get($"api/forms/{Escape(entity)}?mode={Escape(mode)}", WireJson.Default.JsonElement, cancel);

    /// <summary>A draft as it is looked at: its form, its lengths, and what the checks find.</summary>
    public Task<LayoutView> View(string key, string? role, string mode, string? language, CancellationToken cancel) =>
        Get(
            $"api/layouts/{Escape(key)}/view?mode={Escape(mode)}{Part("role", role)}{Part("language", language)}",
            WireJson.Default.LayoutView,
            cancel
        );

    public Task<JsonElement> Preview(string key, string? role, string mode, CancellationToken cancel) =>
        Get(
            $"api/layouts/{Escape(key)}/preview?mode={Escape(mode)}{(role is null ? "" : $"&role={Escape(role)}")}",
            WireJson.Default.JsonElement,
            cancel
        );
}
