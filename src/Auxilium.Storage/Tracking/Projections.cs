using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>
/// Keeps what is asked across plans in tables of its own: written in the transaction of every edit, and rebuilt from the plans
/// when the day has changed or nothing is there yet.
/// </summary>
public sealed class Projections(IDbContextFactory<AuxiliumDb> databases, PlanStore store)
{
    private static readonly JsonSerializerOptions Snake = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        DictionaryKeyPolicy = null,
    };

    /// <summary>Takes the row as JSON, the plan, the version that is kept and the day.</summary>
    private static readonly string UpdatePlan = $$"""
        update projected_plans set ({{ColumnsOf<ProjectedPlanRow>()}}) = (
            select {{ColumnsOf<ProjectedPlanRow>()}} from json_populate_record(null::projected_plans, {0}::json))
        where plan_id = {1} and version = {2} and day = {3} and problem is null
        """;

    /// <summary>Takes rows as JSON.</summary>
    private static readonly string InsertTasks = $$"""
        insert into projected_tasks ({{ColumnsOf<ProjectedTaskRow>()}})
        select {{ColumnsOf<ProjectedTaskRow>()}} from json_populate_recordset(null::projected_tasks, {0}::json)
        on conflict (plan_id, task_id) do update set ({{ColumnsOf<ProjectedTaskRow>()}}) = row({{ColumnsOf<ProjectedTaskRow>(
            "excluded."
        )}})
        """;

    /// <summary>The columns of a table, as the properties of its rows name them.</summary>
    private static string ColumnsOf<T>(string of = "") =>
        string.Join(", ", typeof(T).GetProperties().Select(property => of + JsonNamingPolicy.SnakeCaseLower.ConvertName(property.Name)));

    /// <summary>Rebuilds what is not of the newest version of its plan, or is of another day.</summary>
    /// <returns>Of how many plans.</returns>
    public async Task<int> RefreshAsync(DateOnly today, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var due = await (
            from project in db.Projects
            join plan in db.Plans on project.Id equals plan.ProjectId
            join known in db.ProjectedPlans on plan.Id equals known.PlanId into projected
            from known in projected.DefaultIfEmpty()
            where known == null || known.Version != plan.Version || known.Day != today
            select plan.Id
        ).ToListAsync(cancel);
        foreach (var plan in due)
            await WriteAsync(plan, today, cancel);
        return due.Count;
    }

    /// <summary>Rebuilds everything from the plans.</summary>
    /// <returns>Of how many plans.</returns>
    public async Task<int> RebuildAsync(DateOnly today, CancellationToken cancel = default)
    {
        await using (var db = await databases.CreateDbContextAsync(cancel))
            await db.ProjectedPlans.ExecuteDeleteAsync(cancel);
        return await RefreshAsync(today, cancel);
    }

    private async Task WriteAsync(Guid plan, DateOnly today, CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // An edit in progress writes it itself: wait for that, then read what it wrote.
        if (
            await db
                .Projects.FromSql(
                    $"select j.* from projects j where j.id = (select p.project_id from plans p where p.id = {plan}) for update"
                )
                .SingleOrDefaultAsync(cancel)
                is null
            || await store.LoadPlanAsync(plan, cancel) is not { } stored
        )
            return;
        if (stored.WhyUnsound is { } why)
        {
            await RemoveAsync(db, plan, cancel);
            db.ProjectedPlans.Add(
                new ProjectedPlanRow
                {
                    PlanId = plan,
                    Version = stored.Version,
                    Day = today,
                    Problem = why,
                }
            );
            await db.SaveChangesAsync(cancel);
        }
        else
            await WriteWholeAsync(db, stored, today, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Writes what an edit changed, in its transaction.</summary>
    /// <param name="db">With the transaction of the edit.</param>
    /// <param name="before">The plan as it was; <c>null</c> for a new one.</param>
    /// <param name="after">The plan as the edit made it.</param>
    /// <param name="today">Today.</param>
    /// <param name="cancel">Ends the wait.</param>
    internal static async Task WriteAsync(AuxiliumDb db, StoredPlan? before, StoredPlan after, DateOnly today, CancellationToken cancel)
    {
        if (before is null || !await GoesOnAsync(db, before, after, today, cancel))
        {
            await WriteWholeAsync(db, after, today, cancel);
            return;
        }
        var was = Projection.Of(before.Schedule, today).Tasks.ToDictionary(task => task.Id);
        var (moved, changed) = (new List<ProjectedTask>(), new List<ProjectedTask>());
        foreach (var task in Projection.Of(after.Schedule, today).Tasks)
        {
            was.Remove(task.Id, out var old);
            if (old is null || before.Ranks.Tasks[task.Id] != after.Ranks.Tasks[task.Id])
                changed.Add(task);
            else if (old != task)
                (IsOnlyMoved(old, task) ? moved : changed).Add(task);
        }
        await WriteTasksAsync(db, after, changed, cancel);
        await MoveTasksAsync(db, after, moved, cancel);
        if (was.Count > 0)
        {
            List<string> gone = [.. was.Keys];
            await db.ProjectedTasks.Where(t => t.PlanId == after.Id && gone.Contains(t.TaskId)).ExecuteDeleteAsync(cancel);
        }
    }

    /// <summary>Whether what is kept is of the version before, on this day, so that only what changed is to be written.</summary>
    private static async Task<bool> GoesOnAsync(
        AuxiliumDb db,
        StoredPlan before,
        StoredPlan after,
        DateOnly today,
        CancellationToken cancel
    )
    {
        var row = JsonSerializer.Serialize(RowOf(after, Projection.Of(after.Schedule, today)), Snake);
        return await db.Database.ExecuteSqlRawAsync(UpdatePlan, [row, after.Id, before.Version, today], cancel) == 1;
    }

    private static async Task WriteWholeAsync(AuxiliumDb db, StoredPlan stored, DateOnly today, CancellationToken cancel)
    {
        await RemoveAsync(db, stored.Id, cancel);
        var now = Projection.Of(stored.Schedule, today);
        var row = JsonSerializer.Serialize(RowOf(stored, now), Snake);
        await db.Database.ExecuteSqlAsync(
            $"insert into projected_plans select * from json_populate_record(null::projected_plans, {row}::json)",
            cancel
        );
        await WriteTasksAsync(db, stored, [.. now.Tasks], cancel);
    }

    private static Task<int> RemoveAsync(AuxiliumDb db, Guid plan, CancellationToken cancel) =>
        db.ProjectedPlans.Where(p => p.PlanId == plan).ExecuteDeleteAsync(cancel);

    /// <summary>Whether only its dates changed, as for nearly all rows that an edit reaches.</summary>
    private static bool IsOnlyMoved(ProjectedTask old, ProjectedTask now) =>
        now.Start is not null
        && old
            == now with
            {
                Start = old.Start,
                Finish = old.Finish,
                LastDay = old.LastDay,
                IsOfHours = old.IsOfHours,
                IsCritical = old.IsCritical,
                WaitsFor = old.WaitsFor,
                Drift = old.Drift,
            };

    /// <summary>Rows that only moved get just their dates written: for hundreds of rows, that takes a third of the time.</summary>
    private static async Task MoveTasksAsync(AuxiliumDb db, StoredPlan stored, List<ProjectedTask> tasks, CancellationToken cancel)
    {
        if (tasks.Count == 0)
            return;
        string[] ids = [.. tasks.Select(t => t.Id)];
        int[] starts = [.. tasks.Select(t => t.Start!.Value.Minutes)];
        int[] finishes = [.. tasks.Select(t => t.Finish!.Value.Minutes)];
        int[] days = [.. tasks.Select(t => t.LastDay!.Value.DayNumber)];
        bool[] hours = [.. tasks.Select(t => t.IsOfHours)];
        bool[] critical = [.. tasks.Select(t => t.IsCritical)];
        string?[] waits = [.. tasks.Select(t => t.WaitsFor)];
        int?[] drifts = [.. tasks.Select(t => t.Drift)];
        await db.Database.ExecuteSqlAsync(
            $"""
            update projected_tasks t
            set start = timestamp '0001-01-01' + v.start * interval '1 minute',
                finish = timestamp '0001-01-01' + v.finish * interval '1 minute',
                last_day = date '0001-01-01' + v.day, is_of_hours = v.hours, is_critical = v.critical, waits_for = v.waits,
                drift = v.drift
            from unnest({ids}, {starts}, {finishes}, {days}, {hours}, {critical}, {waits}, {drifts})
                as v(id, start, finish, day, hours, critical, waits, drift)
            where t.plan_id = {stored.Id} and t.task_id = v.id
            """,
            cancel
        );
    }

    /// <summary>In one statement, however many they are.</summary>
    private static async Task WriteTasksAsync(AuxiliumDb db, StoredPlan stored, List<ProjectedTask> tasks, CancellationToken cancel)
    {
        if (tasks.Count == 0)
            return;
        var rows = JsonSerializer.Serialize(tasks.Select(task => RowOf(stored, task)), Snake);
        await db.Database.ExecuteSqlRawAsync(InsertTasks, [rows], cancel);
    }

    internal static ProjectedPlanRow RowOf(StoredPlan stored, ProjectedPlan plan) =>
        new()
        {
            PlanId = stored.Id,
            Version = stored.Version,
            Day = plan.Day,
            Start = plan.Start.ToDateTime(),
            Finish = plan.Finish.ToDateTime(),
            FinishBy = Time(plan.FinishBy),
            Spare = plan.Spare,
            Outlook = plan.Outlook,
            Progress = plan.Progress,
            Whole = plan.Whole,
            Passed = plan.Passed,
            Measure = plan.Measure,
            Drift = plan.Drift,
        };

    internal static ProjectedTaskRow RowOf(StoredPlan stored, ProjectedTask task) =>
        new()
        {
            PlanId = stored.Id,
            TaskId = task.Id,
            Rank = stored.Ranks.Tasks[task.Id],
            Name = task.Name,
            People = task.People.Split(' ', StringSplitOptions.RemoveEmptyEntries),
            Start = Time(task.Start),
            Finish = Time(task.Finish),
            LastDay = task.LastDay,
            IsLeaf = task.IsLeaf,
            IsMilestone = task.IsMilestone,
            IsOfHours = task.IsOfHours,
            IsCritical = task.IsCritical,
            Progress = task.Progress,
            IsStarted = task.IsStarted,
            IsFinished = task.IsFinished,
            WaitsFor = task.WaitsFor,
            MinutesLeft = task.Left,
            Deadline = Time(task.Deadline),
            Series = task.Series,
            Effort = task.Effort,
            Drift = task.Drift,
            DeliveredBy = task.DeliveredBy,
            HoldsUp = task.HoldsUp,
            ShortBy = task.ShortBy,
            Gathers = task.Gathers,
            GathersLeft = task.GathersLeft,
        };

    /// <summary>A plan as it was written, without its tasks.</summary>
    internal static ProjectedPlan Read(ProjectedPlanRow row) =>
        new(
            row.Day,
            PlanTime.FromDateTime(row.Start),
            PlanTime.FromDateTime(row.Finish),
            Time(row.FinishBy),
            row.Spare,
            row.Outlook,
            row.Progress,
            row.Whole,
            row.Passed,
            row.Measure,
            row.Drift,
            []
        );

    /// <summary>A task as it was written.</summary>
    internal static ProjectedTask Read(ProjectedTaskRow row) =>
        new(
            row.TaskId,
            row.Name,
            string.Join(' ', row.People),
            Time(row.Start),
            Time(row.Finish),
            row.LastDay,
            row.IsLeaf,
            row.IsMilestone,
            row.IsOfHours,
            row.IsCritical,
            row.Progress,
            row.IsStarted,
            row.IsFinished,
            row.WaitsFor,
            row.MinutesLeft,
            Time(row.Deadline),
            row.Series,
            row.Effort,
            row.Drift,
            row.DeliveredBy,
            row.HoldsUp,
            row.ShortBy,
            row.Gathers,
            row.GathersLeft
        );

    private static DateTime? Time(PlanTime? time) => time?.ToDateTime();

    private static PlanTime? Time(DateTime? time) => time is { } at ? PlanTime.FromDateTime(at) : null;
}
