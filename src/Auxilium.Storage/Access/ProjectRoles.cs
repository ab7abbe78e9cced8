using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>What somebody may do in a project.</summary>
/// <param name="Person">Who.</param>
/// <param name="Role">What they may do.</param>
/// <param name="IsGiven">Whether that was set, and does not follow from the plan.</param>
/// <param name="IsOnPlan">Whether they are on the plan, and so a member unless something else was set.</param>
public sealed record RoleInProject(PersonRow Person, ProjectRole Role, bool IsGiven, bool IsOnPlan);

/// <summary>
/// What people may do in projects. Who coordinates a project may do everything in it; who is on its plan is a member; somebody may
/// be given another role. For everybody else the project does not exist.
/// </summary>
public sealed class ProjectRoles(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>Somebody's role in a project that is there; <see cref="ProjectRole.None"/> also where it is not.</summary>
    public async Task<ProjectRole> OfAsync(Guid project, string person, bool isOrganiser, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await OfAsync(db, project, person, isOrganiser, cancel);
    }

    /// <summary>Somebody's role as it is now, for what is done while they are not there.</summary>
    public async Task<ProjectRole> NowAsync(Guid project, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return (await OfAsync(db, project, [person], cancel)).GetValueOrDefault(person);
    }

    internal static async Task<ProjectRole> OfAsync(AuxiliumDb db, Guid project, string person, bool isOrganiser, CancellationToken cancel)
    {
        if (isOrganiser)
            return await db
                .Projects.Where(p => p.Id == project)
                .Select(p => p.ArchivedAt == null ? ProjectRole.Coordinator : ProjectRole.Viewer)
                .SingleOrDefaultAsync(cancel);
        return await Of(db, person).Where(r => r.Project == project).Select(r => r.Role).SingleOrDefaultAsync(cancel);
    }

    /// <summary>The roles of several people in a project, without those for whom it does not exist.</summary>
    internal static async Task<Dictionary<string, ProjectRole>> OfAsync(
        AuxiliumDb db,
        Guid project,
        IReadOnlyCollection<string> people,
        CancellationToken cancel
    )
    {
        var roles = await (
            from account in db.Users
            where people.Contains(account.Id)
            from owner in db.Projects.Where(p => p.Id == project)
            let given = db
                .ProjectRoles.Where(r => r.ProjectId == project && r.PersonId == account.Id)
                .Select(r => (ProjectRole?)r.Role)
                .SingleOrDefault()
            let isMember = db.LiveMembers.Any(m => m.ProjectId == project && m.PersonId == account.Id)
            let role = account.IsOrganiser || owner.Coordinator == account.Id
                ? ProjectRole.Coordinator
                : given ?? (isMember ? ProjectRole.Member : ProjectRole.None)
            select new { account.Id, Role = owner.ArchivedAt != null && role != ProjectRole.None ? ProjectRole.Viewer : role }
        ).ToListAsync(cancel);
        return roles.Where(r => r.Role != ProjectRole.None).ToDictionary(r => r.Id, r => r.Role);
    }

    /// <summary>The projects that exist for somebody and go on, with their role: archived ones are not among them.</summary>
    public async Task<IReadOnlyDictionary<Guid, ProjectRole>> AllOfAsync(
        string person,
        bool isOrganiser,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await AllOfAsync(db, person, isOrganiser, cancel);
    }

    internal static async Task<IReadOnlyDictionary<Guid, ProjectRole>> AllOfAsync(
        AuxiliumDb db,
        string person,
        bool isOrganiser,
        CancellationToken cancel
    )
    {
        if (isOrganiser)
            return await db.Projects.Where(p => p.ArchivedAt == null).ToDictionaryAsync(p => p.Id, _ => ProjectRole.Coordinator, cancel);
        return await Of(db, person)
            .Where(r => r.Role != ProjectRole.None && !r.IsArchived)
            .ToDictionaryAsync(r => r.Project, r => r.Role, cancel);
    }

    /// <summary>Everybody who has a role in a project, by name.</summary>
    public async Task<IReadOnlyList<RoleInProject>> InAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await InAsync(db, project, cancel);
    }

    internal static async Task<IReadOnlyList<RoleInProject>> InAsync(AuxiliumDb db, Guid project, CancellationToken cancel)
    {
        var coordinator = await db.Projects.Where(p => p.Id == project).Select(p => p.Coordinator).SingleOrDefaultAsync(cancel);
        var given = await db.ProjectRoles.Where(r => r.ProjectId == project).ToDictionaryAsync(r => r.PersonId, r => r.Role, cancel);
        var members = await db.LiveMembers.Where(m => m.ProjectId == project).Select(m => m.PersonId).ToListAsync(cancel);
        var ids = given.Keys.Concat(members).Append(coordinator ?? "").ToHashSet();
        var people = await db.People.AsNoTracking().Where(p => ids.Contains(p.Id)).OrderBy(p => p.Name).ToListAsync(cancel);
        return
        [
            .. people.Select(p =>
                given.TryGetValue(p.Id, out var role) && p.Id != coordinator
                    ? new RoleInProject(p, role, true, members.Contains(p.Id))
                    : new RoleInProject(p, p.Id == coordinator ? ProjectRole.Coordinator : ProjectRole.Member, false, true)
            ),
        ];
    }

    /// <summary>Gives somebody a role; <c>null</c> for what follows from their part in the project.</summary>
    public async Task GiveAsync(Guid project, string person, ProjectRole? role, string? by = null, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (role is not { } given)
            await db.ProjectRoles.Where(r => r.ProjectId == project && r.PersonId == person).ExecuteDeleteAsync(cancel);
        else
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into project_roles (project_id, person_id, role) values ({project}, {person}, {given.ToString()}) on
                conflict (project_id, person_id) do update set role = excluded.role
                """,
                cancel
            );
        Audit.Note(
            db,
            clock,
            by,
            person,
            project,
            await Audit.NameAsync(db, person, cancel)
                + role switch
                {
                    null => " has the role that the plan gives.",
                    ProjectRole.None => " is shut out.",
                    ProjectRole.Viewer => " is a viewer.",
                    ProjectRole.Member => " is a member.",
                    _ => " is a coordinator.",
                }
        );
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Rights} {person}", cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>
    /// Whether somebody may have the money of a project (rule M7): organisers, who coordinates it, and whom these let. This is the one
    /// place that decides it.
    /// </summary>
    public async Task<bool> MaySeeMoneyAsync(Guid project, string person, bool isOrganiser, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return (await WithMoneyAsync(db, [project], person, isOrganiser, cancel)).Contains(project);
    }

    /// <summary>Of some projects, those whose money somebody may have.</summary>
    public async Task<IReadOnlySet<Guid>> WithMoneyAsync(
        IReadOnlyCollection<Guid> projects,
        string person,
        bool isOrganiser,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await WithMoneyAsync(db, projects, person, isOrganiser, cancel);
    }

    private static async Task<HashSet<Guid>> WithMoneyAsync(
        AuxiliumDb db,
        IReadOnlyCollection<Guid> projects,
        string person,
        bool isOrganiser,
        CancellationToken cancel
    )
    {
        if (isOrganiser)
            return [.. projects];
        // Whoever was let see it, and has been shut out of the project since, sees nothing of it.
        var there = Of(db, person).Where(r => r.Role != ProjectRole.None).Select(r => r.Project);
        return
        [
            .. await (
                from project in db.Projects
                where projects.Contains(project.Id) && there.Contains(project.Id)
                where
                    project.Coordinator == person
                    || db.ProjectRoles.Any(r => r.ProjectId == project.Id && r.PersonId == person && r.Role == ProjectRole.Coordinator)
                    || db.MoneyAccess.Any(a => a.ProjectId == project.Id && a.PersonId == person)
                select project.Id
            ).ToListAsync(cancel),
        ];
    }

    /// <summary>Ids of those whom a coordinator lets see the money of a project.</summary>
    public async Task<IReadOnlySet<string>> LetSeeMoneyAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.MoneyAccess.Where(a => a.ProjectId == project).Select(a => a.PersonId).ToHashSetAsync(cancel);
    }

    /// <summary>Lets somebody see the money of a project, or no longer.</summary>
    public async Task LetSeeMoneyAsync(Guid project, string person, bool may, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.MoneyAccess.AnyAsync(a => a.ProjectId == project && a.PersonId == person, cancel) == may)
            return;
        if (may)
            db.MoneyAccess.Add(new MoneyAccessRow { ProjectId = project, PersonId = person });
        else
            await db.MoneyAccess.Where(a => a.ProjectId == project && a.PersonId == person).ExecuteDeleteAsync(cancel);
        var name = await Audit.NameAsync(db, person, cancel);
        Audit.Note(db, clock, by, person, project, may ? $"{name} may see the money." : $"{name} may no longer see the money.");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Who may decide in a project: its coordinators.</summary>
    internal static async Task<IReadOnlyList<string>> CoordinatorsAsync(AuxiliumDb db, Guid project, CancellationToken cancel)
    {
        var given = await db
            .ProjectRoles.Where(r => r.ProjectId == project && r.Role == ProjectRole.Coordinator)
            .Select(r => r.PersonId)
            .ToListAsync(cancel);
        var named = await db.Projects.Where(p => p.Id == project && p.Coordinator != null).Select(p => p.Coordinator!).ToListAsync(cancel);
        return [.. given.Concat(named).Distinct()];
    }

    private static IQueryable<RoleIn> Of(AuxiliumDb db, string person) =>
        from project in db.Projects
        let given = db
            .ProjectRoles.Where(r => r.ProjectId == project.Id && r.PersonId == person)
            .Select(r => (ProjectRole?)r.Role)
            .SingleOrDefault()
        let isMember = db.LiveMembers.Any(m => m.ProjectId == project.Id && m.PersonId == person)
        let role = project.Coordinator == person ? ProjectRole.Coordinator : given ?? (isMember ? ProjectRole.Member : ProjectRole.None)
        // Archived projects can only be looked at.
        select new RoleIn
        {
            Project = project.Id,
            IsArchived = project.ArchivedAt != null,
            Role = project.ArchivedAt != null && role != ProjectRole.None ? ProjectRole.Viewer : role,
        };

    private sealed class RoleIn
    {
        public Guid Project { get; init; }

        public bool IsArchived { get; init; }

        public ProjectRole Role { get; init; }
    }
}
