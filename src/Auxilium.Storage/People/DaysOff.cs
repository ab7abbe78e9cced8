using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.People;

/// <summary>
/// Days that people are away. What they or an organiser enter counts everywhere; what a coordinator enters counts in their own projects,
/// and those who decide elsewhere are asked.
/// </summary>
public sealed class DaysOff(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>The most that a person may have.</summary>
    public const int Most = 500;

    public async Task<IReadOnlyList<TimeOffRow>> OfAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.TimeOff.AsNoTracking().Where(t => t.PersonId == person).OrderBy(t => t.From).ThenBy(t => t.Id).ToListAsync(cancel);
    }

    /// <summary>
    /// Enters days off. Where they do not count everywhere, the person is told, and so are those who coordinate their other projects.
    /// </summary>
    /// <param name="days">The days.</param>
    /// <param name="by">Who enters them.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task EnterAsync(TimeOffRow days, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        db.TimeOff.Add(days);
        await OwnTimes.NoteChangeAsync(db, days.PersonId, by, clock, cancel);
        await db.SaveChangesAsync(cancel);
        if (days.Projects is { } here)
        {
            var (name, now) = (await Audit.NameAsync(db, days.PersonId, cancel), clock.GetUtcNow().UtcDateTime);
            var when = days.From == days.To ? $"on {Dates.Day(days.From)}" : $"from {Dates.Day(days.From)} to {Dates.Day(days.To)}";
            await NoticeBook.TellAsync(
                db,
                [days.PersonId],
                NoticeKind.TimeOff,
                here[0],
                null,
                $"{await Audit.NameAsync(db, by, cancel)} entered that you are away {when}. If that is so in all your projects, say "
                    + "so on your page.",
                $"time off {days.Id}",
                now,
                cancel
            );
            foreach (
                var project in await db
                    .LiveMembers.Where(m => m.PersonId == days.PersonId && !here.Contains(m.ProjectId))
                    .Select(m => m.ProjectId)
                    .ToListAsync(cancel)
            )
                await NoticeBook.TellAsync(
                    db,
                    [.. (await ProjectRoles.CoordinatorsAsync(db, project, cancel)).Where(p => p != by)],
                    NoticeKind.TimeOff,
                    project,
                    null,
                    $"{name} may be away {when}. If that counts here too, say so on the page of {name}.",
                    $"time off {days.Id} {project}",
                    now,
                    cancel
                );
        }
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Says where days off count.</summary>
    /// <param name="days">Id of the entry.</param>
    /// <param name="projects">In these; <c>null</c> for everywhere; empty takes the entry away.</param>
    /// <param name="by">Who says so.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task CountAsync(long days, Guid[]? projects, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.TimeOff.Where(t => t.Id == days).Select(t => t.PersonId).SingleOrDefaultAsync(cancel) is not { } person)
            return;
        await OwnTimes.NoteChangeAsync(db, person, by, clock, cancel);
        if (projects is [])
            await db.TimeOff.Where(t => t.Id == days).ExecuteDeleteAsync(cancel);
        else
            await db.TimeOff.Where(t => t.Id == days).ExecuteUpdateAsync(t => t.SetProperty(x => x.Projects, projects), cancel);
        await transaction.CommitAsync(cancel);
    }
}
