using System.Globalization;
using System.Text;
using Auxilium.Planning.Calendars;
using CsvHelper;
using CsvHelper.Configuration;

namespace Auxilium.Exchange.Tables;

/// <summary>A table as CSV (RFC 4180).</summary>
public static class TableCsv
{
    /// <param name="separator">What stands between cells.</param>
    /// <param name="marked">Whether it begins with a mark that says it is UTF-8, which some spreadsheets need.</param>
    public static byte[] Write(PlanTable table, char separator = ',', bool marked = false)
    {
        var to = new MemoryStream();
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = separator.ToString(),
            NewLine = "\r\n",
            // Any line break, not only that of the file.
            ShouldQuote = cell => cell.Field is { } text && (text.AsSpan().IndexOfAny("\"\r\n") >= 0 || text.Contains(separator)),
        };
        using (var csv = new CsvWriter(new StreamWriter(to, new UTF8Encoding(marked), leaveOpen: true), configuration))
        {
            foreach (var column in table.Columns)
                csv.WriteField(column.Title);
            csv.NextRecord();
            foreach (var row in table.Rows)
            {
                foreach (var column in table.Columns)
                    csv.WriteField(TextOf(column.Kind, column.Of(table, row)));
                csv.NextRecord();
            }
        }
        return to.ToArray();
    }

    private static string TextOf(CellKind kind, object? value) =>
        value switch
        {
            null => "",
            PlanTime time => Moment(time, kind == CellKind.Finish),
            DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            decimal number when kind == CellKind.Percent => (number * 100).ToString("0.##", CultureInfo.InvariantCulture) + "%",
            decimal number => number.ToString("0.####", CultureInfo.InvariantCulture),
            _ => Escaped((string)value),
        };

    /// <summary>Dates with their time of day; the end of a day is 24:00 of it.</summary>
    internal static string Moment(PlanTime time, bool isFinish)
    {
        var day = isFinish ? time.LastDate : time.Date;
        var minutes = time.Minutes - PlanTime.On(day).Minutes;
        return string.Create(CultureInfo.InvariantCulture, $"{day:yyyy-MM-dd} {minutes / 60:00}:{minutes % 60:00}");
    }

    /// <summary>What a spreadsheet would take for a formula begins with an apostrophe.</summary>
    internal static string Escaped(string text) => text.Length > 0 && "=+-@\t\r".Contains(text[0]) ? "'" + text : text;
}
