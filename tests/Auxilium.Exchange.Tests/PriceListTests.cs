using System.Text;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Prices;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Validation;

namespace Auxilium.Exchange.Tests;

public class PriceListTests
{
    [Fact]
    public void Columns_come_in_any_order_and_an_empty_category_goes_on_with_the_one_above()
    {
        var (lines, problem) = PriceList.Read("Price;Item;Group;Takes\n12,50;Tent;Camp;4h\n€ 1.200;Marquee;;2d\n;Rope;Deck;\n");
        Assert.Null(problem);
        Assert.All(lines, line => Assert.Null(line.Problem));
        Assert.Equal(
            [
                new PriceItem("Camp", "Tent", "", 12.5m, "", "4h"),
                new PriceItem("Camp", "Marquee", "", 1200m, "", "2d"),
                new PriceItem("Deck", "Rope", "", null, "", ""),
            ],
            lines.Select(line => line.Item)
        );
    }

    [Theory]
    [InlineData("Item\tPrice\nTent\tcheap", "“cheap” is not a price: write one such as 12.50.")]
    [InlineData("Item\tPrice\nTent\t-3", "“-3” is not a price: write one such as 12.50.")]
    [InlineData("Item\tPrice\n\t3", "The item has no name.")]
    [InlineData("Item\tLength\nTent\tages", "“ages” is not a length")]
    [InlineData("Category\tItem\nCamp\tTent\nCamp\ttent", "This item stands in the list twice.")]
    public void What_cannot_be_taken_is_said_at_its_line(string text, string why)
    {
        var (lines, _) = PriceList.Read(text);
        Assert.StartsWith(why, lines[^1].Problem, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("What now\tAmount\nTent\t3", "No column is called “Item”")]
    [InlineData("Item\tPrice", "The list has its line of columns only")]
    public void A_list_that_is_none_is_refused(string text, string why) =>
        Assert.StartsWith(why, PriceList.Read(text).Problem, StringComparison.Ordinal);

    [Fact]
    public void An_empty_list_is_a_list() => Assert.Equal(([], null), PriceList.Read(" \n"));

    /// <summary>Of random items: as text, as CSV and as a spreadsheet they come back as they were.</summary>
    [Fact]
    public void What_is_handed_out_comes_back()
    {
        string[] words = ["Tent", "=1+1", "Größe \"M\"", "O'Neill, Sons", "@home", "灯 🏮", "4 × 6"];
        var random = new Random(6);
        for (var i = 0; i < 200; i++)
        {
            var items = Enumerable
                .Range(0, random.Next(1, 12))
                .Select(n => new PriceItem(
                    words[n % 3],
                    $"{words[random.Next(words.Length)]} {n}",
                    random.Next(2) == 0 ? "" : "piece",
                    random.Next(3) == 0 ? null : random.Next(0, 1_000_000) / 100m,
                    random.Next(2) == 0 ? "" : words[random.Next(words.Length)],
                    random.Next(2) == 0 ? "" : "2d"
                ))
                .ToList();
            Assert.Equal(items, Back(PriceList.Text(items)));
            Assert.Equal(items, Back(ListFile.Read("p.csv", PriceList.Csv(items)).Text));
            var workbook = PriceList.Xlsx(items);
            Assert.Equal(items, Back(ListFile.Read("p.xlsx", workbook).Text));
            using var document = SpreadsheetDocument.Open(new MemoryStream(workbook), false);
            Assert.Empty(new OpenXmlValidator(FileFormatVersions.Microsoft365).Validate(document).Select(e => e.Description));
        }

        static IEnumerable<PriceItem> Back(string text) => PriceList.Read(text).Lines.Select(line => line.Item);
    }
}
