using System.Text.Json;
using System.Text.Json.Serialization;

namespace BrightTier.Contracts;

/// <summary>How everything on the wire is serialised, made at compile time so that the native client needs no reflection.</summary>
[JsonSourceGenerationOptions(JsonSerializerDefaults.Web, UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow, NumberHandling = JsonNumberHandling.Strict,
    RespectRequiredConstructorParameters = true, RespectNullableAnnotations = true)]
[JsonSerializable(typeof(SessionInfo))]
[JsonSerializable(typeof(IReadOnlyList<Person>))]
[JsonSerializable(typeof(SignIn))]
[JsonSerializable(typeof(TokenRequest))]
[JsonSerializable(typeof(TokenInfo))]
[JsonSerializable(typeof(IReadOnlyList<TokenInfo>))]
[JsonSerializable(typeof(IReadOnlyList<EntitySummary>))]
[JsonSerializable(typeof(EntityInfo))]
[JsonSerializable(typeof(DraftSaved))]
[JsonSerializable(typeof(IReadOnlyList<DocumentSummary>))]
[JsonSerializable(typeof(IReadOnlyList<LayoutSummary>))]
[JsonSerializable(typeof(LayoutDraft))]
[JsonSerializable(typeof(LayoutRequest))]
[JsonSerializable(typeof(EditRequest))]
[JsonSerializable(typeof(EditsApplied))]
[JsonSerializable(typeof(IReadOnlyList<ChangeInfo>))]
[JsonSerializable(typeof(IReadOnlyList<FindingInfo>))]
[JsonSerializable(typeof(PublishRequest))]
[JsonSerializable(typeof(RestoreRequest))]
[JsonSerializable(typeof(IReadOnlyList<ReleaseInfo>))]
[JsonSerializable(typeof(ReleaseInfo))]
[JsonSerializable(typeof(Receipt))]
[JsonSerializable(typeof(RecordInfo))]
[JsonSerializable(typeof(RecordPage))]
[JsonSerializable(typeof(RecordSave))]
[JsonSerializable(typeof(IReadOnlyList<RecordName>))]
[JsonSerializable(typeof(StoredFile))]
[JsonSerializable(typeof(Problem))]
[JsonSerializable(typeof(JsonElement))]
public sealed partial class WireJson : JsonSerializerContext;
