using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Notices;

/// <summary>
/// Tells people what became of their tasks, by comparing each plan with what it was like when they were last told. So nothing is
/// missed when a process dies, what was dragged there and back is not told, and nobody is told what they did themselves.
/// </summary>
public sealed class NoticeWatch(
    IDbContextFactory<AuxiliumDb> databases,
    PlanStore store,
    Projections projections,
    LoadAcross load,
    TimeProvider clock
)
{
    /// <summary>Looks at every plan that has changed, or that the day has changed for.</summary>
    public async Task LookAsync(DateOnly today, CancellationToken cancel = default)
    {
        await projections.RefreshAsync(today, cancel);
        await using var db = await databases.CreateDbContextAsync(cancel);
        var due = await (
            from project in db.Projects
            join plan in db.Plans on project.Id equals plan.ProjectId
            join watch in db.Watches on project.Id equals watch.ProjectId into watches
            from watch in watches.DefaultIfEmpty()
            where plan.Kind == PlanKind.Live
            where project.ArchivedAt == null && (watch == null || watch.Version != plan.Version || watch.Day != today)
            select project.Id
        ).ToListAsync(cancel);
        var known = new HashSet<Guid>();
        foreach (var project in due)
            if (await LookAtAsync(project, today, cancel))
                known.Add(project);
        if (known.Count > 0)
            await TellOfOverbookedAsync(known, today, cancel);
    }

    /// <summary>Tells who coordinates a project of who in it is overbooked this week or next: of each once a week.</summary>
    /// <param name="projects">Those that something happened in.</param>
    private async Task TellOfOverbookedAsync(HashSet<Guid> projects, DateOnly today, CancellationToken cancel)
    {
        var overbooked = await load.OverbookedAsync(_ => true, today, cancel);
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var coordinators = await db
            .Projects.Where(p => projects.Contains(p.Id) && p.Coordinator != null)
            .ToDictionaryAsync(p => p.Id, p => p.Coordinator!, cancel);
        var week = today.AddDays(-((int)today.DayOfWeek + 6) % 7);
        foreach (var over in overbooked.Where(over => over.Person is not null))
        foreach (var project in over.Projects.Where(projects.Contains))
        {
            if (coordinators.TryGetValue(project, out var coordinator))
                await NoticeBook.TellAsync(
                    db,
                    [coordinator],
                    NoticeKind.Overbooked,
                    project,
                    null,
                    $"{(coordinator == over.Person ? "You are" : $"{over.Name} is")} overbooked: {over.Words}.",
                    $"overbooked {over.Person} {week:O}",
                    clock.GetUtcNow().UtcDateTime,
                    cancel
                );
        }
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <returns>Whether it was looked at before.</returns>
    private async Task<bool> LookAtAsync(Guid project, DateOnly today, CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        if (
            await (
                from live in db.Plans
                join projected in db.ProjectedPlans on live.Id equals projected.PlanId
                where live.ProjectId == project && live.Kind == PlanKind.Live && projected.Problem == null && projected.Day == today
                select projected
            )
                .AsNoTracking()
                .SingleOrDefaultAsync(cancel)
            is not { } plan
        )
            return false;
        var watch = await db
            .Watches.FromSql($"select * from watches where project_id = {project} for update")
            .SingleOrDefaultAsync(cancel);
        // A plan that is looked at for the first time is news to nobody.
        if (watch is not null)
            await new Alerts(db, plan, project, today, cancel).TellAsync(clock.GetUtcNow().UtcDateTime);
        var tasks = await db
            .ProjectedTasks.AsNoTracking()
            .Where(t => t.PlanId == plan.PlanId && t.IsLeaf && t.Start != null && t.People.Length > 0)
            .OrderBy(t => t.Rank)
            .ToListAsync(cancel);
        var now = SeenOf(tasks, today);
        var seen = JsonSerializer.Serialize(now);
        if (watch is null)
        {
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into watches (project_id, version, day, seen) values ({project}, {plan.Version}, {today}, {seen}::json) on
                conflict (project_id) do nothing
                """,
                cancel
            );
        }
        else if (watch.Seen == seen && watch.Day == today)
            watch.Version = plan.Version;
        else if (watch.Version <= plan.Version)
        {
            // Only where there is something to tell is the plan itself asked; one that has gone on since comes next time.
            if (await store.LoadPlanAsync(plan.PlanId, cancel) is not { WhyUnsound: null } stored || stored.Version != plan.Version)
                return true;
            var editors = await db
                .Journal.Where(j => j.PlanId == plan.PlanId && j.Version > watch.Version && j.Version <= plan.Version)
                .Select(j => j.PersonId)
                .Distinct()
                .ToListAsync(cancel);
            var was = JsonSerializer.Deserialize<Dictionary<string, SeenTask>>(watch.Seen)!;
            await new Telling(db, stored, editors is [var only] ? only : null, today, clock.GetUtcNow().UtcDateTime, cancel).TellAsync(
                was,
                now
            );
            (watch.Version, watch.Day, watch.Seen) = (plan.Version, today, seen);
        }
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return watch is not null;
    }

    /// <summary>What is told about each task that somebody has to do.</summary>
    private static Dictionary<string, SeenTask> SeenOf(IEnumerable<ProjectedTaskRow> rows, DateOnly today) =>
        rows.Select(row => (row.People, Task: Projections.Read(row)))
            .ToDictionary(
                known => known.Task.Id,
                known => new SeenTask(
                    known.People,
                    known.Task.StateOn(today).ToString(),
                    known.Task.Start!.Value.Minutes,
                    known.Task.Finish!.Value.Minutes
                )
            );

    /// <param name="People">Owner and helpers.</param>
    /// <param name="Start">In minutes, as the finish.</param>
    private sealed record SeenTask(string[] People, string State, int Start, int Finish);

    private sealed class Telling(
        AuxiliumDb db,
        StoredPlan stored,
        string? onlyEditor,
        DateOnly today,
        DateTime now,
        CancellationToken cancel
    )
    {
        private readonly Plan _plan = stored.Schedule.Plan;
        private readonly List<NoticeBook.News> _news = [];
        private Dictionary<string, NoticeWishes> _wishes = [];

        public async Task TellAsync(Dictionary<string, SeenTask> was, Dictionary<string, SeenTask> tasks)
        {
            var people = tasks.Values.SelectMany(task => task.People).Distinct().ToList();
            _wishes = (
                await db.Users.Where(u => people.Contains(u.Id)).Select(u => new { u.Id, u.NoticeWishes }).ToListAsync(cancel)
            ).ToDictionary(u => u.Id, u => NoticeWishes.Read(u.NoticeWishes));
            var series = new Dictionary<(string Person, NoticeKind Kind, string Phase), List<SeenTask>>();
            foreach (var (id, task) in tasks)
            {
                var before = was.GetValueOrDefault(id);
                // What comes again and again is told of once.
                var phase = _plan.Find(_plan.Find(id)!.Parent ?? "") is { Repeats: not null } gathers ? gathers.Id : null;
                var isDone = task.State == nameof(TaskState.Done);
                var (name, finish) = (_plan.Find(id)!.Name, new PlanTime(task.Finish).LastDateFrom(new PlanTime(task.Start)));
                var begins = Dates.Day(new PlanTime(task.Start));
                var dates = begins == Dates.Day(finish) ? begins : $"{begins} to {Dates.Day(finish)}";
                foreach (var person in task.People)
                {
                    var isTheirEdit = person == onlyEditor;
                    if (before is null || !before.People.Contains(person))
                    {
                        if (isTheirEdit || isDone)
                            continue;
                        if (phase is not null)
                            Gather(NoticeKind.Assigned);
                        else
                            Tell(person, NoticeKind.Assigned, id, $"{name} is yours now: {dates}.", $"assigned {id} {stored.Version}");
                    }
                    else if (
                        !isDone
                        && before.State != nameof(TaskState.Done)
                        && (before.Start != task.Start || before.Finish != task.Finish)
                    )
                    {
                        var days = Days(before, task);
                        var isFar = !isTheirEdit && Math.Abs(days) > WishesOf(person).MovedDays;
                        if (isFar && phase is not null)
                            Gather(NoticeKind.Moved);
                        else if (isFar)
                            Tell(
                                person,
                                NoticeKind.Moved,
                                id,
                                $"{name} moved by {new Length(Math.Abs(days), LengthUnit.Days).InWords()}{(days > 0 ? "" : " back")}: "
                                    + $"now {dates}.",
                                $"moved {id} {stored.Version}"
                            );
                    }
                    if (isDone)
                        continue;
                    if (task.State == nameof(TaskState.Ready) && before?.State == nameof(TaskState.Waiting))
                        Tell(
                            person,
                            NoticeKind.CanStart,
                            id,
                            $"{name} can start: nothing is in its way any more.",
                            $"canStart {id} {today}"
                        );
                    if (task.State == nameof(TaskState.Overdue))
                        Tell(
                            person,
                            NoticeKind.Overdue,
                            id,
                            $"{name} is overdue: it was to finish on {Dates.Day(finish)}.",
                            $"overdue {id} {finish}"
                        );
                    else if (finish >= today && finish.DayNumber - today.DayNumber <= WishesOf(person).DueDays)
                        Tell(
                            person,
                            NoticeKind.DueSoon,
                            id,
                            finish == today ? $"{name} is due today." : $"{name} is due on {Dates.Day(finish)}.",
                            $"due {id} {finish}"
                        );

                    void Gather(NoticeKind kind)
                    {
                        var key = (person, kind, phase!);
                        if (!series.TryGetValue(key, out var gathered))
                            series[key] = gathered = [];
                        gathered.Add(task);
                    }
                }
            }
            foreach (var ((person, kind, phase), occurrences) in series)
                TellOfSeries(person, kind, phase, occurrences);
            await NoticeBook.TellAsync(db, stored.Project, _news, now, cancel);
        }

        private void TellOfSeries(string person, NoticeKind kind, string phase, List<SeenTask> occurrences)
        {
            var (first, last) = (
                Dates.Day(new PlanTime(occurrences.Min(o => o.Start))),
                Dates.Day(new PlanTime(occurrences.Max(o => o.Start)))
            );
            var (name, times) = (
                _plan.Find(phase)!.Name,
                occurrences.Count == 1 ? $"on {first}" : $"{occurrences.Count} times, from {first} to {last}"
            );
            if (kind == NoticeKind.Assigned)
                Tell(person, kind, phase, $"{name} is yours now: {times}.", $"assigned {phase} {stored.Version}");
            else
                Tell(person, kind, phase, $"{name} has other days now: {times}.", $"moved {phase} {stored.Version}");
        }

        private void Tell(string person, NoticeKind kind, string task, string text, string once) =>
            _news.Add(new(person, kind, task, text, $"{stored.Project} {once}"));

        /// <summary>Working days by which a task moved: the end that moved further.</summary>
        private decimal Days(SeenTask before, SeenTask after)
        {
            var calendar = _plan.ProjectCalendar;
            var perDay = (decimal)_plan.Project.Units.MinutesPerDay;
            var (start, finish) = (Between(before.Start, after.Start), Between(before.Finish, after.Finish));
            return Math.Abs(start) > Math.Abs(finish) ? start : finish;

            decimal Between(int from, int to) =>
                Math.Round(
                    (
                        to >= from
                            ? calendar.Between(new PlanTime(from), new PlanTime(to))
                            : -calendar.Between(new PlanTime(to), new PlanTime(from))
                    ) / perDay,
                    1
                );
        }

        private NoticeWishes WishesOf(string person) => _wishes.GetValueOrDefault(person) ?? new NoticeWishes();
    }
}
