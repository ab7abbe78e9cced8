using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Words;

/// <summary>A stretch of a sentence; what matters most in it is strong.</summary>
public readonly record struct TextRun(string Text, bool Strong = false);

/// <summary>Says in a sentence or two what an edit did.</summary>
public static class RippleText
{
    /// <summary>What was changed, what moved with it, and what that did to the finish.</summary>
    /// <param name="edited">The edit with all that follows from it.</param>
    /// <param name="lead">Says what was changed; worked out from the edit when left out.</param>
    /// <param name="done">Whether it has happened; otherwise the sentence tells what would.</param>
    public static ImmutableArray<TextRun> Of(EditedPlan edited, IEnumerable<TextRun>? lead = null, bool done = true)
    {
        var runs = ImmutableArray.CreateBuilder<TextRun>();
        runs.AddRange(lead ?? Lead(edited));
        runs.Add(new TextRun(" "));
        AddMoves(runs, edited, done ? "moved" : "would move");
        AddFinish(runs, edited);
        AddSpare(runs, edited);
        AddPath(runs, edited);
        AddWarnings(runs, edited.Ripple);
        return runs.ToImmutable();
    }

    /// <summary>What the edit changed by itself.</summary>
    public static IEnumerable<TextRun> Lead(EditedPlan edited) => edited.Applied.Edit.Say(edited.Before, edited.After);

    /// <summary>Why one task stands where it does now, for the list of what moved.</summary>
    public static string WhyMoved(Move move, Schedule after)
    {
        var plan = after.Plan;
        if (move.Before.Start == move.After.Start && plan.Find(move.Task) is { IsFinished: false, Milestone: false } resized)
            return $"takes {resized.Length.InWords()} now";
        if (Reasons.HolderOf(after, plan.Index.RowOf(move.Task)) is { } holder)
            return $"waits for {LinkRules.Named(plan, holder)}";
        var task = plan.Find(move.Task)!;
        return task switch
        {
            { IsFinished: true } => "has finished",
            { IsStarted: true } => "has started",
            { Pinned: not null } => "pinned",
            { Constraint: { } constraint } => FixedDateText.Of(constraint),
            _ => plan.Project.ScheduleFrom == ScheduleFrom.Start ? "starts with the project" : "as late as the finish allows",
        };
    }

    /// <summary>"2 days later", "half a day" as "0.5 days earlier".</summary>
    public static string Shift(WorkMinutes shift, WorkUnits units)
    {
        if (shift == WorkMinutes.Zero)
            return "";
        var amount = Amount(shift.Count < 0 ? -shift : shift, units);
        return $"{amount} {(shift.Count > 0 ? "later" : "earlier")}";
    }

    private static void AddMoves(ImmutableArray<TextRun>.Builder runs, EditedPlan edited, string verb)
    {
        var own = edited.Applied.Touched.Select(t => t.Task).ToHashSet();
        var others = edited.Ripple.Moves.Count(m => !own.Contains(m.Task));
        var moved = edited.Ripple.Moves.Count;
        if (others > 0)
            runs.Add(new TextRun($"{Count(others, "other task", "other tasks")} {verb}", true));
        else if (moved > 0 && own.Count <= 1)
            runs.Add(new TextRun($"No other task {verb}"));
        else if (moved > 0)
            runs.Add(new TextRun($"{Count(moved, "task", "tasks")} {verb}", true));
        else
            runs.Add(new TextRun($"Nothing {verb}"));
        runs.Add(new TextRun("; "));
    }

    /// <summary>What became of the finish; of a project that is worked out from its finish, of its start.</summary>
    private static void AddFinish(ImmutableArray<TextRun>.Builder runs, EditedPlan edited)
    {
        var plan = edited.After.Plan;
        var fromFinish = plan.Project.ScheduleFrom == ScheduleFrom.Finish && edited.Ripple.FinishBefore == edited.Ripple.FinishAfter;
        var (end, before, after) = fromFinish
            ? ("latest start", edited.Before.Start, edited.After.Start)
            : ("finish", edited.Ripple.FinishBefore, edited.Ripple.FinishAfter);
        var (was, now) = fromFinish ? (Dates.Day(before), Dates.Day(after)) : (Dates.FinishDay(before), Dates.FinishDay(after));
        var shift = new WorkMinutes(plan.ProjectCalendar.Between(before, after));
        if (before == after || (was == now && shift == WorkMinutes.Zero))
        {
            runs.Add(new TextRun($"the {end} stays "));
            runs.Add(new TextRun(now, true));
        }
        else if (was == now)
        {
            runs.Add(new TextRun($"the {end} is {Shift(shift, plan.Project.Units)}, still on "));
            runs.Add(new TextRun(now, true));
        }
        else
        {
            runs.Add(new TextRun($"{end} "));
            runs.Add(new TextRun($"{was} → {now}", true));
        }
        if (!fromFinish)
            AddDrift(runs, edited);
        runs.Add(new TextRun("."));
        var today = PlanTime.On(edited.Today);
        if (
            plan.Project.ScheduleFrom == ScheduleFrom.Finish
            && edited.Before.Start != after
            && edited.After.Start < today
            && plan.ProjectCalendar.Between(edited.After.Start, today) is var ago and > 0
            && !plan.Tasks.Any(t => t.IsStarted)
        )
            runs.Add(new TextRun($" The latest start was {Amount(new WorkMinutes(ago), plan.Project.Units)} ago.", true));
    }

    /// <summary>How far the finish is from where the measure has it, unless it has not left it.</summary>
    private static void AddDrift(ImmutableArray<TextRun>.Builder runs, EditedPlan edited)
    {
        if (Drift.Of(edited.After) is not { } drift)
            return;
        var had = Drift.Of(edited.Before) is { } before && before.Baseline.Id == drift.Baseline.Id ? before.Finish : WorkMinutes.Zero;
        if (drift.Finish == WorkMinutes.Zero && had == WorkMinutes.Zero)
            return;
        var now = drift.Finish == had ? "" : "now ";
        var name = LengthText.Shorten(drift.Baseline.Name);
        runs.Add(new TextRun($", {now}{Against(drift.Finish, edited.After.Plan.Project.Units)} “{name}”"));
    }

    /// <summary>"3 working days behind", before the name of a baseline.</summary>
    public static string Against(WorkMinutes drift, WorkUnits units) =>
        drift.Count switch
        {
            > 0 => $"{Amount(drift, units)} behind",
            < 0 => $"{Amount(-drift, units)} ahead of",
            _ => "as in",
        };

    /// <summary>
    /// How far it is to the deadline: as planned, and, where unfinished work lies in the past, if what is left starts today.
    /// </summary>
    private static void AddSpare(ImmutableArray<TextRun>.Builder runs, EditedPlan edited)
    {
        var (ripple, units) = (edited.Ripple, edited.After.Plan.Project.Units);
        if (ripple.SpareAfter is not { } spare)
            return;
        var ahead = Outlook.Of(edited.After, edited.Today)?.Spare;
        if (ripple.FinishBefore == ripple.FinishAfter && ahead == Outlook.Of(edited.Before, edited.Today)?.Spare)
            return;
        var still = ripple.SpareBefore is { } before && before.Count < 0 == spare.Count < 0 ? "Still" : "Now";
        var text = spare.Count switch
        {
            > 0 => $" {still} {Amount(spare, units)} ahead of the deadline",
            < 0 => $" {still} {Amount(-spare, units)} past the deadline",
            _ => " That is just on the deadline",
        };
        if (ahead is { } left)
            text +=
                " as planned, and "
                + (
                    left.Count < 0 ? $"{Amount(-left, units)} past it"
                    : left.Count > 0 ? $"{Amount(left, units)} ahead of it"
                    : "just on it"
                )
                + " if what is left starts today";
        runs.Add(new TextRun(text + ".", spare.Count < 0 || ahead?.Count < 0));
    }

    /// <summary>Names what sets the finish when that is something else than before, and not what was edited.</summary>
    private static void AddPath(ImmutableArray<TextRun>.Builder runs, EditedPlan edited)
    {
        if (!edited.Ripple.PathChanged || edited.Ripple.FinishBefore == edited.Ripple.FinishAfter)
            return;
        var known = edited.Before.FinishPath.Concat(edited.Applied.Touched.Select(t => t.Task)).ToHashSet();
        if (edited.Ripple.Path.FirstOrDefault(id => !known.Contains(id)) is not { } other)
            return;
        runs.Add(new TextRun(" The critical path now runs through "));
        runs.Add(new TextRun(LengthText.Shorten(edited.After.Plan.Find(other)!.Name), true));
        runs.Add(new TextRun("."));
    }

    /// <summary>What is broken now, or no longer. The finish itself has been spoken of.</summary>
    private static void AddWarnings(ImmutableArray<TextRun>.Builder runs, Ripple ripple)
    {
        var fresh = ripple.NewWarnings.Where(w => w.Code != WarningCode.W4).ToList();
        if (fresh.Count > 0)
            runs.Add(new TextRun(" " + fresh[0].Message));
        if (fresh.Count > 1)
            runs.Add(new TextRun($" {Count(fresh.Count - 1, "more warning", "more warnings")}.", true));
        var gone = ripple.GoneWarnings.Count(w => w.Code != WarningCode.W4);
        if (gone > 0)
            runs.Add(new TextRun($" {Count(gone, "warning is", "warnings are")} gone."));
    }

    private static string Amount(WorkMinutes minutes, WorkUnits units)
    {
        return DurationText.Of(minutes, units).Replace(" day", " working day");
    }

    private static string Count(int count, string one, string many) => $"{count} {(count == 1 ? one : many)}";
}
