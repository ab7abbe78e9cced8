using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Auxilium.Web.Pages.Access;

/// <summary>Where the link of an invitation leads: the person chooses a password and is signed in.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class InvitationModel(Invitations invitations, UserManager<Account> accounts, SignInManager<Account> signIn) : PasswordPage
{
    public string? Name { get; private set; }

    public string? Address { get; private set; }

    public async Task<IActionResult> OnGetAsync(string secret, CancellationToken cancel)
    {
        if (await invitations.FindAsync(secret, cancel) is var (_, person))
            (Name, Address) = (person.Name, person.Email);
        else
            Response.StatusCode = StatusCodes.Status410Gone;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(string secret, CancellationToken cancel)
    {
        if (await invitations.FindAsync(secret, cancel) is not var (invitation, person))
        {
            Response.StatusCode = StatusCodes.Status410Gone;
            return Page();
        }
        (Name, Address) = (person.Name, person.Email);
        if (!IsPasswordGood(person.Email))
            return Page();
        var account = new Account
        {
            Id = person.Id,
            UserName = person.Id,
            Email = person.Email,
            EmailConfirmed = true,
            IsOrganiser = invitation.IsOrganiser,
            MayMakeProjects = invitation.MayMakeProjects,
        };
        if (!await invitations.UseAsync(invitation.Id, cancel))
            return Redirect("/sign-in");
        var made = await accounts.CreateAsync(account, Password!);
        if (!made.Succeeded)
        {
            Wrong("Password", made.Errors.First().Description);
            return Page();
        }
        await signIn.SignInAsync(account, isPersistent: false);
        return Redirect("/");
    }
}
