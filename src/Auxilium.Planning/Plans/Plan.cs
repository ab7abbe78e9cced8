using System.Collections.Immutable;
using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Plans;

/// <summary>What the last tasks' float is measured to (rule B1).</summary>
public enum FloatTarget
{
    ProjectFinish,
    FinishBy,
}

public sealed record ProjectSettings
{
    public required string Name { get; init; }

    public string Note { get; init; } = "";

    /// <summary>Id of the person who coordinates the project.</summary>
    public string? Coordinator { get; init; }

    /// <summary>Nothing that has not started is planned before this (rule F1).</summary>
    public required PlanTime Start { get; init; }

    /// <summary>When the project should be finished, if there is such a date.</summary>
    public PlanTime? FinishBy { get; init; }

    public FloatTarget FloatTo { get; init; }

    public PlanTime? StatusDate { get; init; }

    /// <summary>Unfinished work before the status date is planned after it (rules F1, F4).</summary>
    public bool MoveUnfinishedWork { get; init; }

    /// <summary>Id of the project calendar; <c>null</c> for <see cref="WorkCalendar.Weekdays"/>.</summary>
    public string? Calendar { get; init; }

    public WorkUnits Units { get; init; } = WorkUnits.Standard;

    /// <summary>A task with no more float than this is critical (rule B2).</summary>
    public Length CriticalFloat { get; init; } = Length.Zero;
}

/// <summary>Somebody who works on the plan.</summary>
/// <param name="Calendar">Id of the calendar this person works by, if not the project's.</param>
public sealed record Person(string Id, string Name, string Initials, string? Email = null, string? Calendar = null);

/// <summary>A finish-to-start link (rule K1).</summary>
/// <param name="Lag">Working time of the project calendar between the two; negative is a lead.</param>
public sealed record PlanLink(string From, string To, Length Lag = default)
{
    public Length Lag { get; init; } = Lag == default ? Length.Zero : Lag;
}

/// <summary>A whole plan: immutable, in outline order (a phase stands right before its rows).</summary>
public sealed record Plan
{
    /// <summary>A plan holds at most this many tasks.</summary>
    public const int MostTasks = 20_000;

    private PlanIndex? _index;
    private LinkEnds? _linkEnds;
    private CalendarBook? _calendarBook;

    public required ProjectSettings Project { get; init; }

    public ImmutableArray<WorkCalendar> Calendars { get; init; } = [];

    public ImmutableArray<Person> People { get; init; } = [];

    public ImmutableArray<PlanTask> Tasks { get; init; } = [];

    public ImmutableArray<PlanLink> Links { get; init; } = [];

    /// <summary>Rows by position: parents, levels, numbers. Built once for each list of tasks.</summary>
    public PlanIndex Index
    {
        get
        {
            var index = _index;
            if (index is null || index.Tasks != Tasks) _index = index = new PlanIndex(Tasks, index);
            return index;
        }
    }

    internal LinkEnds LinkEnds
    {
        get
        {
            var ends = _linkEnds;
            if (ends is null || ends.Outline != Index.Outline || ends.Links != Links) _linkEnds = ends = new LinkEnds(Index, Links);
            return ends;
        }
    }

    public CalendarBook CalendarBook
    {
        get
        {
            var book = _calendarBook;
            if (book is null || book.Calendars != Calendars) _calendarBook = book = new CalendarBook(Calendars);
            return book;
        }
    }

    public WorkTime ProjectCalendar => CalendarBook.WorkTimeOf(Project.Calendar);

    public PlanTask? Find(string id) => Index.TryFind(id, out var row) ? Tasks[row] : null;

    public Person? FindPerson(string? id) => id is null ? null : People.FirstOrDefault(p => p.Id == id);

    /// <summary>The length of work a leaf really has: none for a milestone.</summary>
    public WorkMinutes LengthOf(PlanTask task) => task.Milestone ? WorkMinutes.Zero : Project.Units.Minutes(task.Length);

    /// <summary>The working time that a task moves by (rule T5).</summary>
    public WorkTime EffectiveCalendar(PlanTask task)
    {
        if (task.AroundTheClock) return WorkTime.AroundTheClock;
        var own = task.Calendar;
        var owners = FindPerson(task.Owner)?.Calendar;
        return (own, owners) switch
        {
            ({ } a, { } b) => CalendarBook.Intersection(a, b),
            ({ } a, null) => CalendarBook.WorkTimeOf(a),
            (null, { } b) => CalendarBook.WorkTimeOf(b),
            _ => ProjectCalendar,
        };
    }

    public static Plan Empty(string name, PlanTime start) => new() { Project = new ProjectSettings { Name = name, Start = start } };
}
