using System.Security.Claims;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Authentication;
using Microsoft.Extensions.Options;

namespace Auxilium.Web.Access;

/// <summary>
/// Signs every request in as the organisation's coordinator. It stands where real sign-in will: everything behind it asks only for
/// the claims it gives.
/// </summary>
public sealed class DemoSignIn(IOptionsMonitor<AuthenticationSchemeOptions> options, ILoggerFactory logger, UrlEncoder encoder, DemoPerson demo)
    : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
{
    public const string SchemeName = "Demo";

    protected override Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        Claim[] claims =
        [
            new(ClaimTypes.NameIdentifier, demo.Person.Id),
            new(ClaimTypes.Name, demo.Person.Name),
            new(Rights.InitialsClaim, demo.Person.Initials),
            new(ClaimTypes.Role, Rights.Coordinator),
        ];
        var principal = new ClaimsPrincipal(new ClaimsIdentity(claims, Scheme.Name));
        return Task.FromResult(AuthenticateResult.Success(new AuthenticationTicket(principal, Scheme.Name)));
    }
}
