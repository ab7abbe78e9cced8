using System.Text;
using System.Text.RegularExpressions;
using SkiaSharp;

namespace Auxilium.Drawing.Paper;

/// <summary>Pages as files.</summary>
public static partial class Prints
{
    /// <summary>Pixels of a picture: more take more memory than a picture is worth.</summary>
    public const long MostPixels = 40_000_000;

    /// <summary>The longest side of a page of a PDF, in points: 5 metres.</summary>
    public const float LongestPage = 14_400;

    /// <summary>A PDF with text that can be selected and searched.</summary>
    /// <param name="title">What readers show in their title line.</param>
    /// <param name="now">When it is made, in UTC.</param>
    /// <param name="progress">Told how many pages are done.</param>
    /// <exception cref="OperationCanceledException">It was cancelled.</exception>
    public static byte[] Pdf(
        PaperPages pages,
        string title,
        string author,
        DateTime now,
        Action<int>? progress = null,
        CancellationToken cancel = default
    )
    {
        using var stream = new MemoryStream();
        var about = new SKDocumentPdfMetadata
        {
            Title = title,
            Author = author,
            Creator = "Auxilium",
            Creation = now,
            Modified = now,
            RasterDpi = SKDocumentPdfMetadata.DefaultRasterDpi,
            EncodingQuality = SKDocumentPdfMetadata.DefaultEncodingQuality,
        };
        using (var document = SKDocument.CreatePdf(stream, about))
        {
            for (var at = 0; at < pages.Count; at++)
            {
                cancel.ThrowIfCancellationRequested();
                pages.Paint(document.BeginPage(pages.Size.Width, pages.Size.Height), at);
                document.EndPage();
                progress?.Invoke(at + 1);
            }
            document.Close();
        }
        return PdfLanguage.Added(stream.ToArray(), "en");
    }

    /// <summary>A page as a picture.</summary>
    /// <param name="at">Which page, from 0.</param>
    /// <param name="dense">Pixels a point.</param>
    public static byte[] Png(PaperPages pages, int at, float dense)
    {
        var (width, height) = PixelsOf(pages, dense);
        using var surface = SKSurface.Create(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul))
            ?? throw new InvalidOperationException($"No picture of {width} × {height} pixels can be made.");
        surface.Canvas.Clear(SKColors.Transparent);
        surface.Canvas.Scale(dense);
        pages.Paint(surface.Canvas, at);
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    /// <summary>Width and height of a page in pixels.</summary>
    public static (int Width, int Height) PixelsOf(PaperPages pages, float dense) =>
        ((int)MathF.Ceiling(pages.Size.Width * dense), (int)MathF.Ceiling(pages.Size.Height * dense));

    /// <summary>A page as SVG, with text as text.</summary>
    public static byte[] Svg(PaperPages pages, int at)
    {
        using var stream = new MemoryStream();
        using (var canvas = SKSvgCanvas.Create(SKRect.Create(pages.Size), stream))
            pages.Paint(canvas, at);
        // Whoever has not got the font should get one without serifs, as it is.
        var svg = Encoding.UTF8.GetString(stream.GetBuffer(), 0, (int)stream.Length);
        return Encoding.UTF8.GetBytes(Family().Replace(svg, "font-family=\"$1, sans-serif\""));
    }

    [GeneratedRegex("font-family=\"([^\",]+)\"")]
    private static partial Regex Family();
}
