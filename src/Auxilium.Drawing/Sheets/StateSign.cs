using Auxilium.Drawing.Ink;
using Auxilium.Planning.Tracking;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>States as shapes, which say the same in black and white.</summary>
internal static class StateSign
{
    private const float Radius = 3.6f;

    /// <param name="at">The middle of the sign.</param>
    public static void Draw(Pen pen, TaskState state, SKPoint at)
    {
        var inks = pen.Inks;
        var box = new SKRect(at.X - Radius, at.Y - Radius, at.X + Radius, at.Y + Radius);
        switch (state)
        {
            case TaskState.Waiting:
                pen.Frame(box, inks.Mute, 1.3f, Radius);
                break;
            case TaskState.Ready:
                pen.Fill(box, inks.Work, Radius);
                break;
            case TaskState.UnderWay:
                using (var half = new SKPathBuilder())
                {
                    half.AddArc(box, 90, 180);
                    half.Close();
                    using var shape = half.Detach();
                    pen.Shape(shape, inks.Work);
                }
                pen.Frame(box, inks.Work, 1.3f, Radius);
                break;
            case TaskState.Done:
                using (var check = new SKPathBuilder())
                {
                    check.AddPoly([new(box.Left, at.Y), new(at.X - 1, box.Bottom - 0.5f), new(box.Right + 0.5f, box.Top)], close: false);
                    using var shape = check.Detach();
                    pen.Curve(shape, inks.Done, 1.8f);
                }
                break;
            default:
                using (var triangle = new SKPathBuilder())
                {
                    triangle.AddPoly(
                        [new(at.X, box.Top - 0.6f), new(box.Right + 0.6f, box.Bottom), new(box.Left - 0.6f, box.Bottom)],
                        close: true
                    );
                    using var shape = triangle.Detach();
                    if (state == TaskState.Overdue)
                        pen.Shape(shape, inks.Late);
                    pen.Curve(shape, inks.Late, 1.3f);
                }
                break;
        }
    }
}
