using Auxilium.Planning.Plans;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>The way of a link from one bar to another, level and upright, with round corners, and its arrow.</summary>
internal static class LinkPath
{
    private const float Round = 5;
    private const float Beside = 7;

    /// <param name="from">The end of the bar before that it leaves.</param>
    /// <param name="to">The end of the bar after that it comes to.</param>
    /// <param name="half">Half the height of the bar after, where it is one: something to come down on.</param>
    public static (SKPath Line, SKPath Arrow) Of(SKPoint from, SKPoint to, bool fromStart, bool toFinish, float half)
    {
        if (fromStart || toFinish)
            return Side(from, to, fromStart ? -1 : 1, toFinish ? 1 : -1);
        if (to.X >= from.X + 16)
        {
            var trunk = Math.Min(from.X + Beside, to.X - 9);
            return (Bent(from, new(trunk, from.Y), new(trunk, to.Y), new(to.X - 5, to.Y)), Into(to, -1));
        }
        if (to.X >= from.X - 4)
        {
            var down = to.Y > from.Y ? 1 : -1;
            var (x, edge) = (Math.Max(from.X, to.X) + 6, to.Y - down * half);
            var arrow = Closed(new(x - 4, edge - down * 6), new(x, edge), new(x + 4, edge - down * 6));
            return (Bent(from, new(x, from.Y), new(x, edge - down * 6)), arrow);
        }
        return (Around(from, to, from.X + Beside, to.X - 10, new(to.X - 5, to.Y)), Into(to, -1));
    }

    public static bool LeavesStart(LinkKind kind) => kind is LinkKind.StartToStart or LinkKind.StartToFinish;

    public static bool ComesToFinish(LinkKind kind) => kind is LinkKind.FinishToFinish or LinkKind.StartToFinish;

    private static (SKPath Line, SKPath Arrow) Side(SKPoint from, SKPoint to, float outwards, float side)
    {
        var tip = new SKPoint(to.X + side * 5, to.Y);
        if (outwards != side)
            return (Around(from, to, from.X + outwards * 9, to.X + side * 11, tip), Into(to, side));
        var x = outwards > 0 ? Math.Max(from.X, to.X) + 11 : Math.Min(from.X, to.X) - 11;
        return (Bent(from, new(x, from.Y), new(x, to.Y), tip), Into(to, side));
    }

    private static SKPath Around(SKPoint from, SKPoint to, float first, float last, SKPoint tip)
    {
        var y = to.Y + (to.Y > from.Y ? -13 : 13);
        return Bent(from, new(first, from.Y), new(first, y), new(last, y), new(last, to.Y), tip);
    }

    private static SKPath Into(SKPoint to, float side) => Closed(new(to.X + side * 6, to.Y - 4), to, new(to.X + side * 6, to.Y + 4));

    private static SKPath Closed(params ReadOnlySpan<SKPoint> points)
    {
        using var path = new SKPathBuilder();
        path.AddPoly(points, close: true);
        return path.Detach();
    }

    private static SKPath Bent(params ReadOnlySpan<SKPoint> points)
    {
        using var path = new SKPathBuilder();
        path.MoveTo(points[0]);
        for (var i = 1; i < points.Length - 1; i++)
        {
            var (before, at, after) = (points[i - 1], points[i], points[i + 1]);
            var round = Math.Min(Round, Math.Min(SKPoint.Distance(before, at), SKPoint.Distance(at, after)) / 2);
            path.LineTo(Toward(at, before, round));
            path.QuadTo(at, Toward(at, after, round));
        }
        path.LineTo(points[^1]);
        return path.Detach();
    }

    private static SKPoint Toward(SKPoint from, SKPoint to, float by) =>
        new(from.X + Math.Sign(to.X - from.X) * by, from.Y + Math.Sign(to.Y - from.Y) * by);
}
