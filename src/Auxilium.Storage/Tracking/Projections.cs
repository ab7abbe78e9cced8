using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;

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

    private static readonly string TaskColumns = ColumnsOf<ProjectedTaskRow>();

    /// <summary>Comes after what is selected to be inserted.</summary>
    private static readonly string OrUpdated =
        $"on conflict (plan_id, task_id) do update set ({TaskColumns}) = row({ColumnsOf<ProjectedTaskRow>("excluded.")})";

    /// <summary>
    /// What is kept of a plan goes on from a version to the next: takes the row as JSON, the plan, the version that is kept, the day,
    /// and, of the rows that only moved, an array for each value. Says whether that version was kept by the number of rows, 1 or 0.
    /// Rows that only moved get just what moves written: for hundreds of rows, that takes a third of the time. All is one statement, as
    /// each turn to the server costs as much as the rows of a small edit.
    /// </summary>
    private static readonly string GoOn = GoesOn("");

    /// <summary>The same, with rows that changed otherwise: takes them as JSON, last.</summary>
    private static readonly string GoOnWithMore = GoesOn(
        $"""
        ,
        changed as (
            insert into projected_tasks ({TaskColumns})
            select {ColumnsOf<ProjectedTaskRow>("r.")} from known, json_populate_recordset(null::projected_tasks, $18::json) r
            {OrUpdated})
        """
    );

    private static string GoesOn(string changed) =>
        $"""
            with known as (select plan_id from projected_plans where plan_id = $2 and version = $3 and day = $4 and problem is null),
            moved as (
                update projected_tasks t
                set start = timestamp '0001-01-01' + v.start * interval '1 minute',
                    finish = timestamp '0001-01-01' + v.finish * interval '1 minute',
                    last_day = date '0001-01-01' + v.day, is_of_hours = v.hours, is_critical = v.critical, waits_for = v.waits,
                    drift = v.drift, progress = v.progress, minutes_left = v.to_do, effort = v.effort, holds_up = v.holds,
                    work = v.work
                from known, unnest($5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17)
                    as v(id, start, finish, day, hours, critical, waits, drift, progress, to_do, effort, holds, work)
                where t.plan_id = known.plan_id and t.task_id = v.id){changed}
            update projected_plans p set ({ColumnsOf<ProjectedPlanRow>()}) = (
                select {ColumnsOf<ProjectedPlanRow>()} from json_populate_record(null::projected_plans, $1::json))
            from known where p.plan_id = known.plan_id
            """;

    /// <summary>Takes rows as JSON.</summary>
    private static readonly string InsertTasks = $$"""
        insert into projected_tasks ({{TaskColumns}})
        select {{TaskColumns}} from json_populate_recordset(null::projected_tasks, {0}::json) {{OrUpdated}}
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
            await WriteWholeAsync(db, stored, Projection.Of(stored.Schedule, today), cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Writes what an edit changed, in its transaction.</summary>
    /// <param name="db">With the transaction of the edit.</param>
    /// <param name="before">The plan as it was; <c>null</c> for a new one.</param>
    /// <param name="after">The plan as the edit made it.</param>
    /// <param name="now">What is asked of that across plans.</param>
    /// <param name="cancel">Ends the wait.</param>
    internal static async Task WriteAsync(AuxiliumDb db, StoredPlan? before, StoredPlan after, ProjectedPlan now, CancellationToken cancel)
    {
        if (before is null)
        {
            await WriteWholeAsync(db, after, now, cancel);
            return;
        }
        var was = Projection.Of(before.Schedule, now.Day).Tasks;
        var (moved, changed, gone) = after.Schedule.Plan.Index.HasOutlineOf(before.Schedule.Plan.Index)
            ? Differing(was, now.Tasks)
            : Differing(was, now.Tasks, id => before.Ranks.Tasks[id] != after.Ranks.Tasks[id]);
        if (!await GoOnAsync(db, before, after, now, (moved, changed), cancel))
        {
            await WriteWholeAsync(db, after, now, cancel);
            return;
        }
        if (gone.Count > 0)
            await db.ProjectedTasks.Where(t => t.PlanId == after.Id && gone.Contains(t.TaskId)).ExecuteDeleteAsync(cancel);
    }

    /// <summary>What differs where the rows are the same ones in the same order.</summary>
    private static (List<ProjectedTask> Moved, List<ProjectedTask> Changed, List<string> Gone) Differing(
        ImmutableArray<ProjectedTask> was,
        ImmutableArray<ProjectedTask> now
    )
    {
        var (moved, changed) = (new List<ProjectedTask>(), new List<ProjectedTask>());
        for (var row = 0; row < now.Length; row++)
            if (was[row] != now[row])
                (IsOnlyMoved(was[row], now[row]) ? moved : changed).Add(now[row]);
        return (moved, changed, []);
    }

    /// <summary>What differs where rows came, went or were put elsewhere.</summary>
    private static (List<ProjectedTask> Moved, List<ProjectedTask> Changed, List<string> Gone) Differing(
        ImmutableArray<ProjectedTask> was,
        ImmutableArray<ProjectedTask> now,
        Func<string, bool> isElsewhere
    )
    {
        var old = was.ToDictionary(task => task.Id);
        var (moved, changed) = (new List<ProjectedTask>(), new List<ProjectedTask>());
        foreach (var task in now)
            if (!old.Remove(task.Id, out var before) || isElsewhere(task.Id))
                changed.Add(task);
            else if (before != task)
                (IsOnlyMoved(before, task) ? moved : changed).Add(task);
        return (moved, changed, [.. old.Keys]);
    }

    /// <summary>Writes the plan, and the rows that moved or changed.</summary>
    /// <returns>Whether what was kept was of the version before, on this day; else nothing is written.</returns>
    private static async Task<bool> GoOnAsync(
        AuxiliumDb db,
        StoredPlan before,
        StoredPlan after,
        ProjectedPlan now,
        (List<ProjectedTask> Moved, List<ProjectedTask> Changed) tasks,
        CancellationToken cancel
    )
    {
        // Said to the driver itself: what lies between takes longer than the statement.
        var moved = tasks.Moved;
        await using var command = (NpgsqlCommand)db.Database.GetDbConnection().CreateCommand();
        command.CommandText = tasks.Changed.Count > 0 ? GoOnWithMore : GoOn;
        command.Transaction = (NpgsqlTransaction?)db.Database.CurrentTransaction?.GetDbTransaction();
        Add(RowText(RowOf(after, now)));
        Add(after.Id);
        Add(before.Version);
        Add(now.Day);
        Add(Each(moved, t => t.Id));
        Add(Each(moved, t => t.Start!.Value.Minutes));
        Add(Each(moved, t => t.Finish!.Value.Minutes));
        Add(Each(moved, t => t.LastDay!.Value.DayNumber));
        Add(Each(moved, t => t.IsOfHours));
        Add(Each(moved, t => t.IsCritical));
        Add(Each(moved, t => t.WaitsFor));
        Add(Each(moved, t => t.Drift));
        Add(Each(moved, t => t.Progress));
        Add(Each(moved, t => t.Left));
        Add(Each(moved, t => t.Effort));
        Add(Each(moved, t => t.HoldsUp));
        Add(Each(moved, t => t.Work));
        if (tasks.Changed.Count > 0)
            Add(RowsText(after, tasks.Changed));
        return await command.ExecuteNonQueryAsync(cancel) == 1;

        void Add<T>(T value) => command.Parameters.Add(new NpgsqlParameter<T> { TypedValue = value });
        static T[] Each<T>(List<ProjectedTask> tasks, Func<ProjectedTask, T> of) => [.. tasks.Select(of)];
    }

    private static async Task WriteWholeAsync(AuxiliumDb db, StoredPlan stored, ProjectedPlan now, CancellationToken cancel)
    {
        await RemoveAsync(db, stored.Id, cancel);
        var row = RowText(RowOf(stored, now));
        await db.Database.ExecuteSqlAsync(
            $"insert into projected_plans select * from json_populate_record(null::projected_plans, {row}::json)",
            cancel
        );
        await WriteTasksAsync(db, stored, [.. now.Tasks], cancel);
    }

    private static Task<int> RemoveAsync(AuxiliumDb db, Guid plan, CancellationToken cancel) =>
        db.ProjectedPlans.Where(p => p.PlanId == plan).ExecuteDeleteAsync(cancel);

    /// <summary>Whether only its dates and the work in it changed, as for nearly all rows that an edit reaches.</summary>
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
                Progress = old.Progress,
                Left = old.Left,
                Effort = old.Effort,
                HoldsUp = old.HoldsUp,
                Work = old.Work,
            };

    /// <summary>In one statement, however many they are.</summary>
    private static async Task WriteTasksAsync(AuxiliumDb db, StoredPlan stored, List<ProjectedTask> tasks, CancellationToken cancel)
    {
        if (tasks.Count > 0)
            await db.Database.ExecuteSqlRawAsync(InsertTasks, [RowsText(stored, tasks)], cancel);
    }

    private static string RowText(ProjectedPlanRow row) => JsonSerializer.Serialize(row, Snake);

    private static string RowsText(StoredPlan stored, List<ProjectedTask> tasks) =>
        JsonSerializer.Serialize(tasks.Select(task => RowOf(stored, task)), Snake);

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
            Work = task.Work,
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
            row.GathersLeft,
            row.Work
        );

    private static DateTime? Time(PlanTime? time) => time?.ToDateTime();

    private static PlanTime? Time(DateTime? time) => time is { } at ? PlanTime.FromDateTime(at) : null;
}
