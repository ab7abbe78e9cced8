using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Scheduling;

/// <summary>Days off of a task's owner that its work goes around.</summary>
public static class DaysAway
{
    /// <summary>Sentences that say which days off lie in the work of a leaf, or keep it from starting sooner.</summary>
    public static IReadOnlyList<string> Of(Schedule schedule, int row)
    {
        var plan = schedule.Plan;
        if (schedule.IsOff(row) || !schedule.IsLeaf(row) || plan.Tasks[row].AroundTheClock)
            return [];
        if (
            plan.FindPerson(plan.Tasks[row].Owner) is not { Calendar: { } id } owner
            || id != PeopleEdits.OwnCalendarOf(owner.Id)
            || plan.CalendarBook.Find(id) is not { } calendar
        )
            return [];
        var (start, finish, work) = (schedule.StartOf(row), schedule.FinishOf(row), plan.CalendarBook.WorkTimeOf(id));
        return [.. calendar.Exceptions.Where(e => e.Work.IsEmpty).Select(Sentence).OfType<string>()];

        string? Sentence(CalendarOverride away)
        {
            var after = PlanTime.On(away.To.AddDays(1));
            var days =
                away.From == away.To
                    ? $"is away on {Dates.Day(away.From)}"
                    : $"is away from {Dates.Day(away.From)} to {Dates.Day(away.To)}";
            if (away.From <= finish.LastDate && away.To >= start.Date)
                return $"{owner.Name} {days}: the work goes on after that.";
            return after <= start && work.Between(after, start) == 0 ? $"{owner.Name} {days}: the work starts after that." : null;
        }
    }
}
