using Auxilium.Drawing.Ink;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>What the signs of a timeline mean.</summary>
internal static class PlanLegend
{
    private static readonly TaskState[] Order =
    [
        TaskState.Ready,
        TaskState.UnderWay,
        TaskState.Waiting,
        TaskState.LateToStart,
        TaskState.Overdue,
        TaskState.Done,
    ];

    public static IEnumerable<LegendEntry> Of(Schedule schedule, Shown shown)
    {
        foreach (var entry in States(shown))
            yield return entry;
        if (shown.HasFlag(Shown.States))
            yield return new("Done part", (pen, box) =>
            {
                var bar = Bar(box);
                pen.Fill(bar, pen.Inks.WorkSoft, 3);
                pen.Fill(new SKRect(bar.Left + 1.5f, bar.Top + 1.5f, bar.MidX, bar.Bottom - 1.5f), pen.Inks.Work, 2);
                pen.Frame(bar, pen.Inks.Work, 1.3f, 3);
            });
        foreach (var entry in Finish(shown))
            yield return entry;
        if (shown.HasFlag(Shown.Spare))
            yield return new("To spare", (pen, box) =>
            {
                pen.Line(box.Left + 2, box.MidY, box.Right - 4, box.MidY, pen.Inks.Mute, 1.25f, [1.5f, 4]);
                pen.Line(box.Right - 4, box.MidY - 3.5f, box.Right - 4, box.MidY + 3.5f, pen.Inks.Mute, 1.25f);
            });
        if (shown.HasFlag(Shown.Planned) && Drift.Of(schedule) is { } drift)
            yield return new($"Planned ({drift.Baseline.Name})", (pen, box) =>
            {
                pen.Line(box.Left + 2, box.MidY + 2, box.Right - 2, box.MidY + 2, pen.Inks.Planned, 1.4f);
                pen.Line(box.Left + 2, box.MidY + 2, box.Left + 2, box.MidY - 2, pen.Inks.Planned, 1.4f);
                pen.Line(box.Right - 2, box.MidY + 2, box.Right - 2, box.MidY - 2, pen.Inks.Planned, 1.4f);
            });
        yield return new("No work", (pen, box) => pen.Hatch(Bar(box), pen.Inks.Hatch));
    }

    /// <summary>The signs of states, in the order in which people meet them.</summary>
    public static IEnumerable<LegendEntry> States(Shown shown) =>
        !shown.HasFlag(Shown.States)
            ? []
            : Order.Select(state => new LegendEntry(StateText.Of(state), (pen, box) =>
                StateSign.Draw(pen, state, new(box.MidX, box.MidY))
            ));

    /// <summary>What sets the finish.</summary>
    public static IEnumerable<LegendEntry> Finish(Shown shown)
    {
        if (shown.HasFlag(Shown.Spare))
            yield return new("Sets the finish", (pen, box) =>
            {
                var bar = Bar(box);
                pen.Frame(bar, pen.Inks.FinishPath, 1.3f, 3);
                pen.Fill(new SKRect(bar.Left, bar.Bottom - 2.5f, bar.Right, bar.Bottom + 1), pen.Inks.FinishPath, 1.5f);
            });
    }

    private static SKRect Bar(SKRect box) => new(box.Left + 2, box.MidY - 5, box.Right - 2, box.MidY + 5);
}
