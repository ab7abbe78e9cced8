using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>A task as read, before its bare days are understood by its calendar.</summary>
internal sealed record ReadTask(PlanTask Task)
{
    public (DateOrTime Start, DateOrTime? Finish)? Pinned { get; init; }

    public (ConstraintKind Kind, DateOrTime? Date)? Constraint { get; init; }

    public DateOrTime? Deadline { get; init; }

    public DateOrTime? DelayedUntil { get; init; }

    public DateOrTime? ActualStart { get; init; }

    public DateOrTime? ActualFinish { get; init; }

    public PlanTask WithDates(Plan plan)
    {
        var calendar = plan.EffectiveCalendar(Task);
        return Task with
        {
            Pinned = Pinned is var (start, finish) ? new PinnedDates(start.AsStart(calendar), finish?.AsFinish(calendar)) : null,
            Constraint = Constraint is var (kind, date) ? WithDate(new DateConstraint(kind), date, calendar) : null,
            Deadline = Deadline?.AsFinish(calendar),
            DelayedUntil = DelayedUntil?.AsStart(calendar),
            ActualStart = ActualStart?.AsStart(calendar),
            ActualFinish = ActualFinish?.AsFinish(calendar),
        };
    }

    private static DateConstraint WithDate(DateConstraint constraint, DateOrTime? date, WorkTime calendar) =>
        constraint with
        {
            Date = constraint.IsOfFinish ? date?.AsFinish(calendar) : date?.AsStart(calendar),
        };
}

/// <summary>Reads <c>$.tasks</c>.</summary>
internal sealed class TaskReader(
    ErrorList errors,
    HashSet<string> calendars,
    HashSet<string> people,
    ProjectSettings project,
    MoneyReader money
)
{
    private readonly WorkUnits _units = project.Units;

    private const int MostHelpers = 50;

    private static readonly Dictionary<string, ConstraintKind> Kinds = Enum.GetValues<ConstraintKind>().ToDictionary(PlanDocumentNames.Of);

    public IReadOnlyList<ReadTask> Read(JsonObjectReader root)
    {
        var tasks = new List<ReadTask>();
        var ids = new HashSet<string>();
        var open = new List<string>();
        var phases = new HashSet<string>();
        foreach (var at in root.Objects("tasks", Plan.MostTasks))
        {
            var read = ReadOne(at);
            var task = read.Task;
            if (!ids.Add(task.Id))
                at.Error("id", "duplicateId", $"There are two tasks with the id “{task.Id}”.");
            CheckPlace(at, task, ids, open);
            if (task.Parent is { } parent)
                phases.Add(parent);
            tasks.Add(read);
            money.OfTask(at, task.Id, _units);
            at.Done();
        }
        for (var i = 0; i < tasks.Count; i++)
        {
            foreach (var (fact, id) in FactFields.Unknown(tasks[i].Task, ids))
                errors.Add($"$.tasks[{i}].{fact.Name}", "unknownId", $"There is no task with the id “{id}”.");
            if (tasks[i].Task.Milestone && phases.Contains(tasks[i].Task.Id))
                errors.Add($"$.tasks[{i}].milestone", "milestone", "A milestone cannot hold other tasks.");
        }
        return tasks;
    }

    /// <summary>
    /// Outline order: a phase stands right before its rows. <paramref name="open"/> holds the phases a row may be in here.
    /// </summary>
    private static void CheckPlace(JsonObjectReader at, PlanTask task, HashSet<string> ids, List<string> open)
    {
        if (task.Parent is null)
            open.Clear();
        else if (open.LastIndexOf(task.Parent) is var level and >= 0)
            open.RemoveRange(level + 1, open.Count - level - 1);
        else if (ids.Contains(task.Parent))
            at.Error("parent", "order", $"Tasks stand in outline order: this one belongs right after the other rows of “{task.Parent}”.");
        else
            at.Error("parent", "unknownId", $"No task before this one has the id “{task.Parent}”: a phase stands before its rows.");
        open.Add(task.Id);
        if (open.Count > 21)
            at.Error("parent", "depth", "Phases can be at most 20 levels deep.");
    }

    private ReadTask ReadOne(JsonObjectReader at)
    {
        var milestone = at.Flag("milestone");
        var length = at.Length("length", _units);
        if (milestone && length is { IsZero: false })
            at.Error("length", "milestone", "A milestone has no length: leave it out.");
        var task = new PlanTask
        {
            Id = PlanDocumentReader.ReadId(at, "id"),
            Name = ReadName(at),
            Parent = at.Text("parent", 64),
            Milestone = milestone,
            Length = milestone ? Length.Zero : length ?? Length.OneDay,
            Tentative = at.Has("tentative") ? at.Flag("tentative") : !milestone && !at.Has("length"),
            AroundTheClock = at.Flag("aroundTheClock"),
            Active = !at.Has("active") || at.Flag("active"),
            Estimate = ReadEstimate(at, milestone),
            Splits = ReadSplits(at, milestone ? Length.Zero : length ?? Length.OneDay),
            Remaining = ReadRemaining(at),
            Calendar = ReadCalendar(at),
            Progress = ReadProgress(at),
            Assignments = ReadAssignments(at),
            Effort = at.Length("effort", _units),
            Note = at.Text("note", PlanTask.LongestNote) ?? "",
            Hands = MarkReader.Hands(at),
            Facts = FactFields.Read(at, project.FieldsOfTasks),
            Checklist = MarkReader.Checklist(at),
            References = MarkReader.References(at),
            Reminders = MarkReader.Reminders(at, people),
            Repeats = MarkReader.Repeats(at, _units),
            Occurrence = at.Date("occurrence")?.Date,
        };
        return new ReadTask(task)
        {
            Pinned = ReadPinned(at),
            Constraint = ReadConstraint(at),
            Deadline = at.Date("deadline"),
            DelayedUntil = at.Date("delayedUntil"),
            ActualStart = at.Date("actualStart"),
            ActualFinish = ReadActualFinish(at, task),
        };
    }

    private LengthEstimate? ReadEstimate(JsonObjectReader task, bool milestone)
    {
        if (task.Object("estimate") is not { } at)
            return null;
        var (low, likely, high) = (Part(at, "low"), Part(at, "likely"), Part(at, "high"));
        at.Done();
        if (low is null || likely is null || high is null)
            return null;
        var estimate = new LengthEstimate(low.Value, likely.Value, high.Value);
        if (SplitRules.WhyRefused(estimate, milestone, _units) is { } why)
            task.Error("estimate", "estimate", why);
        return estimate;
    }

    /// <summary>A length that must be there.</summary>
    private Length? Part(JsonObjectReader at, string field)
    {
        if (!at.Has(field))
            at.Error(field, "missing", $"“{field}” is missing here.");
        return at.Length(field, _units);
    }

    private ImmutableArray<Split> ReadSplits(JsonObjectReader task, Length length)
    {
        var splits = ImmutableArray.CreateBuilder<Split>();
        var readable = true;
        foreach (var at in task.Objects("splits", PlanTask.MostSplits))
        {
            var (after, pause) = (Part(at, "after"), Part(at, "for"));
            at.Done();
            readable &= after is not null && pause is not null;
            splits.Add(new Split(after ?? Length.Zero, pause ?? Length.Zero));
        }
        var read = splits.ToImmutable();
        if (readable && SplitRules.WhyRefused(read, length, _units) is var (position, why))
            errors.Add($"{task.PathOf("splits")}[{position}]", "split", why);
        return read;
    }

    private Length? ReadRemaining(JsonObjectReader at)
    {
        var remaining = at.Length("remaining", _units);
        if (remaining is not null && (!at.Has("actualStart") || at.Has("actualFinish")))
            at.Error(
                "remaining",
                "remaining",
                "Only a task that has started and is not done has work left: give it an “actualStart” and no “actualFinish”."
            );
        return remaining;
    }

    private static string ReadName(JsonObjectReader at)
    {
        var name = at.RequiredText("name", PlanTask.LongestName).Trim();
        if (name.Any(char.IsControl))
            at.Error("name", "name", "A name is one line of text: leave out line breaks.");
        return name;
    }

    private static decimal ReadProgress(JsonObjectReader at)
    {
        var progress = at.Number("progress") ?? 0;
        if (progress is >= 0 and <= 1)
            return progress;
        at.Error("progress", "range", "Progress goes from 0 to 1.");
        return 0;
    }

    private static DateOrTime? ReadActualFinish(JsonObjectReader at, PlanTask task)
    {
        var finish = at.Date("actualFinish");
        if (finish is not null && task.Progress != 1)
            at.Error("progress", "progress", "A task with an actual finish is done: give progress 1.");
        if (at.Has("actualStart") && finish is { } end && at.Date("actualStart") is { } start && start.Date > end.Date)
            at.Error("actualFinish", "range", "A task cannot finish before it starts.");
        return finish;
    }

    private string? ReadCalendar(JsonObjectReader at)
    {
        var id = at.Text("calendar", 64);
        if (id is not null && !calendars.Contains(id))
            at.Error("calendar", "unknownId", $"There is no calendar with the id “{id}”.");
        return id;
    }

    private ImmutableArray<Assignment> ReadAssignments(JsonObjectReader at)
    {
        var assignments = ImmutableArray.CreateBuilder<Assignment>();
        foreach (var entry in at.Objects("assignments", MostHelpers))
        {
            var person = entry.RequiredText("person", 64);
            var share = entry.Number("share") ?? 1;
            if (person.Length > 0 && !people.Contains(person))
                entry.Error("person", "unknownId", $"There is no person with the id “{person}”.");
            if (assignments.Any(a => a.Person == person))
                entry.Error("person", "duplicateId", "Each person can be named once on a task.");
            if (share is <= 0 or > 1)
                entry.Error("share", "range", "A share is above 0 and at most 1.");
            assignments.Add(new Assignment(person, share, entry.Length("effort", _units)));
            entry.Done();
        }
        return assignments.ToImmutable();
    }

    private static (DateOrTime, DateOrTime?)? ReadPinned(JsonObjectReader task)
    {
        if (task.Object("pinned") is not { } at)
            return null;
        var start = at.Date("start");
        var finish = at.Date("finish");
        if (!at.Has("start"))
            at.Error("start", "missing", "“start” is missing: a pinned task has one.");
        if (start?.Date > finish?.Date)
            at.Error("finish", "range", "A pinned task cannot finish before it starts.");
        at.Done();
        return start is { } s ? (s, finish) : null;
    }

    private static (ConstraintKind, DateOrTime?)? ReadConstraint(JsonObjectReader task)
    {
        if (task.Object("constraint") is not { } at)
            return null;
        var kind = at.RequiredText("kind", 40);
        var known = Kinds.TryGetValue(kind, out var found);
        if (!known && kind.Length > 0)
            at.Error("kind", "value", $"“{kind}” is not a kind of fixed date: use one of {string.Join(", ", Kinds.Keys)}.");
        var date = at.Date("date");
        var needsDate = new DateConstraint(found).NeedsDate;
        if (known && needsDate && !at.Has("date"))
            at.Error("date", "missing", "“date” is missing: this kind of fixed date has one.");
        if (known && !needsDate && at.Has("date"))
            at.Error("date", "value", "This kind of fixed date has no date of its own: leave it out.");
        at.Done();
        return known && needsDate == date is not null ? (found, date) : null;
    }
}
