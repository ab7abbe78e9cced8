using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>What a schedule could not keep (rules W1–W6). Nothing here stops the calculation.</summary>
internal sealed class Warnings
{
    /// <summary>How many broken links are told: those of large phases could break millions of times over.</summary>
    private const int MostBroken = 20_000;

    private const TaskTraits Dated = TaskTraits.NotAfter | TaskTraits.NotBefore | TaskTraits.Deadline;

    private readonly Schedule _schedule;
    private readonly TaskInputs _facts;
    private readonly Plan _plan;
    private readonly List<ScheduleWarning> _found = [];

    private Warnings(Schedule schedule, TaskInputs facts)
    {
        _schedule = schedule;
        _facts = facts;
        _plan = schedule.Plan;
    }

    public static IReadOnlyList<ScheduleWarning> Of(Schedule schedule, TaskInputs facts)
    {
        var warnings = new Warnings(schedule, facts);
        warnings.FindBrokenLinks();
        warnings.FindMissedDates();
        warnings.FindIdleOwners();
        warnings.FindIdleHelpers();
        return warnings._found;
    }

    private void FindBrokenLinks()
    {
        // Worked out from the start, only tasks that something fixes can break the links before them.
        var fromStart = _plan.Project.ScheduleFrom == ScheduleFrom.Start;
        if (fromStart && (_facts.Any & TaskTraits.Fixed) == 0)
            return;
        var ends = _plan.LinkEnds;
        for (var link = 0; link < _plan.Links.Length && _found.Count < MostBroken; link++)
        {
            if (_facts.IsOff(ends.From[link]))
                continue;
            var (from, edge) = (ends.From[link], ends.Edges[link]);
            var to = edge.Target;
            var last = _plan.Index.SubtreeEnd(to);
            var bound = _facts.IsOff(to)
                ? default
                : Lags.Shift(_plan.ProjectCalendar, new(edge.FromStart ? _schedule.StartOf(from) : _schedule.FinishOf(from)), edge).Time;
            for (var row = to; row < last && _found.Count < MostBroken; row++)
                if (_facts.IsLeaf(row) && (!fromStart || (_facts.Traits[row] & TaskTraits.Fixed) != 0))
                    Check(edge, from, bound, row);
        }
    }

    /// <summary>K2: by how many working minutes a link is missed.</summary>
    private void Check(Edge edge, int from, PlanTime bound, int row)
    {
        var stands = edge.ToFinish ? _schedule.FinishOf(row) : _schedule.StartOf(row);
        if (stands >= bound)
            return;
        var missed = _facts.Calendars[row].Between(stands, bound);
        if (missed <= 0)
            return;
        var does = edge.ToFinish ? "finishes" : "starts";
        Add(WarningCode.W1, missed, [_plan.Tasks[from].Id, _plan.Tasks[row].Id], by =>
            $"{Named(row)} {does} {by} before its link to {Named(from)} allows."
        );
    }

    private void FindMissedDates()
    {
        for (var row = 0; (_facts.Any & Dated) != 0 && row < _facts.Traits.Length; row++)
        {
            if ((_facts.Traits[row] & Dated) == 0)
                continue;
            if (_facts.IsLeaf(row) && (_facts.Traits[row] & (TaskTraits.NotAfter | TaskTraits.NotBefore)) != 0)
                CheckConstraint(row, _plan.Tasks[row].Constraint!);
            if (_plan.Tasks[row].Deadline is { } deadline && !_facts.IsOff(row) && _schedule.FinishOf(row) > deadline)
                Add(WarningCode.W3, _schedule.CalendarOf(row).Between(deadline, _schedule.FinishOf(row)), [_plan.Tasks[row].Id], by =>
                    $"{Named(row)} finishes {by} after its deadline."
                );
        }
        if (_plan.Project.FinishBy is { } finishBy && _schedule.Finish > finishBy)
            Add(WarningCode.W4, _plan.ProjectCalendar.Between(finishBy, _schedule.Finish), [], by =>
                $"The project finishes {by} after the date it must be finished by."
            );
    }

    private void CheckConstraint(int row, DateConstraint constraint)
    {
        var (date, stands) = (constraint.Date!.Value, constraint.IsOfFinish ? _schedule.FinishOf(row) : _schedule.StartOf(row));
        var does = constraint.IsOfFinish ? "finishes" : "starts";
        if (constraint.IsNotAfter && stands > date)
            Add(WarningCode.W2, _facts.Calendars[row].Between(date, stands), [_plan.Tasks[row].Id], by =>
                $"{Named(row)} {does} {by} after its latest allowed date."
            );
        if (
            constraint.IsNotBefore
            && stands < date
            && _facts.Calendars[row].Between(stands, date) is var early
            && (early > 0 || _facts.Spans[row] == 0)
        )
            Add(WarningCode.W2, early, [_plan.Tasks[row].Id], by => $"{Named(row)} {does} {by} before the date it should go not before.");
    }

    private void FindIdleOwners()
    {
        if (_plan.People.All(p => p.Calendar is null))
            return;
        for (var row = 0; row < _facts.Traits.Length; row++)
        {
            if (
                !_facts.IsLeaf(row)
                || (_facts.Traits[row] & TaskTraits.Finished) != 0
                || _schedule.StartOf(row) >= _schedule.FinishOf(row)
            )
                continue;
            if (_plan.FindPerson(_plan.Tasks[row].Owner) is not { Calendar: { } calendar } owner)
                continue;
            if (_plan.CalendarBook.WorkTimeOf(calendar).Between(_schedule.StartOf(row), _schedule.FinishOf(row)) > 0)
                continue;
            _found.Add(
                new ScheduleWarning(
                    WarningCode.W5,
                    [_plan.Tasks[row].Id],
                    WorkMinutes.Zero,
                    $"{owner.Name} has no working time while {Named(row)} is on: give it another owner or other dates."
                )
            );
        }
    }

    private void FindIdleHelpers()
    {
        for (var row = 0; row < _facts.Traits.Length; row++)
        {
            if (_plan.Tasks[row].Assignments.Length < 2 || !_facts.IsLeaf(row) || (_facts.Traits[row] & TaskTraits.Finished) != 0)
                continue;
            var (start, finish) = (_schedule.StartOf(row), _schedule.FinishOf(row));
            if (start >= finish)
                continue;
            foreach (var helper in _plan.Tasks[row].Assignments.AsSpan()[1..])
                if (
                    _plan.FindPerson(helper.Person) is { } person
                    && _plan.CalendarBook.WorkTimeOf(person.Calendar ?? _plan.Project.Calendar).Between(start, finish) == 0
                )
                    _found.Add(
                        new ScheduleWarning(
                            WarningCode.W6,
                            [_plan.Tasks[row].Id],
                            WorkMinutes.Zero,
                            $"{person.Name} helps with {Named(row)} and has no working time while it is on: ask somebody else, or move it."
                        )
                    );
        }
    }

    private string Named(int row) => LinkRules.Named(_plan, row);

    private void Add(WarningCode code, int minutes, string[] tasks, Func<string, string> message)
    {
        var by = minutes <= 0 ? "a little" : InWords(_plan, new WorkMinutes(minutes));
        _found.Add(new ScheduleWarning(code, tasks, new WorkMinutes(Math.Max(0, minutes)), message(by)));
    }

    private static string InWords(Plan plan, WorkMinutes minutes)
    {
        var length = plan.Project.Units.ToLength(minutes);
        return (length.Unit == LengthUnit.Days ? length with { Amount = Math.Round(length.Amount, 1) } : length)
            .InWords()
            .Replace(" day", " working day");
    }
}
