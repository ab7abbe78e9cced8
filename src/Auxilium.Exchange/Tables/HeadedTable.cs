using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace Auxilium.Exchange.Tables;

/// <summary>
/// A table as text whose first line names its columns, in any order: cells between tabs, semicolons or commas (RFC 4180).
/// </summary>
internal sealed class HeadedTable : IDisposable
{
    private readonly CsvReader _reader;
    private readonly Dictionary<string, int> _columns = [];

    private HeadedTable(CsvReader reader) => _reader = reader;

    /// <summary>The line that is read, from 1.</summary>
    public int Line => _reader.Parser.RawRow;

    /// <summary>
    /// A cell of the line that is read, without the apostrophe that keeps spreadsheets from reckoning; empty where there is none.
    /// </summary>
    public string this[string column]
    {
        get
        {
            var cell = Has(column) && _reader.TryGetField<string>(_columns[column], out var text) ? text?.Trim() ?? "" : "";
            return cell.Length > 1 && cell[0] == '\'' ? cell[1..] : cell;
        }
    }

    /// <param name="text">The table.</param>
    /// <param name="headings">By column: what it may be called, in small letters. The first column must be there.</param>
    /// <param name="wanted">What the first column is usually called.</param>
    /// <returns>The table before its first line, or what is wrong with it.</returns>
    public static (HeadedTable? Table, string? Problem) Read(
        string text,
        IReadOnlyList<(string Column, string[] Called)> headings,
        string wanted
    )
    {
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            DetectDelimiter = true,
            DetectDelimiterValues = ["\t", ";", ","],
            BadDataFound = null,
            MissingFieldFound = null,
            TrimOptions = TrimOptions.Trim,
            IgnoreBlankLines = true,
        };
        var table = new HeadedTable(new CsvReader(new StringReader(text), configuration));
        if (!table._reader.Read() || !table._reader.ReadHeader())
            return (null, $"The list is empty: its first line names the columns, such as {wanted}.");
        var head = table._reader.HeaderRecord!.Select(cell => cell.Trim()).ToArray();
        foreach (var (column, called) in headings)
            table._columns[column] = Array.FindIndex(head, cell => called.Contains(cell.ToLowerInvariant()));
        return table.Has(headings[0].Column)
            ? (table, null)
            : (null, $"No column is called “{wanted}”: the first line has {string.Join(", ", head.Take(8).Select(h => $"“{h}”"))}.");
    }

    public bool Has(string column) => _columns[column] >= 0;

    /// <summary>Goes on to the next line.</summary>
    public bool Next() => _reader.Read();

    public void Dispose() => _reader.Dispose();
}
