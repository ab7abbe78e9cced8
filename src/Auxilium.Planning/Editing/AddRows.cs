using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Editing;

/// <summary>
/// Whole rows at once, as a long list gives them: after a sibling (first in the phase when <c>null</c>), with the links that lead to
/// them.
/// </summary>
/// <param name="Rows">In outline order; those at the top name <paramref name="Parent"/> as theirs.</param>
public sealed record AddRows(ImmutableArray<PlanTask> Rows, ImmutableArray<PlanLink> Links, string? Parent = null, string? After = null)
    : PlanEdit,
        IEditKind,
        ITrustedEdit
{
    public static string Wire => "addRows";

    public override EditTraits Traits => new(null, EditField.None, EditRight.Edit);

    public override string Many => "rows added";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (Rows.IsDefaultOrEmpty)
            throw new EditRefusedException("nothing", "There are no rows to add.");
        RowEdits.RefuseMore(plan, Rows.Length, null);
        if (Rows.FirstOrDefault(row => plan.Find(row.Id) is not null) is { } twice)
            throw new EditRefusedException("id", $"The plan already has a row with the id “{twice.Id}”.", twice.Id);
        if (Parent is { } parent && plan.Find(parent) is { Milestone: true } milestone)
            throw OutlineEdits.RefuseMilestone(milestone, parent);
        var at = OutlineEdits.InsertionPoint(plan, Parent, After, Rows[0].Id);
        var after = plan with { Tasks = plan.Tasks.InsertRange(at, Rows), Links = plan.Links.AddRange(Links) };
        OutlineEdits.CheckOutline(after, Rows[0].Id);
        var top = Rows.Where(row => row.Parent == Parent).Select(row => row.Id);
        return new AppliedEdit(after, this, new RemoveTasks([.. top]), [.. Rows.Select(row => Touch.Row(row.Id))]);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        Rows.Length == 1 ? [EditText.Called(after, Rows[0].Id), new(" added.")] : [new($"{Rows.Length:N0} rows", true), new(" added.")];

    internal override bool IsLeft(Schedule before, Schedule after) => Rows.Any(row => after.Plan.Find(row.Id) is not null);

    public static PlanEdit Sample(EditSampler from)
    {
        var parent = from.Plan.Find(from.Any)!.Parent;
        return new AddRows(
            [
                PlanTask.Named("more-1", "Stage", parent),
                PlanTask.Named("more-2", "Build", "more-1"),
                PlanTask.Named("more-3", "Open", parent),
            ],
            [new PlanLink("more-2", "more-3")],
            parent
        );
    }
}
