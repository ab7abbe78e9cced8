using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.WorkEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>The pauses in a task's work, in order.</summary>
public sealed record SetSplits(string Task, ImmutableArray<Split> Splits) : PlanEdit, IEditKind
{
    public static string Wire => "setSplits";

    public override EditTraits Traits => new(Task, EditField.Splits, EditRight.Edit);

    public override string Many => "pauses changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (!Splits.IsDefaultOrEmpty)
            TaskEdits.RefusePhase(plan, task, EditField.Splits, "pauses are those of the rows inside it: set theirs");
        var splits = Splits.IsDefault ? [] : Splits;
        if (SplitRules.WhyRefused(splits, task.Milestone ? Length.Zero : task.Length, plan.Project.Units) is var (_, why))
            throw new EditRefusedException("split", why, task.Id, EditField.Splits);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Splits = splits,
            },
            this with
            {
                Splits = splits,
            },
            this with
            {
                Splits = task.Splits,
            },
            EditField.Splits
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Splits.IsDefaultOrEmpty: true } => [Called(after, Task), new(" is worked on without a pause.")],
            { Splits: [var split] } =>
            [
                Called(after, Task),
                new($" pauses for {split.For.InWords()} after {split.After.InWords()} of work."),
            ],
            _ => [Called(after, Task), new($" pauses {Splits.Length} times.")],
        };

    public static PlanEdit Sample(EditSampler from) =>
        new SetSplits(from.Leaf, from.Flip ? [] : [new Split(new Length(2, LengthUnit.Hours), Length.OneDay)]);
}

/// <summary>What is left of a task that has started goes on on a later day: until then it pauses where it is.</summary>
public sealed record ResumeTask(string Task, DateOrTime On) : UndecidedEdit, IEditKind
{
    public static string Wire => "resumeTask";

    public override EditTraits Traits => new(Task, EditField.Splits, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        TaskEdits.RefusePhase(plan, task, EditField.Splits, "work is that of the rows inside it: let those go on later");
        TaskEdits.RefuseInactive(plan, task, EditField.Splits);
        if (task is not { IsStarted: true, IsFinished: false })
            throw new EditRefusedException(
                "notBegun",
                $"“{LengthText.Shorten(task.Name)}” is not under way, so there is no rest of it: give it another start instead.",
                task.Id,
                EditField.Splits
            );
        var (calendar, units, length) = (plan.EffectiveCalendar(task), plan.Project.Units, plan.LengthOf(task).Count);
        // A pause comes after some work: of what has only begun, after its first minute.
        var done = Math.Max(1, InProgressWork.Of(plan.Project with { MoveUnfinishedWork = false }, task, calendar, length).Done);
        var before = task.Splits.Where(s => units.Minutes(s.After).Count < done).ToImmutableArray();
        var reached = calendar.Add(task.ActualStart!.Value, done + before.Sum(s => units.Minutes(s.For).Count));
        var pause = calendar.Between(reached, On.AsStart(calendar));
        if (pause <= 0)
            throw new EditRefusedException(
                "resume",
                $"The rest of “{LengthText.Shorten(task.Name)}” goes on on {Dates.Day(calendar.Next(reached))} as it is: give a later "
                    + "working day.",
                task.Id,
                EditField.Splits
            );
        var split = new Split(units.ToLength(new WorkMinutes(done)), units.ToLength(new WorkMinutes(pause)));
        var after = task.Splits.Where(s => units.Minutes(s.After).Count > done);
        return new SetSplits(task.Id, [.. before, split, .. after]).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new ResumeTask(from.Begun(), from.Day(8, 40));
}

/// <summary>The calendar a task works by, besides its owner's; <c>null</c> for none of its own.</summary>
public sealed record SetTaskCalendar(string Task, string? Calendar) : PlanEdit, IEditKind
{
    public static string Wire => "setTaskCalendar";

    public override EditTraits Traits => new(Task, EditField.Calendar, EditRight.Edit);

    public override string Many => "calendars of tasks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        CalendarEdits.CheckKnown(plan, Calendar, task.Id, EditField.Calendar);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Calendar = Calendar,
            },
            this,
            this with
            {
                Calendar = task.Calendar,
            },
            EditField.Calendar
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Calendar: { } calendar } =>
            [
                Called(after, Task),
                new(" goes by the calendar "),
                CalendarCalled(before, after, calendar),
                new("."),
            ],
            _ => [Called(after, Task), new(" has no calendar of its own.")],
        };

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetTaskCalendar s && s.Calendar == Calendar)
            ? Calendar is { } id
                ? [new(" go by the calendar "), new(after.Plan.CalendarBook.Find(id)?.Name ?? id, true), new(".")]
                : [new(" have no calendar of their own.")]
            : null;

    public static PlanEdit Sample(EditSampler from) => new SetTaskCalendar(from.Any, from.Flip ? "a" : null);
}

/// <summary>Whether a task's length counts every minute of the clock.</summary>
public sealed record SetAroundTheClock(string Task, bool On) : PlanEdit, IEditKind
{
    public static string Wire => "setAroundTheClock";

    public override EditTraits Traits => new(Task, EditField.Calendar, EditRight.Edit);

    public override string Many => "calendars of tasks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        return PlanEditor.Changed(
            plan,
            task with
            {
                AroundTheClock = On,
            },
            this,
            this with
            {
                On = task.AroundTheClock,
            },
            EditField.Calendar
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, Task), new(On ? " goes on round the clock." : " is worked on in working time only.")];

    public static PlanEdit Sample(EditSampler from) => new SetAroundTheClock(from.Any, from.Flip);
}

/// <summary>What a task takes at best, most likely and at worst, in that order; <c>null</c> for no range.</summary>
public sealed record SetEstimate(string Task, LengthEstimate? Estimate) : PlanEdit, IEditKind
{
    public static string Wire => "setEstimate";

    public override EditTraits Traits => new(Task, EditField.Estimate, EditRight.Edit);

    public override string Many => "ranges of lengths changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Estimate is not null)
            TaskEdits.RefusePhase(plan, task, EditField.Estimate, "range follows from the rows inside it: estimate those");
        if (Estimate is { } estimate && SplitRules.WhyRefused(estimate, task.Milestone, plan.Project.Units) is { } why)
            throw new EditRefusedException("estimate", why, task.Id, EditField.Estimate);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Estimate = Estimate,
            },
            this,
            this with
            {
                Estimate = task.Estimate,
            },
            EditField.Estimate
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        this switch
        {
            { Estimate: { } range } =>
            [
                Called(after, Task),
                new($" may take {range.Low.InWords()} to {range.High.InWords()}, most likely {range.Likely.InWords()}."),
            ],
            _ => [Called(after, Task), new(" has no range of lengths now.")],
        };

    public static PlanEdit Sample(EditSampler from) =>
        new SetEstimate(from.Leaf, from.Random.Next(3) == 0 ? null : new(Length.OneDay, Length.Days(2), Length.Days(9)));
}

/// <summary>Whether a row, with all that is inside it, is active.</summary>
public sealed record SetActive(string Task, bool On) : PlanEdit, IEditKind
{
    public static string Wire => "setActive";

    public override EditTraits Traits => new(Task, EditField.Active, EditRight.Edit);

    public override string Many => "rows taken in or out";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        return PlanEditor.Changed(plan, task with { Active = On }, this, this with { On = task.Active }, EditField.Active);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, Task), new(TakesPart(after.Plan.Find(Task)!, On, after.Plan))];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetActive s && s.On == On) ? [new(On ? " are active again." : " are now inactive.")] : null;

    public static PlanEdit Sample(EditSampler from) => new SetActive(from.Any, from.Flip);
}

/// <summary>When and how a task is worked on: its calendar, its pauses, the range of its length, whether it is active.</summary>
internal static class WorkEdits
{
    /// <summary>Of an occurrence its day is named, of a phase what is in it.</summary>
    internal static string TakesPart(PlanTask task, bool on, Plan plan)
    {
        var row = plan.Index.RowOf(task.Id);
        if (task.Occurrence is { } day)
            return on ? $" takes place on {Dates.Day(day)} after all." : $" is skipped on {Dates.Day(day)}.";
        var inside = plan.Index.SubtreeEnd(row) - row - 1;
        var with = inside == 0 ? "" : $", with the {(inside == 1 ? "row" : $"{inside} rows")} inside it,";
        return on ? $"{with} is active again." : $"{with} is now inactive.";
    }
}
