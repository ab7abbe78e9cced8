using System.Collections.Immutable;

namespace Auxilium.Planning.Money;

/// <summary>What an item is. Kept by name.</summary>
public enum ItemKind
{
    /// <summary>A quantity of something, at a price for each.</summary>
    Material,

    /// <summary>Something that is rented, for as long as its task takes or by the piece.</summary>
    Equipment,

    /// <summary>An amount.</summary>
    Fixed,
}

/// <summary>What the price of an item is for. Kept by name.</summary>
public enum PricePer
{
    Unit,

    /// <summary>For each and an hour of the task's length.</summary>
    Hour,

    /// <summary>For each and a day of the task's length.</summary>
    Day,
}

/// <summary>When something is to be paid for. Kept by name.</summary>
public enum Accrual
{
    Start,
    Evenly,
    Finish,
}

/// <summary>Something other than labour that a task or phase costs (rule M3).</summary>
/// <param name="Id">Its id among the items of its project.</param>
public sealed record CostItem(string Id, string Name)
{
    public const int LongestText = 200;
    public const int LongestNote = 2_000;

    /// <summary>A row has at most so many.</summary>
    public const int Most = 500;

    /// <summary>An item is paid in at most so many parts.</summary>
    public const int MostPayments = 500;

    public ItemKind Kind { get; init; } = ItemKind.Fixed;

    public decimal Quantity { get; init; } = 1;

    /// <summary>What it is counted in: sheet, litre, night.</summary>
    public string Unit { get; init; } = "";

    /// <summary>For each; <c>null</c> while nobody knows, which counts as nothing.</summary>
    public decimal? Price { get; init; }

    public PricePer Per { get; init; }

    /// <summary>Once, whatever the quantity.</summary>
    public decimal PerUse { get; init; }

    public Accrual Accrues { get; init; } = Accrual.Start;

    public string Category { get; init; } = "";

    /// <summary>Who delivers it: id of a person of the directory, or a name.</summary>
    public string Supplier { get; init; } = "";

    public string Note { get; init; } = "";

    public ImmutableArray<Payment> Payments { get; init; } = [];

    /// <summary>What it is to cost.</summary>
    /// <param name="minutes">The length of its task, in minutes of work.</param>
    /// <param name="minutesPerDay">What a day of work comes to.</param>
    public decimal Planned(int minutes, int minutesPerDay)
    {
        if (Price is not { } price)
            return PerUse;
        var whole = Quantity * price;
        return (
            Per switch
            {
                PricePer.Hour => whole.Times((minutes, 60)),
                PricePer.Day => whole.Times((minutes, minutesPerDay)),
                _ => whole,
            }
        ).Plus(PerUse);
    }

    /// <summary>What was paid of it up to and with a day.</summary>
    public decimal Paid(DateOnly day) => Payments.Sum(payment => payment.Day <= day ? payment.Amount : 0);

    /// <summary>The sentence that says what is wrong with it; <c>null</c> when nothing is.</summary>
    public string? WhyRefused() =>
        string.IsNullOrWhiteSpace(Name) ? "Say what it is: an item needs a name."
        : new[] { Name, Unit, Category, Supplier }.Any(text => text.Length > LongestText || text.Any(char.IsControl))
            ? $"A text here is one line of at most {LongestText} characters."
        : Note.Length > LongestNote ? $"The note is longer than {LongestNote:N0} characters: shorten it."
        : Quantity is < 0 or > Amounts.Most || Quantity.DecimalsUsed() > Amounts.Decimals
            ? $"The quantity is from 0 to {Amounts.Most:N0}, with at most {Amounts.Decimals} decimals."
        : Kind != ItemKind.Equipment && Per != PricePer.Unit
            ? "Only what is rented costs by the hour or day: say that it is equipment, or give a price for each."
        : Payments.Length > MostPayments ? $"An item is paid in at most {MostPayments} parts: add some together."
        : (Price is { } price ? Amounts.WhyRefused(price) : null)
            ?? Amounts.WhyRefused(PerUse)
            ?? Payments.Select(payment => payment.WhyRefused()).FirstOrDefault(why => why is not null);

    public bool Equals(CostItem? other) =>
        other is not null
        && (Id, Name, Kind, Quantity, Unit, Price, Per)
            == (other.Id, other.Name, other.Kind, other.Quantity, other.Unit, other.Price, other.Per)
        && (PerUse, Accrues, Category, Supplier, Note) == (other.PerUse, other.Accrues, other.Category, other.Supplier, other.Note)
        && Payments.SequenceEqual(other.Payments);

    public override int GetHashCode() => HashCode.Combine(Id, Name, Quantity, Price);
}

/// <summary>Money that was paid, or is known to be paid, for an item.</summary>
/// <param name="Amount">Negative for money that came back.</param>
/// <param name="Receipt">What proves it: the number or name of a receipt, or the name of its file with or without the ending.</param>
public readonly record struct Payment(DateOnly Day, decimal Amount, string? Receipt = null)
{
    public string? WhyRefused() =>
        Receipt is { Length: > CostItem.LongestText } ? $"A receipt is named in at most {CostItem.LongestText} characters."
        : Amount == 0 ? "A payment of nothing pays nothing: give its amount."
        : Amounts.WhyRefused(Math.Abs(Amount));
}
