using Auxilium.Web.Access;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Access;

/// <summary>A page on which somebody chooses a password.</summary>
public abstract class PasswordPage : FormPage
{
    [BindProperty]
    public string? Password { get; set; }

    [BindProperty]
    public string? Again { get; set; }

    /// <returns>Whether the password can be kept; otherwise what is wrong has been said.</returns>
    protected bool IsPasswordGood(string? mail)
    {
        if (Passwords.WhyRefused(Password ?? "", mail) is { } why)
            Wrong(nameof(Password), why);
        else if (Password != Again)
            Wrong(nameof(Again), "This is not the same as above: type the password once more.");
        return ModelState.IsValid;
    }
}
