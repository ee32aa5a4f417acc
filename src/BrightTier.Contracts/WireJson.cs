using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Contracts;

/// <summary>How everything on the wire is serialised, made at compile time so that the native client needs no reflection.</summary>
[JsonSourceGenerationOptions(
    JsonSerializerDefaults.Web,
    UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    NumberHandling = JsonNumberHandling.Strict,
    RespectRequiredConstructorParameters = true,
    RespectNullableAnnotations = true
)]
[JsonSerializable(typeof(SessionInfo))]
[JsonSerializable(typeof(IReadOnlyList<Person>))]
[JsonSerializable(typeof(Person))]
[JsonSerializable(typeof(PersonRequest))]
[JsonSerializable(typeof(Localization))]
[JsonSerializable(typeof(PersonEvent))]
[JsonSerializable(typeof(SignIn))]
[JsonSerializable(typeof(TokenRequest))]
[JsonSerializable(typeof(TokenInfo))]
[JsonSerializable(typeof(IReadOnlyList<TokenInfo>))]
[JsonSerializable(typeof(IReadOnlyList<EntitySummary>))]
[JsonSerializable(typeof(EntityInfo))]
[JsonSerializable(typeof(NewField))]
[JsonSerializable(typeof(AddedField))]
[JsonSerializable(typeof(SaveResult))]
[JsonSerializable(typeof(RecoveredDraft))]
[JsonSerializable(typeof(IReadOnlyList<DocumentSummary>))]
[JsonSerializable(typeof(IReadOnlyList<ExampleInfo>))]
[JsonSerializable(typeof(IReadOnlyList<LayoutSummary>))]
[JsonSerializable(typeof(LayoutDraft))]
[JsonSerializable(typeof(LayoutRequest))]
[JsonSerializable(typeof(EditRequest))]
[JsonSerializable(typeof(EditResult))]
[JsonSerializable(typeof(IReadOnlyList<ChangeInfo>))]
[JsonSerializable(typeof(IReadOnlyList<FindingInfo>))]
[JsonSerializable(typeof(Comparison))]
[JsonSerializable(typeof(ExplanationInfo))]
[JsonSerializable(typeof(IReadOnlyList<LengthInfo>))]
[JsonSerializable(typeof(IReadOnlyList<UseInfo>))]
[JsonSerializable(typeof(IReadOnlyList<DocumentFindingInfo>))]
[JsonSerializable(typeof(TemplateRequest))]
[JsonSerializable(typeof(IReadOnlyList<TemplateLayoutInfo>))]
[JsonSerializable(typeof(IReadOnlyList<MenuEntryInfo>))]
[JsonSerializable(typeof(ConditionRequest))]
[JsonSerializable(typeof(ConditionInfo))]
[JsonSerializable(typeof(PatternTest))]
[JsonSerializable(typeof(PatternTestResult))]
[JsonSerializable(typeof(IReadOnlyList<PieceInfo>))]
[JsonSerializable(typeof(PieceInfo))]
[JsonSerializable(typeof(NewPiece))]
[JsonSerializable(typeof(PasteRequest))]
[JsonSerializable(typeof(DetachRequest))]
[JsonSerializable(typeof(PlaceRequest))]
[JsonSerializable(typeof(ProposalRequest))]
[JsonSerializable(typeof(SelectionRequest))]
[JsonSerializable(typeof(SelectionEvent))]
[JsonSerializable(typeof(ProposedChanges))]
[JsonSerializable(typeof(IReadOnlyList<PatternInfo>))]
[JsonSerializable(typeof(ChoiceListInfo))]
[JsonSerializable(typeof(ChoiceListChange))]
[JsonSerializable(typeof(PublishRequest))]
[JsonSerializable(typeof(RestoreRequest))]
[JsonSerializable(typeof(IReadOnlyList<DiagnosticResult>))]
[JsonSerializable(typeof(IReadOnlyList<DependencyInfo>))]
[JsonSerializable(typeof(IReadOnlyList<ReleaseInfo>))]
[JsonSerializable(typeof(ReleaseInfo))]
[JsonSerializable(typeof(Receipt))]
[JsonSerializable(typeof(ReleaseComparison))]
[JsonSerializable(typeof(ImportRequest))]
[JsonSerializable(typeof(ImportReport))]
[JsonSerializable(typeof(BundleManifest))]
[JsonSerializable(typeof(ScheduleRequest))]
[JsonSerializable(typeof(ScheduledReleaseInfo))]
[JsonSerializable(typeof(IReadOnlyList<ScheduledReleaseInfo>))]
[JsonSerializable(typeof(AdoptionInfo))]
[JsonSerializable(typeof(AcknowledgeRequest))]
[JsonSerializable(typeof(ApprovalRequest))]
[JsonSerializable(typeof(Approvals))]
[JsonSerializable(typeof(ResolveRequest))]
[JsonSerializable(typeof(AuditPage))]
[JsonSerializable(typeof(RecordAuditPage))]
[JsonSerializable(typeof(AuditEntry))]
[JsonSerializable(typeof(AuditProof))]
[JsonSerializable(typeof(AuditHead))]
[JsonSerializable(typeof(PasswordChange))]
[JsonSerializable(typeof(PasswordRequest))]
[JsonSerializable(typeof(RecordInfo))]
[JsonSerializable(typeof(RecordPage))]
[JsonSerializable(typeof(RecordSave))]
[JsonSerializable(typeof(IReadOnlyList<RecordName>))]
[JsonSerializable(typeof(IReadOnlyList<FoundRecords>))]
[JsonSerializable(typeof(IReadOnlyList<HistoryEntry>))]
[JsonSerializable(typeof(IReadOnlyList<CommentInfo>))]
[JsonSerializable(typeof(CommentInfo))]
[JsonSerializable(typeof(CommentRequest))]
[JsonSerializable(typeof(CommentEvent))]
[JsonSerializable(typeof(BulkChange))]
[JsonSerializable(typeof(BulkResult))]
[JsonSerializable(typeof(TableImportReport))]
[JsonSerializable(typeof(RoutedInfo))]
[JsonSerializable(typeof(IReadOnlyDictionary<string, string>))]
[JsonSerializable(typeof(TableInfo))]
[JsonSerializable(typeof(StoredFile))]
[JsonSerializable(typeof(Problem))]
[JsonSerializable(typeof(JsonElement))]
public sealed partial class WireJson : JsonSerializerContext
{
    private static WireJson? lenient;

    /// <summary>
    /// For reading what another version may have written, which may say more: what is not known is passed over. What is sent to a service
    /// is read to the letter.
    /// </summary>
    public static WireJson Lenient =>
        lenient ??= new(new JsonSerializerOptions(Default.Options) { UnmappedMemberHandling = JsonUnmappedMemberHandling.Skip });
}
