using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.People;

/// <summary>What somebody's own week and days off did to a project.</summary>
public sealed record OwnTimeEffect(Guid Project, string Name, string Sentence);

/// <summary>
/// Brings people's own weeks and days off into the plans they are on: an edit of each plan, told and taken back like any other.
/// </summary>
public sealed class OwnTimes(IDbContextFactory<AuxiliumDb> databases, PlanStore store, PlanEdits edits, TimeProvider clock)
{
    /// <summary>After so long, whoever changed somebody's time has either brought it in or died.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);

    /// <summary>Brings somebody's time into the plans they are on.</summary>
    /// <param name="person">Whose time.</param>
    /// <param name="only">Of these projects only; <c>null</c> for all.</param>
    /// <param name="by">Who changed it.</param>
    /// <param name="today">Today.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>What it did to each plan that it changed.</returns>
    public async Task<IReadOnlyList<OwnTimeEffect>> BringInAsync(
        string person,
        IReadOnlyCollection<Guid>? only,
        string by,
        DateOnly today,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var noted = await db.TimeChanges.AsNoTracking().SingleOrDefaultAsync(c => c.PersonId == person, cancel);
        var effects = new List<OwnTimeEffect>();
        foreach (
            var project in await db
                .LiveMembers.Where(m => m.PersonId == person && (only == null || only.Contains(m.ProjectId)))
                .Select(m => m.ProjectId)
                .ToListAsync(cancel)
        )
        {
            if (await store.LoadAsync(project, cancel) is not { } plan)
                continue;
            var time = (await OfAsync(db, project, [person], cancel)).GetValueOrDefault(person);
            try
            {
                var outcome = await edits.CommitAsync(
                    project,
                    new EditRequest(Guid.NewGuid(), plan.Version, new SetOwnTime(person, time), null, by, Overrule: true),
                    today,
                    cancel
                );
                if (outcome is EditCommitted committed)
                    effects.Add(new OwnTimeEffect(project, plan.Name, string.Concat(committed.Sentence.Select(r => r.Text))));
            }
            catch (EditRefusedException refused)
            {
                // One plan that cannot take it keeps it from no other.
                effects.Add(new OwnTimeEffect(project, plan.Name, $"The plan stays as it was. {refused.Message}"));
            }
        }
        if (noted is not null)
            await db.TimeChanges.Where(c => c.PersonId == person && c.At == noted.At).ExecuteDeleteAsync(cancel);
        return effects;
    }

    /// <summary>
    /// Notes, in the transaction that changes it, that somebody's time is to be brought into their plans: what a process that dies leaves
    /// undone is done later.
    /// </summary>
    internal static Task NoteChangeAsync(AuxiliumDb db, string person, string by, TimeProvider clock, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            insert into time_changes (person_id, changed_by, at) values ({person}, {by}, {clock.GetUtcNow().UtcDateTime} at time
            zone 'utc') on conflict (person_id) do update set changed_by = excluded.changed_by, at = excluded.at
            """,
            cancel
        );

    /// <summary>Brings in what was changed so long ago that nobody does it any more.</summary>
    public async Task CatchUpAsync(DateOnly today, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var before = DateTime.SpecifyKind(clock.GetUtcNow().UtcDateTime - Patience, DateTimeKind.Unspecified);
        foreach (var left in await db.TimeChanges.AsNoTracking().Where(c => c.At < before).ToListAsync(cancel))
            await BringInAsync(left.PersonId, null, left.ChangedBy, today, cancel);
    }

    /// <summary>The own time in a project of those who have any, by id.</summary>
    internal static async Task<IReadOnlyDictionary<string, WorkCalendar>> OfAsync(
        AuxiliumDb db,
        Guid project,
        IReadOnlyCollection<string> people,
        CancellationToken cancel
    )
    {
        var weeks = await db
            .People.Where(p => people.Contains(p.Id) && p.Calendar != null)
            .ToDictionaryAsync(p => p.Id, p => p.Calendar!, cancel);
        var away = (
            await db
                .TimeOff.AsNoTracking()
                .Where(t => people.Contains(t.PersonId) && (t.Projects == null || t.Projects.Contains(project)))
                .OrderBy(t => t.From)
                .ToListAsync(cancel)
        ).ToLookup(t => t.PersonId);
        return people
            .Where(p => weeks.ContainsKey(p) || away.Contains(p))
            .ToDictionary(p => p, p => TimeOf(weeks.GetValueOrDefault(p), away[p]));
    }

    internal static WorkCalendar TimeOf(string? week, IEnumerable<TimeOffRow> away)
    {
        var own = new WorkCalendar
        {
            Id = "own",
            Name = "Own",
            Week = [.. Enumerable.Repeat<ImmutableArray<WorkInterval>?>(null, 7)],
        };
        if (week is not null)
        {
            using var json = JsonDocument.Parse(week);
            own = CalendarReader.ReadAlone(json.RootElement, "$");
        }
        return own with { Exceptions = [.. away.Select(t => new CalendarOverride(t.From, t.To, "Away", []))] };
    }
}
