using System.Globalization;
using System.Text.Json.Nodes;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Words;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.Api;
using Auxilium.Web.Pages.Shared;
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
    Auxilium.Storage.People.Directory people,
    PastPlans past,
    Hours hours,
    OrganisationClock clock,
    Today today
) : PlanScreenModel
{
    /// <param name="id">Id of the project.</param>
    /// <param name="screen">Which screen, as the address has it.</param>
    /// <param name="version">As the plan was at this version.</param>
    /// <param name="on">As the plan was at the end of this day, such as 2027-05-12.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IActionResult> OnGetAsync(Guid id, string? screen, int? version, string? on, CancellationToken cancel)
    {
        if (on is not null)
            return DateOnly.TryParseExact(on, "yyyy-MM-dd", CultureInfo.InvariantCulture, default, out var day)
                ? await ShowPastAsync(id, screen, await past.VersionAtAsync(id, clock.EndOf(day), cancel), cancel)
                : NotFound();
        if (version is { } wanted)
            return await ShowPastAsync(id, screen, wanted, cancel);
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
            await proposals.CountAsync(id, cancel),
            UsedDocument.Of(plan.Schedule, await hours.ByTaskAsync(id, cancel))
        );
        Show(id, screen, rights, me, views.Of(plan), await edits.LastAsync(plan, me, cancel), more);
        return Page();
    }

    /// <summary>The plan as it was, which can be looked at and not changed (rule S5).</summary>
    private async Task<IActionResult> ShowPastAsync(Guid id, string? screen, int version, CancellationToken cancel)
    {
        if (await past.FindAsync(id, version, cancel) is not { } was)
            return NotFound();
        var me = User.PersonId();
        var view = await kept.OfAsync(id, me, cancel);
        var days = await past.DaysAsync(id, clock.LocalTimeZone, cancel);
        Past = new PastView(
            version,
            $"{clock.InWords(was.At, "ddd")} {clock.MomentOf(was.At)}",
            was.By,
            HttpContext.RightsHere() == "edit",
            [.. days.Select(d => new PastDay(Dates.Day(PlanTime.On(d.Day)), d.Version))]
        );
        Show(
            id,
            screen,
            "past",
            me,
            PlanView.Of(was.Plan, today.Date),
            new LastEdit(await edits.RecordAsync(was.Plan, cancel), false, false),
            PlanExtras.None with
            {
                View = view is null ? null : JsonNode.Parse(view),
                Teams = await people.TeamsAsync(cancel),
            }
        );
        return Page();
    }
}
