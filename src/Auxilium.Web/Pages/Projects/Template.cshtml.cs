using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Keeps the plan of a project for others to start from.</summary>
[Authorize(Rights.EditPlans)]
[RequestSizeLimit(64 * 1024)]
public sealed class TemplateModel(PlanStore store, Templates templates) : FormPage
{
    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    public Guid Id { get; private set; }

    public string Project { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel)
    {
        if (await FindAsync(id, cancel) is not { } plan)
            return NotFound();
        Name = plan.Project.Name;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(Guid id, CancellationToken cancel)
    {
        if (await FindAsync(id, cancel) is not { } plan)
            return NotFound();
        try
        {
            var template = await templates.SaveAsync(plan, Name, Note, cancel);
            Say($"“{template.Name}” is saved: New project offers it.");
            return Redirect("/templates");
        }
        catch (TemplateRefusedException refused)
        {
            Wrong(refused.Field, refused.Message);
            return Page();
        }
    }

    private async Task<Planning.Plans.Plan?> FindAsync(Guid id, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return null;
        (Id, Project) = (id, stored.Schedule.Plan.Project.Name);
        return stored.Schedule.Plan;
    }
}
