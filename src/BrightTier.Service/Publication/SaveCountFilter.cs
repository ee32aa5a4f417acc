using BrightTier.Service.Auth;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Publication;

/// <summary>Counts what the calls of an endpoint that saves records come to.</summary>
public static class SaveCountFilter
{
    /// <summary>
    /// A call that is refused for what was entered (422), or breaks, counts as failed; one that is outdated, not allowed or malformed says
    /// nothing of the form.
    /// </summary>
    public static RouteHandlerBuilder CountsSaves(this RouteHandlerBuilder endpoint) =>
        endpoint.AddEndpointFilter(
            async (context, next) =>
            {
                var http = context.HttpContext;
                try
                {
                    var answer = await next(context);
                    Note(http, saved: true);
                    return answer;
                }
                catch (Exception error) when (IsOfTheForm(error))
                {
                    Note(http, saved: false);
                    throw;
                }
            }
        );

    private static bool IsOfTheForm(Exception error) =>
        error is RefusedException refused
            ? refused.Status == 422
            : error is not OperationCanceledException and not BadHttpRequestException && !DatabaseErrors.IsOutOfReach(error);

    private static void Note(HttpContext http, bool saved) =>
        http.RequestServices.GetRequiredService<SaveCounts>().Note(http.Caller(), (string)http.Request.RouteValues["entity"]!, saved);
}
