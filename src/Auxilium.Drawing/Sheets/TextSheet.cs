using System.Collections.Immutable;
using Auxilium.Drawing.Ink;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>A piece of a page that is read.</summary>
public abstract record TextBlock;

public sealed record HeadingBlock(string Text) : TextBlock;

/// <param name="IsStrong">Whether it stands out.</param>
public sealed record ParagraphBlock(string Text, bool IsStrong = false) : TextBlock;

/// <param name="Columns">Titles, and how wide each is beside the others.</param>
/// <param name="Rows">A text for each column.</param>
/// <param name="HasBoxes">Whether each row begins with a box to tick.</param>
public sealed record TableBlock(
    ImmutableArray<(string Title, float Share)> Columns,
    IReadOnlyList<IReadOnlyList<string>> Rows,
    bool HasBoxes = false
) : TextBlock
{
    /// <summary>Columns from this one on hold amounts, which stand at the right.</summary>
    public int AmountsFrom { get; init; } = int.MaxValue;
}

/// <summary>Headings, paragraphs and tables: the report, and lists to hand out.</summary>
public sealed class TextSheet : Sheet
{
    private const float Size = 11.5f;
    private const float LineHeight = 15;
    private const float Gap = 10;
    private const float Inset = 16;

    private readonly IReadOnlyList<TextBlock> _blocks;
    private readonly Lettering _letters;
    private readonly List<(float Top, float Height, Action<Pen, float> Paint)> _pieces = [];
    private readonly List<float> _ends = [];
    private float _width;

    public TextSheet(IReadOnlyList<TextBlock> blocks, Lettering letters)
    {
        (_blocks, _letters) = (blocks, letters);
        FillWidth(700);
    }

    public override float BodyWidth => _width;

    public override float BodyHeight => _ends.Count == 0 ? 0 : _ends[^1];

    public override IReadOnlyList<float> Ends => _ends;

    /// <summary>As wide as there is room for, up to what eyes can follow.</summary>
    public override void FillWidth(float width)
    {
        width = Math.Clamp(width, 320, 1000);
        if (width == _width)
            return;
        _width = width;
        _pieces.Clear();
        _ends.Clear();
        foreach (var block in _blocks)
            switch (block)
            {
                case HeadingBlock heading:
                    // Never the last on a page.
                    Add(34, (pen, top) => pen.Text(heading.Text, 0, top + 24, Face.Title, 15, pen.Inks.Text), mayEnd: false);
                    break;
                case ParagraphBlock paragraph:
                    Paragraph(paragraph);
                    break;
                case TableBlock table:
                    Table(table);
                    break;
            }
        if (_pieces.Count > 0 && (_ends.Count == 0 || _ends[^1] < Bottom))
            _ends.Add(Bottom);
    }

    public override void PaintBody(Pen pen, SKRect part)
    {
        foreach (var (top, height, paint) in _pieces)
            if (top < part.Bottom && top + height > part.Top)
                paint(pen, top);
    }

    private float Bottom => _pieces.Count == 0 ? 0 : _pieces[^1].Top + _pieces[^1].Height;

    private void Add(float height, Action<Pen, float> paint, bool mayEnd = true)
    {
        _pieces.Add((Bottom, height, paint));
        if (mayEnd)
            _ends.Add(Bottom);
    }

    private void Paragraph(ParagraphBlock paragraph)
    {
        var face = paragraph.IsStrong ? Face.Strong : Face.Text;
        foreach (var line in _letters.Wrap(paragraph.Text, face, Size, _width))
            Add(LineHeight, (pen, top) => pen.Text(line, 0, top + 11, face, Size, pen.Inks.Text), mayEnd: !paragraph.IsStrong);
        // What stands out introduces what follows: it is not the last on a page.
        Add(5, (_, _) => { }, mayEnd: !paragraph.IsStrong);
    }

    private void Table(TableBlock table)
    {
        var shares = table.Columns.Sum(column => column.Share);
        float[] widths = [.. table.Columns.Select(column => (_width - Gap * (table.Columns.Length - 1)) * column.Share / shares)];
        Row([.. table.Columns.Select(column => column.Title)], Face.Strong, isHead: true);
        foreach (var row in table.Rows)
            Row(row, Face.Text, isHead: false);
        Add(8, (_, _) => { });

        void Row(IReadOnlyList<string> cells, Face face, bool isHead)
        {
            var inset = table.HasBoxes ? Inset : 0;
            List<List<string>> lines =
            [
                .. cells.Select((cell, at) => _letters.Wrap(cell, at == 0 ? Face.Strong : face, Size, widths[at] - (at == 0 ? inset : 0))),
            ];
            var height = lines.Max(cell => cell.Count) * LineHeight + 7;
            Add(
                height,
                (pen, top) =>
                {
                    var x = 0f;
                    if (table.HasBoxes && !isHead)
                        pen.Frame(new SKRect(0.5f, top + 5, 9.5f, top + 14), pen.Inks.Text);
                    for (var at = 0; at < lines.Count; at++)
                    {
                        for (var i = 0; i < lines[at].Count; i++)
                            pen.Text(
                                lines[at][i],
                                at >= table.AmountsFrom ? x + widths[at]
                                    : at == 0 ? x + inset
                                    : x,
                                top + 14 + i * LineHeight,
                                at == 0 ? Face.Strong : face,
                                Size,
                                isHead ? pen.Inks.Mute : pen.Inks.Text,
                                at >= table.AmountsFrom ? Align.Right : Align.Left
                            );
                        x += widths[at] + Gap;
                    }
                    pen.Line(0, top + height - 1, _width, top + height - 1, isHead ? pen.Inks.TrayLine : pen.Inks.Line, isHead ? 1 : 0.6f);
                },
                mayEnd: !isHead
            );
        }
    }
}
