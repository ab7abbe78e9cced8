using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Levelling;

/// <summary>
/// Looks for ways out of one overbooked day: what could be done with one task on it (rule N4). Each is worked out as a real edit, and
/// none is made.
/// </summary>
public sealed class WaysOut
{
    private const int MostStandIns = 20;
    private const int MostAlike = 3;

    private readonly EditContext _context;
    private readonly Schedule _schedule;
    private readonly Plan _plan;
    private readonly PlanTask _task;
    private readonly int _row;
    private readonly string _person;
    private readonly DateOnly _day;
    private readonly Func<Plan, Capacities> _capacities;
    private readonly LevellingWish _wish;
    private readonly DateOnly _from;
    private readonly Dictionary<string, List<OverbookedDay>> _before;
    private readonly PlanLoad _load;

    private WaysOut(EditContext context, string task, string person, DateOnly day, Func<Plan, Capacities> capacities, LevellingWish wish)
    {
        (_context, _schedule, _plan) = (context, context.Schedule, context.Schedule.Plan);
        (_task, _row) = (PlanEditor.TaskOf(_plan, task), _plan.Index.RowOf(task));
        (_person, _day, _capacities, _wish) = (person, day, capacities, wish);
        _from = PlanLoad.FirstDay(_plan, context.Today);
        _load = new PlanLoad(_schedule, _from, [], capacities(_plan));
        _before = OverOf(_schedule);
    }

    /// <summary>The ways out, the best first: no deadline missed, least overbooked, the earliest finish, then the fewest moves.</summary>
    /// <param name="context">The plan with its dates, today, and the people there are.</param>
    /// <param name="task">Id of a task that the person works on that day.</param>
    /// <param name="person">Whose day is overbooked.</param>
    /// <param name="day">The day.</param>
    /// <param name="capacities">Gives the time that people have by a plan.</param>
    /// <param name="standIns">Who may take it over, or help.</param>
    /// <param name="elsewhere">Minutes of work in other projects, by person and day.</param>
    /// <exception cref="EditRefusedException">There is no such task, or the person does not work on it.</exception>
    public static IReadOnlyList<WayOut> Of(
        EditContext context,
        string task,
        string person,
        DateOnly day,
        Func<Plan, Capacities> capacities,
        IReadOnlyList<StandIn> standIns,
        IReadOnlyDictionary<(string Person, DateOnly Day), decimal> elsewhere
    )
    {
        var wish = new LevellingWish([person], LevellingMode.WithinFloat)
        {
            Elsewhere = elsewhere,
            Restarts = 0,
            Only = [task],
            WholeDays = true,
        };
        var ways = new WaysOut(context, task, person, day, capacities, wish);
        if (ways._task.Assignments.All(a => a.Person != person))
            throw new EditRefusedException(
                "notTheirs",
                $"{ways.NameOf(person)} does not work on this task: choose one of the tasks that they do that day.",
                task
            );
        return
        [
            .. ways.Find(standIns)
                .OrderBy(way => way.MissedDeadlines)
                .ThenBy(way => Math.Round(way.OverAfter))
                .ThenBy(way => way.Ripple.FinishAfter)
                .ThenBy(way => way.Ripple.Moves.Count)
                .ThenBy(way => way.Kind),
        ];
    }

    private List<WayOut> Find(IReadOnlyList<StandIn> standIns)
    {
        var found = new List<WayOut>();
        if (_plan.Project.ScheduleFrom == ScheduleFrom.Start && LevellingModel.MayMove(_schedule, _row))
        {
            var within = Later(LevellingMode.WithinFloat, WayOutKind.LaterWithinFloat);
            Add(within);
            if (Later(LevellingMode.AsLongAsItTakes, WayOutKind.Later) is { } later && !SameDelay(later, within))
                Add(later);
        }
        foreach (var kind in new[] { WayOutKind.SomebodyElse, WayOutKind.WithHelper })
        foreach (var way in Alike(standIns, kind))
            Add(way);
        Add(SmallerShare());
        Add(SplitAround());
        return found;

        void Add(WayOut? way)
        {
            // What does not help is none.
            if (way is not null && way.OverAfter < way.OverBefore)
                found.Add(way);
        }
    }

    private static bool SameDelay(WayOut a, WayOut? b) =>
        a.Edit is DelayTasks one && b?.Edit is DelayTasks other && one.Delays.SequenceEqual(other.Delays);

    private WayOut? Later(LevellingMode mode, WayOutKind kind)
    {
        var proposal = Leveller.Propose(
            _schedule,
            _wish with
            {
                Mode = mode,
            },
            _capacities(_plan),
            _context.Today,
            cancel: _context.Cancel
        );
        return proposal.Delays is [{ Until: { } until }]
            ? Tried(kind, new DelayTasks(proposal.Delays), $"Start on {Dates.Day(until.AsStart(_schedule.CalendarOf(_row)))}")
            : null;
    }

    /// <summary>The best few of those who have time while the task is on.</summary>
    private IEnumerable<WayOut> Alike(IReadOnlyList<StandIn> standIns, WayOutKind kind)
    {
        if (kind == WayOutKind.WithHelper && (_task.AroundTheClock || _task.Milestone || _task.IsStarted))
            return [];
        return standIns
            .Where(other =>
                other.Person.Id != _person && _task.Assignments.All(a => a.Person != other.Person.Id) && IsFree(other.Person.Id)
            )
            .Take(MostStandIns)
            .Select(other => kind == WayOutKind.SomebodyElse ? GivenTo(other) : HelpedBy(other))
            .OfType<WayOut>()
            .Where(way => way.OverAfter < way.OverBefore)
            .OrderBy(way => way.OverAfter)
            .ThenBy(way => way.Ripple.FinishAfter)
            .Take(MostAlike);
    }

    /// <summary>Whether somebody has any time left on the day.</summary>
    private bool IsFree(string person) =>
        _capacities(_plan).Of(person, _day) - _load.Of(person, _day) - _wish.Elsewhere.GetValueOrDefault((person, _day)) > 0;

    private WayOut? GivenTo(StandIn other)
    {
        var label = $"Give it to {other.Person.Name}, {other.Likeness}";
        if (_plan.FindPerson(other.Person.Id) is not null)
            return Tried(
                WayOutKind.SomebodyElse,
                new SetAssignments(
                    _task.Id,
                    [.. _task.Assignments.Select(a => a.Person == _person ? a with { Person = other.Person.Id } : a)]
                ),
                label
            );
        return _task.Owner == _person && _task.Assignments.Length == 1
            ? Tried(WayOutKind.SomebodyElse, new SetOwner(_task.Id, other.Person.Name), label)
            : null;
    }

    private WayOut? HelpedBy(StandIn other) =>
        Tried(
            WayOutKind.WithHelper,
            _plan.FindPerson(other.Person.Id) is null
                ? new AddHelper(_task.Id, other.Person.Name, Hands: MoreHands.Shorter)
                : new SetAssignments(_task.Id, [.. _task.Assignments, new Assignment(other.Person.Id)], MoreHands.Shorter),
            $"Let {other.Person.Name} help, {other.Likeness}"
        );

    /// <summary>As much of their time as there is, for as much longer.</summary>
    private WayOut? SmallerShare()
    {
        if (_task.IsStarted || _task.Milestone || _task.AroundTheClock || _task.Effort is not null || _task.Assignments.Length > 1)
            return null;
        var own = _task.Assignments[0];
        if (own.Effort is not null || Work(_person, _day) is not (> 0 and var work))
            return null;
        var capacity = _capacities(_plan).Of(_person, _day);
        var others = _load.Of(_person, _day) + _wish.Elsewhere.GetValueOrDefault((_person, _day)) - work;
        // In steps of five percent: nobody keeps to 37.
        var share = Math.Floor(own.Share * (capacity - others) / work * 20) / 20;
        if (share < 0.1m || share >= own.Share)
            return null;
        var length = _schedule.LengthOf(_row).Count;
        var longer = _plan.Project.Units.ToLength(new WorkMinutes((int)Math.Ceiling(length * own.Share / share)));
        return Tried(
            WayOutKind.SmallerShare,
            new Together([
                new SetAssignments(_task.Id, [own with { Share = share }], _task.Hands, _task.Length),
                new SetLength(_task.Id, new TypedLength(longer, _task.Tentative)),
            ]),
            string.Create(CultureInfo.InvariantCulture, $"Give it {share * 100:0}% of their time, and {longer.InWords()}")
        );
    }

    /// <summary>The task pauses for the day.</summary>
    private WayOut? SplitAround()
    {
        if (_task.Milestone || !_task.Splits.IsEmpty || _task.Pinned?.Finish is not null || _task.IsFinished)
            return null;
        var calendar = _schedule.CalendarOf(_row);
        var (start, dawn) = (_schedule.StartOf(_row), PlanTime.On(_day));
        var (before, on) = (calendar.Between(start, dawn), calendar.WorkedOn(_day));
        if (on == 0 || before <= 0 || before >= _schedule.LengthOf(_row).Count)
            return null;
        var units = _plan.Project.Units;
        return Tried(
            WayOutKind.SplitAround,
            new SetSplits(_task.Id, [new Split(units.ToLength(new WorkMinutes(before)), units.ToLength(new WorkMinutes(on)))]),
            $"Pause it on {Dates.Day(_day)}"
        );
    }

    private decimal Work(string person, DateOnly day) =>
        _load.Parts.Where(part => part.Task == _task.Id && part.Person == person && part.Day == day).Sum(part => part.Minutes);

    /// <summary>What comes of an edit; <c>null</c> where it is refused.</summary>
    private WayOut? Tried(WayOutKind kind, PlanEdit edit, string label)
    {
        EditedPlan edited;
        try
        {
            edited = EditPipeline.Run(edit, _context);
        }
        catch (EditRefusedException)
        {
            return null;
        }
        var after = OverOf(edited.After);
        var people = _before
            .Keys.Union(after.Keys)
            .Select(person => (person, Was: _before.GetValueOrDefault(person, []), Is: after.GetValueOrDefault(person, [])))
            .Select(of => new OverbookedPerson(of.person, of.Was.Sum(d => d.Over), of.Is.Sum(d => d.Over), of.Was.Count, of.Is.Count))
            .Where(of => Math.Abs(of.Before - of.After) > 0.5m)
            .ToImmutableArray();
        return new WayOut(
            kind,
            edit,
            label,
            RippleText.Of(edited, done: false),
            edited.Ripple,
            _before.Values.Sum(days => days.Sum(d => d.Over)),
            after.Values.Sum(days => days.Sum(d => d.Over)),
            people,
            edited.Ripple.NewWarnings.Count(warning => warning.Code is WarningCode.W3 or WarningCode.W4)
        );
    }

    private Dictionary<string, List<OverbookedDay>> OverOf(Schedule schedule)
    {
        var capacities = _capacities(schedule.Plan);
        var load = new PlanLoad(schedule, _from, [], capacities);
        // Days on which somebody has nothing to do here, before or after, say nothing of the plan.
        var all = load.Parts.Concat(_load.Parts).Select(part => (part.Person, part.Day)).Distinct();
        var over = new Dictionary<string, List<OverbookedDay>>();
        foreach (var (person, day) in all)
        {
            var (minutes, capacity) = (
                load.Of(person, day) + _wish.Elsewhere.GetValueOrDefault((person, day)),
                capacities.Of(person, day)
            );
            if (Capacities.Over(minutes, capacity) <= 0)
                continue;
            if (!over.TryGetValue(person, out var days))
                over[person] = days = [];
            days.Add(new OverbookedDay(person, day, minutes, capacity));
        }
        return over;
    }

    private string NameOf(string person) => _plan.FindPerson(person)?.Name ?? person;
}
