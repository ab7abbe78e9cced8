using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.OutlineEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>The row goes into the row above it at its level, with all that is inside it.</summary>
public sealed record IndentTask(string Task) : UndecidedEdit, IEditKind
{
    public static string Wire => "indentTask";

    public override EditTraits Traits => new(Task, EditField.Place, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var row = plan.Index.RowOf(PlanEditor.TaskOf(plan, Task).Id);
        var above = plan.Index.PreviousSibling(row);
        if (above < 0)
            throw new EditRefusedException(
                "indent",
                "This row has no row above it at its level to go into: move it below the row that should hold it.",
                Task,
                EditField.Place
            );
        var children = plan.Index.ChildrenOf(above).ToList();
        return new MoveTask(Task, plan.Tasks[above].Id, children.Count == 0 ? null : plan.Tasks[children[^1]].Id).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new IndentTask(from.Below());
}

/// <summary>The row goes one level up where it stands; the rows after it in its phase become its own.</summary>
public sealed record OutdentTask(string Task) : PlanEdit, IEditKind
{
    public static string Wire => "outdentTask";

    public override EditTraits Traits => new(Task, EditField.Place, EditRight.Edit);

    public override string Many => "rows moved in the list";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var row = plan.Index.RowOf(task.Id);
        if (task.Parent is null)
            throw new EditRefusedException("outdent", "This row is at the top level already.", Task, EditField.Place);
        var phase = plan.Find(task.Parent)!;
        var following = plan.Index.SiblingsOf(row).Where(s => s > row).Select(s => plan.Tasks[s].Id).ToList();
        if (following.Count > 0 && task.Milestone)
            throw RefuseMilestone(task, Task);
        // Each step is exact, so the whole can be taken back step by step.
        var last = plan.Index.ChildrenOf(row).Select(c => plan.Tasks[c].Id).LastOrDefault();
        var steps = new List<AppliedEdit>();
        foreach (var sibling in following)
        {
            steps.Add(Move(plan, new MoveTask(sibling, task.Id, last), check: false));
            plan = steps[^1].Plan;
            last = sibling;
        }
        steps.Add(Move(plan, new MoveTask(task.Id, phase.Parent, phase.Id), check: false));
        CheckOutline(steps[^1].Plan, Task);
        return new AppliedEdit(
            steps[^1].Plan,
            this,
            new Together([.. steps.Select(s => s.Inverse).Reverse()]),
            [.. steps.SelectMany(s => s.Touched)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) => [Called(after, Task), new(" is one level up.")];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is MoveTask or OutdentTask) ? [new(" have a new place in the list.")] : null;

    public static PlanEdit Sample(EditSampler from) => new OutdentTask(from.Indented());
}

/// <summary>Moves a row, with all that is inside it, after a sibling (first in its phase when <c>null</c>).</summary>
public sealed record MoveTask(string Task, string? Parent, string? After) : PlanEdit, IEditKind
{
    public static string Wire => "moveTask";

    public override EditTraits Traits => new(Task, EditField.Place, EditRight.Edit);

    public override string Many => "rows moved in the list";

    internal override AppliedEdit Apply(Plan plan, EditContext context) => Move(plan, this, check: true);

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        Parent is { } phase
            ? [Called(after, Task), new(" is now in "), Called(after, phase), new(".")]
            : [Called(after, Task), new(" has a new place in the list.")];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is MoveTask or OutdentTask) ? [new(" have a new place in the list.")] : null;

    public static PlanEdit Sample(EditSampler from) =>
        new MoveTask(from.Any, from.Random.Next(3) == 0 ? null : from.Plan.Find(from.Any)!.Parent, null);
}

/// <summary>Where rows stand: order, phases, levels.</summary>
internal static class OutlineEdits
{
    /// <summary>Phases may be nested this deep.</summary>
    public const int DeepestLevel = 20;

    internal static AppliedEdit Move(Plan plan, MoveTask edit, bool check)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        var index = plan.Index;
        var row = index.RowOf(task.Id);
        if (edit.After == edit.Task)
            throw new EditRefusedException("place", "A row cannot stand after itself.", edit.Task, EditField.Place);
        if (edit.Parent is { } to && index.TryFind(to, out var target) && (target == row || index.IsDescendant(target, row)))
            throw new EditRefusedException("place", "A phase cannot go into one of its own rows.", edit.Task, EditField.Place);
        if (edit.Parent is { } into && plan.Find(into) is { Milestone: true } milestone)
            throw RefuseMilestone(milestone, edit.Task);
        var before = index.PreviousSibling(row) is var sibling and >= 0 ? plan.Tasks[sibling].Id : null;
        var block = plan.Tasks[row..index.SubtreeEnd(row)].SetItem(0, task with { Parent = edit.Parent });
        var rest = plan with { Tasks = plan.Tasks.RemoveRange(row, block.Length) };
        var at = InsertionPoint(rest, edit.Parent, edit.After, edit.Task);
        var moved = plan with { Tasks = rest.Tasks.InsertRange(at, block) };
        if (check)
            CheckOutline(moved, edit.Task);
        return new AppliedEdit(moved, edit, new MoveTask(edit.Task, task.Parent, before), [new Touch(edit.Task, EditField.Place)]);
    }

    /// <summary>The row index at which a new child of <paramref name="parent"/> goes to stand right after a sibling.</summary>
    public static int InsertionPoint(Plan plan, string? parent, string? after, string task)
    {
        var index = plan.Index;
        var parentRow = -1;
        if (parent is not null && !index.TryFind(parent, out parentRow))
            throw new EditRefusedException(
                "taskGone",
                "The phase this row was to go into is no longer in the plan.",
                task,
                EditField.Place
            );
        if (after is null)
            return parentRow + 1;
        if (!index.TryFind(after, out var sibling))
            throw new EditRefusedException(
                "taskGone",
                "The row this one was to stand after is no longer in the plan.",
                task,
                EditField.Place
            );
        if (index.ParentOf(sibling) != parentRow)
            throw new EditRefusedException("place", "The row this one was to stand after is in another phase now.", task, EditField.Place);
        return index.SubtreeEnd(sibling);
    }

    internal static void CheckOutline(Plan plan, string task)
    {
        if (plan.Index.Count > 0 && Enumerable.Range(0, plan.Index.Count).Max(plan.Index.LevelOf) > DeepestLevel)
            throw new EditRefusedException("depth", $"Phases can be at most {DeepestLevel} levels deep.", task, EditField.Place);
        if (LinkRules.FirstRefusal(plan) is var (_, problem))
            throw new EditRefusedException(problem.Code, problem.Message, task, EditField.Place);
    }

    internal static EditRefusedException RefuseMilestone(PlanTask milestone, string task) =>
        new(
            "milestonePhase",
            $"“{LengthText.Shorten(milestone.Name)}” is a milestone and cannot hold other rows: turn it into a task first.",
            task,
            EditField.Place
        );
}
