using System.Collections.Immutable;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Money;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Validation;

namespace Auxilium.Exchange.Tests;

public class CostListTests
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    private static readonly Plan Fair = PlanWith("Site", "Fence", "Paint", "Paint");

    [Fact]
    public void Columns_come_in_any_order_and_lines_go_on_with_the_task_above()
    {
        var reading = Read("Price;Item;Task;Quantity;Unit\n12,50;Posts;Fence;40;piece\n€ 1.200,00;Digger;;;\n;Nails;2;1;\n");
        Assert.Null(reading.Problem);
        Assert.Equal([null, null, "No row is called “2”: write its name as it stands in the plan."], reading.Lines.Select(l => l.Problem));
        Assert.Equal(["t2", "t2", ""], reading.Lines.Select(line => line.Task));
        var (posts, digger) = (reading.Lines[0].Item, reading.Lines[1].Item);
        Assert.Equal((40m, "piece", 12.5m, ItemKind.Material), (posts.Quantity, posts.Unit, posts.Price!.Value, posts.Kind));
        Assert.Equal((1m, 1200m, ItemKind.Fixed), (digger.Quantity, digger.Price!.Value, digger.Kind));
        var (ledger, _) = reading.Edit!.Apply(Ledger.None, Fair);
        Assert.Equal(["Posts", "Digger"], ledger.ItemsOf("t2").Select(item => item.Name));
    }

    [Theory]
    [InlineData("Item\nTent", "Say which task or phase it is for")]
    [InlineData("Task\tItem\nRoof\tTent", "No row is called “Roof”")]
    [InlineData("Task\tItem\nPaint\tTent", "2 rows are called “Paint”: give the number")]
    [InlineData("No\tItem\n7\tTent", "No row has the number 7.")]
    [InlineData("No\tItem\tPrice\n2\tTent\tcheap", "“cheap” is no number here")]
    [InlineData("No\tItem\tPrice\n2\tTent\t-3", "“-3” is no number here")]
    [InlineData("No\tItem\tPrice\n2\tTent\t1.250", "“1.250” can be read in two ways")]
    [InlineData("No\tItem\tKind\n2\tTent\trented", "“rented” is no kind")]
    [InlineData("No\tItem\tPrice for\n2\tTent\tyear", "“year” is nothing that a price is for")]
    [InlineData("No\tItem\tDue\n2\tTent\tlater", "“later” does not say when it is due")]
    [InlineData("No\tItem\tKind\tPrice for\n2\tTent\tfixed\tday", "Only what is rented")]
    [InlineData("No\tItem\n2\t", "Say what it is")]
    [InlineData("No\tItem\tPaid\n2\tTent\t30", "Say when it was paid")]
    [InlineData("No\tItem\tPaid on\n2\tTent\t2027-05-03", "It says when it was paid, but not how much")]
    [InlineData("No\tItem\tPaid\tPaid on\n2\tTent\t30\tsoon", "“soon”")]
    [InlineData("No\tItem\n2\tTent\n2\ttent", "This item stands in the list twice")]
    public void What_cannot_be_taken_is_said_at_its_line(string text, string why)
    {
        var reading = Read(text);
        Assert.StartsWith(why, reading.Lines[^1].Problem, StringComparison.Ordinal);
        Assert.Equal(1, reading.Unread);
    }

    [Theory]
    [InlineData("What now\tAmount\nTent\t3", "No column is called “Item”")]
    [InlineData("Item\tPrice", "The list has its line of columns only")]
    public void A_list_that_is_none_is_refused(string text, string why) =>
        Assert.StartsWith(why, Read(text).Problem, StringComparison.Ordinal);

    /// <summary>One list writes decimals one way: 1.250 is read by what the others have.</summary>
    [Theory]
    [InlineData("1.250\n2\tB\t2,50", 1250)]
    [InlineData("1.250\n2\tB\t2.50", 1.25)]
    [InlineData("1,250\n2\tB\t2.50", 1250)]
    [InlineData("0.125\n2\tB\t", 0.125)]
    public void A_mark_before_three_figures_means_what_it_means_elsewhere_in_the_list(string rest, decimal price)
    {
        var reading = Read($"No\tItem\tPrice\n2\tA\t{rest}");
        Assert.All(reading.Lines, line => Assert.Null(line.Problem));
        Assert.Equal(price, reading.Lines[0].Item.Price);
    }

    [Fact]
    public void An_item_that_is_there_is_changed_and_keeps_what_the_list_does_not_say()
    {
        var known = new CostItem("i", "Posts")
        {
            Price = 10,
            Category = "Wood",
            Payments = [new(Today, 5)],
        };
        var ledger = Ledger.None with { Items = Ledger.None.Items.SetItem("t2", [known]) };
        var same = CostList.Read("No\tItem\n2\tposts", Fair, ledger, null, Today);
        Assert.Equal(CostLineState.Same, same.Lines[0].State);
        Assert.Null(same.Edit);
        var changed = CostList.Read(
            "No\tItem\tPrice\tPaid\tPaid on\n2\tposts\t11\t5\t13 May\n2\tposts\t\t7\t14 May",
            Fair,
            ledger,
            null,
            Today
        );
        Assert.Equal(CostLineState.Changed, changed.Lines[0].State);
        var after = changed.Edit!.Apply(ledger, Fair).Item1.ItemsOf("t2").Single();
        Assert.Equal(known with { Price = 11, Payments = [new(Today, 5), new(Today.AddDays(1), 7)] }, after);
    }

    [Fact]
    public void What_names_no_task_is_for_the_one_it_was_opened_on_and_work_is_left_out()
    {
        var reading = CostList.Read("Item\tCategory\nTent\tCamp\nIda Berg\tLabour", Fair, Ledger.None, "t3", Today);
        Assert.Equal([CostLineState.New, CostLineState.LeftOut], reading.Lines.Select(line => line.State));
        Assert.Equal("t3", ((SetItem)reading.Edit!.Edits.Single()).Task);
    }

    /// <summary>Of random ledgers: handed out as CSV and as a spreadsheet, nothing of them is new, changed or unreadable.</summary>
    [Fact]
    public void What_is_handed_out_comes_back()
    {
        string[] words = ["Tent", "=1+1", "Größe \"M\"", "O'Neill, Sons", "@home", "灯 🏮", "4 × 6"];
        var random = new Random(18);
        for (var i = 0; i < 100; i++)
        {
            var ledger = Ledger.None with
            {
                Items = Fair.Tasks.Where(_ => random.Next(3) > 0).ToImmutableDictionary(task => task.Id, _ => Some()),
            };
            foreach (var (name, bytes) in new[] { ("c.csv", CostList.Csv(Fair, ledger)), ("c.xlsx", CostList.Xlsx(Fair, ledger)) })
            {
                if (ledger.Items.IsEmpty)
                    continue;
                var text = ListFile.Read(name, bytes).Text;
                var again = CostList.Read(text, Fair, ledger, null, Today);
                Assert.All(again.Lines, line => Assert.Null(line.Problem));
                Assert.Null(again.Edit);
                var anew = CostList.Read(text, Fair, Ledger.None, null, Today).Edit!.Apply(Ledger.None, Fair).Item1;
                foreach (var task in Fair.Tasks)
                    Assert.Equal(
                        ledger.ItemsOf(task.Id).Select(item => item with { Id = "" }),
                        anew.ItemsOf(task.Id).Select(item => item with { Id = "" })
                    );
            }
            if (i < 5)
            {
                using var document = SpreadsheetDocument.Open(new MemoryStream(CostList.Xlsx(Fair, ledger)), false);
                Assert.Empty(new OpenXmlValidator(FileFormatVersions.Microsoft365).Validate(document).Select(e => e.Description));
            }
        }

        ImmutableArray<CostItem> Some() =>
            [
                .. Enumerable
                    .Range(0, random.Next(1, 4))
                    .Select(n => new CostItem($"i{n}", $"{words[random.Next(words.Length)]} {n}")
                    {
                        Kind = ItemKind.Equipment,
                        Per = (PricePer)random.Next(3),
                        Accrues = (Accrual)random.Next(3),
                        Quantity = random.Next(1, 100_000) / 100m,
                        Price = random.Next(3) == 0 ? null : random.Next(0, 100_000_000) / 100m,
                        PerUse = random.Next(2) == 0 ? 0 : random.Next(1, 10_000) / 100m,
                        Unit = random.Next(2) == 0 ? "" : "piece",
                        Category = words[random.Next(words.Length)],
                        Supplier = random.Next(2) == 0 ? "" : words[random.Next(words.Length)],
                        Note = random.Next(2) == 0 ? "" : "two\nlines",
                        Payments =
                        [
                            .. Enumerable
                                .Range(0, random.Next(3))
                                .Select(p => new Payment(Today.AddDays(p), random.Next(1, 99_999) / 100m, p == 0 ? null : $"R-{p}")),
                        ],
                    }),
            ];
    }

    private static CostListReading Read(string text) => CostList.Read(text, Fair, Ledger.None, null, Today);

    private static Plan PlanWith(params string[] names)
    {
        var plan = Plan.Empty("Fair", default);
        return plan with { Tasks = [.. names.Select((name, i) => new PlanTask { Id = $"t{i + 1}", Name = name })] };
    }
}
