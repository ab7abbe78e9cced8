using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>Applies edits to plans, and does what many kinds of them have to do.</summary>
public static class PlanEditor
{
    /// <summary>An edit of several holds at most this many.</summary>
    public const int MostTogether = 15_000;

    /// <inheritdoc cref="PlanEdit.Apply"/>
    public static AppliedEdit Apply(Plan plan, PlanEdit edit, EditContext context) => edit.Apply(plan, context);

    /// <summary>Applies edits one after another as one.</summary>
    internal static AppliedEdit ApplyAll(Plan plan, ImmutableArray<PlanEdit> edits, EditContext context)
    {
        if (edits.Length > MostTogether)
            throw new EditRefusedException("tooMany", $"At most {MostTogether:N0} edits can be made together.");
        // Without the plans in between: of thousands of edits, they would fill the memory.
        var done = new List<(PlanEdit Edit, PlanEdit Inverse, IReadOnlyList<Touch> Touched)>(edits.Length);
        // What all of it costs is known before any of it is done.
        context.Spend((long)edits.Length * (plan.Tasks.Length + edits.Length / 2));
        foreach (var edit in edits)
        {
            context.Spend(0);
            var applied = Apply(plan, edit, context);
            done.Add((applied.Edit, applied.Inverse, applied.Touched));
            plan = applied.Plan;
        }
        return new AppliedEdit(
            plan,
            new Together([.. done.Select(d => d.Edit)]),
            new Together([.. done.Select(d => d.Inverse).Reverse()]),
            [.. done.SelectMany(d => d.Touched).Distinct()]
        );
    }

    internal static PlanTask TaskOf(Plan plan, string id) =>
        plan.Find(id) ?? throw new EditRefusedException("taskGone", "This row is no longer in the plan: somebody has removed it.", id);

    /// <summary>The positions of rows and of all inside them, in order.</summary>
    internal static SortedSet<int> WithInside(Plan plan, ImmutableArray<string> tasks)
    {
        var rows = new SortedSet<int>();
        foreach (var id in tasks)
        {
            var row = plan.Index.RowOf(TaskOf(plan, id).Id);
            for (var inside = row; inside < plan.Index.SubtreeEnd(row); inside++)
                rows.Add(inside);
        }
        return rows;
    }

    internal static Plan Replace(Plan plan, PlanTask task) => plan with { Tasks = plan.Tasks.SetItem(plan.Index.RowOf(task.Id), task) };

    /// <summary>An edit of one field of one task.</summary>
    internal static AppliedEdit Changed(Plan plan, PlanTask task, PlanEdit edit, PlanEdit inverse, EditField field) =>
        new(Replace(plan, task), edit, inverse, [new Touch(task.Id, field)]);
}
