using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Api;
using Auxilium.Web.Pages.Projects;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>A line of the report.</summary>
/// <param name="State">Name of its state in style sheets; <c>null</c> where it is not to be told, as the owner and the deadline.</param>
public sealed record ReportLine(
    string Name,
    string Phase,
    string Dates,
    string? State,
    string? StateWord,
    string? Owner,
    string? Deadline
);

/// <summary>How a project stands, on a page: to read, print and hand out.</summary>
public sealed record ReportView(
    ProjectSummary Summary,
    bool HasStates,
    bool HasOwners,
    bool HasDeadlines,
    IReadOnlyList<(string Title, IReadOnlyList<ReportLine> Lines)> Parts
)
{
    private const int DaysAhead = 14;

    /// <summary>What it costs; <c>null</c> where that is not told.</summary>
    public ReportMoney? Money { get; init; }

    /// <param name="stored">The plan.</param>
    /// <param name="today">Today.</param>
    /// <param name="columns">What may be told besides names and dates; <c>null</c> for all.</param>
    public static ReportView Of(StoredPlan stored, DateOnly today, IReadOnlyCollection<string>? columns)
    {
        var (schedule, plan) = (stored.Schedule, stored.Schedule.Plan);
        var states = new TaskStates(schedule, today);
        bool Has(string column) => columns is null || columns.Contains(column);
        var known = KnownProject.Of(stored, today);
        if (!Has("state"))
            known = known with { Counts = new Dictionary<TaskState, int>(), Plan = known.Plan! with { Progress = 0 } };
        if (!Has("owner"))
            known = known with { Coordinator = null };
        if (!Has("deadline"))
            known = known with { Plan = known.Plan! with { FinishBy = null, Spare = null, Outlook = null } };
        var summary = new ProjectSummary(known);
        var rows = Enumerable.Range(0, plan.Tasks.Length).Where(row => !schedule.IsOff(row) && schedule.IsLeaf(row)).ToList();
        var late = rows.Where(row => states.Of(row) is TaskState.Overdue or TaskState.LateToStart);
        var next = rows.Where(row =>
            states.Of(row) is not (TaskState.Done or TaskState.Overdue or TaskState.LateToStart)
            && schedule.StartOf(row).Date <= today.AddDays(DaysAhead)
            && schedule.LastDayOf(row) >= today
        );
        var milestones = rows.Where(row => plan.Tasks[row].Milestone);
        List<(string, IReadOnlyList<ReportLine>)> parts = [("Milestones", Lines(milestones))];
        if (Has("state"))
            parts.Add(("Late", Lines(late)));
        parts.Add(("In the next two weeks", Lines(next)));
        return new ReportView(summary, Has("state"), Has("owner"), Has("deadline"), parts);

        IReadOnlyList<ReportLine> Lines(IEnumerable<int> of) => [.. of.OrderBy(schedule.StartOf).Select(Line)];

        ReportLine Line(int row)
        {
            var (task, start, finish, state) = (plan.Tasks[row], schedule.StartOf(row).Date, schedule.LastDayOf(row), states.Of(row));
            return new ReportLine(
                task.Name,
                task.Parent is { } phase ? plan.Find(phase)!.Name : "",
                start == finish || task.Milestone ? Day(finish) : $"{Day(start)} to {Day(finish)}",
                Has("state") ? JsonNames.Camel(state) : null,
                Has("state") ? StateText.Of(state) : null,
                Has("owner") ? plan.FindPerson(task.Owner)?.Name ?? "nobody" : null,
                Has("deadline") && task.Deadline is { } deadline ? Day(deadline.LastDate) : null
            );
        }
    }

    private static string Day(DateOnly day) => Dates.Day(day);
}
