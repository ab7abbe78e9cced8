using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>How a project stands, on a page.</summary>
[Authorize(Rights.LookAtPlans)]
public sealed class ReportModel(PlanStore store, Today today) : PageModel
{
    public Guid Id { get; private set; }

    public string RightsHere { get; private set; } = "";

    public ReportView Report { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return NotFound();
        (Id, Report, RightsHere) = (id, ReportView.Of(plan, today.Date, null), HttpContext.RightsHere());
        return Page();
    }
}
