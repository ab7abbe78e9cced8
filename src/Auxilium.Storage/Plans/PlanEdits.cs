using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Exchange.Edits;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Money;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>
/// The one way a stored plan changes: the edit is applied to the newest version, the changed rows, the journal entry and the new
/// version are written in one transaction, and nobody's edit is overwritten unseen.
/// </summary>
public sealed class PlanEdits(
    IDbContextFactory<AuxiliumDb> databases,
    PlanStore store,
    PlanMemory memory,
    PlanGates gates,
    ProjectMoney money,
    TimeProvider clock
)
{
    /// <summary>Whether an edit also writes what is asked across plans: not where a bench measures what that takes.</summary>
    internal bool WritesProjection { get; init; } = true;

    /// <param name="project">Id of the project.</param>
    /// <param name="request">The edit, or what to take back.</param>
    /// <param name="today">Today.</param>
    /// <param name="cancel">Ends the wait; an edit is then either whole or not there.</param>
    /// <exception cref="EditRefusedException">The edit makes no sense on the plan as it is now.</exception>
    public async Task<EditOutcome> CommitAsync(Guid project, EditRequest request, DateOnly today, CancellationToken cancel = default)
    {
        using var turn = await gates.EnterAsync(project, cancel);
        var era = memory.Era;
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // An edit is written whole or not at all: there is no point within it to go back to.
        db.Database.AutoSavepointsEnabled = false;
        // Edits of one plan wait for each other here, so that each is applied to what the one before it made.
        if (
            await db.Projects.FromSql($"select * from projects where id = {project} for update").SingleOrDefaultAsync(cancel)
            is not { } owner
        )
            return new NoSuchProject();
        var row = await db.Plans.SingleAsync(p => p.ProjectId == project && p.Kind == PlanKind.Live, cancel);
        var known = await db
            .Journal.Where(j => j.PlanId == row.Id && (j.EditId == request.EditId || j.Version == row.Version))
            .Select(j => new
            {
                j.EditId,
                j.Version,
                j.Sentence,
            })
            .ToListAsync(cancel);
        var current = await store.LoadAsync(
            db,
            new PlanVersion(row.Id, row.Version, known.SingleOrDefault(j => j.Version == row.Version)?.EditId),
            cancel
        );
        if (known.SingleOrDefault(j => j.EditId == request.EditId) is { } earlier)
            return new EditCommitted(current, current, null, ReadSentence(earlier.Sentence));

        var target = request.TakeBack is { } which ? await TargetAsync(db, row.Id, request, which, cancel) : null;
        if (request.TakeBack is not null && target is null)
            return new NothingToTakeBack();
        var edit = target is null ? request.Edit! : new EditJson(today).Read(target.Inverse);
        // Asked here and not before: the plan that counts is the one that the edit meets.
        if (request.Allows is { } allows && !allows(edit, current.Schedule.Plan))
            return new EditNotAllowed();
        var edited = await RunAsync(db, current, edit, today, isNew: target is null, cancel);
        if (!request.Overrule && await ConflictAsync(db, current, request, target, edited, cancel) is { } conflict)
            return conflict;
        // Worked out while the rows are being written: it needs nothing of the database.
        var projected = WritesProjection ? Task.Run(() => Projection.Of(edited.After, today), cancel) : null;

        var lead = target is null
            ? RippleText.Lead(edited)
            : [new TextRun(target.TakesBack is null ? "Taken back" : "Done again", true), new TextRun($": {target.Summary}")];
        var sentence = RippleText.Of(edited, lead);
        var ranks = await new PlanWriter(db, row.Id, request.EditId).WriteAsync(
            current.Schedule.Plan,
            current.Ranks,
            edited.Applied,
            cancel
        );
        PlanRows.Fill(owner, row, edited.Applied.Plan, current.Schedule.Plan);
        row.Version++;
        db.Journal.Add(Entry(row.Id, row.Version, request, edited, target, sentence));
        await db.SaveChangesAsync(cancel);
        if (request.Within is { } within && !await within(db, cancel))
            return new NotDecided();
        var after = new StoredPlan(row.Id, project, row.Version, request.EditId, () => edited.After, ranks)
        {
            Name = edited.Applied.Plan.Project.Name,
            Made = new EditMade(current.Edit, request.EditId, request.Person, sentence, edited.Ripple.Moves.Count),
        };
        if (projected is not null)
            await Projections.WriteAsync(db, current, after, await projected, cancel);
        await ProjectMoney.ForgetAsync(db, project, cancel);
        await PlanNews.TellAsync(db, $"{PlanNews.Plan} {row.Id} {row.Version}", cancel);
        await transaction.CommitAsync(cancel);
        memory.Keep(after, edited.Applied.Plan, era);
        return new EditCommitted(current, after, edited, sentence);
    }

    /// <summary>What an edit would do, without doing it; <c>null</c> when there is no such project.</summary>
    /// <exception cref="EditRefusedException">The edit makes no sense on the plan as it is now.</exception>
    public async Task<EditedPlan?> PreviewAsync(Guid project, PlanEdit edit, DateOnly today, CancellationToken cancel = default)
    {
        if (await store.LoadAsync(project, cancel) is not { } plan)
            return null;
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await RunAsync(db, plan, edit, today, isNew: true, cancel);
    }

    /// <summary>Works an edit out. Who joins a plan by it brings their own week and days off.</summary>
    private async Task<EditedPlan> RunAsync(
        AuxiliumDb db,
        StoredPlan plan,
        PlanEdit edit,
        DateOnly today,
        bool isNew,
        CancellationToken cancel
    )
    {
        var (directory, left) = await PeopleForAsync(db, edit, isNew, cancel);
        var spoken =
            isNew && NeedsOf(edit).HasFlag(EditNeeds.Talk)
                ? await TaskTalk.TasksWithAsync(db, plan.Project, cancel)
                : new HashSet<string>();
        var past = NeedsOf(edit).HasFlag(EditNeeds.Past) ? await PastAsync(db, plan, edit, cancel) : null;
        var costs = NeedsOf(edit).HasFlag(EditNeeds.Costs) ? await money.CostsAsync(plan, today, cancel) : null;
        EditContext Context() =>
            new(plan.Schedule, today, directory, left)
            {
                Past = past,
                Costs = costs,
                Spoken = spoken,
                IsTakenBack = !isNew,
                Cancel = cancel,
            };
        var edited = EditPipeline.Run(edit, Context());
        var (was, now) = (plan.Schedule.Plan, edited.After.Plan);
        if (!isNew || was.People == now.People)
            return edited;
        var newcomers = now.People.Where(p => was.FindPerson(p.Id) is null).Select(p => p.Id).ToList();
        if (
            now.People.FirstOrDefault(p => newcomers.Contains(p.Id) && p.Email is not null && directory.All(d => d.Id != p.Id)) is
            { } unknown
        )
            throw new EditRefusedException(
                "person",
                $"{unknown.Name} is new here, and a plan gives nobody a mail address: leave it out, and let an organiser enter it on "
                    + $"the page of {unknown.Name}."
            );
        var times = newcomers.Count == 0 ? null : await OwnTimes.OfAsync(db, plan.Project, newcomers, cancel);
        return times is null || times.Count == 0
            ? edited
            : EditPipeline.Run(new Together([edit, .. times.Select(t => new SetOwnTime(t.Key, t.Value))]), Context());
    }

    /// <summary>The versions that an edit asks for.</summary>
    private async Task<Func<int, (Schedule, DateOnly)?>> PastAsync(AuxiliumDb db, StoredPlan plan, PlanEdit edit, CancellationToken cancel)
    {
        var known = new Dictionary<int, (Schedule, DateOnly)?>();
        foreach (
            var version in EditPipeline.PartsOf(edit).OfType<TakePastBaseline>().Select(e => e.Version).Distinct().Take(Baseline.Most)
        )
            known[version] = await PastPlans.FindAsync(db, plan, version, cancel) is { } was
                ? (was.Plan.Schedule, DateOnly.FromDateTime(TimeZoneInfo.ConvertTimeFromUtc(was.At, clock.LocalTimeZone)))
                : null;
        return version => known.GetValueOrDefault(version);
    }

    /// <summary>What the edit that made this version of a plan did, and whether this person can undo or redo.</summary>
    public async Task<LastEdit> LastAsync(StoredPlan plan, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var (canUndo, canRedo) = await CanTakeBackAsync(db, plan.Id, person, cancel);
        return new LastEdit(await RecordAsync(db, plan, cancel), canUndo, canRedo);
    }

    /// <summary>What the edit that made this version of a plan did; <c>null</c> before the first edit.</summary>
    public async Task<EditRecord?> RecordAsync(StoredPlan plan, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await RecordAsync(db, plan, cancel);
    }

    /// <summary>
    /// What is told to others of the edits since a version of a plan; <c>null</c> if the plan did not come from that version, as after a
    /// backup was restored.
    /// </summary>
    public async Task<ToldEdit?> ToldAsync(StoredPlan plan, StoredPlan since, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (plan.Made is { } made && since.Version == plan.Version - 1 && made.Before == since.Edit)
            return new ToldEdit(made.PersonId, await NameAsync(made.PersonId), made.Sentence, made.Moved, [made.Edit]);
        if (!await IsOfAsync(db, plan.Id, since.Version, since.Edit, cancel) || await RecordAsync(db, plan, cancel) is not { } did)
            return null;
        var edits = await db
            .Journal.Where(j => j.PlanId == plan.Id && j.Version > since.Version && j.Version <= plan.Version)
            .OrderBy(j => j.Version)
            .Select(j => new { j.EditId, j.PersonId })
            .ToListAsync(cancel);
        return new ToldEdit(
            edits[^1].PersonId,
            await NameAsync(edits[^1].PersonId),
            did.Sentence,
            did.Moves.Count,
            [.. edits.Select(e => e.EditId)]
        );

        async Task<string> NameAsync(string id) =>
            await db.People.Where(p => p.Id == id).Select(p => p.Name).SingleOrDefaultAsync(cancel) ?? "Somebody";
    }

    /// <summary>Whether a version of a plan, made by this edit, is one that it went through.</summary>
    public async Task<bool> IsOfAsync(Guid plan, int version, Guid? edit, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await IsOfAsync(db, plan, version, edit, cancel);
    }

    private static async Task<bool> IsOfAsync(AuxiliumDb db, Guid plan, int version, Guid? edit, CancellationToken cancel) =>
        edit is { } id ? await db.Journal.AnyAsync(j => j.PlanId == plan && j.Version == version && j.EditId == id, cancel) : version == 1;

    private static async Task<EditRecord?> RecordAsync(AuxiliumDb db, StoredPlan plan, CancellationToken cancel)
    {
        var entry = await db
            .Journal.Where(j => j.PlanId == plan.Id && j.Version == plan.Version)
            .Select(j => new
            {
                j.Sentence,
                j.FinishBefore,
                j.FinishAfter,
                j.Moves,
            })
            .SingleOrDefaultAsync(cancel);
        return entry is null
            ? null
            : JournalRipple.Read(
                entry.Moves,
                ReadSentence(entry.Sentence),
                PlanTime.FromDateTime(entry.FinishBefore),
                PlanTime.FromDateTime(entry.FinishAfter)
            );
    }

    /// <summary>Whether this person can undo or redo.</summary>
    public async Task<(bool Undo, bool Redo)> CanTakeBackAsync(Guid plan, string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await CanTakeBackAsync(db, plan, person, cancel);
    }

    private static async Task<(bool Undo, bool Redo)> CanTakeBackAsync(AuxiliumDb db, Guid plan, string person, CancellationToken cancel)
    {
        var own = await OwnEdits.OfAsync(db, plan, person, cancel);
        return (own.Undo is not null, own.Redo is not null);
    }

    /// <summary>The newest entries of the journal of the plan that a project goes by, the last first.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="before">Only entries with a smaller id, for the next page.</param>
    /// <param name="task">Only those that changed or moved this task.</param>
    /// <param name="person">Only those of this person.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<JournalEntry>> JournalAsync(
        Guid project,
        long? before,
        string? task,
        string? person,
        int most,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var plan = await db
            .Plans.Where(p => p.ProjectId == project && p.Kind == PlanKind.Live)
            .Select(p => p.Id)
            .SingleOrDefaultAsync(cancel);
        var rows = db.Journal.Where(j => j.PlanId == plan);
        if (task is not null)
            rows = rows.Where(j => j.Tasks.Contains(task));
        if (before is { } id)
            rows = rows.Where(j => j.Id < id);
        if (person is not null)
            rows = rows.Where(j => j.PersonId == person);
        var page = await rows.AsNoTracking().OrderByDescending(j => j.Id).Take(most).ToListAsync(cancel);
        var standing = await OwnEdits.StandingAsync(db, plan, [.. page.Select(j => j.Id)], cancel);
        var ids = page.Select(j => j.PersonId).Distinct().ToList();
        var names = await db.People.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        return
        [
            .. page.Select(j =>
            {
                var did = JournalRipple.Read(
                    j.Moves,
                    ReadSentence(j.Sentence),
                    PlanTime.FromDateTime(j.FinishBefore),
                    PlanTime.FromDateTime(j.FinishAfter)
                );
                return new JournalEntry(
                    j.Id,
                    j.At,
                    j.Version,
                    j.PersonId,
                    names.GetValueOrDefault(j.PersonId, "Somebody"),
                    did.Sentence,
                    did.Moves.Count,
                    did.FinishBefore,
                    did.FinishAfter,
                    j.TakesBack,
                    standing.Contains(j.Id)
                );
            }),
        ];
    }

    private static async Task<JournalRow?> TargetAsync(
        AuxiliumDb db,
        Guid plan,
        EditRequest request,
        TakeBack which,
        CancellationToken cancel
    )
    {
        if (which == TakeBack.Entry)
        {
            if (request.Entry is not { } entry || !(await OwnEdits.StandingAsync(db, plan, [entry], cancel)).Contains(entry))
                return null;
            return await db.Journal.AsNoTracking().SingleOrDefaultAsync(j => j.Id == entry && j.PlanId == plan, cancel);
        }
        var own = await OwnEdits.OfAsync(db, plan, request.Person, cancel);
        var id = which == TakeBack.LastEdit ? own.Undo : own.Redo;
        return id is null ? null : await db.Journal.AsNoTracking().SingleAsync(j => j.Id == id, cancel);
    }

    private static async Task<EditConflict?> ConflictAsync(
        AuxiliumDb db,
        StoredPlan current,
        EditRequest request,
        JournalRow? target,
        EditedPlan edited,
        CancellationToken cancel
    )
    {
        var since =
            target is not null ? await OwnEdits.StandingAfterAsync(db, current.Id, target.Id, cancel)
            : (request.SeenVersion ?? request.BaseVersion) is var seen && seen >= current.Version ? []
            : await db
                .Journal.Where(j => j.PlanId == current.Id && j.Version > seen && !(request.Own ?? Array.Empty<Guid>()).Contains(j.EditId))
                .Select(j => new EditMark(j.Id, j.PersonId, j.Touched, j.TakesBack))
                .ToListAsync(cancel);
        foreach (var other in since)
        {
            foreach (var touch in other.Touched.Select(Touch.Parse))
            {
                if (!edited.Applied.Touched.Any(touch.Meets))
                    continue;
                var (theirs, yours) = (FieldText.Of(current.Schedule, touch), FieldText.Of(edited.After, touch));
                if (theirs == yours)
                    continue;
                var by = await db.People.Where(p => p.Id == other.PersonId).Select(p => p.Name).SingleOrDefaultAsync(cancel);
                return new EditConflict(current, touch, by ?? "Somebody", other.PersonId == request.Person, theirs, yours);
            }
        }
        return null;
    }

    private JournalRow Entry(
        Guid plan,
        int version,
        EditRequest request,
        EditedPlan edited,
        JournalRow? target,
        ImmutableArray<TextRun> sentence
    ) =>
        new()
        {
            PlanId = plan,
            Version = version,
            EditId = request.EditId,
            PersonId = request.Person,
            At = clock.GetUtcNow().UtcDateTime,
            Edit = EditJson.Write(edited.Applied.Edit),
            Inverse = EditJson.Write(edited.Applied.Inverse),
            Touched = [.. edited.Applied.Touched.Select(t => t.ToString())],
            Tasks =
            [
                .. edited.Applied.Touched.Select(t => t.Task).OfType<string>().Concat(edited.Ripple.Moves.Select(m => m.Task)).Distinct(),
            ],
            Summary = target?.Summary ?? string.Concat(RippleText.Lead(edited).Select(r => r.Text)),
            Sentence = JsonSerializer.Serialize(sentence),
            Moves = JournalRipple.Write(edited.Ripple),
            FinishBefore = edited.Ripple.FinishBefore.ToDateTime(),
            FinishAfter = edited.Ripple.FinishAfter.ToDateTime(),
            TakesBack = target?.Id,
        };

    private static ImmutableArray<TextRun> ReadSentence(string json) => JsonSerializer.Deserialize<ImmutableArray<TextRun>>(json);

    /// <summary>
    /// Everybody, where an edit may name somebody who is not on the plan; and those who left, where it may give them something.
    /// </summary>
    private static async Task<(IReadOnlyList<Person> Directory, IReadOnlyList<Person> Left)> PeopleForAsync(
        AuxiliumDb db,
        PlanEdit edit,
        bool isNew,
        CancellationToken cancel
    )
    {
        var needs = NeedsOf(edit);
        if (!needs.HasFlag(EditNeeds.Left))
            return ([], []);
        // What is taken back is as it was, whoever left since.
        var left = isNew
            ? await db
                .People.Where(p => p.LeftOn != null)
                .OrderBy(p => p.Name)
                .Select(p => new Person(p.Id, p.Name, p.Initials, null, null))
                .ToListAsync(cancel)
            : [];
        // Whoever comes back by that is who they are now.
        var all = isNew ? db.People.Where(p => p.LeftOn == null) : db.People;
        return (needs.HasFlag(EditNeeds.Names) ? await PlanStore.DirectoryAsync(all, cancel) : [], left);
    }

    private static EditNeeds NeedsOf(PlanEdit edit) =>
        EditPipeline.PartsOf(edit).Aggregate(EditNeeds.Nothing, (needs, part) => needs | part.Traits.Needs);
}
