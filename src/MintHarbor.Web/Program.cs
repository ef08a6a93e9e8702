using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Demo;
using MintHarbor.Store.Fitting;
using MintHarbor.Store.Model;
using MintHarbor.Web;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Papers;
using MintHarbor.Web.Rooms;
using NodaTime;
using Prometheus;

var builder = WebApplication.CreateBuilder(args);
var services = builder.Services;
var connection = builder.Configuration.GetConnectionString("Harbor")
    ?? throw new InvalidOperationException("ConnectionStrings:Harbor is not set; './harbor start' sets it");
builder.WebHost.UseStaticWebAssets();
builder.WebHost.ConfigureKestrel(k =>
{
    k.AddServerHeader = false;
    // A photograph and the form around it; anything larger is refused while it streams in.
    k.Limits.MaxRequestBodySize = Photo.MostBytes + (1 << 20);
});

services.AddHarborStore(connection);
services.AddSingleton<IClock>(SystemClock.Instance);
services.AddDataProtection().SetApplicationName("MintHarbor").PersistKeysToDbContext<HarborContext>();
services
    .AddIdentityCore<Person>(o =>
    {
        o.Password.RequiredLength = 10;
        o.Password.RequireDigit = o.Password.RequireUppercase = o.Password.RequireNonAlphanumeric = o.Password.RequireLowercase = false;
        o.Password.RequiredUniqueChars = 4;
        o.User.RequireUniqueEmail = true;
    })
    .AddSignInManager()
    .AddEntityFrameworkStores<HarborContext>()
    .AddDefaultTokenProviders()
    .AddPasswordValidator<GuessedPasswords>()
    .AddClaimsPrincipalFactory<PersonClaims>();
services
    .AddAuthentication(IdentityConstants.ApplicationScheme)
    .AddIdentityCookies(o =>
        o.ApplicationCookie!.Configure(c =>
        {
            c.Cookie.Name = "harbor";
            c.Cookie.SameSite = SameSiteMode.Lax;
            c.Cookie.HttpOnly = true;
            c.LoginPath = "/sign-in";
            c.ExpireTimeSpan = SignInActions.StaysFor.ToTimeSpan();
            c.Events.OnValidatePrincipal = Entry.Check;
            c.Events.OnRedirectToLogin = Entry.Ask;
            c.Events.OnRedirectToAccessDenied = x =>
            {
                x.Response.StatusCode = StatusCodes.Status403Forbidden;
                return Task.CompletedTask;
            };
        })
    );
services.AddRateLimiter(Limits.Set);
services.AddAuthorization(o => o.FallbackPolicy = o.DefaultPolicy);
services.AddAntiforgery(o =>
{
    o.HeaderName = "RequestVerificationToken";
    o.Cookie.Name = "harbor-form";
    o.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
});
services
    .AddRazorPages(o => o.Conventions.ConfigureFilter(new Turn()).ConfigureFilter(new CourseGate()))
    .AddMvcOptions(o =>
    {
        o.Filters.Add<InputProblems>();
        o.ModelBindingMessageProvider.SetAttemptedValueIsInvalidAccessor((value, field) => $"'{value}' can't be read as {field}.");
    });
services.Configure<RouteOptions>(o => o.LowercaseUrls = true);
services.Configure<FormOptions>(o => o.MultipartBodyLengthLimit = Photo.MostBytes + (1 << 20));
var options = builder.Configuration.GetSection("Harbor").Get<HarborOptions>() ?? new();
services.Configure<ForwardedHeadersOptions>(o =>
{
    o.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
    foreach (var p in options.Proxies)
        o.KnownProxies.Add(
            System.Net.IPAddress.TryParse(p, out var ip)
                ? ip
                : throw new InvalidOperationException($"Harbor:Proxies names '{p}'; accepted: IP addresses")
        );
});

// For a monitor on this machine; never on the port that visitors reach.
if (options.MetricsPort is { } port)
    services.AddMetricServer(m => (m.Hostname, m.Port) = ("127.0.0.1", (ushort)port));
services.AddScoped<CourseScope>();
services.AddScoped<SignInActions>();
services.AddScoped<Entry>();
services.AddSingleton<Throttle>();
services.AddScoped<CourseActions>();
services.AddScoped<LogActions>();
services.AddScoped<MemberActions>();
services.AddScoped<TakeBackActions>();
services.AddScoped<SessionActions>();
services.AddScoped<PlanActions>();
services.AddScoped<TermActions>();
services.AddSingleton<MintHarbor.Web.Papers.Papers>();
services.AddScoped<RoomActions>();
services.AddScoped<EveningActions>();
services.AddScoped<ModelActions>();
services.AddScoped<LadderActions>();
services.AddScoped<PoseActions>();
services.AddScoped<ThingActions>();
services.AddScoped<LookActions>();
services.AddSingleton<AreaReadings>();
services.AddScoped<ReferenceViews>();
services.AddScoped<SheetChecks>();
services.AddScoped<IReferenceViews>(s => s.GetRequiredService<ReferenceViews>());
services.AddScoped<SheetContexts>();
services.AddScoped<MintHarbor.Web.Pages.Critique.Together>();
services.AddScoped<PracticeActions>();
services.AddScoped<SittingActions>();
services.AddScoped<StageActions>();
services.AddScoped<PictureService>();
services.AddScoped<IntakeActions>();
services.AddSingleton<SheetFitter>();
services.AddSingleton<FitDesk>();
services.AddSingleton<IFitQueue>(s => s.GetRequiredService<FitDesk>());
services.AddHostedService(s => s.GetRequiredService<FitDesk>());
services.AddScoped<FitActions>();
services.AddSingleton<PaperDesk>();
services.AddSingleton<IPaperQueue>(s => s.GetRequiredService<PaperDesk>());
services.AddSingleton<IPaperPrints>(s => s.GetRequiredService<MintHarbor.Web.Papers.Papers>());
services.AddHostedService(s => s.GetRequiredService<PaperDesk>());
services.AddScoped<PaperActions>();
services.AddScoped(s => new SheetActions(
    s.GetRequiredService<HarborContext>(),
    s.GetRequiredService<IClock>(),
    s.GetRequiredService<FitActions>()
));
services.AddScoped<ExampleActions>();
services.AddSingleton<SimulatedSheets>();
services.AddScoped<ProjectActions>();
services.AddScoped<ProjectPlanActions>();
services.AddScoped<SchoolActions>();
services.AddScoped<ShelfActions>();
services.AddScoped<GateActions>();
services.AddScoped<GradeActions>();
services.AddScoped<GroupActions>();
services.AddScoped<DemoLoader>();
services.AddMemoryCache();
services.AddSingleton<FigureGate>();
services.AddSingleton<FigureViews>();
services.AddSingleton<ThingViews>();
if (options.WarmUp)
    services.AddHostedService<FigureWarmUp>();
services.AddSingleton<RoomFeed>();
services.AddHostedService(s => s.GetRequiredService<RoomFeed>());
services.Configure<HarborOptions>(builder.Configuration.GetSection("Harbor"));
services.AddHealthChecks().AddCheck<DatabaseCheck>("database");

// A damaged table stops the start, not the first page.
MintHarbor.Core.Figure.FigureCatalogue.Check();
MintHarbor.Core.Heads.HeadCatalogue.Check();

var app = builder.Build();
app.UseForwardedHeaders();
app.UseMiddleware<RequestLog>();
app.UseExceptionHandler("/problem");
app.UseStatusCodePagesWithReExecute("/problem", "?code={0}");
app.Use(Headers.Set);
app.Use(FigureViews.FromMemory);
app.Use(Throttle.Links);
app.UseRouting();
if (options.MetricsPort is not null)
    app.UseHttpMetrics();
app.UseAuthentication();
app.UseAuthorization();
app.UseRateLimiter();
app.Use(Visits.Begin);
app.MapStaticAssets().AllowAnonymous();
app.MapRazorPages().WithStaticAssets();
app.MapHealthChecks("/health").AllowAnonymous();
app.MapHealthChecks("/health/ready").AllowAnonymous();

// Alive is the process alone: a database that is away must not have the node killed.
app.MapHealthChecks("/health/live", new() { Predicate = _ => false }).AllowAnonymous();
app.MapGet("/courses/{course:int}/figure/{pose}", FigureViews.Serve).RequireRateLimiting(Limits.Figures);
app.MapGet("/courses/{course:int}/figure/{pose}/names", FigureViews.ServeNames).RequireRateLimiting(Limits.Figures);
app.MapGet("/courses/{course:int}/figure/{pose}/check/{check}", FigureViews.ServeCheck).RequireRateLimiting(Limits.Figures);
app.MapGet("/courses/{course:int}/head/check/{check}", FigureViews.ServeHeadCheck).RequireRateLimiting(Limits.Figures);
app.MapGet("/courses/{course:int}/head", FigureViews.ServeHead).RequireRateLimiting(Limits.Figures);
app.MapGet("/courses/{course:int}/things", ThingViews.Serve).RequireRateLimiting(Limits.Figures);
app.MapGet("/room/{secret}/stream", RoomStream.Serve).AllowAnonymous();
app.MapGet("/room/{secret}/pose/{pose}", RoomPictures.Serve).AllowAnonymous();
app.MapGet("/model/{secret}/pose/{pose}", RoomPictures.Serve).AllowAnonymous();
app.MapGet("/feed/{secret}.ics", Feed.Serve).AllowAnonymous();

await using (var scope = app.Services.CreateAsyncScope())
{
    await Upgrade.Run(scope.ServiceProvider.GetRequiredService<HarborContext>());
    if (app.Services.GetRequiredService<Microsoft.Extensions.Options.IOptions<HarborOptions>>().Value.Demo)
        await scope.ServiceProvider.GetRequiredService<DemoLoader>().LoadIfEmpty();
}
await app.RunAsync();

/// <summary>The application, named for tests that host it.</summary>
public sealed partial class Program;
