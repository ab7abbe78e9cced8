using Auxilium.Storage;
using Auxilium.Storage.People;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Every project with its dates, progress and what state its tasks are in.</summary>
[Authorize(Rights.SignedIn)]
public sealed class IndexModel(PlanStore store, ProjectRoles roles, Today today) : PageModel
{
    public IReadOnlyList<ProjectSummary> Projects { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel) =>
        Projects = [.. (await store.LoadAllAsync([.. (await roles.AllOfAsync(User.PersonId(), User.IsOrganiser(), cancel)).Keys], cancel)).Select(plan => ProjectSummary.Of(plan, today.Date))];
}
