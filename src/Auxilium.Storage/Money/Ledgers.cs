using System.Collections.Immutable;
using Auxilium.Exchange.Money;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;

namespace Auxilium.Storage.Money;

/// <summary>The money of a project at a version of it.</summary>
public sealed record KeptLedger(Ledger Ledger, int Version);

/// <summary>What came of a change to money.</summary>
/// <param name="Sentence">What it changed; what stands in the way, where it was not made.</param>
/// <param name="IsDone">Whether it was made.</param>
public sealed record MoneyOutcome(KeptLedger Before, KeptLedger After, string Sentence, bool IsDone = true);

/// <summary>
/// The money of projects: read, changed and taken back. It is asked only for those who may have it; who that is, is decided in
/// <see cref="Access.ProjectRoles"/>.
/// </summary>
public sealed class Ledgers(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock) : IDisposable
{
    /// <summary>Items of projects that are remembered, all together.</summary>
    private const int MostRemembered = 200_000;

    /// <summary>What was read last of a project, by its id: it holds as long as the version does.</summary>
    private readonly MemoryCache _known = new(new MemoryCacheOptions { SizeLimit = MostRemembered });

    public void Dispose() => _known.Dispose();

    public async Task<KeptLedger> LoadAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await LoadAsync(db, project, cancel);
    }

    /// <summary>Applies a change, or takes one of somebody's own back.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="plan">Its plan.</param>
    /// <param name="request">The change.</param>
    /// <param name="text">Says amounts.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <exception cref="EditRefusedException">It makes no sense on the plan or money as they are now.</exception>
    public async Task<MoneyOutcome> CommitAsync(
        Guid project,
        Plan plan,
        MoneyRequest request,
        MoneyText text,
        CancellationToken cancel = default
    )
    {
        var (id, seen, edit, by, redo) = request;
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync(
            $"insert into project_money (project_id, version) values ({project}, 0) on conflict (project_id) do nothing",
            cancel
        );
        var row = await db.Money.FromSql($"select * from project_money where project_id = {project} for update").SingleAsync(cancel);
        var before = await LoadAsync(db, project, cancel);
        if (await db.MoneyEntries.FirstOrDefaultAsync(e => e.ProjectId == project && e.EditId == id, cancel) is { } earlier)
            return new MoneyOutcome(before, before, earlier.Sentence);
        MoneyEntryRow? target = null;
        if (edit is null)
        {
            target = await TargetAsync(db, project, by, redo, cancel);
            if (target is null)
                return new MoneyOutcome(
                    before,
                    before,
                    redo ? "There is nothing to do again." : "There is no change of yours to the money left to undo.",
                    IsDone: false
                );
            (edit, seen) = (MoneyJson.Read(target.Inverse), target.Version);
        }
        var touches = edit.Touches.Distinct().ToArray();
        if (await ConflictAsync(db, project, seen, by, touches, cancel) is { } other)
            return new MoneyOutcome(before, before, other, IsDone: false);
        var (after, inverse) = edit.Apply(before.Ledger, plan);
        var sentence =
            target is null ? edit.Say(before.Ledger, plan, text)
            : target.TakesBack is null ? $"Taken back: {target.Sentence}"
            : $"Done again: {edit.Say(before.Ledger, plan, text)}";
        await WriteAsync(db, project, before.Ledger, after, cancel);
        (row.Budget, row.Actuals, row.AsOf) = (after.Budget, after.Actuals?.ToString(), null);
        row.Version++;
        db.MoneyEntries.Add(
            new MoneyEntryRow
            {
                ProjectId = project,
                Version = row.Version,
                EditId = id,
                PersonId = by,
                At = clock.GetUtcNow().UtcDateTime,
                Inverse = MoneyJson.Write(inverse),
                Touches = touches,
                Sentence = sentence,
                TakesBack = target?.Id,
            }
        );
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Money} {project} {row.Version}", cancel);
        await transaction.CommitAsync(cancel);
        Remember(project, new Kept(row.Version, after.Budgets, after.CouldTake, after.Items));
        return new MoneyOutcome(before, new KeptLedger(after, row.Version), sentence);
    }

    /// <summary>The newest changes, the last first.</summary>
    public async Task<IReadOnlyList<(DateTime At, string Person, string Sentence)>> JournalAsync(
        Guid project,
        int most,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await (
            from entry in db.MoneyEntries
            join person in db.People on entry.PersonId equals person.Id
            where entry.ProjectId == project
            orderby entry.Id descending
            select new
            {
                entry.At,
                person.Name,
                entry.Sentence,
            }
        )
            .Take(most)
            .ToListAsync(cancel);
        return [.. rows.Select(r => (r.At, r.Name, r.Sentence))];
    }

    /// <summary>Whether this person can undo or redo.</summary>
    public async Task<(bool Undo, bool Redo)> CanTakeBackAsync(Guid project, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return (
            await TargetAsync(db, project, person, redo: false, cancel) is not null,
            await TargetAsync(db, project, person, redo: true, cancel) is not null
        );
    }

    /// <summary>Takes in the money of a document. Rates are taken for people who have none yet.</summary>
    internal static async Task BringInAsync(AuxiliumDb db, Guid project, Ledger ledger, CancellationToken cancel)
    {
        foreach (var (id, rates) in ledger.Rates)
        {
            if (await db.People.FindAsync([id], cancel) is not { } person || !PersonRates.Of(person).IsEmpty)
                continue;
            if (rates.Where(rate => rate.From is null).Select(rate => (Rate?)rate).LastOrDefault() is { } always)
                (person.HourlyRate, person.OvertimeRate, person.CostPerUse) = (always.Hour, always.Overtime, always.PerUse);
            person.LaterRates = PersonRates.Write([.. rates.Where(rate => rate.From is not null)]);
        }
        await db.SaveChangesAsync(cancel);
        if (ledger is { Budget: null, Actuals: null, Budgets.IsEmpty: true, Items.IsEmpty: true, CouldTake.IsEmpty: true })
            return;
        db.Money.Add(
            new ProjectMoneyRow
            {
                ProjectId = project,
                Budget = ledger.Budget,
                Actuals = ledger.Actuals?.ToString(),
                Version = 1,
            }
        );
        await WriteAsync(db, project, Ledger.None, ledger, cancel);
        await db.SaveChangesAsync(cancel);
    }

    internal async Task<KeptLedger> LoadAsync(AuxiliumDb db, Guid project, CancellationToken cancel)
    {
        var row = await db.Money.AsNoTracking().SingleOrDefaultAsync(m => m.ProjectId == project, cancel);
        var people = await (
            from person in db.People.AsNoTracking()
            where
                person.HourlyRate != null
                || person.OvertimeRate != null
                || person.CostPerUse != null
                || person.LaterRates != null
                || person.Kind == PersonKind.Volunteer
            select person
        ).ToListAsync(cancel);
        var value = await db.Organisation.Select(o => o.VolunteerHour).SingleOrDefaultAsync(cancel);
        var kept = row is null ? Kept.Nothing : await KeptAsync(db, project, row.Version, cancel);
        return new KeptLedger(
            new Ledger
            {
                Budget = row?.Budget,
                Actuals = row?.Actuals is { } actuals ? Enum.Parse<Actuals>(actuals) : null,
                Budgets = kept.Budgets,
                CouldTake = kept.CouldTake,
                Items = kept.Items,
                Rates = people
                    .Select(p => (p.Id, Rates: PersonRates.Of(p)))
                    .Where(p => !p.Rates.IsEmpty)
                    .ToImmutableDictionary(p => p.Id, p => p.Rates),
                Volunteers = [.. people.Where(p => p.Kind == PersonKind.Volunteer).Select(p => p.Id)],
                VolunteerHour = value,
            },
            row?.Version ?? 0
        );
    }

    /// <summary>Budgets of rows and items, as they are at a version.</summary>
    private async Task<Kept> KeptAsync(AuxiliumDb db, Guid project, int version, CancellationToken cancel)
    {
        if (_known.Get<Kept>(project) is { } known && known.Version == version)
            return known;
        var rows = await db.RowBudgets.AsNoTracking().Where(b => b.ProjectId == project).ToListAsync(cancel);
        var items = await db
            .CostItems.AsNoTracking()
            .Where(i => i.ProjectId == project)
            .OrderBy(i => i.TaskId)
            .ThenBy(i => i.Position)
            .ToListAsync(cancel);
        var read = new Kept(
            version,
            rows.Where(row => row.Budget is not null).ToImmutableDictionary(row => row.TaskId, row => row.Budget!.Value),
            rows.Where(row => row.CouldTake is not null)
                .ToImmutableDictionary(
                    row => row.TaskId,
                    row => new CouldTake(MoneyJson.ReadLength(row.CouldTake!), row.CouldTakeCost ?? 0)
                ),
            items
                .GroupBy(i => i.TaskId)
                .ToImmutableDictionary(g => g.Key, g => g.Select(i => MoneyJson.ReadItem(i.Item)).ToImmutableArray())
        );
        // Changed while it was read, it is neither.
        if (await db.Money.AsNoTracking().AnyAsync(m => m.ProjectId == project && m.Version == version, cancel))
            Remember(project, read);
        return read;
    }

    private void Remember(Guid project, Kept kept) =>
        _known.Set(project, kept, new MemoryCacheEntryOptions { Size = 1 + kept.Budgets.Count + kept.Items.Sum(row => row.Value.Length) });

    private sealed record Kept(
        int Version,
        ImmutableDictionary<string, decimal> Budgets,
        ImmutableDictionary<string, CouldTake> CouldTake,
        ImmutableDictionary<string, ImmutableArray<CostItem>> Items
    )
    {
        public static Kept Nothing { get; } = new(0, Ledger.None.Budgets, Ledger.None.CouldTake, Ledger.None.Items);
    }

    /// <summary>Writes the rows that differ.</summary>
    private static async Task WriteAsync(AuxiliumDb db, Guid project, Ledger before, Ledger after, CancellationToken cancel)
    {
        foreach (var task in before.Items.Keys.Union(after.Items.Keys).Where(task => before.ItemsOf(task) != after.ItemsOf(task)))
        {
            var (was, now) = (before.ItemsOf(task), after.ItemsOf(task));
            var gone = was.Select(i => i.Id).Except(now.Select(i => i.Id)).ToList();
            if (gone.Count > 0)
                await db.CostItems.Where(i => i.ProjectId == project && gone.Contains(i.Id)).ExecuteDeleteAsync(cancel);
            for (var at = 0; at < now.Length; at++)
            {
                if (at < was.Length && was[at] == now[at])
                    continue;
                var json = MoneyJson.Write(now[at]);
                await db.Database.ExecuteSqlAsync(
                    $"""
                    insert into cost_items (project_id, id, task_id, position, item) values ({project}, {now[at].Id}, {task}, {at},
                    {json}::jsonb) on conflict (project_id, id) do update set task_id = excluded.task_id, position = excluded.position,
                    item = excluded.item
                    """,
                    cancel
                );
            }
        }
        foreach (var task in KnownRows(before).Union(KnownRows(after)))
        {
            var ((budgetBefore, couldBefore), (budget, could)) = (RowOf(before, task), RowOf(after, task));
            if (budgetBefore == budget && couldBefore == could)
                continue;
            if (budget is null && could is null)
            {
                await db.RowBudgets.Where(b => b.ProjectId == project && b.TaskId == task).ExecuteDeleteAsync(cancel);
                continue;
            }
            var length = could is { } known ? known.Length.ToString() : null;
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into row_budgets (project_id, task_id, budget, could_take, could_take_cost)
                values ({project}, {task}, {budget}, {length}, {could?.Cost})
                on conflict (project_id, task_id) do update set budget = excluded.budget, could_take = excluded.could_take,
                could_take_cost = excluded.could_take_cost
                """,
                cancel
            );
        }

        static IEnumerable<string> KnownRows(Ledger ledger) => ledger.Budgets.Keys.Union(ledger.CouldTake.Keys);

        static (decimal?, CouldTake?) RowOf(Ledger ledger, string task) =>
            (
                ledger.Budgets.TryGetValue(task, out var budget) ? budget : null,
                ledger.CouldTake.TryGetValue(task, out var could) ? could : null
            );
    }

    /// <summary>What somebody else did to the same since; <c>null</c> where nobody did.</summary>
    private static async Task<string?> ConflictAsync(
        AuxiliumDb db,
        Guid project,
        int seen,
        string me,
        string[] touches,
        CancellationToken cancel
    )
    {
        var others = await (
            from entry in db.MoneyEntries
            join who in db.People on entry.PersonId equals who.Id
            where entry.ProjectId == project && entry.Version > seen && entry.PersonId != me
            where entry.Touches.Any(touch => touches.Contains(touch))
            orderby entry.Id descending
            select new { who.Name, entry.Sentence }
        ).FirstOrDefaultAsync(cancel);
        return others is null
            ? null
            : $"{others.Name} changed this meanwhile: {others.Sentence} Reload to see it, and change it again if you still want to.";
    }

    /// <summary>What undo or redo would take back: the newest entry of somebody's own that stands.</summary>
    private static async Task<MoneyEntryRow?> TargetAsync(AuxiliumDb db, Guid project, string person, bool redo, CancellationToken cancel)
    {
        var own = db.MoneyEntries.Where(e => e.ProjectId == project && e.PersonId == person);
        var standing = own.Where(e => !db.MoneyEntries.Any(later => later.TakesBack == e.Id));
        // What took something back is done again; what did it again counts as any other change.
        var newest = await standing.AsNoTracking().OrderByDescending(e => e.Id).Take(500).ToListAsync(cancel);
        if (newest.Count == 0)
            return null;
        var all = await own.AsNoTracking().ToDictionaryAsync(e => e.Id, cancel);
        bool IsUndo(MoneyEntryRow entry) => entry.TakesBack is { } id && all.TryGetValue(id, out var target) && !IsUndo(target);
        if (redo)
            return IsUndo(newest[0]) ? newest[0] : null;
        return newest.FirstOrDefault(entry => !IsUndo(entry));
    }
}
