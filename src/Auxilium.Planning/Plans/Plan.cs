using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Load;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Plans;

/// <summary>What the last tasks' float is measured to (rule B1).</summary>
public enum FloatTarget
{
    ProjectFinish,
    FinishBy,
}

/// <summary>Which end of a project is given; the other follows.</summary>
public enum ScheduleFrom
{
    Start,
    Finish,
}

public sealed record ProjectSettings
{
    public required string Name { get; init; }

    public string Note { get; init; } = "";

    public ProjectStatus Status { get; init; } = ProjectStatus.Active;

    /// <summary>One of the colours that rows can have; <c>null</c> for none.</summary>
    public string? Colour { get; init; }

    /// <summary>How much it matters among others, 0 to 1000.</summary>
    public int Priority { get; init; } = PlainFacts.Priority.Usual;

    /// <summary>Id of the person who coordinates the project.</summary>
    public string? Coordinator { get; init; }

    public ScheduleFrom ScheduleFrom { get; init; }

    /// <summary>Nothing that has not started is planned before this (rule F1). Always there when dates go from the start.</summary>
    public PlanTime? Start { get; init; }

    /// <summary>Nothing that has not started is planned after this (rule R1). Always there when dates go back from the finish.</summary>
    public PlanTime? Finish { get; init; }

    /// <summary>The date that all others are worked out from: the start or the finish.</summary>
    public PlanTime Anchor => (ScheduleFrom == ScheduleFrom.Start ? Start : Finish)!.Value;

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

    /// <summary>Stretches of days that are good to know of; they close nothing.</summary>
    public ImmutableArray<NamedPeriod> Periods { get; init; } = [];

    /// <summary>Facts of tasks and of the project itself that people added, in the order of their columns.</summary>
    public ImmutableArray<OwnField> Fields { get; init; } = [];

    /// <summary>Those that tasks have.</summary>
    public IEnumerable<OwnField> FieldsOfTasks => Fields.Where(own => !own.OfProject);

    /// <summary>The field with an id; <c>null</c> where there is none.</summary>
    public OwnField? FindField(string id)
    {
        foreach (var field in Fields)
            if (field.Id == id)
                return field;
        return null;
    }

    /// <summary>Id of the baseline that was chosen to measure the project by; <c>null</c> for the newest of all rows.</summary>
    public string? Measure { get; init; }
}

/// <summary>A stretch of days with a name, such as a festival week: shown behind the plan.</summary>
/// <param name="To">Its last day.</param>
public readonly record struct NamedPeriod(string Name, DateOnly From, DateOnly To)
{
    /// <summary>A project has at most this many.</summary>
    public const int Most = 100;

    /// <summary>Its name is at most this many characters.</summary>
    public const int LongestName = 80;

    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public string? WhyRefused() =>
        string.IsNullOrWhiteSpace(Name) || Name.Length > LongestName || Name.Any(char.IsControl)
            ? $"A period has a name of one line, up to {LongestName} characters."
        : To < From ? $"“{LengthText.Shorten(Name)}” ends before it begins: give a later last day."
        : !PlanTime.On(From).IsInRange || !PlanTime.On(To).IsInRange
            ? "That is outside the years that can be planned: give dates from 1990 to 2100."
        : null;
}

/// <summary>Somebody who works on the plan.</summary>
/// <param name="Calendar">Id of the calendar this person works by, if not the project's.</param>
public sealed record Person(string Id, string Name, string Initials, string? Email = null, string? Calendar = null)
{
    /// <summary>How much of their working time they give, where that is said; no date depends on it.</summary>
    public ImmutableArray<Availability> Available { get; init; } = [];
}

/// <summary>A whole plan: immutable, in outline order (a phase stands right before its rows).</summary>
public sealed record Plan
{
    /// <summary>A plan holds at most this many tasks.</summary>
    public const int MostTasks = 20_000;

    private PlanIndex? _index;
    private LinkEnds? _linkEnds;
    private Groundwork? _groundwork;
    private CalendarBook? _calendarBook;
    private PeopleById? _people;

    public required ProjectSettings Project { get; init; }

    public ImmutableArray<WorkCalendar> Calendars { get; init; } = [];

    public ImmutableArray<Person> People { get; init; } = [];

    public ImmutableArray<PlanTask> Tasks { get; init; } = [];

    public ImmutableArray<PlanLink> Links { get; init; } = [];

    /// <summary>What the plan once was, in the order in which it was recorded.</summary>
    public ImmutableArray<Baseline> Baselines { get; init; } = [];

    /// <summary>
    /// The baseline that the project is measured by (rule S4): the chosen one, or the newest of all rows; <c>null</c> without one.
    /// </summary>
    public Baseline? Measure =>
        Baselines.IsEmpty ? null
        : Project.Measure is { } chosen ? FindBaseline(chosen)
        : Baselines.Where(b => b.Whole).Aggregate((Baseline?)null, (newest, b) => newest is null || b.Taken >= newest.Taken ? b : newest);

    /// <summary>Rows by position: parents, levels, numbers. Built once for each list of tasks.</summary>
    public PlanIndex Index
    {
        get
        {
            var index = _index;
            if (index is null || index.Tasks != Tasks)
                _index = index = new PlanIndex(Tasks, index);
            return index;
        }
    }

    internal LinkEnds LinkEnds
    {
        get
        {
            var ends = _linkEnds;
            if (ends is null || ends.Outline != Index.Outline || ends.Links != Links || ends.Units != Project.Units)
                _linkEnds = ends = new LinkEnds(Index, Links, Project.Units);
            return ends;
        }
    }

    internal Groundwork Groundwork => _groundwork = Groundwork.Of(this, _groundwork);

    public CalendarBook CalendarBook
    {
        get
        {
            var book = _calendarBook;
            if (book is null || book.Calendars != Calendars)
                _calendarBook = book = new CalendarBook(Calendars);
            return book;
        }
    }

    public WorkTime ProjectCalendar => CalendarBook.WorkTimeOf(Project.Calendar);

    public PlanTask? Find(string id) => Index.TryFind(id, out var row) ? Tasks[row] : null;

    public Baseline? FindBaseline(string id) => Baselines.FirstOrDefault(b => b.Id == id);

    public Person? FindPerson(string? id)
    {
        if (id is null)
            return null;
        var people = _people;
        if (people is null || people.All != People)
            _people = people = new PeopleById(People, People.DistinctBy(p => p.Id).ToDictionary(p => p.Id));
        return people.ById.GetValueOrDefault(id);
    }

    /// <summary>The length of work a leaf really has: none for a milestone.</summary>
    public WorkMinutes LengthOf(PlanTask task) => task.Milestone ? WorkMinutes.Zero : Project.Units.Minutes(task.Length);

    /// <summary>The first row with a length, pause, range or lag that these units do not turn into whole minutes, and why.</summary>
    public (int Row, string Why)? FirstUnusableLength()
    {
        var units = Project.Units;
        for (var row = 0; row < Tasks.Length; row++)
        {
            var task = Tasks[row];
            var why = LengthText.WhyUnusable(task.Length, units)
                ?? (task.Remaining is { } left ? LengthText.WhyUnusable(left, units) : null)
                ?? task.Assignments.Select(a => a.Effort)
                    .Append(task.Effort)
                    .OfType<Length>()
                    .Select(effort => LengthText.WhyUnusable(effort, units))
                    .FirstOrDefault(unusable => unusable is not null)
                ?? (task.Estimate is { } estimate ? SplitRules.WhyRefused(estimate, task.Milestone, units) : null)
                ?? SplitRules.WhyRefused(task.Splits, task.Milestone ? Length.Zero : task.Length, units)?.Why;
            if (why is not null)
                return (row, why);
        }
        foreach (var link in Links)
            if (LengthText.WhyUnusable(link.Lag, units) is { } unusable)
                return (Index.RowOf(link.To), unusable);
        return null;
    }

    /// <summary>The working time that a task moves by (rule T5).</summary>
    public WorkTime EffectiveCalendar(PlanTask task) => EffectiveCalendar(task, FindPerson(task.Owner)?.Calendar);

    internal WorkTime EffectiveCalendar(PlanTask task, string? owners)
    {
        if (task.AroundTheClock)
            return WorkTime.AroundTheClock;
        var own = task.Calendar;
        return (own, owners) switch
        {
            ({ } a, { } b) => CalendarBook.Intersection(a, b),
            ({ } a, null) => CalendarBook.WorkTimeOf(a),
            (null, { } b) => CalendarBook.WorkTimeOf(b),
            _ => ProjectCalendar,
        };
    }

    /// <summary>The people of a plan by their ids.</summary>
    private sealed record PeopleById(ImmutableArray<Person> All, Dictionary<string, Person> ById);

    public static Plan Empty(string name, PlanTime start) =>
        new()
        {
            Project = new ProjectSettings { Name = name, Start = start },
        };
}
