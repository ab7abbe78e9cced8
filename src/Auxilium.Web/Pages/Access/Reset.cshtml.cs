using System.Text;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.AspNetCore.WebUtilities;

namespace Auxilium.Web.Pages.Access;

/// <summary>Where the link of a mail leads that somebody asked for who forgot their password.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class ResetModel(
    UserManager<Account> accounts,
    Sessions sessions,
    Storage.People.Directory directory,
    Letters letters,
    AccessLog log
) : PasswordPage
{
    public async Task<IActionResult> OnPostAsync(string person, string token, CancellationToken cancel)
    {
        var account = await accounts.FindByIdAsync(person);
        if (!IsPasswordGood(account?.Email))
            return Page();
        var isReset =
            account is not null
            && Decode(token) is { } secret
            && (await accounts.ResetPasswordAsync(account, secret, Password!)).Succeeded;
        if (!isReset)
        {
            Wrong(nameof(Password), "This link has run out or was used: ask for a new one under “I forgot my password”.");
            return Page();
        }
        await accounts.SetLockoutEndDateAsync(account!, null);
        await sessions.EndAllAsync(account!.Id, cancel);
        log.Changed(account.Id, "password");
        if (account.Email is { } mail && await directory.FindAsync(account.Id, cancel) is { } row)
            await letters.PasswordChangedAsync(row.Name, mail, cancel);
        Say("Your password is new. Sign in with it.");
        return Redirect("/sign-in");
    }

    private static string? Decode(string token)
    {
        try
        {
            return Encoding.UTF8.GetString(WebEncoders.Base64UrlDecode(token));
        }
        catch (FormatException)
        {
            return null;
        }
    }
}
