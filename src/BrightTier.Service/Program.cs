using System.Reflection;
using System.Text.Json.Serialization.Metadata;
using BrightTier.Contracts;
using BrightTier.Service.Access;
using BrightTier.Service.Audit;
using BrightTier.Service.Auth;
using BrightTier.Service.Backups;
using BrightTier.Service.Broadcast;
using BrightTier.Service.Comments;
using BrightTier.Service.Drafts;
using BrightTier.Service.Entities;
using BrightTier.Service.Events;
using BrightTier.Service.Forms;
using BrightTier.Service.Hosting;
using BrightTier.Service.Http;
using BrightTier.Service.Import;
using BrightTier.Service.Layouts;
using BrightTier.Service.Pages;
using BrightTier.Service.Publication;
using BrightTier.Service.Records;
using BrightTier.Service.Releases;
using BrightTier.Service.Resolution;
using BrightTier.Service.Scheduling;
using BrightTier.Service.Snapshots;
using BrightTier.Service.Startup;
using BrightTier.Storage;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Extensions.Options;
using Serilog;

// The tool that writes the OpenAPI document at build time runs this program, and must touch no data.
var describing = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
var builder = WebApplication.CreateBuilder(new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory });
builder.Configuration.AddEnvironmentVariables("BRIGHTTIER_").AddCommandLine(args);
if (!describing && Settings.Problem(args, builder.Configuration) is { } unfit)
{
    return Stop(unfit);
}

builder.Services.Configure<ServiceOptions>(builder.Configuration.GetSection(ServiceOptions.Section));
builder.Services.Configure<ServiceOptions>(builder.Configuration);
builder.Services.AddSerilog((services, log) => log
    .MinimumLevel.Information()
    .MinimumLevel.Override("Microsoft", Serilog.Events.LogEventLevel.Warning)
    // Keys lie in the database, which the operations guide says to protect as a whole.
    .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", Serilog.Events.LogEventLevel.Error)
    .WriteLines(services.GetRequiredService<IOptions<ServiceOptions>>().Value));
if (describing)
{
    builder.Services.PostConfigure<ServiceOptions>(options => options.Data = Path.Combine(Path.GetTempPath(), "bright-tier-describing"));
}

builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = BodySizes.Usual;
});
if (builder.Configuration["urls"] is null)
{
    builder.WebHost.UseUrls("http://127.0.0.1:5080");
}

builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton<CurrentRelease>().AddSingleton<DraftDocuments>().AddSingleton<ReleasePublisher>().AddSingleton<ReleaseAnnouncer>().AddSingleton<RecordWriter>().AddSingleton<TableImport>().AddSingleton<RecordContext>().AddSingleton<RecordLists>();
builder.Services.AddCallers();
builder.Services.AddSingleton<Broadcaster>().AddSingleton<Seed>().AddSingleton<Readiness>().AddSingleton<BackupArchive>();
builder.Services.AddSingleton<AuditSigner>().AddSingleton<Passwords>().AddSingleton<DraftApprovals>().AddSingleton<ReleaseDiff>().AddSingleton<CommentThreads>().AddSingleton<DocumentImport>();
builder.Services.AddSingleton<Adoption>().AddHostedService(services => services.GetRequiredService<Adoption>()).AddHostedService<ReleaseSchedule>().AddSingleton<Maintenance>().AddHostedService(services => services.GetRequiredService<Maintenance>());
builder.Services.AddAntiforgery(options =>
{
    options.HeaderName = "X-Antiforgery";
    options.Cookie.Name = "bright-tier-antiforgery";
    options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
});
builder.Services.AddDataProtection().SetApplicationName("bright-tier");
builder.Services.ConfigureHttpJsonOptions(options =>
{
    options.SerializerOptions.TypeInfoResolverChain.Insert(0, WireJson.Default.WithAddedModifier(BodyTexts.Insist));
    options.SerializerOptions.NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict;
    options.SerializerOptions.RespectRequiredConstructorParameters = true;
    options.SerializerOptions.RespectNullableAnnotations = true;
    options.SerializerOptions.UnmappedMemberHandling = System.Text.Json.Serialization.JsonUnmappedMemberHandling.Disallow;
});
builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
builder.Services.AddResponseCompression(options =>
{
    options.EnableForHttps = true;
    options.MimeTypes = ["application/json", "application/problem+json", "application/yaml"];
    options.Providers.Add<Microsoft.AspNetCore.ResponseCompression.GzipCompressionProvider>();
});
builder.Services.AddOpenApi("v1", options => options.AddDocumentTransformer((document, _, _) =>
{
    document.Info = new() { Title = "Bright Tier", Version = "1", Description = "Layouts, releases, forms and records. Errors are problem details (RFC 9457) with a stable code." };
    document.Servers?.Clear();
    return Task.CompletedTask;
}));

builder.AddTelemetry();
// Databases after what signs in: they take away a service that would read keys before there are tables.
if ((builder.AddOpenId() ?? builder.AddDatabases(describing) ?? builder.AddOrigins() ?? builder.AddProxies() ?? builder.AddLimits()) is { } wrong)
{
    return Stop(wrong);
}

var app = builder.Build();
// While the rest is put together: what takes longest waits for nothing of it.
var preparing = describing ? Task.CompletedTask : Task.Run(() => Preparation.Run(app.Services, app.Lifetime.ApplicationStopping));
app.Use(Health.Middleware);
app.UseForwardedHeaders();
app.UseCors();
app.Use(FormEndpoints.Middleware);
app.UseProblems();
app.UseMiddleware<SecurityHeaders>();
app.UseConsole(app.Services.GetRequiredService<IOptions<ServiceOptions>>().Value);
app.UseRouting();
// From here on everything goes by what was matched, never by how its path was spelt.
app.Use(Preparation.Middleware);
app.Use(RequestSyntax.Middleware);
// What designing reads is large and compresses well.
app.UseWhen(http => http.GetEndpoint() is { } endpoint && endpoint.Metadata.GetMetadata<Uncompressed>() is null, compressed => compressed.UseResponseCompression());
app.Use(CallerAuthentication.Middleware);
app.UseLimits();
app.UseAuthentication();
app.UseAuthorization();
app.Use(CrossSiteGuard.Middleware);
app.MapOpenId();
app.MapOpenApi("/openapi/{documentName}.json").AllowAnonymous();
var api = app.MapGroup("/api").ClosedUnlessSaid();
api.MapAccess();
api.MapTokens();
api.MapAudit();
api.MapRecordAudit();
api.MapPeople();
api.MapPreferences();
api.MapEntities();
api.MapFields();
api.MapChoices();
api.MapLayouts();
api.MapLayoutDiff();
api.MapExplanation();
api.MapLength();
api.MapImpact();
api.MapFindings();
api.MapTemplates();
api.MapPieces();
api.MapRouting();
api.MapConditions();
api.MapPatterns();
api.MapReleases();
api.MapScheduledReleases();
api.MapApprovals();
api.MapForms();
api.MapNavigation();
api.MapRecords();
api.MapRecordComments();
api.MapDraftComments();
api.MapBulk();
api.MapCsv();
api.MapFiles();
api.MapEvents();
api.MapAdoption();
api.MapBackups();
api.MapBundles();
app.MapTelemetry();
app.MapConsole();

try
{
    await app.StartAsync();
    await preparing;
    if (!describing)
    {
        foreach (var address in app.Urls)
        {
            app.Logger.LogInformation("Bright Tier is ready at {Address}", address);
        }
    }
}
catch (Exception error)
{
    // Whatever it is, it is said in one line; where it is nothing an operator can mend, the log has more.
    var foreseen = error is InvalidOperationException or InvalidDataException or IOException or UnauthorizedAccessException or RefusedException or System.Data.Common.DbException;
    app.Logger.LogCritical(foreseen ? null : error, "The service cannot begin: {Reason}", DatabaseErrors.IsOutOfReach(error) ? $"the database does not answer: {(error.InnerException ?? error).Message}" : error.Message);
    await app.StopAsync();
    return 2;
}

await app.WaitForShutdownAsync();
return 0;

static int Stop(string reason)
{
    Console.Error.WriteLine($"The service cannot begin: {reason}");
    return 2;
}

/// <summary>The service's entry point, named for the tests that start it.</summary>
public partial class Program;
