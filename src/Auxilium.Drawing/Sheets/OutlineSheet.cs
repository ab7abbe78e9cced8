using Auxilium.Drawing.Ink;
using Auxilium.Exchange.Tables;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>The outline as a tree: each phase beside its rows.</summary>
public sealed class OutlineSheet : Sheet
{
    private const float GapX = 44;
    private const float GapY = 12;
    private const float Margin = 4;

    private readonly PlanTable _table;
    private readonly Shown _shown;
    private readonly Boxes _boxes;
    private readonly int _least;
    private readonly Dictionary<int, (float X, float Y, int Parent)> _places = [];
    private readonly List<float> _ends = [];

    public OutlineSheet(PlanTable table, DateOnly today, SheetWishes wishes, Lettering letters)
    {
        (_table, _shown) = (table, wishes.Shown);
        _boxes = new Boxes(table, today, wishes.Shown, letters, wishes.CostOf);
        _least = table.Rows.Length == 0 ? 0 : table.Rows.Min(table.Plan.Index.LevelOf);
        var top = Margin;
        for (var line = 0; line < table.Rows.Length; line++)
        {
            var row = table.Rows[line];
            var parent = table.Plan.Index.ParentOf(row);
            // The first row of a phase stands beside it, the others below.
            if (line > 0 && parent != table.Rows[line - 1])
            {
                top += Boxes.Height + GapY;
                _ends.Add(top - GapY / 2);
            }
            var x = Margin + (table.Plan.Index.LevelOf(row) - _least) * (Boxes.Width + GapX);
            _places[row] = (x, top, parent);
        }
        BodyHeight = top + Boxes.Height + Margin;
        _ends.Add(BodyHeight);
        BodyWidth = _places.Count == 0 ? 0 : _places.Values.Max(place => place.X) + Boxes.Width + Margin;
    }

    public override float BodyWidth { get; }

    public override float BodyHeight { get; }

    public override IReadOnlyList<float> Ends => _ends;

    public override IReadOnlyList<LegendEntry> Legend => [.. PlanLegend.States(_shown), .. PlanLegend.Finish(_shown)];

    public override void PaintBody(Pen pen, SKRect part)
    {
        foreach (var (row, (x, y, parent)) in _places)
        {
            if (_places.TryGetValue(parent, out var from) && from.Y < part.Bottom && y + Boxes.Height > part.Top)
                Line(pen, from.X + Boxes.Width, from.Y + Boxes.Height / 2, x, y + Boxes.Height / 2);
            if (y < part.Bottom && y + Boxes.Height > part.Top)
                _boxes.Draw(pen, row, x, y);
        }
    }

    private static void Line(Pen pen, float x1, float y1, float x2, float y2)
    {
        var middle = x2 - GapX / 2;
        pen.Line(x1, y1, middle, y1, pen.Inks.TrayLine, 1.4f);
        pen.Line(middle, y1, middle, y2, pen.Inks.TrayLine, 1.4f);
        pen.Line(middle, y2, x2, y2, pen.Inks.TrayLine, 1.4f);
    }
}
