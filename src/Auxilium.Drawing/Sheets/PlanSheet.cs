using Auxilium.Drawing.Ink;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>Task list and timeline side by side, or the timeline alone with the names beside its bars.</summary>
public sealed class PlanSheet : Sheet
{
    private const float LeastDay = 0.15f;
    private const float MostDay = 34;
    private const float Gap = 6;

    private readonly PlanTable _table;
    private readonly DateOnly _today;
    private readonly Lettering _letters;
    private readonly SheetWishes _wishes;
    private readonly PlanList _list;
    private readonly (int Line, int Last)[] _phases;
    private readonly (PlanLink Link, int From, int To, bool SetsFinish)[] _links;
    private readonly Dictionary<int, int> _lines;
    private readonly (int Start, int End) _hours;
    private TimeAxis _axis;
    private Bars _bars;

    /// <param name="table">Its rows and columns.</param>
    /// <param name="today">Today.</param>
    public PlanSheet(PlanTable table, DateOnly today, SheetWishes wishes, Lettering letters)
    {
        (_table, _today, _wishes, _letters) = (table, today, wishes, letters);
        var schedule = table.Schedule;
        _hours = WorkHours.Of(table.Plan.ProjectCalendar, schedule.Start);
        var (first, last) = wishes.DaysOf(table, today);
        _axis = new TimeAxis(first, last, 12, _hours.Start, _hours.End);
        _bars = new Bars(schedule, today, _axis, wishes.Shown);
        _list = new PlanList(table, Has(Shown.States) ? _bars : null, letters);
        _lines = table.Rows.Select((row, line) => (row, line)).ToDictionary(pair => pair.row, pair => pair.line);
        _phases = [.. Phases()];
        _links = Has(Shown.Links) ? [.. Links()] : [];
    }

    public override float BodyWidth => _axis.Width + (_wishes.HasList ? 0 : 160);

    public override float BodyHeight => _list.Tops[^1];

    public override float HeadHeight => TimeAxis.Height;

    public override float SideWidth(bool isFirst) => _wishes.HasList ? _list.Width(isFirst) + Gap : 0;

    public override IReadOnlyList<float> Ends => [.. _list.Tops.Skip(1)];

    public override void FillWidth(float width)
    {
        var room = width - (_wishes.HasList ? 0 : 160);
        var days = _axis.Last.DayNumber - _axis.First.DayNumber + 1;
        _axis = _axis with { DayWidth = Math.Clamp(room / days, LeastDay, MostDay) };
        _bars = new Bars(_table.Schedule, _today, _axis, _wishes.Shown);
    }

    public override IReadOnlyList<LegendEntry> Legend => [.. PlanLegend.Of(_table.Schedule, _wishes.Shown)];

    public override void PaintCorner(Pen pen, bool isFirst)
    {
        if (_wishes.HasList)
            _list.PaintHead(pen, isFirst, HeadHeight);
    }

    public override void PaintHead(Pen pen, SKRect part)
    {
        var deadline = Has(Shown.Deadlines) ? _table.Plan.Project.FinishBy?.LastDate : null;
        _axis.Paint(pen, part, _today, deadline, _wishes.WeekStart);
    }

    public override void PaintSide(Pen pen, bool isFirst, SKRect part)
    {
        foreach (var line in LinesIn(part))
        {
            var y = _list.Tops[line + 1];
            pen.Line(0, y, SideWidth(isFirst), y, pen.Inks.Line, 0.6f);
            if (_wishes.HasList)
                _list.PaintRow(pen, isFirst, line);
        }
    }

    public override void PaintBody(Pen pen, SKRect part)
    {
        Ground(pen, part);
        foreach (var (line, last) in _phases)
            if (_list.Tops[line] < part.Bottom && _list.Tops[last + 1] > part.Top)
                _bars.Tray(pen, _table.Rows[line], _table.Plan.Index.LevelOf(_table.Rows[line]), _list.Tops[line], _list.Tops[last + 1]);
        foreach (var (link, from, to, setsFinish) in _links)
            if (_list.Tops[Math.Min(from, to)] < part.Bottom && _list.Tops[Math.Max(from, to) + 1] > part.Top)
                Link(pen, link, from, to, setsFinish);
        foreach (var line in LinesIn(part))
            Row(pen, line);
    }

    private void Row(Pen pen, int line)
    {
        var row = _table.Rows[line];
        if (_table.Schedule.IsOff(row))
            return;
        var middle = Middle(line);
        _bars.Row(pen, row, middle);
        var isMilestone = Bars.IsMilestone(_table.Schedule, row);
        var date = isMilestone ? _bars.DateOf(row) : "";
        var name = _table.Plan.Tasks[row].Name;
        if (_wishes.HasList)
        {
            if (isMilestone)
                pen.TextOver(date, _bars.BesideOf(row), middle - 1, Face.Strong, 10, pen.Inks.Text);
        }
        else if (_table.Schedule.IsPhase(row))
            pen.TextOver(name, _bars.StartOf(row) + 6, middle + 10, Face.Strong, 11, pen.Inks.Text);
        else
            pen.TextOver(
                isMilestone ? $"{name} · {date}" : name,
                _bars.BesideOf(row),
                middle + 4,
                isMilestone ? Face.Strong : Face.Text,
                11,
                pen.Inks.Text
            );
    }

    /// <summary>Days off, weeks, today and the date to finish by.</summary>
    private void Ground(Pen pen, SKRect part)
    {
        var calendar = _table.Plan.ProjectCalendar;
        var closed = (DateOnly?)null;
        foreach (var day in _axis.Days(part.Left, part.Right).Append(DateOnly.MaxValue))
        {
            var isClosed = day != DateOnly.MaxValue && calendar.WorkedOn(day) == 0;
            if (isClosed)
                closed ??= day;
            else if (closed is { } from)
            {
                var to = day == DateOnly.MaxValue ? part.Right : _axis.OfDay(day);
                var box = new SKRect(_axis.OfDay(from), part.Top, Math.Min(to, part.Right), part.Bottom);
                if (box.Width >= 4)
                    pen.Hatch(box, pen.Inks.Hatch);
                closed = null;
            }
        }
        foreach (var day in _axis.Days(part.Left, part.Right))
            if (_axis.HasLine(day, _wishes.WeekStart))
                pen.Line(_axis.OfDay(day), part.Top, _axis.OfDay(day), part.Bottom, pen.Inks.Line, 0.6f);
        foreach (var line in LinesIn(part))
            pen.Line(part.Left, _list.Tops[line + 1], part.Right, _list.Tops[line + 1], pen.Inks.Line, 0.6f);
        if (_today >= _axis.First && _today <= _axis.Last)
        {
            var x = _axis.OfDay(_today);
            pen.Fill(new SKRect(x, part.Top, x + Math.Max(2.5f, _axis.DayWidth), part.Bottom), pen.Inks.TodaySoft);
        }
        if (Has(Shown.Deadlines) && _table.Plan.Project.FinishBy is { } by)
        {
            var x = _axis.OfDay(by.LastDate.AddDays(1));
            pen.Line(x, part.Top, x, part.Bottom, pen.Inks.Text, 1.25f);
        }
    }

    private void Link(Pen pen, PlanLink link, int from, int to, bool setsFinish)
    {
        var (before, after) = (_table.Rows[from], _table.Rows[to]);
        var (fromStart, toFinish) = (LinkPath.LeavesStart(link.Kind), LinkPath.ComesToFinish(link.Kind));
        var start = new SKPoint(fromStart ? _bars.StartOf(before) : _bars.FinishOf(before), Middle(from));
        var end = new SKPoint(toFinish ? _bars.FinishOf(after) : _bars.StartOf(after), Middle(to));
        var half = Bars.IsMilestone(_table.Schedule, after) ? 11 : Bars.Tall / 2 + 1;
        var (line, arrow) = LinkPath.Of(start, end, fromStart, toFinish, half);
        using (line)
        using (arrow)
        {
            var colour = setsFinish ? pen.Inks.FinishPath : pen.Inks.Mute;
            pen.Curve(line, colour, setsFinish ? 1.7f : 1);
            pen.Shape(arrow, colour);
        }
    }

    /// <summary>Whether a link leaves no room between two tasks that set the finish.</summary>
    /// <param name="link">Its position in the plan.</param>
    internal static bool SetsFinish(Schedule schedule, int link, Shown shown)
    {
        var (plan, at) = (schedule.Plan, schedule.Plan.Links[link]);
        return shown.HasFlag(Shown.Spare)
            && schedule.Drivers.IsTight(link)
            && schedule.IsCritical(plan.Index.RowOf(at.From))
            && schedule.IsCritical(plan.Index.RowOf(at.To));
    }

    private float Middle(int line) => (_list.Tops[line] + _list.Tops[line + 1]) / 2;

    private IEnumerable<int> LinesIn(SKRect part)
    {
        if (_table.Rows.IsEmpty)
            yield break;
        for (var line = _list.LineAt(part.Top); line < _table.Rows.Length && _list.Tops[line] < part.Bottom; line++)
            yield return line;
    }

    private bool Has(Shown what) => _wishes.Shown.HasFlag(what);

    private IEnumerable<(int Line, int Last)> Phases()
    {
        for (var line = 0; line < _table.Rows.Length; line++)
        {
            var row = _table.Rows[line];
            if (!_table.Schedule.IsPhase(row))
                continue;
            var last = line;
            while (last + 1 < _table.Rows.Length && _table.Rows[last + 1] < _table.Plan.Index.SubtreeEnd(row))
                last++;
            yield return (line, last);
        }
    }

    /// <summary>Those that set the finish last, to lie on top.</summary>
    private IEnumerable<(PlanLink Link, int From, int To, bool SetsFinish)> Links()
    {
        var (schedule, plan) = (_table.Schedule, _table.Plan);
        return plan
            .Links.SelectMany(
                (link, position) =>
                {
                    var (from, to) = (plan.Index.RowOf(link.From), plan.Index.RowOf(link.To));
                    if (
                        schedule.IsOff(from)
                        || schedule.IsOff(to)
                        || !_lines.TryGetValue(from, out var a)
                        || !_lines.TryGetValue(to, out var b)
                    )
                        return Array.Empty<(PlanLink, int, int, bool SetsFinish)>();
                    return [(link, a, b, SetsFinish(schedule, position, _wishes.Shown))];
                }
            )
            .OrderBy(link => link.SetsFinish);
    }
}
