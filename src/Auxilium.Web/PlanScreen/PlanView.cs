using System.Collections.Immutable;
using System.Globalization;
using System.Runtime.CompilerServices;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Api;
using Auxilium.Web.Pages.Shared;

namespace Auxilium.Web.PlanScreen;

/// <summary>A link as the timeline draws it.</summary>
/// <param name="Kind"><c>finishToStart</c>, <c>startToStart</c>, <c>finishToFinish</c> or <c>startToFinish</c>.</param>
public sealed record LinkView(string From, string To, string Kind);

public sealed record PersonView(string Id, string Name, string Initials, int Hue);

/// <summary>A stretch of days without work, in minutes since 0001-01-01T00:00.</summary>
public sealed record ClosedDays(int From, int To, string? Name);

/// <summary>A baseline as it is chosen from a list.</summary>
/// <param name="Taken">The day it was taken, such as 2027-05-12.</param>
/// <param name="Rows">How many tasks and milestones it has.</param>
public sealed record BaselineView(string Id, string Name, string Taken, bool Whole, int Rows, int Finish);

/// <summary>Days with a name, in minutes since 0001-01-01T00:00.</summary>
public sealed record PeriodView(string Name, int From, int To);

/// <summary>A series that stops before its project, and how many more there would be.</summary>
public sealed record StopView(string Task, string Name, string Last, int More);

/// <summary>The project above the board: its gauge and what the timeline lies on. Times are minutes since 0001-01-01T00:00.</summary>
public sealed record ProjectView
{
    public required string Name { get; init; }

    public required int Version { get; init; }

    /// <summary>Id of the edit that made this version; <c>null</c> for the first.</summary>
    public Guid? Edit { get; init; }

    public required int Start { get; init; }

    public required int Finish { get; init; }

    /// <summary>Whether dates go back from the finish, so that the start is the latest there can be.</summary>
    public required bool FromFinish { get; init; }

    public int? FinishBy { get; init; }

    /// <summary>Days to spare before the date to finish by, in words.</summary>
    public string? Spare { get; init; }

    public bool IsLate { get; init; }

    /// <summary>When it finishes if what is left starts today; only where unfinished work lies in the past.</summary>
    public int? FromToday { get; init; }

    /// <summary>Time to the deadline from there, in words.</summary>
    public string? SpareFromToday { get; init; }

    public required int Today { get; init; }

    public required double Progress { get; init; }

    public string? Coordinator { get; init; }

    /// <summary>Minutes of the day between which the project's calendar works: a day is drawn as wide as this.</summary>
    public required int DayStart { get; init; }

    public required int DayEnd { get; init; }

    /// <summary>What the plan remembers of itself, in the order in which it was recorded.</summary>
    public required IReadOnlyList<BaselineView> Baselines { get; init; }

    /// <summary>Id of the baseline that drift is measured against; <c>null</c> without one.</summary>
    public string? Measure { get; init; }

    /// <summary>Fields of tasks that people added, in the order of their columns.</summary>
    public IReadOnlyList<FieldView> Fields { get; init; } = [];

    /// <summary>Named periods, to be shown behind the plan.</summary>
    public required IReadOnlyList<PeriodView> Periods { get; init; }

    /// <summary>Repeating tasks that should be offered to be extended.</summary>
    public required IReadOnlyList<StopView> Stops { get; init; }
}

/// <summary>A field that people added.</summary>
/// <param name="Kind"><c>text</c>, <c>number</c>, <c>amount</c>, <c>date</c>, <c>yesNo</c> or <c>choice</c>.</param>
public sealed record FieldView(
    string Id,
    string Name,
    string Kind,
    string? Unit,
    bool Shared,
    bool Retired,
    bool OfProject,
    string? Value,
    IReadOnlyList<OwnChoice> Choices
)
{
    public static FieldView Of(OwnField field) =>
        new(
            field.Id,
            field.Name,
            JsonNames.Camel(field.Kind),
            field.Unit,
            field.Shared,
            field.Retired,
            field.OfProject,
            field.Value,
            field.Choices
        );

    // Lists are compared by what is in them, so that a plan without changed fields is told as the same.
    public bool Equals(FieldView? other) =>
        other is not null
        && (Id, Name, Kind, Unit) == (other.Id, other.Name, other.Kind, other.Unit)
        && (Shared, Retired, OfProject, Value) == (other.Shared, other.Retired, other.OfProject, other.Value)
        && Choices.SequenceEqual(other.Choices);

    public override int GetHashCode() => HashCode.Combine(Id, Name);
}

/// <summary>Everything the Plan screen draws of one version of a plan.</summary>
public sealed record PlanView
{
    private const int DaysAround = 70;
    private const int MostDays = 4_000;
    private const int Stretch = 56;

    private static readonly ConditionalWeakTable<WorkTime, KnownClosed> Known = [];

    public required ProjectView Project { get; init; }

    public required IReadOnlyList<RowView> Rows { get; init; }

    public required IReadOnlyList<LinkView> Links { get; init; }

    /// <summary>Positions in <see cref="Links"/> of those that hold their successor, both of which set the finish.</summary>
    public required IReadOnlyList<int> FinishLinks { get; init; }

    public required IReadOnlyList<PersonView> People { get; init; }

    public required IReadOnlyList<ClosedDays> Closed { get; init; }

    /// <param name="stored">The version to draw.</param>
    /// <param name="today">Today.</param>
    /// <param name="before">A version before it, with its view on the same day, if there is one.</param>
    internal static PlanView Of(StoredPlan stored, DateOnly today, (StoredPlan Plan, PlanView View)? before = null)
    {
        var schedule = stored.Schedule;
        var plan = schedule.Plan;
        var rows = new RowViews(schedule, today, before is var (was, view) ? KnownRows.Of(was.Schedule, schedule, view.Rows) : null);
        var spare = Ripple.Spare(schedule);
        var outlook = Outlook.Of(schedule, today);
        var hours = WorkHours.Of(plan.ProjectCalendar, schedule.Start);
        return new PlanView
        {
            Project = new ProjectView
            {
                Name = plan.Project.Name,
                Version = stored.Version,
                Edit = stored.Edit,
                Start = schedule.Start.Minutes,
                Finish = schedule.Finish.Minutes,
                FromFinish = plan.Project.ScheduleFrom == ScheduleFrom.Finish,
                FinishBy = plan.Project.FinishBy?.Minutes,
                Spare = spare is { } s ? SpareText(s, plan.Project.Units) : null,
                IsLate = spare?.Count < 0 || outlook?.Spare?.Count < 0,
                FromToday = outlook?.Finish.Minutes,
                SpareFromToday = outlook?.Spare is { } left ? SpareText(left, plan.Project.Units) : null,
                Today = PlanTime.On(today).Minutes,
                Progress = Math.Round(schedule.Progress * 100, 1),
                Coordinator = plan.FindPerson(plan.Project.Coordinator)?.Name,
                DayStart = hours.Start,
                DayEnd = hours.End,
                Baselines =
                [
                    .. plan.Baselines.Select(b => new BaselineView(
                        b.Id,
                        b.Name,
                        b.Taken.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                        b.Whole,
                        b.Rows.Count(row => !row.Phase),
                        b.Finish.Minutes
                    )),
                ],
                Measure = plan.Measure?.Id,
                Fields = [.. plan.Project.FieldsOfTasks.Select(FieldView.Of)],
                Periods =
                [
                    .. plan.Project.Periods.Select(p => new PeriodView(
                        p.Name,
                        PlanTime.On(p.From).Minutes,
                        PlanTime.On(p.To.AddDays(1)).Minutes
                    )),
                ],
                Stops =
                [
                    .. SeriesEdits
                        .StopShort(schedule)
                        .Select(s => new StopView(s.Task, plan.Find(s.Task)!.Name, Dates.Day(s.Last), s.More)),
                ],
            },
            Rows = [.. Enumerable.Range(0, plan.Index.Count).Select(rows.Of)],
            Links = [.. plan.Links.Select(l => new LinkView(l.From, l.To, JsonNames.Camel(l.Kind)))],
            FinishLinks = FinishLinksOf(schedule),
            People = [.. plan.People.Select(p => new PersonView(p.Id, p.Name, p.Initials, PersonHue.Of(p.Id)))],
            Closed = ClosedOf(schedule, today),
        };
    }

    internal static string SpareText(WorkMinutes spare, WorkUnits units)
    {
        var days = DurationText.Of(new WorkMinutes(Math.Abs(spare.Count)), units);
        return spare.Count < 0 ? $"{days} late" : $"{days} to spare";
    }

    private static List<int> FinishLinksOf(Schedule schedule)
    {
        var index = schedule.Plan.Index;
        return [.. Enumerable.Range(0, schedule.Plan.Links.Length).Where(SetsFinish)];

        bool SetsFinish(int position)
        {
            if (!schedule.Drivers.IsTight(position))
                return false;
            var link = schedule.Plan.Links[position];
            return schedule.IsCritical(index.RowOf(link.From)) && schedule.IsCritical(index.RowOf(link.To));
        }
    }

    /// <summary>Days without work on the project calendar, from before the first date to after the last.</summary>
    private static IReadOnlyList<ClosedDays> ClosedOf(Schedule schedule, DateOnly today)
    {
        var plan = schedule.Plan;
        var (start, finish) = (Math.Min(schedule.Start.Day, today.DayNumber), Math.Max(schedule.Finish.Day, today.DayNumber));
        for (var row = 0; row < plan.Index.Count; row++)
            if (!schedule.IsOff(row))
                start = Math.Min(start, schedule.StartOf(row).Day);
        // In whole stretches, so that an edit which moves the finish rarely needs others.
        var first = (start - DaysAround) / Stretch * Stretch;
        var last =
            (Math.Min(first + MostDays, Math.Max(finish, plan.Project.FinishBy?.Day ?? 0) + 2 * DaysAround) / Stretch + 1) * Stretch;
        var calendar = plan.ProjectCalendar;
        if (Known.TryGetValue(calendar, out var known) && known.Calendars == plan.Calendars && known.First == first && known.Last == last)
            return known.Days;
        var days = ClosedBetween(plan, first, last);
        Known.AddOrUpdate(calendar, new KnownClosed(plan.Calendars, first, last, days));
        return days;
    }

    private static List<ClosedDays> ClosedBetween(Planning.Plans.Plan plan, int first, int last)
    {
        var names = plan.CalendarBook.Find(plan.Project.Calendar ?? "")?.Exceptions.Where(e => e.Work.IsEmpty).ToImmutableArray() ?? [];
        var closed = new List<ClosedDays>();
        for (var day = first; day < last; day++)
        {
            var date = DateOnly.FromDayNumber(day);
            if (plan.ProjectCalendar.WorkedOn(date) > 0)
                continue;
            var name = names.LastOrDefault(e => e.From <= date && date <= e.To)?.Name;
            var from = day * PlanTime.MinutesPerDay;
            if (closed.Count > 0 && closed[^1].To == from && closed[^1].Name == name)
                closed[^1] = closed[^1] with { To = from + PlanTime.MinutesPerDay };
            else
                closed.Add(new ClosedDays(from, from + PlanTime.MinutesPerDay, name));
        }
        return closed;
    }

    private sealed record KnownClosed(ImmutableArray<WorkCalendar> Calendars, int First, int Last, IReadOnlyList<ClosedDays> Days);
}

/// <summary>Makes each view of a version once: an edit compares the one before with the one after.</summary>
public sealed class PlanViews(Today today)
{
    private readonly ConditionalWeakTable<StoredPlan, PlanView> _views = [];

    /// <param name="plan">The version to draw.</param>
    /// <param name="before">The version before it, which spares making what is the same.</param>
    public PlanView Of(StoredPlan plan, StoredPlan? before = null)
    {
        // Whoever made an edit and those who are told of it ask at the same time.
        lock (plan)
        {
            if (Find(plan) is { } known)
                return known;
            Dates.SpeakOn(today.Date);
            var view = PlanView.Of(plan, today.Date, before is not null && Find(before) is { } earlier ? (before, earlier) : null);
            _views.AddOrUpdate(plan, view);
            return view;
        }
    }

    private PlanView? Find(StoredPlan plan) =>
        _views.TryGetValue(plan, out var known) && known.Project.Today == PlanTime.On(today.Date).Minutes ? known : null;
}
