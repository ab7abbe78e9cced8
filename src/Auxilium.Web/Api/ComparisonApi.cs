using System.ComponentModel;
using System.Globalization;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.PlanScreen;

namespace Auxilium.Web.Api;

/// <summary>Plans as they were, beside one another.</summary>
internal static class ComparisonApi
{
    private const string KeyWords = "now, baseline:b1, version:12, or day:2027-05-12 for how the plan was at the end of that day.";

    public static void Map(RouteGroupBuilder api)
    {
        var projects = api.MapGroup("/projects").WithTags("Projects");
        projects
            .MapGet("/{id:guid}/baselines", ListAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("What the plan remembers of itself, and how far its finish is from each.")
            .Produces<IReadOnlyList<BaselineDocument>>()
            .ProducesProblem(404);
        projects
            .MapGet("/{id:guid}/comparison", CompareAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("Any two of now, a baseline and a past version side by side: the facts of each, and every row that differs.")
            .Produces<ComparisonDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404);
        projects
            .MapGet("/{id:guid}/snapshots/{key}", SnapshotAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("When each row started and finished in a record of the plan, to be drawn behind it.")
            .Produces<SnapshotDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static async Task<IResult> ListAsync(Guid id, PlanStore store, CancellationToken cancel) =>
        await store.LoadAsync(id, cancel) is { } plan
            ? Results.Ok(plan.Schedule.Plan.Baselines.Select(baseline => BaselineDocument.Of(baseline, plan.Schedule)))
            : Problems.NoSuchProject();

    private static async Task<IResult> CompareAsync(
        Guid id,
        PlanStore store,
        Snapshots snapshots,
        Hours hours,
        CancellationToken cancel,
        [Description("The earlier one: " + KeyWords)] string from = "now",
        [Description("The later one: " + KeyWords)] string to = "now"
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var (before, whyNot) = await snapshots.FindAsync(plan, from, cancel);
        if (before is null)
            return Problems.Bad(whyNot!, "from");
        (var after, whyNot) = await snapshots.FindAsync(plan, to, cancel);
        if (after is null)
            return Problems.Bad(whyNot!, "to");
        var now = plan.Schedule.Plan;
        var compared = Comparison.Of(before.Record, after.Record, now.ProjectCalendar);
        return Results.Ok(
            new ComparisonDocument(
                SideDocument.Of(before, now),
                SideDocument.Of(after, now),
                RippleText.Shift(compared.Start, now.Project.Units),
                RippleText.Shift(compared.Finish, now.Project.Units),
                ComparisonText.Longer(compared, now),
                await hours.OfProjectAsync(id, cancel),
                Sentence(compared, before, after, now),
                [.. compared.Rows.Select(row => ComparedRowDocument.Of(row, now))]
            )
        );
    }

    private static async Task<IResult> SnapshotAsync(Guid id, string key, PlanStore store, Snapshots snapshots, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var (found, whyNot) = await snapshots.FindAsync(plan, key, cancel);
        return found is null
            ? Problems.Bad(whyNot!, "key")
            : Results.Ok(
                new SnapshotDocument(
                    key,
                    found.Title,
                    found.Record.Rows.ToDictionary(row => row.Task, row => new[] { row.Start.Minutes, row.Finish.Minutes })
                )
            );
    }

    private static string Named(Snapshot side) =>
        side.Key == "now" ? "The plan now"
        : side.Key.StartsWith("baseline:", StringComparison.Ordinal) ? $"“{side.Title}”"
        : $"The plan of {side.Title}";

    private static string Lower(string words) => char.ToLowerInvariant(words[0]) + words[1..];

    private static string Sentence(Comparison compared, Snapshot before, Snapshot after, Plan now)
    {
        var (day, other) = (Dates.FinishDay(after.Record.Finish), Dates.FinishDay(before.Record.Finish));
        var finish =
            compared.Finish.Count == 0
                ? $"Both finish on {day}."
                : $"{Named(after)} finishes on {day}, {RippleText.Shift(compared.Finish, now.Project.Units)} than "
                    + $"{Lower(Named(before))} ({other}).";
        var kinds = compared.Rows.CountBy(row => row.Change).ToDictionary();
        (RowChange Change, string Word)[] said =
        [
            (RowChange.Moved, "moved"),
            (RowChange.Grew, "changed in effort"),
            (RowChange.New, "new"),
            (RowChange.Dropped, "dropped"),
        ];
        string[] words = [.. said.Where(k => kinds.ContainsKey(k.Change)).Select(k => $"{kinds[k.Change]} {k.Word}")];
        return words.Length == 0 ? $"{finish} No task differs." : $"{finish} Tasks: {ListText.Listed(words)}.";
    }
}

/// <param name="Taken">The day it was taken, such as 2027-05-12.</param>
/// <param name="IsWhole">Whether it is of all rows.</param>
/// <param name="Tasks">How many tasks and milestones it has.</param>
/// <param name="DriftMinutes">Working minutes by which the project finishes later now.</param>
/// <param name="Drift">The same in words; empty where there is none.</param>
/// <param name="IsMeasure">Whether drift is measured against it.</param>
/// <param name="IsChosen">Whether it was chosen for that, whichever is newer.</param>
public sealed record BaselineDocument(
    string Id,
    string Name,
    string Taken,
    bool IsWhole,
    int Tasks,
    string Start,
    string Finish,
    int DriftMinutes,
    string Drift,
    bool IsMeasure,
    bool IsChosen
)
{
    internal static BaselineDocument Of(Baseline baseline, Schedule schedule)
    {
        var (plan, drift) = (schedule.Plan, new Drift(schedule, baseline).Finish);
        return new BaselineDocument(
            baseline.Id,
            baseline.Name,
            baseline.Taken.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            baseline.Whole,
            baseline.Rows.Count(row => !row.Phase),
            baseline.Start.ToString(),
            baseline.Finish.ToString(),
            drift.Count,
            RippleText.Shift(drift, plan.Project.Units),
            plan.Measure?.Id == baseline.Id,
            plan.Project.Measure == baseline.Id
        );
    }
}

/// <param name="Start">By how much the project starts later in the second, in words; empty where it does not.</param>
/// <param name="Finish">By how much it finishes later.</param>
/// <param name="Length">By how much it is longer.</param>
/// <param name="HoursWorked">Minutes that people have worked on the project so far.</param>
/// <param name="Sentence">What the difference comes to.</param>
/// <param name="Rows">Every row that differs, the largest difference first.</param>
public sealed record ComparisonDocument(
    SideDocument From,
    SideDocument To,
    string Start,
    string Finish,
    string Length,
    int HoursWorked,
    string Sentence,
    IReadOnlyList<ComparedRowDocument> Rows
);

/// <summary>The facts of one of two records.</summary>
/// <param name="LengthMinutes">Working minutes from start to finish.</param>
/// <param name="Length">The same in days.</param>
/// <param name="EffortMinutes">Work of all tasks.</param>
/// <param name="Progress">0 to 1.</param>
/// <param name="Tasks">How many tasks and milestones it has.</param>
/// <param name="IsWhole">Whether it is of all rows.</param>
public sealed record SideDocument(
    string Key,
    string Title,
    string Start,
    string Finish,
    int LengthMinutes,
    string Length,
    decimal EffortMinutes,
    decimal Progress,
    int Tasks,
    bool IsWhole
)
{
    internal static SideDocument Of(Snapshot side, Plan now)
    {
        var (record, length) = (side.Record, now.ProjectCalendar.Between(side.Record.Start, side.Record.Finish));
        return new SideDocument(
            side.Key,
            side.Title,
            record.Start.ToString(),
            record.Finish.ToString(),
            length,
            DurationText.Of(new(length), now.Project.Units),
            record.Effort,
            Math.Round(record.Progress, 4),
            record.Rows.Count(row => !row.Phase),
            record.Whole
        );
    }
}

/// <param name="Change"><c>moved</c>, <c>grew</c>, <c>new</c> or <c>dropped</c>.</param>
/// <param name="Said">In what it differs.</param>
/// <param name="IsHere">Whether the plan still has it.</param>
public sealed record ComparedRowDocument(
    string Task,
    string Name,
    string Change,
    string Said,
    bool IsHere,
    string? StartFrom,
    string? FinishFrom,
    string? StartTo,
    string? FinishTo,
    int StartShift,
    int FinishShift,
    decimal EffortMinutes
)
{
    internal static ComparedRowDocument Of(ComparedRow row, Plan now) =>
        new(
            row.Row.Task,
            row.Row.Name,
            JsonNames.Camel(row.Change),
            ComparisonText.Of(row, now.Project.Units),
            now.Find(row.Row.Task) is not null,
            row.From?.Start.ToString(),
            row.From?.Finish.ToString(),
            row.To?.Start.ToString(),
            row.To?.Finish.ToString(),
            row.Start.Count,
            row.Finish.Count,
            row.Effort
        );
}

/// <param name="Rows">By the id of a row: the minutes since 0001-01-01T00:00 at which it started and finished.</param>
public sealed record SnapshotDocument(string Key, string Title, IReadOnlyDictionary<string, int[]> Rows);
