using System.Collections.Immutable;
using System.Globalization;
using System.IO.Compression;
using System.Xml;
using Auxilium.Exchange.Lists;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Auxilium.Exchange.Files;

/// <summary>Reads the cells of an office spreadsheet as people see them: dates as dates, formulas by their last value.</summary>
internal static class Spreadsheet
{
    /// <summary>Unpacked it has at most this many bytes, so that a small file cannot fill the memory.</summary>
    private const long MostUnpacked = 150L << 20;

    private const int MostParts = 2_000;

    private const int MostTexts = 500_000;

    /// <exception cref="FileRefusedException">It is none, or has what is not taken from strangers.</exception>
    public static (ImmutableArray<string> Sheets, int Sheet, IReadOnlyList<FileRow> Rows) Read(
        string name,
        ReadOnlyMemory<byte> content,
        int? sheet,
        CancellationToken cancel
    )
    {
        RefuseUnsafe(name, content, cancel);
        try
        {
            using var document = SpreadsheetDocument.Open(new MemoryStream(content.ToArray(), writable: false), isEditable: false);
            var workbook = document.WorkbookPart ?? throw new InvalidDataException();
            // Damaged files may lack what every spreadsheet has.
            var sheets = (workbook.Workbook ?? throw new InvalidDataException())
                .Descendants<Sheet>()
                .Where(s => s.State is null || s.State.Value == SheetStateValues.Visible)
                .Where(s => s.Id?.Value is { } id && workbook.TryGetPartById(id, out var part) && part is WorksheetPart)
                .ToList();
            if (sheets.Count == 0)
                throw new FileRefusedException($"“{name}” has no sheet with cells: choose another file.");
            if (sheet is < 0 || sheet >= sheets.Count)
                throw new FileRefusedException($"“{name}” has {sheets.Count} sheets: choose one of them.");
            ImmutableArray<string> names = [.. sheets.Select(s => s.Name?.Value ?? "")];
            var cells = new CellTexts(workbook, MostTexts);
            // The first sheet with something in it is what is meant.
            for (var at = sheet ?? 0; ; at++)
            {
                var rows = RowsOf(name, (WorksheetPart)workbook.GetPartById(sheets[at].Id!.Value!), cells, cancel);
                if (rows.Count > 0 || sheet is not null || at == sheets.Count - 1)
                    return (names, at, rows);
            }
        }
        catch (Exception broken)
            when (broken
                    is OpenXmlPackageException
                        or InvalidDataException
                        or XmlException
                        or FormatException
                        or IOException
                        or ArgumentException
                        or InvalidOperationException
                        or KeyNotFoundException
                        or NotSupportedException
                        or UriFormatException
                        or OverflowException
            )
        {
            throw new FileRefusedException($"“{name}” is damaged, or no spreadsheet: open it in your office program and save it anew.");
        }
    }

    private static void RefuseUnsafe(string name, ReadOnlyMemory<byte> content, CancellationToken cancel)
    {
        try
        {
            using var archive = new ZipArchive(new MemoryStream(content.ToArray(), writable: false), ZipArchiveMode.Read);
            if (archive.GetEntry("xl/workbook.xml") is null)
                throw new FileRefusedException(
                    $"“{name}” is packed, but no spreadsheet of the kind XLSX: save the list as XLSX or CSV, and choose that."
                );
            if (archive.Entries.Any(e => e.FullName.EndsWith("vbaProject.bin", StringComparison.OrdinalIgnoreCase)))
                throw new FileRefusedException($"“{name}” has macros: save it as XLSX, without them, and choose that.");
            if (archive.Entries.Any(e => e.FullName.StartsWith("xl/externalLinks/", StringComparison.OrdinalIgnoreCase)))
                throw new FileRefusedException($"“{name}” takes values from other files: paste them as values, save it, and choose that.");
            if (archive.Entries.Count > MostParts)
                throw TooLarge(name);
            var left = MostUnpacked;
            var buffer = new byte[64 * 1024];
            // Counted, as what an archive says of itself need not be so.
            foreach (var entry in archive.Entries)
            {
                using var from = entry.Open();
                for (int read; (read = from.Read(buffer)) > 0; )
                {
                    cancel.ThrowIfCancellationRequested();
                    if ((left -= read) < 0)
                        throw TooLarge(name);
                }
            }
        }
        catch (InvalidDataException)
        {
            throw new FileRefusedException($"“{name}” is damaged: save it anew in your office program.");
        }
    }

    private static FileRefusedException TooLarge(string name) =>
        new($"“{name}” is far larger unpacked than a list is: copy the list into a new spreadsheet, and choose that.");

    private static List<FileRow> RowsOf(string name, WorksheetPart part, CellTexts texts, CancellationToken cancel)
    {
        var rows = new List<FileRow>();
        var characters = 0;
        using var reader = OpenXmlReader.Create(part);
        var last = 0;
        while (reader.Read())
        {
            if (reader.ElementType != typeof(Row) || !reader.IsStartElement)
                continue;
            cancel.ThrowIfCancellationRequested();
            var row = (Row)reader.LoadCurrentElement()!;
            last = (int?)row.RowIndex?.Value ?? last + 1;
            if (row.Hidden?.Value == true && row.OutlineLevel is null)
                continue;
            var cells = CellsOf(row, texts);
            if (cells.All(cell => cell.Length == 0))
                continue;
            if (rows.Count >= ListReader.MostLines)
                throw new FileRefusedException(
                    $"“{name}” has more than {ListReader.MostLines:N0} rows: import them in parts, each from a sheet of its own."
                );
            if ((characters += cells.Sum(cell => cell.Length)) > ListReader.MostCharacters)
                throw TooLarge(name);
            rows.Add(new FileRow(last, row.OutlineLevel?.Value ?? texts.IndentOf(row), cells));
        }
        return rows;
    }

    private static List<string> CellsOf(Row row, CellTexts texts)
    {
        var cells = new List<string>();
        foreach (var cell in row.Elements<Cell>())
        {
            var column = cell.CellReference?.Value is { } at ? ColumnOf(at) : cells.Count;
            if (column is < 0 or >= ListReader.MostColumns)
                continue;
            while (cells.Count <= column)
                cells.Add("");
            cells[column] = texts.Of(cell);
        }
        while (cells.Count > 0 && cells[^1].Length == 0)
            cells.RemoveAt(cells.Count - 1);
        return cells;
    }

    /// <summary>0 for <c>A7</c>.</summary>
    private static int ColumnOf(string reference)
    {
        var column = 0;
        foreach (var c in reference.TakeWhile(char.IsAsciiLetter).Take(4))
            column = column * 26 + char.ToUpperInvariant(c) - 'A' + 1;
        return column - 1;
    }
}
