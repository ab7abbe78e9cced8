using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.DataProtection;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>Remembers in a browser that the password of a read-only link was given there.</summary>
public sealed class SharedDoor(IDataProtectionProvider protection)
{
    private const string Cookie = "auxilium-shared";

    private static readonly TimeSpan Lasts = TimeSpan.FromHours(8);

    private ITimeLimitedDataProtector Protector => protection.CreateProtector("shared plan").ToTimeLimitedDataProtector();

    public void Enter(HttpContext context, ShareLinkRow link, string secret) =>
        context.Response.Cookies.Append(
            Cookie,
            Protector.Protect(Mark(link), Lasts),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Lax,
                Secure = context.Request.IsHttps,
                Path = $"/shared/{secret}",
                IsEssential = true,
            }
        );

    /// <summary>Whether this browser has given the password that the link has now, where it asks for one.</summary>
    public bool HasEntered(HttpContext context, ShareLinkRow link)
    {
        if (link.PasswordHash is null)
            return true;
        try
        {
            return context.Request.Cookies[Cookie] is { } kept && Protector.Unprotect(kept) == Mark(link);
        }
        catch (System.Security.Cryptography.CryptographicException)
        {
            return false;
        }
    }

    private static string Mark(ShareLinkRow link) => $"{link.Id} {link.PasswordHash}";
}
