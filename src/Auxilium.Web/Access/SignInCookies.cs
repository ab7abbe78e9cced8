using System.Security.Claims;
using System.Text.Encodings.Web;
using System.Threading.RateLimiting;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace Auxilium.Web.Access;

/// <summary>How people and programs sign in: by a cookie that is the key to a session in the database, or by a token.</summary>
internal static class SignInCookies
{
    public const string Scheme = "CookieOrToken";

    private static readonly TimeSpan Lasts = TimeSpan.FromDays(14);

    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<SessionTickets>();
        services.AddSingleton<WrongTokens>();
        services.AddSingleton<AccessLog>();
        services
            .AddOptions<CookieAuthenticationOptions>(IdentityConstants.ApplicationScheme)
            .PostConfigure<SessionTickets>(
                (cookie, tickets) =>
                {
                    cookie.SessionStore = tickets;
                    cookie.Cookie.Name = "auxilium";
                    Harden(cookie.Cookie);
                    cookie.LoginPath = "/sign-in";
                    cookie.AccessDeniedPath = "/sign-in";
                    cookie.ReturnUrlParameter = "to";
                    cookie.ExpireTimeSpan = Lasts;
                    cookie.SlidingExpiration = true;
                    cookie.Events = new CookieAuthenticationEvents
                    {
                        OnRedirectToLogin = context => Answer(context, StatusCodes.Status401Unauthorized, redirect: true),
                        OnRedirectToAccessDenied = context => Answer(context, StatusCodes.Status403Forbidden, redirect: false),
                    };
                }
            );
        foreach (var scheme in new[] { IdentityConstants.TwoFactorUserIdScheme, IdentityConstants.TwoFactorRememberMeScheme })
            services.PostConfigure<CookieAuthenticationOptions>(scheme, cookie =>
            {
                cookie.Cookie.Name = scheme == IdentityConstants.TwoFactorUserIdScheme ? "auxilium-second-step" : "auxilium-known-browser";
                Harden(cookie.Cookie);
            });
        services
            .AddAuthentication(options =>
            {
                options.DefaultScheme = Scheme;
                options.DefaultSignInScheme = IdentityConstants.ApplicationScheme;
            })
            .AddPolicyScheme(Scheme, null, options =>
                options.ForwardDefaultSelector = context =>
                    context.Request.Headers.Authorization.Count > 0 && IsForPrograms(context)
                        ? TokenSignIn.SchemeName
                        : IdentityConstants.ApplicationScheme
            )
            .AddScheme<AuthenticationSchemeOptions, TokenSignIn>(TokenSignIn.SchemeName, null)
            .AddIdentityCookies();
        services
            .AddIdentityCore<Account>(options =>
            {
                options.User.RequireUniqueEmail = true;
                options.Password.RequiredLength = Passwords.Shortest;
                options.Password.RequireDigit =
                    options.Password.RequireLowercase =
                    options.Password.RequireUppercase =
                    options.Password.RequireNonAlphanumeric =
                        false;
                options.Lockout.MaxFailedAccessAttempts = 8;
                options.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(15);
            })
            .AddEntityFrameworkStores<AuxiliumDb>()
            .AddSignInManager()
            .AddDefaultTokenProviders()
            .AddTokenProvider<CodesOnce>(TokenOptions.DefaultAuthenticatorProvider)
            .AddPasswordValidator<Passwords>();
        services.AddScoped<IAuthenticationService, FreshSessions>();
        services.AddScoped<PasswordCheck>();
        services.Configure<DataProtectionTokenProviderOptions>(options => options.TokenLifespan = TimeSpan.FromHours(2));
    }

    public static bool IsForPrograms(HttpContext context) =>
        context.Request.Path.StartsWithSegments("/api")
        || context.Request.Path.StartsWithSegments("/files")
        || context.Request.Path.StartsWithSegments("/receipts")
        || context.Request.Path.StartsWithSegments("/openapi")
        || context.Request.Path.StartsWithSegments("/live");

    private static void Harden(CookieBuilder cookie) =>
        (cookie.HttpOnly, cookie.SameSite, cookie.SecurePolicy, cookie.IsEssential) = (
            true,
            SameSiteMode.Lax,
            CookieSecurePolicy.SameAsRequest,
            true
        );

    private static Task Answer(RedirectContext<CookieAuthenticationOptions> context, int status, bool redirect)
    {
        if (redirect && !IsForPrograms(context.HttpContext) && HttpMethods.IsGet(context.Request.Method))
            context.Response.Redirect(context.RedirectUri);
        else
            context.Response.StatusCode = status;
        return Task.CompletedTask;
    }
}

/// <summary>
/// Keeps what a cookie stands for in the database: the cookie has only a key. So a session ends everywhere at once, and who is
/// signed in may always do what they may do now.
/// </summary>
internal sealed class SessionTickets(IHttpContextAccessor contexts, Sessions sessions, TimeProvider clock, AccessLog log) : ITicketStore
{
    public Task<string> StoreAsync(AuthenticationTicket ticket)
    {
        var person = ticket.Principal.FindFirstValue(ClaimTypes.NameIdentifier)!;
        log.SignedIn(person);
        return sessions.StartAsync(
            person,
            contexts.HttpContext?.Request.Headers.UserAgent.ToString() ?? "",
            ticket.Properties.IsPersistent,
            EndOf(ticket)
        );
    }

    public Task RenewAsync(string key, AuthenticationTicket ticket) => sessions.LengthenAsync(key, EndOf(ticket));

    public async Task<AuthenticationTicket?> RetrieveAsync(string key)
    {
        if (await sessions.FindAsync(key) is not { } who)
            return null;
        var properties = new AuthenticationProperties
        {
            IsPersistent = who.IsLasting,
            IssuedUtc = new DateTimeOffset(who.EndsAt) - TimeSpan.FromDays(14),
            ExpiresUtc = new DateTimeOffset(who.EndsAt),
            AllowRefresh = true,
        };
        return new AuthenticationTicket(
            Rights.ToPrincipal(who, IdentityConstants.ApplicationScheme),
            properties,
            IdentityConstants.ApplicationScheme
        );
    }

    public Task RemoveAsync(string key) => sessions.EndAsync(key);

    private DateTime EndOf(AuthenticationTicket ticket) => (ticket.Properties.ExpiresUtc ?? clock.GetUtcNow().AddDays(14)).UtcDateTime;
}

/// <summary>How often an address may come with a token that is none.</summary>
internal sealed class WrongTokens : IDisposable
{
    private readonly PartitionedRateLimiter<HttpContext> _tries = PartitionedRateLimiter.Create<HttpContext, string>(context =>
        RateLimitPartition.GetFixedWindowLimiter($"{context.Connection.RemoteIpAddress}", _ => new FixedWindowRateLimiterOptions
        {
            PermitLimit = Api.Limits.Tries(context),
            Window = TimeSpan.FromMinutes(1),
        })
    );

    public bool AreTooMany(HttpContext context) => _tries.GetStatistics(context)?.CurrentAvailablePermits == 0;

    public void Count(HttpContext context)
    {
        using var _ = _tries.AttemptAcquire(context);
    }

    public void Dispose() => _tries.Dispose();
}

/// <summary>Signs programs in by <c>Authorization: Bearer auxilium_…</c>.</summary>
internal sealed class TokenSignIn(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory logger,
    UrlEncoder encoder,
    Tokens tokens,
    WrongTokens wrong,
    AccessLog log
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
{
    public const string SchemeName = "Token";

    private const string Bearer = "Bearer ";

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        if (wrong.AreTooMany(Context))
            return AuthenticateResult.Fail("Too many wrong tokens came from here: wait a minute.");
        var header = Request.Headers.Authorization.ToString();
        if (
            header.StartsWith(Bearer + Tokens.Prefix, StringComparison.Ordinal)
            && await tokens.FindAsync(header[Bearer.Length..], Context.RequestAborted) is { } who
        )
            return AuthenticateResult.Success(new AuthenticationTicket(Rights.ToPrincipal(who, SchemeName), SchemeName));
        wrong.Count(Context);
        log.TokenRefused();
        return AuthenticateResult.Fail("This token is not known, was revoked or has run out. Send “Authorization: Bearer auxilium_…”.");
    }

    protected override async Task HandleChallengeAsync(AuthenticationProperties properties)
    {
        var tooMany = wrong.AreTooMany(Context);
        if (!tooMany)
            Response.Headers.WWWAuthenticate = "Bearer";
        var why = tooMany
            ? "Too many wrong tokens came from here: wait a minute."
            : "This token is not known, was revoked or has run out.";
        await Results
            .Problem(why, statusCode: tooMany ? StatusCodes.Status429TooManyRequests : StatusCodes.Status401Unauthorized)
            .ExecuteAsync(Context);
    }
}
