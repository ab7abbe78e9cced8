using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>An edit with everything that follows from it.</summary>
/// <param name="Today">The day it was made.</param>
public sealed record EditedPlan(AppliedEdit Applied, Schedule Before, Schedule After, Ripple Ripple, DateOnly Today);

/// <summary>The one way a plan changes: apply the edit, work out the dates, say what moved.</summary>
public static class EditPipeline
{
    /// <param name="before">The plan with its dates.</param>
    /// <param name="edit">What is to change.</param>
    /// <param name="today">The day it is.</param>
    /// <param name="directory">The people of the organisation.</param>
    /// <param name="left">Those who have left it.</param>
    /// <param name="spoken">Rows with comments or files.</param>
    /// <param name="takenBack">Whether it takes another edit back.</param>
    /// <param name="cancel">Ends it early.</param>
    /// <exception cref="EditRefusedException">The edit makes no sense on this plan, costs too much, or no schedule can honour what it
    /// asks.</exception>
    /// <exception cref="OperationCanceledException">It was ended early.</exception>
    public static EditedPlan Run(
        Schedule before,
        PlanEdit edit,
        DateOnly today,
        IReadOnlyList<Person> directory,
        IReadOnlyList<Person>? left = null,
        IReadOnlySet<string>? spoken = null,
        bool takenBack = false,
        CancellationToken cancel = default
    )
    {
        try
        {
            var applied = PlanEditor.Apply(
                before.Plan,
                edit,
                new EditContext(before, today, directory, left)
                {
                    Cancel = cancel,
                    Spoken = spoken ?? new HashSet<string>(),
                    IsTakenBack = takenBack,
                }
            );
            var now = applied.Plan;
            if (
                applied.Touched.Any(t =>
                    t.Field
                        is EditField.None
                            or EditField.Owner
                            or EditField.Calendar
                            or EditField.Calendars
                            or EditField.People
                            or EditField.ProjectCalendar
                ) && PlanCost.WhyTooMuch(now) is { } why
            )
                throw new EditRefusedException("tooMuch", why, TaskOf(edit), EditField.Calendars);
            var after = Scheduler.Calculate(now, before, cancel);
            return new EditedPlan(applied, before, after, Ripple.Between(before, after), today);
        }
        catch (UnsoundPlanException unsound)
        {
            var problem = unsound.Problems[0];
            throw new EditRefusedException(problem.Code, problem.Message, TaskOf(edit), FieldOf(edit));
        }
    }

    /// <summary>An edit with all that it is made of, however it is put together.</summary>
    public static IEnumerable<PlanEdit> PartsOf(PlanEdit edit) => edit is Together together ? together.Edits.SelectMany(PartsOf) : [edit];

    /// <summary>The row an edit was made in.</summary>
    public static string? TaskOf(PlanEdit edit) =>
        edit switch
        {
            AddTask e => e.Id,
            RenameTask e => e.Task,
            IndentTask e => e.Task,
            OutdentTask e => e.Task,
            MoveTask e => e.Task,
            SetLength e => e.Task,
            SetMilestone e => e.Task,
            SetOwner e => e.Task,
            SetAssignments e => e.Task,
            AddHelper e => e.Task,
            TypePredecessors e => e.Task,
            SetPredecessors e => e.Task,
            StartTask e => e.Task,
            ReportProgress e => e.Task,
            FinishTask e => e.Task,
            SetTracking e => e.Task,
            ReopenTask e => e.Task,
            PlaceTask e => e.Task,
            SetFixedDates e => e.Task,
            SetFinish e => e.Task,
            StretchTask e => e.Task,
            LinkTasks e => e.To,
            UnlinkTasks e => e.To,
            SetRemaining e => e.Task,
            SetConstraint e => e.Task,
            PinTask e => e.Task,
            SetDeadline e => e.Task,
            SetSplits e => e.Task,
            ResumeTask e => e.Task,
            SetTaskCalendar e => e.Task,
            SetNote e => e.Task,
            SetAroundTheClock e => e.Task,
            SetEstimate e => e.Task,
            SetActive e => e.Task,
            SetKey e => e.Task,
            SetColour e => e.Task,
            SetLabel e => e.Task,
            SetChecklist e => e.Task,
            SetReferences e => e.Task,
            SetPriority e => e.Task,
            RepeatTask e => e.Task,
            ExtendSeries e => e.Task,
            KeepSeries e => e.Task,
            SetRepeat e => e.Task,
            _ => null,
        };

    /// <summary>The part of the row an edit was made in.</summary>
    private static EditField FieldOf(PlanEdit edit) =>
        edit switch
        {
            AddTask => EditField.Name,
            IndentTask or OutdentTask or MoveTask => EditField.Place,
            SetLength or SetMilestone => EditField.Length,
            SetOwner or SetAssignments or AddHelper => EditField.Owner,
            TypePredecessors or SetPredecessors or LinkTasks or UnlinkTasks => EditField.After,
            StartTask or ReportProgress or FinishTask or ReopenTask or SetTracking => EditField.Progress,
            PlaceTask or StretchTask or SetFixedDates or SetConstraint or PinTask => EditField.Start,
            SetFinish => EditField.Finish,
            SetRemaining => EditField.Remaining,
            SetDeadline => EditField.Deadline,
            SetSplits or ResumeTask => EditField.Splits,
            SetTaskCalendar or SetAroundTheClock => EditField.Calendar,
            SetEstimate => EditField.Estimate,
            SetActive => EditField.Active,
            SetNote => EditField.Note,
            SetKey => EditField.Key,
            SetColour => EditField.Colour,
            SetLabel => EditField.Label,
            SetChecklist => EditField.Checklist,
            SetReferences => EditField.References,
            SetPriority => EditField.Priority,
            RepeatTask or ExtendSeries or KeepSeries or SetRepeat => EditField.Repeat,
            SetProjectStart => EditField.ProjectStart,
            SetProjectFinish or SetAnchor => EditField.ProjectFinish,
            SetStatusDate => EditField.StatusDate,
            SetWorkUnits => EditField.WorkUnits,
            SetProjectCalendar => EditField.ProjectCalendar,
            SetCriticality => EditField.Criticality,
            SaveCalendar or RemoveCalendar => EditField.Calendars,
            SetPersonCalendar or SetOwnTime => EditField.People,
            SetCoordinator => EditField.Coordinator,
            SetFinishBy => EditField.FinishBy,
            SetPeriods => EditField.Periods,
            _ => EditField.None,
        };
}
