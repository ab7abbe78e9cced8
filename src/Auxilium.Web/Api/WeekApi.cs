using Auxilium.Exchange.Calendars;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Web.Mail;

namespace Auxilium.Web.Api;

/// <summary>One's tasks as a calendar.</summary>
internal static class WeekApi
{
    public static void Map(WebApplication app) =>
        app.MapGet("/feeds/{secret}.ics", FeedAsync).AllowAnonymous().RequireRateLimiting(Limits.Doors).ExcludeFromDescription();

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
                    $"{t.Task}.{t.Project}@auxilium",
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
            clock.LocalTimeZone
        );
        context.Response.Headers.CacheControl = "private, no-store";
        return Results.Text(text, "text/calendar; charset=utf-8");
    }
}
