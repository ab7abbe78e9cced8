using Auxilium.Drawing.Ink;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Plans;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>How tasks are linked.</summary>
public sealed class ChainsSheet : Sheet
{
    private readonly PlanTable _table;
    private readonly Shown _shown;
    private readonly Boxes _boxes;
    private readonly ChainsLayout _layout;
    private readonly List<(int From, int To, LinkKind Kind, bool SetsFinish)> _links;
    private readonly List<int> _rows;

    public ChainsSheet(PlanTable table, DateOnly today, SheetWishes wishes, Lettering letters)
    {
        (_table, _shown) = (table, wishes.Shown);
        _boxes = new Boxes(table, today, wishes.Shown, letters);
        _links = [.. Links()];
        var linked = _links.SelectMany(link => new[] { link.From, link.To }).ToHashSet();
        _rows = [.. table.Rows.Where(row => linked.Contains(row) || table.Plan.Index.IsLeaf(row))];
        _layout = new ChainsLayout(_rows, [.. _links.Select(link => (link.From, link.To))]);
    }

    public override float BodyWidth => _layout.Width;

    public override float BodyHeight => _layout.Height;

    public override IReadOnlyList<LegendEntry> Legend => [.. PlanLegend.States(_shown), .. PlanLegend.Finish(_shown)];

    public override void PaintBody(Pen pen, SKRect part)
    {
        foreach (var link in _links)
            Link(pen, link.From, link.To, link.Kind, link.SetsFinish);
        if (_layout.Alone.Count > 0)
            pen.Text("Linked to nothing", _layout.Of(_layout.Alone[0]).X, _layout.AloneTop, Face.Strong, 11, pen.Inks.Mute);
        foreach (var row in _rows)
        {
            var (x, y) = _layout.Of(row);
            if (x < part.Right && y < part.Bottom && x + Boxes.Width > part.Left && y + Boxes.Height > part.Top)
                _boxes.Draw(pen, row, x, y);
        }
    }

    private void Link(Pen pen, int from, int to, LinkKind kind, bool setsFinish)
    {
        var colour = setsFinish ? pen.Inks.FinishPath : pen.Inks.Mute;
        var (start, end) = (_layout.Of(from), _layout.Of(to));
        var at = new SKPoint(start.X + Boxes.Width, start.Y + Boxes.Height / 2);
        var tip = new SKPoint(end.X - 1, end.Y + Boxes.Height / 2);
        using var way = new SKPathBuilder();
        way.MoveTo(at);
        foreach (var (x, y) in _layout.PointsOf(from, to))
        {
            Curve(new SKPoint(x, y));
            at = new SKPoint(x + Boxes.Width, y);
            way.LineTo(at);
        }
        Curve(new SKPoint(tip.X - 5, tip.Y));
        using var line = way.Detach();
        pen.Curve(line, colour, setsFinish ? 2 : 1.2f);
        using var head = new SKPathBuilder();
        head.AddPoly([new(tip.X - 7, tip.Y - 4), tip, new(tip.X - 7, tip.Y + 4)], close: true);
        using var arrow = head.Detach();
        pen.Shape(arrow, colour);
        var words = kind switch
        {
            LinkKind.StartToStart => "with",
            LinkKind.FinishToFinish => "ends with",
            LinkKind.StartToFinish => "ends after start",
            _ => "",
        };
        pen.Text(words, tip.X - 10, tip.Y - 6, Face.Text, 10, pen.Inks.Mute, Align.Right);

        void Curve(SKPoint next)
        {
            var bend = (next.X - at.X) / 2;
            way.CubicTo(new(at.X + bend, at.Y), new(next.X - bend, next.Y), next);
        }
    }

    private IEnumerable<(int From, int To, LinkKind Kind, bool SetsFinish)> Links()
    {
        var (plan, schedule, rows) = (_table.Plan, _table.Schedule, _table.Rows.ToHashSet());
        if (!_shown.HasFlag(Shown.Links))
            yield break;
        for (var at = 0; at < plan.Links.Length; at++)
        {
            var (from, to) = (plan.Index.RowOf(plan.Links[at].From), plan.Index.RowOf(plan.Links[at].To));
            if (rows.Contains(from) && rows.Contains(to))
                yield return (from, to, plan.Links[at].Kind, PlanSheet.SetsFinish(schedule, at, _shown));
        }
    }
}
