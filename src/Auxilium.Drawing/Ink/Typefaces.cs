using System.Collections.Concurrent;
using SkiaSharp;

namespace Auxilium.Drawing.Ink;

/// <summary>What a text is set in.</summary>
public enum Face
{
    /// <summary>What is read.</summary>
    Text,

    /// <summary>What stands out in it.</summary>
    Strong,

    /// <summary>What names a page.</summary>
    Title,
}

/// <summary>The fonts that ship, and those of the system for scripts that none of them has.</summary>
internal static class Typefaces
{
    private const int MostOfSystem = 200;
    private const int MostKnown = 50_000;

    private static readonly Dictionary<Face, SKTypeface> Faces = new()
    {
        [Face.Text] = Shipped("text"),
        [Face.Strong] = Shipped("strong"),
        [Face.Title] = Shipped("title"),
    };

    private static readonly ConcurrentDictionary<(Face, int), SKTypeface> Known = [];

    private static readonly SKTypeface[] Others = [Shipped("more"), Shipped("hebrew"), Shipped("arabic"), Shipped("emoji")];

    private static readonly Lazy<SKTypeface[]> OfSystem = new(() =>
        [
            .. SKFontManager
                .Default.FontFamilies.Take(MostOfSystem)
                .Select(SKFontManager.Default.MatchFamily)
                .OfType<SKTypeface>()
                .Where(typeface => typeface.TableCount > 0),
        ]
    );

    public static SKTypeface Of(Face face) => Faces[face];

    /// <summary>The one to show a character with; that of the face where no other has it either.</summary>
    /// <param name="codepoint">A Unicode scalar value.</param>
    public static SKTypeface For(Face face, int codepoint)
    {
        if (Known.TryGetValue((face, codepoint), out var known))
            return known;
        if (Known.Count >= MostKnown)
            Known.Clear();
        return Known[(face, codepoint)] = Find(Faces[face], codepoint);
    }

    private static SKTypeface Find(SKTypeface own, int codepoint) =>
        Has(own, codepoint)
            ? own
            : Others.FirstOrDefault(other => Has(other, codepoint))
                ?? OfSystem.Value.FirstOrDefault(other => Has(other, codepoint))
                ?? own;

    private static bool Has(SKTypeface typeface, int codepoint)
    {
        using var font = new SKFont(typeface);
        return font.ContainsGlyph(codepoint);
    }

    private static SKTypeface Shipped(string name)
    {
        using var stream = typeof(Typefaces).Assembly.GetManifestResourceStream($"{name}.ttf")!;
        using var data = SKData.Create(stream);
        return SKTypeface.FromData(data) ?? throw new InvalidOperationException($"The font {name}.ttf is no font.");
    }
}
