using SkiaSharp;

namespace Auxilium.Drawing.Ink;

/// <summary>Where a text stands at its point.</summary>
public enum Align
{
    Left,
    Middle,
    Right,
}

/// <summary>Draws on a page. Lengths are in the units of the sheet, with y downwards.</summary>
public sealed class Pen(SKCanvas canvas, Inks inks, Lettering letters)
{
    private const float HatchStep = 6;

    public Inks Inks => inks;

    public Lettering Letters => letters;

    public SKCanvas Canvas => canvas;

    public void Fill(SKRect box, SKColor colour, float radius = 0) => Box(box, Filling(colour), radius);

    public void Frame(SKRect box, SKColor colour, float width = 1, float radius = 0, float[]? dashes = null) =>
        Box(box, Stroke(colour, width, dashes), radius);

    public void Line(float x1, float y1, float x2, float y2, SKColor colour, float width = 1, float[]? dashes = null)
    {
        using var paint = Stroke(colour, width, dashes);
        canvas.DrawLine(x1, y1, x2, y2, paint);
    }

    public void Curve(SKPath path, SKColor colour, float width = 1, float[]? dashes = null)
    {
        using var paint = Stroke(colour, width, dashes);
        paint.StrokeJoin = SKStrokeJoin.Round;
        canvas.DrawPath(path, paint);
    }

    public void Shape(SKPath path, SKColor colour)
    {
        using var paint = Filling(colour);
        canvas.DrawPath(path, paint);
    }

    /// <summary>Slanted lines over a box: what is left out of work.</summary>
    public void Hatch(SKRect box, SKColor colour)
    {
        using var lines = new SKPathBuilder();
        // On one grid for the whole sheet, so that boxes side by side, and pages, go on in one another.
        var first = MathF.Floor((box.Left + box.Top) / HatchStep) * HatchStep;
        for (var sum = first; sum < box.Right + box.Bottom; sum += HatchStep)
        {
            var (top, left) = (Math.Max(box.Top, sum - box.Right), Math.Max(box.Left, sum - box.Bottom));
            var (right, bottom) = (sum - top, sum - left);
            if (right <= left)
                continue;
            lines.MoveTo(left, bottom);
            lines.LineTo(right, top);
        }
        using var path = lines.Detach();
        Curve(path, colour);
    }

    /// <param name="y">Where its letters stand.</param>
    public void Text(string text, float x, float y, Face face, float size, SKColor colour, Align align = Align.Left)
    {
        if (Placed(text, ref x, face, size, align) is not { } blob)
            return;
        using var paint = Filling(colour);
        canvas.DrawText(blob, x, y, paint);
    }

    /// <summary>A text over other things, with paper around its letters.</summary>
    public void TextOver(string text, float x, float y, Face face, float size, SKColor colour, Align align = Align.Left)
    {
        var width = letters.WidthOf(text, face, size);
        var left = align switch
        {
            Align.Middle => x - width / 2,
            Align.Right => x - width,
            _ => x,
        };
        Fill(new SKRect(left - 2, y - size * 0.85f, left + width + 2, y + size * 0.25f), inks.Paper.WithAlpha(215), 2);
        Text(text, left, y, face, size, colour);
    }

    public void Picture(SKImage image, SKRect box) => canvas.DrawImage(image, box, new SKSamplingOptions(SKCubicResampler.Mitchell));

    /// <summary>What is drawn is seen only in a box, and shifted; until the answer is disposed of.</summary>
    public IDisposable Within(SKRect box, float dx = 0, float dy = 0)
    {
        canvas.Save();
        canvas.ClipRect(box);
        canvas.Translate(dx, dy);
        return new Saved(canvas);
    }

    private SKTextBlob? Placed(string text, ref float x, Face face, float size, Align align)
    {
        var set = letters.Set(text, face, size);
        x -= align switch
        {
            Align.Middle => set.Width / 2,
            Align.Right => set.Width,
            _ => 0,
        };
        return set.Blob;
    }

    private void Box(SKRect box, SKPaint paint, float radius)
    {
        using (paint)
            if (radius > 0)
                canvas.DrawRoundRect(box, radius, radius, paint);
            else
                canvas.DrawRect(box, paint);
    }

    private static SKPaint Filling(SKColor colour) => new() { Color = colour, IsAntialias = true };

    private static SKPaint Stroke(SKColor colour, float width, float[]? dashes) =>
        new()
        {
            Color = colour,
            IsAntialias = true,
            IsStroke = true,
            StrokeWidth = width,
            PathEffect = dashes is null ? null : SKPathEffect.CreateDash(dashes, 0),
        };

    private sealed class Saved(SKCanvas canvas) : IDisposable
    {
        public void Dispose() => canvas.Restore();
    }
}
