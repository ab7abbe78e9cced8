using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Projects that were archived or deleted, for those who may bring them back.</summary>
[Authorize(Rights.OwnAccount)]
[RequestSizeLimit(64 * 1024)]
public sealed class ArchiveModel(ClosedProjects closed, OrganisationClock clock) : FormPage
{
    public IReadOnlyList<ClosedProject> Projects { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel) => Projects = await closed.OfAsync(User.PersonId(), User.IsOrganiser(), cancel);

    public async Task<IActionResult> OnPostAsync(Guid project, CancellationToken cancel)
    {
        Say(
            await closed.BringBackAsync(project, User.PersonId(), User.IsOrganiser(), cancel) is { } name
                ? $"“{name}” is back."
                : "This project cannot be brought back: it is gone for good, or you do not coordinate it."
        );
        return Redirect("/archive");
    }

    internal string When(ClosedProject project) =>
        project.IsDeleted
            ? $"Deleted {clock.DayOf(project.At)}, gone for good on " + $"{clock.DayOf(project.At.AddDays(ClosedProjects.DaysKept))}"
            : $"Archived {clock.DayOf(project.At)}; it can be looked at";
}
