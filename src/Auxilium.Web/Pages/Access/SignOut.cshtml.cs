using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Access;

/// <summary>Signs this browser out.</summary>
[Authorize(Rights.OwnAccount)]
public sealed class SignOutModel(SignInManager<Account> signIn, AccessLog log) : PageModel
{
    public IActionResult OnGet() => Redirect("/account");

    public async Task<IActionResult> OnPostAsync()
    {
        log.SignedOut(User.PersonId());
        await signIn.SignOutAsync();
        return Redirect("/sign-in");
    }
}
