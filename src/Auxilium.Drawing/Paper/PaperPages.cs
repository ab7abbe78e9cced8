using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Sheets;
using SkiaSharp;

namespace Auxilium.Drawing.Paper;

/// <summary>What of a sheet stands on a page.</summary>
/// <param name="Part">Of the body.</param>
/// <param name="IsFirst">Whether it is at the left edge.</param>
/// <param name="GoesOn">Whether another page goes on to the right of it.</param>
public sealed record PagePart(SKRect Part, bool IsFirst, bool GoesOn);

/// <summary>A sheet on pages: the one layout that PDF, PNG, SVG and the preview are drawn from. Sizes are points (1/72 inch).</summary>
public sealed class PaperPages
{
    private const float Margin = 28;
    private const float TitleHeight = 40;
    private const float FootHeight = 18;
    private const float LegendHeight = 18;
    private const float LegendGap = 16;
    private const float LogoWidth = 120;
    private const float LogoHeight = 28;
    private const float Sign = 26;
    private const float Overlap = 14;
    private const float LeastScale = 0.03f;
    private const float WidestSide = 0.75f; // of a page's width
    private const float LeastBody = 0.3f; // of a page's width

    private readonly Sheet _sheet;
    private readonly PageSetup _setup;
    private readonly Lettering _letters;
    private readonly List<List<LegendEntry>> _legend = [];
    private readonly List<PagePart> _parts = [];

    /// <param name="sheet">What to draw.</param>
    /// <param name="setup">How.</param>
    public PaperPages(Sheet sheet, PageSetup setup, Lettering letters)
    {
        (_sheet, _setup, _letters) = (sheet, setup, letters);
        var paper = setup.Landscape
            ? new SKSize(setup.Paper.Height, setup.Paper.Width)
            : new SKSize(setup.Paper.Width, setup.Paper.Height);
        if (setup.Fit == Fit.One)
            LayOnOne();
        else
        {
            Size = paper;
            _legend.AddRange(LegendIn(paper.Width - 2 * Margin));
            if (setup.Fit == Fit.Page)
                LayOnPage();
            else
                LayOnPages();
        }
    }

    /// <summary>Of each page.</summary>
    public SKSize Size { get; private set; }

    /// <summary>How many points a length of the screen is long.</summary>
    public float Scale { get; private set; } = PageSetup.Natural;

    public int Count => _parts.Count;

    /// <summary>What stands on each.</summary>
    public IReadOnlyList<PagePart> Parts => _parts;

    /// <summary>How high letters of the list are, in points: below 5 hardly anybody can read them.</summary>
    public float LetterSize => 11 * Scale;

    /// <param name="at">From 0.</param>
    public void Paint(SKCanvas canvas, int at)
    {
        var pen = new Pen(canvas, _setup.Inks, _letters);
        if (!_setup.Transparent)
            pen.Fill(SKRect.Create(Size), _setup.Inks.Paper);
        Around(pen, at);
        canvas.Save();
        canvas.Translate(Margin, Margin + Top);
        canvas.Scale(Scale);
        Part(pen, _parts[at]);
        canvas.Restore();
    }

    private float Top => _setup.Title.Length > 0 ? TitleHeight : 0;

    private float Bottom => FootHeight + _legend.Count * LegendHeight;

    private float RoomWidth => Size.Width - 2 * Margin;

    private float RoomHeight => Size.Height - 2 * Margin - Top - Bottom;

    private void Part(Pen pen, PagePart page)
    {
        var (part, side, head) = (page.Part, _sheet.SideWidth(page.IsFirst), _sheet.HeadHeight);
        if (side > 0)
        {
            if (head > 0)
                using (pen.Within(new SKRect(0, 0, side, head)))
                    _sheet.PaintCorner(pen, page.IsFirst);
            using (pen.Within(new SKRect(0, head, side, head + part.Height), 0, head - part.Top))
                _sheet.PaintSide(pen, page.IsFirst, part);
        }
        if (head > 0)
            using (pen.Within(new SKRect(side, 0, side + part.Width, head), side - part.Left))
                _sheet.PaintHead(pen, part);
        using (pen.Within(new SKRect(side, head, side + part.Width, head + part.Height), side - part.Left, head - part.Top))
            _sheet.PaintBody(pen, part);
        if (head > 0)
            pen.Line(0, head, side + part.Width, head, pen.Inks.TrayLine);
        // Where pages are cut and laid over one another.
        foreach (var (x, isThere) in new[] { (side + Overlap / 2, !page.IsFirst), (side + part.Width - Overlap / 2, page.GoesOn) })
            if (isThere)
            {
                pen.Line(x, -8, x, -2, pen.Inks.Text, 0.7f);
                pen.Line(x, head + part.Height + 2, x, head + part.Height + 8, pen.Inks.Text, 0.7f);
            }
    }

    /// <summary>Title, legend, and who made it when.</summary>
    private void Around(Pen pen, int at)
    {
        var inks = pen.Inks;
        var logo = _setup.Title.Length > 0 ? Logo(pen) : 0;
        if (_setup.Title.Length > 0)
        {
            pen.Text(_letters.Fit(_setup.Title, Face.Title, 16, RoomWidth - logo), Margin, Margin + 13, Face.Title, 16, inks.Text);
            pen.Text(_letters.Fit(_setup.Subtitle, Face.Text, 9, RoomWidth - logo), Margin, Margin + 27, Face.Text, 9, inks.Mute);
        }
        var y = Size.Height - Margin - Bottom + 10;
        foreach (var line in _legend)
        {
            var x = Margin;
            foreach (var entry in line)
            {
                entry.Draw(pen, new SKRect(x, y - 4, x + Sign, y + 12));
                pen.Text(entry.Says, x + Sign + 4, y + 7, Face.Text, 8, inks.Mute);
                x += LegendWidth(entry);
            }
            y += LegendHeight;
        }
        var foot = Size.Height - Margin;
        if (Count > 1)
        {
            var number = string.Create(CultureInfo.InvariantCulture, $"Page {at + 1} of {Count}");
            pen.Text(number, Size.Width - Margin, foot, Face.Text, 8, inks.Mute, Align.Right);
        }
        pen.Text(_letters.Fit(_setup.Foot, Face.Text, 8, RoomWidth - 80), Margin, foot, Face.Text, 8, inks.Mute);
    }

    /// <summary>Draws the logo, and says how much room it takes.</summary>
    private float Logo(Pen pen)
    {
        if (_setup.Logo.IsEmpty)
            return 0;
        using var data = SKData.CreateCopy(_setup.Logo.Span);
        using var image = SKImage.FromEncodedData(data);
        if (image is null)
            return 0;
        var scale = Math.Min(LogoWidth / image.Width, LogoHeight / image.Height);
        var box = SKRect.Create(Size.Width - Margin - image.Width * scale, Margin, image.Width * scale, image.Height * scale);
        pen.Picture(image, box);
        return box.Width + LegendGap;
    }

    private float LegendWidth(LegendEntry entry) => Sign + 4 + _letters.WidthOf(entry.Says, Face.Text, 8) + LegendGap;

    private List<List<LegendEntry>> LegendIn(float width)
    {
        List<List<LegendEntry>> lines = [];
        if (!_setup.HasLegend)
            return lines;
        var x = float.MaxValue;
        foreach (var entry in _sheet.Legend)
        {
            if (x + LegendWidth(entry) > width)
            {
                lines.Add([]);
                x = 0;
            }
            lines[^1].Add(entry);
            x += LegendWidth(entry);
        }
        return lines;
    }

    private void LayOnOne()
    {
        _sheet.FillWidth(900);
        var whole = new SKSize(_sheet.SideWidth(true) + _sheet.BodyWidth, _sheet.HeadHeight + _sheet.BodyHeight);
        var width = Math.Max(320, whole.Width * Scale);
        var legend = LegendIn(width);
        Size = new SKSize(
            MathF.Ceiling(width + 2 * Margin),
            MathF.Ceiling(whole.Height * Scale + 2 * Margin + Top + FootHeight + legend.Count * LegendHeight + 4)
        );
        _legend.AddRange(legend);
        _parts.Add(new PagePart(new SKRect(0, 0, _sheet.BodyWidth, _sheet.BodyHeight), true, false));
    }

    private void LayOnPage()
    {
        // As large as all the rows allow, no larger than usual; then the timeline takes what is left of the width.
        var scale = Math.Clamp(RoomHeight / (_sheet.HeadHeight + _sheet.BodyHeight), LeastScale, PageSetup.Natural);
        for (var tries = 0; tries < 8; tries++)
        {
            _sheet.FillWidth(RoomWidth / scale - _sheet.SideWidth(true));
            var needed = (_sheet.SideWidth(true) + _sheet.BodyWidth) * scale;
            if (needed <= RoomWidth + 0.5f || scale <= LeastScale)
                break;
            scale = Math.Max(LeastScale, scale * RoomWidth / needed);
        }
        Scale = Math.Min(
            scale,
            Math.Min(RoomWidth / (_sheet.SideWidth(true) + _sheet.BodyWidth), RoomHeight / (_sheet.HeadHeight + _sheet.BodyHeight))
        );
        _parts.Add(new PagePart(new SKRect(0, 0, _sheet.BodyWidth, _sheet.BodyHeight), true, false));
    }

    private void LayOnPages()
    {
        Scale = Math.Clamp(WidestSide * RoomWidth / Math.Max(1, _sheet.SideWidth(true)), LeastScale, Scale);
        // What is not to be cut, such as a month, is made smaller to fit, down to half.
        Scale = Math.Clamp(RoomHeight / (_sheet.HeadHeight + Tallest), Math.Min(Scale, PageSetup.Natural / 2), Scale);
        var (width, height) = (RoomWidth / Scale, RoomHeight / Scale - _sheet.HeadHeight);
        // A body beside which the side leaves little room goes on on a second page, rather than to be squeezed.
        var (room, more) = (width - _sheet.SideWidth(true), width - _sheet.SideWidth(false) - Overlap);
        _sheet.FillWidth(room < LeastBody * width ? room + more : room);
        var columns = new List<(float Left, float Right)>();
        for (var left = 0f; left < _sheet.BodyWidth - 0.5f || columns.Count == 0; )
        {
            var right = left + width - _sheet.SideWidth(columns.Count == 0);
            var isLast = right > _sheet.BodyWidth - 0.5f;
            columns.Add((left, isLast ? _sheet.BodyWidth : right));
            left = isLast ? _sheet.BodyWidth : right - Overlap;
        }
        for (var top = 0f; top < _sheet.BodyHeight - 0.5f || _parts.Count == 0; )
        {
            var end = EndAfter(top, height);
            for (var at = 0; at < columns.Count; at++)
                _parts.Add(new PagePart(new SKRect(columns[at].Left, top, columns[at].Right, end), at == 0, at < columns.Count - 1));
            top = end;
        }
    }

    /// <summary>The height of the highest piece that is not to be cut.</summary>
    private float Tallest => _sheet.Ends.Zip(_sheet.Ends.Prepend(0), (end, start) => end - start).DefaultIfEmpty(1).Max();

    /// <summary>
    /// Where a page that begins at a height ends: with the last whole row there is room for, or in the middle of one that has none.
    /// </summary>
    private float EndAfter(float top, float height)
    {
        var last = 0f;
        foreach (var end in _sheet.Ends)
        {
            if (end > top + height + 0.5f)
                break;
            last = end;
        }
        return last > top + 0.5f ? last : Math.Min(_sheet.BodyHeight, top + height);
    }
}
