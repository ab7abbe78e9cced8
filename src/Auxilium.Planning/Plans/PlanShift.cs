using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Plans;

/// <summary>A plan on other days.</summary>
public static class PlanShift
{
    /// <summary>
    /// Every date of the plan, and every dated exception of its calendars, that many weeks later. Days of the week stay.
    /// </summary>
    public static Plan ByWeeks(Plan plan, int weeks)
    {
        var days = weeks * 7;
        return plan with
        {
            Project = plan.Project with
            {
                Start = LaterIfAny(plan.Project.Start),
                Finish = LaterIfAny(plan.Project.Finish),
                FinishBy = LaterIfAny(plan.Project.FinishBy),
                StatusDate = LaterIfAny(plan.Project.StatusDate),
                Periods = [.. plan.Project.Periods.Select(p => p with { From = p.From.AddDays(days), To = p.To.AddDays(days) })],
            },
            Calendars =
            [
                .. plan.Calendars.Select(c =>
                    c with
                    {
                        Exceptions = [.. c.Exceptions.Select(e => e with { From = e.From.AddDays(days), To = e.To.AddDays(days) })],
                    }
                ),
            ],
            Baselines =
            [
                .. plan.Baselines.Select(b =>
                    b with
                    {
                        Taken = b.Taken.AddDays(days),
                        Start = Later(b.Start),
                        Finish = Later(b.Finish),
                        Rows = [.. b.Rows.Select(r => r with { Start = Later(r.Start), Finish = Later(r.Finish) })],
                    }
                ),
            ],
            Tasks =
            [
                .. plan.Tasks.Select(t =>
                    t with
                    {
                        Pinned = t.Pinned is { } p ? new PinnedDates(Later(p.Start), LaterIfAny(p.Finish)) : null,
                        Constraint = t.Constraint is { } c ? c with { Date = LaterIfAny(c.Date) } : null,
                        DelayedUntil = LaterIfAny(t.DelayedUntil),
                        Deadline = LaterIfAny(t.Deadline),
                        ActualStart = LaterIfAny(t.ActualStart),
                        ActualFinish = LaterIfAny(t.ActualFinish),
                        Repeats = t.Repeats is { } rule ? Shifted(rule) : null,
                    }
                ),
            ],
        };

        RepeatRule Shifted(RepeatRule rule) =>
            rule with
            {
                From = rule.From with { Date = rule.From.Date.AddDays(days) },
                Until = rule.Until is { } until ? until with { Date = until.Date.AddDays(days) } : null,
                Made = rule.Made?.AddDays(days),
                Through = rule.Through?.AddDays(days),
            };

        PlanTime Later(PlanTime time) => new(time.Minutes + days * PlanTime.MinutesPerDay);

        PlanTime? LaterIfAny(PlanTime? time) => time is { } t ? Later(t) : null;
    }
}
