using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Ends a project: archived it can be looked at, deleted it is gone.</summary>
[Authorize(Rights.EditPlans)]
[RequestSizeLimit(64 * 1024)]
public sealed class CloseModel(PlanStore store, ClosedProjects closed) : FormPage
{
    [BindProperty]
    public string? Typed { get; set; }

    public Guid Id { get; private set; }

    public string Name { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel) => await LoadAsync(id, cancel) ? Page() : NotFound();

    public async Task<IActionResult> OnPostArchiveAsync(Guid id, CancellationToken cancel)
    {
        if (!await LoadAsync(id, cancel))
            return NotFound();
        await closed.CloseAsync(id, delete: false, User.PersonId(), cancel);
        Say($"“{Name}” is archived.");
        return Redirect("/archive");
    }

    public async Task<IActionResult> OnPostDeleteAsync(Guid id, CancellationToken cancel)
    {
        if (!await LoadAsync(id, cancel))
            return NotFound();
        if (!string.Equals(Typed?.Trim(), Name, StringComparison.OrdinalIgnoreCase))
        {
            Wrong(nameof(Typed), $"This is not the name of the project: type “{Name}” to delete it.");
            return Page();
        }
        await closed.CloseAsync(id, delete: true, User.PersonId(), cancel);
        Say($"“{Name}” is deleted. It can be brought back for {ClosedProjects.DaysKept} days.");
        return Redirect("/archive");
    }

    private async Task<bool> LoadAsync(Guid id, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return false;
        (Id, Name) = (id, plan.Schedule.Plan.Project.Name);
        return true;
    }
}
