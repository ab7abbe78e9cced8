using Auxilium.Exchange.Edits;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Scheduling;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>Plans as they were: led back from what they are now by the journal (rule S5). They are looked at and never changed.</summary>
public sealed class PastPlans(IDbContextFactory<AuxiliumDb> databases, PlanStore store)
{
    /// <summary>A plan as it was at a version.</summary>
    /// <param name="project">Id of the project, whose live plan is meant.</param>
    /// <param name="version">From 1, which is the plan before its first edit.</param>
    /// <param name="cancel">Cancels the way back.</param>
    /// <returns><c>null</c> where there is no such project, or its plan never had such a version.</returns>
    public async Task<PastPlan?> FindAsync(Guid project, int version, CancellationToken cancel = default)
    {
        if (await store.LoadAsync(project, cancel) is not { } now)
            return null;
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await FindAsync(db, now, version, cancel);
    }

    /// <summary>The version that a plan had at a moment; the first, for any moment before its first edit.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="before">The moment, in UTC.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<int> VersionAtAsync(Guid project, DateTime before, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await (
            from entry in db.Journal
            join plan in db.Plans on entry.PlanId equals plan.Id
            where plan.ProjectId == project && plan.Kind == PlanKind.Live && entry.At < before
            select (int?)entry.Version
        ).MaxAsync(cancel) ?? 1;
    }

    /// <summary>The days on which a plan changed, the first of them first, each with the version that it ended as.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="zone">Where days begin and end.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<(DateOnly Day, int Version)>> DaysAsync(
        Guid project,
        TimeZoneInfo zone,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var edits = await (
            from entry in db.Journal
            join plan in db.Plans on entry.PlanId equals plan.Id
            where plan.ProjectId == project && plan.Kind == PlanKind.Live
            // By the quarter of an hour, in which no day of any time zone ends: there are few of them, however many edits there are.
            group entry by new
            {
                entry.At.Year,
                entry.At.Month,
                entry.At.Day,
                entry.At.Hour,
                Quarter = entry.At.Minute / 15,
            } into quarter
            select new { At = quarter.Max(j => j.At), Version = quarter.Max(j => j.Version) }
        ).ToListAsync(cancel);
        var created = await db.Projects.Where(p => p.Id == project).Select(p => p.CreatedAt).SingleOrDefaultAsync(cancel);
        return
        [
            .. edits
                .Append(new { At = created, Version = 1 })
                .GroupBy(edit => DateOnly.FromDateTime(TimeZoneInfo.ConvertTimeFromUtc(edit.At, zone)))
                .OrderBy(day => day.Key)
                .Select(day => (day.Key, day.Max(edit => edit.Version))),
        ];
    }

    internal static async Task<PastPlan?> FindAsync(AuxiliumDb db, StoredPlan now, int version, CancellationToken cancel)
    {
        if (version < 1 || version > now.Version)
            return null;
        var since = await db
            .Journal.Where(j => j.PlanId == now.Id && j.Version > version && j.Version <= now.Version)
            .OrderByDescending(j => j.Version)
            .Select(j => j.Inverse)
            .ToListAsync(cancel);
        // A journal with gaps leads to no plan that ever was.
        if (since.Count != now.Version - version)
            return null;
        var made = await db
            .Journal.Where(j => j.PlanId == now.Id && j.Version == version)
            .Select(j => new
            {
                j.EditId,
                j.At,
                By = db.People.Where(p => p.Id == j.PersonId).Select(p => p.Name).SingleOrDefault(),
            })
            .SingleOrDefaultAsync(cancel);
        var at = made?.At
            ?? await db.Projects.IgnoreQueryFilters().Where(p => p.Id == now.Project).Select(p => p.CreatedAt).SingleAsync(cancel);
        if (since.Count == 0)
            return new PastPlan(now, at, made?.By);
        // What the journal keeps is exact: no day means anything in it.
        var reader = new EditJson(default);
        var plan = Rewind.Back(now.Schedule, since.Select(reader.Read), cancel);
        var past = new StoredPlan(now.Id, now.Project, version, made?.EditId, () => Scheduler.Calculate(plan, cancel), now.Ranks)
        {
            Name = plan.Project.Name,
        };
        return new PastPlan(past, at, made?.By);
    }
}

/// <summary>A plan as it was.</summary>
/// <param name="At">When it became so, in UTC.</param>
/// <param name="By">Who made it so; <c>null</c> for the first version.</param>
public sealed record PastPlan(StoredPlan Plan, DateTime At, string? By);
