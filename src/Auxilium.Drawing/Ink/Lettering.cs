using System.Text;
using HarfBuzzSharp;
using SkiaSharp;
using SkiaSharp.HarfBuzz;
using Buffer = HarfBuzzSharp.Buffer;

namespace Auxilium.Drawing.Ink;

/// <summary>A line of text, ready to be drawn.</summary>
/// <param name="Width">In the units of its font size.</param>
public sealed record SetText(SKTextBlob? Blob, float Width);

/// <summary>Sets text: chooses fonts, shapes scripts, measures, cuts and wraps. For one drawing on one thread.</summary>
public sealed class Lettering : IDisposable
{
    private const int MostKept = 4_000;
    private const string Ellipsis = "…";

    private readonly Dictionary<(string Text, Face Face, float Size), SetText> _set = [];
    private readonly Dictionary<SKTypeface, Font> _shaped = [];
    private readonly Dictionary<(SKTypeface Typeface, float Size), SKFont> _fonts = [];

    public float WidthOf(string text, Face face, float size) => Set(text, face, size).Width;

    /// <summary>A line; what it was set as is kept for the next time.</summary>
    public SetText Set(string text, Face face, float size)
    {
        if (_set.TryGetValue((text, face, size), out var known))
            return known;
        // Those that are in use hold on to themselves.
        if (_set.Count >= MostKept)
            _set.Clear();
        return _set[(text, face, size)] = Shape(text, face, size);
    }

    /// <summary>As much of a line as there is room for, with an ellipsis where something was cut.</summary>
    public string Fit(string text, Face face, float size, float width)
    {
        if (WidthOf(text, face, size) <= width)
            return text;
        var runes = text.EnumerateRunes().ToArray();
        var (few, many) = (0, runes.Length);
        while (few < many)
        {
            var half = (few + many + 1) / 2;
            if (WidthOf(Start(half), face, size) <= width)
                few = half;
            else
                many = half - 1;
        }
        return few == 0 ? "" : Start(few);

        string Start(int count) => string.Concat(runes.Take(count)).TrimEnd() + Ellipsis;
    }

    /// <summary>A text in lines no wider than there is room for, parted at blanks, and in words that are wider by themselves.</summary>
    public List<string> Wrap(string text, Face face, float size, float width)
    {
        List<string> lines = [];
        foreach (var paragraph in text.ReplaceLineEndings("\n").Split('\n'))
            WrapLine(paragraph);
        return lines;

        void WrapLine(string paragraph)
        {
            if (WidthOf(paragraph, face, size) <= width)
            {
                lines.Add(paragraph);
                return;
            }
            var line = "";
            foreach (var word in paragraph.Split(' '))
            {
                var longer = line.Length == 0 ? word : $"{line} {word}";
                if (WidthOf(longer, face, size) <= width)
                {
                    line = longer;
                    continue;
                }
                if (line.Length > 0)
                    lines.Add(line);
                line = word;
                while (WidthOf(line, face, size) > width && Most(line, face, size, width) is var fitting && fitting < line.Length)
                {
                    lines.Add(line[..fitting]);
                    line = line[fitting..];
                }
            }
            lines.Add(line);
        }
    }

    /// <summary>How much of a word there is room for, in UTF-16 units: at least a character, and no half of one.</summary>
    private int Most(string word, Face face, float size, float width)
    {
        var ends = new List<int>();
        foreach (var rune in word.EnumerateRunes())
            ends.Add((ends.Count > 0 ? ends[^1] : 0) + rune.Utf16SequenceLength);
        var (few, many) = (0, ends.Count - 1);
        while (few < many)
        {
            var half = (few + many + 1) / 2;
            if (WidthOf(word[..ends[half]], face, size) <= width)
                few = half;
            else
                many = half - 1;
        }
        return ends[few];
    }

    public void Dispose()
    {
        foreach (var font in _shaped.Values)
            font.Dispose();
        foreach (var font in _fonts.Values)
            font.Dispose();
    }

    private SetText Shape(string text, Face face, float size)
    {
        using var builder = new SKTextBlobBuilder();
        var x = 0f;
        foreach (var run in TextRuns.Of(Printable(text), face))
            x = Add(builder, run, size, x);
        return new SetText(builder.Build(), x);
    }

    /// <summary>Adds a stretch and says where the next one begins.</summary>
    private float Add(SKTextBlobBuilder builder, TextRun run, float size, float x)
    {
        var bytes = Encoding.UTF8.GetBytes(run.Text);
        using var buffer = new Buffer();
        buffer.AddUtf8(bytes);
        buffer.GuessSegmentProperties();
        buffer.Direction = run.IsFromRight ? Direction.RightToLeft : Direction.LeftToRight;
        var font = ShapedBy(run.Typeface);
        font.Shape(buffer);
        font.GetScale(out var upright, out _);
        var unit = size / upright;
        var infos = buffer.GetGlyphInfoSpan();
        var places = buffer.GetGlyphPositionSpan();
        if (infos.IsEmpty)
            return x;
        // With the text that the glyphs stand for, so that it can be found and copied whatever its script makes of it.
        var set = builder.AllocateRawPositionedTextRun(FontOf(run.Typeface, size), infos.Length, bytes.Length);
        bytes.CopyTo(set.Text);
        for (var i = 0; i < infos.Length; i++)
        {
            set.Glyphs[i] = (ushort)infos[i].Codepoint;
            set.Clusters[i] = infos[i].Cluster;
            set.Positions[i] = new SKPoint(x + places[i].XOffset * unit, -places[i].YOffset * unit);
            x += places[i].XAdvance * unit;
        }
        return x;
    }

    private Font ShapedBy(SKTypeface typeface)
    {
        if (_shaped.TryGetValue(typeface, out var known))
            return known;
        // The blob is read from the stream's memory, and disposes of it.
        using var blob = typeface.OpenStream(out var index).ToHarfBuzzBlob();
        using var face = new HarfBuzzSharp.Face(blob, index) { UnitsPerEm = typeface.UnitsPerEm };
        var font = new Font(face);
        font.SetScale(typeface.UnitsPerEm, typeface.UnitsPerEm);
        font.SetFunctionsOpenType();
        return _shaped[typeface] = font;
    }

    private SKFont FontOf(SKTypeface typeface, float size)
    {
        if (_fonts.TryGetValue((typeface, size), out var known))
            return known;
        return _fonts[(typeface, size)] = new SKFont(typeface, size) { Subpixel = true, Hinting = SKFontHinting.None };
    }

    /// <summary>What cannot be seen is a blank.</summary>
    private static string Printable(string text) =>
        text.Any(char.IsControl) ? string.Concat(text.Select(c => char.IsControl(c) ? ' ' : c)) : text;
}
