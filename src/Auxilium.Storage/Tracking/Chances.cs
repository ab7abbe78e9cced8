using Auxilium.Planning.Forecasting;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>
/// Works out how likely plans keep their deadlines. That takes thousands of runs, so it is done after an edit and beside it, and kept.
/// </summary>
public sealed class Chances(IDbContextFactory<AuxiliumDb> databases, PlanStore store)
{
    /// <summary>Enough for whole percents.</summary>
    private const int Runs = 2_000;

    /// <summary>Plans done at a time, so that other jobs get their turn.</summary>
    private const int AtOnce = 20;

    /// <summary>Works it out for plans that have changed since.</summary>
    /// <returns>Of how many.</returns>
    public async Task<int> RefreshAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var due = await (
            from project in db.Projects
            join plan in db.Plans on project.Id equals plan.ProjectId
            join known in db.Chances on plan.Id equals known.PlanId into chances
            from known in chances.DefaultIfEmpty()
            where plan.Kind == PlanKind.Live && project.ArchivedAt == null
            where known == null || known.Version != plan.Version
            orderby plan.Id
            select plan.Id
        )
            .Take(AtOnce)
            .ToListAsync(cancel);
        foreach (var plan in due)
        {
            if (await store.LoadPlanAsync(plan, cancel) is not { } stored)
                continue;
            var chance = stored.WhyUnsound is null ? Of(stored.Schedule, cancel) : null;
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into chances (plan_id, version, chance)
                select p.id, {stored.Version}, {chance} from plans p where p.id = {plan}
                on conflict (plan_id) do update set version = excluded.version, chance = excluded.chance
                """,
                cancel
            );
        }
        return due.Count;
    }

    /// <summary>0 to 1, to the nearest hundredth; <c>null</c> without a deadline or a length that is a range.</summary>
    public static decimal? Of(Schedule schedule, CancellationToken cancel = default)
    {
        var plan = schedule.Plan;
        if (plan.Project.FinishBy is not { } deadline || !plan.Tasks.Any(t => t is { Estimate: not null, IsFinished: false }))
            return null;
        var runs = Math.Min(Runs, ForecastOptions.MostRunsOf(plan.Tasks.Length));
        try
        {
            return Math.Round((decimal)Forecast.Run(schedule, new ForecastOptions(runs), cancel: cancel).ChanceBy(deadline), 2);
        }
        catch (UnsoundPlanException)
        {
            return null;
        }
    }
}
