using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Money;

/// <summary>
/// Finds rows that cost what they cost before, so that after an edit only the others are worked out. A row that may cost something else
/// counts as changed: a task, its length and dates, its items, the rates of its people, and what all of them depend on.
/// </summary>
internal sealed class UnchangedCost
{
    private readonly PlanMoney _before;
    private readonly PlanMoney _now;
    private readonly bool _isComparable;
    private readonly bool _hasSameItems;
    private readonly bool _hasNoHours;
    private readonly HashSet<string> _paidAnew;

    public UnchangedCost(PlanMoney before, PlanMoney now)
    {
        var (was, plan) = (before.Schedule.Plan, now.Schedule.Plan);
        (_before, _now) = (before, now);
        _isComparable =
            (before.Actuals, before.AsOf) == (now.Actuals, now.AsOf)
            && ReferenceEquals(was.Project, plan.Project)
            && was.People == plan.People
            && was.Calendars == plan.Calendars;
        _hasSameItems = ReferenceEquals(before.Ledger.Items, now.Ledger.Items);
        _hasNoHours = !before.HasHours && !now.HasHours;
        _paidAnew =
        [
            .. before.Ledger.Rates.Keys.Union(now.Ledger.Rates.Keys).Where(id => !RatesIn(before, id).SequenceEqual(RatesIn(now, id))),
        ];
    }

    /// <summary>Whether the row costs what it cost before.</summary>
    /// <param name="row">In the plan as it is now.</param>
    /// <param name="earlier">Where it stood before.</param>
    public bool Holds(int row, out int earlier)
    {
        var (was, schedule) = (_before.Schedule, _now.Schedule);
        var task = schedule.Plan.Tasks[row];
        earlier = row;
        if (!_isComparable || (!IsThere(row) && !was.Plan.Index.TryFind(task.Id, out earlier)))
            return false;
        return ReferenceEquals(was.Plan.Tasks[earlier], task)
            && was.IsOff(earlier) == schedule.IsOff(row)
            // What of a phase's own items is spent depends on the rows inside it.
            && !was.IsPhase(earlier)
            && !schedule.IsPhase(row)
            && was.LengthOf(earlier).Count == schedule.LengthOf(row).Count
            && (_hasSameItems || _before.Ledger.ItemsOf(task.Id) == _now.Ledger.ItemsOf(task.Id))
            && (_hasNoHours || _before.WorkedOn(task.Id).SequenceEqual(_now.WorkedOn(task.Id)))
            && ArePaidTheSame(task, row, earlier);

        // Most rows stand where they stood.
        bool IsThere(int at) => at < was.Plan.Tasks.Length && ReferenceEquals(was.Plan.Tasks[at], task);
    }

    private bool ArePaidTheSame(PlanTask task, int row, int earlier)
    {
        foreach (var assignment in task.Assignments)
            if (!IsPaidTheSame(assignment, row, earlier))
                return false;
        return true;
    }

    private bool IsPaidTheSame(Assignment assignment, int row, int earlier) =>
        (_paidAnew.Count == 0 || !_paidAnew.Contains(assignment.Person))
        // Rates that change with time depend on the days as well.
        && (
            _now.RatesOf(assignment.Person).IsSteady
            || (
                _before.Schedule.StartOf(earlier) == _now.Schedule.StartOf(row)
                && _before.Schedule.SegmentsOf(earlier).SequenceEqual(_now.Schedule.SegmentsOf(row))
            )
        );

    private static ImmutableArray<Rate> RatesIn(PlanMoney money, string person) =>
        money.Ledger.Rates.TryGetValue(person, out var rates) ? rates : [];
}
