using System.Security.Claims;
using System.Text.Encodings.Web;
using Auxilium.Storage.Access;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace Auxilium.Web.Access;

/// <summary>
/// Makes a new session of every sign-in, and ends the one that the browser had. The cookie's own handler would go on with the session that
/// the request came with, whoever it belongs to.
/// </summary>
internal sealed class FreshSessions(
    IAuthenticationSchemeProvider schemes,
    IAuthenticationHandlerProvider handlers,
    IClaimsTransformation transform,
    IOptions<AuthenticationOptions> options,
    IOptionsMonitor<CookieAuthenticationOptions> cookies,
    ILoggerFactory logger,
    UrlEncoder encoder,
    Sessions sessions
) : AuthenticationService(schemes, handlers, transform, options)
{
    public override async Task SignInAsync(
        HttpContext context,
        string? scheme,
        ClaimsPrincipal principal,
        AuthenticationProperties? properties
    )
    {
        if (scheme != IdentityConstants.ApplicationScheme)
        {
            await base.SignInAsync(context, scheme, principal, properties);
            return;
        }
        if (context.User.SessionId() is { } before)
            await sessions.SignOutAsync(context.User.PersonId(), only: before, cancel: context.RequestAborted);
        var came = context.Features.Get<IRequestCookiesFeature>();
        try
        {
            context.Features.Set<IRequestCookiesFeature>(new RequestCookiesFeature(new NoCookies()));
            var handler = new CookieAuthenticationHandler(cookies, logger, encoder);
            await handler.InitializeAsync((await Schemes.GetSchemeAsync(scheme))!, context);
            await handler.SignInAsync(principal, properties);
        }
        finally
        {
            context.Features.Set(came);
        }
    }

    /// <summary>As of a browser that comes for the first time.</summary>
    private sealed class NoCookies : IRequestCookieCollection
    {
        public int Count => 0;

        public ICollection<string> Keys => [];

        public string? this[string key] => null;

        public bool ContainsKey(string key) => false;

        public bool TryGetValue(string key, [System.Diagnostics.CodeAnalysis.NotNullWhen(true)] out string? value)
        {
            value = null;
            return false;
        }

        public IEnumerator<KeyValuePair<string, string>> GetEnumerator() =>
            Enumerable.Empty<KeyValuePair<string, string>>().GetEnumerator();

        System.Collections.IEnumerator System.Collections.IEnumerable.GetEnumerator() => GetEnumerator();
    }
}
