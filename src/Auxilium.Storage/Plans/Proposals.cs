using System.Text.Json;
using Auxilium.Exchange.Edits;
using Auxilium.Planning.Editing;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <param name="By">Name of its author.</param>
/// <param name="BaseVersion">The version of the plan that its author saw.</param>
/// <param name="Edit">As JSON.</param>
/// <param name="Sentence">What it would have done to that.</param>
public sealed record Proposal(
    Guid Id,
    string PersonId,
    string By,
    DateTime At,
    int BaseVersion,
    string Edit,
    string? Task,
    string Sentence,
    string Note
)
{
    /// <summary>The edit that it is.</summary>
    public PlanEdit ReadEdit(DateOnly today) => new EditJson(today).Read(Edit);
}

/// <summary>Changes that members propose and coordinators decide.</summary>
public sealed class Proposals(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>The most that may be open in a project.</summary>
    public const int Most = 200;

    public const int LongestNote = 1_000;

    /// <param name="project">Id of the project.</param>
    /// <param name="id">Made by the client; the same id is never kept twice.</param>
    /// <param name="person">Its author.</param>
    /// <param name="baseVersion">The version of the plan that its author saw.</param>
    /// <param name="edited">What it would do.</param>
    /// <param name="sentence">That in words.</param>
    /// <param name="note">Why, in its author's words.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>Whether there was room for it.</returns>
    public async Task<bool> MakeAsync(
        Guid project,
        Guid id,
        string person,
        int baseVersion,
        EditedPlan edited,
        string sentence,
        string note,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.Proposals.AnyAsync(p => p.Id == id, cancel))
            return true;
        if (await db.Proposals.CountAsync(p => p.ProjectId == project && p.State == ProposalState.Open, cancel) >= Most)
            return false;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var edit = edited.Applied.Edit;
        db.Proposals.Add(
            new ProposalRow
            {
                Id = id,
                ProjectId = project,
                PersonId = person,
                At = clock.GetUtcNow().UtcDateTime,
                BaseVersion = baseVersion,
                Edit = EditJson.Write(edit),
                TaskId = edit.Traits.Task,
                Sentence = sentence,
                Note = note,
            }
        );
        var name = await db.People.Where(p => p.Id == person).Select(p => p.Name).SingleAsync(cancel);
        await NoticeBook.TellAsync(
            db,
            await ProjectRoles.CoordinatorsAsync(db, project, cancel),
            NoticeKind.Proposal,
            project,
            edit.Traits.Task,
            $"{name} proposes: {sentence}{(note.Length > 0 ? $" “{note}”" : "")}",
            $"proposal {id}",
            clock.GetUtcNow().UtcDateTime,
            cancel
        );
        await PlanNews.TellAsync(db, $"{PlanNews.Proposals} {project}", cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Those that wait in many projects, the oldest first.</summary>
    public async Task<IReadOnlyList<(Guid Project, string ProjectName, Proposal Proposal)>> OpenAsync(
        IReadOnlyCollection<Guid> projects,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var found = await (
            from proposal in db.Proposals
            join project in db.Projects on proposal.ProjectId equals project.Id
            where projects.Contains(project.Id) && proposal.State == ProposalState.Open
            orderby proposal.At
            select new
            {
                project.Id,
                project.Name,
                Proposal = proposal,
                By = db.People.Where(p => p.Id == proposal.PersonId).Select(p => p.Name).SingleOrDefault() ?? "Somebody",
            }
        )
            .AsNoTracking()
            .Take(Most)
            .ToListAsync(cancel);
        return
        [
            .. found.Select(f =>
                (
                    f.Id,
                    f.Name,
                    new Proposal(
                        f.Proposal.Id,
                        f.Proposal.PersonId,
                        f.By,
                        f.Proposal.At,
                        f.Proposal.BaseVersion,
                        f.Proposal.Edit,
                        f.Proposal.TaskId,
                        f.Proposal.Sentence,
                        f.Proposal.Note
                    )
                )
            ),
        ];
    }

    /// <summary>The open ones, the oldest first.</summary>
    public async Task<IReadOnlyList<Proposal>> OpenAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await Told(db, Open(db, project)).ToListAsync(cancel);
    }

    /// <summary>How many are open.</summary>
    public async Task<int> CountAsync(Guid project, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await Open(db, project).CountAsync(cancel);
    }

    /// <summary>An open one; <c>null</c> when it is not open any more.</summary>
    public async Task<Proposal?> FindAsync(Guid project, Guid id, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await Told(db, Open(db, project).Where(p => p.Id == id)).SingleOrDefaultAsync(cancel);
    }

    /// <summary>Whether there was such a proposal that is open no longer.</summary>
    public async Task<bool> WasDecidedAsync(Guid project, Guid id, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Proposals.AnyAsync(p => p.ProjectId == project && p.Id == id && p.State != ProposalState.Open, cancel);
    }

    private static IQueryable<ProposalRow> Open(AuxiliumDb db, Guid project) =>
        db.Proposals.Where(p => p.ProjectId == project && p.State == ProposalState.Open);

    /// <summary>With their authors' names, the oldest first.</summary>
    private static IQueryable<Proposal> Told(AuxiliumDb db, IQueryable<ProposalRow> rows) =>
        from proposal in rows
        join person in db.People on proposal.PersonId equals person.Id
        orderby proposal.At
        select new Proposal(
            proposal.Id,
            person.Id,
            person.Name,
            proposal.At,
            proposal.BaseVersion,
            proposal.Edit,
            proposal.TaskId,
            proposal.Sentence,
            proposal.Note
        );

    /// <summary>Closes a proposal and tells its author.</summary>
    /// <returns>Whether it was open: of two who decide at once, one does.</returns>
    public async Task<bool> DecideAsync(Guid project, Guid id, ProposalState state, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (!await DecideAsync(db, project, id, state, by, cancel))
            return false;
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>The same as a part of a transaction, which is committed with all the rest of it.</summary>
    public async Task<bool> DecideAsync(
        AuxiliumDb db,
        Guid project,
        Guid id,
        ProposalState state,
        string by,
        CancellationToken cancel = default
    )
    {
        var now = clock.GetUtcNow().UtcDateTime;
        var closed = await db
            .Proposals.Where(p =>
                p.Id == id
                && p.ProjectId == project
                && p.State == ProposalState.Open
                && (state != ProposalState.Withdrawn || p.PersonId == by)
            )
            .ExecuteUpdateAsync(
                p => p.SetProperty(x => x.State, state).SetProperty(x => x.DecidedBy, by).SetProperty(x => x.DecidedAt, now),
                cancel
            );
        if (closed == 0)
            return false;
        var proposal = await db.Proposals.AsNoTracking().SingleAsync(p => p.Id == id, cancel);
        if (state != ProposalState.Withdrawn && proposal.PersonId != by)
        {
            var name = await db.People.Where(p => p.Id == by).Select(p => p.Name).SingleAsync(cancel);
            await NoticeBook.TellAsync(
                db,
                [proposal.PersonId],
                NoticeKind.Decided,
                project,
                proposal.TaskId,
                $"{name} {(state == ProposalState.Accepted ? "accepted" : "declined")} what you proposed: {proposal.Sentence}",
                $"decided {id}",
                now,
                cancel
            );
        }
        await PlanNews.TellAsync(db, $"{PlanNews.Proposals} {project}", cancel);
        await db.SaveChangesAsync(cancel);
        return true;
    }
}
