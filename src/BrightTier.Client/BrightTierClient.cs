using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using BrightTier.Contracts;

namespace BrightTier.Client;

/// <summary>The service said no: its problem, with the stable code.</summary>
public sealed class RefusedException(Problem problem) : Exception(problem.Detail ?? problem.Title)
{
    public Problem Problem => problem;
}

/// <summary>The service could not be reached.</summary>
public sealed class UnreachableException(Uri address, Exception inner)
    : Exception($"There is no answer from {address}: {inner.Message}", inner)
{
    /// <summary>
    /// Whether a call failed since nobody answered: none to connect to, cut off on the way, or silent for too long. What was called off by
    /// whoever asked is none.
    /// </summary>
    internal static bool Matches(Exception error, CancellationToken cancel) =>
        error is HttpRequestException or IOException or SocketException
        || (error is OperationCanceledException && !cancel.IsCancellationRequested);
}

/// <summary>A file as the service holds it: its text and the revision it is at.</summary>
public sealed record FileText(string Text, string Tag);

/// <summary>
/// A typed client of the service's HTTP interface. Every call throws <see cref="RefusedException"/> or <see cref="UnreachableException"/>
/// when it does not come about.
/// </summary>
public sealed class BrightTierClient : IDisposable
{
    private readonly HttpClient http;

    public BrightTierClient(Uri address, string? token, HttpMessageHandler? handler = null)
    {
        Address = address;
        http = new HttpClient(handler ?? new SocketsHttpHandler { ConnectTimeout = TimeSpan.FromSeconds(5) })
        {
            BaseAddress = address,
            Timeout = Timeout.InfiniteTimeSpan,
        };
        if (token is not null)
        {
            http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        }
    }

    /// <summary>How long an answer may take, save for what is known to take its time.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    public Uri Address { get; }

    public void Dispose() => http.Dispose();

    public Task<SessionInfo> Session(CancellationToken cancel) => Get("api/session", WireJson.Default.SessionInfo, cancel);

    public Task<IReadOnlyList<Person>> People(CancellationToken cancel) =>
        Get("api/session/people", WireJson.Default.IReadOnlyListPerson, cancel);

    /// <summary>Signs in as a person where the service lets one pick, and asks for a token, which from then on is the client's.</summary>
    public Task<TokenInfo> PickPerson(string person, string tokenName, CancellationToken cancel) =>
        SignIn(new SignIn(person), new TokenRequest(tokenName), cancel);

    /// <summary>Signs in, by a password or by picking, and asks for a token, which from then on is the client's.</summary>
    public async Task<TokenInfo> SignIn(SignIn who, TokenRequest asked, CancellationToken cancel)
    {
        // The handler keeps the session's cookie for the two calls.
        var session = await Send(
            HttpMethod.Post,
            "api/session",
            Body(who, WireJson.Default.SignIn),
            WireJson.Default.SessionInfo,
            null,
            cancel
        );
        var token = await Send(
            HttpMethod.Post,
            "api/tokens",
            Body(asked, WireJson.Default.TokenRequest),
            WireJson.Default.TokenInfo,
            request => request.Headers.Add("X-Antiforgery", session.Antiforgery),
            cancel
        );
        http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token.Secret);
        return token;
    }

    public Task<IReadOnlyList<TokenInfo>> Tokens(CancellationToken cancel) =>
        Get("api/tokens", WireJson.Default.IReadOnlyListTokenInfo, cancel);

    public Task<TokenInfo> CreateToken(TokenRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/tokens", Body(request, WireJson.Default.TokenRequest), WireJson.Default.TokenInfo, null, cancel);

    public Task RevokeToken(string id, CancellationToken cancel) => Do(HttpMethod.Delete, $"api/tokens/{Escape(id)}", null, cancel);

    /// <summary>Ends the session or token that calls are made with.</summary>
    public Task SignOut(CancellationToken cancel) => Do(HttpMethod.Delete, "api/session", null, cancel);

    /// <summary>Everybody there is; with roles for administrators.</summary>
    public Task<IReadOnlyList<Person>> Everybody(CancellationToken cancel) =>
        Get("api/people", WireJson.Default.IReadOnlyListPerson, cancel);

    public Task<Person> PutPerson(string id, PersonRequest person, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            $"api/people/{Escape(id)}",
            Body(person, WireJson.Default.PersonRequest),
            WireJson.Default.Person,
            null,
            cancel
        );

    public Task SetPassword(string person, string password, CancellationToken cancel) =>
        Do(
            HttpMethod.Put,
            $"api/people/{Escape(person)}/password",
            Body(new PasswordRequest(password), WireJson.Default.PasswordRequest),
            cancel
        );

    /// <summary>A page of the audit log, newest first.</summary>
    public Task<AuditPage> Audit(
        string? by,
        string? action,
        string? subject,
        string? words,
        DateTimeOffset? from,
        DateTimeOffset? until,
        int limit,
        string? after,
        CancellationToken cancel
    ) =>
        Get(
            $"api/audit/entries?limit={Number(limit)}{Part("by", by)}{Part("action", action)}{Part("subject", subject)}"
                + $"{Part("q", words)}{Part("from", from?.ToString("O"))}{Part("until", until?.ToString("O"))}"
                + $"{Part("after", after)}",
            WireJson.Default.AuditPage,
            cancel
        );

    /// <summary>What was done to records, newest first.</summary>
    public Task<RecordAuditPage> RecordAudit(
        string? by,
        string? action,
        string? entity,
        long? record,
        DateTimeOffset? from,
        DateTimeOffset? until,
        int limit,
        string? after,
        CancellationToken cancel
    ) =>
        Get(
            $"api/audit/record-entries?limit={Number(limit)}{Part("by", by)}{Part("action", action)}"
                + $"{Part("entity", entity)}{Part("record", record is { } id ? Number(id) : null)}"
                + $"{Part("from", from?.ToString("O"))}{Part("until", until?.ToString("O"))}{Part("after", after)}",
            WireJson.Default.RecordAuditPage,
            cancel
        );

    /// <summary>How long the audit log is, signed.</summary>
    public Task<AuditHead> AuditHead(CancellationToken cancel) => Get("api/audit/head", WireJson.Default.AuditHead, cancel);

    /// <summary>The whole audit log, oldest first, as lines of JSON.</summary>
    public async Task AuditExport(Func<Stream, Task> read, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Get,
            "api/audit/entries/export?format=jsonl",
            null,
            null,
            cancel,
            HttpCompletionOption.ResponseHeadersRead
        );
        await using var stream = await answer.Content.ReadAsStreamAsync(cancel);
        await read(stream);
    }

    public Task<AuditProof> AuditProof(CancellationToken cancel) => Get("api/audit/proof", WireJson.Default.AuditProof, cancel);

    public Task<IReadOnlyList<EntitySummary>> Entities(CancellationToken cancel) =>
        Get("api/entities", WireJson.Default.IReadOnlyListEntitySummary, cancel);

    public Task<EntityInfo> Entity(string key, CancellationToken cancel) =>
        Get($"api/entities/{Escape(key)}", WireJson.Default.EntityInfo, cancel);

    public Task<IReadOnlyList<LayoutSummary>> Layouts(CancellationToken cancel) =>
        Get("api/layouts", WireJson.Default.IReadOnlyListLayoutSummary, cancel);

    public Task<LayoutDraft> Layout(string key, CancellationToken cancel) =>
        Get($"api/layouts/{Escape(key)}", WireJson.Default.LayoutDraft, cancel);

    public Task<LayoutDraft> CreateLayout(LayoutRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/layouts", Body(request, WireJson.Default.LayoutRequest), WireJson.Default.LayoutDraft, null, cancel);

    public Task<SaveResult> GenerateLayout(string key, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/layouts/{Escape(key)}/generate", null, WireJson.Default.SaveResult, null, cancel);

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

    public Task<PatternTestResult> TestPattern(PatternTest trial, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            "api/patterns/test",
            Body(trial, WireJson.Default.PatternTest),
            WireJson.Default.PatternTestResult,
            null,
            cancel
        );

    public Task<IReadOnlyList<PatternInfo>> Patterns(CancellationToken cancel) =>
        Get("api/patterns", WireJson.Default.IReadOnlyListPatternInfo, cancel);

    public Task<ChoiceListInfo> ChoiceList(string key, CancellationToken cancel) =>
        Get($"api/choice-lists/{Escape(key)}", WireJson.Default.ChoiceListInfo, cancel);

    public Task<ChoiceListInfo> ChangeChoiceList(string key, ChoiceListChange change, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            $"api/choice-lists/{Escape(key)}",
            Body(change, WireJson.Default.ChoiceListChange),
            WireJson.Default.ChoiceListInfo,
            null,
            cancel
        );

    public Task<IReadOnlyList<UseInfo>> Impact(string subject, string name, CancellationToken cancel) =>
        Get($"api/impact?subject={Escape(subject)}&name={Escape(name)}", WireJson.Default.IReadOnlyListUseInfo, cancel);

    public Task<IReadOnlyList<DocumentFindingInfo>> DocumentFindings(CancellationToken cancel) =>
        Get("api/findings", WireJson.Default.IReadOnlyListDocumentFindingInfo, cancel);

    public Task<IReadOnlyList<TemplateLayoutInfo>> CreateFromTemplate(string template, TemplateRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/templates/{Escape(template)}/layouts",
            Body(request, WireJson.Default.TemplateRequest),
            WireJson.Default.IReadOnlyListTemplateLayoutInfo,
            null,
            cancel
        );

    public Task<IReadOnlyList<MenuEntryInfo>> Navigation(CancellationToken cancel) =>
        Get("api/navigation", WireJson.Default.IReadOnlyListMenuEntryInfo, cancel);

    /// <summary>Every draft there is, of whatever kind.</summary>
    public Task<IReadOnlyList<DocumentSummary>> Documents(CancellationToken cancel) =>
        Get("api/documents", WireJson.Default.IReadOnlyListDocumentSummary, cancel);

    /// <summary>A draft as a file, of any kind of document.</summary>
    public async Task<FileText> File(string kind, string key, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Get,
            FileAddress(kind, key),
            null,
            request => request.Headers.Accept.ParseAdd("application/yaml"),
            cancel
        );
        return new FileText(await answer.Content.ReadAsStringAsync(cancel), answer.Headers.ETag?.Tag ?? "");
    }

    /// <summary>Replaces a draft by a file, or makes it when <paramref name="tag"/> is null.</summary>
    public Task<SaveResult> PutFile(string kind, string key, string text, string? tag, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            FileAddress(kind, key),
            new StringContent(text, Encoding.UTF8, "application/yaml"),
            WireJson.Default.SaveResult,
            request => Precondition(request, tag),
            cancel
        );

    public Task<JsonElement> Form(string entity, string mode, CancellationToken cancel) =>
        Get($"api/forms/{Escape(entity)}?mode={Escape(mode)}", WireJson.Default.JsonElement, cancel);

    public Task<JsonElement> Preview(string key, string? role, string mode, CancellationToken cancel) =>
        Get(
            $"api/layouts/{Escape(key)}/preview?mode={Escape(mode)}{(role is null ? "" : $"&role={Escape(role)}")}",
            WireJson.Default.JsonElement,
            cancel
        );

    /// <summary>Takes documents into the drafts, all or none; or says what would come of it.</summary>
    public Task<ImportReport> ImportDocuments(ImportRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/documents", Body(request, WireJson.Default.ImportRequest), WireJson.Default.ImportReport, null, cancel);

    /// <summary>Documents in one archive: those named kind/key with all they rest on, or every one.</summary>
    public async Task<byte[]> ExportBundle(IEnumerable<string> documents, bool draft, bool withoutDependencies, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Get,
            $"api/bundle?draft={(draft ? "true" : "false")}&withoutDependencies={(withoutDependencies ? "true" : "false")}"
                + $"{string.Concat(documents.Select(name => Part("document", name)))}",
            null,
            null,
            cancel
        );
        return await answer.Content.ReadAsByteArrayAsync(cancel);
    }

    /// <summary>Takes a bundle into the drafts, all or none; or says what would come of it.</summary>
    public Task<ImportReport> ImportBundle(
        byte[] bundle,
        IEnumerable<string> only,
        IEnumerable<string> rename,
        bool dryRun,
        bool merge,
        string? conflictResolution,
        CancellationToken cancel
    )
    {
        var body = new ByteArrayContent(bundle);
        body.Headers.ContentType = new MediaTypeHeaderValue("application/zip");
        return Send(
            HttpMethod.Post,
            $"api/bundle?dryRun={(dryRun ? "true" : "false")}&merge={(merge ? "true" : "false")}"
                + $"{Part("conflictResolution", conflictResolution)}{string.Concat(only.Select(name => Part("only", name)))}"
                + $"{string.Concat(rename.Select(rule => Part("rename", rule)))}",
            body,
            WireJson.Default.ImportReport,
            null,
            cancel
        );
    }

    public Task<ScheduledReleaseInfo> ScheduleRelease(ScheduleRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            "api/scheduled-releases",
            Body(request, WireJson.Default.ScheduleRequest),
            WireJson.Default.ScheduledReleaseInfo,
            null,
            cancel
        );

    public Task<IReadOnlyList<ScheduledReleaseInfo>> ScheduledReleases(CancellationToken cancel) =>
        Get("api/scheduled-releases", WireJson.Default.IReadOnlyListScheduledReleaseInfo, cancel);

    public Task<ScheduledReleaseInfo> CancelScheduledRelease(long plan, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/scheduled-releases/{Number(plan)}/cancel", null, WireJson.Default.ScheduledReleaseInfo, null, cancel);

    /// <summary>Gives a release that went to some roles first to everyone.</summary>
    public Task<ReleaseInfo> Promote(long release, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/releases/{Number(release)}/promote", null, WireJson.Default.ReleaseInfo, null, cancel);

    /// <summary>Takes back a release that went to some roles first.</summary>
    public Task<ReleaseInfo> Cancel(long release, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/releases/{Number(release)}/cancel", null, WireJson.Default.ReleaseInfo, null, cancel);

    public Task<AdoptionInfo> Adoption(long release, CancellationToken cancel) =>
        Get($"api/releases/{Number(release)}/adoption", WireJson.Default.AdoptionInfo, cancel);

    public Task<Approvals> Approvals(CancellationToken cancel) => Get("api/approvals", WireJson.Default.Approvals, cancel);

    public Task Approve(ApprovalRequest request, CancellationToken cancel) =>
        Do(HttpMethod.Post, "api/approvals", Body(request, WireJson.Default.ApprovalRequest), cancel);

    public Task<IReadOnlyList<CommentInfo>> Comments(string kind, string key, CancellationToken cancel) =>
        Get($"api/drafts/{Escape(kind)}/{Escape(key)}/comments", WireJson.Default.IReadOnlyListCommentInfo, cancel);

    public Task<CommentInfo> Comment(string kind, string key, CommentRequest comment, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/drafts/{Escape(kind)}/{Escape(key)}/comments",
            Body(comment, WireJson.Default.CommentRequest),
            WireJson.Default.CommentInfo,
            null,
            cancel
        );

    public Task<CommentInfo> Resolve(long comment, bool resolved, CancellationToken cancel) =>
        Send(
            HttpMethod.Put,
            $"api/comments/{Number(comment)}/resolved",
            Body(new ResolveRequest(resolved), WireJson.Default.ResolveRequest),
            WireJson.Default.CommentInfo,
            null,
            cancel
        );

    public Task<Receipt> Publish(PublishRequest request, CancellationToken cancel) =>
        Send(HttpMethod.Post, "api/releases", Body(request, WireJson.Default.PublishRequest), WireJson.Default.Receipt, null, cancel);

    public Task<ReleaseInfo> Release(long number, CancellationToken cancel) =>
        Get($"api/releases/{Number(number)}", WireJson.Default.ReleaseInfo, cancel);

    public Task<IReadOnlyList<ReleaseInfo>> Releases(CancellationToken cancel) =>
        Get("api/releases", WireJson.Default.IReadOnlyListReleaseInfo, cancel);

    /// <summary>How two states of all documents differ, each a release's number, <c>current</c> or <c>drafts</c>.</summary>
    public Task<ReleaseComparison> DiffReleases(string from, string to, CancellationToken cancel) =>
        Get($"api/releases/diff?from={Escape(from)}&to={Escape(to)}", WireJson.Default.ReleaseComparison, cancel);

    /// <summary>The drafts that go out with some, named kind/key, because these rest on them.</summary>
    public Task<IReadOnlyList<DependencyInfo>> Dependencies(IEnumerable<string> documents, CancellationToken cancel) =>
        Get(
            $"api/releases/dependencies?{string.Join('&', documents.Select(name => $"document={Escape(name)}"))}",
            WireJson.Default.IReadOnlyListDependencyInfo,
            cancel
        );

    public Task<Receipt> Restore(long release, RestoreRequest request, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/releases/{Number(release)}/restore",
            Body(request, WireJson.Default.RestoreRequest),
            WireJson.Default.Receipt,
            null,
            cancel
        );

    /// <param name="sort">Keys of fields with commas between, a - before those that run downwards.</param>
    /// <param name="filter">A condition in CEL.</param>
    public Task<RecordPage> Records(
        string entity,
        string? search,
        string? sort,
        string? filter,
        string? after,
        int limit,
        CancellationToken cancel
    ) =>
        Get(
            $"api/records/{Escape(entity)}?limit={Number(limit)}{Part("q", search)}{Part("sort", sort)}{Part("filter", filter)}{Part("after", after)}",
            WireJson.Default.RecordPage,
            cancel
        );

    public Task<RecordInfo> Record(string entity, long id, CancellationToken cancel) =>
        Get($"api/records/{Escape(entity)}/{Number(id)}", WireJson.Default.RecordInfo, cancel);

    public Task<IReadOnlyList<RecordName>> LookUp(string entity, string text, CancellationToken cancel) =>
        Get($"api/records/{Escape(entity)}/lookup?q={Escape(text)}", WireJson.Default.IReadOnlyListRecordName, cancel);

    public Task<RecordInfo> CreateRecord(string entity, RecordSave save, CancellationToken cancel) =>
        Send(
            HttpMethod.Post,
            $"api/records/{Escape(entity)}",
            Body(save, WireJson.Default.RecordSave),
            WireJson.Default.RecordInfo,
            null,
            cancel
        );

    public Task<RecordInfo> ChangeRecord(string entity, long id, long version, RecordSave save, CancellationToken cancel) =>
        Send(
            HttpMethod.Patch,
            $"api/records/{Escape(entity)}/{Number(id)}",
            Body(save, WireJson.Default.RecordSave),
            WireJson.Default.RecordInfo,
            request => Precondition(request, $"\"{Number(version)}\""),
            cancel
        );

    private async Task Do(HttpMethod method, string path, HttpContent? body, CancellationToken cancel)
    {
        using var answer = await Ask(method, path, body, null, cancel);
    }

    public async Task DeleteRecord(string entity, long id, long version, CancellationToken cancel)
    {
        using var answer = await Ask(
            HttpMethod.Delete,
            $"api/records/{Escape(entity)}/{Number(id)}",
            null,
            request => Precondition(request, $"\"{Number(version)}\""),
            cancel
        );
    }

    public Task<RecordInfo> RestoreRecord(string entity, long id, CancellationToken cancel) =>
        Send(HttpMethod.Post, $"api/records/{Escape(entity)}/{Number(id)}/restore", null, WireJson.Default.RecordInfo, null, cancel);

    private static string FileAddress(string kind, string key) =>
        kind == "layout" ? $"api/layouts/{Escape(key)}" : $"api/documents/{Escape(kind)}/{Escape(key)}";

    private static string Escape(string part) => Uri.EscapeDataString(part);

    private static string Number(long number) => number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static string Part(string name, string? value) => value is null ? "" : $"&{name}={Escape(value)}";

    private static void Precondition(HttpRequestMessage request, string? tag)
    {
        if (tag is null)
        {
            request.Headers.IfNoneMatch.Add(EntityTagHeaderValue.Any);
        }
        else
        {
            request.Headers.IfMatch.Add(new EntityTagHeaderValue(tag));
        }
    }

    private static ByteArrayContent Body<T>(T value, JsonTypeInfo<T> type)
    {
        var content = new ByteArrayContent(JsonSerializer.SerializeToUtf8Bytes(value, type));
        content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
        return content;
    }

    /// <summary>Everything the service holds, as an archive, into a stream. For whoever may administer.</summary>
    public async Task Backup(Stream target, CancellationToken cancel)
    {
        using var answer = await Ask(HttpMethod.Get, "api/backup", null, null, cancel, HttpCompletionOption.ResponseHeadersRead);
        await answer.Content.CopyToAsync(target, cancel);
    }

    private Task<T> Get<T>(string path, JsonTypeInfo<T> type, CancellationToken cancel) =>
        Send(HttpMethod.Get, path, null, type, null, cancel);

    private async Task<T> Send<T>(
        HttpMethod method,
        string path,
        HttpContent? body,
        JsonTypeInfo<T> type,
        Action<HttpRequestMessage>? prepare,
        CancellationToken cancel
    )
    {
        using var answer = await Ask(method, path, body, prepare, cancel);
        await using var stream = await answer.Content.ReadAsStreamAsync(cancel);
        // A service of a newer version may say more.
        return (await JsonSerializer.DeserializeAsync(stream, (JsonTypeInfo<T>)WireJson.Lenient.GetTypeInfo(typeof(T))!, cancel))!;
    }

    private async Task<HttpResponseMessage> Ask(
        HttpMethod method,
        string path,
        HttpContent? body,
        Action<HttpRequestMessage>? prepare,
        CancellationToken cancel,
        HttpCompletionOption completion = HttpCompletionOption.ResponseContentRead
    )
    {
        using var request = new HttpRequestMessage(method, path) { Content = body };
        prepare?.Invoke(request);
        HttpResponseMessage answer;
        try
        {
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(completion is HttpCompletionOption.ResponseHeadersRead ? Timeout.InfiniteTimeSpan : Patience);
            answer = await http.SendAsync(request, completion, limit.Token);
        }
        catch (Exception error) when (UnreachableException.Matches(error, cancel))
        {
            throw new UnreachableException(Address, error);
        }

        if (answer.IsSuccessStatusCode)
        {
            return answer;
        }

        var text = await answer.Content.ReadAsStringAsync(cancel);
        answer.Dispose();
        Problem? problem = null;
        try
        {
            problem = JsonSerializer.Deserialize(text, WireJson.Lenient.Problem);
        }
        catch (JsonException)
        {
            // Something in between answered in its own way; its status must do.
        }

        throw new RefusedException(problem ?? new Problem(null, answer.ReasonPhrase ?? "", (int)answer.StatusCode, null, "unexpected"));
    }
}
