using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>The one place that applies edits to plans. Each kind of edit is worked out in the class named after its subject.</summary>
public static class PlanEditor
{
    /// <summary>An edit of several holds at most this many.</summary>
    public const int MostTogether = 15_000;

    /// <param name="plan">The plan as it is; <see cref="EditContext.Schedule"/> has its dates.</param>
    /// <exception cref="EditRefusedException">The edit makes no sense on this plan. Circles are found when dates are worked
    /// out.</exception>
    public static AppliedEdit Apply(Plan plan, PlanEdit edit, EditContext context) =>
        edit switch
        {
            AddTask e => RowEdits.Add(plan, e),
            RemoveTasks e => RowEdits.Remove(plan, e),
            RestoreTasks e => RowEdits.Restore(plan, e),
            CopyTasks e => RowEdits.Copy(plan, e),
            IndentTask e => OutlineEdits.Indent(plan, e),
            OutdentTask e => OutlineEdits.Outdent(plan, e),
            MoveTask e => OutlineEdits.Move(plan, e),
            RenameTask e => TaskEdits.Rename(plan, e),
            SetLength e => TaskEdits.SetLength(plan, e),
            SetNote e => TaskEdits.SetNote(plan, e),
            SetMilestone e => TaskEdits.SetMilestone(plan, e),
            SetKey e => MarkEdits.SetKey(plan, e),
            SetColour e => MarkEdits.SetColour(plan, e),
            SetLabel e => MarkEdits.SetLabel(plan, e),
            SetChecklist e => MarkEdits.SetChecklist(plan, e),
            SetReferences e => MarkEdits.SetReferences(plan, e),
            SetPriority e => MarkEdits.SetPriority(plan, e),
            RepeatTask e => SeriesEdits.Repeat(plan, e, context),
            ExtendSeries e => SeriesEdits.Extend(plan, e, context),
            KeepSeries e => SeriesEdits.Keep(plan, e, context),
            SetRepeat e => SeriesEdits.Set(plan, e),
            SetOwner e => PeopleEdits.SetOwner(plan, e, context),
            AddHelper e => PeopleEdits.AddHelper(plan, e, context),
            SetAssignments e => PeopleEdits.SetAssignments(plan, e, context),
            JoinPlan e => PeopleEdits.Join(plan, e, context),
            SetOwnTime e => PeopleEdits.SetOwnTime(plan, e, context),
            SetCoordinator e => PeopleEdits.SetCoordinator(plan, e),
            LeavePlan e => PeopleEdits.Leave(plan, e),
            TypePredecessors e => LinkEdits.Type(plan, e),
            SetPredecessors e => LinkEdits.Set(plan, e),
            LinkTasks e => LinkEdits.Link(plan, e),
            UnlinkTasks e => LinkEdits.Unlink(plan, e),
            StartTask e => TrackingEdits.Start(plan, e, context),
            ReportProgress e => TrackingEdits.Report(plan, e, context),
            FinishTask e => TrackingEdits.Finish(plan, e, context),
            ReopenTask e => TrackingEdits.Reopen(plan, e),
            SetRemaining e => TrackingEdits.SetRemaining(plan, e),
            SetTracking e => TrackingEdits.Set(plan, e),
            PlaceTask e => DateEdits.Place(plan, e, context),
            ShiftTasks e => DateEdits.Shift(plan, e, context),
            SetFixedDates e => DateEdits.Set(plan, e),
            SetConstraint e => DateEdits.Constrain(plan, e),
            PinTask e => DateEdits.Pin(plan, e),
            SetDeadline e => DateEdits.SetDeadline(plan, e),
            SetSplits e => WorkEdits.SetSplits(plan, e),
            ResumeTask e => WorkEdits.Resume(plan, e),
            SetTaskCalendar e => WorkEdits.SetCalendar(plan, e),
            SetAroundTheClock e => WorkEdits.SetAroundTheClock(plan, e),
            SetEstimate e => WorkEdits.SetEstimate(plan, e),
            SetActive e => WorkEdits.SetActive(plan, e),
            StretchTask e => DateEdits.Stretch(plan, e, context),
            SetFinish e => DateEdits.SetFinish(plan, e, context),
            RenameProject e => ProjectEdits.Rename(plan, e),
            SetProjectStart e => ProjectEdits.SetStart(plan, e),
            SetProjectFinish e => ProjectEdits.SetFinish(plan, e),
            SetAnchor e => ProjectEdits.SetAnchor(plan, e),
            SetStatusDate e => ProjectEdits.SetStatusDate(plan, e),
            SetWorkUnits e => ProjectEdits.SetWorkUnits(plan, e),
            SetProjectCalendar e => ProjectEdits.SetCalendar(plan, e),
            SetCriticality e => ProjectEdits.SetCriticality(plan, e),
            SaveCalendar e => CalendarEdits.Save(plan, e),
            RemoveCalendar e => CalendarEdits.Remove(plan, e),
            SetPersonCalendar e => PeopleEdits.SetCalendar(plan, e),
            SetFinishBy e => ProjectEdits.SetFinishBy(plan, e),
            SetPeriods e => ProjectEdits.SetPeriods(plan, e),
            Together e => ApplyAll(plan, e.Edits, context),
            _ => throw new ArgumentException($"{edit.GetType().Name} is not an edit this editor knows.", nameof(edit)),
        };

    /// <summary>Applies edits one after another as one.</summary>
    internal static AppliedEdit ApplyAll(Plan plan, ImmutableArray<PlanEdit> edits, EditContext context)
    {
        if (edits.Length > MostTogether)
            throw new EditRefusedException("tooMany", $"At most {MostTogether:N0} edits can be made together.");
        var done = new List<AppliedEdit>(edits.Length);
        // What all of it costs is known before any of it is done.
        context.Spend((long)edits.Length * (plan.Tasks.Length + edits.Length / 2));
        foreach (var edit in edits)
        {
            context.Spend(0);
            done.Add(Apply(plan, edit, context));
            plan = done[^1].Plan;
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
