using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using CsvHelper;

namespace Auxilium.Exchange.Money;

/// <summary>What a line of a cost list would do.</summary>
public enum CostLineState
{
    New,
    Changed,
    Same,

    /// <summary>It is what somebody's work costs, which follows from the plan.</summary>
    LeftOut,
}

/// <summary>A line of a cost list as read.</summary>
/// <param name="Number">The line it stands in, from 1.</param>
/// <param name="Task">Id of the row it belongs to; empty where that is not known.</param>
/// <param name="Item">The item as it would be then.</param>
/// <param name="State">What it would do.</param>
/// <param name="Problem">Why it cannot be taken; <c>null</c> when it can.</param>
public sealed record CostListLine(int Number, string Task, CostItem Item, CostLineState State, string? Problem);

/// <summary>A cost list as read.</summary>
/// <param name="Lines">Every line.</param>
/// <param name="Problem">What is wrong with the whole.</param>
/// <param name="Edit">The change that takes over what could be read; <c>null</c> where there is nothing to change.</param>
public sealed record CostListReading(IReadOnlyList<CostListLine> Lines, string? Problem, MoneyTogether? Edit)
{
    /// <summary>How many lines cannot be taken.</summary>
    public int Unread => Lines.Count(line => line.Problem is not null);
}

/// <summary>
/// Items of tasks with their payments as a list: cells of a spreadsheet, CSV, XLSX. The first line names the columns, in any order. An
/// item that its row has already by this name is changed; a line that names an item again adds a payment to it.
/// </summary>
public static class CostList
{
    private static readonly (string, string[])[] Headings =
    [
        ("name", ["item", "cost item", "article", "what", "description"]),
        ("no", ["no", "number", "nr", "#"]),
        ("task", ["task", "row", "phase", "for"]),
        ("kind", ["kind", "type"]),
        ("category", ["category", "group", "section"]),
        ("supplier", ["supplier", "from", "vendor", "delivered by"]),
        ("quantity", ["quantity", "how many", "qty"]),
        ("unit", ["unit"]),
        ("price", ["price", "unit price", "amount", "cost"]),
        ("per", ["price for", "per"]),
        ("perUse", ["once per use", "per use"]),
        ("due", ["due", "accrues"]),
        ("note", ["note", "notes", "remark"]),
        ("paid", ["paid", "payment"]),
        ("day", ["paid on", "payment date"]),
        ("receipt", ["receipt", "invoice"]),
    ];

    private static readonly (string Title, int Width)[] Columns =
    [
        ("No", 8),
        ("Task", 40),
        ("Item", 36),
        ("Kind", 12),
        ("Category", 20),
        ("Supplier", 26),
        ("Quantity", 10),
        ("Unit", 10),
        ("Price", 12),
        ("Price for", 10),
        ("Once per use", 12),
        ("Due", 10),
        ("Note", 30),
        ("Paid", 12),
        ("Paid on", 12),
        ("Receipt", 16),
    ];

    private static readonly string[] Amounts = ["quantity", "price", "perUse", "paid"];

    /// <param name="text">Cells between commas, semicolons or tabs.</param>
    /// <param name="task">Id of the row that lines belong to which name none; <c>null</c> for none.</param>
    /// <param name="today">The day that dates without a year are closest to.</param>
    public static CostListReading Read(string text, Plan plan, Ledger ledger, string? task, DateOnly today)
    {
        if (string.IsNullOrWhiteSpace(text))
            return new([], null, null);
        var mark = MarkOf(text);
        var (table, problem) = HeadedTable.Read(text, Headings, "Item");
        if (table is null)
            return new([], problem, null);
        using var _ = table;
        var reader = new Lines(table, plan, ledger, today, mark) { Task = task ?? "" };
        while (table.Next())
        {
            if (reader.Read.Count == MoneyTogether.Most)
                return new([], $"A list has at most {MoneyTogether.Most:N0} lines: import it in parts.", null);
            reader.Add();
        }
        return reader.Read.Count == 0
            ? new([], "The list has its line of columns only: put an item in each line below.", null)
            : new(reader.Read, null, reader.Edit());
    }

    /// <summary>Every item of a plan as a list, a further line for each further payment.</summary>
    public static byte[] Csv(Plan plan, Ledger ledger)
    {
        var to = new MemoryStream();
        using (var csv = new CsvWriter(new StreamWriter(to, new UTF8Encoding(false), leaveOpen: true), CultureInfo.InvariantCulture))
        {
            foreach (var (title, _) in Columns)
                csv.WriteField(title);
            csv.NextRecord();
            foreach (var row in Rows(plan, ledger))
            {
                foreach (var cell in row)
                    csv.WriteField(TextOf(cell));
                csv.NextRecord();
            }
        }
        return to.ToArray();

        static string TextOf(object? cell) =>
            cell switch
            {
                // Three decimals could be read as thousands.
                decimal amount => amount.ToString(decimal.Round(amount, 2) == amount ? "0.00" : "0.0000", CultureInfo.InvariantCulture),
                DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                string text => TableCsv.Escaped(text),
                _ => "",
            };
    }

    /// <inheritdoc cref="Csv"/>
    public static byte[] Xlsx(Plan plan, Ledger ledger)
    {
        var to = new MemoryStream();
        using (var book = new WorkbookWriter(to, plan.Project.Name))
            book.Add("Costs", Columns, Rows(plan, ledger).Select(row => new SheetRow(0, row.Select(Cell))));
        return to.ToArray();

        static (CellStyle, object?) Cell(object? cell) =>
            cell switch
            {
                decimal => (CellStyle.Number, cell),
                DateOnly => (CellStyle.Day, SheetRow.Shown(CellKind.Text, cell)),
                _ => (CellStyle.Plain, cell is "" ? null : cell),
            };
    }

    private static IEnumerable<object?[]> Rows(Plan plan, Ledger ledger)
    {
        for (var at = 0; at < plan.Tasks.Length; at++)
            foreach (var item in ledger.ItemsOf(plan.Tasks[at].Id))
                for (var paid = 0; paid < Math.Max(item.Payments.Length, 1); paid++)
                    yield return Row(plan.Index.NumberOf(at), plan.Tasks[at].Name, item, paid);
    }

    private static object?[] Row(string no, string task, CostItem item, int paid)
    {
        Payment? payment = paid < item.Payments.Length ? item.Payments[paid] : null;
        object?[] first =
        [
            .. new object?[] { KindOf(item.Kind), item.Category, item.Supplier, item.Quantity, item.Unit, item.Price, PerOf(item.Per) },
            .. new object?[] { item.PerUse == 0 ? null : item.PerUse, DueOf(item.Accrues), item.Note },
        ];
        return [no, task, item.Name, .. paid == 0 ? first : new object?[first.Length], payment?.Amount, payment?.Day, payment?.Receipt];
    }

    private static string KindOf(ItemKind kind) => kind.ToString().ToLowerInvariant();

    private static string PerOf(PricePer per) => per == PricePer.Unit ? "each" : per.ToString().ToLowerInvariant();

    private static string DueOf(Accrual due) => due.ToString().ToLowerInvariant();

    /// <summary>What stands before decimals anywhere in the list.</summary>
    private static char? MarkOf(string text)
    {
        var (table, _) = HeadedTable.Read(text, Headings, "Item");
        if (table is null)
            return null;
        using var _1 = table;
        return AmountText.MarkOf(Cells(table));

        static IEnumerable<string> Cells(HeadedTable table)
        {
            while (table.Next())
                foreach (var column in Amounts)
                    yield return table[column];
        }
    }

    /// <summary>The lines that were read, and what goes on from one to the next.</summary>
    private sealed class Lines(HeadedTable table, Plan plan, Ledger ledger, DateOnly today, char? mark)
    {
        private readonly ILookup<string, int> _byName = Enumerable
            .Range(0, plan.Tasks.Length)
            .ToLookup(row => plan.Tasks[row].Name.Trim(), StringComparer.OrdinalIgnoreCase);
        private readonly Dictionary<string, int> _byNumber = Enumerable
            .Range(0, plan.Tasks.Length)
            .ToDictionary(row => plan.Index.NumberOf(row));

        /// <summary>Items that the list has named, by their row and name, in its order.</summary>
        private readonly OrderedDictionary<(string Task, string Name), CostItem> _items = [];

        /// <summary>Row of the line above.</summary>
        public required string Task { get; set; }

        public List<CostListLine> Read { get; } = [];

        public MoneyTogether? Edit()
        {
            var edits = _items.Where(entry => Known(entry.Key.Task, entry.Value.Name) != entry.Value).Select(Set).ToImmutableArray();
            return edits.IsEmpty ? null : new MoneyTogether(edits);

            static MoneyEdit Set(KeyValuePair<(string Task, string Name), CostItem> entry) => new SetItem(entry.Key.Task, entry.Value);
        }

        public void Add()
        {
            if (table["category"] == CostGroups.Labour && table["kind"].Length == 0)
            {
                Read.Add(new(table.Line, Task, new CostItem("", table["name"]), CostLineState.LeftOut, null));
                return;
            }
            var problem = FindRow();
            var key = (Task, table["name"].ToUpperInvariant());
            var isAgain = _items.TryGetValue(key, out var item);
            var known = Known(Task, table["name"]);
            item ??= known ?? new CostItem(Guid.NewGuid().ToString("N")[..16], table["name"]);
            if (!isAgain)
                problem = Fill(ref item, known is null) ?? problem;
            problem ??= Pay(ref item, isAgain) ?? item.WhyRefused();
            if (problem is null)
                _items[key] = item;
            var state =
                known is null ? CostLineState.New
                : known == item ? CostLineState.Same
                : CostLineState.Changed;
            Read.Add(new(table.Line, Task, item, state, problem));
        }

        private CostItem? Known(string task, string name) =>
            ledger.ItemsOf(task).FirstOrDefault(item => string.Equals(item.Name.Trim(), name, StringComparison.OrdinalIgnoreCase));

        /// <summary>The row of a line: by its number, or its name; that of the line above where it has neither.</summary>
        private string? FindRow()
        {
            var (no, name) = (table["no"], table["task"]);
            if (no.Length == 0 && name.Length == 0)
                return Task.Length > 0 ? null : "Say which task or phase it is for, in a column “Task” or “No”.";
            var rows = _byName[name].ToList();
            if (_byNumber.TryGetValue(no, out var numbered) && (name.Length == 0 || rows.Count == 0 || rows.Contains(numbered)))
                rows = name.Length > 0 && rows.Count == 0 ? [] : [numbered];
            Task = rows.Count == 1 ? plan.Tasks[rows[0]].Id : "";
            return rows.Count switch
            {
                1 => null,
                0 when name.Length == 0 => $"No row has the number {Short(no)}.",
                0 => $"No row is called “{Short(name)}”: write its name as it stands in the plan.",
                _ => $"{rows.Count} rows are called “{Short(name)}”: give the number of the one you mean, in a column “No”.",
            };
        }

        /// <summary>Takes over what the line says, and leaves what it does not say.</summary>
        private string? Fill(ref CostItem item, bool isNew)
        {
            string?[] problems = [One("quantity", out var quantity), One("price", out var price), One("perUse", out var perUse)];
            if (problems.FirstOrDefault(problem => problem is not null) is { } wrong)
                return wrong;
            item = item with
            {
                Quantity = quantity ?? item.Quantity,
                Price = price ?? item.Price,
                PerUse = perUse ?? item.PerUse,
                Unit = Or("unit", item.Unit),
                Category = Or("category", item.Category),
                Supplier = Or("supplier", item.Supplier),
                Note = Or("note", item.Note),
            };
            if (!Choice("per", ["each", "hour", "day"], item.Per, out var per))
                return $"“{Short(table["per"])}” is nothing that a price is for: write each, hour or day.";
            var usual =
                !isNew ? item.Kind
                : per != PricePer.Unit ? ItemKind.Equipment
                : item.Quantity == 1 && item.Unit.Length == 0 ? ItemKind.Fixed
                : ItemKind.Material;
            if (!Choice("kind", ["material", "equipment", "fixed"], usual, out var kind))
                return $"“{Short(table["kind"])}” is no kind: write material, equipment or fixed.";
            if (!Choice("due", ["start", "evenly", "finish"], item.Accrues, out var due))
                return $"“{Short(table["due"])}” does not say when it is due: write start, evenly or finish.";
            item = item with { Per = per, Kind = kind, Accrues = due };
            return null;
        }

        private string? Pay(ref CostItem item, bool isAgain)
        {
            var (paid, on) = (table["paid"], table["day"]);
            if (paid.Length == 0)
                return isAgain ? "This item stands in the list twice: a further line needs a payment."
                    : on.Length > 0 ? "It says when it was paid, but not how much: fill in “Paid”."
                    : null;
            if (One("paid", out var amount, signed: true) is { } problem)
                return problem;
            if (!DateText.TryParse(on, today, out var day, out var why) || day.Minute is not null)
                return on.Length == 0 ? "Say when it was paid, in a column “Paid on”." : why;
            var payment = new Payment(day.Date, amount!.Value, table["receipt"] is { Length: > 0 } receipt ? receipt : null);
            if (!item.Payments.Contains(payment))
                item = item with { Payments = item.Payments.Add(payment) };
            return null;
        }

        private string? One(string column, out decimal? amount, bool signed = false)
        {
            var text = table[column];
            amount = text.Length == 0 ? null : AmountText.Read(text, mark);
            return text.Length == 0 ? null
                : mark is null && AmountText.IsUnclear(text)
                    ? $"“{text}” can be read in two ways: write it without a mark for thousands, such as {Bare(text)}, or with cents."
                : amount is null || (!signed && amount < 0) ? $"“{Short(text)}” is no number here: write one such as 12.50."
                : null;
        }

        private static string Bare(string text) =>
            text.Replace(".", "", StringComparison.Ordinal).Replace(",", "", StringComparison.Ordinal);

        private bool Choice<T>(string column, string[] words, T usual, out T chosen)
            where T : struct, Enum
        {
            var text = table[column].ToLowerInvariant();
            var at = Array.IndexOf(words, text);
            chosen = at >= 0 ? Enum.GetValues<T>()[at] : usual;
            return text.Length == 0 || at >= 0;
        }

        private string Or(string column, string otherwise) => table[column] is { Length: > 0 } text ? text : otherwise;

        private static string Short(string text) => text.Length <= 30 ? text : text[..29] + "…";
    }
}
