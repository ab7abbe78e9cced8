using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>
/// One person's edits of a plan as a stack. An entry of the journal stands unless an entry that stands takes it back; taking back a
/// taking back does the edit again. So undo and redo survive a reload, as deep as the journal.
/// </summary>
internal sealed class OwnEdits
{
    private OwnEdits(long? undo, long? redo) => (Undo, Redo) = (undo, redo);

    /// <summary>The last edit that stands.</summary>
    public long? Undo { get; }

    /// <summary>The last taking back that stands, with no edit made since.</summary>
    public long? Redo { get; }

    /// <summary>How many entries are read at a time: nearly always the first ones decide.</summary>
    private const int Page = 50;

    public static async Task<OwnEdits> OfAsync(AuxiliumDb db, Guid plan, string person, CancellationToken cancel)
    {
        long? redo = null;
        var takenBack = new HashSet<long>();
        for (var before = int.MaxValue; ; )
        {
            var own = await MarksAsync(db.Journal.Where(j => j.PersonId == person && j.Version < before), Page);
            var end = own.Count < Page ? 0 : own[^1].Version;
            // Others may have taken back what this person did.
            var others = await MarksAsync(
                db.Journal.Where(j => j.PersonId != person && j.TakesBack != null && j.Version < before && j.Version > end),
                int.MaxValue
            );
            foreach (var entry in own.Concat(others).OrderByDescending(e => e.Version))
            {
                if (takenBack.Contains(entry.Id))
                    continue;
                if (entry.TakesBack is not { } target)
                    return new OwnEdits(entry.Id, redo);
                takenBack.Add(target);
                if (entry.PersonId == person && !entry.DoesAgain)
                    redo ??= entry.Id;
            }
            if (end == 0)
                return new OwnEdits(null, redo);
            before = end;
        }

        Task<List<OwnMark>> MarksAsync(IQueryable<JournalRow> entries, int most) =>
            entries
                .Where(j => j.PlanId == plan)
                .OrderByDescending(j => j.Version)
                .Take(most)
                .Select(j => new OwnMark(
                    j.Id,
                    j.Version,
                    j.PersonId,
                    j.TakesBack,
                    j.TakesBack != null && db.Journal.Any(t => t.Id == j.TakesBack && t.TakesBack != null)
                ))
                .ToListAsync(cancel);
    }

    /// <param name="DoesAgain">Taking back a taking back is doing again: not something to do again itself.</param>
    private sealed record OwnMark(long Id, int Version, string PersonId, long? TakesBack, bool DoesAgain);

    /// <summary>Which of some entries stand: nothing that stands takes them back.</summary>
    public static async Task<HashSet<long>> StandingAsync(
        AuxiliumDb db,
        Guid plan,
        IReadOnlyCollection<long> entries,
        CancellationToken cancel
    )
    {
        var first = entries.Count == 0 ? long.MaxValue : entries.Min();
        var takings = await db
            .Journal.Where(j => j.PlanId == plan && j.Id > first && j.TakesBack != null)
            .OrderByDescending(j => j.Id)
            .Select(j => new { j.Id, Target = j.TakesBack!.Value })
            .ToListAsync(cancel);
        var takenBack = new HashSet<long>();
        foreach (var taking in takings)
            if (!takenBack.Contains(taking.Id))
                takenBack.Add(taking.Target);
        return [.. entries.Where(id => !takenBack.Contains(id))];
    }

    /// <summary>Edits later than an entry that still stand.</summary>
    public static async Task<List<EditMark>> StandingAfterAsync(AuxiliumDb db, Guid plan, long entry, CancellationToken cancel)
    {
        var later = await db
            .Journal.Where(j => j.PlanId == plan && j.Id > entry)
            .OrderByDescending(j => j.Id)
            .Select(j => new EditMark(j.Id, j.PersonId, j.Touched, j.TakesBack))
            .ToListAsync(cancel);
        var takenBack = new HashSet<long>();
        var standing = new List<EditMark>();
        foreach (var row in later)
        {
            if (takenBack.Contains(row.Id))
                continue;
            if (row.TakesBack is { } target)
                takenBack.Add(target);
            else
                standing.Add(row);
        }
        return standing;
    }
}

/// <summary>What of a journal entry says whether it stands, and whether it could meet another.</summary>
/// <param name="Touched">As <c>task/field</c>.</param>
internal sealed record EditMark(long Id, string PersonId, string[] Touched, long? TakesBack);
