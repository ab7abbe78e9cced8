using Auxilium.Drawing.Ink;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>A sign of a sheet with what it means.</summary>
/// <param name="Draw">Draws it in a box of 26 × 16.</param>
public sealed record LegendEntry(string Says, Action<Pen, SKRect> Draw);

/// <summary>
/// Something of a plan, drawn as large as it must be: a body, with a head above and a side on its left that are repeated where the body is
/// cut into pages. Lengths are those of the screen at its usual size.
/// </summary>
public abstract class Sheet
{
    public abstract float BodyWidth { get; }

    public abstract float BodyHeight { get; }

    public virtual float HeadHeight => 0;

    /// <summary>How wide the side is, of the pages at the left edge and of those that go on to the right.</summary>
    public virtual float SideWidth(bool isFirst) => 0;

    /// <summary>Heights at which a page may end, ascending; the end of the body is the last.</summary>
    public virtual IReadOnlyList<float> Ends => [BodyHeight];

    /// <summary>Makes the body as near to a width as it can be; many a sheet has but one width.</summary>
    public virtual void FillWidth(float width) { }

    /// <summary>What its signs mean.</summary>
    public virtual IReadOnlyList<LegendEntry> Legend => [];

    public virtual void PaintCorner(Pen pen, bool isFirst) { }

    /// <param name="part">From where to where, of the body.</param>
    public virtual void PaintHead(Pen pen, SKRect part) { }

    public virtual void PaintSide(Pen pen, bool isFirst, SKRect part) { }

    /// <param name="part">What of the body can be seen: nothing else needs to be drawn.</param>
    public abstract void PaintBody(Pen pen, SKRect part);
}
