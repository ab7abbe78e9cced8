using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Load;
using Auxilium.Planning.Tracking;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>Who has how much to do in each week: people down, weeks along, in each cell the hours and those that there are.</summary>
public sealed class LoadSheet : Sheet
{
    private const float RowHeight = 40;
    private const float WeekWidth = 64;
    private const float Names = 170;
    private const float NamesAgain = 110;

    private readonly Lettering _letters;
    private readonly DateOnly _today;
    private readonly List<DateOnly> _weeks = [];
    private readonly List<Line> _lines = [];

    /// <param name="hours">Hours that people worked: what lies behind counts as it was.</param>
    public LoadSheet(PlanTable table, DateOnly today, SheetWishes wishes, IReadOnlyList<WorkedHours> hours, Lettering letters)
    {
        (_letters, _today) = (letters, today);
        var load = new PlanLoad(table.Schedule, PlanLoad.FirstDay(table.Plan, today), hours);
        var (first, last) = wishes.DaysOf(table, today);
        for (var week = first.AddDays(-(((int)first.DayOfWeek - (int)wishes.WeekStart + 7) % 7)); week <= last; week = week.AddDays(7))
            _weeks.Add(week);
        var shown = table.Rows.Select(row => table.Plan.Tasks[row].Id).ToHashSet();
        var people = load.Parts.Where(part => shown.Contains(part.Task)).Select(part => part.Person).ToHashSet();
        foreach (var person in table.Plan.People.Where(person => people.Contains(person.Id)))
            _lines.Add(new Line(person.Name, _weeks.ConvertAll(week => CellOf(load, person.Id, week))));
    }

    public override float BodyWidth => _weeks.Count * WeekWidth;

    public override float BodyHeight => Math.Max(1, _lines.Count) * RowHeight;

    public override float HeadHeight => 36;

    public override float SideWidth(bool isFirst) => isFirst ? Names : NamesAgain;

    public override IReadOnlyList<float> Ends => [.. Enumerable.Range(1, Math.Max(1, _lines.Count)).Select(line => line * RowHeight)];

    public override IReadOnlyList<LegendEntry> Legend =>
        [
            new("Hours to do, of those that there are", (pen, box) => Hold(pen, Inner(box), 0.6f, 1)),
            new("More than there are", (pen, box) => Hold(pen, Inner(box), 1, 0.6f)),
        ];

    public override void PaintCorner(Pen pen, bool isFirst) => pen.Text("Hours by week", 4, 28, Face.Strong, 10.5f, pen.Inks.Mute);

    public override void PaintHead(Pen pen, SKRect part)
    {
        for (var at = 0; at < _weeks.Count; at++)
        {
            var (week, x) = (_weeks[at], at * WeekWidth);
            if (x > part.Right || x + WeekWidth < part.Left)
                continue;
            var isNow = IsNow(week);
            if (isNow)
                pen.Fill(SKRect.Create(x, 0, WeekWidth, HeadHeight), pen.Inks.TodaySoft);
            pen.Text(week.ToString("d MMM", CultureInfo.InvariantCulture), x + 6, 16, Face.Strong, 10.5f, pen.Inks.Text);
            var under = isNow ? "this week" : week.ToString("yyyy", CultureInfo.InvariantCulture);
            pen.Text(under, x + 6, 29, Face.Text, 9.5f, pen.Inks.Mute);
        }
    }

    public override void PaintSide(Pen pen, bool isFirst, SKRect part)
    {
        var width = SideWidth(isFirst);
        for (var at = 0; at < _lines.Count; at++)
        {
            var top = at * RowHeight;
            if (top > part.Bottom || top + RowHeight < part.Top)
                continue;
            var over = _lines[at].Cells.Sum(cell => cell.DaysOver);
            pen.Text(_letters.Fit(_lines[at].Name, Face.Strong, 11, width - 12), 4, top + 17, Face.Strong, 11, pen.Inks.Text);
            if (over > 0)
                pen.Text(over == 1 ? "1 day too full" : $"{over} days too full", 4, top + 31, Face.Text, 9.5f, pen.Inks.Late);
            pen.Line(0, top + RowHeight, width, top + RowHeight, pen.Inks.Line);
        }
    }

    public override void PaintBody(Pen pen, SKRect part)
    {
        if (_lines.Count == 0)
            pen.Text("Nobody has anything to do.", 6, 24, Face.Text, 11, pen.Inks.Mute);
        for (var at = 0; at < _lines.Count; at++)
        for (var week = 0; week < _weeks.Count; week++)
        {
            var box = SKRect.Create(week * WeekWidth, at * RowHeight, WeekWidth, RowHeight);
            if (box.IntersectsWith(part))
                Paint(pen, _lines[at].Cells[week], box, IsNow(_weeks[week]));
        }
    }

    private static void Paint(Pen pen, Cell cell, SKRect box, bool isNow)
    {
        var inks = pen.Inks;
        if (isNow)
            pen.Fill(box, inks.TodaySoft);
        if (cell is { Load: < 0.5m, Capacity: 0 })
            pen.Hatch(box, inks.Hatch);
        pen.Frame(box, inks.Line, 0.8f);
        if (cell.Load < 0.5m)
            return;
        var ink = cell.DaysOver > 0 ? inks.Late : inks.Text;
        pen.Text(Hours(cell.Load), box.Left + 6, box.Top + 15, Face.Strong, 11, ink);
        var says = cell.DaysOver > 0 ? $"{cell.DaysOver} d over" : $"of {Hours(cell.Capacity)}";
        pen.Text(says, box.Right - 5, box.Top + 15, Face.Text, 9, inks.Mute, Align.Right);
        var hold = new SKRect(box.Left + 6, box.Bottom - 15, box.Right - 6, box.Bottom - 7);
        Hold(pen, hold, cell.Capacity > 0 ? (float)Math.Min(1, cell.Load / cell.Capacity) : 1, cell.Has);
    }

    /// <param name="full">How much of the hold is full.</param>
    /// <param name="has">How much of what fills it there is time for; the rest is dark and crossed.</param>
    private static void Hold(Pen pen, SKRect box, float full, float has)
    {
        var fill = new SKRect(box.Left, box.Top, box.Left + box.Width * full, box.Bottom);
        pen.Fill(fill, pen.Inks.WorkSoft, 2);
        if (has < 1)
        {
            var much = new SKRect(fill.Left + fill.Width * has, fill.Top, fill.Right, fill.Bottom);
            pen.Fill(much, pen.Inks.Late, 2);
            pen.Hatch(much, pen.Inks.Paper);
        }
        pen.Frame(box, has < 1 ? pen.Inks.Late : pen.Inks.Work, 1, 2);
    }

    private static SKRect Inner(SKRect box) => new(box.Left + 2, box.MidY - 4, box.Right - 2, box.MidY + 4);

    private bool IsNow(DateOnly week) => _today >= week && _today < week.AddDays(7);

    private static Cell CellOf(PlanLoad load, string person, DateOnly week)
    {
        var (much, room, over, days) = (0m, 0m, 0m, 0);
        for (var day = week; day < week.AddDays(7); day = day.AddDays(1))
        {
            var (has, can) = (load.Of(person, day), load.Capacities.Of(person, day));
            (much, room) = (much + has, room + can);
            if (day < load.From || Capacities.Over(has, can) is not (> 0 and var beyond))
                continue;
            (over, days) = (over + beyond, days + 1);
        }
        return new Cell(much, room, days, much == 0 ? 1 : (float)(1 - over / much));
    }

    private static string Hours(decimal minutes) => Math.Round(minutes / 60, 1).ToString("0.#", CultureInfo.InvariantCulture);

    private sealed record Line(string Name, List<Cell> Cells);

    /// <param name="Load">Minutes of work.</param>
    /// <param name="Capacity">Minutes that there are.</param>
    /// <param name="DaysOver">On how many days it is too much.</param>
    /// <param name="Has">How much of the work there is time for on its day, up to 1.</param>
    private readonly record struct Cell(decimal Load, decimal Capacity, int DaysOver, float Has);
}
