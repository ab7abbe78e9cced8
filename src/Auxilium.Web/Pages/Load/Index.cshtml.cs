using System.Globalization;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Load;

/// <summary>Who has how much to do in all projects, which the script fills with what the API says.</summary>
[Authorize(Rights.SignedIn)]
public sealed class LoadModel(IAntiforgery antiforgery, Today today) : PageModel
{
    /// <summary>Must be sent with every edit.</summary>
    public string Token { get; private set; } = "";

    public string Today => today.Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    public void OnGet() => Token = antiforgery.GetAndStoreTokens(HttpContext).RequestToken ?? "";
}
