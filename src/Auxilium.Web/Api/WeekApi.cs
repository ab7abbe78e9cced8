using System.Globalization;
using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Exchange.Calendars;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;

namespace Auxilium.Web.Api;

/// <summary>Hours worked, and one's tasks as a calendar.</summary>
internal static class WeekApi
{
    private const int MostBytes = 1024;

    /// <summary>Hours worked are hours of the clock.</summary>
    private static readonly WorkUnits HoursOfADay = new(24, 7);

    public static void Map(WebApplication app, RouteGroupBuilder api)
    {
        api.MapPut("/projects/{id:guid}/tasks/{task}/hours", SayAsync)
            .WithTags("Hours")
            .RequireAuthorization(Rights.Report)
            .WithSummary(
                "Says how long the person who asks worked on a task of theirs on a day, in place of what was said before. The body is "
                    + "{ \"day\": \"2027-05-13\", \"hours\": 2.5 }; hours may be a text such as \"1h30\"."
            )
            .Accepts<object>("application/json")
            .Produces<HoursSaid>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        app.MapGet("/feeds/{secret}.ics", FeedAsync).AllowAnonymous().RequireRateLimiting(Limits.Doors).ExcludeFromDescription();
    }

    private static async Task<IResult> SayAsync(
        Guid id,
        string task,
        HttpContext context,
        PlanStore store,
        Hours hours,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        if (
            body.RootElement.ValueKind != JsonValueKind.Object
            || !body.RootElement.TryGetProperty("day", out var day)
            || day.ValueKind != JsonValueKind.String
            || !DateOnly.TryParseExact(day.GetString(), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date)
            || date.Year is < 1990 or > 2100
        )
            return Problems.Bad("“day” must be a day such as 2027-05-13.", "day");
        if (!TryHours(body.RootElement, out var minutes, out var problem))
            return Problems.Bad(problem, "hours");
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        if (plan.Schedule.Plan.Find(task) is null)
            return Problems.Bad("This row is no longer in the plan: somebody has removed it.", "taskGone");
        if (!OwnWork.IsTheirs(plan.Schedule.Plan, task, context.User.PersonId()))
            return Problems.MayNot("Hours are for one's own tasks: this is somebody else's.");
        await hours.SayAsync(id, task, context.User.PersonId(), date, minutes, cancel);
        return Results.Ok(new HoursSaid(minutes, DurationText.Of(new WorkMinutes(minutes), HoursOfADay)));
    }

    /// <summary>Hours as a number, or as people type them: 1,5 or 1h30 or 45m.</summary>
    private static bool TryHours(JsonElement body, out int minutes, out string problem)
    {
        (minutes, problem) = (0, "A day has 0 to 24 hours: type how many of them you worked, such as 2.5 or 1h30.");
        if (!body.TryGetProperty("hours", out var value))
            return false;
        decimal hours;
        if (value.ValueKind == JsonValueKind.String)
        {
            if (!LengthText.TryParse(value.GetString(), out var length, out _, out problem, HoursOfADay, LengthUnit.Hours))
                return false;
            problem = "A day has 0 to 24 hours: type how many of them you worked, such as 2.5 or 1h30.";
            if (!HoursOfADay.TryGetMinutes(length, out var exact))
                return false;
            hours = exact.Count / 60m;
        }
        else if (value.ValueKind != JsonValueKind.Number || !value.TryGetDecimal(out hours))
            return false;
        minutes = hours is < 0 or > 24 ? -1 : (int)Math.Round(hours * 60);
        return minutes >= 0;
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
                    $"{t.Task}.{t.Project}@auxilium",
                    t.Name,
                    t.ProjectName,
                    t.Start!.Value.Date,
                    t.Finish!.Value.LastDateFrom(t.Start.Value),
                    t.IsOfHours ? (clock.ToUtc(t.Start.Value.ToDateTime()), clock.ToUtc(t.Finish.Value.ToDateTime())) : null,
                    t.State == TaskState.Done,
                    t.IsOwner,
                    address.Of($"/projects/{t.Project}#{t.Task}")
                )),
            clock.GetUtcNow().UtcDateTime
        );
        context.Response.Headers.CacheControl = "private, no-store";
        return Results.Text(text, "text/calendar; charset=utf-8");
    }
}

/// <param name="Minutes">Worked on that day, as they are kept.</param>
/// <param name="Text">The same in words, such as "1.5 hours".</param>
public sealed record HoursSaid(int Minutes, string Text);
