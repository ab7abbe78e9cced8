using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Access;

/// <summary>One line of the audit trail.</summary>
/// <param name="At">UTC.</param>
/// <param name="By">Name of who did it.</param>
/// <param name="Project">Name of the project it is about.</param>
public sealed record AuditEntry(long Id, DateTime At, string By, string Text, string? Project);

/// <summary>
/// What happened outside the plans: who may do what, who got or lost access, and what opens without a password. Each is noted in the
/// transaction that does it, so that nothing goes unrecorded.
/// </summary>
public sealed class Audit(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>Records something that was done elsewhere.</summary>
    public async Task NoteAsync(string? by, string? about, string text, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        Note(db, clock, by, about, null, text);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>The newest entries, the last first.</summary>
    /// <param name="before">Only entries with a smaller id, for the next page.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<AuditEntry>> PageAsync(long? before, int most, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await (
            from entry in db.Audit
            join person in db.People on entry.By equals person.Id into people
            from person in people.DefaultIfEmpty()
            join project in db.Projects on entry.ProjectId equals project.Id into projects
            from project in projects.DefaultIfEmpty()
            where before == null || entry.Id < before
            orderby entry.Id descending
            select new AuditEntry(entry.Id, entry.At, person == null ? "" : person.Name, entry.Text, project == null ? null : project.Name)
        )
            .Take(most)
            .ToListAsync(cancel);
    }

    /// <summary>Adds an entry to what the caller saves.</summary>
    /// <param name="db">Of the caller.</param>
    /// <param name="clock">Tells the time.</param>
    /// <param name="by">Id of who does it; <c>null</c> for nobody who is signed in.</param>
    /// <param name="about">Id of the person it is about.</param>
    /// <param name="project">Id of the project it is about.</param>
    /// <param name="text">What happens, as a sentence.</param>
    internal static void Note(AuxiliumDb db, TimeProvider clock, string? by, string? about, Guid? project, string text) =>
        db.Audit.Add(
            new AuditRow
            {
                At = clock.GetUtcNow().UtcDateTime,
                By = by,
                About = about,
                ProjectId = project,
                Text = text,
            }
        );

    /// <summary>What somebody is called, for a sentence.</summary>
    internal static async Task<string> NameAsync(AuxiliumDb db, string person, CancellationToken cancel) =>
        await db.People.Where(p => p.Id == person).Select(p => p.Name).SingleOrDefaultAsync(cancel) ?? person;
}
