using System.Collections.Immutable;
using Auxilium.Planning.Money;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Money;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;

namespace Auxilium.Storage.Plans;

/// <summary>Loads plans and makes new ones. What it has read it remembers by version; the database stays the truth.</summary>
public sealed class PlanStore(IDbContextFactory<AuxiliumDb> databases, PlanMemory memory, TimeProvider clock)
{
    /// <summary>The newest version of the plan that a project goes by, or <c>null</c> when there is no such project.</summary>
    public async Task<StoredPlan?> LoadAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await Versions(db, Live(db, db.Projects.Where(p => p.Id == project))).SingleOrDefaultAsync(cancel) is { } version
            ? await FindAsync(db, version, cancel)
            : null;
    }

    /// <summary>The newest version of a plan, or <c>null</c> when there is none any more.</summary>
    public async Task<StoredPlan?> LoadPlanAsync(Guid plan, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await Versions(db, db.Plans.Where(p => p.Id == plan)).SingleOrDefaultAsync(cancel) is { } version
            ? await FindAsync(db, version, cancel)
            : null;
    }

    /// <summary>Id of the plan that a project goes by, or <c>null</c> when there is no such project.</summary>
    public async Task<Guid?> LivePlanAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await Live(db, db.Projects.Where(p => p.Id == project)).Select(p => (Guid?)p.Id).SingleOrDefaultAsync(cancel);
    }

    /// <summary>Every project, or of these those that there are, the newest first.</summary>
    /// <param name="only">Of these projects.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <param name="withUnsound">Also those whose dates cannot be worked out: one of them keeps nobody from the others.</param>
    public async Task<IReadOnlyList<StoredPlan>> LoadAllAsync(
        IReadOnlyCollection<Guid>? only = null,
        bool withUnsound = false,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var projects = db.Projects.Where(p => only == null || only.Contains(p.Id)).OrderByDescending(p => p.CreatedAt).ThenBy(p => p.Id);
        var versions = await Versions(db, Live(db, projects)).ToListAsync(cancel);
        var plans = new List<StoredPlan>(versions.Count);
        foreach (var version in versions)
        {
            // It may have been deleted since it was asked for.
            if (await FindAsync(db, version, cancel) is { } plan && (withUnsound || plan.WhyUnsound is null))
                plans.Add(plan);
        }
        return plans;
    }

    private static IQueryable<PlanRow> Live(AuxiliumDb db, IQueryable<ProjectRow> projects) =>
        projects.SelectMany(project => db.Plans.Where(plan => plan.ProjectId == project.Id && plan.Kind == PlanKind.Live));

    private static IQueryable<PlanVersion> Versions(AuxiliumDb db, IQueryable<PlanRow> plans) =>
        plans.Select(plan => new PlanVersion(
            plan.Id,
            plan.Version,
            db.Journal.Where(j => j.PlanId == plan.Id && j.Version == plan.Version).Select(j => (Guid?)j.EditId).SingleOrDefault()
        ));

    /// <summary>What projects are called, by id.</summary>
    public async Task<IReadOnlyDictionary<Guid, string>> NamesAsync(IReadOnlyCollection<Guid> projects, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Projects.Where(p => projects.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
    }

    /// <summary>Everybody in the organisation, by name.</summary>
    public async Task<IReadOnlyList<Person>> DirectoryAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await DirectoryAsync(db.People.Where(p => p.LeftOn == null), cancel);
    }

    internal static async Task<IReadOnlyList<Person>> DirectoryAsync(IQueryable<PersonRow> people, CancellationToken cancel) =>
        (
            await people
                .OrderBy(p => p.Name)
                .Select(p => new { Of = new Person(p.Id, p.Name, p.Initials, p.Email, null), p.Availability })
                .ToListAsync(cancel)
        ).ConvertAll(p => p.Of with { Available = PersonTimes.Read(p.Availability) });

    /// <summary>Makes a project of a plan.</summary>
    /// <param name="plan">Sound; its people join the directory where they are new.</param>
    /// <param name="coordinator">Who coordinates it if the plan does not say.</param>
    /// <param name="mayNameAddresses">Whether its author may give people who are new here a mail address, as on the page of a
    /// person.</param>
    /// <exception cref="PersonProblemException">One of the plan's people cannot be taken into the directory as they are.</exception>
    /// <param name="hours">Hours that people worked on its tasks.</param>
    /// <exception cref="HoursProblemException">With these hours, somebody would have worked more than a day has.</exception>
    public async Task<StoredPlan> CreateAsync(
        Plan plan,
        Person coordinator,
        bool mayNameAddresses,
        ImmutableArray<WorkedHours> hours = default,
        Ledger? ledger = null,
        CancellationToken cancel = default
    )
    {
        var era = memory.Era;
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var stored = await CreateAsync(db, plan, coordinator, mayNameAddresses, hours, ledger, cancel);
        await transaction.CommitAsync(cancel);
        memory.Keep(stored, stored.Schedule.Plan, era);
        return stored;
    }

    /// <summary>The same as a part of a transaction, which is committed with all the rest of it.</summary>
    /// <inheritdoc cref="CreateAsync(Plan, Person, bool, ImmutableArray{WorkedHours}, Ledger?, CancellationToken)"/>
    public async Task<StoredPlan> CreateAsync(
        AuxiliumDb db,
        Plan plan,
        Person coordinator,
        bool mayNameAddresses,
        ImmutableArray<WorkedHours> hours = default,
        Ledger? ledger = null,
        CancellationToken cancel = default
    )
    {
        if (plan.Project.Coordinator is null)
        {
            if (plan.FindPerson(coordinator.Id) is null)
                plan = plan with { People = plan.People.Add(coordinator) };
            plan = plan with { Project = plan.Project with { Coordinator = coordinator.Id } };
        }
        plan = await WithDirectoryAsync(db, plan, mayNameAddresses, cancel);
        if (await db.Organisation.Select(o => o.Fields).SingleOrDefaultAsync(cancel) is { } fields && fields != "[]")
            plan = plan with { Project = plan.Project with { Fields = SharedFields.In(plan, PlanRows.ReadFields(fields)) } };
        var (project, id) = (Guid.CreateVersion7(clock.GetUtcNow()), Guid.CreateVersion7(clock.GetUtcNow()));
        var now = clock.GetUtcNow().UtcDateTime;
        var (owner, row) = PlanRows.ToRows(project, id, DateTime.SpecifyKind(now, DateTimeKind.Unspecified), plan);
        db.Projects.Add(owner);
        db.Plans.Add(row);
        await db.SaveChangesAsync(cancel);
        var ranks = new PlanRanks(
            Ranks.Assign([.. plan.Tasks.Select(t => t.Id)], new Dictionary<string, long>(), new HashSet<string>()),
            Ranks.Assign(
                [.. plan.Links.Select(l => (l.From, l.To))],
                new Dictionary<(string, string), long>(),
                new HashSet<(string, string)>()
            )
        );
        db.Tasks.AddRange(plan.Tasks.Select(t => PlanRows.ToRow(id, t, ranks.Tasks[t.Id])));
        db.Links.AddRange(plan.Links.Select(l => PlanRows.ToRow(id, l, ranks.Links[(l.From, l.To)])));
        db.Baselines.AddRange(plan.Baselines.Select((baseline, position) => BaselineRows.ToRow(id, baseline, position)));
        await new PlanWriter(db, id).AddPeopleAsync(plan.People.Select((person, position) => (person, position)), cancel);
        await db.SaveChangesAsync(cancel);
        var stored = new StoredPlan(id, project, 1, null, () => Scheduler.Calculate(plan), ranks) { Name = plan.Project.Name };
        if (!hours.IsDefaultOrEmpty)
            await Hours.BringInAsync(db, stored, hours, coordinator.Id, now, cancel);
        if (ledger is not null)
            await Ledgers.BringInAsync(db, project, ledger, cancel);
        await Projections.WriteAsync(
            db,
            null,
            stored,
            Projection.Of(stored.Schedule, DateOnly.FromDateTime(clock.GetLocalNow().DateTime)),
            cancel
        );
        return stored;
    }

    internal async Task<StoredPlan> LoadAsync(AuxiliumDb db, PlanVersion version, CancellationToken cancel) =>
        await FindAsync(db, version, cancel)
        ?? throw new InvalidOperationException($"The plan {version.Plan} was deleted while it was read.");

    private async Task<StoredPlan?> FindAsync(AuxiliumDb db, PlanVersion version, CancellationToken cancel)
    {
        if (memory.Find(version) is { } known)
            return known;
        var (id, era) = (version.Plan, memory.Era);
        // One snapshot, so that rows of two versions are never mixed.
        await using var snapshot = db.Database.CurrentTransaction is null
            ? await db.Database.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel)
            : null;
        if (await db.Plans.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, cancel) is not { } row)
            return null;
        if (await db.Projects.AsNoTracking().SingleOrDefaultAsync(p => p.Id == row.ProjectId, cancel) is not { } project)
            return null;
        // It may have gone on since it was asked for.
        var edit =
            row.Version == version.Version
                ? version.Edit
                : await db
                    .Journal.Where(j => j.PlanId == id && j.Version == row.Version)
                    .Select(j => (Guid?)j.EditId)
                    .SingleOrDefaultAsync(cancel);
        var tasks = await db.Tasks.AsNoTracking().Where(t => t.PlanId == id).OrderBy(t => t.Rank).ToListAsync(cancel);
        var links = await db.Links.AsNoTracking().Where(l => l.PlanId == id).OrderBy(l => l.Rank).ToListAsync(cancel);
        var people = await (
            from member in db.Members
            join person in db.People on member.PersonId equals person.Id
            where member.PlanId == id
            orderby member.Position
            select new { Of = new Person(person.Id, person.Name, person.Initials, person.Email, member.Calendar), person.Availability }
        ).ToListAsync(cancel);
        var baselines = await db.Baselines.AsNoTracking().Where(b => b.PlanId == id).OrderBy(b => b.Position).ToListAsync(cancel);
        var plan = PlanRows.ToPlan(
            project,
            row,
            tasks,
            links,
            people.ConvertAll(p => p.Of with { Available = PersonTimes.Read(p.Availability) }),
            baselines
        );
        var ranks = new PlanRanks(tasks.ToDictionary(t => t.Id, t => t.Rank), links.ToDictionary(l => (l.From, l.To), l => l.Rank));
        var stored = new StoredPlan(id, project.Id, row.Version, edit, () => Scheduler.Calculate(plan), ranks)
        {
            Name = plan.Project.Name,
        };
        memory.Keep(stored, plan, era);
        return stored;
    }

    /// <summary>Ids of who is on the live plans of some projects.</summary>
    public async Task<HashSet<string>> MembersAsync(IReadOnlyCollection<Guid> projects, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return [.. await db.LiveMembers.Where(m => projects.Contains(m.ProjectId)).Select(m => m.PersonId).Distinct().ToListAsync(cancel)];
    }

    /// <summary>
    /// People who are in the directory have the initials and address that it says; the others can become somebody in it.
    /// </summary>
    private static async Task<Plan> WithDirectoryAsync(AuxiliumDb db, Plan plan, bool mayNameAddresses, CancellationToken cancel)
    {
        var ids = plan.People.Select(p => p.Id).ToList();
        var known = await db.People.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, cancel);
        var people = plan.People.ToBuilder();
        for (var i = 0; i < people.Count; i++)
        {
            var person = people[i];
            if (known.TryGetValue(person.Id, out var row))
            {
                if (!string.Equals(row.Name, person.Name, StringComparison.OrdinalIgnoreCase))
                    throw new PersonProblemException(
                        i,
                        "id",
                        $"The id “{row.Id}” is {row.Name}’s here: give this person another id, or {row.Name}’s name."
                    );
                people[i] = new Person(row.Id, row.Name, row.Initials, row.Email, person.Calendar)
                {
                    Available = PersonTimes.Read(row.Availability),
                };
            }
            else if (person.Email is { } mail)
            {
                if (!mayNameAddresses)
                    throw new PersonProblemException(
                        i,
                        "email",
                        $"{person.Name} is new here, and only an organiser gives people a mail address: leave it out."
                    );
                if (
                    await db
                        .People.FromSql($"select * from people where upper(email) = upper({mail})")
                        .Select(p => p.Name)
                        .FirstOrDefaultAsync(cancel) is
                    { } other
                )
                    throw new PersonProblemException(
                        i,
                        "email",
                        $"{other} has this address already: give {person.Name} another, or {other}’s id."
                    );
                if (people.Take(i).FirstOrDefault(p => mail.Equals(p.Email, StringComparison.OrdinalIgnoreCase)) is { } twin)
                    throw new PersonProblemException(i, "email", $"{twin.Name} has this address already: give {person.Name} another.");
            }
        }
        return plan with { People = people.ToImmutable() };
    }
}

/// <summary>A version of a plan.</summary>
/// <param name="Plan">Id of the plan.</param>
/// <param name="Edit">Id of the edit that made it; <c>null</c> for the first.</param>
internal sealed record PlanVersion(Guid Plan, int Version, Guid? Edit);

/// <summary>One of a plan's people cannot be taken into this organisation as they are.</summary>
/// <param name="position">Which of the plan's people.</param>
/// <param name="field">What of them: <c>id</c> or <c>email</c>.</param>
/// <param name="message">What is wrong and what would be right.</param>
public sealed class PersonProblemException(int position, string field, string message) : Exception(message)
{
    public int Position { get; } = position;

    public string Field { get; } = field;
}

/// <summary>Remembers plans by version, the least used forgotten first.</summary>
public sealed class PlanMemory : IDisposable
{
    /// <summary>Of all plans together, about.</summary>
    private const long MostBytes = 600_000_000;

    private readonly MemoryCache _plans = new(new MemoryCacheOptions { SizeLimit = MostBytes });

    public void Dispose() => _plans.Dispose();

    private int _era;

    /// <summary>Goes up whenever everything is forgotten: what was read before that may be of before.</summary>
    internal int Era => Volatile.Read(ref _era);

    /// <summary>Forgets every plan: something that is part of many of them has changed.</summary>
    public void Forget()
    {
        Interlocked.Increment(ref _era);
        _plans.Clear();
    }

    internal StoredPlan? Find(PlanVersion version) =>
        _plans.Get<StoredPlan>(version.Plan) is { } plan && plan.Version == version.Version && plan.Edit == version.Edit ? plan : null;

    /// <param name="stored">The plan.</param>
    /// <param name="plan">The same without its dates.</param>
    /// <param name="era">What <see cref="Era"/> was before the plan was read: what has been forgotten since does not come back.</param>
    internal void Keep(StoredPlan stored, Plan plan, int era)
    {
        if (era != Era)
            return;
        _plans.Set(stored.Id, stored, new MemoryCacheEntryOptions { Size = PlanCost.BytesOf(plan) });
    }
}
