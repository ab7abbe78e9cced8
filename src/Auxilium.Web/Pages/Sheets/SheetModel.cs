using System.Globalization;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Sheets;

/// <summary>A sheet about one project, which its script fills with what the API says.</summary>
[Authorize(Rights.LookAtPlans)]
public sealed class SheetModel(PlanStore store, ProjectRoles roles, IAntiforgery antiforgery, Today today) : PageModel
{
    public Guid Id { get; private set; }

    public string Name { get; private set; } = "";

    /// <summary>What whoever looks may do: <c>edit</c>, <c>report</c> or <c>look</c>.</summary>
    public string RightsHere { get; private set; } = "";

    public int Version { get; private set; }

    /// <summary>Must be sent with every edit.</summary>
    public string Token { get; private set; } = "";

    public string Today => today.Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>Which sheet it is.</summary>
    public ProjectPage Sheet { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(Guid id, string sheet, CancellationToken cancel)
    {
        Sheet = ProjectPages.All.Single(page => page.Path == sheet);
        if (HttpContext.RoleHere() < Sheet.Role || (Sheet.NeedsMoney && !await HttpContext.HasMoneyAsync(roles)))
            return Forbid();
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return NotFound();
        (Id, Name, Version) = (id, plan.Schedule.Plan.Project.Name, plan.Version);
        RightsHere = HttpContext.RightsHere();
        Token = antiforgery.GetAndStoreTokens(HttpContext).RequestToken ?? "";
        return Page();
    }
}
