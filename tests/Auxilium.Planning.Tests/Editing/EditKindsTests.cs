using Auxilium.Planning.Editing;

namespace Auxilium.Planning.Tests.Editing;

/// <summary>The list of all kinds of edits, which everything that goes through every kind is driven by.</summary>
public class EditKindsTests
{
    /// <summary>
    /// What journals hold: an edit that was kept under one of these names is still read and taken back. None is ever taken off this list.
    /// </summary>
    private const string KeptNames = """
        addTask removeTasks restoreTasks copyTasks renameTask setLength setOwner setAssignments addHelper setOwnTime
        setCoordinator joinPlan leavePlan typePredecessors setPredecessors linkTasks unlinkTasks indentTask outdentTask
        moveTask setMilestone startTask reportProgress finishTask reopenTask setRemaining setTracking placeTask
        shiftTasks setConstraint pinTask setDeadline setSplits resumeTask setTaskCalendar setAroundTheClock setEstimate
        setActive setFixedDates setFinish setNote setKey setColour setLabel setChecklist setReferences setPriority
        repeatTask extendSeries keepSeries setRepeat stretchTask renameProject setProjectStart setProjectFinish
        setAnchor setStatusDate setWorkUnits setProjectCalendar setCriticality saveCalendar removeCalendar
        setPersonCalendar setPeriods setFinishBy together setEffort takeBaseline takePastBaseline addBaseline renameBaseline
        deleteBaseline setMeasure setDeliveredBy setServes setReminders setProjectStatus setProjectColour setProjectPriority
        setProjectNote
        """;

    [Fact]
    public void Every_class_of_edit_stands_in_the_list_once()
    {
        var classes = typeof(PlanEdit).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(PlanEdit)) && !t.IsAbstract);
        var listed = EditKinds.All.Select(kind => kind.Type.IsGenericType ? kind.Type.GetGenericTypeDefinition() : kind.Type);
        Assert.Equal(classes.OrderBy(t => t.Name), listed.Distinct().OrderBy(t => t.Name));
        Assert.Distinct(EditKinds.All.Select(kind => kind.Wire));
    }

    [Fact]
    public void Every_name_that_a_journal_may_hold_is_still_known() =>
        Assert.Empty(
            KeptNames.Split([' ', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries).Except(EditKinds.All.Select(kind => kind.Wire))
        );

    [Fact]
    public void What_is_typed_is_told_only_once_it_is_decided() =>
        Assert.Throws<System.Diagnostics.UnreachableException>(() => new SetOwner("a", "Ann").Many);
}
