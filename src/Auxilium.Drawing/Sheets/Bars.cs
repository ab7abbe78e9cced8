using Auxilium.Drawing.Ink;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>The bars, pennants and trays of a timeline: the shapes of the screen.</summary>
internal sealed class Bars(Schedule schedule, DateOnly today, TimeAxis axis, Shown shown)
{
    public const float Tall = 15;

    private const float Least = 5;
    private static readonly float[] Dotted = [1.5f, 4];
    private static readonly float[] Dashed = [5, 3];

    private readonly TaskStates _states = new(schedule, today);
    private readonly Drift? _drift = shown.HasFlag(Shown.Planned) ? Drift.Of(schedule) : null;

    private bool HasStates => shown.HasFlag(Shown.States);

    private bool HasFloat => shown.HasFlag(Shown.Spare);

    public TaskState StateOf(int row) => _states.Of(row);

    public static bool IsMilestone(Schedule schedule, int row) =>
        schedule.IsLeaf(row) && (schedule.Plan.Tasks[row].Milestone || schedule.LengthOf(row).Count == 0);

    public float StartOf(int row) => axis.Of(schedule.StartOf(row)) - (schedule.IsPhase(row) ? 5 : 0);

    public float FinishOf(int row) =>
        schedule.IsPhase(row) ? axis.Of(schedule.FinishOf(row)) + 5
        : IsMilestone(schedule, row) ? axis.Of(schedule.FinishOf(row))
        : Math.Max(axis.Of(schedule.FinishOf(row)), axis.Of(schedule.StartOf(row)) + Least);

    /// <summary>A soft frame around all of a phase, with a thin rule at the top that says how far it is.</summary>
    /// <param name="level">How deep the phase is.</param>
    public void Tray(Pen pen, int row, int level, float top, float bottom)
    {
        var inset = 2 * level;
        var (left, right) = (axis.Of(schedule.StartOf(row)) - 5 + inset, axis.Of(schedule.FinishOf(row)) + 5 - inset);
        var box = new SKRect(left, top + 2, Math.Max(right, left + 12), bottom - 2);
        pen.Fill(box, pen.Inks.Tray, 6);
        pen.Frame(box, pen.Inks.TrayLine, 1, 6);
        var rule = new SKRect(box.Left + 5, top + 10, box.Right - 5, top + 13.5f);
        pen.Fill(rule, pen.Inks.TrayLine, 1.75f);
        if (HasStates && schedule.ProgressOf(row) is > 0 and var done)
            pen.Fill(rule with { Right = rule.Left + Math.Max(2, rule.Width * (float)done) }, pen.Inks.Work, 1.75f);
    }

    /// <summary>A task or milestone with its float and where it was planned to be.</summary>
    /// <param name="middle">Of its line.</param>
    public void Row(Pen pen, int row, float middle)
    {
        Planned(pen, row, middle);
        if (schedule.IsPhase(row))
            return;
        Tail(pen, row, middle);
        if (IsMilestone(schedule, row))
            Pennant(pen, row, middle);
        else
            Bar(pen, row, middle);
        if (shown.HasFlag(Shown.Deadlines) && schedule.Plan.Tasks[row].Deadline is { } deadline)
            DeadlineMark(pen, axis.Of(deadline), middle, schedule.FinishOf(row) > deadline);
    }

    /// <summary>Where what stands beside a bar begins.</summary>
    public float BesideOf(int row) => FinishOf(row) + (IsMilestone(schedule, row) ? 18 : 8);

    private void Bar(Pen pen, int row, float middle)
    {
        var inks = pen.Inks;
        var (task, isCritical) = (schedule.Plan.Tasks[row], HasFloat && schedule.IsCritical(row));
        var state = HasStates ? StateOf(row) : TaskState.Waiting;
        var line =
            isCritical ? inks.FinishPath
            : state is TaskState.Overdue or TaskState.LateToStart ? inks.Late
            : inks.Work;
        var isSoft = state is TaskState.Ready or TaskState.Done || (HasStates && (task.IsStarted || task.Progress > 0));
        var parts = schedule.SegmentsOf(row) is { Count: > 1 } several
            ? several
            : [new Segment(schedule.StartOf(row), schedule.FinishOf(row))];
        if (parts.Count > 1)
            pen.Line(StartOf(row), middle, FinishOf(row), middle, line, 1.25f, [2, 3]);
        var reached = HasStates && task.Progress > 0 ? axis.Of(schedule.ReachedOf(row)) : 0;
        foreach (var part in parts)
        {
            var (left, right) = (axis.Of(part.Start), axis.Of(part.Finish));
            var box = new SKRect(left, middle - Tall / 2, Math.Max(right, left + (parts.Count > 1 ? 3 : Least)), middle + Tall / 2);
            pen.Fill(box, isSoft ? inks.WorkSoft : inks.Paper, 3.5f);
            if (state == TaskState.Done || reached > left)
            {
                var to = state == TaskState.Done ? box.Right : Math.Min(reached, box.Right);
                var done = new SKRect(box.Left + 1.5f, box.Top + 1.5f, Math.Max(box.Left + 3, to - 1.5f), box.Bottom - 1.5f);
                pen.Fill(done, state == TaskState.Done ? inks.Done : inks.Work, 2);
            }
            pen.Frame(box, line, 1.4f, 3.5f, task.Tentative && shown.HasFlag(Shown.Guesses) ? Dashed : null);
        }
        if (isCritical)
            pen.Fill(
                new SKRect(StartOf(row) + 0.5f, middle + Tall / 2 - 2.5f, FinishOf(row) - 0.5f, middle + Tall / 2 + 1),
                inks.FinishPath,
                1.5f
            );
        if (!task.IsStarted && shown.HasFlag(Shown.Fixed))
            Brackets(pen, row, middle);
    }

    /// <summary>Around a date that is fixed.</summary>
    private void Brackets(Pen pen, int row, float middle)
    {
        var task = schedule.Plan.Tasks[row];
        var isBoth = task.Pinned is not null || task.Constraint is { IsMust: true };
        if (isBoth || task.Constraint is { IsNotBefore: true })
            Bracket(StartOf(row) - 2, -3);
        if (isBoth || task.Constraint is { IsNotAfter: true })
            Bracket(FinishOf(row) + 2, 3);

        void Bracket(float x, float outwards)
        {
            using var path = Polyline(
                new(x, middle - Tall / 2 - 2),
                new(x + outwards, middle - Tall / 2 - 2),
                new(x + outwards, middle + Tall / 2 + 2),
                new(x, middle + Tall / 2 + 2)
            );
            pen.Curve(path, pen.Inks.Mute, 1.25f);
        }
    }

    private void Pennant(Pen pen, int row, float middle)
    {
        var (x, top) = (axis.Of(schedule.StartOf(row)), middle - 10);
        var line = HasFloat && schedule.IsCritical(row) ? pen.Inks.FinishPath : pen.Inks.Work;
        pen.Line(x, top, x, middle + 9, line, 1.75f);
        var isOutside = shown.HasFlag(Shown.Owners) && schedule.Plan.Tasks[row].Facts[PlainFacts.DeliveredBy] is string { Length: > 0 };
        using var flag = new SKPathBuilder();
        flag.AddPoly(
            isOutside
                ? [new(x, top + 1), new(x + 11, top + 1), new(x + 11, top + 10), new(x, top + 10)]
                : [new(x, top + 1), new(x + 12, top + 1), new(x + 8.5f, top + 5.5f), new(x + 12, top + 10), new(x, top + 10)],
            close: true
        );
        using var shape = flag.Detach();
        pen.Shape(shape, HasStates && StateOf(row) == TaskState.Done ? pen.Inks.Done : pen.Inks.Paper);
        pen.Curve(shape, line, 1.4f);
        if (isOutside)
            pen.Frame(new SKRect(x + 4, top + 4, x + 7, top + 7), line);
    }

    /// <summary>A dotted tail to the latest finish, with a stop.</summary>
    private void Tail(Pen pen, int row, float middle)
    {
        if (
            !HasFloat
            || StateOf(row) == TaskState.Done
            || schedule.TotalFloatOf(row) is not { Count: > 0 }
            || schedule.LateDatesOf(row) is not { } late
        )
            return;
        var (from, to, y) = (FinishOf(row) + 2, axis.Of(late.Finish), middle + 4);
        if (to < from + 4)
            return;
        pen.Line(from, y, to, y, pen.Inks.Mute, 1.25f, Dotted);
        pen.Line(to, y - 3.5f, to, y + 3.5f, pen.Inks.Mute, 1.25f);
    }

    /// <summary>Where the measure has a row: a thin bracket under its bar.</summary>
    private void Planned(Pen pen, int row, float middle)
    {
        if (_drift?.PlannedOf(row) is not { } planned)
            return;
        var (from, to, y) = (axis.Of(planned.Start), axis.Of(planned.Finish), middle + 11.5f);
        var (left, right) = IsMilestone(schedule, row) ? (from - 4, from + 4) : (from, Math.Max(to, from + Least));
        using var path = Polyline(new(left, y - 3), new(left, y), new(right, y), new(right, y - 3));
        pen.Curve(path, pen.Inks.Planned, 1.4f);
    }

    private static void DeadlineMark(Pen pen, float x, float middle, bool isMissed)
    {
        var colour = isMissed ? pen.Inks.Late : pen.Inks.Text;
        pen.Line(x, middle - 10, x, middle + 9, colour, 1.5f, isMissed ? [3.5f, 2] : null);
        pen.Line(x - 3.5f, middle - 10, x + 3.5f, middle - 10, colour, 1.5f);
    }

    private static SKPath Polyline(params ReadOnlySpan<SKPoint> points)
    {
        using var path = new SKPathBuilder();
        path.AddPoly(points, close: false);
        return path.Detach();
    }

    /// <summary>What stands on the date of a milestone.</summary>
    public string DateOf(int row) => Dates.ShortDay(schedule.LastDayOf(row));
}
