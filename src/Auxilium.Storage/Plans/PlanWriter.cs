using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>Writes the difference between two versions of a plan: only the rows that changed.</summary>
internal sealed class PlanWriter(AuxiliumDb db, Guid plan, Guid? edit = null)
{
    public async Task<PlanRanks> WriteAsync(Plan before, PlanRanks ranks, AppliedEdit applied, CancellationToken cancel)
    {
        var after = applied.Plan;
        var written = new PlanRanks(
            await WriteTasksAsync(before, ranks, applied, cancel),
            await WriteLinksAsync(before, ranks, applied, cancel)
        );
        if (before.People != after.People)
            await WritePeopleAsync(before, after, cancel);
        if (before.Baselines != after.Baselines)
            await WriteBaselinesAsync(before, after, cancel);
        return written;
    }

    /// <summary>Adds people to the directory who are not in it, and to the plan.</summary>
    public async Task AddPeopleAsync(IEnumerable<(Person Person, int Position)> people, CancellationToken cancel)
    {
        foreach (var (person, position) in people)
        {
            var made = await db.Database.ExecuteSqlAsync(
                $"""
                insert into people (id, name, initials, email, availability, made_by) values ({person.Id}, {person.Name},
                {person.Initials}, {person.Email}, {PersonTimes.Write(person.Available)}, {edit}) on conflict (id) do nothing
                """,
                cancel
            );
            // Somebody may have come to be at the same moment under that id, or be called otherwise since: the plan says what the
            // directory says.
            if (
                made == 0
                && await db.People.Where(p => p.Id == person.Id).Select(p => p.Name).SingleAsync(cancel) is var known
                && known != person.Name
            )
                throw new EditRefusedException(
                    "personClash",
                    $"“{person.Name}” and {known} were given the same id at the same moment: try again."
                );
            db.Members.Add(
                new MemberRow
                {
                    PlanId = plan,
                    PersonId = person.Id,
                    Position = position,
                    Calendar = person.Calendar,
                }
            );
        }
    }

    private async Task<IReadOnlyDictionary<string, long>> WriteTasksAsync(
        Plan before,
        PlanRanks ranks,
        AppliedEdit applied,
        CancellationToken cancel
    )
    {
        var after = applied.Plan;
        if (before.Tasks == after.Tasks)
            return ranks.Tasks;
        if (after.Index.HasOutlineOf(before.Index))
        {
            for (var row = 0; row < after.Tasks.Length; row++)
                if (after.Tasks[row] is var task && !ReferenceEquals(before.Tasks[row], task))
                    db.Tasks.Update(PlanRows.ToRow(plan, task, ranks.Tasks[task.Id]));
            return ranks.Tasks;
        }
        var assigned = Ranks.Assign([.. after.Tasks.Select(t => t.Id)], ranks.Tasks, Moved(applied));
        foreach (var task in after.Tasks)
        {
            var was = before.Find(task.Id);
            if (was is null)
                db.Tasks.Add(PlanRows.ToRow(plan, task, assigned[task.Id]));
            else if (!ReferenceEquals(was, task) || ranks.Tasks[task.Id] != assigned[task.Id])
                db.Tasks.Update(PlanRows.ToRow(plan, task, assigned[task.Id]));
        }
        var gone = before.Tasks.Where(t => after.Find(t.Id) is null).Select(t => t.Id).ToList();
        if (gone.Count > 0)
            await db.Tasks.Where(t => t.PlanId == plan && gone.Contains(t.Id)).ExecuteDeleteAsync(cancel);
        return assigned;
    }

    /// <summary>Rows that came or were put elsewhere, with all that is inside them.</summary>
    private static HashSet<string> Moved(AppliedEdit applied)
    {
        var index = applied.Plan.Index;
        var moved = new HashSet<string>();
        foreach (var touch in applied.Touched)
        {
            if (
                touch.Task is not { } id
                || (touch.Field != EditField.None && touch.Field != EditField.Place)
                || !index.TryFind(id, out var row)
            )
                continue;
            for (var inside = row; inside < index.SubtreeEnd(row); inside++)
                moved.Add(applied.Plan.Tasks[inside].Id);
        }
        return moved;
    }

    private async Task<IReadOnlyDictionary<(string From, string To), long>> WriteLinksAsync(
        Plan before,
        PlanRanks ranks,
        AppliedEdit applied,
        CancellationToken cancel
    )
    {
        var after = applied.Plan;
        if (before.Links == after.Links)
            return ranks.Links;
        var known = before.Links.ToDictionary(Key);
        var wanted = after.Links.ToDictionary(Key);
        var touched = applied.Touched.Where(t => t.Field == EditField.After || t.Field == EditField.None).Select(t => t.Task).ToHashSet();
        var moved = wanted.Keys.Where(k => touched.Contains(k.To)).ToHashSet();
        var assigned = Ranks.Assign([.. after.Links.Select(Key)], ranks.Links, moved);
        foreach (var (key, link) in wanted)
        {
            if (!known.TryGetValue(key, out var was))
                db.Links.Add(PlanRows.ToRow(plan, link, assigned[key]));
            else if (was != link || ranks.Links[key] != assigned[key])
                db.Links.Update(PlanRows.ToRow(plan, link, assigned[key]));
        }
        foreach (var group in known.Keys.Where(k => !wanted.ContainsKey(k)).GroupBy(k => k.To))
        {
            var from = group.Select(k => k.From).ToList();
            await db.Links.Where(l => l.PlanId == plan && l.To == group.Key && from.Contains(l.From)).ExecuteDeleteAsync(cancel);
        }
        return assigned;
    }

    /// <summary>A baseline never changes but for its name and its place: only what came is written whole.</summary>
    private async Task WriteBaselinesAsync(Plan before, Plan after, CancellationToken cancel)
    {
        var gone = before.Baselines.Where(b => after.FindBaseline(b.Id) is null).Select(b => b.Id).ToList();
        if (gone.Count > 0)
            await db.Baselines.Where(b => b.PlanId == plan && gone.Contains(b.Id)).ExecuteDeleteAsync(cancel);
        for (var position = 0; position < after.Baselines.Length; position++)
        {
            var (baseline, at) = (after.Baselines[position], position);
            if (before.FindBaseline(baseline.Id) is not { } was)
                db.Baselines.Add(BaselineRows.ToRow(plan, baseline, position));
            else if (was.Name != baseline.Name || before.Baselines.IndexOf(was) != position)
                await db
                    .Baselines.Where(b => b.PlanId == plan && b.Id == baseline.Id)
                    .ExecuteUpdateAsync(b => b.SetProperty(x => x.Name, baseline.Name).SetProperty(x => x.Position, at), cancel);
        }
    }

    private async Task WritePeopleAsync(Plan before, Plan after, CancellationToken cancel)
    {
        var gone = before.People.Where(p => after.FindPerson(p.Id) is null).Select(p => p.Id).ToList();
        if (gone.Count > 0)
        {
            await db.Members.Where(m => m.PlanId == plan && gone.Contains(m.PersonId)).ExecuteDeleteAsync(cancel);
            await ForgetUnusedAsync(gone, cancel);
        }
        for (var position = 0; position < after.People.Length; position++)
        {
            var person = after.People[position];
            if (before.FindPerson(person.Id) is not { } was || (was.Calendar == person.Calendar && before.People.IndexOf(was) == position))
                continue;
            var at = position;
            await db
                .Members.Where(m => m.PlanId == plan && m.PersonId == person.Id)
                .ExecuteUpdateAsync(m => m.SetProperty(x => x.Calendar, person.Calendar).SetProperty(x => x.Position, at), cancel);
        }
        await AddPeopleAsync(
            after.People.Select((person, position) => (person, position)).Where(p => before.FindPerson(p.person.Id) is null),
            cancel
        );
    }

    /// <summary>Whoever was only made by being named in a plan, and is nowhere now, was never here.</summary>
    private Task<int> ForgetUnusedAsync(List<string> people, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            delete from people p where p.id = any({people}) and p.made_by is not null
                and not exists (select 1 from members m where m.person_id = p.id)
                and not exists (select 1 from project_roles r where r.person_id = p.id)
                and not exists (select 1 from projects j where j.coordinator = p.id
                    and j.id <> (select l.project_id from plans l where l.id = {plan}))
                and not exists (select 1 from accounts a where a.id = p.id)
                and not exists (select 1 from invitations i where i.person_id = p.id)
                and not exists (select 1 from time_off t where t.person_id = p.id)
                and not exists (select 1 from hours h where h.person_id = p.id)
                and not exists (select 1 from comments c where c.person_id = p.id)
                and not exists (select 1 from files f where f.person_id = p.id)
                and not exists (select 1 from journal j where j.person_id = p.id)
                and not exists (select 1 from people b where b.reports_to = p.id)
            """,
            cancel
        );

    private static (string From, string To) Key(PlanLink link) => (link.From, link.To);
}
