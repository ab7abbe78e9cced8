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
    private static readonly Dictionary<Face, SKTypeface> Faces = new()
    {
        [Face.Text] = Shipped("text"),
        [Face.Strong] = Shipped("strong"),
        [Face.Title] = Shipped("title"),
    };

    private static readonly SKTypeface[] Others = [Shipped("hebrew"), Shipped("arabic"), Shipped("emoji")];

    public static SKTypeface Of(Face face) => Faces[face];

    /// <summary>The one to show a character with; that of the face where no other has it either.</summary>
    /// <param name="codepoint">A Unicode scalar value.</param>
    public static SKTypeface For(Face face, int codepoint)
    {
        var own = Faces[face];
        if (Has(own, codepoint))
            return own;
        return Others.FirstOrDefault(other => Has(other, codepoint)) ?? SKFontManager.Default.MatchCharacter(codepoint) ?? own;
    }

    public static bool Has(SKTypeface typeface, int codepoint)
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
