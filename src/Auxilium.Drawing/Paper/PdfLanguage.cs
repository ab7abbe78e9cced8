using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Auxilium.Drawing.Paper;

/// <summary>
/// Adds to a PDF what its writer cannot say: the language of its text. As an incremental update (ISO 32000-1, 7.5.6): a new catalogue, and
/// a table that says where it is, behind the file as it was.
/// </summary>
internal static partial class PdfLanguage
{
    /// <param name="pdf">A file with a table of its objects, as its writer makes it.</param>
    /// <param name="language">As BCP 47 has it.</param>
    public static byte[] Added(byte[] pdf, string language)
    {
        var text = Encoding.Latin1.GetString(pdf);
        var trailer = text.LastIndexOf("trailer", StringComparison.Ordinal);
        var root = Root().Match(text, trailer);
        var size = Size().Match(text, trailer);
        var before = Start().Match(text, trailer);
        var catalogue = text.LastIndexOf($"\n{root.Groups[1].Value} 0 obj", StringComparison.Ordinal);
        if (trailer < 0 || !root.Success || !size.Success || !before.Success || catalogue < 0)
            throw new InvalidOperationException("The PDF has no catalogue where it should be.");
        var end = text.IndexOf("endobj", catalogue, StringComparison.Ordinal);
        var known = text[(catalogue + 1)..end].TrimEnd();
        // The last “>>” closes the catalogue's dictionary.
        var open = known[..known.LastIndexOf(">>", StringComparison.Ordinal)];
        var info = Info().Match(text, trailer);
        var start = text.Length + 1;
        var added = new StringBuilder("\n");
        added.Append(CultureInfo.InvariantCulture, $"{open}/Lang ({language})\n>>\nendobj\n");
        var table = text.Length + added.Length;
        added.Append(CultureInfo.InvariantCulture, $"xref\n{root.Groups[1].Value} 1\n{start:D10} 00000 n \n");
        added.Append(
            CultureInfo.InvariantCulture,
            $"trailer\n<</Size {size.Groups[1].Value}\n/Root {root.Groups[1].Value} 0 R\n{info.Value}\n"
        );
        added.Append(CultureInfo.InvariantCulture, $"/Prev {before.Groups[1].Value}>>\nstartxref\n{table}\n%%EOF\n");
        return [.. pdf, .. Encoding.Latin1.GetBytes(added.ToString())];
    }

    [GeneratedRegex(@"/Root (\d+) 0 R")]
    private static partial Regex Root();

    [GeneratedRegex(@"/Size (\d+)")]
    private static partial Regex Size();

    [GeneratedRegex(@"/Info \d+ 0 R")]
    private static partial Regex Info();

    [GeneratedRegex(@"startxref\s+(\d+)")]
    private static partial Regex Start();
}
