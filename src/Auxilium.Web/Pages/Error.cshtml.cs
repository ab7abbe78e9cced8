using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages;

/// <summary>What a person sees when a page is not there or something broke.</summary>
[AllowAnonymous]
[IgnoreAntiforgeryToken]
[ResponseCache(NoStore = true)]
public sealed class ErrorModel : PageModel
{
    public string Heading { get; private set; } = "Something broke";

    public string Advice { get; private set; } = "Nothing you saved is lost. Try again in a moment.";

    public void OnGet(int status = 500) => Tell(status);

    public void OnPost(int status = 500) => Tell(status);

    private void Tell(int status)
    {
        if (status == StatusCodes.Status404NotFound)
            (Heading, Advice) = ("There is no such page", "The address may be mistyped, or what was here is gone.");
        else if (status is >= 400 and < 500)
            (Heading, Advice) = ("That did not work", "The page may have been open too long. Go back, reload it and try again.");
    }
}
