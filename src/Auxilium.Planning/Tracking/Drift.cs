using System.Runtime.CompilerServices;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tracking;

/// <summary>How far a plan is from a baseline, in working minutes of the project calendar: positive is later (rule S2).</summary>
public sealed class Drift
{
    private static readonly ConditionalWeakTable<Schedule, Drift?> Measured = [];

    private readonly Schedule _schedule;
    private readonly WorkTime _calendar;
    private readonly BaselineRow?[] _rows;

    public Drift(Schedule schedule, Baseline baseline)
    {
        (_schedule, Baseline, _calendar) = (schedule, baseline, schedule.Plan.ProjectCalendar);
        _rows = MatchedRows.Of(baseline, schedule.Plan.Index);
        Finish = new WorkMinutes(Between(baseline.Finish, schedule.Finish));
    }

    /// <summary>Against the baseline that the project is measured by; <c>null</c> without one.</summary>
    public static Drift? Of(Schedule schedule) =>
        Measured.GetValue(schedule, known => known.Plan.Measure is { } measure ? new Drift(known, measure) : null);

    public Baseline Baseline { get; }

    /// <summary>The drift of the project's finish.</summary>
    public WorkMinutes Finish { get; }

    /// <summary>A row as the baseline has it; <c>null</c> where it does not know it.</summary>
    public BaselineRow? PlannedOf(int row) => _rows[row];

    /// <summary>The drift of a row's start and finish; <c>null</c> where it is new or inactive.</summary>
    public (WorkMinutes Start, WorkMinutes Finish)? Of(int row) =>
        _rows[row] is not { } planned || _schedule.IsOff(row)
            ? null
            : (
                new WorkMinutes(Between(planned.Start, _schedule.StartOf(row))),
                new WorkMinutes(Between(planned.Finish, _schedule.FinishOf(row)))
            );

    /// <summary>Whether a row has dates, and the baseline does not know it.</summary>
    public bool IsNew(int row) => _rows[row] is null && !_schedule.IsOff(row);

    /// <summary>What the baseline knows, and is gone or inactive now.</summary>
    public IEnumerable<BaselineRow> Dropped =>
        Baseline.Rows.Where(row => !_schedule.Plan.Index.TryFind(row.Task, out var now) || _schedule.IsOff(now));

    private int Between(PlanTime planned, PlanTime now) => planned == now ? 0 : _calendar.Between(planned, now);

    /// <summary>Which row of a baseline each row of an outline is: looked up once for all edits that leave the outline as it is.</summary>
    private sealed record MatchedRows(object Outline, BaselineRow?[] Rows)
    {
        private static readonly ConditionalWeakTable<Baseline, MatchedRows> Known = [];

        public static BaselineRow?[] Of(Baseline baseline, PlanIndex index)
        {
            if (Known.TryGetValue(baseline, out var known) && known.Outline == index.Outline)
                return known.Rows;
            BaselineRow?[] rows = [.. index.Tasks.Select(task => baseline.Find(task.Id))];
            Known.AddOrUpdate(baseline, new MatchedRows(index.Outline, rows));
            return rows;
        }
    }
}
