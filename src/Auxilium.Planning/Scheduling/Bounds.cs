using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>Bounds on a start that do not come from links (rules F1, K2).</summary>
internal static class DateBounds
{
    public static PlanTime NotBefore(DateConstraint constraint, WorkTime calendar, int span) =>
        constraint.IsOfFinish && span > 0 ? calendar.Add(constraint.Date!.Value, -span) : constraint.Date!.Value;

    public static PlanTime? StatusBound(ProjectSettings project) => project.MoveUnfinishedWork ? project.StatusDate : null;
}

/// <summary>Lags, there and back (rule K1).</summary>
internal static class Lags
{
    public static CountedTime Shift(WorkTime project, CountedTime time, Edge edge) =>
        edge.Lag == 0 ? time
        : edge.Elapsed ? new(new PlanTime(time.Time.Minutes + edge.Lag))
        : project.Add(time, edge.Lag);

    /// <summary>The latest instant whose shift is at most the limit.</summary>
    public static CountedTime TakeBack(WorkTime project, CountedTime limit, Edge edge) =>
        edge.Lag == 0 || limit.Time == WorkTime.Never ? limit
        : edge.Elapsed ? new(new PlanTime(limit.Time.Minutes - edge.Lag))
        : project.TakeBack(limit, edge.Lag);
}
