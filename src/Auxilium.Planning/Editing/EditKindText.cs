namespace Auxilium.Planning.Editing;

/// <summary>What many edits of a kind are called, after how many they are.</summary>
internal static class EditKindText
{
    public static string Of(PlanEdit edit) =>
        edit switch
        {
            AddTask or CopyTasks or RestoreTasks => "rows added",
            RemoveTasks => "removals of rows",
            RenameTask => "rows renamed",
            IndentTask or OutdentTask or MoveTask => "rows moved in the list",
            SetLength or SetFinish or StretchTask => "lengths changed",
            SetMilestone => "milestones set or taken away",
            SetAssignments or SetOwner or AddHelper => "owners or helpers changed",
            SetPredecessors or TypePredecessors or LinkTasks => "links set",
            UnlinkTasks => "links taken away",
            SetTracking or StartTask or ReportProgress or FinishTask or ReopenTask or SetRemaining => "reports of progress",
            SetFixedDates or PlaceTask or ShiftTasks or SetConstraint or PinTask => "fixed dates changed",
            SetDeadline => "deadlines changed",
            SetSplits or ResumeTask => "pauses changed",
            SetTaskCalendar or SetAroundTheClock => "calendars of tasks changed",
            SetEstimate => "ranges of lengths changed",
            SetActive => "rows taken in or out",
            SetNote => "notes changed",
            SetKey or SetColour or SetLabel or SetPriority => "marks changed",
            SetChecklist => "checklists changed",
            SetReferences => "links to pages changed",
            RepeatTask or ExtendSeries or KeepSeries or SetRepeat => "repeat rules changed",
            SaveCalendar or RemoveCalendar => "calendars changed",
            _ => "settings of the project changed",
        };
}
