using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Exports;
using Auxilium.Storage.Money;
using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web;
using Auxilium.Web.Access;
using Auxilium.Web.Api;
using Auxilium.Web.Demo;
using Auxilium.Web.Live;
using Auxilium.Web.Mail;
using Auxilium.Web.Notices;
using Auxilium.Web.Pages;
using Auxilium.Web.Pages.Now;
using Auxilium.Web.Pages.People;
using Auxilium.Web.Pages.Sharing;
using Auxilium.Web.PlanScreen;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using Npgsql;

var builder = WebApplication.CreateBuilder(args);
builder.Configuration.AddEnvironmentVariables("AUXILIUM_");
var configuration = builder.Configuration;
var services = builder.Services;

builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = RequestDocument.MostBytes;
    // An export names its rows in its address.
    kestrel.Limits.MaxRequestLineSize = 64 * 1024;
});

services.AddKeyedSingleton(OrganisationClock.World, TimeProvider.System);
services.AddSingleton(provider => new OrganisationClock(
    provider.GetRequiredKeyedService<TimeProvider>(OrganisationClock.World),
    new Lazy<Organisation>(provider.GetRequiredService<Organisation>)
));
services.AddSingleton<TimeProvider>(provider => provider.GetRequiredService<OrganisationClock>());
services.AddSingleton(provider => new Today(provider.GetRequiredService<OrganisationClock>(), Today.Read(configuration["TODAY"])));
services.AddPooledDbContextFactory<AuxiliumDb>(options => AuxiliumDb.Configure(options, configuration["DB"]!));
services.AddScoped(provider => provider.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContext());
services.AddDataProtection().SetApplicationName("Auxilium").PersistKeysToDbContext<AuxiliumDb>();
services.Configure<HostOptions>(options => options.ShutdownTimeout = TimeSpan.FromSeconds(5));
services.AddSingleton<PlanMemory>();
services.AddSingleton<PlanGates>();
services.AddSingleton<PlanStore>();
services.AddSingleton<PlanEdits>();
services.AddSingleton<Views>();
services.AddSingleton<Projections>();
services.AddSingleton<AcrossPlans>();
services.AddSingleton<LoadAcross>();
services.AddSingleton<Folders>();
services.AddSingleton<Templates>();
services.AddSingleton<PriceBook>();
services.AddSingleton<Auxilium.Web.Pages.Projects.StartingPoints>();
services.AddSingleton<ProjectsViews>();
services.AddSingleton<Chances>();
services.AddSingleton<NowQuery>();
services.AddSingleton<WeeklyMail>();
services.AddSingleton<TaskTalk>();
services.AddSingleton<PlanViews>();
services.AddSingleton<PastPlans>();
services.AddSingleton<Snapshots>();
services.AddSingleton<ScriptMap>();
services.AddSingleton<DemoOrganisation>();
services.AddSingleton<Organisation>();
services.AddSingleton<Auxilium.Storage.People.Directory>();
services.AddSingleton<ProjectRoles>();
services.AddSingleton<Audit>();
services.AddSingleton<OrganisationFields>();
services.AddSingleton<Budgets>();
services.AddSingleton<Handouts>();
services.AddSingleton<SharedDoor>();
services.AddSingleton<ProposalSentences>();
services.AddSingleton<DaysOff>();
services.AddSingleton<ClosedProjects>();
services.AddSingleton<Sessions>();
services.AddSingleton<Tokens>();
services.AddSingleton<Invitations>();
services.AddSingleton<ShareLinks>();
services.AddSingleton<Feeds>();
services.AddSingleton<ProjectFeeds>();
services.AddSingleton<ExportShelf>();
services.AddSingleton<OwnTimes>();
services.AddSingleton<HandOvers>();
services.AddSingleton<Hours>();
services.AddSingleton<Timers>();
services.AddSingleton<Ledgers>();
services.AddSingleton<ProjectMoney>();
services.AddSingleton<MoneyEdits>();
services.AddSingleton<MoneyCurves>();
services.AddSingleton<MoneyRipples>();
services.AddSingleton<Receipts>();
services.AddSingleton<Mails>();
services.AddSingleton<Proposals>();
services.AddSingleton<NoticeBook>();
services.AddSingleton<PlanNews>();
services.AddSingleton<OwnAddress>();
services.AddSingleton<Letters>();
services.AddSingleton<MailServer>();
services.AddSingleton<NoticeWatch>();
services.AddSingleton<WhoIsThere>();
services.AddSingleton<Presence>();
services.AddSingleton<LivePlans>();
services.AddHostedService<NewsListener>();
services.AddHostedService<Midnight>();
services
    .AddSignalR(options => options.MaximumReceiveMessageSize = 4 * 1024)
    .AddJsonProtocol(options => RowJson.With(options.PayloadSerializerOptions));
services.ConfigureHttpJsonOptions(options => RowJson.With(options.SerializerOptions));
services.AddHostedService<MailStandIn>();
Jobs.Add(services);

services.AddHttpContextAccessor();
SignInCookies.Add(services);
services.AddSingleton<IAuthorizationHandler, InProjectHandler>();
services.AddSingleton<IAuthorizationHandler, WithMoneyHandler>();
services.AddSingleton<IAuthorizationMiddlewareResultHandler, NotThereResult>();
Rights.Define(services.AddAuthorizationBuilder());
services.AddAntiforgery(options =>
{
    options.HeaderName = "X-Auxilium-Token";
    options.Cookie.Name = "auxilium-forgery";
    options.Cookie.SameSite = SameSiteMode.Strict;
    options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
});
services.Configure<RouteOptions>(options =>
{
    options.SetParameterPolicy<ScreenPath>("screen");
    options.SetParameterPolicy<SheetPath>("sheet");
    options.SetParameterPolicy<SharedPath>("shared");
});
services.AddRazorPages().AddMvcOptions(options => options.Filters.Add<KnownHandlers>());
services.AddProblemDetails(options =>
    options.CustomizeProblemDetails = context =>
    {
        if (context.Exception is BadHttpRequestException bad)
            context.ProblemDetails.Detail = bad.Message;
    }
);
services.AddOpenApi(options =>
{
    options.AddDocumentTransformer(
        (document, _, _) =>
        {
            (document.Info.Title, document.Info.Version) = ("Auxilium", "1");
            return Task.CompletedTask;
        }
    );
    options.AddDocumentTransformer<EditSchemas>();
});
services.AddRateLimiter(Limits.Define);
services.AddResponseCompression();
services.AddHealthChecks().AddDbContextCheck<AuxiliumDb>();

var app = builder.Build();
if (WhyNoConnection(configuration["DB"]) is { } wrong)
{
    await Console.Error.WriteLineAsync(wrong);
    return 1;
}
try
{
    MailServer.Read(configuration["SMTP"]);
}
catch (FormatException e)
{
    await Console.Error.WriteLineAsync($"Auxilium cannot start: {e.Message}");
    return 1;
}
try
{
    await using var turn = await DatabaseStart.EnterAsync(
        configuration["DB"]!,
        app.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>()
    );
    if (configuration["EMPTY"] != "1")
        await app.Services.GetRequiredService<DemoOrganisation>().PrepareAsync();
    await app.Services.GetRequiredService<OrganisationClock>().RefreshAsync();
    if (args is ["rebuild", ..])
    {
        var count = await app.Services.GetRequiredService<Projections>().RebuildAsync(app.Services.GetRequiredService<Today>().Date);
        await Console.Out.WriteLineAsync($"What is asked across plans was made anew from {count} {(count == 1 ? "plan" : "plans")}.");
        return 0;
    }
    if (await app.Services.GetRequiredService<Organisation>().FirstStartAsync() is { } code)
        await Console.Out.WriteLineAsync($"To begin, open {configuration["ADDRESS"] ?? ""}/welcome?code={code}");
}
catch (NewerSchemaException e)
{
    await Console.Error.WriteLineAsync($"Auxilium cannot start: {e.Message}");
    return 1;
}
catch (Exception e) when (e is NpgsqlException || e.InnerException is NpgsqlException)
{
    await Console.Error.WriteLineAsync(
        $"Auxilium cannot use the database that AUXILIUM_DB names: {(e.InnerException as NpgsqlException ?? e).Message}"
    );
    return 1;
}

app.UseSecurityHeaders();
app.UseResponseCompression();
app.UseExceptionHandler(
    new ExceptionHandlerOptions
    {
        ExceptionHandler = context => Faults.AnswerAsync(context, IsApi(context)),
        AllowStatusCode404Response = true,
    }
);
app.UseWhen(IsApi, api => api.UseStatusCodePages());
app.UseWhen(context => !IsApi(context), pages => pages.UseStatusCodePagesWithReExecute("/error", "?status={0}"));
app.Use(
    (context, next) =>
    {
        // No address of ours, and nothing that can be asked for, has a NUL in it.
        if (
            (context.Request.Path.Value + context.Request.QueryString.Value) is var asked
            && (asked.Contains('\0', StringComparison.Ordinal) || asked.Contains("%00", StringComparison.Ordinal))
        )
        {
            context.Response.StatusCode = StatusCodes.Status400BadRequest;
            return Task.CompletedTask;
        }
        Dates.SpeakOn(context.RequestServices.GetRequiredService<Today>().Date);
        return next(context);
    }
);
app.UseRouting();
app.UseAuthentication();
app.UseAuthorization();
app.UseRateLimiter();
app.Use(KnownHandlers.ReadFormAsync);
app.UseAntiforgery();

// Neither asks who somebody is, so that both go on while the database is away.
app.MapStaticAssets().AllowAnonymous().ShortCircuit();
app.MapHealthChecks("/healthz").AllowAnonymous().ShortCircuit();

// Whoever sees a page sees the logo on it, by a link as well.
app.MapGet("/logo", LogoAsync).AllowAnonymous().ExcludeFromDescription();
app.MapOpenApi().RequireAuthorization(Rights.SignedIn);
var api = app.MapGroup("/api/v1")
    .AddEndpointFilter<RouteGroupBuilder, ForgeryFilter>()
    .AddEndpointFilter<RouteGroupBuilder, RefusalFilter>();
ProjectsApi.Map(api);
ScheduleApi.Map(api);
ComparisonApi.Map(api);
ChecksApi.Map(api);
LoadApi.Map(api);
MoneyApi.Map(api);
CostListsApi.Map(api);
ReceiptsApi.Map(app, api);
LevellingApi.Map(api);
CalendarsApi.Map(api);
ListsApi.Map(api);
ImportsApi.Map(api);
ExportApi.Map(api);
ExportApi.MapShared(app);
ExportsApi.Map(api);
PricesApi.Map(api);
RepeatsApi.Map(api);
ViewsApi.Map(api);
ProposalsApi.Map(api);
TalkApi.Map(app, api);
FeedsApi.Map(app);
HoursApi.Map(api);
FoldersApi.Map(api);
TemplatesApi.Map(api);
FieldsApi.Map(api);
app.MapHub<PlanHub>("/live");
app.MapRazorPages().WithStaticAssets();

// Open pages would hold a stop up for as long as there is patience for it.
app.Lifetime.ApplicationStopping.Register(app.Services.GetRequiredService<Presence>().SendAllAway);
await app.RunAsync();
return 0;

static async Task<IResult> LogoAsync(Organisation organisation, HttpContext context, CancellationToken cancel)
{
    if ((await organisation.FindAsync(cancel))?.Logo is not { } logo)
        return Results.NotFound();
    context.Response.Headers.CacheControl = "private, max-age=300";
    return Results.Bytes(logo, OrganisationModel.TypeOf(logo) ?? "application/octet-stream");
}

static string? WhyNoConnection(string? text)
{
    if (string.IsNullOrWhiteSpace(text))
        return "Auxilium cannot start without a database: set AUXILIUM_DB to the connection string of a PostgreSQL database, or start "
            + "with ./run, which makes one.";
    try
    {
        _ = new NpgsqlConnectionStringBuilder(text);
        return null;
    }
    catch (ArgumentException e)
    {
        return $"Auxilium cannot use the database that AUXILIUM_DB names: it is not a connection string such as "
            + $"Host=127.0.0.1;Username=…;Password=…;Database=auxilium. {e.Message}";
    }
}

static bool IsApi(HttpContext context) => context.Request.Path.StartsWithSegments("/api");

/// <summary>The web application; public so that tests can start it.</summary>
public partial class Program;
