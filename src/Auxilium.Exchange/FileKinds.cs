using System.IO.Compression;
using System.Text;

namespace Auxilium.Exchange;

/// <summary>Finds out what a file is from its content; its name must agree.</summary>
public static class FileKinds
{
    private static readonly (byte[] Start, int At, string Type, string[] Endings)[] Signatures =
    [
        ([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A], 0, "image/png", [".png"]),
        ([0xFF, 0xD8, 0xFF], 0, "image/jpeg", [".jpg", ".jpeg"]),
        ("GIF87a"u8.ToArray(), 0, "image/gif", [".gif"]),
        ("GIF89a"u8.ToArray(), 0, "image/gif", [".gif"]),
        ("WEBP"u8.ToArray(), 8, "image/webp", [".webp"]),
        ("%PDF-"u8.ToArray(), 0, "application/pdf", [".pdf"]),
    ];

    /// <summary>Zipped documents, by the entry that only they have.</summary>
    private static readonly (string Ending, string Entry, string Type)[] Packed =
    [
        (".docx", "word/document.xml", "application/vnd.openxmlformats-officedocument.wordprocessingml.document"),
        (".xlsx", "xl/workbook.xml", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
        (".pptx", "ppt/presentation.xml", "application/vnd.openxmlformats-officedocument.presentationml.presentation"),
        (".odt", "content.xml", "application/vnd.oasis.opendocument.text"),
        (".ods", "content.xml", "application/vnd.oasis.opendocument.spreadsheet"),
        (".odp", "content.xml", "application/vnd.oasis.opendocument.presentation"),
    ];

    private static readonly string[] Texts = [".txt", ".md", ".csv", ".ics", ".json"];

    /// <summary>The kinds that can be stored, for sentences.</summary>
    public const string Possible =
        "pictures (PNG, JPEG, GIF, WebP), PDF, text (TXT, MD, CSV, ICS, JSON) and office documents (DOCX, XLSX, PPTX, ODT, ODS, ODP)";

    /// <param name="name">What the file is called.</param>
    /// <param name="content">What is in it.</param>
    /// <param name="type">Its media type.</param>
    /// <param name="problem">When it cannot be kept: one sentence saying what is wrong and what would be right.</param>
    public static bool TryFind(string name, ReadOnlyMemory<byte> content, out string type, out string problem)
    {
        var ending = Path.GetExtension(name).ToLowerInvariant();
        var found = Kind(ending, content);
        (type, problem) = (found?.Type ?? "", "");
        if (content.IsEmpty)
            problem = $"“{name}” is empty: choose a file with something in it.";
        else if (found is null && IsKnown(ending))
            problem = $"“{name}” is called like one kind of file, and what is in it is another: save it as what it is, and add that.";
        else if (found is null)
            problem = $"“{name}” is no kind of file that is kept here: add {Possible}.";
        else if (!found.Value.Endings.Contains(ending))
            problem =
                $"What is in “{name}” belongs into a file that ends with {string.Join(" or ", found.Value.Endings)}: give it that "
                + "name, and add it again.";
        return problem.Length == 0;
    }

    /// <summary>A name without a path or characters that cannot be printed.</summary>
    public static string CleanName(string name)
    {
        var last = name[(name.LastIndexOfAny(['/', '\\']) + 1)..];
        var clean = string.Concat(
                last.Normalize()
                    .Where(c =>
                        !char.IsControl(c)
                        && !char.IsSurrogate(c)
                        && c is not (':' or '*' or '?' or '"' or '<' or '>' or '|')
                        && char.GetUnicodeCategory(c) != System.Globalization.UnicodeCategory.Format
                    )
            )
            .Trim(' ', '.');
        return clean.Length <= 120 ? clean : clean[..100] + Path.GetExtension(clean)[..Math.Min(20, Path.GetExtension(clean).Length)];
    }

    private static bool IsKnown(string ending) =>
        Signatures.Any(s => s.Endings.Contains(ending)) || Packed.Any(p => p.Ending == ending) || Texts.Contains(ending);

    private static (string Type, string[] Endings)? Kind(string ending, ReadOnlyMemory<byte> content)
    {
        var bytes = content.Span;
        foreach (var (start, at, signature, endings) in Signatures)
            if (bytes.Length >= at + start.Length && bytes.Slice(at, start.Length).SequenceEqual(start))
                return (signature, endings);
        if (bytes.StartsWith("PK\u0003\u0004"u8))
            return PackedKind(ending, content);
        return Texts.Contains(ending) && IsText(bytes) ? ("text/plain", Texts) : null;
    }

    private static (string, string[])? PackedKind(string ending, ReadOnlyMemory<byte> content)
    {
        try
        {
            using var archive = new ZipArchive(new MemoryStream(content.ToArray()), ZipArchiveMode.Read);
            foreach (var (known, entry, type) in Packed)
                if (
                    known == ending
                    && archive.GetEntry(entry) is not null
                    && !archive.Entries.Any(e => e.FullName.EndsWith("vbaProject.bin", StringComparison.OrdinalIgnoreCase))
                )
                    return (type, [known]);
        }
        catch (InvalidDataException)
        {
            // It begins like an archive but is not one.
        }
        return null;
    }

    private static bool IsText(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Contains((byte)0))
            return false;
        try
        {
            _ = new UTF8Encoding(false, throwOnInvalidBytes: true).GetCharCount(bytes);
            return true;
        }
        catch (DecoderFallbackException)
        {
            return false;
        }
    }
}
