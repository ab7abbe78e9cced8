using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Api;
using Auxilium.Web.Pages.Week;

namespace Auxilium.Web.Pages.Now;

/// <summary>A task that needs somebody, as Now tells it.</summary>
/// <param name="Words">Why it is told: when it was due, how far it has drifted.</param>
/// <param name="Owner">Name of its owner; empty for nobody.</param>
/// <param name="HoldsUp">What waits for it.</param>
/// <param name="MayFinish">Whether it may be ticked here.</param>
/// <param name="MayEdit">Whether it may be moved and given to somebody here.</param>
/// <param name="Outside">Who outside delivers it.</param>
public sealed record NowTask(
    Guid Project,
    string ProjectName,
    int Version,
    string Id,
    string Name,
    string State,
    string StateWord,
    string Words,
    string Owner,
    string? HoldsUp,
    bool IsMilestone,
    bool MayFinish,
    bool MayEdit,
    string? Outside
)
{
    /// <summary>Whose it is.</summary>
    public string Who =>
        Outside is { } outside ? $"delivered by {outside}"
        : Owner.Length > 0 ? Owner
        : "nobody’s";

    /// <summary>Whether whoever looks may take it.</summary>
    public bool MayTake { get; init; }

    public string Holds => HoldsUp is { } held ? $" · holds up {held}" : "";
}

/// <summary>Tasks that need somebody for the same reason.</summary>
/// <param name="Key">Names it in the page.</param>
/// <param name="Brief">What it is called beside its count.</param>
/// <param name="All">How many there are; only the first are in <paramref name="Tasks"/>.</param>
public sealed record NowSection(string Key, string Title, string Brief, IReadOnlyList<NowTask> Tasks, int All);

/// <summary>A project whose finish is past its deadline, or has drifted.</summary>
public sealed record NowProject(Guid Id, string Name, string Words);

/// <summary>What needs somebody, in many projects.</summary>
public sealed record NowList(IReadOnlyList<NowProject> Projects, IReadOnlyList<NowSection> Sections)
{
    private const int Most = 25;

    /// <summary>The section of tasks that may be taken.</summary>
    private const string Open = "open";

    /// <param name="projects">The projects that one coordinates.</param>
    /// <param name="tasks">What in them may need somebody.</param>
    /// <param name="open">Tasks for the team or role of who looks, which nobody has taken.</param>
    /// <param name="eating">Tasks that use more than is done.</param>
    /// <param name="names">Names of people by id.</param>
    /// <param name="today">Today.</param>
    /// <param name="days">Drift of more than so many days is told.</param>
    /// <param name="me">Id of who looks.</param>
    /// <param name="leads">Whether somebody coordinates a project.</param>
    public static NowList Of(
        IReadOnlyList<KnownProject> projects,
        IReadOnlyList<KnownTask> tasks,
        IReadOnlyList<KnownTask> open,
        IReadOnlyList<(KnownTask Task, int Worked)> eating,
        IReadOnlyDictionary<string, string> names,
        DateOnly today,
        int days,
        string me,
        Func<Guid, bool> leads
    )
    {
        var (dawn, soon) = (PlanTime.On(today), today.AddDays(7));
        var units = projects.ToDictionary(p => p.Id, p => p.Units);
        var leaves = tasks.Where(t => t.Task is { IsLeaf: true, IsFinished: false, Start: not null }).ToList();
        var overdue = leaves.Where(t => t.Task.StateOn(today) == TaskState.Overdue).ToList();
        var late = leaves.Where(t => t.Task.StateOn(today) == TaskState.LateToStart).ToList();
        var due = leaves.Where(t => t.Task.Finish >= dawn && t.Task.LastDay < soon && t.Task.StateOn(today) != TaskState.LateToStart);
        var off = leaves.Where(t => t.Task.IsMilestone && IsOff(t));
        var unowned = leaves.Where(t =>
            t.Task is { IsMilestone: false, People: "", IsStarted: false } && t.Task.Start >= dawn && t.Task.Start!.Value.Date < soon
        );
        var milestones = leaves.Where(t => t.Task.IsMilestone && t.Task.Start >= dawn && t.Task.Start!.Value.Date < today.AddDays(28));
        NowSection[] sections =
        [
            Section("overdue", "Overdue", "overdue", overdue, t => $"was due {Dates.Day(PlanTime.On(t.Task.LastDay!.Value))}"),
            Section("late", "Late to start", "late to start", late, t => $"was to start {Dates.Day(t.Task.Start!.Value)}"),
            Section("off", "Milestones past their deadline or drifting", "milestones off", off, Off),
            Section("due", "Due in seven days", "due in seven days", due, t => $"due {Dates.Day(PlanTime.On(t.Task.LastDay!.Value))}"),
            Section("unowned", "Starting in seven days without an owner", "without an owner", unowned, t =>
                $"starts {Dates.Day(t.Task.Start!.Value)}"
            ),
            Section(Open, "For your team or role, to be taken", "to be taken", open, t => $"starts {Dates.Day(t.Task.Start!.Value)}"),
            Section("milestones", "Milestones of the next four weeks", "milestones ahead", milestones, Ahead),
            Section(
                "series",
                "Repeating tasks that end before their project",
                "ending early",
                tasks.Where(t => t.Task.ShortBy is not null && leads(t.Project)),
                t => $"stops {Dates.Day(PlanTime.On(t.Task.LastDay!.Value))}: {t.Task.ShortBy} more until the project ends"
            ),
            Section("eating", "Using more hours than planned", "over their hours", eating.Select(e => e.Task), t =>
                new UsedHours(eating.First(e => e.Task == t).Worked, t.Task.Effort, t.Task.Progress).Said
            ),
        ];
        return new NowList(
            [.. projects.Where(p => leads(p.Id)).Select(p => WhyOff(p, days)).OfType<NowProject>()],
            [.. sections.Where(section => section.All > 0)]
        );

        NowSection Section(string key, string title, string brief, IEnumerable<KnownTask> all, Func<KnownTask, string> words)
        {
            var found = all.ToList();
            return new NowSection(
                key,
                title,
                brief,
                [.. found.Take(Most).Select(t => TaskOf(t, words(t)) with { MayTake = key == Open })],
                found.Count
            );
        }

        NowTask TaskOf(KnownTask known, string words)
        {
            var (task, state) = (known.Task, known.Task.StateOn(today));
            var people = task.People.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            var mayEdit = leads(known.Project);
            return new NowTask(
                known.Project,
                known.ProjectName,
                known.Version,
                task.Id,
                task.Name,
                JsonNames.Camel(state),
                StateText.Of(state),
                words,
                people.Length == 0 ? "" : names.GetValueOrDefault(people[0], people[0]),
                task.HoldsUp,
                task.IsMilestone,
                task.IsLeaf && (mayEdit || people.Contains(me)),
                task.IsLeaf && mayEdit,
                task.DeliveredBy
            );
        }

        string Ahead(KnownTask t)
        {
            var said = Dates.Day(t.Task.Start!.Value);
            if (Gathered.Said(t.Task.Gathers, t.Task.GathersLeft) is { } left)
                said += $", {left}";
            return t.Task is { DeliveredBy: { } by } && t.Task.Start!.Value.Date < soon
                ? $"{said}: ask {by} whether it is on its way"
                : said;
        }

        bool IsOff(KnownTask t) =>
            t.Task.Deadline < t.Task.Finish || t.Task.Drift > days * units.GetValueOrDefault(t.Project, WorkUnits.Standard).MinutesPerDay;

        string Off(KnownTask t)
        {
            var said = new List<string>();
            if (t.Task.Deadline is { } deadline && deadline < t.Task.Finish)
                said.Add($"on {Dates.Day(t.Task.Start!.Value)}, after its deadline {Dates.FinishDay(deadline)}");
            if (t.Task.Drift is > 0 and var drift)
                said.Add(
                    RippleText.Shift(new WorkMinutes(drift), units.GetValueOrDefault(t.Project, WorkUnits.Standard)) + " than planned"
                );
            return string.Join(", ", said);
        }
    }

    private static NowProject? WhyOff(KnownProject project, int days)
    {
        if (project.Plan is not { } plan)
            return new NowProject(project.Id, project.Name, $"Its dates cannot be worked out. {project.Problem}");
        var said = new List<string>();
        var units = project.Units;
        if (plan.Spare < 0)
            said.Add(
                $"finishes {Dates.FinishDay(plan.Finish)}, {DurationText.Of(new WorkMinutes(-plan.Spare.Value), units)} past its deadline"
            );
        else if (plan.Outlook < 0)
            said.Add(
                $"will be {DurationText.Of(new WorkMinutes(-plan.Outlook.Value), units)} past its deadline if what is left starts today"
            );
        if (plan.Drift > days * units.MinutesPerDay)
            said.Add($"{RippleText.Against(new WorkMinutes(plan.Drift.Value), units)} “{plan.Measure}”");
        return said.Count == 0 ? null : new NowProject(project.Id, project.Name, ListText.Listed(said));
    }
}
