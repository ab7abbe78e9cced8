using System.Text.Json;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.People;

/// <summary>Everybody of the organisation.</summary>
public sealed class Directory(IDbContextFactory<AuxiliumDb> databases, PlanMemory memory, PlanNews news, TimeProvider clock)
{
    public async Task<IReadOnlyList<PersonRow>> AllAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.People.AsNoTracking().OrderBy(p => p.LeftOn != null).ThenBy(p => p.Name).ToListAsync(cancel);
    }

    public async Task<PersonRow?> FindAsync(string id, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.People.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, cancel);
    }

    /// <summary>The team of each who is in one, by their id.</summary>
    public async Task<IReadOnlyDictionary<string, string>> TeamsAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.People.Where(p => p.Team != "").ToDictionaryAsync(p => p.Id, p => p.Team, cancel);
    }

    /// <summary>Who may sign in, by id.</summary>
    public async Task<IReadOnlyDictionary<string, Account>> AccountsAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Users.AsNoTracking().ToDictionaryAsync(a => a.Id, cancel);
    }

    /// <summary>Somebody else who has this mail address; <c>null</c> when nobody has.</summary>
    public async Task<PersonRow?> WithMailAsync(string mail, string but, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
            .People.FromSql($"select * from people where upper(email) = upper({mail})")
            .AsNoTracking()
            .FirstOrDefaultAsync(p => p.Id != but, cancel);
    }

    /// <summary>An id for a new person of this name.</summary>
    public async Task<string> NewIdAsync(string name, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return PlanIds.FreeId(name, (await db.People.Select(p => p.Id).ToListAsync(cancel)).ToHashSet());
    }

    /// <summary>Adds people, or writes what is known of them anew.</summary>
    /// <param name="people">Who.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <param name="ofTimeBy">Who changed the weeks they work, where that is to be brought into their plans.</param>
    public async Task SaveAsync(IReadOnlyCollection<PersonRow> people, string? ofTimeBy = null, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var ids = people.Select(p => p.Id).ToList();
        var known = await db.People.Where(p => ids.Contains(p.Id)).Select(p => p.Id).ToListAsync(cancel);
        // Somebody of whom more is said than a name in a plan stays.
        foreach (var person in people)
            person.MadeBy = null;
        foreach (var person in people)
            db.Entry(person).State = known.Contains(person.Id) ? EntityState.Modified : EntityState.Added;
        foreach (var account in await db.Users.Where(a => ids.Contains(a.Id)).ToListAsync(cancel))
            if (people.Single(p => p.Id == account.Id).Email is { } mail && !string.Equals(mail, account.Email, StringComparison.Ordinal))
                (account.Email, account.NormalizedEmail) = (mail, mail.ToUpperInvariant());
        await db.SaveChangesAsync(cancel);
        if (ofTimeBy is not null)
            foreach (var person in people)
                await OwnTimes.NoteChangeAsync(db, person.Id, ofTimeBy, clock, cancel);
        await transaction.CommitAsync(cancel);
        // Plans have the names of their people in them.
        memory.Forget();
        await news.PeopleAsync(cancel);
    }

    /// <summary>Ids of the projects that somebody is on the plan of.</summary>
    public async Task<IReadOnlyList<Guid>> ProjectsOfAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.LiveMembers.Where(m => m.PersonId == person).Select(m => m.ProjectId).ToListAsync(cancel);
    }

    /// <summary>Says what somebody may do in the organisation.</summary>
    /// <returns><c>false</c> when nobody would be an organiser any more.</returns>
    public async Task<bool> SetStandingAsync(
        string person,
        bool isOrganiser,
        bool mayMakeProjects,
        string by,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (!isOrganiser && !await IsAnotherOrganiserAsync(db, person, cancel))
            return false;
        await db
            .Users.Where(a => a.Id == person)
            .ExecuteUpdateAsync(
                a => a.SetProperty(x => x.IsOrganiser, isOrganiser).SetProperty(x => x.MayMakeProjects, mayMakeProjects),
                cancel
            );
        Audit.Note(
            db,
            clock,
            by,
            person,
            null,
            $"{await Audit.NameAsync(db, person, cancel)} is "
                + (
                    isOrganiser ? "an organiser."
                    : mayMakeProjects ? "not an organiser, but may make projects."
                    : "not an organiser and may not make projects."
                )
        );
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Rights} {person}", cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Whether somebody else is an organiser; of two who ask at once, the second waits for what the first does.</summary>
    private static async Task<bool> IsAnotherOrganiserAsync(AuxiliumDb db, string but, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync($"select 1 from organisation for update", cancel);
        return await db.Users.AnyAsync(a => a.IsOrganiser && a.Id != but, cancel);
    }

    /// <summary>Lets somebody go: they can no longer sign in, by no browser, program, invitation or calendar.</summary>
    /// <returns><c>false</c> when nobody would be an organiser any more.</returns>
    public async Task<bool> LeaveAsync(string person, DateOnly on, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.Users.AnyAsync(a => a.Id == person && a.IsOrganiser, cancel) && !await IsAnotherOrganiserAsync(db, person, cancel))
            return false;
        await db.People.Where(p => p.Id == person).ExecuteUpdateAsync(p => p.SetProperty(x => x.LeftOn, on), cancel);
        await RemoveAccountAsync(db, person, cancel);
        Audit.Note(db, clock, by, person, null, $"{await Audit.NameAsync(db, person, cancel)} left.");
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Rights} {person}", cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    public async Task ReturnAsync(string person, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.People.Where(p => p.Id == person).ExecuteUpdateAsync(p => p.SetProperty(x => x.LeftOn, (DateOnly?)null), cancel);
        Audit.Note(db, clock, by, person, null, $"{await Audit.NameAsync(db, person, cancel)} came back.");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Makes two entries of one person one: what the first did is the other's. Plans have been edited before.</summary>
    /// <returns><c>false</c> when nobody would be an organiser any more; <c>null</c> when the first got something to do meanwhile, which
    /// is to be handed over before.</returns>
    public async Task<bool?> MergeAsync(string from, string into, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.Users.AnyAsync(a => a.Id == from && a.IsOrganiser, cancel) && !await IsAnotherOrganiserAsync(db, from, cancel))
            return false;
        // While their plans are held, nobody gives anything to the one who goes.
        var theirs = await db
            .Database.SqlQuery<Guid>(
                $"""
                select id as "Value" from projects where id in (select p.project_id from members m
                join plans p on p.id = m.plan_id where m.person_id = {from}) or coordinator = {from} order by id for update
                """
            )
            .ToListAsync(cancel);
        var named = JsonSerializer.Serialize(new[] { new { Person = from } });
        if (
            await db
                .Database.SqlQuery<int>(
                    $"""
                    select count(*)::int as "Value" from tasks where plan_id in (select id from plans where project_id =
                    any({theirs})) and assignments::jsonb @> {named}::jsonb
                    """
                )
                .SingleAsync(cancel) > 0
        )
            return null;
        Audit.Note(db, clock, by, into, null, $"The entry {from} of {await Audit.NameAsync(db, from, cancel)} was merged into {into}.");
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Rights} {from}", cancel);
        await db.Journal.Where(j => j.PersonId == from).ExecuteUpdateAsync(j => j.SetProperty(x => x.PersonId, into), cancel);
        await db.Comments.Where(c => c.PersonId == from).ExecuteUpdateAsync(c => c.SetProperty(x => x.PersonId, into), cancel);
        await db.Files.Where(f => f.PersonId == from).ExecuteUpdateAsync(f => f.SetProperty(x => x.PersonId, into), cancel);
        await db.TimeOff.Where(t => t.PersonId == from).ExecuteUpdateAsync(t => t.SetProperty(x => x.PersonId, into), cancel);
        await db.Proposals.Where(p => p.PersonId == from).ExecuteUpdateAsync(p => p.SetProperty(x => x.PersonId, into), cancel);
        await db.People.Where(p => p.ReportsTo == from).ExecuteUpdateAsync(p => p.SetProperty(x => x.ReportsTo, into), cancel);
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into hours (project_id, task_id, person_id, day, minutes, task_name, entered_by, entered_at)
            select project_id, task_id, {into}, day, minutes, task_name, entered_by, entered_at from hours where person_id = {from}
            on conflict (project_id, task_id, person_id, day) do update set minutes = hours.minutes + excluded.minutes
            """,
            cancel
        );
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into members select plan_id, {into}, position, calendar from members where person_id = {from} on conflict
            (plan_id, person_id) do nothing
            """,
            cancel
        );
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into project_roles select project_id, {into}, role from project_roles where person_id = {from} on conflict
            (project_id, person_id) do nothing
            """,
            cancel
        );
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into money_access select project_id, {into} from money_access where person_id = {from} on conflict
            (project_id, person_id) do nothing
            """,
            cancel
        );
        await db.MoneyAccess.Where(a => a.PersonId == from).ExecuteDeleteAsync(cancel);
        await db.MoneyEntries.Where(e => e.PersonId == from).ExecuteUpdateAsync(e => e.SetProperty(x => x.PersonId, into), cancel);
        await db.Hours.Where(h => h.PersonId == from).ExecuteDeleteAsync(cancel);
        await db.Hours.Where(h => h.EnteredBy == from).ExecuteUpdateAsync(h => h.SetProperty(x => x.EnteredBy, into), cancel);
        await db.Timers.Where(t => t.PersonId == from).ExecuteDeleteAsync(cancel);
        await db.Members.Where(m => m.PersonId == from).ExecuteDeleteAsync(cancel);
        await db.ProjectRoles.Where(r => r.PersonId == from).ExecuteDeleteAsync(cancel);
        await db.Projects.Where(p => p.Coordinator == from).ExecuteUpdateAsync(p => p.SetProperty(x => x.Coordinator, into), cancel);
        await db.Notices.Where(n => n.PersonId == from).ExecuteDeleteAsync(cancel);
        await db.Views.Where(l => l.PersonId == from).ExecuteDeleteAsync(cancel);
        await db.Presence.Where(p => p.PersonId == from).ExecuteDeleteAsync(cancel);
        await RemoveAccountAsync(db, from, cancel);
        await db.People.Where(p => p.Id == from).ExecuteDeleteAsync(cancel);
        await transaction.CommitAsync(cancel);
        memory.Forget();
        await news.PeopleAsync(cancel);
        return true;
    }

    private static async Task RemoveAccountAsync(AuxiliumDb db, string person, CancellationToken cancel)
    {
        await db.Sessions.Where(s => s.PersonId == person).ExecuteDeleteAsync(cancel);
        await db.Tokens.Where(t => t.PersonId == person).ExecuteDeleteAsync(cancel);
        await db.Feeds.Where(f => f.PersonId == person).ExecuteDeleteAsync(cancel);
        await db.Invitations.Where(i => i.PersonId == person).ExecuteDeleteAsync(cancel);
        await db.Users.Where(u => u.Id == person).ExecuteDeleteAsync(cancel);
    }
}
