using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>How a project stands, on a page.</summary>
[Authorize(Rights.LookAtPlans)]
public sealed class ReportModel(PlanStore store, ProjectMoney projectMoney, ProjectRoles roles, Today today) : PageModel
{
    public Guid Id { get; private set; }

    public string RightsHere { get; private set; } = "";

    public ReportView Report { get; private set; } = null!;

    /// <summary>Whether whoever looks may have it with money.</summary>
    public bool MayHaveMoney { get; private set; }

    /// <param name="id">The project.</param>
    /// <param name="money">Whether what it costs is asked for.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IActionResult> OnGetAsync(Guid id, bool money, CancellationToken cancel)
    {
        MayHaveMoney = await HttpContext.HasMoneyAsync(roles);
        if (money && !MayHaveMoney)
            return Forbid();
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return NotFound();
        (Id, Report, RightsHere) = (id, ReportView.Of(plan, today.Date, null), HttpContext.RightsHere());
        if (money)
        {
            var counted = await projectMoney.OfAsync(plan, today.Date, null, cancel);
            Report = Report with { Money = ReportMoney.Of(counted.Money, await projectMoney.TextAsync(cancel)) };
        }
        return Page();
    }
}
