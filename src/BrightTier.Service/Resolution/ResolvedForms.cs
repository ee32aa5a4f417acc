using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Service.Auth;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Resolution;

/// <summary>Published forms as viewers get them: resolved once for each class of viewers, bytes in memory from then on.</summary>
internal static class ResolvedForms
{
    /// <summary>The form that this caller would be answered with in her own language; nothing where she would be refused.</summary>
    public static async Task<(FormBytes Form, Snapshot Release)?> Find(
        HttpContext http,
        Caller caller,
        string key,
        string kind,
        string mode,
        string record
    )
    {
        var snapshot = http.RequestServices.GetRequiredService<CurrentRelease>().Active.For(caller.Person.Id, caller.Roles);
        var application = snapshot.Definitions.Application;
        if (
            snapshot.Definitions.Entities.GetValueOrDefault(key) is not { } entity
            || !caller.PermissionsIn(application, snapshot.Number).Contains(Permissions.ReadRecords)
        )
        {
            return null;
        }

        var language = http.LanguageOf(caller, application);
        var surroundings = await http
            .RequestServices.GetRequiredService<RecordContext>()
            .Of(record, snapshot, entity, kind, caller, mode, language, http.RequestAborted);
        return (Bytes(snapshot, entity, kind, caller.Roles, mode, language, surroundings), snapshot);
    }

    /// <summary>The bytes of a form; which of the roles matter is found out first, since most viewers share them.</summary>
    public static FormBytes Bytes(
        Snapshot snapshot,
        Entity entity,
        string kind,
        IReadOnlyList<string> roles,
        string mode,
        string language,
        EvaluationContext surroundings
    )
    {
        var layout = snapshot.LayoutFor(entity, kind, roles, surroundings);
        // Which of the roles matter is found once for each set of roles; then one look-up leads to the bytes.
        var everything = new FormKey(layout.Base.Key + "/" + kind, mode, language, string.Join(' ', roles));
        if (snapshot.Forms.TryGetValue(everything, out var known))
        {
            return known;
        }

        var key = everything with { Roles = "=" + Viewer.ClassOf(roles, layout, snapshot.Definitions) };
        var bytes = snapshot.Forms.GetOrAdd(key, _ => new FormBytes(
            ResolvedFormJson.Write(
                Resolver.Resolve(layout, entity, snapshot.Definitions, new Viewer([.. roles], language), mode),
                snapshot.Definitions
            )
        ));
        return snapshot.Forms.GetOrAdd(everything, bytes);
    }
}
