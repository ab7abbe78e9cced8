using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Where a leaf stands that its links do not move (rules F2, F4, L1), scheduled from whichever end.</summary>
internal static class FixedPlacement
{
    /// <param name="plan">The plan.</param>
    /// <param name="task">One that has started or finished, is pinned, or must start or finish on a date.</param>
    /// <param name="calendar">Its effective calendar.</param>
    /// <param name="length">Its length in working minutes.</param>
    /// <param name="span">The same with its pauses.</param>
    public static Segment Of(Plan plan, PlanTask task, WorkTime calendar, int length, int span) =>
        task switch
        {
            { ActualStart: { } began, ActualFinish: { } ended } => new(began, ended),
            { ActualFinish: { } ended } => new(PlanTime.Min(ended, calendar.Add(ended, -span)), ended),
            { ActualStart: { } began } => new(began, InProgressWork.Of(plan.Project, task, calendar, length).Finish),
            { Pinned: { Start: var pinned, Finish: { } end } } => new(pinned, end),
            { Pinned: { Start: var pinned } } => From(calendar, pinned, span),
            { Constraint: { Kind: ConstraintKind.MustFinishOn, Date: { } date } } => From(calendar, calendar.Add(date, -span), span),
            { Constraint.Date: { } date } => From(calendar, date, span),
            _ => throw new ArgumentException("Nothing fixes this task.", nameof(task)),
        };

    /// <summary>L1, L2: work begins at the next working minute; what has no length stays where it is.</summary>
    private static Segment From(WorkTime calendar, PlanTime start, int span) =>
        span == 0 ? new(start, start) : new(calendar.Next(start), calendar.Add(start, span));
}
