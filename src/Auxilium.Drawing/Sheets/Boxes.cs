using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>Tasks as boxes, as Chains and Outline have them.</summary>
internal sealed class Boxes(PlanTable table, DateOnly today, Shown shown, Lettering letters, Func<int, string?>? costOf = null)
{
    public const float Width = 204;
    public const float Height = 50;

    private const float Padding = 12;

    private readonly TaskStates _states = new(table.Schedule, today);

    public void Draw(Pen pen, int row, float x, float y)
    {
        var (schedule, inks) = (table.Schedule, pen.Inks);
        var (isOff, isPhase) = (schedule.IsOff(row), schedule.IsPhase(row));
        var isCritical = !isOff && shown.HasFlag(Shown.Spare) && schedule.IsCritical(row);
        var state = !isOff && !isPhase && shown.HasFlag(Shown.States) ? _states.Of(row) : (TaskState?)null;
        var line =
            isCritical ? inks.FinishPath
            : state is TaskState.Overdue or TaskState.LateToStart ? inks.Late
            : isPhase ? inks.TrayLine
            : inks.Work;
        var box = SKRect.Create(x, y, Width, Height);
        var radius = !isOff && Bars.IsMilestone(schedule, row) ? 16 : 8;
        pen.Fill(
            box,
            isPhase ? inks.Tray
                : state == TaskState.Done ? inks.WorkSoft
                : inks.Paper,
            radius
        );
        pen.Frame(box, line, 1.4f, radius);
        if (isCritical)
            pen.Fill(new SKRect(x + 5, box.Bottom - 4, box.Right - 5, box.Bottom), inks.FinishPath, 2);
        var at = x + Padding;
        if (state is { } sign)
        {
            StateSign.Draw(pen, sign, new SKPoint(at + 4, y + 16));
            at += 13;
        }
        var name = $"{table.Plan.Index.NumberOf(row)} {table.Plan.Tasks[row].Name}";
        pen.Text(letters.Fit(name, Face.Strong, 11.5f, box.Right - 8 - at), at, y + 20, Face.Strong, 11.5f, inks.Text);
        var facts = isOff ? "no dates" : DatesOf(row);
        if (costOf?.Invoke(row) is { } cost)
            facts += $" · {cost}";
        else if (shown.HasFlag(Shown.Owners) && table.Plan.FindPerson(table.Plan.Tasks[row].Owner) is { } owner)
            facts += $" · {owner.Initials}";
        pen.Text(facts, x + Padding, y + 38, Face.Text, 10.5f, inks.Mute);
        var right = isPhase
            ? shown.HasFlag(Shown.States)
                ? string.Create(CultureInfo.InvariantCulture, $"{Math.Floor(schedule.ProgressOf(row) * 100)}%")
                : ""
            : isCritical
                ? "no float"
                : "";
        pen.Text(right, box.Right - Padding, y + 38, Face.Text, 10.5f, inks.Mute, Align.Right);
    }

    private string DatesOf(int row)
    {
        var (from, to) = (table.Schedule.StartOf(row).Date, table.Schedule.LastDayOf(row));
        return from == to || Bars.IsMilestone(table.Schedule, row)
            ? Dates.ShortDay(to)
            : $"{Dates.ShortDay(from)} to {Dates.ShortDay(to)}";
    }
}
