using System.ComponentModel;
using System.Globalization;
using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Hours worked: typed in, or counted by a timer.</summary>
internal static class HoursApi
{
    private const int MostBytes = 1024;

    /// <summary>Hours worked are hours of the clock.</summary>
    private static readonly WorkUnits HoursOfADay = new(24, 7);

    public static void Map(RouteGroupBuilder api)
    {
        api.MapPut("/projects/{id:guid}/tasks/{task}/hours", SayAsync)
            .WithTags("Hours")
            .RequireAuthorization(Rights.Report)
            .WithSummary(
                "Says how long somebody worked on a task on a day, in place of what was said before. The body is { \"day\": "
                    + "\"2027-05-13\", \"hours\": 2.5 }; hours may be a text such as \"1h30\". Who coordinates the project may name a "
                    + "“person”; others say it of themselves, on their own tasks."
            )
            .Accepts<object>("application/json")
            .Produces<HoursSaid>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        api.MapGet("/projects/{id:guid}/hours", OfProjectAsync)
            .WithTags("Hours")
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("Who worked how long on which task of a project, day by day.")
            .Produces<IReadOnlyList<HoursDocument>>()
            .ProducesProblem(400)
            .ProducesProblem(404);
        api.MapGet("/projects/{id:guid}/used", UsedAsync)
            .WithTags("Hours")
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("Hours worked on each row of a plan beside the work it was to take.")
            .Produces<IReadOnlyList<UsedDocument>>()
            .ProducesProblem(404);
        api.MapGet("/timer", TimerAsync)
            .WithTags("Hours")
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary("The timer that the person who asks runs; nothing where none does.")
            .Produces<TimerDocument>()
            .Produces(204);
        api.MapPut("/projects/{id:guid}/tasks/{task}/timer", StartAsync)
            .WithTags("Hours")
            .RequireAuthorization(Rights.Report)
            .WithSummary(
                "Starts the timer of the person who asks on a task. One that runs on another task is stopped, and adds its " + "minutes."
            )
            .Produces<TimerDocument>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        api.MapPost("/timer/stop", StopAsync)
            .WithTags("Hours")
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary(
                "Stops the timer of the person who asks, which adds its minutes to the days it ran on. After more than 16 hours it asks "
                    + "for { \"hours\": 7.5 }, how long the work really took; 0 adds nothing."
            )
            .Accepts<object>("application/json")
            .Produces<TimerStopped>()
            .ProducesProblem(400)
            .ProducesProblem(409);
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
        using var json = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        var body = json.RootElement;
        if (!TryDay(body, out var date))
            return Problems.Bad("“day” must be a day such as 2027-05-13.", "day");
        if (!TryHours(body, out var minutes, out var problem))
            return Problems.Bad(problem, "hours");
        var me = context.User.PersonId();
        var person = body.TryGetProperty("person", out var named) && named.ValueKind == JsonValueKind.String ? named.GetString()! : me;
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        var plan = stored.Schedule.Plan;
        if (person != me && context.RoleHere() != ProjectRole.Coordinator)
            return Problems.MayNot("Who coordinates the project enters the hours of others: these are somebody else's.");
        // Hours on what is gone can be put right, and new ones cannot be entered.
        var name = plan.Find(task)?.Name ?? await hours.NameOfAsync(id, task, person, cancel);
        if (name is null)
            return Problems.Bad(
                "This task is no longer in the plan: somebody has removed it. Enter the hours on another one.",
                "taskGone"
            );
        if (plan.FindPerson(person) is null && await hours.NameOfAsync(id, task, person, cancel) is null)
            return Problems.Bad("This person is not on the plan: give them a task first.", "person");
        if (
            context.RoleHere() != ProjectRole.Coordinator
            && !OwnWork.IsTheirs(plan, task, me)
            && await hours.NameOfAsync(id, task, me, cancel) is null
        )
            return Problems.MayNot("Hours are for one's own tasks: this is somebody else's.");
        if (await hours.SayAsync(id, name, new WorkedHours(task, person, date, minutes), me, cancel) is { } others)
            return Problems.Bad(
                $"That makes {Said(others + minutes)} on {Dates.Day(PlanTime.On(date))}, and a day has 24: {Said(others)} are on other "
                    + $"tasks, so at most {Said(WorkedHours.MostMinutesADay - others)} are left for this one.",
                "hours"
            );
        return Results.Ok(new HoursSaid(minutes, Said(minutes)));
    }

    private static async Task<IResult> OfProjectAsync(
        Guid id,
        PlanStore store,
        Hours hours,
        CancellationToken cancel,
        [Description("The first day, such as 2027-05-03.")] string? from = null,
        [Description("The last day.")] string? to = null
    )
    {
        if (!TryDay(from, DateOnly.MinValue, out var first))
            return Problems.Bad("“from” must be a day such as 2027-05-13.", "from");
        if (!TryDay(to, DateOnly.MaxValue, out var last))
            return Problems.Bad("“to” must be a day such as 2027-05-13.", "to");
        if (await store.LoadAsync(id, cancel) is null)
            return Problems.NoSuchProject();
        var entries = await hours.BetweenAsync([id], [], first, last, cancel);
        return Results.Ok(entries.OrderBy(h => h.Day).Select(HoursDocument.Of));
    }

    private static async Task<IResult> UsedAsync(Guid id, PlanStore store, Hours hours, CancellationToken cancel) =>
        await store.LoadAsync(id, cancel) is { } plan
            ? Results.Ok(UsedDocument.Of(plan.Schedule, await hours.ByTaskAsync(id, cancel)))
            : Problems.NoSuchProject();

    private static async Task<IResult> TimerAsync(HttpContext context, Timers timers, TimeProvider clock, CancellationToken cancel) =>
        await timers.OfAsync(context.User.PersonId(), cancel) is { } timer
            ? Results.Ok(TimerDocument.Of(timer, clock, null))
            : Results.NoContent();

    private static async Task<IResult> StartAsync(
        Guid id,
        string task,
        HttpContext context,
        PlanStore store,
        Timers timers,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        var (plan, me) = (stored.Schedule.Plan, context.User.PersonId());
        if (plan.Find(task) is not { } found)
            return Problems.Bad("This task is no longer in the plan: somebody has removed it.", "taskGone");
        if (plan.Index.IsPhase(plan.Index.RowOf(task)))
            return Problems.Bad("A phase has the hours of its tasks: start the timer on one of them.", "phase");
        if (context.RoleHere() != ProjectRole.Coordinator && !OwnWork.IsTheirs(plan, task, me))
            return Problems.MayNot("A timer is for one's own tasks: this is somebody else's.");
        var before = await timers.StartAsync(me, id, task, found.Name, cancel);
        if (before is { IsForgotten: true })
            return Forgotten(before.Timer, clock);
        return Results.Ok(TimerDocument.Of((await timers.OfAsync(me, cancel))!, clock, before is null ? null : Told(before)));
    }

    private static async Task<IResult> StopAsync(HttpContext context, Timers timers, TimeProvider clock, CancellationToken cancel)
    {
        int? minutes = null;
        if (context.Request.ContentLength is > 0)
        {
            using var json = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
            if (json.RootElement.ValueKind == JsonValueKind.Object && json.RootElement.TryGetProperty("hours", out _))
            {
                if (!TryHours(json.RootElement, out var said, out var problem))
                    return Problems.Bad(problem, "hours");
                minutes = said;
            }
        }
        return await timers.StopAsync(context.User.PersonId(), minutes, cancel) switch
        {
            null => Problems.Gone("No timer runs: it was stopped in another window.", "noTimer"),
            { IsForgotten: true } stopped => Forgotten(stopped.Timer, clock),
            { } stopped => Results.Ok(
                new TimerStopped(Told(stopped), stopped.Booked.Sum(b => b.Minutes), stopped.Timer.Project, stopped.Timer.Task)
            ),
        };
    }

    private static IResult Forgotten(RunningTimer timer, TimeProvider clock)
    {
        var ran = (int)(clock.GetUtcNow().UtcDateTime - timer.StartedAt).TotalMinutes;
        return Problems.Gone(
            $"The timer on {timer.TaskName} ran for {Said(ran / 60 * 60)}. Type how many hours the work really took.",
            "forgotten"
        );
    }

    /// <summary>What a timer did when it was stopped.</summary>
    private static string Told(StoppedTimer stopped)
    {
        var name = stopped.Timer.TaskName;
        var days = stopped.Booked.Select(b => $"{Said(b.Minutes)} on {Dates.Day(PlanTime.On(b.Day))}").ToList();
        var full = stopped.Left == 0 ? "" : $" {Said(stopped.Left)} had no room: a day has 24 hours.";
        return days.Count == 0
            ? $"The timer on {name} stopped. Nothing was added.{full}"
            : $"The timer on {name} stopped: {ListText.Listed(days)} added.{full}";
    }

    /// <summary>45 minutes, 1.5 hours.</summary>
    private static string Said(int minutes) =>
        minutes is > 0 and < 60 ? new Length(minutes, LengthUnit.Minutes).InWords() : ComparisonText.HoursInWords(minutes);

    private static bool TryDay(JsonElement body, out DateOnly day)
    {
        day = default;
        return body.ValueKind == JsonValueKind.Object
            && body.TryGetProperty("day", out var text)
            && text.ValueKind == JsonValueKind.String
            && TryDay(text.GetString(), default, out day)
            && day.Year is >= 1990 and <= 2100;
    }

    private static bool TryDay(string? text, DateOnly otherwise, out DateOnly day)
    {
        day = otherwise;
        return text is null || DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out day);
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
}

/// <param name="Minutes">Worked on that day, as they are kept.</param>
/// <param name="Text">The same in words, such as "1.5 hours".</param>
public sealed record HoursSaid(int Minutes, string Text);

/// <param name="Minutes">Worked on it.</param>
/// <param name="Share">The same as a part of its effort, 1 for all of it; <c>null</c> without effort.</param>
/// <param name="IsEating">Whether more of its effort is used than of its work is done.</param>
/// <param name="Said">What to tell of it.</param>
public sealed record UsedDocument(string Task, int Minutes, decimal? Share, bool IsEating, string Said)
{
    internal static IReadOnlyList<UsedDocument> Of(Schedule schedule, IReadOnlyDictionary<string, int> worked) =>
        [
            .. UsedHours
                .Of(schedule, worked)
                .Select(u => new UsedDocument(
                    schedule.Plan.Tasks[u.Row].Id,
                    u.Used.Worked,
                    u.Used.Share is { } share ? Math.Round(share, 4) : null,
                    u.Used.IsEating,
                    u.Used.Said
                )),
        ];
}

/// <param name="TaskName">What the task is called now, or was when they were entered.</param>
public sealed record HoursDocument(string Task, string TaskName, string Person, string PersonName, string Day, int Minutes)
{
    internal static HoursDocument Of(KnownHours hours) =>
        new(
            hours.Task,
            hours.TaskName,
            hours.Person,
            hours.PersonName,
            hours.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            hours.Minutes
        );
}

/// <param name="Seconds">How long it has run.</param>
/// <param name="Stopped">What the timer did that it took the place of, in a sentence.</param>
public sealed record TimerDocument(Guid Project, string ProjectName, string Task, string TaskName, int Seconds, string? Stopped)
{
    internal static TimerDocument Of(RunningTimer timer, TimeProvider clock, string? stopped) =>
        new(
            timer.Project,
            timer.ProjectName,
            timer.Task,
            timer.TaskName,
            Math.Max(0, (int)(clock.GetUtcNow().UtcDateTime - timer.StartedAt).TotalSeconds),
            stopped
        );
}

/// <param name="Sentence">What it added.</param>
/// <param name="Minutes">The same in minutes.</param>
public sealed record TimerStopped(string Sentence, int Minutes, Guid Project, string Task);
