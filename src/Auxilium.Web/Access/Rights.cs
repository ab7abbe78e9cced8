using System.Security.Claims;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Auxilium.Web.Api;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Authorization.Policy;

namespace Auxilium.Web.Access;

/// <summary>
/// Who may do what: the one place where pages, the API, files and the live hub get their rights from. A route with a project in its
/// address (<c>{id}</c>) is open to those with a role in that project; to others the project does not exist. Without a policy of its
/// own, a route needs a sign-in.
/// </summary>
public static class Rights
{
    public const string InitialsClaim = "initials";
    public const string OrganiserClaim = "organiser";
    public const string MakerClaim = "maker";
    public const string ScopeClaim = "scope";
    public const string SessionClaim = "session";
    public const string TokenClaim = "token";

    /// <summary>May use what belongs to no project. Programs: any scope.</summary>
    public const string SignedIn = nameof(SignedIn);

    /// <summary>May be told what happens in open plans: from a page of ours, or as a program. Any scope.</summary>
    public const string Live = nameof(Live);

    /// <summary>May see the project.</summary>
    public const string LookAtPlans = nameof(LookAtPlans);

    /// <summary>May report on own tasks, comment, and propose changes.</summary>
    public const string Report = nameof(Report);

    /// <summary>May change everything in the project.</summary>
    public const string EditPlans = nameof(EditPlans);

    /// <summary>May see what the project costs (rule M7).</summary>
    public const string SeeMoney = nameof(SeeMoney);

    /// <summary>May make new projects.</summary>
    public const string MakeProjects = nameof(MakeProjects);

    /// <summary>May change who belongs to the organisation and what they may do.</summary>
    public const string Organise = nameof(Organise);

    /// <summary>May see and change their own account: a person in a browser, never a program.</summary>
    public const string OwnAccount = nameof(OwnAccount);

    public static void Define(AuthorizationBuilder builder) =>
        builder
            .AddPolicy(SignedIn, policy => policy.RequireAuthenticatedUser())
            .AddPolicy(Live, policy =>
                policy.RequireAuthenticatedUser().RequireAssertion(c => c.Resource is not HttpContext http || OwnOrigin.Allows(http))
            )
            .AddPolicy(LookAtPlans, policy =>
                policy.RequireAuthenticatedUser().AddRequirements(new InProject(ProjectRole.Viewer, TokenScope.Look))
            )
            .AddPolicy(Report, policy =>
                policy.RequireAuthenticatedUser().AddRequirements(new InProject(ProjectRole.Member, TokenScope.Report))
            )
            .AddPolicy(EditPlans, policy =>
                policy.RequireAuthenticatedUser().AddRequirements(new InProject(ProjectRole.Coordinator, TokenScope.Edit))
            )
            .AddPolicy(SeeMoney, policy =>
                policy.RequireAuthenticatedUser().AddRequirements(new InProject(ProjectRole.Viewer, TokenScope.Look), new WithMoney())
            )
            .AddPolicy(MakeProjects, policy =>
                policy
                    .RequireAuthenticatedUser()
                    .RequireAssertion(c => (c.User.IsOrganiser() || c.User.HasClaim(MakerClaim, "1")) && c.User.Scope() >= TokenScope.Edit)
            )
            .AddPolicy(Organise, policy =>
                policy.RequireAuthenticatedUser().RequireAssertion(c => c.User.IsOrganiser() && c.User.SessionId() is not null)
            )
            .AddPolicy(OwnAccount, policy => policy.RequireAuthenticatedUser().RequireAssertion(c => c.User.SessionId() is not null))
            .SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build());

    /// <summary>Who is signed in, as the claims of a request.</summary>
    public static ClaimsPrincipal ToPrincipal(SignedIn who, string scheme)
    {
        List<Claim> claims =
        [
            new(ClaimTypes.NameIdentifier, who.PersonId),
            new(ClaimTypes.Name, who.Name),
            new(InitialsClaim, who.Initials),
            new(ScopeClaim, who.Scope.ToString()),
        ];
        if (who.IsOrganiser)
            claims.Add(new Claim(OrganiserClaim, "1"));
        if (who.MayMakeProjects)
            claims.Add(new Claim(MakerClaim, "1"));
        if (who.Token is { } token)
            claims.Add(new Claim(TokenClaim, token.ToString()));
        if (who.Session is { } session)
            claims.Add(new Claim(SessionClaim, session.ToString()));
        return new ClaimsPrincipal(new ClaimsIdentity(claims, scheme));
    }

    /// <summary>Id of the person who is signed in.</summary>
    public static string PersonId(this ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.NameIdentifier)!;

    public static Person Person(this ClaimsPrincipal user) =>
        new(user.PersonId(), user.FindFirstValue(ClaimTypes.Name)!, user.FindFirstValue(InitialsClaim)!);

    public static bool IsOrganiser(this ClaimsPrincipal user) => user.HasClaim(OrganiserClaim, "1");

    public static bool MayMakeProjects(this ClaimsPrincipal user) => user.IsOrganiser() || user.HasClaim(MakerClaim, "1");

    /// <summary>The session of the browser; <c>null</c> for a program.</summary>
    public static Guid? SessionId(this ClaimsPrincipal user) => Guid.TryParse(user.FindFirstValue(SessionClaim), out var id) ? id : null;

    /// <summary>The token of a program; <c>null</c> for a browser.</summary>
    public static Guid? TokenId(this ClaimsPrincipal user) => Guid.TryParse(user.FindFirstValue(TokenClaim), out var id) ? id : null;

    public static TokenScope Scope(this ClaimsPrincipal user) =>
        Enum.TryParse<TokenScope>(user.FindFirstValue(ScopeClaim), out var scope) ? scope : TokenScope.Look;

    /// <summary>That role as scripts know it: <c>edit</c>, <c>report</c> or <c>look</c>.</summary>
    public static string RightsHere(this HttpContext context) =>
        context.RoleHere() switch
        {
            ProjectRole.Coordinator => "edit",
            ProjectRole.Member => "report",
            _ => "look",
        };

    /// <summary>Whether whoever asks may have the money of the project of the address.</summary>
    public static async Task<bool> HasMoneyAsync(this HttpContext context, ProjectRoles roles) =>
        context.User.Identity is { IsAuthenticated: true }
        && Guid.TryParse(context.GetRouteValue("id") as string, out var project)
        && await roles.MaySeeMoneyAsync(project, context.User.PersonId(), context.User.IsOrganiser(), context.RequestAborted);

    /// <summary>The role in the project of the address, once a policy has asked for it.</summary>
    public static ProjectRole RoleHere(this HttpContext context) =>
        context.Items[typeof(ProjectRole)] is ProjectRole role ? role : ProjectRole.None;
}

/// <summary>At least this role in the project of the address, and for a program at least this scope.</summary>
internal sealed record InProject(ProjectRole Role, TokenScope Scope) : IAuthorizationRequirement;

/// <summary>May have the money of the project of the address.</summary>
internal sealed record WithMoney : IAuthorizationRequirement;

/// <summary>Asks whether somebody may.</summary>
internal sealed class WithMoneyHandler(ProjectRoles roles) : AuthorizationHandler<WithMoney>
{
    protected override async Task HandleRequirementAsync(AuthorizationHandlerContext context, WithMoney requirement)
    {
        if (context.Resource is HttpContext http && await http.HasMoneyAsync(roles))
            context.Succeed(requirement);
    }
}

/// <summary>Finds the role in the project of the address.</summary>
internal sealed class InProjectHandler(ProjectRoles roles) : AuthorizationHandler<InProject>
{
    /// <summary>Why: for this person there is no such project.</summary>
    internal const string NotThere = "not there";

    protected override async Task HandleRequirementAsync(AuthorizationHandlerContext context, InProject requirement)
    {
        if (context.Resource is not HttpContext http || context.User.Identity is not { IsAuthenticated: true })
            return;
        if (!Guid.TryParse(http.GetRouteValue("id") as string, out var project))
            return;
        var role = await roles.OfAsync(project, context.User.PersonId(), context.User.IsOrganiser(), http.RequestAborted);
        http.Items[typeof(ProjectRole)] = role;
        if (role == ProjectRole.None)
            context.Fail(new AuthorizationFailureReason(this, NotThere));
        else if (role >= requirement.Role && context.User.Scope() >= requirement.Scope)
            context.Succeed(requirement);
    }
}

/// <summary>People for whom a project does not exist are told that there is no such project, not that they may not see it.</summary>
internal sealed class NotThereResult(AccessLog log, IAntiforgery antiforgery) : IAuthorizationMiddlewareResultHandler
{
    private readonly AuthorizationMiddlewareResultHandler _usual = new();

    public async Task HandleAsync(
        RequestDelegate next,
        HttpContext context,
        AuthorizationPolicy policy,
        PolicyAuthorizationResult authorizeResult
    )
    {
        // A page whose person signed out and was followed by somebody else: it is told that, and keeps what it wanted to send.
        if (
            authorizeResult.Forbidden
            && SignInCookies.IsForPrograms(context)
            && !HttpMethods.IsGet(context.Request.Method)
            && context.User.SessionId() is not null
            && !await antiforgery.IsRequestValidAsync(context)
        )
        {
            await Problems.Forged().ExecuteAsync(context);
            return;
        }
        if (authorizeResult.Forbidden)
            log.NotAllowed(
                context.User.FindFirstValue(ClaimTypes.NameIdentifier),
                $"{context.Request.Method} {(context.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText}"
            );
        if (
            authorizeResult is { Forbidden: true, AuthorizationFailure.FailureReasons: { } reasons }
            && reasons.Any(r => r.Message == InProjectHandler.NotThere)
        )
        {
            if (SignInCookies.IsForPrograms(context))
                await Results
                    .Problem("There is no such project, or you have no part in it any more.", statusCode: StatusCodes.Status404NotFound)
                    .ExecuteAsync(context);
            else
                context.Response.StatusCode = StatusCodes.Status404NotFound;
            return;
        }
        await _usual.HandleAsync(next, context, policy, authorizeResult);
    }
}
