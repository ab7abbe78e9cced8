using System.Collections.Immutable;
using Auxilium.Planning.Load;
using Auxilium.Planning.Money;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;

namespace Auxilium.Storage.Money;

/// <summary>The money of a project with what is worked out of it.</summary>
/// <param name="Money">What it costs.</param>
/// <param name="Hours">Hours that people worked on it, in the order they were entered.</param>
public sealed record CountedMoney(PlanMoney Money, int Version, ImmutableArray<PaidHours> Hours)
{
    /// <summary>The same money on other dates.</summary>
    public PlanMoney On(Schedule schedule, DateOnly? asOf = null) =>
        asOf is null && ReferenceEquals(schedule, Money.Schedule)
            ? Money
            : new PlanMoney(schedule, Money.Ledger, Hours, asOf ?? Money.AsOf, Money);

    /// <summary>Another ledger on the same dates and hours.</summary>
    public CountedMoney With(KeptLedger kept) =>
        new(new PlanMoney(Money.Schedule, kept.Ledger, Hours, Money.AsOf, Money), kept.Version, Hours);

    /// <summary>Against the baseline that the project is measured by; <c>null</c> without one.</summary>
    public EarnedValue? Earned => Money.Schedule.Plan.Measure is { } measure ? new EarnedValue(Money, measure) : null;
}

/// <summary>What a project may cost, and is expected to.</summary>
public readonly record struct MoneySummary(decimal? Budget, decimal Expected, decimal Spent)
{
    public decimal? Free => Budget - Expected;
}

/// <summary>Works out what projects cost, of what is kept.</summary>
public sealed class ProjectMoney(IDbContextFactory<AuxiliumDb> databases, Ledgers ledgers, Organisation organisation, PlanStore store)
    : IDisposable
{
    /// <summary>Rows of projects whose cost is remembered, all together.</summary>
    private const int MostRemembered = 100_000;

    /// <summary>What was worked out last of a project, by its id: what of it still holds need not be worked out again.</summary>
    private readonly MemoryCache _known = new(new MemoryCacheOptions { SizeLimit = MostRemembered });

    public void Dispose() => _known.Dispose();

    /// <summary>Amounts in the organisation's currency.</summary>
    public async Task<MoneyText> TextAsync(CancellationToken cancel = default) =>
        new((await organisation.FindAsync(cancel))?.Currency ?? "EUR");

    /// <param name="plan">The project's plan.</param>
    /// <param name="today">Today, which counts where the plan has no status date.</param>
    /// <param name="asOf">Another day to look at.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<CountedMoney> OfAsync(StoredPlan plan, DateOnly today, DateOnly? asOf = null, CancellationToken cancel = default)
    {
        var kept = await ledgers.LoadAsync(plan.Project, cancel);
        var hours = await HoursAsync(plan.Project, today, cancel);
        var day = asOf ?? plan.Schedule.Plan.Project.StatusDate?.Date ?? today;
        var money = new PlanMoney(plan.Schedule, kept.Ledger, hours, day, _known.Get<PlanMoney>(plan.Project));
        _known.Set(plan.Project, money, new MemoryCacheEntryOptions { Size = 1 + plan.Schedule.Plan.Tasks.Length });
        return new CountedMoney(money, kept.Version, hours);
    }

    /// <summary>Says what a plan costs on any dates; <c>null</c> where nobody said anything of money.</summary>
    internal async Task<Func<Schedule, PlanMoney>?> CostsAsync(StoredPlan plan, DateOnly today, CancellationToken cancel)
    {
        var ledger = (await ledgers.LoadAsync(plan.Project, cancel)).Ledger;
        return ledger.IsEmpty ? null : schedule => new PlanMoney(schedule, ledger, [], today);
    }

    /// <summary>What projects may cost and are expected to; without those of which nobody said anything.</summary>
    public async Task<IReadOnlyDictionary<Guid, MoneySummary>> SummariesAsync(
        IReadOnlyCollection<Guid> projects,
        DateOnly today,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db.Money.AsNoTracking().Where(m => projects.Contains(m.ProjectId)).ToListAsync(cancel);
        foreach (var row in rows.Where(row => row.AsOf != today))
        {
            if (await store.LoadAsync(row.ProjectId, cancel) is not { } plan)
                continue;
            var whole = (await OfAsync(plan, today, null, cancel)).Money.Whole;
            (row.Expected, row.Spent, row.AsOf) = (whole.Expected, whole.Spent, today);
            await db
                .Money.Where(m => m.ProjectId == row.ProjectId && m.Version == row.Version)
                .ExecuteUpdateAsync(
                    m =>
                        m.SetProperty(x => x.Expected, whole.Expected)
                            .SetProperty(x => x.Spent, whole.Spent)
                            .SetProperty(x => x.AsOf, today),
                    cancel
                );
        }
        return rows.Where(row => row.Expected is not null)
            .ToDictionary(row => row.ProjectId, row => new MoneySummary(row.Budget, row.Expected!.Value, row.Spent ?? 0));
    }

    /// <summary>Says that what a project costs must be worked out anew.</summary>
    internal static Task<int> ForgetAsync(AuxiliumDb db, Guid project, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"update project_money set as_of = null where project_id = {project} and as_of is not null", cancel);

    /// <summary>Hours on a project, with what of them is overtime: that depends on what people worked elsewhere (rule H4).</summary>
    private async Task<ImmutableArray<PaidHours>> HoursAsync(Guid project, DateOnly today, CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var own = db.Hours.Where(h => h.ProjectId == project);
        var all = await db
            .Hours.AsNoTracking()
            .Where(h => own.Any(o => o.PersonId == h.PersonId && o.Day == h.Day))
            .OrderBy(h => h.EnteredAt)
            .ThenBy(h => h.ProjectId)
            .ThenBy(h => h.TaskId)
            .ToListAsync(cancel);
        if (all.Count == 0)
            return [];
        var ids = all.Select(h => h.PersonId).Distinct().ToList();
        var people = await db.People.AsNoTracking().Where(p => ids.Contains(p.Id)).ToListAsync(cancel);
        var capacities = await PersonTimes.OfAllAsync(db, await organisation.FindAsync(cancel), people, today, cancel);
        return
        [
            .. PaidHours
                .Of(all.Select(h => new WorkedHours(h.TaskId, h.PersonId, h.Day, h.Minutes)), capacities)
                .Zip(all)
                .Where(pair => pair.Second.ProjectId == project)
                .Select(pair => pair.First),
        ];
    }
}
