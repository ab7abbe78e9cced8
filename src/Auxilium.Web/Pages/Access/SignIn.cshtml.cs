using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Auxilium.Web.Pages.Access;

/// <summary>A person of the demo, as whom one can sign in with a click.</summary>
public sealed record DemoFace(string Id, string Name, string Initials, string Part);

/// <summary>Signs people in; in a demo, with a click.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class SignInModel(
    SignInManager<Account> signIn,
    UserManager<Account> accounts,
    Organisation organisation,
    Storage.People.Directory directory,
    PasswordCheck passwords
) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public string? To { get; set; }

    [BindProperty]
    public string? MailAddress { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    [BindProperty]
    public bool Stay { get; set; }

    public IReadOnlyList<DemoFace> Demo { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await organisation.FindAsync(cancel) is null)
            return Redirect("/welcome");
        await ListDemoAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        await ListDemoAsync(cancel);
        if (Line(nameof(MailAddress), MailAddress, "Your mail address", 200, true) is not { } mail)
            return Page();
        if (string.IsNullOrEmpty(Password))
            Wrong(nameof(Password), "Your password is missing: type it.");
        else
        {
            var account = await accounts.FindByEmailAsync(mail);
            if (await passwords.IsRightAsync(account, Password))
            {
                var result = await signIn.PasswordSignInAsync(account!, Password, Stay, lockoutOnFailure: false);
                if (result.Succeeded)
                    return Onward();
                if (result.RequiresTwoFactor)
                    return RedirectToPage("/Access/SecondStep", new { To, Stay });
            }
            // The same words whether the address is known, the password wrong or the account locked: they tell nothing about who is here.
            Wrong(nameof(Password), Refused);
        }
        return Page();
    }

    public async Task<IActionResult> OnPostDemoAsync(string person, CancellationToken cancel)
    {
        if (await organisation.FindAsync(cancel) is not { IsDemo: true } || await accounts.FindByIdAsync(person ?? "") is not { } account)
            return NotFound();
        await signIn.SignInAsync(account, isPersistent: false);
        return Onward();
    }

    private const string Refused =
        "This address and password do not open an account here. After too many tries an account stays closed for a quarter of an hour.";

    private LocalRedirectResult Onward() => LocalRedirect(Url.IsLocalUrl(To) ? To! : "/");

    private async Task ListDemoAsync(CancellationToken cancel)
    {
        if (await organisation.FindAsync(cancel) is not { IsDemo: true })
            return;
        var known = await directory.AccountsAsync(cancel);
        Demo =
        [
            .. (await directory.AllAsync(cancel))
                .Where(p => known.ContainsKey(p.Id))
                .OrderByDescending(p => known[p.Id].IsOrganiser)
                .ThenByDescending(p => known[p.Id].MayMakeProjects)
                .ThenBy(p => p.Name)
                .Select(p => new DemoFace(
                    p.Id,
                    p.Name,
                    p.Initials,
                    string.Join(" · ", new[] { p.Role, known[p.Id].IsOrganiser ? "organiser" : "" }.Where(t => t.Length > 0))
                )),
        ];
    }
}
