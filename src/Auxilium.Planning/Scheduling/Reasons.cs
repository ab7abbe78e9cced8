using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Scheduling;

/// <summary>A step of the way from a date back to what it all hangs on (rule Y1).</summary>
/// <param name="Task">The task whose date is held.</param>
/// <param name="At">Its start or finish.</param>
/// <param name="OfFinish">Whether it is the finish.</param>
/// <param name="Kind">What holds it.</param>
/// <param name="By">For a link, the task at its other end: the next step is about that one.</param>
/// <param name="Sentence">In words.</param>
public sealed record Reason(string Task, PlanTime At, bool OfFinish, DriverKind Kind, string? By, string Sentence);

/// <summary>Why is it there: the chain of drivers from a date back to a start, a finish or a fixed date.</summary>
public static class Reasons
{
    /// <summary>
    /// What holds the start of a row. Of a phase: of the row in it that starts first. Empty for an inactive row.
    /// </summary>
    public static IReadOnlyList<Reason> WhyStart(Schedule schedule, int row) => Of(schedule, LeafOf(schedule, row, first: true));

    /// <summary>What sets the project's finish: the reasons of the task that finishes last. Empty for a plan without tasks.</summary>
    public static IReadOnlyList<Reason> WhyFinish(Schedule schedule) => Of(schedule, Last(schedule, 0, schedule.Plan.Index.Count));

    /// <summary>The row at the other end of the link that holds a leaf; <c>null</c> when none does.</summary>
    public static int? HolderOf(Schedule schedule, int leaf) => Next(schedule, leaf)?.Row;

    /// <summary>How a row comes to finish when it does: the work, the pauses and the days off from its start on.</summary>
    public static string FromStartToFinish(Schedule schedule, int row)
    {
        var leaf = LeafOf(schedule, row, first: false);
        if (leaf < 0)
            return "";
        var task = schedule.Plan.Tasks[leaf];
        var (start, finish, length) = (schedule.StartOf(leaf), schedule.FinishOf(leaf), schedule.LengthOf(leaf));
        var lead = leaf == row ? "Finishes" : $"Finishes with {Name(schedule, leaf)}";
        if (task.IsFinished)
            return $"{lead} {Dates.FinishDay(finish)}: it was done then.";
        if (length.Count == 0)
            return $"{lead} {Dates.Day(schedule.LastDayOf(leaf))}: it takes no time.";
        var stretches = schedule.SegmentsOf(leaf);
        var work = task.AroundTheClock ? $"{InWords(schedule, length)} round the clock" : $"{InWords(schedule, length)} of work";
        var pauses = stretches.Count > 1 ? $" in {stretches.Count} stretches" : "";
        return $"{lead} {Dates.FinishDay(finish)}: {work}{pauses} from {Dates.Day(start)}{DaysOff(schedule, leaf, start, finish)}.";
    }

    /// <summary>The tasks of that way, in the order in which they are done.</summary>
    internal static IReadOnlyList<string> FinishPath(Schedule schedule)
    {
        var fromStart = schedule.Plan.Project.ScheduleFrom == ScheduleFrom.Start;
        var count = schedule.Plan.Index.Count;
        var path = new List<string>();
        var seen = new HashSet<int>();
        // From the finish the links are followed on from whatever starts first.
        var at = fromStart
            ? Last(schedule, 0, count)
            : Enumerable
                .Range(0, count)
                .Where(schedule.IsLeaf)
                .DefaultIfEmpty(-1)
                .MinBy(leaf => leaf < 0 ? default : (schedule.StartOf(leaf), !schedule.IsCritical(leaf)));
        while (at >= 0 && seen.Add(at))
        {
            path.Add(schedule.Plan.Tasks[at].Id);
            at = Next(schedule, at)?.Leaf ?? -1;
        }
        if (fromStart)
            path.Reverse();
        return path;
    }

    /// <summary>
    /// The link that holds a leaf, with the row at its other end and the leaf in that which gives the date; <c>null</c> when none does.
    /// </summary>
    private static (PlanLink Link, int Row, int Leaf)? Next(Schedule schedule, int leaf)
    {
        if (!schedule.Drivers.IsHeldByLinks(leaf))
            return null;
        var plan = schedule.Plan;
        var fromStart = plan.Project.ScheduleFrom == ScheduleFrom.Start;
        foreach (var position in schedule.Drivers.LinksHolding(leaf))
        {
            var link = plan.Links[position];
            var other = plan.Index.RowOf(fromStart ? link.From : link.To);
            return (link, other, LeafOf(schedule, other, first: fromStart ? link.FromStart : !link.ToFinish));
        }
        return null;
    }

    private static List<Reason> Of(Schedule schedule, int leaf)
    {
        var steps = new List<Reason>();
        var seen = new HashSet<int>();
        while (leaf >= 0 && seen.Add(leaf))
        {
            var (step, next) = Step(schedule, leaf, steps.Count == 0);
            steps.Add(step);
            leaf = next;
        }
        return steps;
    }

    private static (Reason Step, int Next) Step(Schedule schedule, int leaf, bool isFirst)
    {
        var kinds = schedule.Drivers.Of(leaf);
        var fromStart = schedule.Plan.Project.ScheduleFrom == ScheduleFrom.Start;
        var off = kinds.Any(d => d.Kind == DriverKind.Calendar) ? ", and time off lies between" : "";
        if (Next(schedule, leaf) is var (link, other, next))
            return (
                Made(
                    schedule,
                    leaf,
                    isFirst,
                    DriverKind.Link,
                    schedule.Plan.Tasks[other].Id,
                    $"{(fromStart ? Before(schedule, link, other) : After(schedule, link, other))}{off}"
                ),
                next
            );
        var driver = kinds.FirstOrDefault(d => d.Kind != DriverKind.Calendar)
            ?? new Driver(fromStart ? DriverKind.ProjectStart : DriverKind.ProjectFinish);
        return (Made(schedule, leaf, isFirst, driver.Kind, null, $"{Fixed(schedule, leaf, driver.Kind)}{off}"), -1);
    }

    private static Reason Made(Schedule schedule, int leaf, bool isFirst, DriverKind kind, string? by, string because)
    {
        var ofFinish = schedule.Plan.Project.ScheduleFrom == ScheduleFrom.Finish;
        var at = ofFinish ? schedule.FinishOf(leaf) : schedule.StartOf(leaf);
        var when = ofFinish ? $"finishes {Dates.Day(schedule.LastDayOf(leaf))}" : $"starts {Dates.Day(at)}";
        var lead = isFirst ? $"{char.ToUpperInvariant(when[0])}{when[1..]}" : $"{Name(schedule, leaf)} {when}";
        return new Reason(schedule.Plan.Tasks[leaf].Id, at, ofFinish, kind, by, $"{lead}: {because}.");
    }

    private static string Before(Schedule schedule, PlanLink link, int row)
    {
        var (name, start, finish) = (Name(schedule, row), Dates.Day(schedule.StartOf(row)), Dates.Day(schedule.LastDayOf(row)));
        return link.Kind switch
        {
            LinkKind.FinishToStart => $"{name} must finish first ({finish}){Lag(link)}",
            LinkKind.StartToStart => $"it goes with the start of {name} ({start}){Lag(link)}",
            LinkKind.FinishToFinish => $"it must not end before {name} does ({finish}){Lag(link)}",
            _ => $"it must not end before {name} starts ({start}){Lag(link)}",
        };
    }

    private static string After(Schedule schedule, PlanLink link, int row)
    {
        var (name, start, finish) = (Name(schedule, row), Dates.Day(schedule.StartOf(row)), Dates.Day(schedule.LastDayOf(row)));
        return link.Kind switch
        {
            LinkKind.FinishToStart => $"{name} comes after it ({start}){Lag(link)}",
            LinkKind.StartToStart => $"{name} waits for its start ({start}){Lag(link)}",
            LinkKind.FinishToFinish => $"{name} cannot end before it does ({finish}){Lag(link)}",
            _ => $"{name} cannot end before it starts ({finish}){Lag(link)}",
        };
    }

    private static string Lag(PlanLink link)
    {
        if (link.Lag.IsZero)
            return "";
        var amount = (link.Lag with { Amount = Math.Abs(link.Lag.Amount) }).InWords() + (link.Elapsed ? " on the clock" : "");
        return link.Lag.Amount > 0 ? $", with {amount} between" : $", but for {amount} of overlap";
    }

    private static string Fixed(Schedule schedule, int leaf, DriverKind kind)
    {
        var task = schedule.Plan.Tasks[leaf];
        return kind switch
        {
            DriverKind.ProjectStart => "the project starts then",
            DriverKind.ProjectFinish => $"the project must be finished by {Dates.FinishDay(schedule.Finish)}",
            DriverKind.Constraint => $"it {FixedDateText.Does(task.Constraint!)}",
            DriverKind.Pinned => "it is pinned there",
            DriverKind.Actual => task.IsFinished ? "it has been done" : "it started then",
            DriverKind.Levelling => "levelling delays it, so that whoever does it has time for it",
            DriverKind.StatusDate => "unfinished work goes on after the status date",
            DriverKind.AsLateAsPossible => "it goes as late as it can without moving anything else",
            _ => "it goes as soon as it can without moving anything else",
        };
    }

    /// <summary>", with 3 days off on the way (Founders’ day among them)": the answer to why three days of work show as six.</summary>
    private static string DaysOff(Schedule schedule, int leaf, PlanTime start, PlanTime finish)
    {
        const int MostDays = 3_700;
        var calendar = schedule.CalendarOf(leaf);
        var days = Enumerable
            .Range(start.Day, Math.Clamp(finish.Day - start.Day, 0, MostDays))
            .Select(DateOnly.FromDayNumber)
            .Where(day => calendar.WorkedOn(day) == 0)
            .ToList();
        if (days.Count == 0)
            return "";
        var names = schedule
            .Plan.Calendars.SelectMany(c => c.Exceptions)
            .Where(e => e.Work.IsEmpty && e.Name.Length > 0 && days.Any(d => e.From <= d && d <= e.To))
            .Select(e => e.Name)
            .Distinct()
            .Take(2)
            .ToList();
        var count = days.Count == 1 ? "a day off" : string.Create(CultureInfo.InvariantCulture, $"{days.Count} days off");
        return $", with {count} on the way{(names.Count > 0 ? $" ({string.Join(", ", names)})" : "")}";
    }

    private static string InWords(Schedule schedule, WorkMinutes length) => schedule.Plan.Project.Units.ToLength(length).InWords();

    private static string Name(Schedule schedule, int row) => LengthText.Shorten(schedule.Plan.Tasks[row].Name);

    private static int LeafOf(Schedule schedule, int row, bool first)
    {
        if (schedule.IsOff(row))
            return -1;
        if (schedule.IsLeaf(row))
            return row;
        var end = schedule.Plan.Index.SubtreeEnd(row);
        return first
            ? Enumerable.Range(row, end - row).Where(schedule.IsLeaf).MinBy(leaf => schedule.StartOf(leaf))
            : Last(schedule, row, end);
    }

    /// <summary>The leaf that finishes last of the rows up to an end; of several, one that sets the finish.</summary>
    private static int Last(Schedule schedule, int row, int end)
    {
        var finishes = schedule.Finishes;
        var last = -1;
        for (; row < end; row++)
        {
            if (last >= 0 && finishes[row] < finishes[last])
                continue;
            if (!schedule.IsLeaf(row))
                continue;
            if (last < 0 || finishes[row] > finishes[last] || (schedule.IsCritical(row) && !schedule.IsCritical(last)))
                last = row;
        }
        return last;
    }
}
