using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>What a schedule could not keep (rules W1, W4). Nothing here stops the calculation.</summary>
internal static class LinkWarnings
{
    public static IReadOnlyList<ScheduleWarning> Of(Schedule schedule, TaskFacts facts)
    {
        var warnings = new List<ScheduleWarning>();
        var plan = schedule.Plan;
        var ends = plan.LinkEnds;
        for (var link = 0; link < plan.Links.Length; link++)
        {
            var last = plan.Index.SubtreeEnd(ends.To[link]);
            for (var row = ends.To[link]; row < last; row++)
                if ((facts.Traits[row] & TaskTraits.Fixed) != 0)
                    Check(schedule, plan.Links[link], row, warnings);
        }
        if (plan.Project.FinishBy is { } by && schedule.Finish > by)
        {
            var late = new WorkMinutes(plan.ProjectCalendar.Between(by, schedule.Finish));
            warnings.Add(new ScheduleWarning(WarningCode.W4, [], late, $"The project finishes {InWords(plan, late)} after the date it must be finished by."));
        }
        return warnings;
    }

    private static void Check(Schedule schedule, PlanLink link, int row, List<ScheduleWarning> warnings)
    {
        var plan = schedule.Plan;
        var from = plan.Index.RowOf(link.From);
        var bound = plan.ProjectCalendar.Add(schedule.Finishes[from], plan.Project.Units.Minutes(link.Lag).Count);
        var missed = plan.EffectiveCalendar(plan.Tasks[row]).Between(schedule.Starts[row], bound);
        if (missed <= 0) return;
        var minutes = new WorkMinutes(missed);
        var message = $"{LinkRules.Named(plan, row)} starts {InWords(plan, minutes)} before its link to {LinkRules.Named(plan, from)} allows.";
        warnings.Add(new ScheduleWarning(WarningCode.W1, [link.From, plan.Tasks[row].Id], minutes, message));
    }

    private static string InWords(Plan plan, WorkMinutes minutes)
    {
        var length = plan.Project.Units.ToLength(minutes);
        return (length.Unit == LengthUnit.Days ? length with { Amount = Math.Round(length.Amount, 1) } : length).InWords().Replace(" day", " working day");
    }
}
