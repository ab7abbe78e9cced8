using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Tracking;
using Auxilium.Web.PlanScreen;

namespace Auxilium.Web.Pages.Projects;

/// <param name="Key">Name of the state in style sheets.</param>
public sealed record StateCount(string Key, string Word, int Count);

/// <summary>One project as the list of projects tells it.</summary>
/// <param name="Drift">How far its finish is from where the measure has it, in words; <c>null</c> where it is there.</param>
public sealed record ProjectSummary(
    Guid Id,
    string Name,
    string Dates,
    string? Coordinator,
    int Progress,
    string TimePassed,
    string? Spare,
    bool IsLate,
    string? Drift,
    IReadOnlyList<StateCount> Counts
)
{
    /// <summary>What needs attention first.</summary>
    private static readonly (TaskState State, string Key, string Word)[] Order =
    [
        (TaskState.Overdue, "overdue", "overdue"),
        (TaskState.LateToStart, "lateToStart", "late to start"),
        (TaskState.UnderWay, "underWay", "under way"),
        (TaskState.Ready, "ready", "ready"),
        (TaskState.Waiting, "waiting", "waiting"),
        (TaskState.Done, "done", "done"),
    ];

    public static ProjectSummary Of(KnownProject project)
    {
        if (project.Plan is not { } plan)
            return new ProjectSummary(
                project.Id,
                project.Name,
                "No dates",
                null,
                0,
                "",
                $"Its dates cannot be worked out. {project.Problem}",
                true,
                null,
                []
            );
        return new ProjectSummary(
            project.Id,
            project.Name,
            $"{Day(plan.Start.Date)} – {Day(plan.Finish.LastDate)}",
            project.Coordinator,
            (int)Math.Floor(plan.Progress * 100),
            Passed(plan),
            plan.Spare is { } spare
                ? $"Deadline {Day(plan.FinishBy!.Value.LastDate)}, {SpareText(spare, project.Units)}"
                    + (plan.Outlook is { } left ? $" as planned, {SpareText(left, project.Units)} if what is left starts today" : "")
                : null,
            plan.Spare < 0 || plan.Outlook < 0,
            plan.Drift is { } drift and not 0 ? $"{RippleText.Against(new WorkMinutes(drift), project.Units)} “{plan.Measure}”" : null,
            [.. Order.Where(o => project.Counts.ContainsKey(o.State)).Select(o => new StateCount(o.Key, o.Word, project.Counts[o.State]))]
        );
    }

    private static string SpareText(int minutes, WorkUnits units) => PlanView.SpareText(new WorkMinutes(minutes), units);

    private static string Passed(ProjectedPlan plan) =>
        plan.Passed < 0 ? "not begun"
        : plan.Whole <= 0 ? "no time planned"
        : $"{Math.Min(plan.Passed, plan.Whole) * 100L / plan.Whole}% of the time passed";

    private static string Day(DateOnly date) => Planning.Words.Dates.ShortDay(date);
}
