using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Web.PlanScreen;

namespace Auxilium.Web.Pages.Projects;

/// <param name="Key">Name of the state in style sheets.</param>
public sealed record StateCount(string Key, string Word, int Count);

/// <summary>One project as the first screen tells it.</summary>
public sealed record ProjectSummary(
    Guid Id,
    string Name,
    string Dates,
    string? Coordinator,
    int Progress,
    string TimePassed,
    string? Spare,
    bool IsLate,
    IReadOnlyList<StateCount> Counts
)
{
    /// <summary>What needs somebody first.</summary>
    private static readonly (TaskState State, string Key, string Word)[] Order =
    [
        (TaskState.Overdue, "overdue", "overdue"),
        (TaskState.LateToStart, "lateToStart", "late to start"),
        (TaskState.UnderWay, "underWay", "under way"),
        (TaskState.Ready, "ready", "ready"),
        (TaskState.Waiting, "waiting", "waiting"),
        (TaskState.Done, "done", "done"),
    ];

    public static ProjectSummary Of(StoredPlan stored, DateOnly today)
    {
        if (stored.WhyUnsound is { } why)
            return new ProjectSummary(
                stored.Project,
                stored.Name,
                "No dates",
                null,
                0,
                "",
                $"Its dates cannot be worked out. {why}",
                true,
                []
            );
        var schedule = stored.Schedule;
        var plan = schedule.Plan;
        var states = new TaskStates(schedule, today);
        var counts = Enumerable.Range(0, plan.Index.Count).Where(schedule.IsLeaf).CountBy(states.Of).ToDictionary();
        var spare = Ripple.Spare(schedule);
        var outlook = Outlook.Of(schedule, today)?.Spare;
        return new ProjectSummary(
            stored.Project,
            plan.Project.Name,
            $"{Day(schedule.Start.Date)} – {Day(schedule.Finish.LastDate)}",
            plan.FindPerson(plan.Project.Coordinator)?.Name,
            (int)Math.Floor(schedule.Progress * 100),
            Passed(schedule.Start, schedule.Finish, PlanTime.On(today), plan.ProjectCalendar),
            spare is { } s
                ? $"Deadline {Day(plan.Project.FinishBy!.Value.LastDate)}, {PlanView.SpareText(s, plan.Project.Units)}"
                    + (
                        outlook is { } left
                            ? $" as planned, {PlanView.SpareText(left, plan.Project.Units)} if what is left starts today"
                            : ""
                    )
                : null,
            spare?.Count < 0 || outlook?.Count < 0,
            [.. Order.Where(o => counts.ContainsKey(o.State)).Select(o => new StateCount(o.Key, o.Word, counts[o.State]))]
        );
    }

    private static string Passed(PlanTime start, PlanTime finish, PlanTime now, WorkTime calendar)
    {
        var whole = calendar.Between(start, finish);
        var passed = Math.Clamp(calendar.Between(start, now), 0, Math.Max(0, whole));
        return now < start ? "not begun"
            : whole <= 0 ? "no time planned"
            : $"{passed * 100L / whole} % of the time passed";
    }

    private static string Day(DateOnly date) => date.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
}
