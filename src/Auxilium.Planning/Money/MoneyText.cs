using System.Globalization;

namespace Auxilium.Planning.Money;

/// <summary>Amounts as people read them, in the organisation's currency: rounded here and nowhere else.</summary>
/// <param name="currency">Three letters, such as <c>EUR</c>.</param>
public sealed class MoneyText(string currency)
{
    private static readonly Dictionary<string, string> Signs = new()
    {
        ["EUR"] = "€",
        ["GBP"] = "£",
        ["USD"] = "$",
    };

    /// <summary>Currencies without a smaller unit.</summary>
    private static readonly HashSet<string> Whole = ["JPY", "KRW", "ISK", "HUF", "CLP", "VND"];

    public string Currency => currency;

    public string Sign => Signs.GetValueOrDefault(currency, currency);

    public int Decimals => Whole.Contains(currency) ? 0 : 2;

    /// <summary>“1,250.00 €”</summary>
    public string Of(decimal amount)
    {
        var rounded = Math.Round(amount, Decimals, MidpointRounding.AwayFromZero);
        var digits = Math.Abs(rounded).ToString(Decimals == 0 ? "N0" : "N2", CultureInfo.InvariantCulture);
        return $"{(rounded < 0 ? "−" : "")}{digits} {Sign}";
    }

    /// <summary>“+50.00 €”</summary>
    public string Change(decimal amount) => amount > 0 ? $"+{Of(amount)}" : Of(amount);
}
