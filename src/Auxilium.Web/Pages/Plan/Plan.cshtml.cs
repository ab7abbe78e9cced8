using System.Text.Json.Nodes;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Auxilium.Web.PlanScreen;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Plan;

/// <summary>The task list and the timeline of one project.</summary>
[Authorize(Rights.LookAtPlans)]
public sealed class PlanModel(
    PlanStore store,
    PlanEdits edits,
    PlanViews views,
    Views kept,
    TaskTalk talk,
    Proposals proposals,
    Auxilium.Storage.People.Directory people
) : PlanScreenModel
{
    public async Task<IActionResult> OnGetAsync(Guid id, string? screen, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return NotFound();
        var me = User.PersonId();
        var rights = HttpContext.RightsHere();
        var view = await kept.OfAsync(id, me, cancel);
        var directory = rights == "look" ? [] : await store.DirectoryAsync(cancel);
        var teams = await people.TeamsAsync(cancel);
        var more = new PlanExtras(
            await talk.CountsAsync(id, cancel),
            view is null ? null : JsonNode.Parse(view),
            directory.Select(p => p.Name),
            rights == "look" ? teams.Where(t => plan.Schedule.Plan.FindPerson(t.Key) is not null).ToDictionary() : teams,
            plan.Schedule.Plan.Calendars.Select(c => new { c.Id, c.Name }),
            await proposals.CountAsync(id, cancel)
        );
        Show(id, screen, rights, me, views.Of(plan), await edits.LastAsync(plan, me, cancel), more);
        return Page();
    }
}
