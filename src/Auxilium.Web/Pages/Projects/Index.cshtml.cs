using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Every project with its dates, progress and what state its tasks are in.</summary>
[Authorize(Rights.SignedIn)]
public sealed class IndexModel(AcrossPlans across, ProjectRoles roles, ClosedProjects closed, Today today) : PageModel
{
    public IReadOnlyList<ProjectSummary> Projects { get; private set; } = [];

    /// <summary>Whether there is something in the archive for them.</summary>
    public bool HasClosed { get; private set; }

    public async Task OnGetAsync(CancellationToken cancel)
    {
        var mine = await roles.AllOfAsync(User.PersonId(), User.IsOrganiser(), cancel);
        Projects = [.. (await across.ProjectsAsync(mine.Keys.ToList(), today.Date, cancel)).Select(ProjectSummary.Of)];
        HasClosed = (await closed.OfAsync(User.PersonId(), User.IsOrganiser(), cancel)).Count > 0;
    }
}
