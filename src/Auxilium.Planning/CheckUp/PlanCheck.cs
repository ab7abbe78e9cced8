using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.CheckUp;

/// <summary>Checks whether a plan is sound, and offers fixes.</summary>
public sealed class PlanCheck
{
    private const int FewTasks = 5;

    /// <summary>Of more delayed tasks, only the first are looked at.</summary>
    private const int MostReleased = 40;

    private readonly Schedule _schedule;
    private readonly Plan _plan;
    private readonly PlanTime _dawn;
    private readonly List<int> _leaves;
    private readonly HashSet<int> _linked;
    private readonly IReadOnlyDictionary<string, int> _worked;
    private readonly DateOnly _today;
    private readonly OtherWork _others;

    private PlanCheck(Schedule schedule, DateOnly today, IReadOnlyDictionary<string, int>? worked, OtherWork? others)
    {
        _today = today;
        _others = others ?? new OtherWork(Capacities.Of(schedule.Plan), new Dictionary<(string, DateOnly), decimal>());
        _worked = worked ?? new Dictionary<string, int>();
        _schedule = schedule;
        _plan = schedule.Plan;
        _dawn = PlanTime.On(today);
        _leaves = [.. Enumerable.Range(0, _plan.Index.Count).Where(schedule.IsLeaf)];
        _linked = Linked();
    }

    /// <summary>The findings, the most pressing first. An empty plan has none.</summary>
    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="today">Today.</param>
    /// <param name="worked">Minutes that people worked, by the id of the task.</param>
    /// <param name="others">What people have to do in other projects.</param>
    public static IReadOnlyList<Finding> Of(
        Schedule schedule,
        DateOnly today,
        IReadOnlyDictionary<string, int>? worked = null,
        OtherWork? others = null
    )
    {
        var check = new PlanCheck(schedule, today, worked, others);
        Func<IEnumerable<Finding>>[] tests =
        [
            check.FinishTooLate,
            check.NegativeFloat,
            check.DatesMissed,
            check.Drifted,
            check.FixedDatesThatBreakLinks,
            check.LeadsTooLong,
            check.PhaseLinksThatHideTasks,
            check.NotLinked,
            check.LonelyMilestones,
            check.NoOwner,
            check.OwnersAway,
            check.TentativeLengths,
            check.VeryLongTasks,
            check.Milestones,
            check.ProgressInFuture,
            check.NoProgressInPast,
            check.SeriesStop,
            check.OverHours,
            check.HelpersAway,
            check.LevelledForNothing,
        ];
        return [.. tests.SelectMany(test => test())];
    }

    private IEnumerable<Finding> FinishTooLate()
    {
        if (_schedule.Warnings.FirstOrDefault(w => w.Code == WarningCode.W4) is not { } late)
        {
            if (Outlook.Of(_schedule, _dawn.Date) is not { Spare: { Count: < 0 } spare } outlook)
                yield break;
            yield return Found(
                FindingKind.FinishTooLate,
                _leaves.Where(row => !_plan.Tasks[row].IsFinished && _schedule.StartOf(row) < _dawn),
                $"As planned the project keeps its deadline, but if what is left starts today, it finishes on "
                    + $"{Dates.FinishDay(outlook.Finish)}, "
                    + $"{DurationText.Of(-spare, _plan.Project.Units).Replace(" day", " working day")} late.",
                "Work that lies in the past and is not done counts as done in the plan: report on it, or move it to after today."
            );
            yield break;
        }
        var path = Reasons.WhyFinish(_schedule).Select(r => r.Task).Distinct();
        yield return Found(
            FindingKind.FinishTooLate,
            path.Select(_plan.Index.RowOf),
            late.Message,
            "Whoever counts on the date will be let down; only the tasks listed here can bring the finish forward."
        );
    }

    private IEnumerable<Finding> NegativeFloat()
    {
        var rows = _leaves.Where(row => _schedule.TotalFloatOf(row) is { Count: < 0 }).ToList();
        if (rows.Count == 0)
            yield break;
        yield return Found(
            FindingKind.NegativeFloat,
            rows,
            $"{Count(rows.Count, "task has", "tasks have")} negative float.",
            "They would have to be done sooner than they can be: some date that should be kept will be missed unless something is "
                + "shortened."
        );
    }

    private IEnumerable<Finding> DatesMissed() =>
        from warning in _schedule.Warnings
        where warning.Code is WarningCode.W2 or WarningCode.W3
        let task = warning.Tasks[0]
        select Found(
            FindingKind.DateMissed,
            [_plan.Index.RowOf(task)],
            warning.Message,
            "A date that is missed in the plan will be missed for real: shorten what comes before it, or agree on another."
        );

    private IEnumerable<Finding> Drifted()
    {
        if (Drift.Of(_schedule) is not { Finish: { Count: > 0 } late } drift)
            yield break;
        var behind = _leaves
            .Where(row => !_plan.Tasks[row].IsFinished && drift.Of(row)?.Finish.Count > 0)
            .OrderByDescending(row => drift.Of(row)!.Value.Finish.Count);
        yield return Found(
            FindingKind.Drifted,
            behind,
            $"The finish is {RippleText.Against(late, _plan.Project.Units)} “{LengthText.Shorten(drift.Baseline.Name)}”.",
            "Tell those who count on it, or bring the tasks forward that have drifted most: they come first here."
        );
    }

    private IEnumerable<Finding> OverHours() =>
        from used in UsedHours.Of(_schedule, _worked)
        where _schedule.IsLeaf(used.Row) && used.Used.IsEating && !_plan.Tasks[used.Row].IsFinished
        select Found(
            FindingKind.OverHours,
            [used.Row],
            $"{LinkRules.Named(_plan, used.Row)}: {used.Used.Said}.",
            "More of its effort is used than of its work is done: say how far it really is, or plan more effort for what is left."
        );

    private IEnumerable<Finding> FixedDatesThatBreakLinks() =>
        from warning in _schedule.Warnings
        where warning.Code == WarningCode.W1
        let task = _plan.Find(warning.Tasks[1])!
        where task is { IsStarted: false, IsFinished: false } and ({ Pinned: not null } or { Constraint.IsMust: true })
        select Found(
            FindingKind.FixedDateBreaksLink,
            [_plan.Index.RowOf(warning.Tasks[0]), _plan.Index.RowOf(task.Id)],
            warning.Message,
            "Its date stays put though what it waits for is not done by then.",
            new Fix("Let its links decide", new SetFixedDates(task.Id, null, null))
        );

    private IEnumerable<Finding> LeadsTooLong()
    {
        foreach (var link in _plan.Links.Where(l => l.Kind == LinkKind.FinishToStart && l.Lag.Amount < 0))
        {
            var from = _plan.Index.RowOf(link.From);
            if (_schedule.IsOff(from) || _schedule.IsOff(_plan.Index.RowOf(link.To)))
                continue;
            var length = _schedule.LengthOf(from);
            if (-link.LagMinutes(_plan.Project.Units) <= length.Count)
                continue;
            var whole = _plan.Project.Units.ToLength(length);
            yield return Found(
                FindingKind.LeadTooLong,
                [from, _plan.Index.RowOf(link.To)],
                $"{Named(link.To)} may begin {(link.Lag with { Amount = -link.Lag.Amount }).InWords()} before the end of "
                    + $"{Named(link.From)}, which takes only {whole.InWords()}.",
                "It could begin before the task it waits for does.",
                new Fix(
                    $"Cut the lead to {whole.InWords()}",
                    new LinkTasks(link.From, link.To, link.Kind, whole with { Amount = -whole.Amount }, false)
                )
            );
        }
    }

    private IEnumerable<Finding> PhaseLinksThatHideTasks()
    {
        foreach (var link in _plan.Links)
        {
            var (from, to) = (_plan.Index.RowOf(link.From), _plan.Index.RowOf(link.To));
            if (!_schedule.IsPhase(from) || !_schedule.IsLeaf(to) || _plan.Tasks[to].Parent is null)
                continue;
            var inside = Enumerable.Range(from, _plan.Index.SubtreeEnd(from) - from).Where(_schedule.IsLeaf);
            var real = link.FromStart ? inside.MinBy(_schedule.StartOf) : inside.MaxBy(_schedule.FinishOf);
            yield return Found(
                FindingKind.PhaseLinkHidesTask,
                [from, to],
                $"{Named(link.To)} waits for the whole phase {Named(link.From)}.",
                $"The link does not say which task really matters; now it is {Named(_plan.Tasks[real].Id)}, and any other could delay "
                    + "it unseen.",
                new Fix(
                    $"Link it to {LengthText.Shorten(_plan.Tasks[real].Name)}",
                    new Together([
                        new UnlinkTasks(link.From, link.To),
                        new LinkTasks(_plan.Tasks[real].Id, link.To, link.Kind, link.Lag, link.Elapsed),
                    ])
                )
            );
        }
    }

    private IEnumerable<Finding> NotLinked()
    {
        var rows = _leaves
            .Where(row => !_linked.Contains(row) && !IsMilestone(row) && !_plan.Tasks[row].IsFinished && !IsOccurrence(row))
            .ToList();
        if (rows.Count == 0 || _leaves.Count < 2)
            yield break;
        yield return Found(
            FindingKind.NotLinked,
            rows,
            $"{Count(rows.Count, "task is", "tasks are")} linked to nothing, at neither end.",
            "Nothing moves them when the plan moves, and nothing notices when they slip.",
            Chain(rows)
        );
    }

    /// <summary>An occurrence of a repeating task comes on its day: nothing has to lead to it.</summary>
    private bool IsOccurrence(int row) => _plan.Index.ParentOf(row) is var parent and >= 0 && _plan.Tasks[parent].Repeats is not null;

    private IEnumerable<Finding> LonelyMilestones()
    {
        var rows = _leaves
            .Where(row => IsMilestone(row) && !_linked.Contains(row) && !_plan.Tasks[row].IsFinished && !IsOccurrence(row))
            .ToList();
        if (rows.Count == 0)
            yield break;
        yield return Found(
            FindingKind.LonelyMilestone,
            rows,
            $"{Count(rows.Count, "milestone is", "milestones are")} linked to nothing.",
            "A milestone says when something is reached; without a link it says nothing about the work.",
            Chain(rows)
        );
    }

    private IEnumerable<Finding> NoOwner()
    {
        var rows = _leaves.Where(row => _plan.Tasks[row].Owner is null && !_plan.Tasks[row].IsFinished && !IsMilestone(row)).ToList();
        if (rows.Count == 0)
            yield break;
        var coordinator = _plan.FindPerson(_plan.Project.Coordinator);
        var fix = coordinator is null
            ? null
            : new Fix(
                $"Give {(rows.Count == 1 ? "it" : "them")} to {coordinator.Name}",
                new Together([
                    .. rows.Select(row => new SetAssignments(
                        _plan.Tasks[row].Id,
                        [new Assignment(coordinator.Id), .. _plan.Tasks[row].Assignments]
                    )),
                ])
            );
        yield return Found(
            FindingKind.NoOwner,
            rows,
            $"{Count(rows.Count, "task has", "tasks have")} no owner.",
            "A task without an owner is easily forgotten: nobody reports on it.",
            fix
        );
    }

    private IEnumerable<Finding> OwnersAway() =>
        from warning in _schedule.Warnings
        where warning.Code == WarningCode.W5
        select Found(FindingKind.OwnerAway, [_plan.Index.RowOf(warning.Tasks[0])], warning.Message, "Nobody will be there to do it.");

    private IEnumerable<Finding> HelpersAway() =>
        from warning in _schedule.Warnings
        where warning.Code == WarningCode.W6
        select Found(
            FindingKind.HelperAway,
            [_plan.Index.RowOf(warning.Tasks[0])],
            warning.Message,
            "Their part of the work counts while they are away, and nobody will do it."
        );

    /// <summary>What levelling delays although nobody would be more overbooked without it (rule N5).</summary>
    private IEnumerable<Finding> LevelledForNothing()
    {
        var delayed = _leaves.Where(row => _plan.Tasks[row] is { DelayedUntil: not null, IsFinished: false }).Take(MostReleased).ToList();
        if (delayed.Count == 0)
            yield break;
        var over = OverOf(_schedule);
        var rows = delayed
            .Where(row => _schedule.Drivers.Of(row).All(driver => driver.Kind != DriverKind.Levelling) || OverWithout(row) <= over + 0.5m)
            .ToList();
        if (rows.Count == 0)
            yield break;
        yield return Found(
            FindingKind.LevelledForNothing,
            rows,
            $"Levelling delays {Count(rows.Count, "task", "tasks")}, and nobody is helped by it any more.",
            "They could start earlier without anybody having more to do than time.",
            new Fix(rows.Count == 1 ? "Release it" : "Release them", new ReleaseLevelling([.. rows.Select(row => _plan.Tasks[row].Id)]))
        );
    }

    private decimal OverWithout(int row)
    {
        var released = PlanEditor.Replace(_plan, _plan.Tasks[row] with { DelayedUntil = null });
        return OverOf(Scheduler.Calculate(released, _schedule));
    }

    private decimal OverOf(Schedule schedule)
    {
        var load = new PlanLoad(schedule, PlanLoad.FirstDay(_plan, _today), [], _others.Capacities);
        return load
            .Parts.Select(part => (part.Person, part.Day))
            .Distinct()
            .Sum(of =>
                Capacities.Over(
                    load.Of(of.Person, of.Day) + _others.Minutes.GetValueOrDefault(of),
                    _others.Capacities.Of(of.Person, of.Day)
                )
            );
    }

    private IEnumerable<Finding> TentativeLengths()
    {
        var rows = _leaves.Where(row => _plan.Tasks[row] is { Tentative: true, IsFinished: false, Milestone: false }).ToList();
        if (rows.Count == 0)
            yield break;
        yield return Found(
            FindingKind.TentativeLengths,
            rows,
            $"{Count(rows.Count, "length is", "lengths are")} only a guess.",
            "The finish is no surer than the guesses it rests on; ask whoever does the work.",
            new Fix(
                rows.Count == 1 ? "Confirm it" : "Confirm them all",
                new Together([.. rows.Select(row => new SetLength(_plan.Tasks[row].Id, new(_plan.Tasks[row].Length)))])
            )
        );
    }

    private IEnumerable<Finding> VeryLongTasks()
    {
        if (_leaves.Count < FewTasks)
            yield break;
        var calendar = _plan.ProjectCalendar;
        var rows = _leaves
            .Where(row =>
                !_plan.Tasks[row].IsFinished
                && calendar.Between(_schedule.StartOf(row), _schedule.FinishOf(row)) * 4L > _schedule.Length.Count
            )
            .ToList();
        if (rows.Count == 0)
            yield break;
        yield return Found(
            FindingKind.VeryLongTask,
            rows,
            $"{Count(rows.Count, "task takes", "tasks take")} longer than a quarter of the project.",
            "Whether so long a task is on time shows only when it is too late: split it into steps that can be ticked off."
        );
    }

    private IEnumerable<Finding> Milestones()
    {
        var milestones = _leaves.Where(IsMilestone).ToList();
        if (_leaves.Count < FewTasks)
            yield break;
        if (milestones.Count * 3 > _leaves.Count)
            yield return Found(
                FindingKind.TooManyMilestones,
                milestones,
                $"{milestones.Count} of {_leaves.Count} rows are milestones: more than a third.",
                "Where everything is a milestone, none of them tells how far along the project is."
            );
        if (milestones.Count > 0)
            yield break;
        var last = _leaves.MaxBy(row => (_schedule.FinishOf(row), row));
        var id = FreeId("finished");
        var edits = ImmutableArray.Create<PlanEdit>(
            new AddTask(id, "Finished", null, _plan.Tasks[_plan.Index.TopLevel().Last()].Id),
            new SetMilestone(id, true),
            new LinkTasks(_plan.Tasks[last].Id, id)
        );
        yield return Found(
            FindingKind.NoMilestones,
            [],
            "The plan has no milestone.",
            "Milestones are what others remember of a plan: when what is reached.",
            new Fix("Add one at the finish", new Together(edits))
        );
    }

    private IEnumerable<Finding> ProgressInFuture()
    {
        var tomorrow = new PlanTime(_dawn.Minutes + PlanTime.MinutesPerDay);
        var rows = _leaves.Where(row => _plan.Tasks[row].ActualStart >= tomorrow || _plan.Tasks[row].ActualFinish > tomorrow).ToList();
        if (rows.Count == 0)
            yield break;
        yield return Found(
            FindingKind.ProgressInFuture,
            rows,
            $"{Count(rows.Count, "task has", "tasks have")} started or finished on a day that is still to come.",
            "What has happened cannot lie ahead: one of the dates is a slip. Give it the day it really was."
        );
    }

    private IEnumerable<Finding> NoProgressInPast()
    {
        var moves = _plan.Project is { MoveUnfinishedWork: true, StatusDate: { } status } && status >= _dawn;
        var rows = _leaves
            .Where(row =>
                _plan.Tasks[row] is { IsStarted: false, IsFinished: false, Progress: 0 }
                && _schedule.StartOf(row) < _dawn
                && !(IsMilestone(row) && _schedule.StartOf(row) >= _dawn)
            )
            .ToList();
        if (rows.Count == 0)
            yield break;
        yield return Found(
            FindingKind.NoProgressInPast,
            rows,
            $"{Count(rows.Count, "task was", "tasks were")} to start before today, and nothing has been reported.",
            "The plan counts on work that was not done: report on it, or move what is unfinished to after today.",
            moves ? null : new Fix("Move unfinished work to after today", new SetStatusDate(new DateOrTime(_dawn.Date), true))
        );
    }

    private IEnumerable<Finding> SeriesStop()
    {
        foreach (var (task, last, more) in SeriesEdits.StopShort(_schedule))
            yield return Found(
                FindingKind.SeriesStops,
                [_plan.Index.RowOf(task)],
                $"“{LengthText.Shorten(_plan.Find(task)!.Name)}” comes for the last time on {Dates.Day(last)}, and the project runs "
                    + $"on to {Dates.FinishDay(_schedule.Finish)}.",
                "Nobody notices that something has stopped coming: let it go on, or say on its card that it ends there.",
                new Fix($"Extend it by {more}", new ExtendSeries(task))
            );
    }

    /// <summary>Rows that a link leads from or to, or to a phase they are in.</summary>
    private HashSet<int> Linked()
    {
        var linked = new HashSet<int>();
        foreach (var link in _plan.Links)
        {
            var (from, to) = (_plan.Index.RowOf(link.From), _plan.Index.RowOf(link.To));
            if (_schedule.IsOff(from) || _schedule.IsOff(to))
                continue;
            foreach (var end in new[] { from, to })
                for (var row = end; row < _plan.Index.SubtreeEnd(end); row++)
                    linked.Add(row);
        }
        return linked;
    }

    /// <summary>Each after the row above it in its phase, as far as that goes.</summary>
    private Fix? Chain(List<int> rows)
    {
        var links = rows.Select(row => (Row: row, Above: _plan.Index.PreviousSibling(row)))
            .Where(l => l.Above >= 0 && !_schedule.IsOff(l.Above))
            .Select(l => (PlanEdit)new LinkTasks(_plan.Tasks[l.Above].Id, _plan.Tasks[l.Row].Id))
            .ToImmutableArray();
        if (links.IsEmpty || GoesRound(links))
            return null;
        return new Fix(links.Length == 1 ? "Let it come after the row above" : "Let each come after the row above", new Together(links));
    }

    private bool GoesRound(ImmutableArray<PlanEdit> links)
    {
        try
        {
            Scheduler.Calculate(
                _plan with
                {
                    Links = _plan.Links.AddRange(links.Cast<LinkTasks>().Select(l => new PlanLink(l.From, l.To))),
                }
            );
            return false;
        }
        catch (UnsoundPlanException)
        {
            return true;
        }
    }

    private string FreeId(string wanted)
    {
        var id = wanted;
        for (var n = 2; _plan.Find(id) is not null; n++)
            id = $"{wanted}-{n}";
        return id;
    }

    private bool IsMilestone(int row) => _plan.Tasks[row].Milestone || _schedule.LengthOf(row).Count == 0;

    private string Named(string task) => LinkRules.Named(_plan, _plan.Index.RowOf(task));

    private Finding Found(FindingKind kind, IEnumerable<int> rows, string sentence, string why, Fix? fix = null) =>
        new(kind, [.. rows.Select(row => _plan.Tasks[row].Id)], sentence, why, fix);

    private static string Count(int count, string one, string many) => $"{count} {(count == 1 ? one : many)}";
}
