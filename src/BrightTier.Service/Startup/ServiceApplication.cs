using System.Text.Json.Serialization.Metadata;
using BrightTier.Contracts;
using BrightTier.Core.Documents;
using BrightTier.Service.Access;
using BrightTier.Service.Attachment;
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
using BrightTier.Service.Tables;
using BrightTier.Storage;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Extensions.Options;
using Serilog;

namespace BrightTier.Service.Startup;

/// <summary>
/// The service as one thing to begin and to end: put together from a command line, by the program or by whatever else holds it in its own
/// process.
/// </summary>
public sealed class ServiceApplication : IAsyncDisposable
{
    private readonly WebApplication held;
    private readonly Task? prepared;

    /// <param name="prepared">What it begins with; null where it is only described.</param>
    private ServiceApplication(WebApplication held, Task? prepared)
    {
        this.held = held;
        this.prepared = prepared;
    }

    /// <summary>Puts the service together; what in its settings stands against that, or null.</summary>
    /// <param name="args">Settings, as on a command line.</param>
    /// <param name="describing">Whether it is only to be described: then it touches no data.</param>
    /// <param name="further">What whoever holds it has to add to its services, or to put in the place of one; null for nothing.</param>
    public static (ServiceApplication? Service, string? Problem) Build(
        string[] args,
        bool describing = false,
        Action<IServiceCollection>? further = null
    )
    {
        var builder = WebApplication.CreateBuilder(new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory });
        builder.Configuration.AddEnvironmentVariables("BRIGHTTIER_").AddCommandLine(args);
        if (!describing && Settings.Problem(args, builder.Configuration) is { } unfit)
        {
            return (null, unfit);
        }

        Configure(builder, describing);
        AddServices(builder.Services);
        AddProtocol(builder.Services);
        builder.AddTelemetry();
        // Databases after what signs in: they take away a service that would read keys before there are tables.
        if (
            (
                builder.AddOpenId()
                ?? builder.AddDatabases(describing)
                ?? builder.AddOrigins()
                ?? builder.AddProxies()
                ?? builder.AddLimits()
            ) is
            { } wrong
        )
        {
            return (null, wrong);
        }

        further?.Invoke(builder.Services);
        var app = builder.Build();
        // While the rest is put together: what takes longest waits for nothing of it.
        var preparation = describing ? null : Task.Run(() => Preparation.Run(app.Services, app.Lifetime.ApplicationStopping));
        UseMiddleware(app);
        MapEndpoints(app);
        return (new ServiceApplication(app, preparation), null);
    }

    /// <summary>Listens and prepares; false where it cannot, which is then in the log.</summary>
    public async Task<bool> Begin()
    {
        try
        {
            await held.StartAsync();
            if (prepared is not null)
            {
                await prepared;
                foreach (var name in Settings.UnknownInEnvironment())
                {
                    held.Logger.LogWarning("There is no setting {Name}; it is passed over", $"BRIGHTTIER_{name}");
                }

                foreach (var address in held.Urls)
                {
                    held.Logger.LogInformation("Bright Tier is ready at {Address}", address);
                }
            }

            return true;
        }
        catch (Exception error)
        {
            Report(error);
            await held.StopAsync();
            return false;
        }
    }

    /// <summary>Whether it is only asked for a new code, and is not to listen.</summary>
    public bool OnlyMakesCode => held.Services.GetRequiredService<IOptions<ServiceOptions>>().Value.NewCode;

    /// <summary>Prints a new code for its administrator; false where it cannot, which is then in the log.</summary>
    public async Task<bool> MakeCode()
    {
        try
        {
            await (prepared ?? Task.CompletedTask);
            Console.WriteLine(await held.Services.GetRequiredService<Seed>().NewCode(CancellationToken.None));
            return true;
        }
        catch (Exception error)
        {
            Report(error);
            return false;
        }
    }

    /// <summary>Whatever it is, it is said in one line; where it is nothing an operator can mend, the log has more.</summary>
    private void Report(Exception error)
    {
        var foreseen =
            error
            is InvalidOperationException
                or InvalidDataException
                or IOException
                or UnauthorizedAccessException
                or RefusedException
                or System.Data.Common.DbException;
        held.Logger.LogCritical(
            foreseen ? null : error,
            "The service cannot begin: {Reason}",
            DatabaseErrors.IsOutOfReach(error) ? $"the database does not answer: {(error.InnerException ?? error).Message}" : error.Message
        );
    }

    /// <summary>Waits until the process is asked to end.</summary>
    public Task HasEnded() => held.WaitForShutdownAsync();

    /// <summary>Ends it at once, with whatever it is at.</summary>
    public async ValueTask DisposeAsync()
    {
        await held.StopAsync(new CancellationToken(canceled: true));
        await held.DisposeAsync();
    }

    private static void Configure(WebApplicationBuilder builder, bool describing)
    {
        builder.Services.Configure<ServiceOptions>(builder.Configuration.GetSection(ServiceOptions.Section));
        builder.Services.Configure<ServiceOptions>(builder.Configuration);
        if (describing)
        {
            builder.Services.PostConfigure<ServiceOptions>(options =>
                options.Data = Path.Combine(Path.GetTempPath(), "bright-tier-describing")
            );
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

        builder.Services.AddSerilog(
            (services, log) =>
                log
                    .MinimumLevel.Information()
                    .MinimumLevel.Override("Microsoft", Serilog.Events.LogEventLevel.Warning)
                    // It says that an answer with an antiforgery token is not kept, which is as it should be.
                    .MinimumLevel.Override("Microsoft.AspNetCore.Antiforgery", Serilog.Events.LogEventLevel.Error)
                    // What a statement fails with is an exception, which is told by whoever ran it; the statement is nobody's to read.
                    .MinimumLevel.Override("Microsoft.EntityFrameworkCore.Database.Command", Serilog.Events.LogEventLevel.Fatal)
                    // Whoever asks how the process is has it in the answer.
                    .MinimumLevel.Override("Microsoft.Extensions.Diagnostics.HealthChecks", Serilog.Events.LogEventLevel.Fatal)
                    // Keys lie in the database, which the operations guide says to protect as a whole.
                    .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", Serilog.Events.LogEventLevel.Error)
                    .WriteLines(services.GetRequiredService<IOptions<ServiceOptions>>().Value),
            preserveStaticLogger: true
        );
    }

    private static void AddServices(IServiceCollection services)
    {
        services.AddSingleton(TimeProvider.System);
        services
            .AddSingleton<KeptLayouts>()
            .AddSingleton<CurrentRelease>()
            .AddSingleton<DraftDocuments>()
            .AddSingleton<ReleasePublisher>()
            .AddSingleton<ReleaseAnnouncer>()
            .AddSingleton<RecordWriter>()
            .AddSingleton<TableImport>()
            .AddSingleton<NewEntities>()
            .AddSingleton<TableEntities>()
            .AddSingleton<DatabaseEntities>()
            .AddSingleton<RecordContext>()
            .AddSingleton<RecordLists>();
        services.AddHealth();
        services.AddCallers();
        services.AddSingleton<Broadcaster>().AddSingleton<ApplicationFolder>();
        services.AddSingleton<CodeScreen>().AddSingleton<Seed>().AddSingleton<Readiness>().AddSingleton<BackupArchive>();
        services
            .AddSingleton<AuditSigner>()
            .AddSingleton<Passwords>()
            .AddSingleton<PersonChanges>()
            .AddSingleton<DraftApprovals>()
            .AddSingleton<ReleaseDiff>()
            .AddSingleton<CommentThreads>()
            .AddSingleton<DocumentImport>();
        services
            .AddSingleton<Adoption>()
            .AddSingleton<IOpenClients>(services => services.GetRequiredService<Adoption>())
            .AddHostedService(services => services.GetRequiredService<Adoption>())
            .AddSingleton<ReplicaUse>()
            .AddHostedService(services => services.GetRequiredService<ReplicaUse>())
            .AddSingleton<SaveCounts>()
            .AddHostedService(services => services.GetRequiredService<SaveCounts>())
            .AddHostedService<ReleaseSchedule>()
            .AddHostedService<FindingsAhead>()
            .AddHostedService<DatabaseWatch>()
            .AddSingleton<Maintenance>()
            .AddHostedService(services => services.GetRequiredService<Maintenance>());
    }

    private static void AddProtocol(IServiceCollection services)
    {
        services.AddAntiforgery(options =>
        {
            options.HeaderName = "X-Antiforgery";
            options.Cookie.Name = "bright-tier-antiforgery";
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
        services.AddDataProtection().SetApplicationName("bright-tier");
        services.ConfigureHttpJsonOptions(options =>
        {
            options.SerializerOptions.TypeInfoResolverChain.Insert(0, WireJson.Default.WithAddedModifier(BodyTexts.RejectUnstorable));
            options.SerializerOptions.NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict;
            options.SerializerOptions.RespectRequiredConstructorParameters = true;
            options.SerializerOptions.RespectNullableAnnotations = true;
            options.SerializerOptions.UnmappedMemberHandling = System.Text.Json.Serialization.JsonUnmappedMemberHandling.Disallow;
        });
        services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
        services.AddResponseCompression(options =>
        {
            options.EnableForHttps = true;
            options.MimeTypes = ["application/json", "application/problem+json", "application/yaml"];
            options.Providers.Add<Microsoft.AspNetCore.ResponseCompression.GzipCompressionProvider>();
        });
        services.AddOpenApi("v1", options => options.Describe());
    }

    private static void UseMiddleware(WebApplication app)
    {
        app.UseHealth();
        app.UseForwardedHeaders();
        app.UseCors();
        app.Use(SafeMethods.Head);
        app.Use(FormEndpoints.Middleware);
        app.UseProblems();
        app.Use(SafeMethods.Allow);
        app.UseMiddleware<SecurityHeaders>();
        app.UseConsole(app.Services.GetRequiredService<IOptions<ServiceOptions>>().Value);
        app.UseRouting();
        // From here on everything goes by what was matched, never by how its path was spelt.
        app.Use(Preparation.Middleware);
        app.Use(RequestSyntax.Middleware);
        // What designing reads is large and compresses well.
        app.UseWhen(
            http => http.GetEndpoint() is { } endpoint && endpoint.Metadata.GetMetadata<NoCompression>() is null,
            compressed => compressed.UseResponseCompression()
        );
        app.Use(CallerAuthentication.Middleware);
        app.Use(ReplicaUse.Middleware);
        app.UseLimits();
        app.UseAuthentication();
        app.UseAuthorization();
        app.UseTelemetry();
        app.Use(CrossSiteGuard.Middleware);
        app.Use(PersonView.Middleware);
    }

    private static void MapEndpoints(WebApplication app)
    {
        app.MapOpenId();
        app.MapOpenApi("/openapi/{documentName}.json").AllowAnonymous();
        var api = app.MapGroup("/api").ClosedUnlessSaid();
        api.MapAccess();
        api.MapPersonView();
        api.MapSetup();
        api.MapTokens();
        api.MapAudit();
        api.MapRecordAudit();
        api.MapPeople();
        api.MapPreferences();
        api.MapEntities();
        api.MapDocumentHistory();
        api.MapRelations();
        api.MapUnits();
        api.MapFields();
        api.MapEntityArchive();
        api.MapChoices();
        api.MapLayouts();
        LayoutSearch.Map(api);
        api.MapLayoutDiff();
        api.MapExplanation();
        api.MapLength();
        api.MapImpact();
        api.MapArchive();
        api.MapTables();
        api.MapDatabases();
        api.MapFindings();
        api.MapTemplates();
        api.MapPieces();
        api.MapPlacements();
        api.MapProposals();
        api.MapPictures();
        api.MapSelections();
        api.MapRouting();
        api.MapConditions();
        api.MapPatterns();
        api.MapReleases();
        api.MapRollouts();
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
        api.MapFolders();
        api.MapExample();
        app.MapTelemetry();
        app.MapConsole();
    }
}
