using System.Globalization;
using System.Text;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using CsvHelper;

namespace Auxilium.Exchange.Prices;

/// <summary>An item of a price list.</summary>
/// <param name="Unit">What it is counted in; empty for nothing.</param>
/// <param name="Price">Of one unit; <c>null</c> where it is not known.</param>
/// <param name="Length">What it usually takes, such as 2d; empty where that is not known.</param>
public sealed record PriceItem(string Category, string Name, string Unit, decimal? Price, string Supplier, string Length);

/// <summary>A line of a price list as read.</summary>
/// <param name="Number">The line it stands in, from 1.</param>
/// <param name="Problem">Why it cannot be taken; <c>null</c> when it can.</param>
public sealed record PriceLine(int Number, PriceItem Item, string? Problem);

/// <summary>Reads and writes price lists: CSV, cells of a spreadsheet, XLSX. The first line names the columns, in any order.</summary>
public static class PriceList
{
    /// <summary>A price list has at most this many items.</summary>
    public const int Most = 2_000;

    /// <summary>Cells of text are at most this long.</summary>
    public const int Longest = 80;

    private const decimal Dearest = 10_000_000;

    private static readonly (string Title, int Width)[] Columns =
    [
        ("Category", 24),
        ("Item", 36),
        ("Unit", 12),
        ("Price", 10),
        ("Supplier", 28),
        ("Length", 10),
    ];

    private static readonly (string, string[])[] Headings =
    [
        ("name", ["item", "name", "what", "article", "service"]),
        ("category", ["category", "group", "section"]),
        ("unit", ["unit", "per"]),
        ("price", ["price", "unit price", "cost", "rate"]),
        ("supplier", ["supplier", "from", "vendor"]),
        ("length", ["length", "usual length", "takes", "duration"]),
    ];

    /// <param name="text">Cells between commas, semicolons or tabs.</param>
    /// <returns>Every line, or what is wrong with the whole.</returns>
    public static (IReadOnlyList<PriceLine> Lines, string? Problem) Read(string text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return ([], null);
        var (table, problem) = HeadedTable.Read(text, Headings, "Item");
        if (table is null)
            return ([], problem);
        using var _ = table;
        var lines = new List<PriceLine>();
        var seen = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var category = "";
        while (table.Next())
        {
            if (lines.Count == Most)
                return ([], $"A price list has at most {Most:N0} items: leave out what is not used.");
            var line = ReadLine(table, category, seen);
            category = line.Item.Category;
            lines.Add(line);
        }
        return lines.Count == 0 ? ([], "The list has its line of columns only: put an item in each line below.") : (lines, null);
    }

    /// <summary>As lines with tabs between the cells, to be changed and read again.</summary>
    public static string Text(IEnumerable<PriceItem> items) =>
        string.Join(
            '\n',
            [.. new[] { string.Join('\t', Columns.Select(c => c.Title)) }, .. items.Select(i => string.Join('\t', Cells(i)))]
        );

    public static byte[] Csv(IEnumerable<PriceItem> items)
    {
        var to = new MemoryStream();
        using (var csv = new CsvWriter(new StreamWriter(to, new UTF8Encoding(false), leaveOpen: true), CultureInfo.InvariantCulture))
        {
            foreach (var (title, _) in Columns)
                csv.WriteField(title);
            csv.NextRecord();
            foreach (var item in items)
            {
                foreach (var cell in Cells(item))
                    csv.WriteField(TableCsv.Escaped(cell));
                csv.NextRecord();
            }
        }
        return to.ToArray();
    }

    public static byte[] Xlsx(IEnumerable<PriceItem> items)
    {
        var to = new MemoryStream();
        using (var book = new WorkbookWriter(to, "Price list"))
            book.Add(
                "Price list",
                Columns,
                items.Select(item => new SheetRow(
                    0,
                    Cells(item).Select((cell, i) => i == 3 && item.Price is { } price ? (CellStyle.Number, price) : Filled(cell))
                ))
            );
        return to.ToArray();

        static (CellStyle, object?) Filled(string cell) => (CellStyle.Plain, cell.Length > 0 ? cell : null);
    }

    private static string[] Cells(PriceItem item) =>
        [
            item.Category,
            item.Name,
            item.Unit,
            item.Price?.ToString("0.##", CultureInfo.InvariantCulture) ?? "",
            item.Supplier,
            item.Length,
        ];

    /// <param name="category">Of the line before: an empty cell goes on with it.</param>
    private static PriceLine ReadLine(HeadedTable table, string category, HashSet<string> seen)
    {
        var (name, price, length) = (table["name"], table["price"], table["length"]);
        var amount = AmountText.Read(price);
        var problem =
            name.Length == 0 ? "The item has no name."
            : new[] { name, table["category"], table["unit"], table["supplier"] }.Any(cell => cell.Length > Longest)
                ? $"A cell has at most {Longest} characters: shorten it."
            : new[] { name, table["category"], table["unit"], table["supplier"] }.Any(cell => cell.Any(char.IsControl))
                ? "A cell is one line of text: leave out line breaks."
            : price.Length > 0 && amount is not (>= 0 and <= Dearest) ? $"“{Short(price)}” is not a price: write one such as 12.50."
            : WhyNoLength(length);
        if (table["category"] is { Length: > 0 } own)
            category = own;
        if (problem is null && !seen.Add($"{category}\n{name}"))
            problem = "This item stands in the list twice.";
        return new PriceLine(table.Line, new PriceItem(category, name, table["unit"], amount, table["supplier"], length), problem);
    }

    private static string? WhyNoLength(string text) =>
        text.Length == 0 ? null
        : !LengthText.TryParse(text, out var length, out _, out var problem) ? problem
        : LengthText.WhyUnusable(length, WorkUnits.Standard);

    private static string Short(string text) => text.Length <= 30 ? text : text[..29] + "…";
}
