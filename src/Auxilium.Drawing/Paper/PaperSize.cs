using System.Collections.Immutable;

namespace Auxilium.Drawing.Paper;

/// <summary>A size of paper.</summary>
/// <param name="Name">Its name in addresses, such as <c>a3</c>.</param>
/// <param name="Title">Its name for people.</param>
/// <param name="Width">Of an upright sheet, in points (1/72 inch).</param>
/// <param name="Height">In points.</param>
public sealed record PaperSize(string Name, string Title, float Width, float Height)
{
    private const float Millimetre = 72 / 25.4f;
    private const float Inch = 72;

    /// <summary>ISO 216 and the sizes of North America.</summary>
    public static ImmutableArray<PaperSize> All { get; } =
    [
        new("a4", "A4", 210 * Millimetre, 297 * Millimetre),
        new("a3", "A3", 297 * Millimetre, 420 * Millimetre),
        new("a2", "A2", 420 * Millimetre, 594 * Millimetre),
        new("a1", "A1", 594 * Millimetre, 841 * Millimetre),
        new("a0", "A0", 841 * Millimetre, 1189 * Millimetre),
        new("letter", "Letter", 8.5f * Inch, 11 * Inch),
        new("legal", "Legal", 8.5f * Inch, 14 * Inch),
        new("tabloid", "Tabloid", 11 * Inch, 17 * Inch),
    ];

    public static PaperSize? Find(string? name) => All.FirstOrDefault(paper => paper.Name == name);
}
