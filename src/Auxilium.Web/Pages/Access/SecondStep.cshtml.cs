using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Auxilium.Web.Pages.Access;

/// <summary>The second step of signing in, for those who turned it on.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class SecondStepModel(SignInManager<Account> signIn, AccessLog log) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public string? To { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Stay { get; set; }

    [BindProperty]
    public bool Remember { get; set; }

    [BindProperty]
    public string? Code { get; set; }

    public async Task<IActionResult> OnGetAsync() =>
        await signIn.GetTwoFactorAuthenticationUserAsync() is null ? Redirect("/sign-in") : Page();

    public async Task<IActionResult> OnPostAsync()
    {
        if (await signIn.GetTwoFactorAuthenticationUserAsync() is not { } account)
            return Redirect("/sign-in");
        var code = string.Concat((Code ?? "").Where(c => !char.IsWhiteSpace(c)));
        var result =
            code.Length == 6 && code.All(char.IsAsciiDigit)
                ? await signIn.TwoFactorAuthenticatorSignInAsync(code, Stay, Remember)
                : await signIn.TwoFactorRecoveryCodeSignInAsync(code);
        if (result.Succeeded)
            return LocalRedirect(Url.IsLocalUrl(To) ? To! : "/");
        log.SecondStepRefused(account.Id);
        Wrong(
            nameof(Code),
            "This code does not fit, or its half minute is over: type the one that is shown now. After too many tries the account "
                + "stays closed for a quarter of an hour."
        );
        return Page();
    }
}
