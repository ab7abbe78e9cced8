using Auxilium.Exchange.Calendars;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Web.Mail;

namespace Auxilium.Web.Api;

/// <summary>Tasks as calendars that programs fetch: one's own, and those of a project.</summary>
internal static class FeedsApi
{
    public static void Map(WebApplication app)
    {
        app.MapGet("/feeds/{secret}.ics", FeedAsync).AllowAnonymous().RequireRateLimiting(Limits.Doors).ExcludeFromDescription();
        app.MapGet("/feeds/projects/{secret}.ics", ProjectFeedAsync)
            .AllowAnonymous()
            .RequireRateLimiting(Limits.Doors)
            .ExcludeFromDescription();
    }

    private static async Task<IResult> FeedAsync(
        string secret,
        HttpContext context,
        Feeds feeds,
        ProjectRoles roles,
        HandOvers tasks,
        OwnAddress address,
        OrganisationClock clock,
        Today today,
        CancellationToken cancel
    )
    {
        if (await feeds.FindAsync(secret, cancel) is not { } who)
            return Results.NotFound();
        var theirs = await roles.AllOfAsync(who.PersonId, who.IsOrganiser, cancel);
        var found = await tasks.TasksOfAsync(who.PersonId, [.. theirs.Keys], today.Date, withDone: true, cancel);
        var text = TaskCalendar.Write(
            $"Tasks of {who.Name}",
            found
                .Where(t => t.Start is not null)
                .Select(t => new CalendarTask(
                    CalendarTask.IdOf(t.Task, t.Project),
                    t.Name,
                    t.ProjectName,
                    t.Start!.Value.Date,
                    t.Finish!.Value.LastDateFrom(t.Start.Value),
                    t.IsOfHours ? (clock.ToUtc(t.Start.Value.ToDateTime()), clock.ToUtc(t.Finish.Value.ToDateTime())) : null,
                    t.State == TaskState.Done,
                    t.IsOwner,
                    address.Of($"/projects/{t.Project}#{t.Task}"),
                    t.Version
                )),
            clock.GetUtcNow().UtcDateTime,
            new CalendarWishes(clock.LocalTimeZone)
        );
        return Answer(context, text);
    }

    /// <summary>The tasks of a project, as its coordinators have chosen.</summary>
    private static async Task<IResult> ProjectFeedAsync(
        string secret,
        HttpContext context,
        ProjectFeeds feeds,
        PlanStore store,
        OwnAddress address,
        OrganisationClock clock,
        Today today,
        CancellationToken cancel
    )
    {
        if (await feeds.FindAsync(secret, cancel) is not { } feed || await store.LoadAsync(feed.ProjectId, cancel) is not { } plan)
            return Results.NotFound();
        var project = new CalendarOf(plan.Project, plan.Name, plan.Version, clock.ToUtc, task =>
            address.Of($"/projects/{plan.Project}#{task}")
        );
        var tasks = ProjectCalendar
            .TasksOf(plan.Schedule, today.Date, project)
            .Where(task => !feed.MilestonesOnly || task.Task.Milestone)
            .Where(task => feed.PersonId is not { } person || task.Task.Assignments.Any(part => part.Person == person))
            .Select(task => task.Told with { IsOwner = feed.PersonId is null || task.Task.Owner == feed.PersonId });
        var wishes = new CalendarWishes(clock.LocalTimeZone, feed.AsToDos, feed.AlarmDays);
        return Answer(context, TaskCalendar.Write(plan.Name, tasks, clock.GetUtcNow().UtcDateTime, wishes));
    }

    private static IResult Answer(HttpContext context, string text)
    {
        context.Response.Headers.CacheControl = "private, no-store";
        return Results.Text(text, "text/calendar; charset=utf-8");
    }
}
