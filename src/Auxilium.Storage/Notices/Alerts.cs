using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Notices;

/// <summary>
/// What people are told because of the day it is: what starts soon or is late to start, milestones ahead, drift, and reminders. Each is
/// told once for the date that it is about, however often this looks.
/// </summary>
internal sealed class Alerts(AuxiliumDb db, ProjectedPlanRow plan, Guid project, DateOnly today, CancellationToken cancel)
{
    private readonly List<NoticeBook.News> _news = [];
    private Dictionary<string, NoticeWishes> _wishes = [];
    private WorkUnits _units = WorkUnits.Standard;

    /// <summary>Everything there is to tell of a plan today. The caller saves and commits.</summary>
    public async Task TellAsync(DateTime now)
    {
        var owner = await (
            from p in db.Projects
            join live in db.Plans on p.Id equals live.ProjectId
            where live.Id == plan.PlanId
            select new
            {
                p.Coordinator,
                p.Status,
                live.HoursPerDay,
                live.DaysPerWeek,
            }
        ).SingleAsync(cancel);
        // Nobody is pressed about what rests.
        if (owner.Status is ProjectStatus.OnHold or ProjectStatus.Finished)
            return;
        _units = new WorkUnits(owner.HoursPerDay, owner.DaysPerWeek);
        var reminders = await RemindersAsync();
        List<string> reminded = [.. reminders.Keys];
        var near = PlanTime.On(today.AddDays(NoticeWishes.MostDays + 1)).ToDateTime();
        var tasks = await db
            .ProjectedTasks.AsNoTracking()
            .Where(t =>
                t.PlanId == plan.PlanId && t.IsLeaf && !t.IsFinished && t.Start != null && (t.Start < near || reminded.Contains(t.TaskId))
            )
            .OrderBy(t => t.Rank)
            .ToListAsync(cancel);
        var people = tasks
            .SelectMany(t => t.People)
            .Concat(reminders.Values.SelectMany(r => r).SelectMany(r => r.People))
            .Append(owner.Coordinator)
            .OfType<string>()
            .Distinct()
            .ToList();
        _wishes = (
            await db.Users.Where(u => people.Contains(u.Id)).Select(u => new { u.Id, u.NoticeWishes }).ToListAsync(cancel)
        ).ToDictionary(u => u.Id, u => NoticeWishes.Read(u.NoticeWishes));
        foreach (var row in tasks)
        {
            var task = Projections.Read(row);
            TellOfTask(task, row.People, owner.Coordinator);
            Remind(task, row.People, reminders.GetValueOrDefault(task.Id) ?? []);
        }
        TellOfDrift(owner.Coordinator);
        await NoticeBook.TellAsync(db, project, _news, now, cancel);
    }

    private async Task<Dictionary<string, IReadOnlyList<Reminder>>> RemindersAsync()
    {
        var rows = await db
            .Tasks.FromSql($"select * from tasks where plan_id = {plan.PlanId} and facts -> 'Reminders' is not null")
            .Select(t => new { t.Id, t.Facts })
            .ToListAsync(cancel);
        return rows.ToDictionary(t => t.Id, t => (IReadOnlyList<Reminder>)(TaskFactsRow.Read(t.Facts!).Reminders ?? []));
    }

    private void TellOfTask(ProjectedTask task, string[] people, string? coordinator)
    {
        var (state, begins) = (task.StateOn(today), task.Start!.Value.Date);
        var day = Dates.Day(task.Start.Value);
        foreach (var person in people)
        {
            var wishes = WishesOf(person);
            if (!task.IsMilestone && !task.IsStarted && IsWithin(begins, wishes.StartDays))
                Tell(
                    person,
                    NoticeKind.StartsSoon,
                    task,
                    begins == today ? $"{task.Name} starts today." : $"{task.Name} starts on {day}.",
                    $"starts {begins:O}"
                );
        }
        var followers = coordinator is { } c && WishesOf(c).AllMine && !people.Contains(c) ? people.Append(c) : people;
        foreach (var person in followers)
        {
            if (state == TaskState.LateToStart)
                Tell(person, NoticeKind.LateToStart, task, $"{task.Name} is late to start: it was to start on {day}.", $"late {begins:O}");
            if (state == TaskState.Overdue && !people.Contains(person))
                Tell(
                    person,
                    NoticeKind.Overdue,
                    task,
                    $"{task.Name} is overdue: it was to finish on {Dates.Day(PlanTime.On(task.LastDay!.Value))}.",
                    $"overdue {task.LastDay:O}"
                );
        }
        if (!task.IsMilestone)
            return;
        var said = task.DeliveredBy is { } by
            ? $"{by} is to deliver {task.Name} {On(begins)}: ask whether it is on its way."
            : $"The milestone {task.Name} is {(begins == today ? "due today" : $"due {On(begins)}")}"
                + $"{(Gathered.Said(task.Gathers, task.GathersLeft) is { } left ? $": {left}" : "")}.";
        foreach (var person in people.Append(coordinator).OfType<string>().Distinct())
            if (IsWithin(begins, WishesOf(person).MilestoneDays))
                Tell(person, NoticeKind.MilestoneSoon, task, said, $"milestone {begins:O}");

        string On(DateOnly date) => date == today ? "today" : $"on {day}";
    }

    private void Remind(ProjectedTask task, string[] people, IReadOnlyList<Reminder> reminders)
    {
        foreach (var reminder in reminders)
        {
            var end = reminder.Before == TaskEnd.Start ? task.Start!.Value.Date : task.LastDay!.Value;
            if (
                today < reminder.DayFor(task.Start!.Value, task.Finish!.Value)
                || today > end
                || reminder.Before == TaskEnd.Start && task.IsStarted
            )
                continue;
            var does =
                task.IsMilestone ? "is"
                : reminder.Before == TaskEnd.Start ? "starts"
                : "finishes";
            var when = end == today ? "today" : $"on {Dates.Day(PlanTime.On(end))}";
            foreach (var person in reminder.People.IsDefaultOrEmpty ? people : [.. reminder.People])
                Tell(
                    person,
                    NoticeKind.Reminder,
                    task,
                    $"Reminder: {task.Name} {does} {when}.",
                    $"reminder {reminder.Before} {reminder.Days} {end:O}"
                );
        }
    }

    private void TellOfDrift(string? coordinator)
    {
        if (coordinator is null || plan is not { Drift: > 0, Measure: { } measure })
            return;
        if (plan.Drift.Value <= WishesOf(coordinator).DriftDays * _units.MinutesPerDay)
            return;
        var finish = PlanTime.FromDateTime(plan.Finish);
        _news.Add(
            new(
                coordinator,
                NoticeKind.Drift,
                null,
                $"The finish is {Dates.FinishDay(finish)} now, "
                    + $"{RippleText.Against(new WorkMinutes(plan.Drift.Value), _units)} “{measure}”.",
                $"{project} drift {finish.LastDate:O} {measure}"
            )
        );
    }

    private bool IsWithin(DateOnly day, int days) => day >= today && day.DayNumber - today.DayNumber <= days;

    private void Tell(string person, NoticeKind kind, ProjectedTask task, string text, string once) =>
        _news.Add(new(person, kind, task.Id, text, $"{project} {task.Id} {once}"));

    private NoticeWishes WishesOf(string person) => _wishes.GetValueOrDefault(person) ?? new NoticeWishes();
}
