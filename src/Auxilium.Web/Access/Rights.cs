using System.Security.Claims;
using Auxilium.Planning.Plans;
using Microsoft.AspNetCore.Authorization;

namespace Auxilium.Web.Access;

/// <summary>Who may do what: the one place where routes get their rights from. Without a policy of its own, a route needs a sign-in.</summary>
public static class Rights
{
    public const string Coordinator = "coordinator";

    public const string InitialsClaim = "initials";

    /// <summary>May see plans.</summary>
    public const string LookAtPlans = nameof(LookAtPlans);

    /// <summary>May change plans and make new ones.</summary>
    public const string EditPlans = nameof(EditPlans);

    public static void Define(AuthorizationBuilder builder) => builder
        .AddPolicy(LookAtPlans, policy => policy.RequireAuthenticatedUser())
        .AddPolicy(EditPlans, policy => policy.RequireRole(Coordinator))
        .SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build());

    /// <summary>Id of the person who is signed in.</summary>
    public static string PersonId(this ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.NameIdentifier)!;

    public static Person Person(this ClaimsPrincipal user) =>
        new(user.PersonId(), user.FindFirstValue(ClaimTypes.Name)!, user.FindFirstValue(InitialsClaim)!);
}
