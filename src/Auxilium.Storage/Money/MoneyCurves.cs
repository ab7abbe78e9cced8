using Auxilium.Planning.Calendars;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Storage.Plans;

namespace Auxilium.Storage.Money;

/// <summary>Planned value, earned value and actual cost in the course of a project (rule V7).</summary>
/// <param name="Baseline">The name of what it is measured by.</param>
public sealed record MoneyCurve(string? Baseline, IReadOnlyList<CurvePoint> Points);

/// <param name="Day">Up to and with which day.</param>
/// <param name="Ev">Only of what lies behind, as the actual cost.</param>
/// <param name="IsReckoned">Whether there was no plan yet then: how far the work was is reckoned from its dates.</param>
public readonly record struct CurvePoint(DateOnly Day, decimal Pv, decimal? Ev, decimal? Ac, bool IsReckoned);

/// <summary>Works out curves: what lies behind as the plan was then.</summary>
public sealed class MoneyCurves(PastPlans past, TimeProvider clock)
{
    private const int MostWeeks = 520;

    public async Task<MoneyCurve> OfAsync(StoredPlan plan, CountedMoney counted, CancellationToken cancel = default)
    {
        var money = counted.Money;
        if (plan.Schedule.Plan.Measure is not { } measure || counted.Earned is not { } now)
            return new MoneyCurve(null, []);
        var days = await past.DaysAsync(plan.Project, clock.LocalTimeZone, cancel);
        var (first, last) = (measure.Start < money.Schedule.Start ? measure.Start : money.Schedule.Start, Later(measure, money));
        var (points, known) = (new List<CurvePoint>(), new Dictionary<int, Schedule>());
        foreach (var day in WeekEnds(first.Date, last, money.AsOf))
        {
            var planned = now.PlannedAt(PlanTime.On(day.AddDays(1)));
            if (day > money.AsOf)
                points.Add(new CurvePoint(day, planned, null, null, false));
            else if (day == money.AsOf)
                points.Add(new CurvePoint(day, planned, now.Ev, now.Ac, false));
            else
            {
                var version = days.LastOrDefault(d => d.Day <= day).Version;
                var schedule = version == 0 ? money.Schedule : await ThenAsync(plan, version, known, cancel);
                // A plan that was brought in knows of work from before; one that is shown for another today, of work from after.
                var isReckoned = version == 0 || schedule.Plan.Tasks.Any(task => HappensAfter(task, day));
                var then = new EarnedValue(counted.On(isReckoned ? Reckoned(schedule, day, money.AsOf) : schedule, day), measure);
                points.Add(new CurvePoint(day, planned, then.Ev, then.Ac, isReckoned));
            }
        }
        return new MoneyCurve(measure.Name, points);
    }

    private async Task<Schedule> ThenAsync(StoredPlan plan, int version, Dictionary<int, Schedule> known, CancellationToken cancel)
    {
        if (known.TryGetValue(version, out var schedule))
            return schedule;
        return known[version] = (await past.FindAsync(plan.Project, version, cancel))?.Plan.Schedule ?? plan.Schedule;
    }

    private static bool HappensAfter(PlanTask task, DateOnly day) => task.ActualStart?.Date > day || task.ActualFinish?.LastDate > day;

    /// <summary>
    /// The plan as it may have been on a day: what had begun and what was finished, and of what was under way as much as time had passed.
    /// </summary>
    private static Schedule Reckoned(Schedule now, DateOnly day, DateOnly today)
    {
        var (end, until) = (PlanTime.On(day.AddDays(1)), PlanTime.On(today.AddDays(1)));
        var tasks = now.Plan.Tasks.Select(
            (task, row) =>
            {
                if (task.ActualStart is not { } began || began >= end)
                    return task with { ActualStart = null, ActualFinish = null, Progress = 0, Remaining = null };
                if (task.ActualFinish <= end)
                    return task;
                var calendar = now.CalendarOf(row);
                var whole = Math.Max(1, calendar.Between(began, task.ActualFinish ?? until));
                var part = Math.Clamp((decimal)calendar.Between(began, end) / whole, 0, 1);
                return task with { ActualFinish = null, Remaining = null, Progress = Math.Min(task.Progress * part, 0.99m) };
            }
        );
        return Scheduler.Calculate(now.Plan with { Tasks = [.. tasks] });
    }

    private static DateOnly Later(Baseline measure, PlanMoney money)
    {
        var finish = measure.Finish > money.Schedule.Finish ? measure.Finish : money.Schedule.Finish;
        return finish.LastDate > money.AsOf ? finish.LastDate : money.AsOf;
    }

    /// <summary>The day before the first, and the Sundays up to the last, with the day that is looked at among them.</summary>
    private static SortedSet<DateOnly> WeekEnds(DateOnly first, DateOnly last, DateOnly asOf)
    {
        // Before anything begins, nothing was to be done.
        var days = new SortedSet<DateOnly> { first.AddDays(-1) };
        if (asOf >= first)
            days.Add(asOf);
        var day = first.AddDays((7 - (int)first.DayOfWeek) % 7);
        for (var weeks = 0; weeks < MostWeeks; weeks++, day = day.AddDays(7))
        {
            days.Add(day);
            if (day >= last)
                break;
        }
        return days;
    }
}
