using System.Collections.Immutable;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>What a kind of edit says about itself without there being one.</summary>
public interface IEditKind
{
    /// <summary>
    /// Its name in JSON and in the journal. It stays when the class is renamed: what was kept years ago is still read by it.
    /// </summary>
    static abstract string Wire { get; }

    /// <summary>A random edit of the kind, such as may be applied or refused.</summary>
    static abstract PlanEdit Sample(EditSampler from);
}

/// <summary>A kind of edit, as all that goes through every kind has it: JSON, the description of the API, and the tests.</summary>
/// <param name="Wire">Its name in JSON.</param>
/// <param name="Type">Its class.</param>
public sealed record EditKind(string Wire, Type Type, Func<EditSampler, PlanEdit> Draw)
{
    /// <summary>
    /// A random edit of the kind, with the plan that it is made on: the one given, or that with what such an edit needs.
    /// </summary>
    public (Plan Plan, PlanEdit Edit) Sample(Random random, Plan plan)
    {
        var sampler = new EditSampler(random, plan);
        var edit = Draw(sampler);
        return (sampler.Plan, edit);
    }

    internal static EditKind Of<T>()
        where T : PlanEdit, IEditKind => new(T.Wire, typeof(T), T.Sample);

    public override string ToString() => Wire;
}

/// <summary>Every kind of edit there is.</summary>
public static class EditKinds
{
    public static ImmutableArray<EditKind> All { get; } =
    [
        EditKind.Of<AddTask>(),
        EditKind.Of<AddRows>(),
        EditKind.Of<RemoveTasks>(),
        EditKind.Of<RestoreTasks>(),
        EditKind.Of<CopyTasks>(),
        EditKind.Of<RenameTask>(),
        EditKind.Of<SetLength>(),
        EditKind.Of<SetOwner>(),
        EditKind.Of<SetAssignments>(),
        EditKind.Of<TakeTask>(),
        EditKind.Of<AddHelper>(),
        EditKind.Of<SetOwnTime>(),
        EditKind.Of<SetCoordinator>(),
        EditKind.Of<JoinPlan>(),
        EditKind.Of<LeavePlan>(),
        EditKind.Of<TypePredecessors>(),
        EditKind.Of<SetPredecessors>(),
        EditKind.Of<LinkTasks>(),
        EditKind.Of<UnlinkTasks>(),
        EditKind.Of<IndentTask>(),
        EditKind.Of<OutdentTask>(),
        EditKind.Of<MoveTask>(),
        EditKind.Of<SetMilestone>(),
        EditKind.Of<StartTask>(),
        EditKind.Of<ReportProgress>(),
        EditKind.Of<FinishTask>(),
        EditKind.Of<ReopenTask>(),
        EditKind.Of<SetRemaining>(),
        EditKind.Of<SetTracking>(),
        EditKind.Of<PlaceTask>(),
        EditKind.Of<ShiftTasks>(),
        EditKind.Of<SetConstraint>(),
        EditKind.Of<PinTask>(),
        EditKind.Of<SetDeadline>(),
        EditKind.Of<SetSplits>(),
        EditKind.Of<ResumeTask>(),
        EditKind.Of<SetTaskCalendar>(),
        EditKind.Of<SetAroundTheClock>(),
        EditKind.Of<SetEstimate>(),
        EditKind.Of<SetActive>(),
        EditKind.Of<SetFixedDates>(),
        EditKind.Of<SetFinish>(),
        EditKind.Of<DelayTasks>(),
        EditKind.Of<ReleaseLevelling>(),
        EditKind.Of<SetNote>(),
        EditKind.Of<SetChecklist>(),
        EditKind.Of<SetReferences>(),
        EditKind.Of<RepeatTask>(),
        EditKind.Of<ExtendSeries>(),
        EditKind.Of<KeepSeries>(),
        EditKind.Of<SetRepeat>(),
        EditKind.Of<StretchTask>(),
        EditKind.Of<RenameProject>(),
        EditKind.Of<SetProjectStart>(),
        EditKind.Of<SetProjectFinish>(),
        EditKind.Of<SetAnchor>(),
        EditKind.Of<SetStatusDate>(),
        EditKind.Of<SetWorkUnits>(),
        EditKind.Of<SetProjectCalendar>(),
        EditKind.Of<SetCriticality>(),
        EditKind.Of<SaveCalendar>(),
        EditKind.Of<RemoveCalendar>(),
        EditKind.Of<SetPersonCalendar>(),
        EditKind.Of<SetPeriods>(),
        EditKind.Of<SetFinishBy>(),
        EditKind.Of<SetEffort>(),
        EditKind.Of<TakeBaseline>(),
        EditKind.Of<TakePastBaseline>(),
        EditKind.Of<AddBaseline>(),
        EditKind.Of<RenameBaseline>(),
        EditKind.Of<DeleteBaseline>(),
        EditKind.Of<SetMeasure>(),
        EditKind.Of<SetReminders>(),
        EditKind.Of<SetProjectStatus>(),
        EditKind.Of<SetProjectColour>(),
        EditKind.Of<SetProjectPriority>(),
        EditKind.Of<SetProjectNote>(),
        EditKind.Of<SetFields>(),
        EditKind.Of<SetProjectOwn>(),
        EditKind.Of<SetOwn>(),
        EditKind.Of<Together>(),
        .. PlainFacts.All.Select(fact => fact.Edit),
    ];
}
