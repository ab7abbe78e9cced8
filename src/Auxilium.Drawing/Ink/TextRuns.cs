using System.Text;
using SkiaSharp;

namespace Auxilium.Drawing.Ink;

/// <summary>A stretch of text with one font and one direction.</summary>
/// <param name="Level">How deep it is in what runs the other way: odd ones run from right to left.</param>
internal sealed record TextRun(string Text, SKTypeface Typeface, int Level)
{
    public bool IsFromRight => Level % 2 == 1;
}

/// <summary>
/// Cuts a line of text into stretches, in the order in which they stand from left to right: after the Unicode Bidirectional Algorithm
/// (UAX #9, rules P2, N1, N2, I1, I2 and L2) without the marks that embed and override, which are taken as neutral.
/// </summary>
internal static class TextRuns
{
    private enum Way
    {
        Neutral,
        Left,
        Right,
        Digit,
    }

    public static List<TextRun> Of(string text, Face face)
    {
        var runes = text.EnumerateRunes().ToList();
        var levels = LevelsOf(runes);
        var runs = new List<TextRun>();
        var (part, typeface) = (new StringBuilder(), Typefaces.Of(face));
        for (var i = 0; i < runes.Count; i++)
        {
            // What joins and marks stays in the font of what it belongs to.
            var stays = i > 0 && Joins(runes[i]);
            var next = stays ? typeface : Typefaces.For(face, runes[i].Value);
            if (i > 0 && (next != typeface || levels[i] != levels[i - 1]))
                Close(levels[i - 1]);
            typeface = next;
            part.Append(runes[i].ToString());
        }
        if (part.Length > 0)
            Close(levels[^1]);
        return InOrder(runs);

        void Close(int level)
        {
            runs.Add(new TextRun(part.ToString(), typeface, level));
            part.Clear();
        }
    }

    private static int[] LevelsOf(List<Rune> runes)
    {
        var ways = runes.ConvertAll(WayOf);
        var fromRight = ways.Find(way => way is Way.Left or Way.Right) == Way.Right;
        var around = fromRight ? Way.Right : Way.Left;
        for (var i = 0; i < ways.Count; i++)
        {
            if (ways[i] != Way.Neutral)
                continue;
            var end = i;
            while (end < ways.Count && ways[end] == Way.Neutral)
                end++;
            var (before, after) = (i == 0 ? around : Strong(i - 1), end == ways.Count ? around : Strong(end));
            for (; i < end; i++)
                ways[i] = before == after ? before : around;
            i--;
        }
        return
        [
            .. ways.Select(
                (way, i) =>
                    way switch
                    {
                        Way.Right => 1,
                        Way.Digit when fromRight || Strong(i) == Way.Right => 2,
                        _ => fromRight ? 2 : 0,
                    }
            ),
        ];

        // Figures count as what they stand in.
        Way Strong(int at)
        {
            var i = at;
            while (i >= 0 && ways[i] is Way.Digit or Way.Neutral)
                i--;
            return i < 0 ? around : ways[i];
        }
    }

    private static List<TextRun> InOrder(List<TextRun> runs)
    {
        for (var level = runs.Count == 0 ? 0 : runs.Max(run => run.Level); level > 0; level--)
        for (var i = 0; i < runs.Count; i++)
        {
            var end = i;
            while (end < runs.Count && runs[end].Level >= level)
                end++;
            runs.Reverse(i, end - i);
            i = end;
        }
        return runs;
    }

    private static Way WayOf(Rune rune) =>
        rune.Value switch
        {
            (>= 0x0590 and <= 0x08FF) or (>= 0xFB1D and <= 0xFDFF) or (>= 0xFE70 and <= 0xFEFC) or 0x200F => Rune.IsDigit(rune)
                ? Way.Digit
                : Way.Right,
            0x200E => Way.Left,
            _ => Rune.IsDigit(rune) ? Way.Digit
            : Rune.IsLetter(rune) ? Way.Left
            : Way.Neutral,
        };

    private static bool Joins(Rune rune) =>
        rune.Value is 0x200C or 0x200D or (>= 0xFE00 and <= 0xFE0F) or (>= 0x1F3FB and <= 0x1F3FF)
        || Rune.GetUnicodeCategory(rune)
            is System.Globalization.UnicodeCategory.NonSpacingMark
                or System.Globalization.UnicodeCategory.SpacingCombiningMark;
}
