using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Load;

/// <summary>Minutes of work on a day.</summary>
public readonly record struct DayMinutes(int Day, int Minutes);

/// <summary>What somebody has left to do of a task, with the days that it may lie on. Where it lies depends on today (rule A3).</summary>
/// <param name="Task">Id of the task.</param>
/// <param name="Person">Id of the person; of a task that nobody has taken, the team or role that it is for.</param>
/// <param name="IsOpen">Nobody has taken it.</param>
/// <param name="Left">Minutes of work.</param>
/// <param name="Share">The part of their time that they give to it.</param>
/// <param name="Start">Of the task.</param>
/// <param name="Finish">Of the task.</param>
/// <param name="Days">The days it is worked on, as whoever does it can (rule A2), in order.</param>
/// <param name="Otherwise">The later days of the task, for when all of those have passed.</param>
public sealed record AssignedWork(
    string Task,
    string Person,
    bool IsOpen,
    decimal Left,
    decimal Share,
    PlanTime Start,
    PlanTime Finish,
    ImmutableArray<DayMinutes> Days,
    ImmutableArray<DayMinutes> Otherwise
)
{
    private const char Fields = '\t';

    /// <summary>What is left of a task, by who does it; nothing of phases, of inactive and of finished tasks.</summary>
    public static IEnumerable<AssignedWork> Of(Schedule schedule, Capacities capacities, int row)
    {
        var task = schedule.Plan.Tasks[row];
        if (!schedule.IsLeaf(row) || task.IsFinished)
            yield break;
        var length = schedule.LengthOf(row).Count;
        if (task.Assignments.IsEmpty)
        {
            if (
                Facts.PlainFacts.Role.Of(task) is { } role
                && Effort.Of(schedule.Plan, task, length) * (1 - task.Progress) is > 0 and var open
            )
                yield return new AssignedWork(
                    task.Id,
                    role,
                    true,
                    open,
                    1,
                    schedule.StartOf(row),
                    schedule.FinishOf(row),
                    Counted(schedule.CalendarOf(row), schedule.SegmentsOf(row)),
                    []
                );
            yield break;
        }
        foreach (var assignment in task.Assignments)
            if (Effort.Of(schedule.Plan, task, assignment, length) * (1 - task.Progress) is > 0 and var left)
                yield return Of(schedule, capacities, row, assignment, left);
    }

    /// <summary>So much work of somebody on the days of a task, whatever has been done of it.</summary>
    internal static AssignedWork Whole(Schedule schedule, Capacities capacities, int row, Assignment assignment, decimal minutes) =>
        Of(schedule, capacities, row, assignment, minutes);

    private static AssignedWork Of(Schedule schedule, Capacities capacities, int row, Assignment assignment, decimal left)
    {
        var task = schedule.Plan.Tasks[row];
        var (start, finish) = (schedule.StartOf(row), schedule.FinishOf(row));
        var worked = Counted(schedule.CalendarOf(row), schedule.SegmentsOf(row));
        ImmutableArray<DayMinutes> days = worked,
            otherwise = [];
        // Helpers, and whoever watches something that runs day and night, work when they are there.
        if (task.AroundTheClock || assignment.Person != task.Owner)
        {
            days = Counted(capacities.CalendarOf(assignment.Person), [new(start, finish)]);
            var last = days.IsEmpty ? int.MinValue : days[^1].Day;
            otherwise = [.. worked.Where(day => day.Day > last)];
        }
        return new AssignedWork(task.Id, assignment.Person, false, left, assignment.Share, start, finish, days, otherwise);
    }

    /// <summary>The working minutes of some stretches, by day.</summary>
    private static ImmutableArray<DayMinutes> Counted(WorkTime calendar, IReadOnlyList<Segment> stretches)
    {
        var days = ImmutableArray.CreateBuilder<DayMinutes>(
            stretches.Count == 1 ? Math.Max(0, stretches[0].Finish.Day - stretches[0].Start.Day + 1) : 4
        );
        foreach (var (start, finish) in stretches)
        {
            var before = calendar.Worked(start);
            for (var day = start.Day; day <= finish.Day; day++)
            {
                var ends = day < finish.Day ? new PlanTime((day + 1) * PlanTime.MinutesPerDay) : finish;
                var after = calendar.Worked(ends);
                if (after > before)
                {
                    if (days.Count > 0 && days[^1].Day == day)
                        days[^1] = new DayMinutes(day, days[^1].Minutes + after - before);
                    else
                        days.Add(new DayMinutes(day, after - before));
                }
                before = after;
            }
        }
        return days.DrainToImmutable();
    }

    /// <summary>Lays it on days.</summary>
    /// <param name="from">Today, or the day of the status date.</param>
    /// <param name="own">The working time of whoever does it.</param>
    /// <param name="lay">Takes each day, and the minutes of work on it.</param>
    public void Lay(DateOnly from, WorkTime own, Action<DateOnly, decimal> lay)
    {
        var first = from.DayNumber;
        if (Finish <= PlanTime.On(from))
            CatchUp(from, own, lay);
        else if (!Spread(Days, first, lay) && !Spread(Otherwise, first, lay))
            Spread(OnTheClock(), first, lay);
    }

    private bool Spread(ImmutableArray<DayMinutes> days, int first, Action<DateOnly, decimal> lay)
    {
        var whole = 0L;
        foreach (var (day, minutes) in days)
            if (day >= first)
                whole += minutes;
        if (whole == 0)
            return false;
        foreach (var (day, minutes) in days)
            if (day >= first)
                lay(DateOnly.FromDayNumber(day), Left * minutes / whole);
        return true;
    }

    /// <summary>All minutes from start to finish: nobody works in any of them. What takes no time lies on its day.</summary>
    private ImmutableArray<DayMinutes> OnTheClock() =>
        Start == Finish
            ? [new DayMinutes(Finish.LastDateFrom(Start).DayNumber, 1)]
            : Counted(WorkTime.AroundTheClock, [new Segment(Start, Finish)]);

    /// <summary>What is left of a task that should be over is done as soon as whoever does it can.</summary>
    private void CatchUp(DateOnly from, WorkTime own, Action<DateOnly, decimal> lay)
    {
        var minutes = Left / Share;
        for (var at = own.Next(PlanTime.On(from)); minutes > 0 && at.IsInRange; at = own.Next(PlanTime.On(at.Date.AddDays(1))))
        {
            var today = Math.Min(minutes, own.WorkedOn(at.Date));
            lay(at.Date, today * Share);
            minutes -= today;
        }
    }

    /// <summary>As one line of text, which <see cref="Read"/> understands.</summary>
    public string Kept() =>
        string.Join(
            Fields,
            Person,
            IsOpen ? "1" : "",
            Left.ToString(CultureInfo.InvariantCulture),
            Share.ToString(CultureInfo.InvariantCulture),
            Start.Minutes.ToString(CultureInfo.InvariantCulture),
            Finish.Minutes.ToString(CultureInfo.InvariantCulture),
            Kept(Days),
            Kept(Otherwise)
        );

    /// <summary>Days one after another with as many minutes each are written once: <c>740123 480x3</c>.</summary>
    private static string Kept(ImmutableArray<DayMinutes> days)
    {
        var text = new System.Text.StringBuilder();
        for (var at = 0; at < days.Length; )
        {
            var (day, minutes) = days[at];
            var times = 1;
            while (at + times < days.Length && days[at + times] == new DayMinutes(day + times, minutes))
                times++;
            if (at > 0)
                text.Append(' ');
            text.Append(CultureInfo.InvariantCulture, $"{day}:{minutes}x{times}");
            at += times;
        }
        return text.ToString();
    }

    /// <param name="task">Id of the task.</param>
    /// <param name="kept">What <see cref="Kept()"/> gave.</param>
    public static AssignedWork Read(string task, string kept)
    {
        var fields = kept.Split(Fields);
        return new AssignedWork(
            task,
            fields[0],
            fields[1].Length > 0,
            decimal.Parse(fields[2], CultureInfo.InvariantCulture),
            decimal.Parse(fields[3], CultureInfo.InvariantCulture),
            new PlanTime(Whole(fields[4])),
            new PlanTime(Whole(fields[5])),
            ReadDays(fields[6]),
            ReadDays(fields[7])
        );
    }

    private static ImmutableArray<DayMinutes> ReadDays(string text)
    {
        var days = ImmutableArray.CreateBuilder<DayMinutes>();
        foreach (var run in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var (colon, times) = (run.IndexOf(':'), run.IndexOf('x'));
            var (day, minutes) = (Whole(run.AsSpan(0, colon)), Whole(run.AsSpan(colon + 1, times - colon - 1)));
            for (var more = 0; more < Whole(run.AsSpan(times + 1)); more++)
                days.Add(new DayMinutes(day + more, minutes));
        }
        return days.DrainToImmutable();
    }

    private static int Whole(ReadOnlySpan<char> text) => int.Parse(text, CultureInfo.InvariantCulture);
}
