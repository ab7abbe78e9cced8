using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Tracking;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>Months as calendar sheets, one below another, each of which may be a page of its own.</summary>
public sealed class MonthSheet : Sheet
{
    private const float TitleHeight = 44;
    private const float DateHeight = 18;
    private const float LineHeight = 18;
    private const float LeastWeek = 92;
    private const float WeekNumber = 30;
    private const int MostMonths = 240;

    private readonly PlanTable _table;
    private readonly DateOnly _today;
    private readonly SheetWishes _wishes;
    private readonly TaskStates _states;
    private readonly List<Month> _months = [];
    private float _width = 1000;

    public MonthSheet(PlanTable table, DateOnly today, SheetWishes wishes)
    {
        (_table, _today, _wishes) = (table, today, wishes);
        _states = new TaskStates(table.Schedule, today);
        var (first, last) = wishes.DaysOf(table, today);
        // Without the days around that a timeline has.
        if (wishes.From is null)
            first = first.AddDays(2);
        if (wishes.To is null)
            last = table.Rows.Where(row => !table.Schedule.IsOff(row)).Select(table.Schedule.LastDayOf).DefaultIfEmpty(last).Max();
        var top = 0f;
        var rows = table
            .Rows.Where(row => table.Schedule.IsLeaf(row) && !table.Schedule.IsOff(row))
            .OrderBy(table.Schedule.StartOf)
            .ToList();
        for (var month = new DateOnly(first.Year, first.Month, 1); month <= last && _months.Count < MostMonths; month = month.AddMonths(1))
        {
            _months.Add(new Month(month, top, [.. Weeks(month, rows)]));
            top = _months[^1].Bottom;
        }
        BodyHeight = top;
    }

    public override float BodyWidth => _width;

    public override float BodyHeight { get; }

    public override IReadOnlyList<float> Ends => [.. _months.Select(month => month.Bottom)];

    public override IReadOnlyList<LegendEntry> Legend => [.. PlanLegend.States(_wishes.Shown), .. PlanLegend.Finish(_wishes.Shown)];

    public override void FillWidth(float width) => _width = Math.Clamp(width, 600, 1400);

    public override void PaintBody(Pen pen, SKRect part)
    {
        foreach (var month in _months)
            if (month.Top < part.Bottom && month.Bottom > part.Top)
                Paint(pen, month);
    }

    private float DayWidth => (_width - WeekNumber) / 7;

    private void Paint(Pen pen, Month month)
    {
        var inks = pen.Inks;
        pen.Text(month.First.ToString("MMMM yyyy", CultureInfo.InvariantCulture), 0, month.Top + 18, Face.Title, 15, inks.Text);
        for (var i = 0; i < 7; i++)
        {
            var name = CultureInfo.InvariantCulture.DateTimeFormat.AbbreviatedDayNames[((int)_wishes.WeekStart + i) % 7];
            pen.Text(name, WeekNumber + i * DayWidth + 5, month.Top + 38, Face.Strong, 10.5f, inks.Mute);
        }
        var top = month.Top + TitleHeight;
        foreach (var week in month.Weeks)
        {
            Days(pen, month, week, top);
            foreach (var bar in week.Bars)
                Bar(pen, bar, week.First, top + DateHeight + bar.Line * LineHeight);
            top += week.Height;
        }
    }

    private void Days(Pen pen, Month month, Week week, float top)
    {
        var inks = pen.Inks;
        // By the day that decides the number of a week that begins on any day (ISO 8601).
        var thursday = Enumerable.Range(0, 7).Select(week.First.AddDays).First(day => day.DayOfWeek == DayOfWeek.Thursday);
        var number = $"W{ISOWeek.GetWeekOfYear(thursday.ToDateTime(TimeOnly.MinValue))}";
        pen.Text(number, 0, top + 13, Face.Text, 9.5f, inks.Mute);
        for (var i = 0; i < 7; i++)
        {
            var day = week.First.AddDays(i);
            var box = SKRect.Create(WeekNumber + i * DayWidth, top, DayWidth, week.Height);
            var isHere = day.Month == month.First.Month;
            if (day == _today)
                pen.Fill(box, inks.TodaySoft);
            else if (!isHere)
                pen.Fill(box, inks.Band.WithAlpha(120));
            if (_table.Plan.ProjectCalendar.WorkedOn(day) == 0)
                pen.Hatch(box, inks.Hatch);
            pen.Frame(box, inks.Line, 0.8f);
            var date = day.ToString(day.Day == 1 ? "d MMM" : "%d", CultureInfo.InvariantCulture) + (day == _today ? " · today" : "");
            pen.Text(date, box.Left + 5, top + 13, isHere ? Face.Strong : Face.Text, 10, isHere ? inks.Text : inks.Mute);
        }
    }

    private void Bar(Pen pen, MonthBar bar, DateOnly first, float top)
    {
        var (inks, schedule) = (pen.Inks, _table.Schedule);
        var (from, to) = (
            WeekNumber + bar.From * DayWidth + (bar.GoesOn ? 0 : 3),
            WeekNumber + (bar.To + 1) * DayWidth - (bar.GoesBeyond ? 0 : 3)
        );
        var state = _wishes.Shown.HasFlag(Shown.States) ? _states.Of(bar.Row) : (TaskState?)null;
        var isCritical = _wishes.Shown.HasFlag(Shown.Spare) && schedule.IsCritical(bar.Row);
        var line =
            isCritical ? inks.FinishPath
            : state is TaskState.Overdue or TaskState.LateToStart ? inks.Late
            : inks.Work;
        var box = new SKRect(from, top, to, top + LineHeight - 3);
        var x = from + 5;
        if (!Bars.IsMilestone(schedule, bar.Row))
        {
            pen.Fill(box, state == TaskState.Done ? inks.Done.WithAlpha(110) : inks.Paper, 3);
            pen.Frame(box, line, 1.2f, 3);
            if (isCritical)
                pen.Fill(new SKRect(from, box.Bottom - 2, to, box.Bottom + 1), inks.FinishPath, 1);
        }
        else
        {
            pen.Line(x, top, x, box.Bottom, line, 1.6f);
            using var flag = new SKPathBuilder();
            flag.AddPoly(
                [new(x, top + 1), new(x + 10, top + 1), new(x + 7, top + 4.5f), new(x + 10, top + 8), new(x, top + 8)],
                close: true
            );
            using var shape = flag.Detach();
            pen.Shape(shape, state == TaskState.Done ? inks.Done : inks.Paper);
            pen.Curve(shape, line, 1.2f);
            x += 14;
        }
        if (state is { } sign && !bar.GoesOn)
        {
            StateSign.Draw(pen, sign, new SKPoint(x + 4, top + 7.5f));
            x += 12;
        }
        var initials = _wishes.Shown.HasFlag(Shown.Owners) ? _table.Plan.FindPerson(_table.Plan.Tasks[bar.Row].Owner)?.Initials : null;
        var room = to - 4 - x;
        if (initials is not null && room > 60)
        {
            pen.Text(initials, to - 5, top + 11.5f, Face.Text, 9, inks.Mute, Align.Right);
            room -= 22;
        }
        var face = Bars.IsMilestone(schedule, bar.Row) ? Face.Strong : Face.Text;
        pen.Text(pen.Letters.Fit(_table.Plan.Tasks[bar.Row].Name, face, 10, room), x, top + 11.5f, face, 10, inks.Text);
    }

    private IEnumerable<Week> Weeks(DateOnly month, List<int> rows)
    {
        var back = ((int)month.DayOfWeek - (int)_wishes.WeekStart + 7) % 7;
        for (var first = month.AddDays(-back); first < month.AddMonths(1); first = first.AddDays(7))
        {
            var (begin, end, taken, bars) = (first, first.AddDays(6), new List<int>(), new List<MonthBar>());
            foreach (var row in rows)
            {
                var (from, to) = (_table.Schedule.StartOf(row).Date, _table.Schedule.LastDayOf(row));
                if (from > end || to < begin)
                    continue;
                var (start, finish) = (Math.Max(0, from.DayNumber - begin.DayNumber), Math.Min(6, to.DayNumber - begin.DayNumber));
                var line = taken.FindIndex(until => until < start);
                if (line < 0)
                {
                    line = taken.Count;
                    taken.Add(0);
                }
                taken[line] = finish;
                bars.Add(new MonthBar(row, start, finish, line, from < begin, to > end));
            }
            yield return new Week(begin, bars, Math.Max(LeastWeek, DateHeight + taken.Count * LineHeight + 6));
        }
    }

    private sealed record Month(DateOnly First, float Top, IReadOnlyList<Week> Weeks)
    {
        public float Bottom { get; } = Top + TitleHeight + Weeks.Sum(week => week.Height) + 22;
    }

    private sealed record Week(DateOnly First, IReadOnlyList<MonthBar> Bars, float Height);

    /// <param name="From">The first day of the week it is on, from 0.</param>
    /// <param name="To">The last one.</param>
    private readonly record struct MonthBar(int Row, int From, int To, int Line, bool GoesOn, bool GoesBeyond);
}
