using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Auxilium.Storage.Tracking;

/// <summary>A project as it is known without reading its plan.</summary>
/// <param name="Coordinator">The name of who coordinates it.</param>
/// <param name="Plan">Its dates; <c>null</c> where they cannot be worked out.</param>
/// <param name="Problem">Why not, in a sentence.</param>
/// <param name="Counts">How many tasks and milestones there are in each state.</param>
public sealed record KnownProject(
    Guid Id,
    string Name,
    string? Coordinator,
    int Version,
    WorkUnits Units,
    ProjectedPlan? Plan,
    string? Problem,
    IReadOnlyDictionary<TaskState, int> Counts
)
{
    public ProjectStatus Status { get; init; } = ProjectStatus.Active;

    /// <summary>One of the colours that rows can have.</summary>
    public string? Colour { get; init; }

    public int Priority { get; init; }

    /// <summary>Id of the folder that it lies in.</summary>
    public Guid? Folder { get; init; }

    /// <summary>Facts of its own that people added, with what it has in each.</summary>
    public ImmutableArray<OwnField> Own { get; init; } = [];

    /// <summary>How likely it keeps its deadline, 0 to 1; <c>null</c> while that is worked out, and where it cannot be.</summary>
    public decimal? Chance { get; init; }

    /// <summary>The same of a plan that is at hand.</summary>
    public static KnownProject Of(StoredPlan stored, DateOnly today)
    {
        if (stored.WhyUnsound is { } why)
            return new(stored.Project, stored.Name, null, stored.Version, WorkUnits.Standard, null, why, new Dictionary<TaskState, int>());
        var (plan, projected) = (stored.Schedule.Plan, Projection.Of(stored.Schedule, today));
        return new(
            stored.Project,
            plan.Project.Name,
            plan.FindPerson(plan.Project.Coordinator)?.Name,
            stored.Version,
            plan.Project.Units,
            projected,
            null,
            projected.Tasks.Where(t => t.IsLeaf && t.Start is not null).CountBy(t => t.StateOn(today)).ToDictionary()
        );
    }
}

/// <summary>A task of somebody, in one of many projects.</summary>
public sealed record KnownTask(Guid Project, string ProjectName, int Version, ProjectedTask Task);

/// <summary>Answers questions across all projects without reading their plans.</summary>
public sealed class AcrossPlans(IDbContextFactory<AuxiliumDb> databases, Projections projections)
{
    /// <summary>Of more than so many tasks, only the earliest are told.</summary>
    public const int MostAttention = 1_000;

    private const int MostEating = 50;

    /// <summary>Of all projects together.</summary>
    private const int MostMilestones = 5_000;

    /// <summary>The database only reads, or somebody holds a plan.</summary>
    private static readonly string[] NotNow = [PostgresErrorCodes.ReadOnlySqlTransaction, PostgresErrorCodes.LockNotAvailable];

    /// <summary>Projects, the newest first.</summary>
    /// <param name="only">Of these.</param>
    /// <param name="today">Today.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<KnownProject>> ProjectsAsync(
        IReadOnlyCollection<Guid> only,
        DateOnly today,
        CancellationToken cancel = default
    )
    {
        await RefreshAsync(today, cancel);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var projects = await (
            from project in db.Projects
            join plan in db.Plans on project.Id equals plan.ProjectId
            join known in db.ProjectedPlans on plan.Id equals known.PlanId
            where plan.Kind == PlanKind.Live && only.Contains(project.Id)
            orderby project.CreatedAt descending, project.Id
            select new
            {
                project.Id,
                project.Name,
                Coordinator = db.People.Where(p => p.Id == project.Coordinator).Select(p => p.Name).SingleOrDefault(),
                Plan = plan.Id,
                plan.HoursPerDay,
                plan.DaysPerWeek,
                plan.Fields,
                Known = known,
                project.Status,
                project.Colour,
                project.Priority,
                project.FolderId,
                Chance = db.Chances.Where(c => c.PlanId == plan.Id && c.Version == plan.Version).Select(c => c.Chance).SingleOrDefault(),
            }
        )
            .AsNoTracking()
            .ToListAsync(cancel);
        var dawn = PlanTime.On(today).ToDateTime();
        List<Guid> plans = [.. projects.Select(p => p.Plan)];
        // The order of the states in which TaskStates tries them.
        var counts = await db
            .ProjectedTasks.Where(t => plans.Contains(t.PlanId) && t.IsLeaf && t.Start != null)
            .GroupBy(t => new
            {
                t.PlanId,
                State = t.IsFinished ? TaskState.Done
                : t.Finish < dawn ? TaskState.Overdue
                : t.IsStarted || t.Progress > 0 ? TaskState.UnderWay
                : t.WaitsFor != null ? TaskState.Waiting
                : t.Start < dawn ? TaskState.LateToStart
                : TaskState.Ready,
            })
            .Select(g => new
            {
                g.Key.PlanId,
                g.Key.State,
                Count = g.Count(),
            })
            .ToListAsync(cancel);
        var byPlan = counts.ToLookup(c => c.PlanId);
        return
        [
            .. projects.Select(p => new KnownProject(
                p.Id,
                p.Name,
                p.Coordinator,
                p.Known.Version,
                new WorkUnits(p.HoursPerDay, p.DaysPerWeek),
                p.Known.Problem is null ? Projections.Read(p.Known) : null,
                p.Known.Problem,
                byPlan[p.Plan].ToDictionary(c => c.State, c => c.Count)
            )
            {
                Status = p.Status,
                Colour = p.Colour,
                Priority = p.Priority,
                Folder = p.FolderId,
                Chance = p.Chance,
                Own = [.. PlanRows.ReadFields(p.Fields).Where(field => field.OfProject && !field.Retired)],
            }),
        ];
    }

    /// <summary>The milestones of many plans that have dates, by project and in the order of their dates.</summary>
    /// <param name="only">Of these projects.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<ILookup<Guid, ProjectedTask>> MilestonesAsync(IReadOnlyCollection<Guid> only, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var found = await (
            from task in db.ProjectedTasks
            join plan in db.Plans on task.PlanId equals plan.Id
            where plan.Kind == PlanKind.Live && only.Contains(plan.ProjectId) && task.IsMilestone && task.Start != null
            orderby task.Start
            select new { plan.ProjectId, Task = task }
        )
            .AsNoTracking()
            .Take(MostMilestones)
            .ToListAsync(cancel);
        return found.ToLookup(m => m.ProjectId, m => Projections.Read(m.Task));
    }

    /// <summary>The tasks of some people, by project and in the order of the plans.</summary>
    /// <param name="only">Of these projects.</param>
    /// <param name="people">Whose; nobody's, where it is empty.</param>
    /// <param name="today">Today.</param>
    /// <param name="withDone">Also those that are done.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<KnownTask>> TasksAsync(
        IReadOnlyCollection<Guid> only,
        IReadOnlyCollection<string> people,
        DateOnly today,
        bool withDone,
        CancellationToken cancel = default
    )
    {
        await RefreshAsync(today, cancel);
        await using var db = await databases.CreateDbContextAsync(cancel);
        string[] whose = [.. people];
        var tasks = db.ProjectedTasks.Where(t => withDone || !t.IsFinished);
        tasks =
            whose.Length == 0
                ? tasks.Where(t => t.People.Length == 0 && t.IsLeaf)
                : tasks.Where(t => t.People.Any(person => whose.Contains(person)));
        var found = await (
            from task in tasks
            join plan in db.Plans on task.PlanId equals plan.Id
            join project in db.Projects on plan.ProjectId equals project.Id
            where plan.Kind == PlanKind.Live && only.Contains(project.Id)
            orderby project.CreatedAt descending, project.Id, task.Rank
            select new
            {
                project.Id,
                project.Name,
                plan.Version,
                Task = task,
            }
        )
            .AsNoTracking()
            .ToListAsync(cancel);
        return [.. found.Select(t => new KnownTask(t.Id, t.Name, t.Version, Projections.Read(t.Task)))];
    }

    /// <summary>
    /// What in many plans may need somebody: unfinished tasks that are late, due or start soon, milestones to come, and repeating tasks
    /// that stop short. Projects on hold, and those that are finished, need nobody.
    /// </summary>
    /// <param name="only">Of these projects.</param>
    /// <param name="person">Only what this person works on; <c>null</c> for all.</param>
    /// <param name="today">Today.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>The earliest first, at most <see cref="MostAttention"/>.</returns>
    public async Task<IReadOnlyList<KnownTask>> AttentionAsync(
        IReadOnlyCollection<Guid> only,
        string? person,
        DateOnly today,
        CancellationToken cancel = default
    )
    {
        await RefreshAsync(today, cancel);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var soon = PlanTime.On(today.AddDays(7)).ToDateTime();
        var later = PlanTime.On(today.AddDays(28)).ToDateTime();
        var found = await (
            from task in db.ProjectedTasks
            join plan in db.Plans on task.PlanId equals plan.Id
            join project in db.Projects on plan.ProjectId equals project.Id
            where plan.Kind == PlanKind.Live && only.Contains(project.Id)
            where project.Status != ProjectStatus.OnHold && project.Status != ProjectStatus.Finished
            where person == null || task.People.Contains(person)
            where task.Start != null
            where
                (task.IsLeaf && !task.IsFinished && (task.Start < soon || task.Finish < soon))
                || (task.IsMilestone && !task.IsFinished && (task.Start < later || task.Deadline < task.Finish || task.Drift > 0))
                || task.ShortBy != null
            orderby task.Finish, project.CreatedAt, task.Rank
            select new
            {
                project.Id,
                project.Name,
                plan.Version,
                Task = task,
            }
        )
            .AsNoTracking()
            .Take(MostAttention)
            .ToListAsync(cancel);
        return [.. found.Select(t => new KnownTask(t.Id, t.Name, t.Version, Projections.Read(t.Task)))];
    }

    /// <summary>Tasks that nobody has taken and that are for one of some teams or roles, the earliest first.</summary>
    /// <param name="only">Of these projects.</param>
    /// <param name="names">Of teams and roles.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<KnownTask>> OpenAsync(
        IReadOnlyCollection<Guid> only,
        IReadOnlyList<string> names,
        CancellationToken cancel = default
    )
    {
        string[] starts = [.. names.Where(name => name.Length > 0).Select(name => $"{name}\t1\t")];
        if (starts.Length == 0 || only.Count == 0)
            return [];
        await using var db = await databases.CreateDbContextAsync(cancel);
        var found = await (
            from task in db.ProjectedTasks
            join plan in db.Plans on task.PlanId equals plan.Id
            join project in db.Projects on plan.ProjectId equals project.Id
            where plan.Kind == PlanKind.Live && only.Contains(project.Id) && project.Status == ProjectStatus.Active
            where task.People.Length == 0 && task.Work != null && starts.Any(start => task.Work!.StartsWith(start))
            orderby task.Start, task.Rank
            select new
            {
                project.Id,
                project.Name,
                plan.Version,
                Task = task,
            }
        )
            .AsNoTracking()
            .Take(MostAttention)
            .ToListAsync(cancel);
        return [.. found.Select(t => new KnownTask(t.Id, t.Name, t.Version, Projections.Read(t.Task)))];
    }

    /// <summary>Unfinished tasks of which more is used than is done, with the minutes worked on them; the worst first (rule H3).</summary>
    /// <param name="only">Of these projects.</param>
    /// <param name="person">Only what this person works on; <c>null</c> for all.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<(KnownTask Task, int Worked)>> EatingAsync(
        IReadOnlyCollection<Guid> only,
        string? person,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var worked =
            from hours in db.Hours
            where only.Contains(hours.ProjectId)
            group hours.Minutes by new { hours.ProjectId, hours.TaskId } into sums
            select new
            {
                sums.Key.ProjectId,
                sums.Key.TaskId,
                Minutes = sums.Sum(),
            };
        var found = await (
            from sum in worked
            join project in db.Projects on sum.ProjectId equals project.Id
            join plan in db.Plans on project.Id equals plan.ProjectId
            join task in db.ProjectedTasks on new { PlanId = plan.Id, sum.TaskId } equals new { task.PlanId, task.TaskId }
            where plan.Kind == PlanKind.Live && !task.IsFinished && task.Effort > 0 && task.Start != null
            where project.Status != ProjectStatus.OnHold && project.Status != ProjectStatus.Finished
            where person == null || task.People.Contains(person)
            where sum.Minutes > task.Effort * task.Progress
            orderby sum.Minutes - task.Effort * task.Progress descending
            select new
            {
                project.Id,
                project.Name,
                plan.Version,
                Task = task,
                sum.Minutes,
            }
        )
            .AsNoTracking()
            .Take(MostEating)
            .ToListAsync(cancel);
        return [.. found.Select(t => (new KnownTask(t.Id, t.Name, t.Version, Projections.Read(t.Task)), t.Minutes))];
    }

    /// <summary>If it cannot be rebuilt now, the old rows answer.</summary>
    internal async Task RefreshAsync(DateOnly today, CancellationToken cancel)
    {
        try
        {
            await projections.RefreshAsync(today, cancel);
        }
        catch (Exception e)
            when ((e as PostgresException ?? e.InnerException as PostgresException)?.SqlState is { } state && NotNow.Contains(state))
        {
            // It is rebuilt once the database can be written again.
        }
    }
}
