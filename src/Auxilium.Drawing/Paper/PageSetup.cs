using Auxilium.Drawing.Ink;

namespace Auxilium.Drawing.Paper;

/// <summary>How a sheet is brought onto pages.</summary>
public enum Fit
{
    /// <summary>On one page of the paper, as small as it must be.</summary>
    Page,

    /// <summary>On as many pages as it needs.</summary>
    Pages,

    /// <summary>On one page that is as large as it must be.</summary>
    One,
}

/// <summary>How pages are laid out.</summary>
/// <param name="Paper">Which paper; of no account for <see cref="Fit.One"/>.</param>
/// <param name="Landscape">Whether the page is landscape.</param>
/// <param name="Inks">Colours.</param>
/// <param name="Title">What stands at the top; empty for nothing.</param>
/// <param name="Subtitle">What stands below it.</param>
/// <param name="Foot">Who made it and when.</param>
/// <param name="HasLegend">Whether the signs are explained.</param>
/// <param name="Logo">A PNG or JPEG picture that stands at the top on the right; empty for none.</param>
/// <param name="Transparent">Whether the paper is left out: for a picture that is laid on something.</param>
public sealed record PageSetup(
    PaperSize Paper,
    bool Landscape,
    Fit Fit,
    Inks Inks,
    string Title,
    string Subtitle,
    string Foot,
    bool HasLegend = true,
    bool Transparent = false,
    ReadOnlyMemory<byte> Logo = default
)
{
    /// <summary>Points that a length of the screen is long on paper where nothing has to be made smaller: 11 become 8 ¼.</summary>
    public const float Natural = 0.75f;
}
