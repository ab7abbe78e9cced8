using System.Collections.Immutable;
using System.Text;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.PlanDocuments;

namespace Auxilium.Exchange.Files;

/// <summary>A file with a list in it, as the text that copying that list would give.</summary>
/// <param name="Kind">What kind of file it is: <c>spreadsheet</c>, <c>table</c>, <c>calendar</c>, <c>plan</c> or <c>text</c>.</param>
/// <param name="Text">Lines, with tabs between their cells; indentation of rows as blanks before each of their cells.</param>
/// <param name="Sheets">Names of the sheets that can be seen; empty for other kinds.</param>
/// <param name="Sheet">Which of them the text is of, from 0.</param>
/// <param name="HeadRow">The row that the text begins with, from 1: the one with headings, where any is found.</param>
public sealed record ListFile(string Kind, string Text, ImmutableArray<string> Sheets, int Sheet, int HeadRow)
{
    /// <summary>By row below the headings: when it comes again; empty where no row does.</summary>
    public ImmutableArray<ListRepeat?> Repeats { get; init; } = [];

    /// <summary>A file is at most this large.</summary>
    public const int MostBytes = 20 * 1024 * 1024;

    /// <summary>Headings are looked for in so many rows.</summary>
    private const int MostBeforeHead = 15;

    /// <summary>Reads what a file has, which is found out from its content.</summary>
    /// <param name="name">What it is called, for sentences.</param>
    /// <param name="content">What is in it.</param>
    /// <param name="sheet">Which sheet, from 0; the first with something in it when left out.</param>
    /// <param name="headRow">The row with the headings, from 1; looked for when left out.</param>
    /// <param name="zone">The organisation's time zone; that of the server when left out.</param>
    /// <exception cref="FileRefusedException">No list can be read from it.</exception>
    public static ListFile Read(
        string name,
        ReadOnlyMemory<byte> content,
        int? sheet = null,
        int? headRow = null,
        TimeZoneInfo? zone = null,
        CancellationToken cancel = default
    )
    {
        if (content.IsEmpty)
            throw new FileRefusedException($"“{name}” is empty: choose a file with a list in it.");
        if (content.Length > MostBytes)
            throw new FileRefusedException($"“{name}” is larger than {MostBytes >> 20} MB: leave out what is not part of the list.");
        if (content.Span.StartsWith("PK\u0003\u0004"u8))
        {
            var (sheets, at, rows) = Spreadsheet.Read(name, content, sheet, cancel);
            return Of("spreadsheet", rows, sheets, at, headRow);
        }
        if (OldOrOther(content.Span) is { } what)
            throw new FileRefusedException($"“{name}” is {what}: save the list as a spreadsheet (XLSX) or as CSV, and choose that.");
        var text = TextOf(name, content.Span);
        if (CalendarFile.IsOne(content.Span))
        {
            var (entries, repeats) = CalendarFile.Read(name, text, zone ?? TimeZoneInfo.Local, cancel);
            return Of("calendar", entries, [], 0, 1) with { Repeats = repeats };
        }
        if (PlanDocumentReader.IsLikelyOne(content.Span))
            return new ListFile("plan", PlanDocumentFile.Read(name, content, cancel), [], 0, 1);
        var table = CommaTable.Read(text, cancel);
        return table is null ? new ListFile("text", text, [], 0, 1) : Of("table", table, [], 0, headRow);
    }

    private static ListFile Of(string kind, IReadOnlyList<FileRow> rows, ImmutableArray<string> sheets, int sheet, int? headRow)
    {
        var head = headRow ?? HeadOf(rows);
        var text = new StringBuilder();
        foreach (var row in rows.Where(row => row.Number >= head))
            text.AppendJoin('\t', row.Cells.Select(cell => Written(cell, row.Indent))).Append('\n');
        return new ListFile(kind, text.ToString(), sheets, sheet, head);
    }

    /// <summary>The row that most of the words above it are known of; the first where that is none.</summary>
    private static int HeadOf(IReadOnlyList<FileRow> rows)
    {
        var best = rows.Take(MostBeforeHead).MaxBy(row => ListHeadings.Known(row.Cells));
        return best is not null && ListHeadings.Known(best.Cells) >= 2 ? best.Number
            : rows.Count > 0 ? rows[0].Number
            : 1;
    }

    private static string Written(string cell, int indent)
    {
        if (cell.Length == 0)
            return "";
        var text = new string(' ', 4 * indent) + cell.Replace('\t', ' ').ReplaceLineEndings("\n");
        return text.Contains('\n') || cell.StartsWith('"') ? $"\"{text.Replace("\"", "\"\"")}\"" : text;
    }

    private static string? OldOrOther(ReadOnlySpan<byte> content) =>
        content.StartsWith((byte[])[0xD0, 0xCF, 0x11, 0xE0]) ? "an office file of an older kind, or one with a password"
        : content.StartsWith("%PDF"u8) ? "a PDF"
        : content.StartsWith((byte[])[0x89, (byte)'P', (byte)'N', (byte)'G']) || content.StartsWith((byte[])[0xFF, 0xD8, 0xFF])
            ? "a picture"
        : null;

    private static string TextOf(string name, ReadOnlySpan<byte> content)
    {
        var encoding =
            content.StartsWith((byte[])[0xFF, 0xFE]) ? Encoding.Unicode
            : content.StartsWith((byte[])[0xFE, 0xFF]) ? Encoding.BigEndianUnicode
            : null;
        if (encoding is null && content.Contains((byte)0))
            throw new FileRefusedException($"“{name}” is no list that can be read here: choose a spreadsheet (XLSX), CSV or text.");
        if (encoding is not null)
            return encoding.GetString(content).TrimStart('\uFEFF');
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(content).TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            // Older programs write the alphabet of western Europe.
            return Encoding.Latin1.GetString(content);
        }
    }
}

/// <summary>A row of a file.</summary>
/// <param name="Number">Which it is, from 1.</param>
/// <param name="Indent">How many levels it is set in.</param>
internal sealed record FileRow(int Number, int Indent, IReadOnlyList<string> Cells);

/// <summary>A file cannot be imported; the message says why, and what would be right.</summary>
public sealed class FileRefusedException(string message) : Exception(message);
