using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Pages.Plan;
using Auxilium.Web.PlanScreen;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>A plan as those see it who have a link to it, and no account.</summary>
[AllowAnonymous]
[EnableRateLimiting(Api.Limits.Doors)]
[RequestSizeLimit(64 * 1024)]
public sealed class SharedModel(
    ShareLinks links,
    PlanStore store,
    PlanViews views,
    IPasswordHasher<Account> hasher,
    SharedDoor door,
    Today today
) : PlanScreenModel
{
    [BindProperty]
    public string? Password { get; set; }

    public string? Name { get; private set; }

    /// <summary>How the project stands, where that is asked for.</summary>
    public ReportView? Report { get; private set; }

    public bool IsOpen { get; private set; }

    public bool AsksPassword { get; private set; }

    public async Task<IActionResult> OnGetAsync(string secret, string? screen, CancellationToken cancel)
    {
        Response.Headers["Referrer-Policy"] = "no-referrer";
        if (await links.FindAsync(secret, cancel) is not { } link || await store.LoadAsync(link.ProjectId, cancel) is not { } plan)
            return Gone();
        if (link.PasswordHash is not null && !door.HasEntered(HttpContext, link))
        {
            AsksPassword = true;
            return Page();
        }
        IsOpen = true;
        Name = plan.Schedule.Plan.Project.Name;
        if (screen == "report")
            Report = ReportView.Of(plan, today.Date, link.Columns);
        Show(
            plan.Project,
            screen,
            "shared",
            null,
            SharedColumns.Only(views.Of(plan), link.Columns),
            new LastEdit(null, false, false),
            PlanExtras.None with
            {
                View = SharedColumns.ViewOf(link.Columns),
            },
            secret
        );
        if (link.AllowsExport)
            (Exports, ExportColumns) = ($"/shared/{secret}/export", SharedColumns.OfTables(link.Columns).Select(column => column.Key));
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(string secret, string? screen, CancellationToken cancel)
    {
        if (await links.FindAsync(secret, cancel) is not { PasswordHash: { } hash } link)
            return Gone();
        if (
            (Password?.Length ?? 0) > 200
            || hasher.VerifyHashedPassword(new Account(), hash, Password ?? "") == PasswordVerificationResult.Failed
        )
        {
            AsksPassword = true;
            ModelState.AddModelError(nameof(Password), "This is not the password of this link.");
            return Page();
        }
        door.Enter(HttpContext, link, secret);
        return Redirect($"/shared/{secret}{(screen is null ? "" : $"/{screen}")}");
    }

    private Microsoft.AspNetCore.Mvc.RazorPages.PageResult Gone()
    {
        Response.StatusCode = StatusCodes.Status410Gone;
        return Page();
    }
}
