using System.Text;
using Auxilium.Storage.Rows;
using Auxilium.Web.Mail;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.AspNetCore.WebUtilities;

namespace Auxilium.Web.Pages.Access;

/// <summary>Sends a link to choose a new password. Whether there is such an account it does not tell.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class ForgotModel(UserManager<Account> accounts, Storage.People.Directory directory, Letters letters) : FormPage
{
    [BindProperty]
    public string? MailAddress { get; set; }

    public bool IsDone { get; private set; }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (!Mail(nameof(MailAddress), MailAddress, isNeeded: true, out var mail))
            return Page();
        if (
            await accounts.FindByEmailAsync(mail!) is { Email: { } address } account
            && await directory.FindAsync(account.Id, cancel) is { LeftOn: null } person
        )
        {
            var token = WebEncoders.Base64UrlEncode(Encoding.UTF8.GetBytes(await accounts.GeneratePasswordResetTokenAsync(account)));
            await letters.ResetAsync(person.Name, address, $"/reset/{account.Id}/{token}", cancel);
        }
        IsDone = true;
        return Page();
    }
}
