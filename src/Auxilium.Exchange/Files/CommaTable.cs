using System.Globalization;
using Auxilium.Exchange.Lists;
using CsvHelper;
using CsvHelper.Configuration;

namespace Auxilium.Exchange.Files;

/// <summary>Text with cells between commas, semicolons, tabs or bars (RFC 4180).</summary>
internal static class CommaTable
{
    /// <summary>The rows that have something in them; <c>null</c> where the text is no table but lines.</summary>
    /// <exception cref="FileRefusedException">It has too many rows.</exception>
    public static IReadOnlyList<FileRow>? Read(string text, CancellationToken cancel)
    {
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            HasHeaderRecord = false,
            DetectDelimiter = true,
            DetectDelimiterValues = [",", ";", "\t", "|"],
            BadDataFound = null,
            MissingFieldFound = null,
            MaxFieldSize = ListReader.MostCharacters,
        };
        var rows = new List<FileRow>();
        try
        {
            using var csv = new CsvParser(new StringReader(text), configuration);
            while (csv.Read())
            {
                cancel.ThrowIfCancellationRequested();
                if (csv.Record is not { } cells || cells.All(string.IsNullOrWhiteSpace))
                    continue;
                if (rows.Count >= ListReader.MostLines)
                    throw new FileRefusedException($"This list has more than {ListReader.MostLines:N0} rows: import it in parts.");
                rows.Add(new FileRow(csv.RawRow, 0, cells));
            }
        }
        catch (CsvHelperException)
        {
            return null;
        }
        // Sentences have commas too: a table has about as many cells in each line.
        var wide = rows.Count(row => row.Cells.Count > 1);
        return rows.Count > 0 && wide * 10 >= rows.Count * 8 ? rows : null;
    }
}
