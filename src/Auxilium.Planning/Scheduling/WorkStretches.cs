using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>The stretches in which a leaf is worked on, between its pauses (rules L3, F4).</summary>
internal static class WorkStretches
{
    public static IReadOnlyList<Segment> Of(Schedule schedule, int row)
    {
        var task = schedule.Plan.Tasks[row];
        var whole = new Segment(schedule.StartOf(row), schedule.FinishOf(row));
        if (task.IsFinished || task.Pinned?.Finish is not null)
            return [whole];
        var (calendar, length) = (schedule.CalendarOf(row), schedule.LengthOf(row).Count);
        var (project, units) = (schedule.Plan.Project, schedule.Plan.Project.Units);
        if (!task.IsStarted)
            return task.IsSplit ? Cut(units, task, calendar, whole, 0, length) : [whole];
        var work = InProgressWork.Of(project, task, calendar, length);
        if (!work.Moved)
            return task.IsSplit ? Cut(units, task, calendar, whole, 0, work.Done + work.Left) : [whole];
        var done = new Segment(whole.Start, work.Reached);
        var rest = new Segment(calendar.Next(project.StatusDate!.Value), whole.Finish);
        return
        [
            .. work.Reached > whole.Start ? Cut(units, task, calendar, done, 0, work.Done) : [],
            .. Cut(units, task, calendar, rest, work.Done, work.Done + work.Left),
        ];
    }

    /// <summary>
    /// A stretch cut at the pauses that come after more than <paramref name="from"/> and less than <paramref name="to"/> minutes of work.
    /// </summary>
    private static List<Segment> Cut(WorkUnits units, PlanTask task, WorkTime calendar, Segment whole, int from, int to)
    {
        var stretches = new List<Segment>();
        var (start, worked, at) = (whole.Start, calendar.Worked(whole.Start), from);
        foreach (var split in task.IsSplit ? task.Splits : [])
        {
            var after = units.Minutes(split.After).Count;
            if (after <= at || after >= to)
                continue;
            worked += after - at;
            stretches.Add(new Segment(start, calendar.MinuteEnd(worked)));
            worked += units.Minutes(split.For).Count;
            (start, at) = (calendar.MinuteStart(worked), after);
        }
        stretches.Add(new Segment(start, whole.Finish));
        return stretches;
    }
}
