using System.Globalization;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using BrightTier.Records;
using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Service.Resolution;
using BrightTier.Service.Snapshots;

namespace BrightTier.Service.Layouts;

/// <summary>The record a configurator looks at while designing, as conditions see it.</summary>
internal static class RecordInView
{
    /// <summary>
    /// Configuring gives no right to read values: those the caller may not read are empty. Records have the fields that are published; one
    /// only in the draft is empty in all of them.
    /// </summary>
    public static async Task<EvaluationContext> Around(
        HttpContext http,
        long id,
        Entity entity,
        IEnumerable<string> steps,
        Definitions definitions,
        string mode,
        string language,
        CancellationToken cancel
    )
    {
        var services = http.RequestServices;
        // Looking at drafts gives no right to records, and neither does a token that is good for drafts alone.
        var caller = http.Caller(Permissions.ReadRecords);
        var found = services.GetRequiredService<CurrentRelease>().Snapshot.Definitions.Entities.GetValueOrDefault(entity.Key)
            is { } published
            ? await services.GetRequiredService<IRecordStore>().Find(published, id, cancel)
            : null;
        var record = found ?? throw Problems.NotFound($"{entity.Label.Lower()}", id.ToString(CultureInfo.InvariantCulture));
        return await services
            .GetRequiredService<RecordContext>()
            .Around(entity, record.Values, steps, definitions, caller, mode, language, cancel);
    }
}
