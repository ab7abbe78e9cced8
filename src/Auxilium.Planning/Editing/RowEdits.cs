using System.Collections.Immutable;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.RowEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>A new row after the sibling <paramref name="After"/> (first in its phase when <c>null</c>).</summary>
public sealed record AddTask(string Id, string Name, string? Parent = null, string? After = null) : PlanEdit, IEditKind
{
    public static string Wire => "addTask";

    public override EditTraits Traits => new(Id, EditField.TaskName, EditRight.Edit);

    public override string Many => "rows added";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (!PlanIds.IsId(Id))
            throw new EditRefusedException("id", "A row's id is 1 to 64 letters, digits, “-” or “_”.", Id);
        if (plan.Find(Id) is not null)
            throw new EditRefusedException("id", $"The plan already has a row with the id “{Id}”.", Id);
        RefuseMore(plan, 1, Id);
        var task = PlanTask.Named(Id, TaskEdits.CheckName(Name, Id), Parent);
        var at = OutlineEdits.InsertionPoint(plan, Parent, After, Id);
        if (Parent is { } parent && plan.Find(parent) is { Milestone: true } milestone)
            throw OutlineEdits.RefuseMilestone(milestone, Id);
        return new AppliedEdit(
            plan with
            {
                Tasks = plan.Tasks.Insert(at, task),
            },
            this with
            {
                Name = task.Name,
            },
            new RemoveTasks([Id]),
            [Touch.Row(Id)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) => [Called(after, Id), new(" added.")];

    public static PlanEdit Sample(EditSampler from) =>
        new AddTask("new", "New", from.Plan.Find(from.Any)!.Parent, from.Flip ? from.Any : null);
}

/// <summary>Takes rows out, with all rows inside them and every link of theirs.</summary>
public sealed record RemoveTasks(ImmutableArray<string> Tasks) : PlanEdit, IEditKind
{
    public static string Wire => "removeTasks";

    public override EditTraits Traits => new(null, EditField.None, EditRight.Edit);

    public override string Many => "removals of rows";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (Tasks.IsDefaultOrEmpty)
            throw new EditRefusedException("nothing", "No row was named to remove.");
        var index = plan.Index;
        var going = PlanEditor.WithInside(plan, Tasks);
        var ids = going.Select(row => plan.Tasks[row].Id).ToHashSet();
        var restored = going.Select(row => new RestoredTask(
            plan.Tasks[row],
            index.PreviousSibling(row) is var before and >= 0 ? plan.Tasks[before].Id : null
        ));
        var links = plan
            .Links.Select((link, position) => new RestoredLink(link, position))
            .Where(l => ids.Contains(l.Link.From) || ids.Contains(l.Link.To));
        var inverse = new RestoreTasks([.. restored], [.. links]);
        var after = plan with
        {
            Tasks = [.. plan.Tasks.Where(t => !ids.Contains(t.Id))],
            Links = [.. plan.Links.Where(l => !ids.Contains(l.From) && !ids.Contains(l.To))],
        };
        var cut = inverse.Links.Select(l => l.Link.To).Where(to => !ids.Contains(to)).Distinct();
        return new AppliedEdit(after, this, inverse, [.. ids.Select(Touch.Row), .. cut.Select(to => new Touch(to, EditField.After))]);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Tasks: [var only] } => [Called(before, only), new($" removed{WithInside(before, only)}.")],
            _ => [new($"{Tasks.Length} rows", true), new(" removed.")],
        };

    internal override bool IsLeft(Schedule before, Schedule after) => Tasks.Any(t => before.Plan.Find(t) is not null);

    public static PlanEdit Sample(EditSampler from) => new RemoveTasks([from.Any, from.Leaf]);
}

/// <summary>Puts removed rows back where they were: each task with the sibling it stood after, and their links.</summary>
public sealed record RestoreTasks(ImmutableArray<RestoredTask> Tasks, ImmutableArray<RestoredLink> Links)
    : PlanEdit,
        IEditKind,
        ITrustedEdit
{
    public static string Wire => "restoreTasks";

    public override EditTraits Traits => new(null, EditField.None, EditRight.Edit);

    public override string Many => "rows added";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        for (var first = 0; first < Tasks.Length; )
            plan = PutBack(plan, ref first);
        var links = plan.Links.ToBuilder();
        foreach (var (link, position) in Links)
            if (plan.Find(link.From) is not null && plan.Find(link.To) is not null)
                links.Insert(Math.Min(position, links.Count), link);
        plan = plan with { Links = links.ToImmutable() };
        var ids = Tasks.Select(t => t.Task.Id).ToImmutableArray();
        var touched = Links.Select(l => l.Link.To).Where(to => !ids.Contains(to)).Distinct().Select(to => new Touch(to, EditField.After));
        return new AppliedEdit(plan, this, new RemoveTasks(ids), [.. ids.Select(Touch.Row), .. touched]);
    }

    /// <summary>
    /// Puts a row back, with those after it that stand in it or right behind it: of thousands, each alone would take its time.
    /// </summary>
    /// <param name="first">Which it is; afterwards, which is next.</param>
    private Plan PutBack(Plan plan, ref int first)
    {
        var (task, after) = Tasks[first];
        // A sibling or phase that has gone since must not keep the row from coming back.
        var parent = task.Parent is { } p && plan.Find(p) is not null ? p : null;
        var sibling = after is { } a && plan.Find(a) is { } s && s.Parent == parent ? a : null;
        var at = OutlineEdits.InsertionPoint(plan, parent, sibling, task.Id);
        var block = ImmutableArray.CreateBuilder<PlanTask>();
        var inside = new HashSet<string>();
        var last = task.Id;
        for (; first < Tasks.Length; first++)
        {
            var (next, before) = Tasks[first];
            var isIn = next.Parent is { } phase && inside.Contains(phase);
            if (block.Count > 0 && !isIn && !(next.Parent == task.Parent && before == last))
                break;
            if (plan.Find(next.Id) is not null || !inside.Add(next.Id))
                throw new EditRefusedException("id", $"“{LengthText.Shorten(next.Name)}” is in the plan already.", next.Id);
            block.Add(isIn ? next : next with { Parent = parent });
            last = isIn ? last : next.Id;
        }
        return plan with { Tasks = plan.Tasks.InsertRange(at, block) };
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Tasks: [var only] } => [Called(after, only.Task.Id), new(" is back.")],
            _ => [new($"{Tasks.Length} rows", true), new(" are back.")],
        };

    internal override bool IsLeft(Schedule before, Schedule after) => Tasks.Any(t => after.Plan.Find(t.Task.Id) is not null);

    public static PlanEdit Sample(EditSampler from) => from.Removed();
}

public sealed record RestoredTask(PlanTask Task, string? After);

/// <param name="Position">Where it stood among all links of the plan.</param>
public sealed record RestoredLink(PlanLink Link, int Position);

/// <summary>
/// Copies rows, with all that is inside them and the links among them, to stand one after another after a sibling (first in the phase
/// when <c>null</c>). A copy has everything of its row but progress.
/// </summary>
/// <param name="Ids">Of the copies, row by row in the order of the plan; made up when left out.</param>
public sealed record CopyTasks(
    ImmutableArray<string> Tasks,
    string? Parent = null,
    string? After = null,
    ImmutableArray<string>? Ids = null
) : PlanEdit, IEditKind
{
    public static string Wire => "copyTasks";

    public override EditTraits Traits => new(null, EditField.None, EditRight.Edit);

    public override string Many => "rows added";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (Tasks.IsDefaultOrEmpty)
            throw new EditRefusedException("nothing", "No row was named to copy.");
        var rows = PlanEditor.WithInside(plan, Tasks);
        RefuseMore(plan, rows.Count, null);
        var ids = Ids ?? [.. rows.Select(_ => PlanIds.New())];
        if (ids.Length != rows.Count)
            throw new EditRefusedException("id", $"{rows.Count} rows are copied, so {rows.Count} ids are needed, or none.");
        if (ids.FirstOrDefault(id => !PlanIds.IsId(id) || plan.Find(id) is not null) is { } bad || ids.Distinct().Count() < ids.Length)
            throw new EditRefusedException("id", "The id of each copy is 1 to 64 letters, digits, “-” or “_”, and no other row has it.");
        if (Parent is { } parent && plan.Find(parent) is { Milestone: true } milestone)
            throw OutlineEdits.RefuseMilestone(milestone, parent);
        var copies = rows.Zip(ids).ToDictionary(pair => plan.Tasks[pair.First].Id, pair => pair.Second);
        var at = OutlineEdits.InsertionPoint(plan, Parent, After, Tasks[0]);
        var copied = rows.Select(row => AsNew(plan.Tasks[row], copies, Parent)).ToList();
        var after = plan with
        {
            Tasks = plan.Tasks.InsertRange(at, copied),
            Links = plan.Links.AddRange(
                plan.Links.Where(l => copies.ContainsKey(l.From) && copies.ContainsKey(l.To))
                    .Select(l => l with { From = copies[l.From], To = copies[l.To] })
            ),
        };
        OutlineEdits.CheckOutline(after, Tasks[0]);
        return new AppliedEdit(
            after,
            this with
            {
                Ids = ids,
            },
            new RemoveTasks([.. copied.Where(t => t.Parent == Parent).Select(t => t.Id)]),
            [.. ids.Select(Touch.Row)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Ids: [var only] } => [Called(after, only), new(" is a copy.")],
            _ => [new($"{Ids!.Value.Length} rows", true), new(" copied.")],
        };

    internal override bool IsLeft(Schedule before, Schedule after) => Ids is not { } ids || ids.Any(t => after.Plan.Find(t) is not null);

    public static PlanEdit Sample(EditSampler from) =>
        new CopyTasks([from.Any, from.Leaf], from.Plan.Find(from.Any)!.Parent, from.Flip ? from.Any : null);
}

/// <summary>Rows that come and go.</summary>
internal static class RowEdits
{
    /// <summary>The row under another id, with nothing done of it.</summary>
    internal static PlanTask AsNew(PlanTask task, Dictionary<string, string> ids, string? parent) =>
        task with
        {
            Id = ids[task.Id],
            Parent = task.Parent is { } own && ids.TryGetValue(own, out var copy) ? copy : parent,
            Progress = 0,
            ActualStart = null,
            ActualFinish = null,
            Remaining = null,
            Before = null,
            Facts = CopiedFacts(task.Facts, ids),
            Checklist = [.. task.Checklist.Select(step => step with { Done = false })],
        };

    /// <summary>What names a row that is copied too names its copy.</summary>
    private static FactValues CopiedFacts(FactValues facts, Dictionary<string, string> ids) =>
        facts.Told.Aggregate(facts.Only(fact => fact.IsCopied), (copied, told) =>
            told.Key.NamesRow && ids.TryGetValue((string)told.Value, out var copy) ? copied.With(told.Key, copy) : copied
        );

    internal static void RefuseMore(Plan plan, int rows, string? task)
    {
        if (plan.Tasks.Length + rows > Plan.MostTasks)
            throw new EditRefusedException(
                "tooMany",
                $"A plan holds at most {Plan.MostTasks:N0} rows: start another project for the rest.",
                task,
                EditField.TaskName
            );
    }

    internal static string WithInside(Schedule schedule, string task)
    {
        var row = schedule.Plan.Index.RowOf(task);
        return (schedule.Plan.Index.SubtreeEnd(row) - row - 1) switch
        {
            0 => "",
            1 => " with the row inside it",
            var inside => $" with the {inside} rows inside it",
        };
    }
}
