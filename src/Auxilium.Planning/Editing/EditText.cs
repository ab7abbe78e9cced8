using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>Says what an edit changed by itself, before anything that followed from it.</summary>
internal static class EditText
{
    /// <summary>So many edits of a kind are told each for itself.</summary>
    private const int MostAlone = 3;

    public static IEnumerable<TextRun> Of(PlanEdit edit, Schedule before, Schedule after) =>
        edit switch
        {
            AddTask e => [Name(after, e.Id), new(" added.")],
            RemoveTasks { Tasks: [var only] } => [Name(before, only), new($" removed{WithInside(before, only)}.")],
            RemoveTasks e => [new($"{e.Tasks.Length} rows", true), new(" removed.")],
            RestoreTasks { Tasks: [var only] } => [Name(after, only.Task.Id), new(" is back.")],
            RestoreTasks e => [new($"{e.Tasks.Length} rows", true), new(" are back.")],
            CopyTasks { Ids: [var only] } => [Name(after, only), new(" is a copy.")],
            CopyTasks e => [new($"{e.Ids!.Value.Length} rows", true), new(" copied.")],
            RenameTask e => [Name(before, e.Task), new(" is now called "), Name(after, e.Task), new(".")],
            SetLength e => SetLength(e, before, after),
            SetMilestone { On: true } e => [Name(after, e.Task), new(" is now a milestone.")],
            SetMilestone e => [Name(after, e.Task), new($" is now a task of {after.Plan.Find(e.Task)!.Length.InWords()}.")],
            SetAssignments e => [Name(after, e.Task), .. People(before, after, e.Task), .. Hands(e, before, after)],
            SetPredecessors e => Predecessors(e, after),
            OutdentTask e => [Name(after, e.Task), new(" is one level up.")],
            MoveTask e => MovedRow(e, after),
            SetTracking e => Tracking(e, before, after),
            SetFixedDates e => Fixed(e, after),
            SetNote { Note: "" } e => [Name(after, e.Task), new(" has no note now.")],
            SetNote e => [new("The note of "), Name(after, e.Task), new(" has changed.")],
            SetKey e => [Name(after, e.Task), new(e.On ? " is a key task." : " is a key task no more.")],
            SetColour { Colour: { } colour } e => [Name(after, e.Task), new($" is marked in {colour}.")],
            SetColour e => [Name(after, e.Task), new(" has no colour of its own now.")],
            SetLabel { Label: { Length: > 0 } label } e => [Name(after, e.Task), new(" is labelled "), new(label, true), new(".")],
            SetLabel e => [Name(after, e.Task), new(" has no label now.")],
            SetChecklist e => [Name(after, e.Task), new(Steps(after.Plan.Find(e.Task)!))],
            SetReferences e =>
            [
                Name(after, e.Task),
                new(
                    e.References.IsEmpty ? " has no links to pages now."
                    : e.References.Length == 1 ? " has a link to a page."
                    : $" has {e.References.Length} links to pages."
                ),
            ],
            SetPriority e => [Name(after, e.Task), new($" has priority {e.Priority}.")],
            RepeatTask e =>
            [
                Name(after, e.Task),
                new(
                    $" comes {RepeatText.Of(e.Rule)}: {Times(Occurrences(after.Plan, e.Task))}."
                        + $"{(SeriesText.Of(before, e) is { Length: > 0 } change ? $" {change}" : "")}"
                ),
            ],
            ExtendSeries e =>
            [
                Name(after, e.Task),
                new(
                    $" goes on{(after.Plan.Find(e.Task)!.Repeats?.Made is { } made ? $" to {Dates.Day(made)}" : "")}: "
                        + $"{Times(e.Ids!.Value.Length)} more."
                ),
            ],
            KeepSeries e => [Name(after, e.Task), new(" ends where it does.")],
            SetRepeat e =>
            [
                Name(after, e.Task),
                new(e.Rule is null ? " repeats no more; its rows stay." : $" comes {RepeatText.Of(e.Rule)}."),
            ],
            SetPeriods e =>
            [
                new(
                    e.Periods.IsEmpty
                        ? "There are no named periods now."
                        : $"Named periods: {string.Join(", ", e.Periods.Select(p => p.Name))}."
                ),
            ],
            RenameProject e => [new("The project is now called "), new(e.Name, true), new(".")],
            LinkTasks e =>
            [
                Name(after, e.To),
                new($" {LinkKindText.NowWaits(e.Kind ?? LinkKind.FinishToStart, e.Lag ?? Length.Zero, e.Elapsed is true)} "),
                Name(after, e.From),
                new("."),
            ],
            UnlinkTasks e => [Name(after, e.To), new(" no longer waits for "), Name(after, e.From), new(".")],
            SetDeadline { Deadline: { } day } e =>
            [
                Name(after, e.Task),
                new($" should be finished by {Dates.FinishDay(day.AsFinish(after.Plan.ProjectCalendar))}."),
            ],
            SetDeadline e => [Name(after, e.Task), new(" has no deadline now.")],
            SetSplits { Splits.IsDefaultOrEmpty: true } e => [Name(after, e.Task), new(" is worked on without a pause.")],
            SetSplits { Splits: [var split] } e =>
            [
                Name(after, e.Task),
                new($" pauses for {split.For.InWords()} after {split.After.InWords()} of work."),
            ],
            SetSplits e => [Name(after, e.Task), new($" pauses {e.Splits.Length} times.")],
            SetTaskCalendar { Calendar: { } calendar } e =>
            [
                Name(after, e.Task),
                new(" goes by the calendar "),
                Calendar(before, after, calendar),
                new("."),
            ],
            SetTaskCalendar e => [Name(after, e.Task), new(" has no calendar of its own.")],
            SetAroundTheClock e => [Name(after, e.Task), new(e.On ? " goes on round the clock." : " is worked on in working time only.")],
            SetEstimate { Estimate: { } range } e =>
            [
                Name(after, e.Task),
                new($" may take {range.Low.InWords()} to {range.High.InWords()}, most likely {range.Likely.InWords()}."),
            ],
            SetEstimate e => [Name(after, e.Task), new(" has no range of lengths now.")],
            SetActive e => [Name(after, e.Task), new(Active(e, after.Plan))],
            SetAnchor { From: ScheduleFrom.Finish } =>
            [
                new("The project must be finished "),
                new(Dates.FinishDay(after.Finish), true),
                new("; the latest start is "),
                new(Dates.Day(after.Start), true),
                new("."),
            ],
            SetAnchor => [new("The project now starts "), new(Dates.Day(after.Start), true), new(".")],
            SetStatusDate { StatusDate: { } date } e =>
            [
                new($"Progress is reported up to {Dates.Day(date.AsStart(after.Plan.ProjectCalendar))}"),
                new(e.MoveUnfinishedWork ? "; unfinished work goes on after it." : "."),
            ],
            SetStatusDate => [new("The project has no status date now.")],
            SetWorkUnits e =>
            [
                new(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"A day is now {e.HoursPerDay:0.##} hours of work and a week {e.DaysPerWeek:0.##} days."
                    )
                ),
            ],
            SetProjectCalendar =>
            [
                new("The project goes by the calendar "),
                new(after.Plan.Project.Calendar is { } id ? after.Plan.CalendarBook.Find(id)!.Name : WorkCalendar.Weekdays.Name, true),
                new("."),
            ],
            SetCriticality e =>
            [
                new(
                    $"Tasks with {(e.CriticalFloat.IsZero ? "no float" : $"at most {e.CriticalFloat.InWords()} of float")} set the finish."
                ),
            ],
            SaveCalendar e =>
            [
                new("The calendar "),
                new(e.Calendar.Name, true),
                new(before.Plan.CalendarBook.Find(e.Calendar.Id) is null ? " is new." : " has changed."),
            ],
            RemoveCalendar e => [new("The calendar "), Calendar(before, after, e.Calendar), new(" is gone.")],
            SetPersonCalendar e =>
            [
                Person(before, after, e.Person),
                new(
                    $" works by {(e.Calendar is { } id ? $"the calendar {Calendar(before, after, id).Text}" : "the project’s calendar")}."
                ),
            ],
            SetOwnTime e => [Person(before, after, e.Person), new(OwnTime(e, before))],
            SetCoordinator { Person: null } => [new("Nobody coordinates the project now.")],
            SetCoordinator e => [Person(before, after, e.Person!), new(" coordinates the project now.")],
            SetFinishBy => [.. FinishBy(after)],
            JoinPlan { New: true, Like: { } like } e =>
            [
                new(e.Person.Name, true),
                new(" is new here and joined the plan. Did you mean "),
                new(like, true),
                new("?"),
            ],
            JoinPlan e => [new(e.Person.Name, true), new(e.New ? " is new here and joined the plan." : " joined the plan.")],
            LeavePlan e => before.Plan.FindPerson(e.Person) is { } gone ? [new(gone.Name, true), new(" left the plan.")] : [],
            Together e => Several(e, before, after),
            _ => [new("The plan changed.")],
        };

    /// <summary>Of several edits made together, one may remove what another speaks of.</summary>
    private static TextRun Name(Schedule schedule, string task) =>
        new(schedule.Plan.Find(task) is { } found ? LengthText.Shorten(found.Name) : "a row that is gone", true);

    private static TextRun Person(Schedule before, Schedule after, string id) =>
        new((after.Plan.FindPerson(id) ?? before.Plan.FindPerson(id))?.Name ?? id, true);

    private static TextRun Calendar(Schedule before, Schedule after, string id) =>
        new((after.Plan.CalendarBook.Find(id) ?? before.Plan.CalendarBook.Find(id))?.Name ?? id, true);

    /// <summary>What is other than before: the week somebody works, and the days they are away.</summary>
    private static string OwnTime(SetOwnTime edit, Schedule before)
    {
        var was = before.Plan.CalendarBook.Find(PeopleEdits.OwnCalendarOf(edit.Person));
        if (edit.Time is not { } now)
            return " works by the calendar of the others.";
        var days = now.Exceptions.Where(e => was?.Exceptions.Any(w => w.From == e.From && w.To == e.To) != true).ToList();
        var back = was?.Exceptions.Where(w => now.Exceptions.All(e => w.From != e.From || w.To != e.To)).ToList() ?? [];
        List<string> said = [];
        if (HasOtherWeek(was, now))
            said.Add(now.Week.All(day => day is null) ? "works the same week as the others" : "has a week of their own");
        if (days.Count > 0)
            said.Add($"is away {Days(days)}");
        if (back.Count > 0)
            said.Add($"is no longer away {Days(back)}");
        return said.Count == 0 ? " has the same week and days off as before." : $" {Listed(said)}.";
    }

    private static bool HasOtherWeek(WorkCalendar? was, WorkCalendar now) =>
        Enumerable
            .Range(0, now.Week.Length)
            .Any(day =>
                was?.Week[day] is { } before ? now.Week[day] is not { } after || !before.SequenceEqual(after) : now.Week[day] is not null
            );

    private static string Days(List<CalendarOverride> days) =>
        string.Join(
            ", ",
            days.Take(3).Select(d => d.From == d.To ? $"on {Dates.Day(d.From)}" : $"from {Dates.Day(d.From)} to {Dates.Day(d.To)}")
        ) + (days.Count > 3 ? $" and {days.Count - 3} more times" : "");

    /// <summary>What the hands did to the length.</summary>
    private static IEnumerable<TextRun> Hands(SetAssignments edit, Schedule before, Schedule after)
    {
        if (before.Plan.Find(edit.Task) is not { Length: var was })
            yield break;
        var now = after.Plan.Find(edit.Task)!.Length;
        if (before.Plan.Project.Units.Minutes(was) != after.Plan.Project.Units.Minutes(now))
            yield return new(
                $" With {PeopleInWords(after.Plan.Find(edit.Task)!.People)} it takes {now.InWords()} instead of {was.InWords()}."
            );
    }

    private static string PeopleInWords(decimal people) =>
        people == 1 ? "one person" : string.Create(CultureInfo.InvariantCulture, $"{people:0.##} people");

    /// <summary>Of an occurrence its day is named, of a phase what is in it.</summary>
    private static string Active(SetActive edit, Plan plan)
    {
        var (task, row) = (plan.Find(edit.Task)!, plan.Index.RowOf(edit.Task));
        if (task.Occurrence is { } day)
            return edit.On ? $" takes place on {Dates.Day(day)} after all." : $" is skipped on {Dates.Day(day)}.";
        var inside = plan.Index.SubtreeEnd(row) - row - 1;
        var with = inside == 0 ? "" : $", with the {(inside == 1 ? "row" : $"{inside} rows")} inside it,";
        return edit.On ? $"{with} takes part again." : $"{with} takes no part now.";
    }

    private static string Times(int count) => count == 1 ? "once" : $"{count} times";

    private static string Steps(PlanTask task) =>
        task.Checklist.IsEmpty ? " has no checklist now."
        : task.Checklist.All(step => step.Done) ? " has all steps of its checklist done."
        : $" has {task.Checklist.Count(step => step.Done)} of {task.Checklist.Length} steps done.";

    private static string WithInside(Schedule schedule, string task)
    {
        var row = schedule.Plan.Index.RowOf(task);
        return (schedule.Plan.Index.SubtreeEnd(row) - row - 1) switch
        {
            0 => "",
            1 => " with the row inside it",
            var inside => $" with the {inside} rows inside it",
        };
    }

    private static IEnumerable<TextRun> SetLength(SetLength edit, Schedule before, Schedule after)
    {
        var was = before.Plan.Find(edit.Task);
        yield return Name(after, edit.Task);
        var (length, tentative) = edit.Length;
        if (was is null)
            yield return new($" takes {length.InWords()}{(tentative ? " (a guess)" : "")}.");
        else if (was.Length == length)
            yield return new(tentative ? $" still takes {length.InWords()}, as a guess." : $" takes {length.InWords()}, confirmed.");
        else
            yield return new($" now takes {length.InWords()}{(tentative ? " (a guess)" : "")} instead of {was.Length.InWords()}.");
    }

    /// <summary>Whose a task is now, and who helps or no longer does: what is other than before, and the owner when nothing is.</summary>
    private static IEnumerable<TextRun> People(Schedule before, Schedule after, string task)
    {
        var (was, now) = (before.Plan.Find(task)?.Assignments ?? [], after.Plan.Find(task)!.Assignments);
        var plan = after.Plan;
        var owner = plan.FindPerson(now.FirstOrDefault().Person);
        var isSameOwner = was.FirstOrDefault().Person == now.FirstOrDefault().Person;
        var come = now.Skip(1).Where(a => was.All(w => w.Person != a.Person)).Select(a => Person(before, after, a.Person).Text).ToList();
        var gone = was.Skip(1).Where(w => now.All(a => a.Person != w.Person)).Select(w => Person(before, after, w.Person).Text).ToList();
        if (!isSameOwner || come.Count + gone.Count == 0)
        {
            if (owner is null)
                yield return new(" has no owner.");
            else
            {
                yield return new(" is now ");
                yield return new(owner.Name, true);
                yield return new("’s.");
            }
            if (come.Count > 0)
                yield return new($" {Listed(come)} {(come.Count == 1 ? "helps" : "help")}.");
            if (gone.Count > 0)
                yield return new($" {Listed(gone)} no longer {(gone.Count == 1 ? "helps" : "help")}.");
            yield break;
        }
        if (come.Count > 0)
            yield return new($" has help from {Listed(come)}.");
        if (gone.Count > 0)
            yield return new($" no longer has help from {Listed(gone)}.");
    }

    internal static string Listed(List<string> names) =>
        names.Count == 1 ? names[0] : $"{string.Join(", ", names.Take(names.Count - 1))} and {names[^1]}";

    private static IEnumerable<TextRun> Predecessors(SetPredecessors edit, Schedule after)
    {
        yield return Name(after, edit.Task);
        if (edit.Links.IsEmpty)
        {
            yield return new(" no longer waits for anything.");
            yield break;
        }
        var first = edit.Links[0];
        yield return new($" {LinkKindText.NowWaits(first.Kind, first.Lag, first.Elapsed)} ");
        yield return Name(after, first.From);
        if (edit.Links.Length > 1)
            yield return new(edit.Links.Length == 2 ? " and one more" : $" and {edit.Links.Length - 1} more");
        yield return new(".");
    }

    private static IEnumerable<TextRun> MovedRow(MoveTask edit, Schedule after) =>
        edit.Parent is { } phase
            ? [Name(after, edit.Task), new(" is now in "), Name(after, phase), new(".")]
            : [Name(after, edit.Task), new(" has a new place in the list.")];

    private static IEnumerable<TextRun> Tracking(SetTracking edit, Schedule before, Schedule after)
    {
        var was = before.Plan.Find(edit.Task);
        yield return Name(after, edit.Task);
        yield return new(
            edit switch
            {
                { ActualFinish: null } when was?.IsFinished is true =>
                    $" is not done after all: {(edit.ActualStart is null ? "it has not started" : Percent(edit.Progress))}.",
                { ActualFinish: { } done, ActualStart: { } began } when done == was?.ActualFinish && began != was.ActualStart =>
                    $" started {Dates.Day(began)}.",
                { ActualFinish: { } finish } => $" is done, finished {Dates.FinishDay(finish)}.",
                { Remaining: { } left } => $" has {left.InWords()} of work left.",
                { ActualStart: { } start, Progress: 0 } => $" started {Dates.Day(start)}.",
                { Progress: > 0 } => $" is {Percent(edit.Progress)}.",
                _ => " has not started.",
            }
        );
    }

    private static int Occurrences(Plan plan, string task) =>
        plan.Index.TryFind(task, out var row) ? plan.Index.ChildrenOf(row).Count(child => plan.Tasks[child].Active) : 0;

    private static string Percent(decimal progress) => string.Create(CultureInfo.InvariantCulture, $"{progress * 100:0.#} % done");

    private static IEnumerable<TextRun> Fixed(SetFixedDates edit, Schedule after)
    {
        yield return Name(after, edit.Task);
        yield return new(
            edit switch
            {
                { Pinned: { } pinned } => $" is pinned to {Dates.Day(pinned.Start)}.",
                { Constraint: { } constraint } => $" {FixedDateText.Does(constraint)}.",
                _ => $" goes as early as its links allow: {Dates.Day(after.StartOf(edit.Task))}.",
            }
        );
    }

    private static IEnumerable<TextRun> FinishBy(Schedule after) =>
        after.Plan.Project.FinishBy is { } by
            ? [new("The project must be finished by "), new(Dates.FinishDay(by), true), new(".")]
            : [new("The project has no deadline now.")];

    /// <summary>
    /// Every part is told: alone where there are few of its kind or much hangs on it, and otherwise how many of its kind there are.
    /// </summary>
    private static IEnumerable<TextRun> Several(Together edit, Schedule before, Schedule after)
    {
        var parts = EditPipeline.PartsOf(edit).ToImmutableArray();
        var joins = parts.OfType<JoinPlan>().Select(j => j.Person.Id).ToHashSet();
        // Whoever joins a plan brings their own time: that goes without saying.
        var telling = parts
            .Where(e =>
                e is not (JoinPlan or LeavePlan) && !(e is SetOwnTime own && joins.Contains(own.Person)) && IsLeft(e, before, after)
            )
            .ToImmutableArray();
        List<IEnumerable<TextRun>> sentences =
        [
            .. telling.Where(IsWeighty).Select(e => Of(e, before, after)),
            .. SaidTogether([.. telling.Where(e => !IsWeighty(e))], before, after),
            .. parts.Where(e => e is JoinPlan or LeavePlan).Select(e => Of(e, before, after)),
        ];
        return sentences.Count > 0 ? Joined(sentences) : [new("Nothing changed.")];
    }

    /// <summary>
    /// Whether there is anything left to say of a part: what came and went again, or was changed and then removed, is told by what it
    /// ended as.
    /// </summary>
    private static bool IsLeft(PlanEdit edit, Schedule before, Schedule after) =>
        edit switch
        {
            RemoveTasks e => e.Tasks.Any(t => before.Plan.Find(t) is not null),
            CopyTasks e => e.Ids is not { } ids || ids.Any(t => after.Plan.Find(t) is not null),
            RestoreTasks e => e.Tasks.Any(t => after.Plan.Find(t.Task.Id) is not null),
            RenameTask e => before.Plan.Find(e.Task) is not null && after.Plan.Find(e.Task) is not null,
            RemoveCalendar e => before.Plan.CalendarBook.Find(e.Calendar) is not null,
            _ => EditPipeline.TaskOf(edit) is not { } task || after.Plan.Find(task) is not null,
        };

    /// <summary>What decides who may do what is told each for itself, and first.</summary>
    private static bool IsWeighty(PlanEdit edit) => edit is SetCoordinator or SetOwnTime or SetPersonCalendar;

    private static IEnumerable<IEnumerable<TextRun>> SaidTogether(ImmutableArray<PlanEdit> telling, Schedule before, Schedule after)
    {
        if (telling.IsEmpty)
            return [];
        if (telling.Length == 1)
            return [Of(telling[0], before, after)];
        var tasks = telling.Select(EditPipeline.TaskOf).Distinct().ToList();
        if (telling is [SetActive { On: true }, SetFixedDates or SetTracking] && tasks.Count == 1)
            return
            [
                [Name(after, tasks[0]!), new($" takes part again and starts {Dates.Day(after.StartOf(tasks[0]!))}.")],
            ];
        if (telling is [SetLength resized, SetFixedDates or SetTracking] && tasks.Count == 1)
            return
            [
                [
                    Name(after, tasks[0]!),
                    new($" now starts {Dates.Day(after.StartOf(tasks[0]!))} and takes {resized.Length.Length.InWords()}."),
                ],
            ];
        var added = telling.OfType<AddTask>().Select(e => e.Id).ToHashSet();
        if (added.Count > 0 && tasks.All(t => t is not null && added.Contains(t)))
            return [added.Count == 1 ? [Name(after, added.First()), new(" added.")] : [new($"{added.Count} rows", true), new(" added.")]];
        if (tasks.Count > 1 && !tasks.Contains(null) && SameOfAll(telling, after) is { } same)
            return
            [
                [new($"{tasks.Count} tasks", true), .. same],
            ];
        return telling
            .GroupBy(e => e.GetType())
            .SelectMany(kind =>
                kind.Count() <= MostAlone
                    ? kind.Select(e => Of(e, before, after))
                    :
                    [
                        [new($"{kind.Count()}", true), new($" {EditKindText.Of(kind.First())}.")],
                    ]
            );
    }

    private static IEnumerable<TextRun> Joined(IEnumerable<IEnumerable<TextRun>> sentences)
    {
        var isFirst = true;
        foreach (var sentence in sentences)
        {
            if (!isFirst)
                yield return new(" ");
            foreach (var run in sentence)
                yield return run;
            isFirst = false;
        }
    }

    /// <summary>What is said once where edits of several tasks all say the same; <c>null</c> where they do not.</summary>
    private static IEnumerable<TextRun>? SameOfAll(ImmutableArray<PlanEdit> edits, Schedule after)
    {
        switch (edits[0])
        {
            case SetAssignments first
                when edits.All(e => e is SetAssignments s && s.Assignments.FirstOrDefault() == first.Assignments.FirstOrDefault()):
                return after.Plan.FindPerson(first.Assignments.FirstOrDefault().Person) is { } owner
                    ? [new(" are now "), new(owner.Name, true), new("’s.")]
                    : [new(" have no owner.")];
            case SetLength first when edits.All(e => e is SetLength s && s.Length == first.Length):
                return [new($" now take {first.Length.Length.InWords()} each.")];
            case SetTaskCalendar first when edits.All(e => e is SetTaskCalendar s && s.Calendar == first.Calendar):
                return first.Calendar is { } id
                    ? [new(" go by the calendar "), new(after.Plan.CalendarBook.Find(id)?.Name ?? id, true), new(".")]
                    : [new(" have no calendar of their own.")];
            case SetTracking { Progress: var progress } when edits.All(e => e is SetTracking s && s.Progress == progress):
                return
                [
                    new(progress >= 1 ? " are done." : string.Create(CultureInfo.InvariantCulture, $" are {progress * 100:0.#} % done.")),
                ];
            case SetMilestone first when edits.All(e => e is SetMilestone s && s.On == first.On):
                return [new(first.On ? " are now milestones." : " are milestones no more.")];
            case SetKey first when edits.All(e => e is SetKey s && s.On == first.On):
                return [new(first.On ? " are key tasks." : " are key tasks no more.")];
            case SetColour first when edits.All(e => e is SetColour s && s.Colour == first.Colour):
                return [new(first.Colour is { } colour ? $" are marked in {colour}." : " have no colour of their own now.")];
            case SetLabel first when edits.All(e => e is SetLabel s && s.Label == first.Label):
                return first.Label is { } label ? [new(" are labelled "), new(label, true), new(".")] : [new(" have no label now.")];
            case SetActive first when edits.All(e => e is SetActive s && s.On == first.On):
                return [new(first.On ? " take part again." : " take no part now.")];
            case SetFixedDates when edits.All(e => e is SetFixedDates):
                return [new(" have another place.")];
            case LinkTasks when edits.All(e => e is LinkTasks):
                return [new(" now wait for one another.")];
            case IndentTask or MoveTask or OutdentTask when edits.All(e => e is IndentTask or MoveTask or OutdentTask):
                return [new(" have a new place in the list.")];
            default:
                return null;
        }
    }
}
